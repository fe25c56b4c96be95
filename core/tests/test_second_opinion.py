"""The adjudication against the second opinion, on random logs."""

import os
import random
import unittest

from jurata_core.answers import score
from jurata_core.match_log import read_log
from jurata_core.rulesets import preset_settings

from .random_logs import random_log
from .second_opinion import UNKNOWN, Naive

LOGS = int(os.environ.get("JURATA_RANDOM_LOGS", "500"))
KNOWN_TECHNIQUES = (("triangle", 40), ("single leg head outside", 2), ("slam", 1), (UNKNOWN, 4))


def known_log(rng):
    """A random log in which every technique is one that the second opinion knows."""
    log = random_log(rng, 30)
    names, weights = zip(*KNOWN_TECHNIQUES, strict=True)
    for one in log["observations"]:
        if "technique" in one:
            one["technique"] = rng.choices(names, weights)[0]
    return log


def rules_of(ruleset):
    changes = {} if isinstance(ruleset, str) else ruleset
    base = preset_settings(ruleset if isinstance(ruleset, str) else ruleset["extends"])
    return {**base, **changes, "points": {**base["points"], **changes.get("points", {})}}


class SecondOpinion(unittest.TestCase):
    def test_both_agree_on_random_logs(self):
        rng = random.Random(20)
        for number in range(LOGS):
            log = known_log(rng)
            with self.subTest(number=number):
                read_log(log)
                found = score(log, brief=True)
                theirs = Naive(log, rules_of(log["ruleset"])).walk()
                self.assertEqual(theirs, (found["score"], found["result"]["winner"], found["result"]["method"]))
