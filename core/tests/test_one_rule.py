"""A rule that is added in one place is followed everywhere."""

import unittest

from jurata_core.adjudication import adjudicate, outlook
from jurata_core.adjudication.at_once import AT_ONCE, AtOnceRule, Gain
from jurata_core.adjudication.fold import states_at
from jurata_core.adjudication.places import Place
from jurata_core.briefing import briefing
from jurata_core.chance import Model, Question, prior, solve
from jurata_core.chance.spots import NOTHING, Spot
from jurata_core.divisions import Division
from jurata_core.drill import make
from jurata_core.match_log import read_log
from jurata_core.match_log.observations import OTHER
from jurata_core.rulebook import scoring
from jurata_core.rulesets import preset
from jurata_core.whatif import what_if
from jurata_core.winnable import guessed, standpoint, ways

from .making import log, start

SAID = "The one who sits gives the other an advantage."
ADULT, CHILD = Division(25, "blue", "gi"), Division(9, "grey", "gi")

PULL_GIVES_AN_ADVANTAGE = AtOnceRule(
    code="pull_gives_advantage",
    when="pull",
    applies=lambda ruleset: True,
    gains=lambda step: [Gain(OTHER[side], "advantages", 1, "pull_gives_advantage") for side in step.pullers],
    sentence="{to:Who} did not sit down: {n:award}.",
    topic="Sitting down",
    said=lambda ruleset: SAID,
    plainly=lambda ruleset: "If you sit down, the other gets an advantage.",
    missing=lambda ruleset: f"{ruleset.title} gives nothing for a pull.",
)
TURTLE_GIVES_AN_ADVANTAGE = AtOnceRule(
    code="turtle_gives_advantage",
    when="change",
    applies=lambda ruleset: True,
    gains=lambda step: [
        Gain(step.after.place.top, "advantages", 1, "turtle_gives_advantage")
        for _ in range(step.after.place.position == "turtle" and step.origin.position == "guard")
    ],
    sentence="{to:Who} drove the opponent to turtle: {n:award}.",
    topic="Guard to turtle",
    said=lambda ruleset: "An advantage to the one on top.",
    plainly=lambda ruleset: "Turning to turtle gives the other an advantage.",
    missing=lambda ruleset: f"{ruleset.title} gives nothing for it.",
)


def pulled_match():
    return read_log(
        {
            "format": "jurata-match/3",
            "ruleset": "full-points",
            "duration": 300,
            "division": {"age": 25, "belt": "blue", "attire": "gi"},
            "observations": [
                {"t": 0, "kind": "clock", "action": "start"},
                {"t": 5, "kind": "pull", "by": "a"},
                {"t": 6, "kind": "position", "position": "guard", "top": "b"},
                {"t": 300, "kind": "end", "how": "time"},
            ],
        }
    )


class OneRule(unittest.TestCase):
    def with_rule(self, rule):
        AT_ONCE.append(rule)
        self.addCleanup(AT_ONCE.remove, rule)

    def test_the_verdict_gives_it_and_says_why(self):
        self.assertEqual(adjudicate(pulled_match()).result.winner, None)
        self.with_rule(PULL_GIVES_AN_ADVANTAGE)
        verdict = adjudicate(pulled_match())
        (row,) = verdict.ledger
        self.assertEqual((row.to, row.kind, row.n, row.reason.code), ("b", "advantages", 1, "pull_gives_advantage"))
        self.assertEqual(row.because, "The opponent did not sit down: 1 advantage.")
        self.assertEqual((verdict.result.winner, verdict.result.method), ("b", "advantages"))

    def test_the_rulebook_and_the_briefing_say_it(self):
        self.with_rule(PULL_GIVES_AN_ADVANTAGE)
        ruleset = preset("full-points")
        self.assertIn(("Sitting down", SAID), [(rule.topic, rule.text) for rule in scoring(ADULT, ruleset)])
        for division, text in ((ADULT, SAID), (CHILD, "If you sit down, the other gets an advantage.")):
            found = briefing(division, ruleset).wins
            self.assertIn(("Sitting down", text), [(rule.topic, rule.text) for rule in found])

    def test_the_ways_to_win_count_it(self):
        ruleset = preset("full-points")
        (state,) = states_at(read_log(log(start())), [0])
        begun = standpoint(state, "a", 0, 300_000)

        def pulling():
            found = ways(begun, ruleset, guessed(), most=40)
            return [way for way in found if way.steps[0].said == "pull guard"]

        self.assertFalse([way for way in pulling() if any(score.what == "sitting down" for score in way.scores)])
        self.with_rule(PULL_GIVES_AN_ADVANTAGE)
        self.assertTrue(pulling())
        for way in pulling():
            self.assertIn(("advantages", -1), [score[1:3] for score in way.scores if score.what == "sitting down"])

    def test_the_chance_of_winning_changes_with_it(self):
        standing = Question(0, Spot(Place("standing", None), 0, NOTHING), 0, 0, 0)

        def chance(ruleset="full-points"):
            rates = prior()
            return solve(Model(preset(ruleset), 60, rates), [standing])[0].win

        even = chance()
        one_sided = AtOnceRule(
            "only_b", "pull", lambda ruleset: True,
            lambda step: [Gain("a", "advantages", 1, "only_b") for side in step.pullers if side == "b"],
            *(getattr(PULL_GIVES_AN_ADVANTAGE, name) for name in ("sentence", "topic", "said", "plainly", "missing")),
        )  # fmt: skip
        self.with_rule(one_sided)
        self.assertGreater(chance(), even)

    def test_the_outlook_of_the_desk_says_it(self):
        self.with_rule(TURTLE_GIVES_AN_ADVANTAGE)
        moves = outlook(pulled_match(), 20_000).moves
        (turtle,) = [move for move in moves if move.place == Place("turtle", "b")]
        self.assertIn("1 advantage at once.", turtle.because)

    def test_the_drill_reckons_with_it(self):
        ruleset = preset("full-points")

        def right(seed):
            item = make("pays/sweep/held", seed, ADULT, ruleset)
            return item.options[item.right], any("pulls guard" in line for line in item.lines)

        plain = {seed: right(seed) for seed in range(12)}
        self.with_rule(PULL_GIVES_AN_ADVANTAGE)
        pulled = [seed for seed, (_, pull) in plain.items() if pull]
        self.assertTrue(pulled)
        for seed in pulled:
            self.assertNotEqual(right(seed)[0], plain[seed][0])

    def test_what_if_says_why_another_ruleset_does_not_give_it(self):
        self.with_rule(PULL_GIVES_AN_ADVANTAGE)
        _, other = what_if(pulled_match(), [preset("submission-only")])
        (difference,) = other.differences
        self.assertEqual(difference.there.reason.code, "pull_gives_advantage")
        self.assertEqual(difference.because, "Submission only has no advantages.")
