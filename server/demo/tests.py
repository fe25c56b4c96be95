"""The demo: what its matches come to, and that it is loaded once."""

import re
from io import StringIO

from django.contrib.auth.models import User
from django.core.management import call_command
from django.test import TestCase

from clubs.access import Access, Right
from demo.setting import ATHLETES, PASSWORD, SIGN_INS, filmed_matches, season
from jobs.models import Job
from jurata_core.adjudication import adjudicate
from jurata_core.answers import score
from jurata_core.match_log import read_log
from jurata_core.review import Seen, errors
from jurata_core.rulesets import preset_ids
from matches.models import Match
from matches.queries import waiting
from matches.tasks import freshen_all
from reviews.models import Remark
from roster.models import Athlete


class Demo(TestCase):
    def test_what_the_filmed_matches_come_to(self):
        matches = filmed_matches()
        self.assertEqual(len(matches), 6)
        results = {name: score(match["log"])["result"] for name, match in matches.items()}
        self.assertEqual(results["three-single-legs"], {"winner": "b", "method": "points"})
        self.assertEqual(results["patient-passing"], {"winner": "a", "method": "points"})
        self.assertEqual(results["before-the-points-open"], {"winner": "b", "method": "decision"})
        self.assertEqual(results["golden-score"], {"winner": "b", "method": "golden_score"})
        self.assertEqual([name for name, match in matches.items() if match.get("unscored")], ["ready-to-score"])
        warned = score(matches["a-warning-for-the-wrist"]["log"])
        self.assertEqual([row["technique"] for row in warned["illegal"]], ["wrist-lock"])

    def test_the_season_has_every_ruleset_child_to_master_and_ten_events(self):
        rows = [*filmed_matches().values(), *season()]
        self.assertEqual(len(rows), 40)
        self.assertGreaterEqual(len({(row["event"], row["date"]) for row in rows}), 10)
        titles = {rules if isinstance(rules := row["log"]["ruleset"], str) else rules["title"] for row in rows}
        self.assertLessEqual({*preset_ids(), "Millrace Duals rules"}, titles)
        self.assertEqual({row["athlete"] for row in rows}, {row["name"] for row in ATHLETES})
        ages = [row["log"]["division"]["age"] for row in rows]
        self.assertTrue(min(ages) < 11 and max(ages) > 45)

    def test_an_error_got_better_and_another_came_back(self):
        """What the season's pages are to find."""

        def often(athlete, kind, before_march):
            rows = [row for row in season() if row["athlete"] == athlete and (row["date"] < "2026-03") == before_march]
            logs = [read_log(row["log"]) for row in rows if not row.get("unscored")]
            found = [error.found.kind for log in logs for error in errors(Seen(log, adjudicate(log)))]
            return found.count(kind) / len(logs)

        self.assertGreaterEqual(often("Wren Oakley", "unheld", True), 1.5)
        self.assertEqual(often("Wren Oakley", "unheld", False), 0)
        for before_march in (True, False):
            self.assertGreaterEqual(often("Dara Finch", "taken", before_march), 2)

    def test_it_is_loaded_whole_once_and_its_clips_are_asked_for(self):
        for _ in range(2):
            call_command("load_demo", verbosity=0, stdout=StringIO())
        self.assertEqual((User.objects.count(), Athlete.objects.count()), (len(SIGN_INS), len(ATHLETES)))
        coach = User.objects.get(username="coach")
        self.assertEqual(coach.matches.count(), 40)
        self.assertEqual(Job.objects.filter(kind="film a clip", state="waiting").count(), 6)
        freshen_all()
        self.assertEqual(
            waiting(Access(coach.pk, Right.LIST)), {"clips": 0, "not_scored": 2, "to_submit": 0, "answered": 3}
        )
        first = Match.objects.get(opponent="Lio Varga", scorer=coach)
        self.assertTrue(first.seconds.get().finished)
        self.assertGreater(first.ticks.count(), 0)
        self.assertEqual(set(Remark.objects.values_list("standing", flat=True)), {"accepted", "open", "dismissed"})
        self.assertTrue(Match.objects.exclude(house_rules=None).exists())


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
