"""The production set-up of deploy/ on two machines, and its units as systemd reads them."""

from __future__ import annotations

import re
import shutil
import subprocess
import time
import unittest

from django.conf import settings
from django.test import SimpleTestCase
from playwright.sync_api import expect

from footage.models import Clip
from jobs.models import Job
from matches.models import Observation

from . import test_desk, test_whole_way
from .machines import DEPLOY, FIRST, NAMESPACES, TwoMachines


class OnTwoMachines(TwoMachines):
    test_a_newcomer = test_whole_way.WholeWay.test_a_newcomer_signs_in_uploads_a_clip_and_reaches_the_desk
    log_with_keys = test_desk.Scoring.log_with_keys
    test_keys_score = test_desk.Scoring.test_scoring_with_the_keyboard_gives_the_verdict_of_the_true_log

    def test_while_one_server_is_down_the_other_one_takes_the_keys(self):
        self.at_desk()
        for round_, down in enumerate(NAMESPACES):
            if round_:  # the first one is there again
                self.run_what_stopped()
                self.wait_until_ready()
            self.stop(self.servers[down])
            self.page.get_by_label("Time in the footage").fill(str(3 + 5 * round_))
            self.page.keyboard.press("c")
            state = self.page.get_by_test_id("save-state")
            expect(state).to_have_attribute("aria-busy", "false", timeout=60_000)  # it is tried again, ever less often
            self.saved()
        self.assertEqual(Observation.objects.filter(deleted=False).count(), 2)

    def test_a_clip_is_prepared_though_one_worker_dies(self):
        self.stop(self.media["jurata-first"])
        self.sign_in("/matches/new")
        self.page.get_by_label("Upload a clip").set_input_files(self.footage)
        expect(self.page.get_by_label("or use one already uploaded")).to_contain_text(self.footage.name)
        for _ in range(300):
            if Job.objects.filter(state=Job.State.DONE).exists():
                break
            time.sleep(0.1)
        self.assertEqual(Clip.objects.get().played_as, "video/webm")

    def test_without_tls_it_sends_to_where_there_is_and_the_metrics_stay_inside(self):
        answer = self.page.request.get(f"http://{FIRST}/matches", max_redirects=0)
        self.assertEqual((answer.status, answer.headers["location"]), (301, f"https://{FIRST}/matches"))
        answer = self.page.request.get(f"{self.address}/api/session")
        self.assertEqual(answer.headers["strict-transport-security"], "max-age=31536000")
        self.assertEqual(self.page.request.get(f"{self.address}/metrics").status, 403)


class Units(SimpleTestCase):
    units = sorted((DEPLOY / "units").glob("*.service"))

    @unittest.skipUnless(shutil.which("systemd-analyze"), "systemd is not installed here")
    def test_systemd_reads_them_and_they_are_hardened(self):
        asked = ["systemd-analyze", "security", "--offline=true", "--threshold=30", *map(str, self.units)]
        done = subprocess.run(asked, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[-2000:] + done.stderr)

    def test_none_runs_as_root_and_all_have_the_same_settings(self):
        self.assertGreaterEqual(len(self.units), 5)
        for unit in self.units:
            text = unit.read_text("utf-8")
            self.assertIn("\nUser=jurata\n", text, unit.name)
            self.assertIn("\nNoNewPrivileges=yes\n", text, unit.name)
            if "nginx" not in unit.name:
                self.assertIn("\nEnvironmentFile=/etc/jurata/jurata.env\n", text, unit.name)

    def test_every_setting_of_the_installation_is_one_that_the_program_reads(self):
        known = (settings.ROOT / "server" / "config" / "settings.py").read_text("utf-8")
        known += (settings.ROOT / "server" / "gunicorn.conf.py").read_text("utf-8")
        named = re.findall(r"^#?(JURATA_\w+)=", (DEPLOY / "jurata.env.in").read_text("utf-8"), re.M)
        self.assertGreater(len(named), 10)
        for name in named:
            self.assertIn(f'"{name}"', known.replace("'", '"'))
