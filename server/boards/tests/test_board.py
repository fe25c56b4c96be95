"""Marking a board, having it read by the worker, and what it then proposes, over HTTP."""

from __future__ import annotations

from unittest import mock

from django.contrib.auth.models import User

from boards import process, tasks
from boards.models import Board, BoardPicture
from clubs.actions import join
from clubs.models import Role
from footage.tasks import source_of
from jobs.actions import cancel
from jobs.models import Job
from jobs.running import Stopped, run
from matches.actions import record
from matches.parts import Part, lay_out

from .base import GOES_ON, BoardCase, around, boxes_of

MARKED = {"marks": [{"t": 0, "boxes": boxes_of()}]}


class Marking(BoardCase):
    def setUp(self):
        super().setUp()
        self.one = self.clip()
        self.found = self.match(self.one)

    def mark(self, body=MARKED, match=None, clip=None):
        return self.send("put", self.address(match or self.found, clip or self.one), body)

    def read(self):
        """The board after the worker has read it."""
        self.assertEqual(self.mark().json()["job"]["state"], "waiting")
        run(str(Board.objects.get().job_id))
        return self.client.get(self.address(self.found, self.one)).json()

    def test_a_board_that_was_read_proposes_clock_and_calls(self):
        board = self.read()
        self.assertEqual((board["marked"], board["job"]["state"]), (True, "done"))
        self.assertTrue(board["clock"]["readable"])
        said = [one["because"] for one in board["proposals"]]
        self.assertEqual(len(said), 5)
        self.assertEqual(said[0], "The scoreboard's clock starts at 5:00, give or take 0.5 s.")
        self.assertEqual(said[1], "The scoreboard gives 1 penalty against the opponent: 0 becomes 1.")
        self.assertEqual(said[4], "The scoreboard gives 2 points to the athlete: 0 becomes 2.")

    def test_each_call_has_its_picture(self):
        board = self.read()
        call = board["proposals"][4]
        picture = self.client.get(call["picture"])
        self.assertEqual((picture.status_code, picture["Content-Type"]), (200, "image/jpeg"))
        self.assertTrue(picture.content.startswith(b"\xff\xd8"))
        self.assertEqual(BoardPicture.objects.count(), 2)

    def test_the_officials_page_fills_by_itself(self):
        self.read()
        held = self.client.get(f"/api/matches/{self.found.pk}/audit").json()
        calls = [line["call"] for line in held["lines"] if line["call"]]
        self.assertEqual(
            [(one["to"], one["kind"], one["n"]) for one in calls], [("b", "penalties", 1), ("a", "points", 2)]
        )
        self.assertEqual(held["unlogged"], [one["observations"][0] for one in calls])
        self.assertEqual(set(held["pictures"]), set(held["unlogged"]))
        asked = self.client.get(f"/api/matches/{self.found.pk}/questions").json()["questions"]
        self.assertTrue(any("2 points" in one["text"] for one in asked))

    def test_what_was_taken_into_the_log_is_no_proposal_any_more(self):
        for one in self.read()["proposals"]:
            record(self.found, one["key"], one["body"], self.coach)
        again = self.client.get(self.address(self.found, self.one)).json()
        self.assertEqual({one["standing"] for one in again["proposals"]}, {"logged"})
        held = self.client.get(f"/api/matches/{self.found.pk}/audit").json()
        self.assertEqual(held["unlogged"], [])
        self.assertEqual(len(held["pictures"]), 2)

    def test_how_it_went_on_is_asked_once_the_positions_are_known(self):
        for one in self.read()["proposals"]:
            record(self.found, one["key"], one["body"], self.coach)
        record(self.found, "guard", {"t": 4, "kind": "position", "position": "guard", "top": "a"}, self.coach)
        board = self.client.get(self.address(self.found, self.one)).json()
        (asked,) = [one for one in board["proposals"] if one["asks"]]
        record(self.found, asked["logged"], {**asked["body"], "restart": "same"}, self.coach)
        board = self.client.get(self.address(self.found, self.one)).json()
        self.assertFalse(any(one["asks"] for one in board["proposals"]))

    def test_a_logged_clock_that_is_off_can_be_moved(self):
        self.read()
        late = {"t": GOES_ON + 3, "kind": "clock", "action": "start"}
        record(self.found, "first", {"t": 2.3, "kind": "clock", "action": "start"}, self.coach)
        record(self.found, "mine", late, self.coach)
        board = self.client.get(self.address(self.found, self.one)).json()
        restart = board["proposals"][3]
        self.assertEqual((restart["standing"], restart["logged"]), ("differs", "mine"))
        self.assertAlmostEqual(restart["off"], 3, delta=0.6)

    def test_a_part_of_a_clip_is_read_alone_and_its_times_are_those_of_the_footage(self):
        lay_out(self.found, [Part(self.one, 100_000, 1_000, 12_000)])
        board = self.read()
        self.assertEqual([one["body"]["kind"] for one in board["proposals"]], ["clock", "call", "clock"])
        self.assertAlmostEqual(board["proposals"][0]["t"], 102.3, delta=0.25)

    def test_the_next_clip_from_the_same_place_is_proposed_the_same_boxes(self):
        self.mark()
        next_clip = self.clip()
        other = self.match(next_clip, opponent="Cai Durrow")
        board = self.client.get(self.address(other, next_clip)).json()
        self.assertEqual((board["marked"], board["marks"][0]["boxes"]["clock"]), (False, boxes_of()["clock"]))
        elsewhere = self.match(next_clip, mat="3")
        self.assertEqual(self.client.get(self.address(elsewhere, next_clip)).json()["marks"], [])

    def test_a_board_can_be_forgotten(self):
        self.read()
        self.assertEqual(self.client.delete(self.address(self.found, self.one)).status_code, 204)
        self.assertFalse(self.client.get(self.address(self.found, self.one)).json()["marked"])
        self.assertEqual((Board.objects.count(), BoardPicture.objects.count(), Job.objects.count()), (0, 0, 0))

    def test_a_reading_that_is_cancelled_stores_nothing(self):
        self.mark()

        def ask(source, marks, start, end, go_on):
            cancel(Job.objects.get())
            return mock.Mock(readings={"clock": []}, lost=0.0)

        with mock.patch.object(tasks, "ask", side_effect=ask):
            run(str(Board.objects.get().job_id))
        board = Board.objects.get()
        self.assertEqual((board.job.state, board.readings), ("cancelled", None))

    def test_a_clip_that_breaks_says_so_and_can_be_asked_again(self):
        self.mark()
        whole = self.one.path.read_bytes()
        self.one.path.write_bytes(whole[:2_000])
        run(str(Board.objects.get().job_id))
        board = self.client.get(self.address(self.found, self.one)).json()
        self.assertEqual(board["job"]["state"], "failed")
        self.one.path.write_bytes(whole)
        self.send("post", f"/api/jobs/{board['job']['id']}", {"do": "retry"})
        run(board["job"]["id"])
        self.assertTrue(self.client.get(self.address(self.found, self.one)).json()["clock"]["readable"])

    def test_a_process_that_dies_is_said_to_have_failed(self):
        self.mark()
        gone = mock.patch.object(process, "COMMAND", ["false"])
        with gone, mock.patch.object(tasks, "ask", process.ask), self.assertLogs("boards.process", "WARNING"):
            run(str(Board.objects.get().job_id))
        board = self.client.get(self.address(self.found, self.one)).json()
        self.assertEqual(board["job"]["trouble"], "the reading of the scoreboard was cut off")

    def test_a_process_that_says_nothing_is_stopped_when_it_is_cancelled(self):
        answers = iter([True, True, False])
        with mock.patch.object(process, "COMMAND", ["sleep", "60"]), self.assertRaises(Stopped):
            process.ask(source_of(self.one), [], 0, 1_000, lambda share: next(answers))

    def test_a_clock_that_is_not_there_is_said_and_proposes_nothing(self):
        wall = [[0.7, 0.05], [0.9, 0.05], [0.9, 0.15], [0.7, 0.15]]
        self.mark({"marks": [{"t": 0, "boxes": {"clock": wall}}]})
        run(str(Board.objects.get().job_id))
        board = self.client.get(self.address(self.found, self.one)).json()
        self.assertEqual((board["clock"]["readable"], board["proposals"]), (False, []))
        self.assertIn("can't be read", board["clock"]["because"])

    def test_bad_marks_name_the_field(self):
        box = boxes_of()["clock"]
        rows = [
            ({"marks": []}, "marks"),
            ({"marks": [{"t": 99, "boxes": {"clock": box}}]}, "marks[0].t"),
            ({"marks": [{"t": 0, "boxes": {"weight": box}}]}, "marks[0].boxes.weight"),
            ({"marks": [{"t": 0, "boxes": {"clock": [[9, 9]] * 4}}]}, "marks[0].boxes.clock"),
            ({"marks": [{"t": 0, "boxes": {"clock": [[0.1, 0.1]] * 4}}]}, "marks[0].boxes.clock"),
            ({"marks": [{"t": 0, "boxes": {}}]}, "marks[0].boxes"),
            ({"marks": [{"t": 0, "boxes": {"clock": box}}, {"t": 1, "boxes": {"a.points": box}}]}, "marks[1].boxes"),
            ({"marks": [{"t": n / 10, "boxes": {"clock": box}} for n in range(30)]}, "marks"),
        ]
        for body, path in rows:
            with self.subTest(path=path):
                answer = self.mark(body)
                self.assertEqual(answer.status_code, 400)
                self.assertEqual(answer.json()["faults"][0]["path"], path)
        self.assertFalse(Board.objects.exists())

    def test_a_clip_that_is_being_prepared_waits(self):
        self.one.state = "converting"
        self.one.save()
        self.assertEqual(self.mark().json()["code"], "not_ready")

    def test_another_clip_is_not_there(self):
        self.assertEqual(self.mark(clip=self.clip()).status_code, 404)

    def test_a_scorer_of_the_match_reads_its_board(self):
        scorer = User.objects.create_user("scorer")
        join(self.club, scorer, Role.SCORER)
        self.client.force_login(scorer)
        self.assertEqual(self.mark().status_code, 404)
        self.found.scorer = scorer
        self.found.save()
        self.assertEqual(self.mark().status_code, 200)


class Looking(BoardCase):
    def setUp(self):
        super().setUp()
        self.one = self.clip()
        self.found = self.match(self.one)

    def look(self, body):
        return self.send("post", self.address(self.found, self.one, "/look"), body)

    def test_what_boxes_show_now(self):
        seen = self.look({"t": 7.5, "boxes": boxes_of()}).json()["parts"]
        self.assertEqual(
            (seen["clock"]["text"], seen["b.penalties"]["text"], seen["a.points"]["text"]), ("4:55", "1", "0")
        )

    def test_the_figures_of_a_whole_board(self):
        lines = self.look({"t": 1, "board": around()}).json()["lines"]
        self.assertEqual(sorted(one["text"] for one in lines), ["0"] * 6 + ["5:00"])

    def test_a_moment_outside_the_clip_is_refused(self):
        self.assertEqual(self.look({"t": 500, "boxes": boxes_of()}).status_code, 400)

    def test_a_broken_clip_says_so(self):
        self.one.path.write_bytes(b"not a clip")
        answer = self.look({"t": 1, "boxes": boxes_of()})
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "no_picture"))
