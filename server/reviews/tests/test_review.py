"""What a coach makes of the errors that were found."""

from __future__ import annotations

from matches.models import Match

from .base import GRIPPED, MOUNTED, PASSED, UNHELD, ReviewCase


class Errors(ReviewCase):
    def error(self, key):
        return next(one for one in self.review()["found"] if one["key"] == key)

    def test_they_are_found_with_cost_and_likely_roots(self):
        told = self.review()
        keys = [one["key"] for one in told["found"]]
        self.assertEqual(keys, [GRIPPED, PASSED, MOUNTED, UNHELD])
        passed = self.error(PASSED)
        self.assertEqual((passed["cost"], passed["standing"]), ("3 points", "open"))
        self.assertEqual(passed["suggested"][0]["key"], GRIPPED)
        self.assertEqual(passed["otherwise"]["score"]["b"]["points"], 0)
        self.assertIn("grips", told["causes"])
        self.assertEqual([chain["members"] for chain in told["chains"]], [[key] for key in keys])

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
        chains = [chain["first"] for chain in self.review()["chains"]]
        self.assertNotIn(MOUNTED, chains)
        self.assertEqual(self.error(MOUNTED)["standing"], "dismissed")
        self.at("delete", f"errors/{PASSED}")
        self.assertEqual((self.error(PASSED)["title"], self.error(PASSED)["edited"]), ("Guard pass conceded", False))

    def test_linked_to_their_root(self):
        self.remark(PASSED, came_from=GRIPPED)
        told = self.remark(MOUNTED, came_from=PASSED).json()
        chain = next(one for one in told["chains"] if one["first"] == GRIPPED)
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
        self.assertEqual(self.error(PASSED)["came_from"], GRIPPED)

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
        self.assertIsNone(self.error(MOUNTED)["came_from"])
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
        self.assertEqual((self.error(PASSED)["standing"], self.error(PASSED)["since"]), ("accepted", 43))


class Prospects(ReviewCase):
    def test_a_row_a_second_with_swings_and_windows(self):
        told = self.at("get", "prospects").json()
        self.assertEqual([row["clock"] for row in told["moments"]], list(range(121)))
        self.assertEqual((told["moments"][-1]["win"], told["moments"][-1]["lose"]), (0, 1))
        self.assertEqual(told["matches"], 1)
        self.assertGreater(told["swings"][PASSED]["lost"], 0.1)
        self.assertEqual(set(told["order"]), {chain["first"] for chain in self.review()["chains"]})
        behind = next(window for window in told["windows"] if window["clock"] == 62)
        self.assertEqual(behind["stands"], "behind by 3 points")
        self.assertTrue(behind["ways"])
        for way in behind["ways"]:
            self.assertEqual(way["closes"], 120 - way["takes"])

    def test_the_order_is_by_what_would_have_changed_at_the_root(self):
        before = self.at("get", "prospects").json()["order"]
        self.assertIn(before[0], (PASSED, GRIPPED))
        self.remark(PASSED, came_from=GRIPPED)
        self.assertEqual(self.at("get", "prospects").json()["order"][0], GRIPPED)

    def test_how_sure_it_is(self):
        told, spread = self.at("get", "prospects").json(), self.at("get", "prospects/spread").json()
        self.assertEqual(len(spread["low"]), len(told["moments"]))
        self.assertTrue(all(low <= high for low, high in zip(spread["low"], spread["high"], strict=True)))
        self.assertGreater(spread["high"][10] - spread["low"][10], 0.02)
        self.assertEqual(self.at("get", "prospects/spread").json(), spread)

    def test_other_matches_teach_it_second_scores_do_not(self):
        first = self.at("get", "prospects").json()
        self.set_up(log={**self.at("get", "log").json()})
        self.assertEqual(self.at("get", "prospects").json()["matches"], first["matches"] + 1)
        self.at("post", "seconds", {"name": "other"})
        self.client.force_login(self.other)
        second = Match.objects.get(second_of=self.scored)
        self.assertEqual(self.call("get", f"matches/{second.pk}/prospects").json()["matches"], 0)

    def test_a_match_without_a_log(self):
        empty = self.set_up(ruleset="full-points", duration_ms=60_000, age=24, belt="blue", attire="gi").json()["id"]
        for path in ("review", "prospects", "prospects/spread", "report"):
            self.assertEqual(self.call("get", f"matches/{empty}/{path}").status_code, 200, path)

    def test_a_match_that_never_ends(self):
        """Seconds are reckoned one by one, so there is a limit; the errors are there all the same."""
        self.put(self.scored, "late", t=200_000, kind="ruling", to="a", points=1)
        self.at("delete", "observations/end")
        for path in ("prospects", "prospects/spread", "report"):
            answer = self.at("get", path)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "too_long"), path)
        self.assertTrue(self.review()["found"])


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
        told = self.at("get", "questions").json()["questions"]
        self.assertEqual([one["clock"] for one in told], [62, 82.2])
        self.put(self.scored, "call", t=46, kind="call", to="b", points=2)
        first = self.at("get", "questions").json()["questions"][0]["text"]
        self.assertIn("by our eye 3 points to the opponent for the guard pass, held 20 s by our eye", first)
        page = self.at("get", "questions/html")
        self.assertContains(page, "Bo Calder")
        self.assertTrue(self.at("get", "questions/pdf").content.startswith(b"%PDF"))

    def test_the_match_as_files(self):
        self.assertIn("points,3,held", self.at("get", "file/csv").content.decode())
        self.assertTrue(self.at("get", "file/vtt").content.startswith(b"WEBVTT"))
        self.assertIn(b"SCORE SHEET", self.at("get", "file/txt").content)
        self.assertEqual(self.at("get", "file/exe").status_code, 404)
