"""The adjudication against the second opinion, on random logs."""

import random
import unittest

from jurata_core.answers import score
from jurata_core.match_log import read_log
from jurata_core.rulesets import preset_settings

from .random_logs import random_log
from .second_opinion import Naive

KNOWN = ("clock", "position", "pull", "submission", "near", "end")
LOGS = 1500


def simple_log(rng):
    """A random log with only what the second opinion knows, and an end by time."""
    log = random_log(rng, 30, ended=True)
    kept = [one for one in log["observations"] if one["kind"] in KNOWN[:-1]]
    for one in kept:
        if one["kind"] == "submission":
            one["technique"] = "triangle"
    last = log["observations"][-1]["t"]
    log["observations"] = [*kept, {"t": last, "kind": "end", "how": "time"}]
    return log


def rules_of(ruleset):
    changes = {} if isinstance(ruleset, str) else ruleset
    base = preset_settings(ruleset if isinstance(ruleset, str) else ruleset["extends"])
    return {**base, **changes, "points": {**base["points"], **changes.get("points", {})}, "double_pull_limit": 0}


class SecondOpinion(unittest.TestCase):
    def test_both_agree_on_random_logs(self):
        rng = random.Random(20)
        for number in range(LOGS):
            log = simple_log(rng)
            rules = rules_of(log["ruleset"])
            log["ruleset"] = {
                "extends": rules["id"],
                **{name: rules[name] for name in rules if name not in ("id", "extends")},
            }
            with self.subTest(number=number):
                read_log(log)
                found = score(log)["score"]
                mine = {side: {name: found[side][name] for name in ("points", "advantages")} for side in "ab"}
                self.assertEqual(Naive(log, rules).walk(), mine)
