"""The report and the link to it: what it shows, and that it shows nothing else."""

from __future__ import annotations

import io
from datetime import timedelta
from unittest import mock

from django.contrib.auth.models import User
from django.utils import timezone
from pypdf import PdfReader

from clubs.actions import join
from clubs.models import Role
from footage.models import Clip
from jobs.models import Job
from matches.models import Match
from reviews.models import Answer, Cut, Link, Tick

from .base import GRIPPED, LOG, MOUNTED, PASSED, ReviewCase


class Shared(ReviewCase):
    def link(self, days=7):
        return self.at("post", "links", {"days": days}).json()

    def shared(self, token, path="", method="get", body=None):
        """As somebody who is signed in nowhere."""
        self.client.logout()
        answer = self.call(method, f"shared/{token}{path}", body)
        self.client.force_login(self.coach)
        return answer


class Waiting(Shared):
    def test_what_waits_for_the_coach(self):
        def waiting():
            return self.call("get", "waiting").json()

        def listed(state):
            return self.call("get", f"matches?state={state}").json()["count"]

        self.assertEqual(waiting(), {"clips": 0, "not_scored": 0, "to_submit": 0, "answered": 0})
        empty = {"ruleset": "late-points", "duration_ms": 300_000, "age": 24, "belt": "brown", "attire": "nogi"}
        self.set_up(opponent="Empty", **empty)
        self.assertEqual(waiting()["not_scored"], 1)
        self.assertEqual([listed(state) for state in ("not_scored", "scored", "reviewed", "sent")], [1, 1, 0, 0])
        token = self.at("post", "links", {"days": 1}).json()["token"]
        self.remark(PASSED, standing="accepted")
        self.remark(GRIPPED, standing="accepted")
        self.assertEqual([listed(state) for state in ("reviewed", "sent", "answered")], [1, 1, 0])
        for text in ("I froze.", "Twice."):
            self.shared(token, "/answers", "post", {"text": text})
        self.assertEqual((waiting()["answered"], listed("answered")), (1, 1))
        self.at("get", "report")
        self.assertEqual(waiting()["answered"], 0)
        join(self.club, self.other, Role.SCORER)
        self.at("post", "seconds", {"user": self.other.pk})
        self.client.force_login(self.other)
        self.assertEqual(waiting(), {"clips": 0, "not_scored": 0, "to_submit": 1, "answered": 0})


class Report(Shared):
    def test_nothing_is_in_it_that_the_coach_has_not_accepted(self):
        def titles(report):
            return [
                title for one in report["mattered"] for title in (one["title"], *(to["title"] for to in one["led_to"]))
            ]

        empty = self.at("get", "report").json()
        self.assertEqual((empty["mattered"], empty["drills"]), ([], []))
        self.assertEqual([title for row in empty["line"] for title in row["began"]], [])
        self.remark(PASSED, came_from=GRIPPED, standing="accepted")  # and not where it came from
        report = self.at("get", "report").json()
        self.assertEqual(titles(report), ["Guard pass conceded"])
        self.assertEqual([title for row in report["line"] for title in row["began"]], ["Guard pass conceded"])
        (shown,) = [chain["in_report"] for chain in self.review()["chains"] if chain["in_report"]]
        self.assertEqual(shown, [PASSED])
        self.remark(PASSED, standing="open")  # taken out again
        self.assertEqual(titles(self.at("get", "report").json()), [])
        self.assertEqual(self.at("post", "answers", {"text": "x"}).status_code, 404)

    def test_it_tells_of_the_few_that_mattered_most_of_what_was_accepted(self):
        self.accept()
        for key in (PASSED, MOUNTED):
            self.remark(key, standing="accepted", came_from="", root=True)  # each began by itself
        for age, most in ((24, 3), (15, 2)):
            self.call("patch", f"matches/{self.match_id}", {"age": age, "belt": "blue" if age == 24 else "green"})
            report, review = self.at("get", "report").json(), self.review()
            shown = [chain for chain in review["chains"] if chain["in_report"]]
            self.assertGreater(len(review["chains"]), most)  # or nothing would be left out
            self.assertEqual(len(report["mattered"]), most)
            self.assertEqual({one["key"] for one in report["mattered"]}, {one["first"] for one in shown})

    def test_result_what_was_done_well_what_mattered_and_drills(self):
        self.remark(PASSED, came_from=GRIPPED, standing="accepted")
        self.remark(GRIPPED, causes=["grips"], title="Never broke the grip", standing="accepted")
        self.accept()
        got = self.at("get", "report").json()
        self.assertEqual((got["athlete"], got["result"]["winner"]), ("Ada Brenn", "b"))
        self.assertEqual(got["because"], "Bo Calder won on points.")
        first = got["mattered"][0]
        self.assertEqual((first["title"], first["causes"]), ("Never broke the grip", ["grips"]))
        self.assertEqual([one["title"] for one in first["led_to"]], ["Guard pass conceded", "Mount nearly conceded"])
        self.assertRegex(
            first["cost"], r"^Cost: 3 points and 1 advantage, and \d+ percentage points of the chance to win\.$"
        )
        self.assertLessEqual(len(got["mattered"]), 3)
        self.assertTrue(got["well"])
        self.assertIn("two on one and off within five seconds", got["drills"][0]["text"])
        self.assertEqual([row["clock"] for row in got["line"]], [5, 80])
        self.assertIn("medical staff", got["deference"])

    def test_the_coachs_own_words(self):
        self.at("put", "letter", {"greeting": "Good fight.", "well": "You never gave up."})
        self.at("post", "notes", {"t": 42, "text": "Frame first"})
        got = self.at("get", "report").json()
        self.assertEqual((got["greeting"], got["well"][0]), ("Good fight.", "You never gave up."))
        self.assertEqual(got["notes"], [{"clock": 42, "text": "Frame first"}])
        self.assertEqual(self.at("get", "letter").json()["greeting"], "Good fight.")

    def test_a_child_is_told_less_and_in_shorter_sentences(self):
        self.accept()
        adult = self.at("get", "report").json()
        self.call("patch", f"matches/{self.match_id}", {"age": 15, "belt": "green"})
        child = self.at("get", "report").json()
        self.assertEqual((adult["young"], child["young"]), (False, True))
        self.assertLessEqual(len(child["mattered"]), 2)
        self.assertIn("and you did not break it", child["mattered"][0]["because"])
        self.assertEqual(child["mattered"][0]["cost"], "Cost: 3 points and 1 advantage.")
        pages = PdfReader(io.BytesIO(self.at("get", "report.pdf").content)).pages
        self.assertIn("What to work on", " ".join(page.extract_text() for page in pages))

    def test_names_stand_in_the_core_s_sentences_and_never_in_the_coach_s_own_words(self):
        self.remark(PASSED, came_from=GRIPPED, because="Tell the athlete: frames before hips.")
        self.at("post", "notes", {"t": 42, "text": "The athlete looks away"})
        self.at("put", "letter", {"greeting": "The opponent was good.", "well": ""})
        said = {one["key"]: one["title"] + one["because"] for one in self.review()["found"]}
        self.assertIn("Tell the athlete: frames before hips.", said.pop(PASSED))
        self.assertNotRegex(" ".join(said.values()), "(?i)the (athlete|opponent)")
        pages = PdfReader(io.BytesIO(self.at("get", "report.pdf").content)).pages
        text = " ".join(" ".join(page.extract_text() for page in pages).split())
        for own in ("The athlete looks away", "The opponent was good."):
            self.assertIn(own, text)

    def test_an_error_at_the_boundary_of_two_exchanges_or_at_the_end_is_on_the_line_of_time(self):
        """The sweep at 80 begins an exchange, and is where its error began; the end of the match is of the last one."""
        self.at("put", "observations/last", {"t": 120, "kind": "foul", "by": "a", "foul": "stalling"})
        self.accept()
        began = [(row["clock"], title) for row in self.at("get", "report").json()["line"] for title in row["began"]]
        self.assertEqual(len(began), len(self.review()["found"]))
        self.assertIn(80, [clock for clock, _ in began])

    def test_on_paper(self):
        self.remark(PASSED, came_from=GRIPPED)
        self.accept()
        text = "".join(
            page.extract_text() for page in PdfReader(io.BytesIO(self.at("get", "report.pdf").content)).pages
        )
        for said in ("Ada Brenn", "Bo Calder won on points", "What mattered", "To drill", "Cost:", "medical staff"):
            self.assertIn(said, text)
        self.assertNotIn("the opponent", text)


class Links(Shared):
    def test_it_shows_the_report_to_whoever_has_it(self):
        made = self.link()
        answer = self.shared(made["token"])
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(answer.json()["athlete"], "Ada Brenn")
        self.assertEqual(answer["Cache-Control"], "no-store, private")
        self.assertIn("noindex", answer["X-Robots-Tag"])
        self.assertEqual(answer["Referrer-Policy"], "no-referrer")
        self.assertTrue(self.shared(made["token"], "/report.pdf").content.startswith(b"%PDF"))
        (listed,) = self.at("get", "links").json()
        self.assertNotIn("token", listed)
        self.assertIsNotNone(listed["opened"])
        self.assertFalse(Link.objects.filter(digest__contains=made["token"]).exists())

    def test_nothing_of_the_installation_is_in_it(self):
        self.remark(PASSED, standing="dismissed", because="Between us: he was afraid.")
        text = self.shared(self.link()["token"]).content.decode()
        for secret in ("afraid", "coach", str(self.scored.pk), "x.webm"):
            self.assertNotIn(secret, text.replace("your coach", ""))

    def refused(self, token, paths=("", "/report.pdf")):
        for path in paths:
            answer = self.shared(token, path)
            self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"), path)
            self.assertNotIn("Brenn", answer.content.decode())
        for path, method, body in (
            ("/answers", "post", {"text": "hello"}),
            (f"/drills/{PASSED}", "put", {"done": True}),
        ):
            self.assertEqual(self.shared(token, path, method, body).status_code, 404)
        self.assertFalse(Answer.objects.exists() or Tick.objects.exists())

    def test_revoked(self):
        made = self.link()
        self.assertEqual(self.at("delete", f"links/{made['id']}").status_code, 204)
        self.refused(made["token"])

    def test_expired(self):
        made = self.link()
        Link.objects.update(ends=timezone.now() - timedelta(seconds=1))
        self.refused(made["token"])

    def test_guessed(self):
        made = self.link()
        for token in (
            "",
            "a",
            made["token"][:-1],
            made["token"] + "x",
            made["token"].swapcase(),
            made["id"],
            "x" * 500,
        ):
            if token:
                self.refused(token)

    def test_the_match_is_gone(self):
        made = self.link()
        self.call("delete", f"matches/{self.match_id}")
        self.refused(made["token"])

    def test_another_coachs_match(self):
        self.client.force_login(self.other)
        for path, method in (("links", "get"), ("links", "post"), ("report", "get"), ("report.pdf", "get")):
            self.assertEqual(self.at(method, path, {"days": 3}).status_code, 404)

    def test_how_long_it_lasts(self):
        for days in (0, 367, "soon"):
            answer = self.at("post", "links", {"days": days})
            self.assertEqual([fault["path"] for fault in answer.json()["faults"]], ["days"])

    def test_revoking_makes_room_for_another(self):
        with mock.patch("reviews.actions.MOST_LINKS", 1):
            made = self.link()
            self.assertEqual(self.at("post", "links", {"days": 7}).json()["code"], "too_many")
            self.at("delete", f"links/{made['id']}")
            self.assertIn("token", self.link())

    def test_another_matchs_clip(self):
        token = self.link()["token"]
        other = Match.objects.get(pk=self.set_up(log=LOG).json()["id"])
        clip = Clip.objects.create(club=self.club, uploader=self.coach, name="x.webm", size=1, state="ready")
        cuts = [
            Cut.objects.create(
                match=match,
                key=PASSED,
                clip=clip,
                start_ms=0,
                end_ms=9,
                captions="WEBVTT",
                job=Job.objects.create(owner=self.coach, kind="cut a clip", state=state),
            )
            for match, state in ((other, "done"), (self.scored, "working"))
        ]
        for cut in cuts:  # of another match, and not made yet
            for part in ("content", "captions", "elsewhere"):
                self.assertEqual(self.shared(token, f"/cuts/{cut.pk}/{part}").status_code, 404)
        cuts[1].path.write_bytes(b"a clip")
        Job.objects.filter(pk=cuts[1].job_id).update(state="done")
        self.assertEqual(b"".join(self.shared(token, f"/cuts/{cuts[1].pk}/content").streaming_content), b"a clip")
        self.at("delete", f"cuts/{cuts[1].pk}")
        self.assertFalse(cuts[1].path.exists())


class Athlete(Shared):
    def test_writes_back_and_ticks_off(self):
        self.remark(PASSED, came_from=GRIPPED)
        self.accept()
        token = self.link()["token"]
        self.assertEqual(self.shared(token, "/answers", "post", {"text": "I froze.", "key": GRIPPED}).status_code, 201)
        self.shared(token, "/answers", "post", {"text": "Thank you!"})
        got = self.shared(token, f"/drills/{GRIPPED}", "put", {"done": True}).json()
        self.assertEqual(
            [(one["key"], one["text"]) for one in got["answers"]], [(GRIPPED, "I froze."), ("", "Thank you!")]
        )
        self.assertTrue(got["drills"][0]["done"])
        self.assertTrue(self.at("get", "report").json()["drills"][0]["done"])
        self.shared(token, f"/drills/{GRIPPED}", "put", {"done": False})
        self.assertFalse(self.at("get", "report").json()["drills"][0]["done"])

    def test_each_link_shows_its_own_answers_and_the_coach_sees_all(self):
        for_athlete, for_parent = self.link()["token"], self.link()["token"]
        self.shared(for_athlete, "/answers", "post", {"text": "I was scared."})
        got = self.shared(for_parent, "/answers", "post", {"text": "Was she hurt?"}).json()
        self.assertEqual([one["text"] for one in got["answers"]], ["Was she hurt?"])
        self.assertEqual([one["text"] for one in self.shared(for_athlete).json()["answers"]], ["I was scared."])
        self.assertEqual(len(self.at("get", "report").json()["answers"]), 2)

    def test_the_coach_answers_where_it_was_written(self):
        for_athlete, for_parent = self.link()["token"], self.link()["token"]
        self.shared(for_athlete, "/answers", "post", {"text": "I was scared."})
        self.shared(for_parent, "/answers", "post", {"text": "Was she hurt?"})
        (asked, _) = self.at("get", "report").json()["answers"]
        said = self.at("put", f"answers/{asked['id']}", {"reply": " We start slower next time. "})
        self.assertEqual(said.json()["answers"][0]["reply"], "We start slower next time.")
        shown = self.shared(for_athlete).json()["answers"]
        self.assertEqual([one["reply"] for one in shown], ["We start slower next time."])
        self.assertEqual([one["reply"] for one in self.shared(for_parent).json()["answers"]], [""])
        self.assertEqual(self.at("put", "answers/0", {"reply": "x"}).status_code, 404)
        self.assertEqual(self.at("put", f"answers/{asked['id']}", {"reply": "x" * 601}).status_code, 400)

    def test_only_whose_footage_it_is_makes_links_and_sees_all(self):
        scorer = User.objects.create_user("second", password="amber")
        join(self.club, scorer, Role.COACH)
        second = self.call("post", f"matches/{self.match_id}/seconds", {"user": scorer.pk}).json()["match"]
        self.client.force_login(scorer)
        answer = self.call("post", f"matches/{second}/links", {"days": 7})
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "not_yours"))
        older = Link.objects.create(match_id=second, digest="d", ends=timezone.now() + timedelta(days=1))
        self.client.force_login(self.coach)
        self.assertEqual([one["id"] for one in self.at("get", "links").json()], [str(older.pk)])
        self.assertEqual(self.at("delete", f"links/{older.pk}").status_code, 204)
        self.assertTrue(Link.objects.get().revoked)

    def test_only_on_what_the_report_shows(self):
        token = self.link()["token"]
        self.accept()
        self.remark(MOUNTED, standing="dismissed")
        self.assertEqual(self.shared(token, f"/drills/{MOUNTED}", "put", {"done": True}).status_code, 404)
        self.assertEqual(self.shared(token, "/answers", "post", {"text": "x", "key": MOUNTED}).status_code, 404)
        for body in ({"text": " "}, {"text": "x" * 601}, {}):
            answer = self.shared(token, "/answers", "post", body)
            self.assertEqual([fault["path"] for fault in answer.json()["faults"]], ["text"])
