"""An athlete's season over HTTP: out of stored figures, for those who may see the matches."""

from __future__ import annotations

import datetime
from unittest import mock

from django.contrib.auth.models import User

from clubs.actions import join
from clubs.models import Role
from matches.models import Match, Summary
from matches.summaries import freshen
from reviews.models import Remark, Report
from reviews.tests.base import ReviewCase
from roster.models import Athlete
from seasons.pricing import price


class SeasonCase(ReviewCase):
    def setUp(self):
        super().setUp()
        for day in (3, 10):
            copy = self.set_up(log=self.call("get", f"matches/{self.match_id}/log").json(), date=f"2026-10-{day:02d}")
            self.assertEqual(copy.status_code, 201, copy.content)
        Match.objects.filter(pk=self.match_id).update(date=datetime.date(2026, 9, 1))

    def season(self, query="", athlete=None):
        return self.call("get", f"athletes/{(athlete or self.athlete).pk}/season{query}")


class ForCoaches(SeasonCase):
    def test_every_figure_comes_with_its_moments_and_their_matches(self):
        answer = self.season().json()
        self.assertEqual([one["date"] for one in answer["played"]], ["2026-10-10", "2026-10-03", "2026-09-01"])
        season = answer["season"]
        self.assertEqual((season["matches"], season["unscored"], season["split"]), (3, 0, "2026-10-03"))
        passes = next(one for one in season["moves"] if (one["move"], one["by"]) == ("guard_pass", "b"))
        self.assertEqual((passes["whole"]["share"]["done"], len(passes["whole"]["done"])), (3, 3))
        ids = {one["id"] for one in answer["played"]}
        for row in season["kinds"]:
            self.assertEqual(row["n"], len(row["moments"]))
            self.assertLessEqual({moment["match"] for moment in row["moments"]}, ids)
        sweep = next(one for one in season["moves"] if (one["move"], one["by"]) == ("sweep", "a"))
        self.assertLess(sweep["whole"]["towards"]["low"], sweep["whole"]["towards"]["high"])

    def test_the_day_that_divides_it_can_be_said(self):
        found = self.season("?split=2026-10-10").json()["season"]
        self.assertEqual(found["split"], "2026-10-10")
        row = found["kinds"][0]["change"]
        self.assertEqual(round(row["before"]["minutes"] / row["since"]["minutes"]), 2)
        wrong = self.season("?split=yesterday").json()
        self.assertEqual(wrong["faults"][0]["path"], "split")

    def test_no_log_is_scored_again_for_it(self):
        self.season()
        Summary.objects.filter(match=self.match_id).update(figures={})
        self.assertEqual(self.season().json()["season"]["unscored"], 1)  # what is stored is what is shown
        Match.objects.filter(pk=self.match_id).update(revision=99)
        self.assertEqual(self.season().json()["season"]["unscored"], 0)  # and it is made again after a change

    def test_second_scores_and_deleted_matches_do_not_count(self):
        self.at("post", "seconds", {"user": self.coach.pk})
        Match.objects.filter(date="2026-10-03").update(deleted=datetime.datetime.now(datetime.UTC))
        self.assertEqual(self.season().json()["season"]["matches"], 2)

    def test_of_a_child_only_named_coaches_see_it(self):
        Athlete.objects.filter(pk=self.athlete.pk).update(birth_year=datetime.date.today().year - 10)
        self.athlete.coaches.clear()
        self.assertEqual(self.season().status_code, 404)
        self.athlete.coaches.add(self.coach)
        self.assertEqual(self.season().status_code, 200)

    def test_the_number_of_statements_does_not_grow_with_the_matches(self):
        self.season()
        freshen(Match.objects.all())
        with self.assertNumQueries(7):
            self.season()


class OwnSeason(SeasonCase):
    def setUp(self):
        super().setUp()
        self.me = User.objects.create_user("ada")
        join(self.club, self.me, Role.ATHLETE)
        Athlete.objects.filter(pk=self.athlete.pk).update(user=self.me)
        self.client.force_login(self.me)

    def own(self):
        return self.call("get", f"own/athletes/{self.athlete.pk}/season")

    def test_it_has_no_footage_and_the_errors_of_what_was_sent(self):
        found = self.own().json()
        self.assertEqual((found["season"]["matches"], found["season"]["kinds"]), (3, []))
        self.assertEqual([one["parts"] for one in found["played"]], [[], [], []])
        Report.objects.create(match=self.scored, sent=self.scored.created)
        self.assertEqual(self.own().json()["season"]["kinds"], [])  # the coach has accepted none of them
        self.client.force_login(self.coach)
        self.accept()
        self.client.force_login(self.me)
        kinds = self.own().json()["season"]["kinds"]
        self.assertGreater(len(kinds), 0)
        self.assertEqual({moment["match"] for row in kinds for moment in row["moments"]}, {self.match_id})
        rate = kinds[0]["change"]["before"]
        self.assertEqual(rate["minutes"], 2)  # of the one match that was sent: in the others nobody looked for them

    def test_it_is_of_nobody_else(self):
        other = Athlete.objects.create(club=self.club, name="Cilla Dorn", birth_year=2001, belt="blue")
        self.assertEqual(self.call("get", f"own/athletes/{other.pk}/season").status_code, 404)
        self.assertEqual(self.season().status_code, 404)  # that one is for coaches


class WhatErrorsCost(SeasonCase):
    def kinds(self):
        return {row["id"]: row for row in self.season().json()["season"]["kinds"]}

    def test_the_worker_finds_out_what_each_cost_of_the_chance(self):
        before = self.kinds()
        self.assertEqual({row["cost"]["unknown"] for row in before.values()}, {row["n"] for row in before.values()})
        self.assertEqual(price(), 3)
        self.assertEqual(price(), 0)
        after = self.season().json()["season"]["kinds"]
        self.assertEqual({row["cost"]["unknown"] for row in after}, {0})
        costs = [row["cost"]["lost"] for row in after]
        self.assertEqual(costs, sorted(costs, reverse=True))
        self.assertGreater(costs[0], 0)

    def test_they_are_the_review_s(self):
        freshen(Match.objects.all())
        price()
        shown = {error["key"]: error for error in self.at("get", "review").json()["found"]}
        stored = Summary.objects.get(match=self.match_id).costs
        for key, error in shown.items():
            if error["swing"]:
                self.assertAlmostEqual(stored[key][0], error["swing"]["lost"], delta=0.001)

    def test_what_a_coach_dismissed_counts_no_more_and_what_was_added_does(self):
        before = self.kinds()
        key = next(error["key"] for error in self.at("get", "review").json()["found"])
        kind = key.split("-")[0]
        Remark.objects.create(match=self.scored, key=key, standing="dismissed")
        Remark.objects.create(match=self.scored, key="own-1", own=True, title="Asleep", since_ms=10_000, t_ms=12_000)
        after = self.kinds()
        self.assertEqual(after.get(kind, {"n": 0})["n"], before[kind]["n"] - 1)
        self.assertEqual((after["own"]["n"], after["own"]["name"]), (1, "Seen by the coach"))

    def test_causes_that_a_coach_chose_are_counted(self):
        error = self.at("get", "review").json()["found"][0]
        Remark.objects.create(match=self.scored, key=error["key"], standing="accepted", causes=["base", "grips"])
        causes = {row["id"]: row["n"] for row in self.season().json()["season"]["causes"]}
        self.assertEqual((causes["base"], causes["grips"]), (1, 1))

    def test_a_kind_that_the_club_turned_off_counts_nowhere(self):
        kind = next(iter(self.kinds()))
        self.assertEqual(self.call("put", f"kinds/{kind}", {"off": True}).status_code, 200)
        self.assertNotIn(kind, self.kinds())

    def test_a_match_of_an_older_core_waits(self):
        self.season()
        with mock.patch("seasons.queries.freshen"):
            Summary.objects.filter(match=self.match_id).update(core="older", figures={"length": 1})
            answer = self.season().json()
        self.assertEqual((answer["waiting"], answer["season"]["unscored"]), (1, 1))
