"""Lessons add up: taught one by one, in any order, and taken away again, they say what all matches say together."""

import json
import random
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.chance import count
from jurata_core.lessons import added, lesson_of, moves_in, seen_in
from jurata_core.match_log import read_log
from jurata_core.winnable import moves_of

from .random_logs import random_log


def matches(number):
    rng = random.Random(5)
    found = []
    while len(found) < number:
        log = read_log(random_log(rng))
        verdict = adjudicate(log)
        if lesson_of(log, verdict):
            found.append((log, verdict))
    return found


class Lessons(unittest.TestCase):
    def test_they_say_what_all_matches_say(self):
        made = matches(60)
        known = {}
        for log, verdict in made:
            known = added(known, json.loads(json.dumps(lesson_of(log, verdict))))
        self.assertEqual(seen_in(known), _without_zeros(count(made)))
        moves = sum((moves_of(verdict) for _, verdict in made), type(moves_of(made[0][1]))())
        self.assertEqual(moves_in(known), moves)

    def test_one_taken_away_is_as_if_it_had_never_been(self):
        made = [lesson_of(*one) for one in matches(6)]
        without = {}
        for lesson in made[1:]:
            without = added(without, lesson)
        known = {}
        for lesson in made:
            known = added(known, lesson)
        self.assertEqual(added(known, made[0], -1), without)

    def test_a_match_that_is_not_over_teaches_nothing(self):
        log = read_log(random_log(random.Random(1)))
        open_log = type(log)(log.ruleset, log.duration, log.division, log.observations[:2], log.raw)
        self.assertEqual(lesson_of(open_log, adjudicate(open_log)), {})


def _without_zeros(seen):
    lasted = {band: n for band, n in seen.lasted.items() if n}
    return type(seen)(seen.counts, lasted, seen.matches)
