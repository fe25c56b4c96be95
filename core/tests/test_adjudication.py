"""The rules, one row each: what was seen, and the sheet it must give.

Point values and the three seconds are facts of the trade: common practice, no
source. What each row shows is in its name.
"""

import unittest

from jurata_core.answers import score

from .making import at, end, log, seen, sheet, start, stop, tried

CHOKE = {"technique": "cross-choke", "threat": "attempt"}
PULL_A = seen(1, "pull", by="a")
GUARD_B = [start(), PULL_A, at(1, "guard", "b")]

HOLDING = {
    "exactly three seconds is enough": ([start(), at(10, "guard", "a"), at(13, "standing"), end()], "2/0/0", "0/0/0"),
    "a millisecond less is not": ([start(), at(10, "guard", "a"), at(12.999, "standing"), end()], "0/1/0", "0/0/0"),
    "time running out loses the claim": ([start(), at(298, "guard", "a"), end(300)], "0/1/0", "0/0/0"),
    "a finish gives nothing for what was open": (
        [start(), at(298, "side", "a"), end(299, how="submission", by="b", technique="armbar")], "0/0/0", "0/0/0"),
    "two claims lost at once are one advantage": (
        [*GUARD_B, at(20, "mount", "b"), at(21, "standing"), end()], "0/0/0", "0/1/0"),
    "leaving for something higher gives nothing": (
        [*GUARD_B, at(20, "knee_on_belly", "b"), at(21, "mount", "b"), end()], "0/0/0", "7/0/0"),
    "mount and one hook are level, so the mount is lost": (
        [*GUARD_B, at(20, "mount", "b"), at(24, "back_one_hook", "b"), at(25, "mount", "b"), at(26, "back_one_hook", "b"), end()],
        "0/0/0", "7/0/0"),
    "mount given up for one hook": (
        [*GUARD_B, at(20, "side", "b"), at(30, "mount", "b"), at(31, "back_one_hook", "b"), end()], "0/0/0", "3/0/0"),
    "the turtle does not hold a pass": ([*GUARD_B, at(20, "side", "b"), at(21, "turtle", "b"), end()], "0/0/0", "0/1/0"),
    "a pass from guard into one hook does not count": ([*GUARD_B, at(20, "back_one_hook", "b"), end()], "0/0/0", "0/0/0"),
    "a takedown to the back does not score, the back does": ([start(), at(9, "back", "a"), end()], "4/0/0", "0/0/0"),
    "a scramble lets a count begin again": (
        [start(), at(10, "guard", "a"), at(12, "scramble"), at(13, "guard", "a"), at(15.9, "standing"), end()], "0/1/0", "0/0/0"),
    "and it is paid once": (
        [start(), at(10, "guard", "a"), at(12, "scramble"), at(13, "guard", "a"), at(16, "standing"), end()], "2/0/0", "0/0/0"),
    "through a scramble to the other side the claim is lost": (
        [start(), at(10, "guard", "a"), at(12, "scramble"), at(13, "guard", "b"), end()], "0/1/0", "2/0/0"),
    "the same position again changes nothing": (
        [start(), at(10, "guard", "a"), at(12, "guard", "a", detail="half"), at(13, "standing"), end()], "2/0/0", "0/0/0"),
    "mount again in one spell is not paid again": (
        [*GUARD_B, at(20, "mount", "b"), at(25, "side", "b"), at(30, "mount", "b"), end()], "0/0/0", "7/0/0"),
    "after the guard was recovered it is": (
        [*GUARD_B, at(20, "mount", "b"), at(25, "guard", "b"), at(30, "mount", "b"), end()], "0/0/0", "14/0/0"),
    "coming up from turtle is no sweep": (
        [start(), at(5, "turtle", "a"), at(20, "guard", "b"), end()], "2/0/0", "0/0/0"),
    "tied legs with a side on top can be swept from": (
        [start(), at(5, "entangled", "a"), at(20, "side", "b"), end()], "2/0/0", "2/0/0"),
    "tied legs without one are passed through": (
        [start(), at(5, "guard", "a"), at(20, "entangled"), at(25, "guard", "b"), end()], "2/0/0", "2/0/0"),
}  # fmt: skip

CLOCK = {
    "a stop breaks the count": (
        [start(), at(10, "guard", "a"), stop(12), start(20, restart="same"), at(22.9, "standing"), end()], "0/1/0", "0/0/0"),
    "which begins again from zero": (
        [start(), at(10, "guard", "a"), stop(12), start(20, restart="same"), at(23, "standing"), end()], "2/0/0", "0/0/0"),
    "placed in the position they are in is the same": (
        [start(), at(10, "guard", "a"), stop(12), start(20, restart="placed", position="guard", top="a"), at(23, "standing"),
         end()], "2/0/0", "0/0/0"),
    "placed after a scramble is a new beginning": (
        [start(), at(10, "guard", "a"), at(11, "scramble"), stop(12),
         start(20, restart="placed", position="guard", top="a"), at(29, "standing"), end()], "0/1/0", "0/0/0"),
    "placed on the feet is a standing restart, after a double pull too": (
        [start(), seen(5, "pull", by="both"), stop(7), start(9, restart="placed", position="standing"), at(12, "guard", "a"),
         end()], "2/0/0", "0/0/0"),
    "placed on the feet where they are on them is one too": (
        [start(), at(5, "guard", "a"), at(6, "standing"), seen(7, "pull", by="a"), stop(8),
         start(9, restart="placed", position="standing"), at(12, "guard", "b"), end()], "0/1/0", "2/0/0"),
    "a standing restart loses the claim": (
        [start(), at(10, "guard", "a"), stop(12), start(20), end()], "0/1/0", "0/0/0"),
    "a position while stopped is ignored": (
        [start(), stop(5), at(6, "mount", "b"), start(10, restart="same"), at(12, "guard", "a"), end()], "2/0/0", "0/0/0"),
    "a position before the start opens nothing": ([at(0, "guard", "b"), start(5), at(9, "guard", "a"), end()], "2/0/0", "0/0/0"),
    "a foul counts during a stop": ([start(), stop(5), seen(6, "foul", by="a", foul="conduct"), end()], "0/0/1", "0/0/0"),
}  # fmt: skip

PULLS = {
    "after both pulled, coming up is an advantage": (
        [start(), seen(3, "pull", by="both"), at(3, "double_pull"), at(9, "guard", "a"), end()], "0/1/0", "0/0/0"),
    "by each in turn is the same": (
        [start(), seen(3, "pull", by="a"), seen(4, "pull", by="b"), at(4, "double_pull"), at(9, "guard", "a"), end()],
        "0/1/0", "0/0/0"),
    "a lost one gives nothing": (
        [start(), seen(3, "pull", by="both"), at(3, "double_pull"), at(9, "guard", "a"), at(10, "standing"), end()],
        "0/0/0", "0/0/0"),
    "a caught pull is a takedown": (
        [start(), seen(3, "pull", by="b", caught=True), at(3.2, "guard", "a"), end()], "2/0/0", "0/0/0"),
    "a pull is used up by the next position": (
        [start(), seen(3, "pull", by="b"), at(4, "standing"), at(9, "guard", "a"), end()], "2/0/0", "0/0/0"),
    "a scramble does not use it up": (
        [start(), seen(3, "pull", by="b"), at(4, "scramble"), at(9, "guard", "a"), end()], "0/0/0", "0/0/0"),
    "a pull from the ground is ignored": (
        [start(), at(3, "guard", "a"), seen(9, "pull", by="b"), at(20, "side", "a"), end()], "5/0/0", "0/0/0"),
    "twenty seconds seated are a penalty for both, once a stay": (
        [start(), at(3, "double_pull"), at(63, "standing"), end()], "0/0/1", "0/0/1"),
    "nineteen are not": ([start(), at(3, "double_pull"), at(22.9, "standing"), end()], "0/0/0", "0/0/0"),
    "a stop begins them again": (
        [start(), at(3, "double_pull"), stop(20), start(25, restart="same"), at(44.9, "standing"), end()], "0/0/0", "0/0/0"),
}  # fmt: skip

SUBMISSIONS = {
    "a choke on makes the count wait": (
        [*GUARD_B, at(20, "side", "b"), seen(21, "submission", by="a", until=30, **CHOKE), at(32, "standing"), end()],
        "0/0/0", "0/1/0"),
    "and begin at its end": (
        [*GUARD_B, at(20, "side", "b"), seen(21, "submission", by="a", until=30, **CHOKE), at(33, "standing"), end()],
        "0/0/0", "3/0/0"),
    "without a later end it shields nobody": (
        [*GUARD_B, at(20, "side", "b"), seen(21, "submission", by="a", **CHOKE), at(23, "standing"), end()], "0/0/0", "3/0/0"),
    "a close one is an advantage": (
        [*GUARD_B, seen(20, "submission", by="a", technique="armbar", threat="close"), end()], "0/1/0", "0/0/0"),
    "nearly is an advantage": ([start(), tried(9, "b", "takedown", outcome="near"), end()], "0/0/0", "0/1/0"),
}  # fmt: skip

FOULS = {
    "fleeing from a sweep gives two points and the penalty": (
        [*GUARD_B, seen(20, "foul", by="b", foul="fleeing", avoiding="sweep"), end()], "2/0/0", "0/0/1"),
    "the open claim is dropped for it": (
        [start(), at(20, "guard", "a"), seen(21, "foul", by="b", foul="fleeing", avoiding="takedown"), end()], "2/0/0", "0/0/1"),
    "the rung is by the count as it stands, rulings included": (
        [start(), seen(5, "ruling", to="a", penalties=2), seen(9, "foul", by="a", foul="stalling"), end()], "0/0/3", "2/0/0"),
    "a ruling after the end counts": ([start(), end(), seen(310, "ruling", to="b", points=2)], "0/0/0", "2/0/0"),
}  # fmt: skip


TRIANGLE = {"technique": "triangle", "threat": "attempt"}
EDGES = {
    "the longer of two chokes decides when the count begins": (
        [*GUARD_B, at(20, "side", "b"), seen(21, "submission", by="a", until=30, **TRIANGLE),
         seen(22, "submission", by="a", until=26, **TRIANGLE), at(33, "standing"), end()], "0/0/0", "3/0/0"),
    "a count that is full when the choke comes is paid": (
        [*GUARD_B, at(20, "side", "b"), seen(23, "submission", by="a", until=30, **TRIANGLE), at(24, "standing"), end()],
        "0/0/0", "3/0/0"),
    "a choke by the one on top shields nobody on top": (
        [*GUARD_B, at(20, "side", "b"), seen(21, "submission", by="b", until=30, **TRIANGLE), at(23, "standing"), end()],
        "0/0/0", "3/0/0"),
    "a choke seen during a stop still shields after it": (
        [*GUARD_B, at(20, "side", "b"), stop(21), seen(22, "submission", by="a", until=30, **TRIANGLE),
         start(25, restart="same"), at(32.9, "standing"), end()], "0/0/0", "0/1/0"),
    "a standing restart cancels it": (
        [start(), at(5, "guard", "b"), seen(20, "submission", by="b", until=60, **TRIANGLE), stop(21), start(25),
         at(30, "guard", "a"), at(33, "standing"), end()], "2/0/0", "2/0/0"),
    "a choke shields a count through a scramble": (
        [*GUARD_B, at(20, "side", "b"), seen(21, "submission", by="a", until=30, **TRIANGLE), at(22, "scramble"),
         at(23, "side", "b"), at(33, "standing"), end()], "0/0/0", "3/0/0"),
    "a stop in a scramble leaves the claim waiting": (
        [start(), at(5, "guard", "a"), at(6, "scramble"), stop(7), start(9, restart="same"), at(20, "guard", "a"),
         at(23, "standing"), end()], "2/0/0", "0/0/0"),
    "time running out in a scramble loses it": (
        [start(), at(297, "guard", "a"), at(298, "scramble"), end(300)], "0/1/0", "0/0/0"),
    "from a scramble something higher still gives nothing": (
        [*GUARD_B, at(20, "knee_on_belly", "b"), at(21, "scramble"), at(22, "mount", "b"), end()], "0/0/0", "7/0/0"),
    "a mount entered again through a scramble is not paid twice in a spell": (
        [*GUARD_B, at(20, "mount", "b"), at(25, "scramble"), at(26, "mount", "b"), end()], "0/0/0", "7/0/0"),
    "on top in turn, each sweep pays": (
        [*GUARD_B, at(20, "guard", "a"), at(30, "guard", "b"), at(40, "guard", "a"), end()], "4/0/0", "2/0/0"),
    "a sweep that is swept back within three seconds is an advantage": (
        [*GUARD_B, at(20, "guard", "a"), at(22, "guard", "b"), end()], "0/1/0", "0/0/0"),
    "a pull and then on top oneself is a sweep": ([start(), PULL_A, at(9, "guard", "a"), end()], "2/0/0", "0/0/0"),
    "a second pull by the same side changes nothing": (
        [start(), PULL_A, seen(2, "pull", by="a"), at(3, "guard", "b"), end()], "0/0/0", "0/0/0"),
    "a fourth and fifth penalty are never reached: the fourth ends it": (
        [start(), *(seen(t, "foul", by="a", foul="grip") for t in (9, 19, 29, 39, 49)), end()], "0/0/4", "2/1/0"),
    "fleeing from a takedown leaves a sweep alone": (
        [*GUARD_B, at(20, "guard", "a"), seen(21, "foul", by="b", foul="fleeing", avoiding="takedown"), end()],
        "4/0/0", "0/0/1"),
}  # fmt: skip


class Sheets(unittest.TestCase):
    def rows(self, table):
        for name, (observations, a, b) in table.items():
            with self.subTest(name):
                self.assertEqual(sheet(*observations)[:2], (a, b))

    def test_holding(self):
        self.rows(HOLDING)

    def test_clock(self):
        self.rows(CLOCK)

    def test_pulls(self):
        self.rows(PULLS)

    def test_submissions(self):
        self.rows(SUBMISSIONS)

    def test_fouls(self):
        self.rows(FOULS)

    def test_edges(self):
        self.rows(EDGES)


ENDINGS = {
    "severe foul": ([start(), seen(9, "foul", by="a", foul="severe")], {}, ("b", "disqualification")),
    "fleeing from a submission": (
        [start(), seen(9, "foul", by="b", foul="fleeing", avoiding="submission")], {}, ("a", "disqualification")),
    "fourth penalty": (
        [start(), *(seen(t, "foul", by="a", foul="stalling") for t in (9, 19, 29, 39)), end()], {}, ("b", "disqualification")),
    "both disqualified at once": (
        [start(), at(1, "double_pull"), *(seen(t, "foul", by=by, foul="grip") for t in (2, 3, 4) for by in "ab"), end()], {},
        (None, "disqualification")),
    "illegal finish": (
        [start(), end(9, how="submission", by="a", technique="heel hook")], {}, ("b", "disqualification")),
    "illegal finish under warnings": (
        [start(), end(9, how="submission", by="a", technique="toe hold")], {"ruleset": "house-warnings"}, ("b", "disqualification")),
    "a first warning costs nothing": (
        [start(), seen(9, "technique", by="a", technique="slam"), end()], {"ruleset": "house-warnings"}, (None, "undecided")),
    "the third ends it": (
        [start(), *(seen(t, "technique", by="a", technique="slam") for t in (9, 19, 29)), end()], {"ruleset": "house-warnings"},
        ("b", "disqualification")),
    "withdrawal": ([start(), end(9, how="withdrawal", by="a")], {}, ("b", "withdrawal")),
    "decision by the last votes": (
        [start(), end(), seen(301, "decision", votes={"a": 3, "b": 0}), seen(302, "decision", votes={"a": 1, "b": 2})], {},
        ("b", "decision")),
    "fewer penalties win": ([start(), seen(9, "foul", by="a", foul="stalling"), end()], {}, ("b", "penalties")),
    "submission only draws": ([start(), at(9, "mount", "a"), end()], {"ruleset": "submission-only"}, (None, "draw")),
    "no end": ([start(), at(9, "mount", "a")], {}, (None, "unfinished")),
    "an unknown technique is taken as legal": (
        [start(), end(9, how="submission", by="a", technique="moonbeam twist")], {}, ("a", "submission")),
}  # fmt: skip

RULESETS = {
    "late points: a clear takedown pays four": ([start(), at(160, "side", "a"), end()], "late-points", "4/0/0"),
    "late points: before half-time it pays nothing": ([start(), at(140, "side", "a"), end()], "late-points", "0/0/0"),
    "late points: a mount of the first half, taken again in the second": (
        [start(), at(140, "mount", "a"), at(160, "side", "a"), at(170, "mount", "a"), end()], "late-points", "2/0/0"),
    "late points: a penalty on the second rung takes a point": (
        [start(), *(seen(t, "foul", by="a", foul="stalling") for t in (9, 19)), end()], "late-points", "-1/0/2"),
    "late points: no advantages": ([start(), at(160, "side", "a"), at(161, "standing"), end()], "late-points", "0/0/0"),
    "warnings: a mount again pays again": (
        [start(), at(9, "mount", "a"), at(20, "side", "a"), at(30, "mount", "a"), end()], "house-warnings", "10/0/0"),
    "warnings: first up after a double pull is a takedown": (
        [start(), at(3, "double_pull"), at(9, "guard", "a"), end()], "house-warnings", "2/0/0"),
    "submission only: nothing counts": ([start(), at(9, "mount", "a"), at(10, "standing"), end()], "submission-only", "0/0/0"),
    "changed: a mount worth six": (
        [start(), at(9, "mount", "a"), end()], {"extends": "full-points", "points": {"mount": 6}}, "8/0/0"),
    "changed: a barred armbar": (
        [start(), seen(9, "submission", by="a", technique="arm bar", threat="close"), end()],
        {"extends": "full-points", "barred": ["armbar"], "illegal": "warn", "illegal_disqualify_on": 2}, "0/0/0"),
    "changed: an illegal hold may shield": (
        [start(), at(20, "guard", "a"), seen(21, "submission", by="b", technique="slam", threat="attempt", until=40),
         at(30, "standing"), end()],
        {"extends": "house-warnings", "illegal_hold_blocks": True}, "0/1/0"),
    "changed: else it does not": (
        [start(), at(20, "guard", "a"), seen(21, "submission", by="b", technique="slam", threat="attempt", until=40),
         at(30, "standing"), end()],
        "house-warnings", "2/0/0"),
}  # fmt: skip


class EndingsAndRulesets(unittest.TestCase):
    def test_endings(self):
        for name, (observations, more, expected) in ENDINGS.items():
            with self.subTest(name):
                self.assertEqual(sheet(*observations, **more)[2:], expected)

    def test_rulesets(self):
        for name, (observations, ruleset, expected) in RULESETS.items():
            with self.subTest(name):
                self.assertEqual(sheet(*observations, ruleset=ruleset)[0], expected)

    def test_a_stopped_technique_drops_what_was_counted(self):
        """A single leg with the head outside, by a white belt: the referee stops it, and nothing scores."""
        trip = seen(11, "technique", by="a", technique="single leg head outside")
        verdict = score(log(start(), at(10, "guard", "a"), trip, stop(12), start(20), end(), belt="white"))
        self.assertEqual(verdict["score"]["a"], {"points": 0, "advantages": 0, "penalties": 0})
        self.assertEqual([row["reason"] for row in verdict["unpaid"]], ["dropped_stop"])


class Explanations(unittest.TestCase):
    def test_a_missed_claim_says_how_long_it_was_held(self):
        verdict = score(log(start(4), at(20, "side", "a"), at(22.4, "standing"), end()))
        (missed,) = verdict["missed"]
        self.assertEqual((missed["claim"], missed["held"], missed["needed"]), ("takedown", 2.4, 3))
        self.assertIn("held only 2.4 s of 3 s", missed["because"])

    def test_what_pays_nothing_says_why(self):
        under = {"extends": "full-points", "repeat": "after_turtle"}
        why = {
            "The athlete came up on top from under back control with one hook: an escape, not a sweep": (
                [at(5, "back_one_hook", "b"), at(12, "guard", "a")], "full-points"),
            "The opponent turned from guard to turtle: no guard pass, and Full points gives nothing": (
                [at(5, "guard", "a"), at(12, "turtle", "a")], "full-points"),
            "The athlete only took the top back before the opponent had held it long enough": (
                [at(5, "guard", "a"), at(12, "guard", "b"), at(13, "guard", "a")], "full-points"),
            "Takedown and mount by the athlete: worth nothing under Submission only.": (
                [at(5, "mount", "a")], "submission-only"),
            "Escape by the athlete: very nearly completed, but worth nothing under Full points.": (
                [at(5, "side", "b"), tried(8, "a", "escape", outcome="near")], "full-points"),
            "Takedown by the opponent: points only start at 2:30, so it scores nothing.": (
                [tried(8, "b", "takedown", outcome="near")], {"extends": "late-points", "advantages": True}),
            "it scores again only once the opponent is back in guard, in turtle or on the feet.": (
                [at(5, "mount", "a"), at(9, "side", "a"), at(12, "mount", "a")], under),
        }  # fmt: skip
        for sentence, (observations, ruleset) in why.items():
            said = [row["because"] for row in score(log(start(), *observations, end(), ruleset=ruleset))["unpaid"]]
            self.assertIn(sentence, " ".join(said))
        forced = [at(5, "guard", "a"), at(12, "turtle", "a"), end()]
        paid = log(start(), *forced, ruleset={"extends": "full-points", "turtle_escape": "advantage"})
        self.assertEqual(score(paid)["unpaid"], [])

    def test_every_row_has_a_sentence_and_its_observations(self):
        verdict = score(log(start(), at(10, "guard", "a", id="shot"), at(20, "mount", "a"), end()))
        self.assertEqual([row["observations"] for row in verdict["ledger"]], [["shot"], [2], [2]])
        for row in verdict["ledger"]:
            self.assertRegex(row["because"], r"^[A-Z].*\.$")

    def test_exchanges_cut_where_the_top_changes(self):
        verdict = score(log(*GUARD_B, at(30, "guard", "a"), seen(50, "exchange", title="Last minute"), end()))
        cuts = [(row["start"], row["title"], row["first"]["top"]) for row in verdict["exchanges"]]
        self.assertEqual(cuts, [(0, None, None), (1, None, "b"), (30, None, "a"), (50, "Last minute", "a")])
        self.assertEqual(verdict["exchanges"][2]["awarded"]["a"]["points"], 2)

    def test_after_a_disqualification_the_winner_is_named(self):
        for ended, said in (
            (end(40, how="disqualification", by="b"), "The opponent is disqualified. The athlete won."),
            (end(40, how="disqualification", by="both"), "Both are disqualified."),
            (
                seen(40, "foul", by="a", foul="severe"),
                "The athlete is disqualified for a severe foul. The opponent won.",
            ),
        ):
            self.assertEqual(score(log(start(), ended))["because"], said)

    def test_an_attack_that_nobody_named_is_no_invented_technique(self):
        verdict = score(log(start(), end(40, how="submission", by="a", technique="not named")))
        self.assertEqual(verdict["result"]["winner"], "a")
        self.assertEqual([one["reason"] for one in verdict["warnings"]], ["technique_not_named"])
        self.assertEqual(verdict["because"], "The athlete won by a submission that was not named.")

    def test_doubtful_input_is_scored_with_a_warning(self):
        doubtful = {
            "start_while_running": [start(), start(5), end()],
            "stop_while_stopped": [stop(1), start(5), end()],
            "position_while_stopped": [start(), stop(5), at(6, "mount", "a"), end()],
            "pull_while_stopped": [seen(0, "pull", by="a"), start(1), end()],
            "pull_not_from_standing": [start(), at(5, "mount", "a"), seen(6, "pull", by="a"), end()],
            "pull_again": [start(), seen(5, "pull", by="a"), seen(6, "pull", by="a"), end()],
            "after_end": [start(), end(100), at(101, "mount", "a")],
            "past_duration": [start(), end(303)],
            "near_barred": [start(), seen(5, "technique", by="a", technique="hel hook"), end()],
            "unknown_technique": [start(), seen(5, "technique", by="a", technique="moonbeam twist"), end()],
            "near_already_shown": [
                start(), at(5, "side", "a"), at(6, "standing"), tried(10, "a", "takedown", outcome="near"), end()],
            "never_started": [at(5, "mount", "a")],
        }  # fmt: skip
        for reason, observations in doubtful.items():
            with self.subTest(reason):
                self.assertIn(reason, [warning["reason"] for warning in score(log(*observations))["warnings"]])
