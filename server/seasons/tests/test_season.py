"""An athlete's season over HTTP: out of stored figures, for those who may see the matches."""

from __future__ import annotations

import datetime

from django.contrib.auth.models import User
from django.core.cache import cache

from clubs.actions import join
from clubs.models import Role
from matches.models import Match, Summary
from matches.summaries import freshen
from reviews.models import Report
from reviews.tests.base import ReviewCase
from roster.models import Athlete


class SeasonCase(ReviewCase):
    def setUp(self):
        super().setUp()
        cache.clear()
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
        with self.assertNumQueries(6):
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
        kinds = self.own().json()["season"]["kinds"]
        self.assertGreater(len(kinds), 0)
        self.assertEqual({moment["match"] for row in kinds for moment in row["moments"]}, {self.match_id})
        rate = kinds[0]["change"]["before"]
        self.assertEqual(rate["minutes"], 2)  # of the one match that was sent: in the others nobody looked for them

    def test_it_is_of_nobody_else(self):
        other = Athlete.objects.create(club=self.club, name="Cilla Dorn", birth_year=2001, belt="blue")
        self.assertEqual(self.call("get", f"own/athletes/{other.pk}/season").status_code, 404)
        self.assertEqual(self.season().status_code, 404)  # that one is for coaches
