"""The real reader on clips of the simulated camera: every kind of board."""

from __future__ import annotations

import random

import numpy as np
from PIL import Image

from boards.frames import _size
from boards.reading import Marks, find_lines, marks_from, read_board, read_moment
from boards.recognizing import read_text, straight
from boards.tracking import Tracker
from footage.tasks import source_of
from footage.tests.base import filmed, stored
from footage.tools import TooMuch
from jobs.running import NotMade, Stopped
from jurata_core.board import Rule, understand
from jurata_simulation.boards import KINDS, Kind, hang, made_up, parts

from .base import GOES_ON, POINTS, STOPPED, BoardCase, around, boxes_of, film_of

SIZE = (576, 324)


def drawn(kind: Kind, shown, sway=(0.0, 0.0)):
    """A picture of a board on a wall."""
    picture = Image.new("RGB", SIZE, (38, 44, 50))
    hang(picture, kind, shown, 0, sway)
    return np.asarray(picture)


def marks(board):
    return marks_from([{"t": 0, "boxes": boxes_of(board)}])


class Reader(BoardCase):
    def test_a_part_says_what_is_drawn(self):
        """Each kind of board straight from the pen, its digits 21 pixels high: nothing is misread."""
        rng = random.Random(3)
        for kind in KINDS.values():
            shown = made_up(rng)
            picture = drawn(kind, shown, (0.5, 0.5))
            boxes = {name: np.array(box) * SIZE for name, box in parts(kind, SIZE).items()}
            with self.subTest(kind=kind.name):
                self.assertEqual(read_text(straight(picture, boxes["clock"])).text, shown.clock)
                found = [
                    read_text(straight(picture, boxes[f"b.{name}"])) for name in ("points", "advantages", "penalties")
                ]
                self.assertEqual([one.text for one in found], [str(number) for number in shown.b])

    def test_an_empty_wall_says_nothing_sure(self):
        wall = np.full((60, 200, 3), 40, np.uint8)
        self.assertLess(read_text(wall).sure, 0.5)

    def test_the_board_is_followed_where_the_hand_moves_it(self):
        shown = made_up(random.Random(1))
        kind = KINDS["plain"]
        tracker = Tracker({0: drawn(kind, shown)})
        for x, y in ((4, 2), (9, -3), (15, 6)):
            at, move = tracker.follow(100, drawn(kind, shown, (x, y)))
            self.assertEqual(at, 0)
            self.assertLess(np.abs(move[:, 2] - (x, y)).max(), 1.0)

    def test_a_picture_without_the_board_is_not_mistaken_for_it(self):
        tracker = Tracker({0: drawn(KINDS["plain"], made_up(random.Random(1)))})
        noise = np.random.default_rng(1).integers(0, 255, (SIZE[1], SIZE[0], 3)).astype(np.uint8)
        self.assertIsNone(tracker.follow(100, noise))

    def test_clips_of_each_kind_are_read_to_their_clock_and_calls(self):
        for board in ("plain", "segments", "projected", "tilted", "handheld"):
            with self.subTest(board=board):
                clip = self.clip(board)
                found = read_board(source_of(clip), marks(board), 0, clip.duration_ms)
                course = understand(found.readings, 0, clip.duration_ms, [Rule("down"), Rule("up")])
                start, stop, again = course.course.moments
                self.assertAlmostEqual(start.t, 2_300, delta=250)
                self.assertTrue(stop.since - 250 <= STOPPED * 1000 <= stop.until + 250, stop)
                self.assertTrue(again.since - 250 <= GOES_ON * 1000 <= again.until + 250, again)
                steps = {name: one.steps for name, one in course.figures.items() if one.steps}
                self.assertEqual(set(steps), {"a.points", "b.penalties"})
                (points,) = steps["a.points"]
                self.assertEqual((points.before, points.after), (0, 2))
                self.assertAlmostEqual(points.t, POINTS * 1000, delta=250)
                self.assertTrue(found.evidence[points.until].startswith(b"\xff\xd8"))

    def test_what_does_not_change_is_not_read_again(self):
        clip = self.clip()
        found = read_board(source_of(clip), marks("plain"), 0, clip.duration_ms)
        self.assertLessEqual(len(found.readings["a.advantages"]), 6)
        self.assertLess(found.lost, 0.1)

    def test_the_lines_of_a_whole_board_are_found(self):
        clip = self.clip("tilted")
        lines = find_lines(source_of(clip), 1_000, around("tilted"))
        self.assertIn("5:00", [one["text"] for one in lines])
        self.assertEqual(sum(one["text"] == "0" for one in lines), 6)

    def test_one_moment(self):
        clip = self.clip()
        seen = read_moment(source_of(clip), 1_000, {"clock": boxes_of()["clock"]})
        self.assertEqual(seen["clock"].text, "5:00")

    def test_a_reading_that_is_stopped_ends(self):
        clip = self.clip()
        with self.assertRaises(Stopped):
            read_board(source_of(clip), marks("plain"), 0, clip.duration_ms, lambda share: share < 0.2)

    def test_a_clip_that_is_broken_is_refused(self):
        clip = self.clip()
        clip.path.write_bytes(clip.path.read_bytes()[:2_000])
        with self.assertRaises(NotMade):
            read_board(source_of(clip), marks("plain"), 0, clip.duration_ms)

    def test_a_picture_of_no_size_is_refused(self):
        self.assertIsNone(_size(bytearray(b"P6\n12")))
        self.assertEqual(_size(bytearray(b"P6\n12 9\n255\nxx")), (12, 12, 9))
        for head in (b"P6\n0 9\n255\n", b"P6\n99999 99999\n255\n", b"P5\n9 9\n255\n"):
            with self.assertRaises(TooMuch):
                _size(bytearray(head))

    def test_a_region_holds_all_boxes_at_all_moments(self):
        box = np.array([[0.4, 0.4], [0.5, 0.4], [0.5, 0.5], [0.4, 0.5]])
        region = Marks({0: {"clock": box}, 9_000: {"clock": box + 0.3}}).region()
        self.assertAlmostEqual(region.left, 0.3)
        self.assertAlmostEqual(region.left + region.width, 0.9)


class OtherClips(BoardCase):
    def test_it_is_the_camera_that_is_read(self):
        """The camera is given no marks, and the reader no log: a clip of another log is read as that one."""
        film = film_of()
        film["observations"] = [*film["observations"][:1], {"t": 12, "kind": "call", "to": "b", "points": 4}]
        film["observations"].append({"t": 16, "kind": "exchange"})
        clip = stored(self.coach, filmed(film), "other.webm")
        found = read_board(source_of(clip), marks("plain"), 0, clip.duration_ms)
        course = understand(found.readings, 0, clip.duration_ms, [Rule("down")])
        self.assertEqual([one.action for one in course.course.moments], ["start"])
        self.assertEqual([one.after for one in course.figures["b.points"].steps], [4])
