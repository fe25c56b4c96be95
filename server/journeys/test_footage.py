"""Finding the moment: exact frames, repeating, looking closer, spans by a held key."""

from __future__ import annotations

import itertools
import re
import subprocess

from django.db import connection
from playwright.sync_api import expect

from footage.actions import prepare
from footage.probe import frames_in, probe
from jobs.models import Job
from jobs.tasks import upkeep
from matches.logs import log_of
from matches.models import Match
from matches.parts import Part, lay_out, parts_of

from .base import TRUTH, Journey

#: 25 frames a second for two seconds, then ten: phones slow down when the hall is dark.
UNEVEN = "setpts='if(lt(N,50),N/25,2+(N-50)/10)/TB'"


class Footage(Journey):
    def film_unevenly(self, clip):
        command = ["ffmpeg", "-v", "error", "-y", "-f", "lavfi", "-i", "testsrc2=size=320x180:rate=25:duration=4"]
        how = ["-vf", UNEVEN, "-fps_mode", "vfr", "-c:v", "libx264", "-g", "20", "-pix_fmt", "yuv420p", "-f", "mp4"]
        subprocess.run([*command, *how, str(clip.path)], check=True)
        found = probe(clip.path)
        clip.demuxer, clip.content_type, clip.duration_ms, clip.fps = (
            found.demuxer,
            found.content_type,
            found.duration_ms,
            found.fps,
        )
        clip.save()

    def test_steps_are_frames_where_frames_are_not_equally_long(self):
        match = self.match()
        self.film_unevenly(match.clip)
        times = frames_in(match.clip.path, "mov").times
        self.assertGreater(len({later - t for t, later in itertools.pairwise(times)}), 1)
        with self.page.expect_response("**/frames"):
            self.sign_in(f"/matches/{match.pk}")
        self.until("document.querySelector('video')?.readyState >= 2")
        self.page.wait_for_timeout(300)
        shown = self.page.get_by_test_id("footage-time")
        steps = [0]
        for key, by in [("ArrowRight", 1)] * 54 + [("ArrowLeft", -1)] * 6:
            self.page.keyboard.press(key)
            steps.append(steps[-1] + by)
            expect(shown).to_have_text(f"0:0{times[steps[-1]] / 1000:.3f}")
        # The picture is the frame that is named: the player stands inside it.
        now = self.page.evaluate("document.querySelector('video').currentTime") * 1000
        at = steps[-1]
        self.assertTrue(times[at] <= now < times[at + 1], (times[at], now, times[at + 1]))

    def test_repeating_between_marks(self):
        self.at_desk(TRUTH)
        self.go_to(3)
        self.page.keyboard.press("[")
        self.go_to(4)
        self.page.keyboard.press("]")
        self.page.keyboard.press("\\")
        self.page.keyboard.press("Space")
        self.until("document.querySelector('video').currentTime > 3.5")
        self.until("document.querySelector('video').currentTime < 3.4")
        self.page.keyboard.press("Space")
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("button", name="Repeat this exchange")).to_be_visible()

    def test_looking_closer_and_back(self):
        self.at_desk(TRUTH)
        page, video = self.page, self.page.get_by_label("Footage of the match")
        page.keyboard.press("=")
        expect(page.get_by_text("1.3×")).to_be_visible()
        video.hover()
        page.mouse.wheel(0, -300)
        expect(page.get_by_text("1.4×")).to_be_visible()
        page.keyboard.press("0")
        expect(page.get_by_text("for the whole picture")).to_have_count(0)
        page.keyboard.press("`")
        expect(video).to_have_attribute("style", re.compile(r"rotate\(90deg\)"))
        page.keyboard.press("/")
        self.until("document.querySelector('video').muted === false")

    def test_a_key_held_down_is_a_span(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]})
        page = self.page
        self.go_to(5)
        page.keyboard.press("Space")
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.keyboard.down("x")
        page.wait_for_timeout(700)
        page.keyboard.up("x")
        page.keyboard.type("triangle")
        page.keyboard.press("Enter")
        self.saved()
        logged = log_of(match)["observations"][-1]
        self.assertEqual(logged["technique"], "triangle")
        self.assertGreater(logged["until"], logged["t"])
        self.assertGreaterEqual(logged["t"], 5)

    def test_paused_between_marks_a_span_has_its_ends(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]})
        page = self.page
        for t, key in ((6, "["), (8, "]")):
            self.go_to(t)
            page.keyboard.press(key)
        page.keyboard.press("w")
        page.keyboard.press("1")  # the first of the grips that a digit names
        self.saved()
        logged = log_of(match)["observations"][-1]
        self.assertEqual((logged["grip"], logged["t"], logged["until"]), ("collar", 6, 8))

    def test_an_observation_is_moved_along_time(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:3]})
        page = self.page
        page.get_by_test_id("spine").get_by_role("button", name="0:02").click()
        page.get_by_test_id("spine").get_by_role("button", name="0:03.000 Guard").click()
        for _ in range(3):
            page.keyboard.press("Alt+ArrowRight")
        self.saved()
        self.assertEqual(log_of(match)["observations"][1]["t"], 3.3)
        box = page.get_by_test_id("handle").bounding_box()
        page.mouse.move(box["x"] + 6, box["y"] + 6)
        page.mouse.down()
        page.mouse.move(box["x"] + 60, box["y"] + 6, steps=5)
        page.mouse.up()
        self.saved()
        self.assertGreater(log_of(match)["observations"][1]["t"], 4)
        page.keyboard.press("z")
        self.saved()
        self.assertEqual(log_of(match)["observations"][1]["t"], 3)

    def test_the_clock_against_the_scoreboard(self):
        self.at_desk(TRUTH)
        page = self.page
        page.get_by_text("Check the clock against the scoreboard").click()
        for t, left in ((6, "0:35"), (16, "0:30")):
            self.go_to(t)
            page.get_by_label("Time left on the scoreboard now").fill(left)
            page.get_by_role("button", name="Add").click()
            expect(page.get_by_text(f"showed {left} left")).to_be_visible()
            page.get_by_test_id("match-clock").click()
        expect(page.get_by_test_id("clock-check").last).to_have_text(
            "A stop of 5 s is missing between 0:06 and 0:16 of the footage."
        )


class LookAgain(Journey):
    def test_an_unsure_eye_gives_a_range_and_a_list(self):
        match = self.at_desk(TRUTH)
        page = self.page
        self.go_to(5)
        page.keyboard.press("u")
        self.saved()
        page.keyboard.press("3")
        self.saved()
        self.assertEqual(log_of(match)["observations"][1]["doubt"], "too_far")
        expect(page.get_by_test_id("range")).to_contain_text("with 1 unsure entry")
        again = page.get_by_role("region", name="Worth checking")
        expect(again).to_contain_text("unsure: too far away")
        page.keyboard.press("u")
        self.saved()
        expect(page.get_by_test_id("range")).to_have_count(0)

    def test_a_few_prompts_at_a_time(self):
        places = [("side", "a"), ("mount", "b")]
        leaps = [
            {"t": 1 + n, "kind": "position", "position": places[n % 2][0], "top": places[n % 2][1]} for n in range(12)
        ]
        self.at_desk({**TRUTH, "observations": [{"t": 0, "kind": "clock", "action": "start"}, *leaps]})
        prompts = self.page.get_by_test_id("prompt")
        expect(prompts).to_have_count(4)
        self.page.get_by_role("button", name="7 more").click()
        expect(prompts).to_have_count(11)
        self.page.get_by_role("button", name="Show fewer").click()
        expect(prompts).to_have_count(4)

    def test_a_prompt_is_taken_or_let_be(self):
        idle = [{"t": 0, "kind": "clock", "action": "start"}, {"t": 1, "kind": "position", "position": "side", "top": "b"},
                {"t": 26, "kind": "position", "position": "mount", "top": "b"}, {"t": 27, "kind": "position", "position": "side", "top": "a"}]  # fmt: skip
        match = self.at_desk({**TRUTH, "observations": idle})
        prompts = self.page.get_by_test_id("prompt")
        expect(prompts).to_have_count(2)
        expect(prompts.first).to_contain_text("Was Bo Calder stalling")
        prompts.first.get_by_role("button", name="Log stalling").click()
        self.saved()
        self.assertEqual(
            log_of(match)["observations"][-1], {**log_of(match)["observations"][-1], "kind": "foul", "by": "b", "t": 21}
        )
        expect(prompts).to_have_count(1)
        prompts.first.get_by_role("button", name="Ignore").click()
        expect(prompts).to_have_count(0)
        self.page.reload()
        expect(self.page.get_by_test_id("because")).to_be_visible()
        expect(prompts).to_have_count(0)

    def test_officials_calls_stand_beside_the_awards(self):
        calls = [
            *TRUTH["observations"][:2],
            {"t": 8, "kind": "call", "to": "b", "points": 2},
            {"t": 15, "kind": "end", "how": "time"},
        ]
        self.at_desk({**TRUTH, "observations": calls})
        self.page.get_by_label("Show on the timeline").select_option("officials")
        spine = self.page.get_by_test_id("spine")
        expect(spine).to_contain_text("but 2 points to the opponent by the officials")

    def test_work_of_a_worker_that_died_is_taken_up_again(self):
        """Its job stands as being done, and its heartbeat is a minute old."""
        clip = self.clip()
        prepare(clip)
        with connection.cursor() as cursor:
            dead = (
                "insert into procrastinate_workers (last_heartbeat) values (now() - interval '1 minute') returning id"
            )
            cursor.execute(dead)
            (worker,) = cursor.fetchone()
            cursor.execute(
                "update procrastinate_jobs set status = 'doing', worker_id = %s, attempts = 1 where id = %s",
                [worker, clip.job.queued],
            )
        Job.objects.filter(pk=clip.job_id).update(state="working", progress=0.4)
        upkeep.defer(timestamp=0)
        self.work_once()
        clip.refresh_from_db()
        self.assertEqual((clip.job.state, clip.played_as), ("done", "video/webm"))


class Parts(Journey):
    """Several clips in a row, and a clip that begins in the middle of a match."""

    def other_clip(self):
        other = self.clip()
        other.name = "second half.webm"
        other.save()
        return other

    def test_two_clips_with_a_gap_are_one_footage(self):
        match = self.match(TRUTH)
        length = match.clip.duration_ms / 1000
        start = int(length) + 11
        lay_out(match, [Part(match.clip, 0), Part(self.other_clip(), start * 1000)])
        self.sign_in(f"/matches/{match.pk}")
        page = self.page
        self.until("document.querySelector('video')?.readyState >= 2")
        shown = page.get_by_test_id("footage-time")
        line = page.get_by_label("Time in the footage")
        line.fill(str(start - 2))
        expect(page.get_by_text("No footage for this part of the match")).to_be_visible()
        line.fill(str(start + 3))
        self.until("document.querySelector('video')?.readyState >= 2")
        page.keyboard.press("ArrowRight")
        expect(shown).to_have_text(f"0:{start + 3:02d}.050")
        self.until("Math.abs(document.querySelector('video').currentTime - 3.075) < 0.02")
        page.keyboard.press("m")
        self.saved()
        self.assertEqual(log_of(match)["observations"][-1]["t"], start + 3.05)
        line.fill(str(start - 0.4))
        page.keyboard.press("Space")
        self.until("document.querySelector('video')?.currentTime > 0.3")
        page.keyboard.press("Space")
        page.goto(f"{self.live_server_url}/matches/{match.pk}/review")
        expect(page.get_by_label("Footage of the match")).to_be_visible()

    def test_playing_goes_on_into_the_next_clip(self):
        match = self.match()
        length = match.clip.duration_ms
        other = self.other_clip()
        lay_out(match, [Part(match.clip, 0), Part(other, length)])
        self.sign_in(f"/matches/{match.pk}")
        page = self.page
        self.until("document.querySelector('video')?.readyState >= 2")
        page.get_by_label("Time in the footage").fill(str(length / 1000 - 0.5))
        page.keyboard.press("Space")
        self.until(
            f"document.querySelector('video').src.includes('{other.pk}') && document.querySelector('video').currentTime > 0.3"
        )

    def test_clips_are_laid_out_by_hand(self):
        other = self.other_clip()
        match = self.at_desk()
        page = self.page
        page.get_by_role("button", name="Clips").click()
        page.get_by_label("or use one already uploaded").select_option(str(other.pk))
        expect(page.get_by_label("Footage time there")).to_have_count(2)
        page.get_by_label("Footage time there").nth(1).fill("0:10")
        page.get_by_role("button", name="Apply", exact=True).nth(1).click()
        expect(page.get_by_role("dialog")).to_contain_text("before journey.webm ends")
        page.get_by_label("Footage time there").nth(1).fill("1:10")
        with page.expect_response("**/parts"):
            page.get_by_role("button", name="Apply", exact=True).nth(1).click()
        expect(page.get_by_role("dialog").get_by_text("before journey.webm ends")).to_have_count(0)
        self.assertEqual([part.start for part in parts_of(Match.objects.get(pk=match.pk))], [0, 70_000])

    def test_footage_that_begins_in_the_middle_of_the_match(self):
        match = self.at_desk()
        page = self.page
        page.get_by_text("Does the footage start partway through the match?").click()
        page.get_by_label("Match time left").fill("0:28")
        page.get_by_role("combobox", name="Position").select_option("guard b")
        page.get_by_label("Bo Calder: points").fill("2")
        page.get_by_label("Bo Calder: penalties").fill("1")
        page.get_by_role("button", name="Start from here").click()
        self.saved()
        expect(page.get_by_role("img", name="2 points", exact=True)).to_be_visible()
        expect(page.get_by_text("Nothing logged yet")).to_have_count(0)
        page.get_by_label("Time in the footage").fill("2")
        expect(page.get_by_test_id("match-clock")).to_have_text("0:14")
        logged = log_of(match)["observations"]
        self.assertEqual([(seen["t"], seen["kind"]) for seen in logged], [(0, "begin"), (0, "position"), (0, "clock")])
        self.assertEqual((logged[0]["clock"], logged[0]["score"]), (12, {"a": {}, "b": {"points": 2, "penalties": 1}}))

    def test_an_answer_about_the_clips_that_is_overtaken_brings_nothing_back(self):
        match = self.at_desk()
        page = self.page
        page.get_by_role("button", name="Clips").click()
        page.get_by_label("Footage time there").fill("0:03")
        overtaken = []
        page.route("**/parts", lambda route: overtaken.append((route, route.fetch())))
        page.get_by_role("button", name="Apply", exact=True).click()
        page.get_by_role("button", name="Back to the desk").click()
        page.keyboard.press("c")
        self.saved()
        for _ in range(200):  # the answer may still be on its way
            if overtaken:
                break
            page.wait_for_timeout(50)
        route, answer = overtaken[0]
        stale = {**answer.json(), "revision": 0, "observations": [], "revisions": {}}
        with page.expect_response("**/parts"):
            route.fulfill(response=answer, json=stale)
        expect(page.get_by_test_id("spine")).to_contain_text("Clock started")
        self.assertEqual([seen["kind"] for seen in log_of(match)["observations"]], ["clock"])

    def test_which_one_is_which(self):
        self.at_desk(TRUTH)
        page = self.page
        page.get_by_role("button", name="Ada").click()
        page.get_by_label("Ada Brenn").fill("white gi")
        page.get_by_label("Bo Calder").fill("blue gi, beard")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        page.get_by_role("button", name="Back to the desk").click()
        expect(page.get_by_role("group", name="Opponent on top")).to_contain_text("blue gi, beard")
        page.get_by_label("Time in the footage").fill("10")
        expect(page.get_by_test_id("who")).to_contain_text("on top")
