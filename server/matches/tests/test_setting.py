"""Changing what a match is about: what is shown before is what then happens."""

from __future__ import annotations

from matches.models import Match

from .base import CoachCase

#: A pass held too short for four seconds, a heel hook that only some divisions allow, and a penalty.
FOUGHT = {
    "format": "jurata-match/3",
    "ruleset": "full-points",
    "duration": 300,
    "division": {"age": 24, "belt": "brown", "attire": "nogi"},
    "observations": [
        {"t": 0, "kind": "clock", "action": "start", "id": "start"},
        {"t": 9, "kind": "position", "position": "side", "top": "a", "id": "side"},
        {"t": 12.5, "kind": "position", "position": "guard", "top": "a", "id": "guard"},
        {"t": 40, "kind": "technique", "by": "b", "technique": "heel hook", "id": "heel"},
        {"t": 60, "kind": "pull", "by": "a", "id": "pull"},
        {"t": 200, "kind": "position", "position": "mount", "top": "b", "id": "mount"},
        {"t": 300, "kind": "end", "how": "time", "id": "end"},
    ],
}
CHANGES = [
    {"ruleset": "submission-only"},
    {"ruleset": "late-points"},
    {"ruleset": {"extends": "full-points", "title": "Four seconds", "hold_seconds": 4}},
    {"duration_ms": 120_000},
    {"duration_ms": None},
    {"age": 15, "belt": "green"},
    {"belt": "white"},
    {"attire": "gi"},
    {"opponent": "Enno Falk", "event": "Harbour Open", "date": "2026-05-02", "plan": "pull to half guard"},
    {"club": "Saltmarsh Mats", "round": "Final", "weight_class": "-70 kg", "mat": "3"},
]


class Setting(CoachCase):
    def setUp(self):
        super().setUp()
        self.made = self.set_up(log=FOUGHT).json()["id"]

    def verdict(self):
        return self.call("get", f"matches/{self.made}").json()["verdict"]

    def test_the_preview_is_what_then_happens(self):
        for change in CHANGES:
            with self.subTest(change):
                before = self.verdict()
                shown = self.call("post", f"matches/{self.made}", change).json()
                self.assertEqual(self.verdict(), before)  # nothing is stored
                self.assertEqual(self.call("patch", f"matches/{self.made}", change).status_code, 200)
                after = self.verdict()
                for name in ("score", "result", "because"):
                    self.assertEqual(shown["before"][name], before[name])
                    self.assertEqual(shown["after"][name], after[name])
                self.assertEqual([row for row in before["ledger"] if row not in shown["gone"]],
                                 [row for row in after["ledger"] if row not in shown["new"]])  # fmt: skip

    def test_what_changes_no_score_shows_none(self):
        shown = self.call("post", f"matches/{self.made}", CHANGES[-1]).json()
        self.assertEqual((shown["gone"], shown["new"], shown["before"]), ([], [], shown["after"]))

    def test_a_setting_that_cannot_be_names_its_field(self):
        for change, path in (({"age": -1}, "age"), ({"belt": "pink"}, "belt"), ({"ruleset": "nothing"}, "ruleset")):
            answer = self.call("post", f"matches/{self.made}", change)
            self.assertEqual(answer.status_code, 400)
            self.assertIn(path, [fault["path"] for fault in answer.json()["faults"]])
        self.assertEqual(Match.objects.get(pk=self.made).belt, "brown")


class Remembered(CoachCase):
    def test_events_come_with_the_date_and_ruleset_used_last_and_opponents_with_their_club(self):
        fought = {"event": "Dune Day", "round": "Round 1", "weight_class": "-70 kg", "mat": "3"}
        self.set_up(log=FOUGHT, **{**fought, "opponent": "Bo Calder", "date": "2026-03-01"})
        later = {"opponent": "Ines Varr", "club": "Saltmarsh Mats", "date": "2026-03-02", "round": "Final"}
        self.set_up(log={**FOUGHT, "ruleset": "late-points"}, **{**fought, **later})
        got = self.call("get", "remembered").json()
        self.assertEqual(
            got["opponents"],
            [{"opponent": "Ines Varr", "club": "Saltmarsh Mats"}, {"opponent": "Bo Calder", "club": ""}],
        )
        self.assertEqual(got["events"], [{"event": "Dune Day", "date": "2026-03-02", "ruleset": "late-points"}])
        self.assertEqual((got["clubs"], got["rounds"]), (["Saltmarsh Mats"], ["Final", "Round 1"]))
        self.assertEqual((got["weight_classes"], got["mats"]), (["-70 kg"], ["3"]))
        self.client.force_login(self.other)
        self.assertEqual({len(one) for one in self.call("get", "remembered").json().values()}, {0})
