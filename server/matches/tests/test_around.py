"""What goes on around a log: prompts, the scoreboard table, and a blind second score."""

from __future__ import annotations

import threading

from django.contrib.auth.models import User
from django.test import override_settings

from clubs.actions import join
from clubs.models import Role
from footage.models import Clip
from jurata_core.match_log import read_log
from jurata_simulation.table import calls as table_calls
from jurata_simulation.table import serve

from .base import LOG, CoachCase, pieced


class Attention(CoachCase):
    def test_prompts_the_clock_and_the_calls(self):
        match = self.match()
        self.put(match, "call", t=20, kind="call", to="a", points=4)
        self.call("patch", f"matches/{match.pk}", {"readings": [{"t": 100, "left": 205}, {"t": 200, "left": 120}]})
        said = self.call("get", f"matches/{match.pk}/attention").json()
        self.assertEqual([check["finding"] for check in said["clock"]], ["start_early", "stop_missing"])
        self.assertEqual([line["standing"] for line in said["calls"]], ["differently"])
        self.assertEqual({prompt["kind"] for prompt in said["prompts"]}, {"idle", "stop_missing"})
        self.assertEqual(self.call("get", f"matches/{match.pk}/audit").json()["lines"], said["calls"])

    def test_what_hangs_on_the_unsure_is_said_when_the_end_is_logged(self):
        match = self.match()
        self.put(match, "back", t=20, kind="position", position="back", top="a", sure=False)
        said = self.call("get", f"matches/{match.pk}/attention").json()["range"]
        points = [said[name]["score"]["a"]["points"] for name in ("worst", "best")]
        self.assertEqual((said["unsure"], points), (["back"], [2, 6]))
        end = match.observations.get(body__kind="end")
        self.call("delete", f"matches/{match.pk}/observations/{end.key}")
        self.assertIsNone(self.call("get", f"matches/{match.pk}/attention").json()["range"])

    def test_a_faulty_reading_is_refused(self):
        match = self.match()
        answer = self.call("patch", f"matches/{match.pk}", {"readings": [{"t": -1}]})
        self.assertEqual(answer.status_code, 400)


class Table(CoachCase):
    """The scoreboard table is the simulated one, served on a free port of loopback."""

    def setUp(self):
        super().setUp()
        self.server = serve({"mat 1": read_log(LOG)}, 0)
        threading.Thread(target=self.server.serve_forever, daemon=True).start()
        self.addCleanup(self.server.server_close)
        self.addCleanup(self.server.shutdown)
        there = override_settings(TABLE=f"http://127.0.0.1:{self.server.server_port}")
        there.enable()
        self.addCleanup(there.disable)

    def take_calls(self, match, asked):
        return pieced({}, self.call("post", f"matches/{match.pk}/calls", asked).json())["observations"]

    def test_calls_are_read_from_the_table_once(self):
        match = self.match()
        self.assertEqual(self.call("get", "table").json(), {"matches": ["mat 1"]})
        for _ in range(2):
            answer = self.call("post", f"matches/{match.pk}/calls", {"match": "mat 1"})
            called = [body for body in pieced({}, answer.json())["observations"] if body["kind"] == "call"]
            self.assertEqual(len(called), len(table_calls(read_log(LOG))))

    def test_calls_move_with_a_corrected_clock_and_stay_deleted(self):
        match = self.match()
        lines = {"lines": '{"clock": 12, "to": "a", "points": 2}\n{"clock": 20, "to": "a", "points": 3}\n'}
        found = self.take_calls(match, lines)
        first, second = (body for body in found if body["kind"] == "call")
        self.call("delete", f"matches/{match.pk}/observations/{second['id']}")
        start = found[0]
        self.put(match, start["id"], **start | {"t": 5})
        again = self.take_calls(match, lines)
        self.assertEqual([(body["id"], body["t"]) for body in again if body["kind"] == "call"], [(first["id"], 17)])

    def test_a_file_of_calls(self):
        match = self.match()
        lines = '{"clock": 12, "to": "a", "points": 2}\n{"clock": 301, "to": "b", "advantages": 1}\n'
        found = self.take_calls(match, {"lines": lines})
        self.assertEqual([(body["t"], body["to"]) for body in found if body["kind"] == "call"], [(12, "a"), (301, "b")])
        faulty = self.call(
            "post", f"matches/{match.pk}/calls", {"lines": '{"clock": "x", "to": "c"}\n[1]\n{"clock": 1, "to": "a"}'}
        )
        paths = [fault["path"] for fault in faulty.json()["faults"]]
        self.assertEqual(paths, ["line 1: clock", "line 1: to", "line 2", "line 3: points"])

    def test_a_table_that_is_away(self):
        match = self.match()
        with override_settings(TABLE="http://127.0.0.1:9"):
            self.assertEqual(
                self.call("post", f"matches/{match.pk}/calls", {"match": "mat 1"}).json()["code"], "table_away"
            )
        with override_settings(TABLE=""):
            self.assertEqual(self.call("get", "table").json(), {"matches": []})
            self.assertEqual(
                self.call("post", f"matches/{match.pk}/calls", {"match": "mat 1"}).json()["code"], "no_table"
            )
        self.assertEqual(self.call("post", f"matches/{match.pk}/calls", {}).status_code, 400)


class SecondScore(CoachCase):
    def ask(self, match, user=None):
        join(self.club, self.other, Role.SCORER)
        return self.call("post", f"matches/{match.pk}/seconds", {"user": (user or self.other).pk})

    def test_a_second_scorer_sees_the_clip_and_not_the_score(self):
        match = self.match()
        match.clip = Clip.objects.create(
            club=self.club, uploader=self.coach, name="x.webm", size=1, state="ready", duration_ms=400_000
        )
        match.save()
        second = self.ask(match).json()["match"]
        self.assertEqual(self.ask(match).json()["match"], second)
        self.client.force_login(self.other)
        self.assertEqual(self.call("get", f"matches/{second}").json()["observations"], [])
        self.assertEqual(self.call("get", f"matches/{match.pk}").status_code, 404)
        content = f"clips/{match.clip.pk}/content"
        # What a phone wrote into the file is not for another coach: the copy without it comes first.
        self.assertEqual(self.call("get", f"{content}?of=original").json()["code"], "not_prepared")
        Clip.objects.filter(pk=match.clip.pk).update(played_as="video/mp4")
        self.assertEqual(self.call("get", content).json()["code"], "gone")  # seen, but no file
        self.assertEqual(self.call("delete", f"clips/{match.clip.pk}").status_code, 404)
        both = f"matches/{match.pk}/seconds/{second}"
        self.assertEqual(self.call("get", both).json()["code"], "still_blind")
        for t, body in (
            (0, {"kind": "clock", "action": "start"}),
            (9, {"kind": "position", "position": "mount", "top": "a"}),
        ):
            self.call("put", f"matches/{second}/observations/o{t}", {"t": t, **body})
        self.call("put", f"matches/{second}/observations/end", {"t": 300, "kind": "end", "how": "time"})
        self.call("post", f"matches/{second}/finished")
        late = self.call("put", f"matches/{second}/observations/late", {"t": 40, "kind": "exchange"})
        self.assertEqual((late.status_code, late.json()["code"]), (422, "handed_over"))
        theirs = self.call("get", both).json()
        self.client.force_login(self.coach)
        self.assertEqual(self.call("get", both).json()["comparison"], theirs["comparison"])
        standings = [line["standing"] for line in theirs["comparison"]["lines"]]
        self.assertEqual(standings, ["agreed", "not_awarded"])
        row = self.call("get", "matches").json()["results"][0]
        self.assertEqual((row["observed"], row["second_scores"]), (3, 1))
        listed = self.call("get", f"matches/{match.pk}/seconds").json()
        self.assertEqual([(one["finished"], one["observed"]) for one in listed], [(True, 3)])

    def test_who_can_be_asked(self):
        match = self.match()
        self.assertEqual(self.ask(match, self.coach).json()["code"], "own_match")
        self.assertEqual(self.ask(match, User.objects.create_user("stranger")).json()["code"], "nobody")
        self.assertEqual(self.call("post", f"matches/{match.pk}/finished").json()["code"], "not_second")
