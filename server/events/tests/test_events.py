"""Days of fights over HTTP."""

from __future__ import annotations

import datetime

from django.utils import timezone

from events.models import EventDay, Fight
from matches.models import Match
from reviews.tests.base import ReviewCase
from roster.models import Athlete

DAY = {"name": "Thaw Cup", "date": "2026-12-05", "ruleset": "full-points"}


class DayCase(ReviewCase):
    def setUp(self):
        super().setUp()
        Match.objects.filter(pk=self.match_id).update(date=datetime.date(2026, 9, 1))
        self.day = self.call("post", "event-days", DAY).json()["id"]
        self.path = f"event-days/{self.day}"

    def add(self, **values):
        return self.call("post", f"{self.path}/fights", {"athlete": self.athlete.pk, "opponent": "Una Vale", **values})

    def shown(self):
        return self.call("get", self.path).json()


class Announced(DayCase):
    def test_a_day_is_added_changed_and_removed(self):
        self.assertEqual([one["name"] for one in self.call("get", "event-days").json()], ["Thaw Cup"])
        self.assertEqual(self.call("put", self.path, {**DAY, "name": "Frost Cup"}).json()["name"], "Frost Cup")
        self.assertEqual(
            self.call("post", "event-days", {**DAY, "ruleset": "nonsense"}).json()["faults"][0]["path"], "ruleset"
        )
        self.assertEqual(self.call("post", "event-days", {**DAY, "date": "soon"}).json()["faults"][0]["path"], "date")
        self.assertEqual(self.call("delete", self.path).status_code, 204)

    def test_fights_come_in_order_of_time_with_those_without_one_last(self):
        self.add(opponent="third")
        self.add(opponent="second", time="10:05")
        self.add(opponent="first", time="9:40", mat="3")
        self.assertEqual([one["opponent"] for one in self.shown()["fights"]], ["first", "second", "third"])
        self.assertEqual(self.shown()["fights"][0]["ruleset_title"], "Full points")

    def test_a_table_is_taken_as_a_whole_or_not_at_all(self):
        name = self.athlete.name
        wrong = self.call("post", f"{self.path}/table", {"table": f"athlete,time\n{name},9:00\nNobody,9:00\n"})
        self.assertIn("is not an athlete of yours", wrong.json()["faults"][0]["message"])
        self.assertEqual(Fight.objects.count(), 0)
        taken = self.call("post", f"{self.path}/table", {"table": f"athlete,time,opponent\n{name.lower()},9:00,Bo\n"})
        self.assertEqual((taken.status_code, len(taken.json()["fights"])), (201, 1))

    def test_a_fight_is_changed_and_removed(self):
        fight = self.add().json()["fights"][0]["id"]
        at = f"{self.path}/fights/{fight}"
        changed = self.call(
            "put", at, {"athlete": self.athlete.pk, "opponent": "Bo", "ruleset": "late-points", "attire": "nogi"}
        )
        self.assertEqual(changed.json()["fights"][0]["ruleset"], "late-points")
        self.assertEqual(self.call("delete", at).json()["fights"], [])

    def test_an_athlete_of_another_club_is_not_there(self):
        self.assertEqual(self.add(athlete=10_000).json()["faults"][0]["path"], "athlete")

    def test_children_of_others_are_not_shown(self):
        child = Athlete.objects.create(
            club=self.club, name="Pip", birth_year=timezone.localdate().year - 8, belt="grey"
        )
        Fight.objects.create(day=EventDay.objects.get(), athlete=child)
        self.assertEqual(self.shown()["fights"], [])


class OnTheDay(DayCase):
    def test_the_match_is_set_up_once_and_what_comes_in_is_shown(self):
        fight = self.add(mat="3", round="final").json()["fights"][0]["id"]
        at = f"{self.path}/fights/{fight}"
        match = self.call("post", at).json()["match"]
        self.assertEqual(self.call("post", at).json()["match"], match)
        made = Match.objects.get(pk=match)
        self.assertEqual((made.event, str(made.date), made.mat, made.round), ("Thaw Cup", "2026-12-05", "3", "final"))
        self.assertEqual(made.age, 2026 - self.athlete.birth_year)
        self.assertIsNone(self.shown()["fights"][0]["state"])
        self.put(made, "one", t=0, kind="clock", action="start")
        self.put(made, "two", t=5, kind="position", position="mount", top="a")
        self.put(made, "three", t=20, kind="end", how="time")
        self.assertEqual(self.shown()["fights"][0]["state"]["score"]["a"]["points"], 6)

    def test_who_the_opponent_is_has_to_be_known(self):
        fight = self.add(opponent="").json()["fights"][0]["id"]
        self.assertEqual(self.call("post", f"{self.path}/fights/{fight}").json()["faults"][0]["path"], "opponent")

    def test_the_last_match_and_the_opponent_met_before(self):
        opponent = Match.objects.get(pk=self.match_id).opponent
        fight = self.add(opponent=opponent.upper()).json()["fights"][0]
        self.assertEqual((fight["last"], len(fight["things"])), (self.match_id, 3))
        self.assertEqual(fight["met"]["matches"][0]["match"], self.match_id)
        self.assertTrue(fight["met"]["theirs"])
        self.assertEqual([one["id"] for one in self.shown()["played"]], [self.match_id])
        self.assertIsNone(self.add(opponent="New Face").json()["fights"][1]["met"])

    def test_the_number_of_statements_does_not_grow_with_the_fights(self):
        for number in range(2):
            self.add(opponent=f"Nobody {number}")
        self.shown()
        with self.assertNumQueries(6):
            self.shown()
        for number in range(5):
            self.add(opponent=f"Nobody {number}")
        with self.assertNumQueries(6):
            self.shown()
