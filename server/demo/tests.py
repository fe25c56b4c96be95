"""The demo: what its matches come to, and that it is loaded once."""

import re
import shutil
from io import StringIO
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import call_command
from django.test import TestCase

from demo.setting import ATHLETES, PASSWORD, demo_matches, film
from footage.models import Clip
from jurata_core.answers import score
from matches.models import Match


class Demo(TestCase):
    def test_what_the_matches_come_to(self):
        matches = demo_matches()
        told = {name: score(match["log"])["result"] for name, match in matches.items()}
        self.assertEqual(told["teen-in-the-gi"], {"winner": "a", "method": "points"})
        self.assertEqual(told["blue-belt-by-an-advantage"], {"winner": "b", "method": "advantages"})
        self.assertEqual(matches["late-points-no-gi"]["log"]["division"]["attire"], "nogi")
        self.assertEqual([name for name, match in matches.items() if match.get("unscored")], ["ready-to-score"])
        self.assertEqual(len({(athlete["birth_year"], athlete["belt"]) for athlete in ATHLETES}), 4)

    def test_loading_it_twice_loads_it_once(self):
        """With a clip of three seconds in place of the long one."""
        folder = Path(settings.DATA) / "demo-clips"
        shutil.rmtree(folder, ignore_errors=True)
        folder.mkdir(parents=True)
        self.addCleanup(shutil.rmtree, folder)
        log = demo_matches()["ready-to-score"]["log"]
        film(({**log, "observations": log["observations"][:1]}, folder / "ready-to-score.webm"))
        for _ in range(2):
            call_command("load_demo", only="ready-to-score", verbosity=0)
        self.assertEqual((User.objects.count(), Match.objects.count(), Clip.objects.count()), (2, 1, 1))
        Clip.objects.get().path.unlink()


class RealUse(TestCase):
    def test_demo_accounts_are_closed_and_a_first_account_is_made_once(self):
        User.objects.create_user("coach", password=PASSWORD)
        said = StringIO()
        call_command("begin_real_use", name="varn", stdout=said)
        first = re.search(r"The first account is varn, with the password (\S+)", said.getvalue()).group(1)
        self.assertTrue(User.objects.get(username="varn").check_password(first))
        self.assertFalse(User.objects.get(username="coach").has_usable_password())
        call_command("begin_real_use", name="varn", stdout=said)
        self.assertEqual(said.getvalue().count("first account"), 1)
        self.assertTrue(User.objects.get(username="varn").check_password(first))

    def test_whoever_chose_a_password_keeps_it(self):
        User.objects.create_user("coach", password="a password of one's own")
        call_command("begin_real_use", stdout=StringIO())
        self.assertEqual(User.objects.count(), 1)
        self.assertTrue(User.objects.get().has_usable_password())
