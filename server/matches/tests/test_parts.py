"""Which clips a match has, which part of each, and which clips have no match."""

from __future__ import annotations

from datetime import date

from footage.models import Clip
from matches.models import Match
from matches.parts import parts_of

from .base import LOG, CoachCase


class Parts(CoachCase):
    def setUp(self):
        super().setUp()
        self.clip = self.add_clip("whole day.mp4", 1_800_000)
        log = {**LOG, "observations": LOG["observations"][:2]}
        self.scored = Match.objects.get(pk=self.set_up(log=log, clip=str(self.clip.pk)).json()["id"])

    def add_clip(self, name, length, **more):
        return Clip.objects.create(
            club=self.club,
            uploader=self.coach,
            name=name,
            size=1,
            state="ready",
            duration_ms=length,
            width=640,
            height=360,
            **more,
        )

    def place(self, *parts):
        body = {"parts": [{"clip": str(clip.pk), **more} for clip, more in parts]}
        return self.call("put", f"matches/{self.scored.pk}/parts", body)

    def test_two_matches_in_one_clip(self):
        logged = self.call("get", f"matches/{self.scored.pk}").json()["observations"]
        placed = self.place((self.clip, {"start": 0, "opens": 0, "closes": 400.5})).json()
        self.assertEqual((placed["parts"][0]["opens"], placed["parts"][0]["closes"]), (0, 400.5))
        self.assertEqual(placed["observations"], logged)  # nothing that is logged moves
        refused = self.put(self.scored, "late", t=402, kind="position", position="standing")
        self.assertIn("after the end of the clip", refused.json()["faults"][0]["message"])
        setting = {"ruleset": "full-points", "duration_ms": 300_000, "age": 24, "belt": "blue", "attire": "gi"}
        made = self.set_up(clip=str(self.clip.pk), opens_ms=760_000, closes_ms=1_100_000, **setting).json()
        (part,) = parts_of(Match.objects.get(pk=made["id"]))
        self.assertEqual((part.begin, part.end, part.start), (760_000, 1_100_000, 0))

    def test_what_is_taken_of_a_clip_must_lie_in_it(self):
        for more, field in (
            ({"start": 0, "opens": 50, "closes": 40}, "parts[0].closes"),
            ({"start": 0, "opens": 0, "closes": 1801}, "parts[0].closes"),
            ({"start": -20, "opens": 10}, "parts[0].start"),
            ({"start": 0, "opens": -1}, "parts.0.opens"),
        ):
            with self.subTest(more):
                refused = self.place((self.clip, more))
                self.assertEqual(refused.status_code, 400)
                self.assertEqual([fault["path"] for fault in refused.json()["faults"]], [field])

    def test_parts_may_touch_and_not_overlap(self):
        other = self.add_clip("second.mp4", 60_000)
        first = (self.clip, {"start": 0, "opens": 100, "closes": 200})
        self.assertEqual(self.place(first, (other, {"start": 180, "opens": 20, "closes": 50})).status_code, 200)
        refused = self.place(first, (other, {"start": 170, "opens": 20, "closes": 50}))
        self.assertIn("whole day.mp4 ends at 3:20", refused.json()["faults"][0]["message"])

    def test_clips_without_a_match(self):
        later = self.add_clip("b.mp4", 60_000, filmed=date(2026, 5, 3))
        first = self.add_clip("a.mp4", 60_000, filmed=date(2026, 5, 2))
        further = self.add_clip("c.mp4", 60_000, filmed=date(2026, 5, 1))
        self.place((self.clip, {"start": 0}), (further, {"start": 1800}))

        def unused():
            return [clip["id"] for clip in self.call("get", "unused-clips").json()]

        self.assertEqual(unused(), [str(first.pk), str(later.pk)])
        self.assertEqual(self.call("get", "waiting").json()["clips"], 2)
        self.call("delete", f"matches/{self.scored.pk}")
        self.assertEqual(len(unused()), 4)
