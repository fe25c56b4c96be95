"""Drills and plans over HTTP: for coaches, for the athlete, and by link."""

from __future__ import annotations

import datetime

from django.contrib.auth.models import User
from django.utils import timezone

from clubs.actions import join
from clubs.models import Role
from reviews.tests.base import ReviewCase
from roster.models import Athlete, give_consent
from training.models import Drill, Plan, Planned

TODAY = datetime.date(2026, 11, 2)
PLAN = {"event": "Thaw Cup", "start": "2026-11-02", "until": "2026-12-14", "sessions": 3, "minutes": 30}
DRILL = {
    "name": "Frame and recover", "about": "Ten times", "minutes": 8, "kinds": ["taken"], "causes": ["frames"],
    "positions": ["side"],
}  # fmt: skip


class TrainingCase(ReviewCase):
    def setUp(self):
        super().setUp()
        self.call("post", "drills/examples")
        self.plans = f"athletes/{self.athlete.pk}/plans"

    def make(self, **values):
        return self.call("post", self.plans, {**PLAN, **values})


class Library(TrainingCase):
    def test_the_examples_are_there_once(self):
        self.assertEqual(len(self.call("get", "drills").json()), 11)
        self.assertEqual(len(self.call("post", "drills/examples").json()), 11)

    def test_a_drill_is_added_changed_and_taken_out(self):
        made = self.call("post", "drills", DRILL)
        self.assertEqual(made.status_code, 201, made.content)
        at = f"drills/{made.json()['id']}"
        self.assertEqual(self.call("put", at, {**DRILL, "minutes": 12}).json()["minutes"], 12)
        self.assertEqual(self.call("delete", at).status_code, 204)
        self.assertNotIn("Frame and recover", [one["name"] for one in self.call("get", "drills").json()])
        self.assertTrue(Drill.objects.get(pk=made.json()["id"]).archived)

    def test_each_wrong_field_is_named(self):
        wrong = self.call(
            "post", "drills", {**DRILL, "name": "", "minutes": 0, "kinds": ["nonsense"], "positions": ["sky"]}
        )
        self.assertEqual(
            {fault["path"].split("[")[0].split(".")[0] for fault in wrong.json()["faults"]},
            {"name", "minutes", "kinds", "positions"},
        )

    def test_of_another_club_there_is_none(self):
        made = self.call("post", "drills", DRILL).json()
        self.client.force_login(User.objects.create_user("stranger"))
        self.assertIn(self.call("put", f"drills/{made['id']}", DRILL).status_code, (403, 404))


class Planning(TrainingCase):
    def test_a_plan_is_proposed_from_the_errors(self):
        wanted = self.call("get", self.plans).json()["wanted"]
        self.assertRegex(wanted[0]["because"], r"\d+ errors? it is for: ")
        plan = self.make().json()["plans"][0]
        drills = {one["drill"] for day in plan["days"] for one in day["planned"]}
        self.assertLessEqual(drills, {one["drill"] for one in wanted[:6]})
        for day in plan["days"]:
            self.assertLessEqual(sum(one["minutes"] for one in day["planned"]), 30)
            self.assertTrue("2026-11-02" <= day["day"] < "2026-12-14")
        self.assertEqual({one["drill"] for one in plan["effects"]}, drills)

    def test_days_in_the_wrong_order_are_named(self):
        for until in ("2026-11-01", "2026-11-02", "2028-01-01"):
            self.assertEqual(self.make(until=until).json()["faults"][0]["path"], "until")
        self.assertEqual(self.make(minutes=2).json()["faults"][0]["path"], "minutes")
        Drill.objects.update(archived=True)
        self.assertEqual(self.make().json()["code"], "no_drills")

    def test_a_drill_is_put_moved_ticked_and_taken_out(self):
        plan = self.make().json()["plans"][0]
        at = f"plans/{plan['id']}/planned"
        drill = self.call("get", "drills").json()[0]["id"]
        added = self.call("post", at, {"drill": drill, "day": "2026-11-05"})
        self.assertEqual(added.status_code, 201)
        one = Planned.objects.get(day=datetime.date(2026, 11, 5), drill=drill)
        self.assertEqual(self.call("put", f"{at}/{one.pk}", {"day": "2026-11-06", "done": True}).json()["done"], 1)
        one.refresh_from_db()
        self.assertEqual(one.day, datetime.date(2026, 11, 6))
        self.assertEqual(self.call("put", f"{at}/{one.pk}", {"day": "2026-12-14"}).json()["faults"][0]["path"], "day")
        self.assertEqual(self.call("delete", f"{at}/{one.pk}").json()["of"], plan["of"])
        self.assertTrue(self.call("get", f"plans/{plan['id']}/pdf").content.startswith(b"%PDF"))
        self.assertEqual(self.call("delete", f"plans/{plan['id']}").status_code, 204)

    def test_what_changed_since_is_said_of_each_drill(self):
        self.make(start="2026-01-01")
        effect = self.call("get", self.plans).json()["plans"][0]["effects"][0]
        self.assertIn("before 1 January 2026", effect["said"])


class OutsideTheClub(TrainingCase):
    def setUp(self):
        super().setUp()
        self.plan = self.make().json()["plans"][0]
        self.one = self.plan["days"][0]["planned"][0]["id"]

    def test_the_athlete_sees_it_and_ticks(self):
        me = User.objects.create_user("ada")
        join(self.club, me, Role.ATHLETE)
        Athlete.objects.filter(pk=self.athlete.pk).update(user=me)
        self.client.force_login(me)
        self.assertEqual([one["id"] for one in self.call("get", "own/plans").json()], [self.plan["id"]])
        at = f"own/plans/{self.plan['id']}/planned/{self.one}"
        self.assertEqual(self.call("put", at, {"done": True}).json()["done"], 1)
        self.assertEqual(self.call("put", at, {"done": False}).json()["done"], 0)
        self.assertIn(self.call("get", self.plans).status_code, (403, 404))
        self.client.force_login(User.objects.create_user("other-athlete"))
        self.assertEqual(self.call("put", at, {"done": True}).status_code, 404)

    def link(self, days=14):
        return self.call("post", f"plans/{self.plan['id']}/link", {"days": days})

    def test_whoever_has_the_link_sees_the_plan_alone_and_ticks(self):
        token = self.link().json()["token"]
        self.client.logout()
        shown = self.call("get", f"shared-plans/{token}")
        self.assertEqual((shown.json()["of"], shown["Cache-Control"]), (self.plan["of"], "no-store, private"))
        self.assertNotIn("effects", shown.json())
        ticked = self.call("put", f"shared-plans/{token}/planned/{self.one}", {"done": True})
        self.assertEqual(ticked.json()["done"], 1)
        self.assertEqual(self.call("get", "shared-plans/nonsense").status_code, 404)

    def test_a_link_ends(self):
        token = self.link().json()["token"]
        newer = self.link().json()["token"]
        self.assertEqual(self.call("get", f"shared-plans/{token}").status_code, 404)
        self.assertEqual(self.call("get", f"shared-plans/{newer}").status_code, 200)
        Plan.objects.update(link_ends=timezone.now())
        self.assertEqual(self.call("get", f"shared-plans/{newer}").status_code, 404)
        last = self.link().json()["token"]
        self.assertIsNone(self.call("delete", f"plans/{self.plan['id']}/link").json()["link_ends"])
        self.assertEqual(self.call("get", f"shared-plans/{last}").status_code, 404)

    def test_of_a_child_a_guardian_has_to_agree(self):
        Athlete.objects.filter(pk=self.athlete.pk).update(birth_year=datetime.date.today().year - 10)
        self.athlete.coaches.add(self.coach)
        self.assertEqual(self.link().json()["code"], "no_consent")
        guardian = User.objects.create_user("sol")
        give_consent(self.athlete, guardian)
        self.assertEqual(self.link(days=60).json()["faults"][0]["path"], "days")
        token = self.link().json()["token"]
        self.assertEqual(self.call("get", f"shared-plans/{token}").json()["athlete"], self.athlete.name.split()[0])
        self.athlete.consents.update(withdrawn=timezone.now())
        self.assertEqual(self.call("get", f"shared-plans/{token}").status_code, 404)
