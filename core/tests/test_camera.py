"""The simulated camera films what the log says."""

import json
import subprocess
import tempfile
import unittest
from pathlib import Path

from jurata_core.adjudication.places import Place
from jurata_core.match_log import read_log
from jurata_core.match_log.observations import POSITIONS, TOPLESS
from jurata_simulation.camera import FPS, PIXELS, Camera, render
from jurata_simulation.poses import poses_of

from .making import at, end, log, seen, start, stop, tried


class FilmedPositions(unittest.TestCase):
    def test_every_position_looks_different(self):
        looks = set()
        for position in POSITIONS:
            for top in (None,) if position in TOPLESS else ("a", "b"):
                looks.add(str(sorted(poses_of(Place(position, top)).items())))
        self.assertEqual(len(looks), 3 + 2 * (len(POSITIONS) - 3))

    def test_a_position_is_reached_at_its_time(self):
        """Between two frames of one position only breathing moves; the way there is before its time."""
        camera = Camera(read_log(log(start(), at(5, "mount", "a"), end(20))))
        hips = [camera._poses(t)["a"]["hip"] for t in (4_500, 5_000, 9_000)]
        moved = [max(abs(one - other) for one, other in zip(hips[i], hips[i + 1], strict=True)) for i in (0, 1)]
        self.assertGreater(moved[0], 0.3)
        self.assertLess(moved[1], 0.05)

    def test_an_attempt_is_seen_and_leads_nowhere(self):
        """The opponent tries to stand up from below: both rise on the way, and are in the guard again after it."""
        film = log(start(), at(5, "guard", "a"), tried(10, "b", "stand_up", until=12), end(20))
        camera = Camera(read_log(film))
        heads = [camera._poses(t)["b"]["head"][2] for t in (9_000, 11_000, 13_000)]
        self.assertGreater(heads[1], heads[0] + 0.3)
        self.assertAlmostEqual(heads[2], heads[0], delta=0.05)

    def test_a_stop_at_the_edge_is_seen_there(self):
        edge = {**stop(10), "why": "edge"}
        placed = start(20, restart="placed", position="side", top="a")
        camera = Camera(read_log(log(start(), at(5, "guard", "a"), edge, placed, end(30))))
        hips = [camera._poses(t)["a"]["hip"][0] for t in (6_000, 10_000, 15_000, 19_999)]
        self.assertGreater(hips[1], hips[0] + 1)
        self.assertGreater(hips[2], hips[0] + 1)
        self.assertLess(hips[3], hips[2] - 0.5)
        self.assertEqual(camera._place(25_000), Place("side", "a"))

    def test_the_board_shows_overtime_and_what_was_carried_in(self):
        overtime = {"extends": "full-points", "overtime": {"seconds": 60, "golden": None}}
        carried = {"t": 0, "kind": "begin", "clock": 290, "score": {"b": {"points": 4}}}
        film = log(
            carried, start(), stop(10), seen(12, "period"), start(20, restart="standing"), end(40), ruleset=overtime
        )
        camera = Camera(read_log(film))
        self.assertEqual(camera.carried_in["b"]["points"], 4)
        self.assertEqual([camera.timeline.left_at(t) for t in (5_000, 15_000, 30_000)], [5_000, 0, 50_000])

    def test_the_clip_is_as_long_as_the_log(self):
        film = log(start(), at(1, "guard", "a"), seen(1.5, "call", to="a", points=2), end(2))
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "clip.webm"
            render(read_log(film), path)
            asked = ["ffprobe", "-v", "error", "-show_streams", "-show_format", "-of", "json", path]
            found = json.loads(subprocess.run(asked, capture_output=True, check=True).stdout)
        stream = found["streams"][0]
        self.assertEqual((stream["codec_name"], stream["width"], stream["height"]), ("vp8", *PIXELS))
        self.assertEqual(stream["avg_frame_rate"], f"{FPS}/1")
        self.assertAlmostEqual(float(found["format"]["duration"]), 5, delta=0.1)
