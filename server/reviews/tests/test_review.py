"""What a coach makes of the errors that were found."""

from __future__ import annotations

from clubs.actions import join
from clubs.models import Role
from matches.actions import record
from matches.models import Match

from .base import GRIPPED, LOG, MOUNTED, PASSED, UNHELD, ReviewCase


class Errors(ReviewCase):
    def error(self, key):
        return next(one for one in self.review()["found"] if one["key"] == key)

    def test_they_are_found_with_cost_and_likely_roots(self):
        got = self.review()
        keys = [one["key"] for one in got["found"]]
        self.assertEqual(keys, [GRIPPED, PASSED, MOUNTED, UNHELD])
        passed = self.error(PASSED)
        self.assertEqual((passed["cost"], passed["standing"]), ("3 points", "open"))
        self.assertEqual(passed["suggested"][0]["key"], GRIPPED)
        self.assertEqual(passed["otherwise"]["score"]["b"]["points"], 0)
        self.assertIn("grips", got["causes"])
        # The pass came under the grip, and what came from underneath came from the pass: suggested, not decided.
        self.assertEqual(passed["came_from"]["key"], GRIPPED)
        self.assertFalse(passed["came_from"]["accepted"])
        self.assertEqual(
            [(chain["members"], chain["accepted"]) for chain in got["chains"]],
            [([GRIPPED, PASSED, MOUNTED], False), ([UNHELD], False)],
        )
        self.assertEqual(got["first"], 2)

    def test_accepted_dismissed_and_worded_anew(self):
        self.assertEqual(
            self.remark(PASSED, standing="accepted", title="Flat on the back", causes=["frames"]).status_code, 200
        )
        one = self.error(PASSED)
        self.assertEqual(
            (one["standing"], one["title"], one["causes"], one["edited"]),
            ("accepted", "Flat on the back", ["frames"], True),
        )
        self.remark(MOUNTED, standing="dismissed")
        chained = [key for chain in self.review()["chains"] for key in chain["members"]]
        self.assertNotIn(MOUNTED, chained)
        self.assertEqual(self.error(MOUNTED)["standing"], "dismissed")
        self.at("delete", f"errors/{PASSED}")
        self.assertEqual((self.error(PASSED)["title"], self.error(PASSED)["edited"]), ("Guard pass conceded", False))

    def test_linked_to_their_root(self):
        self.remark(PASSED, came_from=GRIPPED)
        got = self.remark(MOUNTED, came_from=PASSED).json()
        chain = next(one for one in got["chains"] if one["first"] == GRIPPED)
        self.assertEqual(chain["members"], [GRIPPED, PASSED, MOUNTED])
        # The grip, the pass and the mount gone otherwise at once: no row is turned twice.
        self.assertEqual(chain["otherwise"]["score"]["b"], {"points": 0, "advantages": 0, "penalties": 0})
        self.assertTrue(chain["otherwise"]["better"])

    def test_links_that_are_none_name_the_field(self):
        self.remark(PASSED, came_from=GRIPPED)
        for key, came_from in ((GRIPPED, PASSED), (GRIPPED, GRIPPED), (PASSED, "nothing-1"), (PASSED, UNHELD)):
            with self.subTest(key=key, came_from=came_from):
                answer = self.remark(key, came_from=came_from)
                self.assertEqual(answer.status_code, 400)
                self.assertEqual([fault["path"] for fault in answer.json()["faults"]], ["came_from"])
        self.assertEqual(self.error(PASSED)["came_from"]["key"], GRIPPED)
        self.assertTrue(self.error(PASSED)["came_from"]["accepted"])

    def test_a_chain_is_accepted_by_one_call_or_cut(self):
        got = self.at("put", f"chains/{GRIPPED}", {"accepted": True}).json()
        self.assertTrue(got["chains"][0]["accepted"])
        self.assertEqual({self.error(key)["standing"] for key in (GRIPPED, PASSED, MOUNTED)}, {"accepted"})
        self.assertTrue(self.error(MOUNTED)["came_from"]["accepted"])
        self.at("put", f"chains/{GRIPPED}", {"accepted": False})
        self.assertEqual(self.error(PASSED)["standing"], "open")
        self.assertEqual(self.at("put", "chains/nothing-1", {"accepted": True}).json()["code"], "no_error")
        # The coach says that the pass is a root of its own.
        cut = self.remark(PASSED, came_from="", root=True).json()
        self.assertEqual(
            {tuple(chain["members"]) for chain in cut["chains"]}, {(GRIPPED,), (PASSED, MOUNTED), (UNHELD,)}
        )

    def test_ones_own_error(self):
        answer = self.remark("own-1", since=50, t=55, points=1, because="Looked at the bench.")
        self.assertEqual([fault["path"] for fault in answer.json()["faults"]], ["title"])
        self.assertEqual(self.remark("own-1", since=50, t=45, title="Looked away").status_code, 400)
        self.remark("own-1", since=50, t=55, points=1, title="Looked away", because="Looked at the bench.")
        one = self.error("own-1")
        self.assertEqual((one["own"], one["cost"], one["clock"], one["start"]), (True, "1 point", 55, 46))
        self.remark(MOUNTED, came_from="own-1")
        self.at("delete", "errors/own-1")
        self.assertNotIn("own-1", [one["key"] for one in self.review()["found"]])
        self.assertNotEqual(self.error(MOUNTED)["came_from"]["key"], "own-1")
        self.assertEqual(self.remark("taken-nothing", standing="accepted").json()["code"], "no_error")

    def test_causes_are_ones_own_list(self):
        answer = self.call("put", "causes", {"causes": ["grips", " no sleep ", "grips", ""]})
        self.assertEqual(answer.json()["causes"], ["grips", "no sleep"])
        self.assertEqual(self.review()["causes"], ["grips", "no sleep"])
        self.assertEqual(self.call("get", "causes").json()["causes"], ["grips", "no sleep"])
        self.assertEqual(self.call("put", "causes", {"causes": [""]}).status_code, 400)

    def test_what_is_said_outlives_a_change_of_the_log(self):
        self.remark(PASSED, standing="accepted")
        self.put(self.scored, "pass", t=43, kind="position", position="side", top="b")
        self.assertEqual((self.error(PASSED)["standing"], self.error(PASSED)["since"]), ("accepted", 39))


class Prospects(ReviewCase):
    def test_a_row_a_second_with_swings_and_windows(self):
        got = self.at("get", "prospects").json()
        self.assertEqual([row["clock"] for row in got["moments"]], list(range(121)))
        self.assertEqual((got["moments"][-1]["win"], got["moments"][-1]["lose"]), (0, 1))
        self.assertEqual(got["matches"], 1)
        behind = next(window for window in got["windows"] if window["clock"] == 62)
        self.assertEqual(behind["stands"], "behind by 3 points")
        self.assertTrue(behind["ways"])
        for way in behind["ways"]:
            self.assertEqual(way["closes"], 120 - way["takes"])

    def test_what_each_error_cost_and_how_sure_that_is(self):
        lost = {one["key"]: one["swing"]["lost"] for one in self.review()["found"] if one["swing"]}
        self.assertGreater(lost[PASSED], 0.1)
        spread = self.at("get", "prospects/spread").json()["lost"]
        self.assertLess(spread[PASSED]["low"], lost[PASSED])
        self.assertLess(lost[PASSED], spread[PASSED]["high"])

    def test_where_nothing_scores_it_is_the_danger_of_being_finished(self):
        made = self.set_up(log={**LOG, "ruleset": "submission-only"}).json()["id"]
        got = self.call("get", f"matches/{made}/review").json()
        self.assertTrue(got["danger"])
        passed = next(one for one in got["found"] if one["kind"] == "worth_zero" and one["since"] == 38)
        self.assertGreater(passed["swing"]["was_lose"], passed["swing"]["otherwise_lose"] + 0.02)
        for error in got["found"]:
            self.call("put", f"matches/{made}/errors/{error['key']}", {"standing": "accepted"})
        report = self.call("get", f"matches/{made}/report").json()
        self.assertRegex(
            " ".join(thing["cost"] for thing in report["mattered"]), r"Chance of being finished: \d+% after"
        )

    def test_how_sure_it_is(self):
        got, spread = self.at("get", "prospects").json(), self.at("get", "prospects/spread").json()
        self.assertEqual(len(spread["low"]), len(got["moments"]))
        self.assertTrue(all(low <= high for low, high in zip(spread["low"], spread["high"], strict=True)))
        self.assertGreater(spread["high"][10] - spread["low"][10], 0.02)
        self.assertEqual(self.at("get", "prospects/spread").json(), spread)

    def test_other_matches_teach_it_second_scores_do_not(self):
        first = self.at("get", "prospects").json()
        self.set_up(log={**self.at("get", "log").json()})
        self.assertEqual(self.at("get", "prospects").json()["matches"], first["matches"] + 1)
        join(self.club, self.other, Role.SCORER)
        self.at("post", "seconds", {"user": self.other.pk})
        second = Match.objects.get(second_of=self.scored)
        record(second, "end", {"t": 99, "kind": "end", "how": "time"}, self.other)
        self.assertEqual(self.at("get", "prospects").json()["matches"], first["matches"] + 1)

    def test_a_match_without_a_log(self):
        empty = self.set_up(ruleset="full-points", duration_ms=60_000, age=24, belt="blue", attire="gi").json()["id"]
        for path in ("review", "prospects", "prospects/spread", "report"):
            self.assertEqual(self.call("get", f"matches/{empty}/{path}").status_code, 200, path)

    def test_a_match_that_never_ends(self):
        """Seconds are reckoned one by one, so there is a limit; the errors are there all the same."""
        self.put(self.scored, "late", t=200_000, kind="ruling", to="a", points=1)
        self.at("delete", "observations/end")
        for path in ("prospects", "prospects/spread"):
            answer = self.at("get", path)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "too_long"), path)
        self.assertTrue(self.review()["found"])
        self.accept()
        self.assertTrue(self.at("get", "report").json()["mattered"])


class Habits(ReviewCase):
    """What is dismissed again and again is offered to be turned down, and never turned down by itself."""

    def dismiss_grips(self, lengths):
        for length in lengths:
            grip = {**LOG["observations"][3], "until": 8 + length}
            log = {**LOG, "observations": [*LOG["observations"][:3], grip, *LOG["observations"][4:]]}
            made = self.set_up(log=log).json()["id"]
            self.call("put", f"matches/{made}/errors/{GRIPPED}", {"standing": "dismissed"})

    def test_a_limit_is_offered_and_is_a_setting(self):
        self.dismiss_grips([21, 24])
        self.assertEqual(self.review()["offers"], [])
        self.dismiss_grips([22])
        (offer,) = self.review()["offers"]
        self.assertEqual((offer["kind"], offer["dismissed"], offer["least"]), ("grip_unbroken", 3, 25))
        self.assertIn(GRIPPED, [one["key"] for one in self.review()["found"]])
        rows = self.call("put", "kinds/grip_unbroken", {"limits": {"least": 33}}).json()
        row = next(one for one in rows if one["kind"] == "grip_unbroken")
        self.assertEqual((row["limits"], row["dismissed"]), ([{"name": "least", "seconds": 33, "usual": 20}], 3))
        self.assertNotIn(GRIPPED, [one["key"] for one in self.review()["found"]])
        self.assertEqual(self.call("get", "kinds").json(), rows)
        self.call("put", "kinds/grip_unbroken", {"limits": {"least": 20}})
        self.assertIn(GRIPPED, [one["key"] for one in self.review()["found"]])

    def test_an_offer_that_was_declined_comes_back_only_after_more(self):
        self.dismiss_grips([21, 21, 21])
        self.call("put", "kinds/grip_unbroken", {"decline": True})
        self.assertEqual(self.review()["offers"], [])
        self.dismiss_grips([21, 21, 21])
        self.assertEqual(self.review()["offers"][0]["dismissed"], 6)

    def test_a_kind_that_is_turned_off_is_reported_as_no_other(self):
        self.call("put", "kinds/taken", {"off": True})
        self.assertEqual([one["key"] for one in self.review()["found"]], [GRIPPED, UNHELD])
        for body in ({"limits": {"least": 0}}, {"limits": {"nothing": 5}}):
            answer = self.call("put", "kinds/grip_unbroken", body)
            self.assertEqual(
                [fault["path"] for fault in answer.json()["faults"]], [f"limits.{next(iter(body['limits']))}"]
            )
        self.assertEqual(self.call("put", "kinds/nothing", {"off": True}).json()["code"], "no_kind")


class Notes(ReviewCase):
    MARKS = [
        {"kind": "point", "x": 10, "y": 20},
        {"kind": "arrow", "x": 10, "y": 20, "to_x": 40, "to_y": 50},
        {"kind": "text", "x": 5, "y": 5, "text": "hips here"},
    ]

    def test_on_a_moment_or_a_span_with_marks(self):
        made = self.at("post", "notes", {"t": 42.04, "until": 44, "text": "Frame first", "marks": self.MARKS})
        self.assertEqual(made.status_code, 201)
        (note,) = self.at("get", "notes").json()
        self.assertEqual(
            (note["t"], note["until"], note["text"], note["marks"]), (42.04, 44, "Frame first", self.MARKS)
        )
        self.at("put", f"notes/{note['id']}", {"t": 42, "text": "Elbow first", "marks": []})
        self.assertEqual(self.at("get", "notes").json()[0]["text"], "Elbow first")
        self.at("delete", f"notes/{note['id']}")
        self.assertEqual(self.at("get", "notes").json(), [])

    def test_faults_name_their_fields(self):
        for body, path in (
            ({"t": 1, "text": " "}, "text"),
            ({"t": 5, "until": 4, "text": "x"}, "until"),
            ({"t": -1, "text": "x"}, "t"),
            ({"t": 1, "text": "x", "marks": [{"kind": "arrow", "x": 1, "y": 1}]}, "marks.0.to_x"),
        ):
            with self.subTest(path):
                answer = self.at("post", "notes", body)
                self.assertEqual(answer.status_code, 400)
                self.assertIn(path, [fault["path"] for fault in answer.json()["faults"]])


class Officials(ReviewCase):
    def test_questions_for_the_event_on_the_screen_and_on_paper(self):
        self.assertEqual(self.at("get", "questions").json()["questions"], [], "one call says nothing of the rest")
        self.put(self.scored, "foul", t=109, kind="foul", by="a", foul="stalling")
        self.put(self.scored, "later", t=110, kind="call", to="a", penalties=1)
        got = self.at("get", "questions").json()["questions"]
        self.assertEqual([one["clock"] for one in got], [62, 82.2])
        self.put(self.scored, "call", t=46, kind="call", to="b", points=2)
        first = self.at("get", "questions").json()["questions"][0]["text"]
        self.assertIn("we scored 3 points to the opponent for the guard pass, held 20 s", first)
        page = self.at("get", "questions/html")
        self.assertContains(page, "Bo Calder")
        self.assertTrue(self.at("get", "questions/pdf").content.startswith(b"%PDF"))

    def test_the_match_as_files(self):
        self.assertIn("points,3,held", self.at("get", "file/csv").content.decode())
        self.assertTrue(self.at("get", "file/vtt").content.startswith(b"WEBVTT"))
        self.assertIn(b"SCORE SHEET", self.at("get", "file/text").content)
        self.put(self.scored, "new", t=50, kind="grip", by="a", grip="belt")
        self.assertIn("belt", self.at("get", "file/logged").content.decode())
        self.assertIn(b"belt", self.at("get", "file/logged-vtt").content)
        self.assertEqual(self.at("get", "file/exe").status_code, 404)
