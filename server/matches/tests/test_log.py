"""Matches over HTTP: what is stored, in which order, and what it is worth."""

from __future__ import annotations

import json
import random
import subprocess
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from clubs.actions import join
from clubs.models import Role
from footage.models import Clip
from matches.actions import locked, record, take_back
from matches.logs import log_of
from matches.models import Match, Observation
from matches.parts import parts_of
from matches.standing import _kept, standing
from rulebook.models import HouseRules

from .base import LOG, CoachCase, pieced, verdict_on


class SetUp(CoachCase):
    def test_from_a_form(self):
        form = {"ruleset": "late-points", "duration_ms": 300_000, "age": 24, "belt": "blue", "attire": "gi"}
        self.assertEqual(self.set_up(**form).status_code, 201)
        faulty = self.set_up(**form | {"belt": "pink", "age": None})
        self.assertEqual(faulty.status_code, 400)
        self.assertEqual({fault["path"] for fault in faulty.json()["faults"]}, {"belt", "age"})

    def test_from_a_log(self):
        match = self.match()
        exported = self.call("get", f"matches/{match.pk}/log").json()
        bare = [{key: value for key, value in seen.items() if key != "id"} for seen in exported["observations"]]
        self.assertEqual(bare, LOG["observations"])
        self.assertEqual(exported["match"]["athlete"], match.athlete.name)
        self.assertEqual(self.set_up(log=exported).status_code, 201)

    def test_a_faulty_log_names_every_fault_and_keeps_nothing(self):
        broken = LOG | {"duration": -1, "observations": [{"t": 0, "kind": "nap"}, {"t": 1, "kind": "pull"}]}
        answer = self.set_up(log=broken)
        paths = [fault["path"] for fault in answer.json()["faults"]]
        self.assertEqual(paths, ["duration", "observations[0].kind", "observations[1].by"])
        self.assertEqual(Match.objects.count(), 0)

    def test_a_ruleset_that_is_none(self):
        form = {"ruleset": "no-such", "duration_ms": 300_000, "age": 24, "belt": "blue", "attire": "gi"}
        self.assertEqual([fault["path"] for fault in self.set_up(**form).json()["faults"]], ["ruleset"])

    def test_changing_a_match_is_checked_like_a_new_one(self):
        match = self.match()
        clip = Clip.objects.create(
            club=self.club, uploader=self.coach, name="x.webm", size=1, state="ready", duration_ms=400_000
        )
        changed = self.call("patch", f"matches/{match.pk}", {"opponent": "Enno Falk", "clip": str(clip.pk)}).json()
        self.assertEqual((changed["opponent"], changed["clip"]), ("Enno Falk", str(clip.pk)))
        for body, path in (
            ({"belt": "pink"}, "belt"),
            ({"ruleset": {"extends": "x"}}, "ruleset.extends"),
            ({"age": 400}, "division.age"),
        ):
            answer = self.call("patch", f"matches/{match.pk}", body)
            self.assertEqual((answer.status_code, [fault["path"] for fault in answer.json()["faults"]]), (400, [path]))
        self.assertEqual(Match.objects.get(pk=match.pk).belt, "blue")

    def test_the_list_says_where_the_scoring_stands(self):
        self.match()
        empty = {
            "ruleset": "full-points",
            "duration_ms": 300_000,
            "age": 24,
            "belt": "blue",
            "attire": "gi",
            "date": "2026-05-01",
        }
        self.set_up(**empty)
        rows = self.call("get", "matches").json()["results"]
        self.assertEqual(
            [(row["observed"], row["score"] is None) for row in sorted(rows, key=lambda row: row["observed"])],
            [(0, True), (3, False)],
        )

    def test_the_newest_match_comes_first(self):
        for date in ("2026-05-01", "2026-07-01", "2026-06-01"):
            self.set_up(log=LOG, date=date)
        self.assertEqual(
            [row["date"] for row in self.call("get", "matches").json()["results"]],
            ["2026-07-01", "2026-06-01", "2026-05-01"],
        )

    def test_a_ruleset_of_the_coachs_own_is_said_to_be_one(self):
        answer = self.set_up(log=LOG | {"ruleset": {"extends": "late-points", "pull_cost": 2}})
        self.assertEqual(answer.json()["ruleset_title"], "Late points, changed")


class Recording(CoachCase):
    def test_the_verdict_comes_with_the_observation(self):
        match = self.match()
        answer = self.put(match, "mount", t=30, kind="position", position="mount", top="a").json()
        self.assertEqual(answer["verdict"]["score"]["a"]["points"], 6)
        self.assertIsNone(answer["base"])
        whole = pieced({}, answer)
        self.assertEqual(whole["verdict"], verdict_on(LOG | {"observations": whole["observations"]}))

    def test_sending_twice_stores_once(self):
        match = self.match()
        for _ in range(3):
            self.put(match, "one", t=30, kind="foul", by="a", foul="stalling")
        self.assertEqual(match.observations.filter(key="one").count(), 1)

    def test_taking_back_and_restoring_keeps_the_place_among_equal_times(self):
        match = self.match()
        for key in ("first", "second"):
            self.put(match, key, t=30, kind="exchange", title=key)
        for _ in range(2):
            self.assertEqual(self.call("delete", f"matches/{match.pk}/observations/first").status_code, 200)
        self.put(match, "first", t=30, kind="exchange", title="first")
        found = self.call("get", f"matches/{match.pk}").json()["observations"]
        self.assertEqual([seen["id"] for seen in found[-2:]], ["first", "second"])

    def test_a_faulty_observation_is_refused_by_its_field(self):
        match = self.match()
        answer = self.put(match, "odd", t=30, kind="position", position="mount")
        self.assertEqual((answer.status_code, answer.json()["faults"][0]["path"]), (400, "top"))
        self.assertFalse(Observation.objects.filter(key="odd").exists())

    def test_a_time_after_the_end_of_the_clip_is_refused(self):
        match = self.match()
        match.clip = Clip.objects.create(
            club=self.club, uploader=self.coach, name="x.webm", size=1, state="ready", duration_ms=60_000
        )
        match.save()
        answer = self.put(match, "late", t=62, kind="position", position="mount", top="a")
        self.assertIn("after the end of the clip (1:00)", answer.json()["faults"][0]["message"])

    def test_the_server_and_the_command_line_agree(self):
        match = self.match()
        log = self.call("get", f"matches/{match.pk}/log").content
        got = subprocess.run(
            [settings.ROOT / "bin" / "jurata", "score", "-"], input=log, capture_output=True, check=True
        )
        verdict = self.call("get", f"matches/{match.pk}").json()["verdict"]
        range_of = self.call("get", f"matches/{match.pk}/attention").json()["range"]
        self.assertEqual(json.loads(got.stdout), {**verdict, "range": range_of})


class Parts(CoachCase):
    """Several clips in a row, with gaps."""

    def clip(self, name, seconds, club=None):
        return Clip.objects.create(
            club=club or self.club, uploader=self.coach, name=name, size=1, state="ready", duration_ms=seconds * 1000
        )

    def lay_out(self, match, *parts):
        body = {"parts": [{"clip": str(clip.pk), "start": start} for clip, start in parts]}
        return self.call("put", f"matches/{match.pk}/parts", body)

    def test_clips_are_laid_out_in_order_of_time(self):
        match = self.match()
        first, second = self.clip("one.mp4", 60), self.clip("two.mp4", 40)
        desk = self.lay_out(match, (second, 90), (first, 12.5)).json()
        shown = [(part["clip"]["name"], part["start"]) for part in desk["parts"]]
        self.assertEqual(shown, [("one.mp4", 12.5), ("two.mp4", 90)])
        self.assertEqual(self.call("get", f"matches/{match.pk}/review").json()["parts"], desk["parts"])
        self.put(match, "late", t=130.5, kind="exchange")
        late = self.put(match, "later", t=132, kind="exchange")
        self.assertIn("after the end of the clip (2:10)", late.json()["faults"][0]["message"])
        join(self.club, self.other, Role.SCORER)
        seconds = self.call("post", f"matches/{match.pk}/seconds", {"user": self.other.pk}).json()["match"]
        self.client.force_login(self.other)
        blind = self.call("get", f"matches/{seconds}").json()
        self.assertEqual(blind["parts"], desk["parts"])
        self.assertEqual(self.call("get", f"clips/{second.pk}").status_code, 200)

    def test_clips_that_overlap_or_are_somebody_elses(self):
        match = self.match()
        first, second = self.clip("one.mp4", 60), self.clip("two.mp4", 40)
        faulty = self.lay_out(match, (first, 0), (second, 59)).json()["faults"]
        self.assertEqual([fault["path"] for fault in faulty], ["parts[1].start"])
        self.assertIn("two.mp4 begins at 0:59, before one.mp4 ends at 1:00", faulty[0]["message"])
        self.lay_out(match, (first, 0), (second, 60))
        self.call("patch", f"matches/{match.pk}", {"clip": str(second.pk)})
        self.assertEqual([(part.clip, part.start) for part in parts_of(Match.objects.get(pk=match.pk))], [(second, 0)])
        theirs = self.clip("x.mp4", 9, self.other.memberships.get().club)
        self.assertEqual(self.lay_out(match, (theirs, 0)).status_code, 400)
        self.assertEqual(self.lay_out(match).json()["parts"], [])


class SharedBrowser(CoachCase):
    def test_a_change_is_saved_by_the_account_that_made_it_alone(self):
        match = self.match()
        body = {"t": 11, "kind": "position", "position": "standing"}
        for method in ("put", "delete"):
            path = f"matches/{match.pk}/observations/k?made_by={self.other.pk}"
            refused = self.call(method, path, body)
            self.assertEqual((refused.status_code, refused.json()["code"]), (403, "other_account"))
        self.assertEqual(Match.objects.get(pk=match.pk).revision, match.revision)
        own = self.call("put", f"matches/{match.pk}/observations/k?made_by={self.coach.pk}", body)
        self.assertEqual(own.status_code, 200)


class History(CoachCase):
    def test_every_change_is_kept_with_who_made_it(self):
        match = self.match()
        self.put(match, "up", t=11, kind="position", position="standing")
        self.put(match, "up", t=12, kind="position", position="scramble")
        self.call("delete", f"matches/{match.pk}/observations/up")
        steps = self.call("get", f"matches/{match.pk}/history").json()
        self.assertEqual(
            [(step["revision"], step["who"]) for step in steps], [(3, "coach"), (2, "coach"), (1, "coach")]
        )
        self.assertEqual([step["before"] and step["before"]["t"] for step in steps], [12, 11, None])
        self.assertEqual([step["after"] and step["after"]["t"] for step in steps], [None, 12, 11])
        self.assertEqual(self.call("get", f"matches/{match.pk}/revision").json(), {"revision": 3})

    def test_moving_along_time_is_one_step(self):
        match = self.match()
        for t in (11, 11.1, 11.2, 11.3):
            self.put(match, "up", t=t, kind="position", position="standing")
        steps = self.call("get", f"matches/{match.pk}/history").json()
        self.assertEqual([(step["revision"], step["after"]["t"]) for step in steps], [(4, 11.3), (1, 11)])

    def test_a_move_by_another_hand_is_a_step_of_its_own(self):
        match = self.match()
        other = User.objects.create_user("ines")
        for t, who in ((11, self.coach), (11.1, self.coach), (11.2, other), (11.3, self.coach)):
            with transaction.atomic():
                record(locked(match.pk), "up", {"t": t, "kind": "position", "position": "standing"}, who)
        steps = self.call("get", f"matches/{match.pk}/history").json()
        self.assertEqual(
            [(step["who"], step["after"]["t"]) for step in steps],
            [("coach", 11.3), ("ines", 11.2), ("coach", 11.1), ("coach", 11)],
        )

    def test_sending_the_same_twice_is_one_change(self):
        match = self.match()
        for _ in range(2):
            self.put(match, "up", t=11, kind="position", position="standing")
        self.assertEqual(match.changes.count(), 1)

    def test_a_change_on_what_another_hand_changed_is_refused_and_shown(self):
        match = self.match()
        path = f"matches/{match.pk}/observations/up"
        first = self.call("put", f"{path}?based_on=0", {"t": 11, "kind": "position", "position": "standing"}).json()
        self.assertEqual(first["revisions"]["up"], 1)
        self.call("put", f"{path}?based_on=1", {"t": 12, "kind": "position", "position": "standing"})
        late = self.call("put", f"{path}?based_on=1", {"t": 13, "kind": "position", "position": "standing"})
        self.assertEqual((late.status_code, late.json()["code"]), (409, "conflict"))
        gone = self.call("delete", f"{path}?based_on=1")
        self.assertEqual(gone.status_code, 409)
        self.assertEqual([body["t"] for body in log_of(match)["observations"]], [0, 9, 300, 12])
        again = self.call("put", f"{path}?based_on=1", {"t": 12, "kind": "position", "position": "standing"})
        self.assertEqual(again.status_code, 200)


class OtherRules(CoachCase):
    BODY = {"extends": "full-points", "title": "Harbour rules", "hold_seconds": 400, "version": 1}

    def rules(self):
        return HouseRules.objects.create(club=self.club, author=self.coach, version=1, body=self.BODY)

    def test_what_would_change_is_shown_and_nothing_is_changed(self):
        match = self.match()
        found = self.call("post", f"matches/{match.pk}/what-if", {"ruleset": self.BODY}).json()["columns"]
        self.assertEqual([one["score"]["a"]["points"] for one in found], [2, 0])
        self.assertTrue(all(one["because"] for one in found[1]["differences"]))
        self.assertEqual(Match.objects.get(pk=match.pk).ruleset, "full-points")
        faulty = self.call("post", f"matches/{match.pk}/what-if", {"ruleset": {"extends": "none"}})
        self.assertEqual([fault["path"] for fault in faulty.json()["faults"]], ["ruleset.extends"])

    def test_a_ruleset_in_use_stays(self):
        rules, match = self.rules(), self.match()
        self.call("patch", f"matches/{match.pk}", {"ruleset": self.BODY})
        match.refresh_from_db()
        self.assertEqual((match.house_rules, match.ruleset), (rules, self.BODY))
        self.assertEqual(self.call("get", "matches").json()["results"][0]["ruleset_title"], "Harbour rules, version 1")
        refused = self.call("delete", f"house-rules/{rules.pk}")
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "in_use"))
        self.call("patch", f"matches/{match.pk}", {"ruleset": "full-points"})
        self.assertEqual(self.call("delete", f"house-rules/{rules.pk}").status_code, 204)

    def test_a_new_match_under_house_rules(self):
        rules = self.rules()
        form = {"ruleset": self.BODY, "duration_ms": 300_000, "age": 24, "belt": "blue", "attire": "gi"}
        self.assertEqual(Match.objects.get(pk=self.set_up(**form).json()["id"]).house_rules, rules)


class Following(CoachCase):
    """A browser that follows the changes has what one that asks for everything has."""

    SEEN = (
        {"kind": "position", "position": "mount", "top": "a"},
        {"kind": "position", "position": "guard", "top": "b"},
        {"kind": "position", "position": "standing"},
        {"kind": "clock", "action": "stop"},
        {"kind": "clock", "action": "start"},
        {"kind": "foul", "by": "b", "foul": "stalling"},
    )

    def whole(self, match):
        desk = self.call("get", f"matches/{match.pk}").json()
        return {name: desk[name] for name in ("observations", "revisions", "revision", "verdict")}

    def test_change_after_change(self):
        rng = random.Random(11)
        match = self.match()
        shown = self.whole(match)
        keys = [f"key-{number}" for number in range(12)]
        for step in range(80):
            path = f"matches/{match.pk}/observations/{rng.choice(keys)}?have={shown['revision']}"
            if rng.random() < 0.25:
                answer = self.call("delete", path)
            else:
                body = rng.choice(self.SEEN) | {"t": rng.randrange(300), "sure": rng.random() < 0.8}
                answer = self.call("put", path, body)
            self.assertEqual(answer.json()["base"], shown["revision"])
            shown = pieced(shown, answer.json())
            if step % 9 == 0:
                _kept.cache_clear()  # as another process has it
            self.assertEqual(shown, self.whole(match))
        self.assertEqual(shown["verdict"], verdict_on(log_of(match)))

    def test_a_change_sends_what_it_changed(self):
        match = self.match()
        for number in range(20):
            self.put(match, f"at-{number}", t=30 + number * 10, kind="position", position="mount", top="ab"[number % 2])
        have = self.call("get", f"matches/{match.pk}/revision").json()["revision"]
        body = {"t": 240, "kind": "position", "position": "standing"}
        answer = self.call("put", f"matches/{match.pk}/observations/up?have={have}", body).json()
        self.assertEqual(len(answer["observations"]["add"]), 1)
        self.assertEqual(answer["revisions"], {"up": have + 1})
        self.assertLess(len(answer["verdict"]["ledger"]["add"]), 3)
        self.assertLess(len(answer["verdict"]["exchanges"]["add"]), 4)

    def test_a_key_costs_the_same_few_queries_however_long_the_log(self):
        match = self.match()
        for number in range(4):
            self.put(match, f"first-{number}", t=20 + number, kind="exchange")
        for more in range(2):
            # The match locked, its revision, the observation, its step of the history, and a savepoint.
            with self.assertNumQueries(7):
                self.put(match, f"key-{more}", t=30 + more, kind="position", position="mount", top="ab"[more])
            for number in range(40):
                self.put(match, f"more-{more}-{number}", t=40 + number, kind="exchange")

    def test_what_another_process_wrote_meanwhile_is_read_too(self):
        match = self.match()
        before = standing(match)
        with transaction.atomic():
            held = locked(match.pk)
            record(held, "theirs", {"t": 20, "kind": "position", "position": "mount", "top": "a"}, self.coach)
        # This process hears of the next one only.
        with transaction.atomic():
            held = locked(match.pk)
            with mock.patch("matches.actions.standing", return_value=before):
                mine = record(held, "mine", {"t": 25, "kind": "position", "position": "standing"}, self.coach)
        now = standing(held, mine)
        self.assertEqual([now.revisions[key] for key in ("theirs", "mine")], [1, 2])
        self.assertEqual(now.json, verdict_on(log_of(match)))

    def test_what_changes_nothing_is_not_written(self):
        match = self.match()
        body = {"t": 20, "kind": "position", "position": "mount", "top": "a"}
        self.put(match, "up", **body)
        with transaction.atomic():
            held = locked(match.pk)
            self.assertEqual(record(held, "up", body, self.coach), [])
            self.assertEqual(take_back(held, "never-there", self.coach), [])
            self.assertEqual(len(take_back(held, "up", self.coach)), 1)

    def test_from_an_older_state_all_is_sent(self):
        match = self.match()
        self.put(match, "up", t=11, kind="position", position="standing")
        answer = self.call("put", f"matches/{match.pk}/observations/on?have=0", {"t": 20, "kind": "exchange"}).json()
        self.assertIsNone(answer["base"])
        self.assertEqual(pieced({}, answer), self.whole(match))
