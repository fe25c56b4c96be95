"""The chance of winning: the recursion against closed forms and simulated play, the rates against what made them."""

import math
import random
import unittest
from dataclasses import replace

import numpy as np

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.places import Place
from jurata_core.chance import Model, Moments, Question, Rates, count, draw, fit, prior, solve, timeline
from jurata_core.chance.play import play
from jurata_core.chance.rates import Band, Event, places
from jurata_core.chance.spots import NOTHING, Spot
from jurata_core.match_log import read_log
from jurata_core.rulesets import read_ruleset
from jurata_core.rulesets.model import Overtime
from jurata_simulation.matches import made_log

from .making import at, end, log, seen, start

STANDING = Place("standing", None)
SETTLED = Spot(STANDING, 3, NOTHING)


def ruleset(raw="full-points"):
    return read_ruleset(raw, "ruleset", [])


def toy(events: dict[Event, float], **changes) -> Model:
    """A match that stays standing, with nothing but these events in each minute."""
    nothing = {Band(place, early): {} for place in places() for early in (True, False)}
    both = {Band(STANDING, early): events for early in (True, False)}
    return Model(replace(ruleset(), **changes), 120, Rates({**nothing, **both}, 0, 0.0))


class ClosedForms(unittest.TestCase):
    """Source: the Poisson process, as in any textbook of probability (e.g. Ross, "Introduction to Probability
    Models", ch. 5): the first event in time t comes with probability 1 - exp(-rate t), and of two kinds
    each is the first in proportion to its rate. The figures below are computed from these here."""

    def test_a_race_for_the_finish(self):
        finish_a, finish_b = Event("finish", None, "a"), Event("finish", None, "b")
        model = toy({finish_a: 0.9, finish_b: 0.3}, tiebreak=("draw",))
        for left in (1, 30, 120):
            (chance,) = solve(model, [Question(120 - left, SETTLED, 0, 0, 0)])
            happens = 1 - math.exp(-1.2 * left / 60)
            self.assertAlmostEqual(chance.win, 0.75 * happens, places=4)
            self.assertAlmostEqual(chance.lose, 0.25 * happens, places=4)

    def test_a_golden_score_is_a_race_for_the_first(self):
        """In overtime the first close attack wins where advantages are golden; it is left out that one is a tie."""
        close = {Event("close", None, "a"): 0.9, Event("close", None, "b"): 0.3}
        for seconds in (60, 90):
            golden = Overtime(seconds, "advantages")
            model = toy(close, overtime=golden, tiebreak=("points", "advantages", "draw"))
            level, late, ahead = solve(model, [
                Question(120, SETTLED, 0, 0, 0), Question(seconds - 10, SETTLED, 0, 0, 0, overtime=True),
                Question(120, SETTLED, 2, 0, 0),
            ])  # fmt: skip
            self.assertAlmostEqual(level.win, 0.75 * (1 - math.exp(-1.2 * seconds / 60)), places=4)
            self.assertAlmostEqual(late.lose, 0.25 * (1 - math.exp(-0.2)), places=4)
            self.assertEqual(ahead, (1.0, 0.0))  # what the tally of regular time settles is not played on

    def test_a_lead_of_mercy_wins_at_once(self):
        model = toy({Event("close", None, "b"): 3.0}, mercy=4, tiebreak=("points", "advantages", "draw"))
        (chance,) = solve(model, [Question(119, SETTLED, 4, 0, 0)])
        self.assertEqual(chance, (1.0, 0.0))

    def test_who_leads_at_time(self):
        """Close attacks as coin tosses: level, both equally; a lead of one needs the other's margin of two."""
        close = {Event("close", None, side): 0.4 for side in ("a", "b")}
        model = toy(close)
        level, behind = solve(model, [Question(0, SETTLED, 0, 0, 0), Question(0, SETTLED, 0, -1, 0)])
        self.assertAlmostEqual(level.win, 0.5, places=5)
        # At most one attack a second: two binomials of 120 seconds, of which only the difference counts.
        p = (1 - math.exp(-0.8 / 60)) / 2
        step = np.array([p, 1 - 2 * p, p])
        total = np.array([1.0])
        for _ in range(120):
            total = np.convolve(total, step)
        centre = 120
        expected = total[centre + 2 :].sum() + total[centre + 1] / 2
        self.assertAlmostEqual(behind.win, expected, places=3)  # leads beyond four count as four

    def test_nothing_can_happen(self):
        model = toy({})
        asked = {(2, 0, 0): 1.0, (0, -1, 0): 0.0, (0, 0, 1): 1.0, (0, 0, -2): 0.0, (0, 0, 0): 0.5}
        chances = solve(model, [Question(5, SETTLED, *leads) for leads in asked])
        self.assertEqual([chance.win for chance in chances], list(asked.values()))

    def test_a_takedown_needs_its_three_seconds(self):
        """On top with three seconds to hold: paid with three seconds left, an advantage with two."""
        model = toy({Event("move", Place("guard", "a"), None): 1e-9})
        moment = Moments(adjudicate(read_log(log(start(), at(10, "guard", "a"), seen(11, "exchange"))))).at(10_000)
        question = moment.question(model)._replace(advantages=-1)
        chances = solve(model, [question._replace(second=second) for second in (117, 118)])
        self.assertEqual([round(chance.win, 6) for chance in chances], [1.0, 0.5])

    def test_a_question_that_is_none(self):
        with self.assertRaisesRegex(ValueError, "no state"):
            solve(toy({}), [Question(121, SETTLED, 0, 0, 0)])


class AgainstPlay(unittest.TestCase):
    MATCHES = 4_000

    def test_the_recursion_within_the_error_of_simulated_play(self):
        """Three standard errors of the simulation; 200,000 matches from each of 50 states are in bench/chance.py."""
        rng = np.random.default_rng(20)
        house = {"extends": "full-points", "mercy": 5, "overtime": {"seconds": 40, "golden": "points"}}
        late = {"extends": "late-points", "overtime": {"seconds": 30, "golden": None}}
        endless = {"extends": "submission-only", "overtime": {"seconds": None, "golden": "advantages"}}
        for name in ("full-points", "house-warnings", "late-points", "submission-only", house, late, endless):
            model = Model(ruleset(name), 60, prior())
            picked = random.Random(5).sample(model.spots, 3)
            asked = [Question(20, spot, 2, 0, -1) for spot in picked[:2]] + [Question(0, picked[2], -1, 0, 0)]
            if model.overtime_seconds:
                asked += [Question(50, picked[0], 0, 0, 0), Question(5, picked[1], 0, 0, 0, overtime=True)]
            for question, chance in zip(asked, solve(model, asked), strict=True):
                for side, given in zip(("win", "lose"), play(model, question, self.MATCHES, rng), strict=True):
                    error = max(given.std(), 0.01) / math.sqrt(self.MATCHES)
                    self.assertLess(abs(given.mean() - getattr(chance, side)), 3 * error + 1e-6, (name, question, side))

    def test_mirrored_matches_have_mirrored_chances(self):
        model = Model(ruleset(), 240, prior())
        mine, theirs = (Spot(Place("side", side), 3, NOTHING) for side in ("a", "b"))
        one, other = solve(model, [Question(60, mine, 2, 1, -1), Question(60, theirs, -2, -1, 1)])
        self.assertAlmostEqual(one.win, other.lose, places=5)
        self.assertGreater(one.win, 0.6)


class Rating(unittest.TestCase):
    def made(self, rates, number, seconds=240):
        found = []
        for one in range(number):
            read = read_log(made_log(rates, "full-points", seconds, random.Random(one)))
            found.append((read, adjudicate(read)))
        return found

    def test_rates_are_found_again_in_matches_made_by_them(self):
        doubled = {
            band: {event: 2 * rate if event.what == "move" else rate for event, rate in events.items()}
            for band, events in prior().per_minute.items()
        }
        seen_then = count(self.made(Rates(doubled, 0, 0.0), 250))
        rates = fit(seen_then)
        self.assertEqual(rates.matches, 250)
        for band, lasted in seen_then.lasted.items():
            for event, rate in doubled[band].items():
                expected = rate * lasted / 60_000
                if expected > 60:
                    found = rates.per_minute[band][event]
                    # Four standard deviations of a Poisson count, and a little for the pull of the prior.
                    self.assertLess(abs(found - rate) / rate, 4 / math.sqrt(expected) + 0.08, (band, event))

    def test_without_matches_it_is_the_prior(self):
        rates = fit(count([]))
        self.assertEqual((rates.per_minute, rates.matches), (prior().per_minute, 0))

    def test_what_was_seen_outweighs_the_prior_the_more_the_more_it_is(self):
        back = Place("back", "a")
        event = Event("finish", None, "a")
        observations = [
            start(),
            at(5, "guard", "a"),
            at(20, "back", "a"),
            end(60, how="submission", by="a", technique="rear-choke"),
        ]
        read = read_log(log(*observations))
        one = (read, adjudicate(read))
        few, many = (fit(count([one] * number)).per_minute[Band(back, False)][event] for number in (1, 50))
        guessed, seen_rate = prior().per_minute[Band(back, False)][event], 60 / 37
        self.assertTrue(guessed < few < many < seen_rate)
        self.assertLess(seen_rate - many, 0.2)

    def test_draws_lie_around_the_estimate(self):
        counted = count(self.made(prior(), 40))
        band, event = Band(STANDING, False), Event("move", Place("guard", "a"), None)
        rng = np.random.default_rng(3)
        drawn = [draw(counted, rng).per_minute[band][event] for _ in range(400)]
        self.assertAlmostEqual(
            float(np.mean(drawn)), fit(count(self.made(prior(), 40))).per_minute[band][event], delta=0.02
        )
        self.assertGreater(np.std(drawn), 0.005)

    def test_predictions_come_true_as_often_as_they_say(self):
        """Calibration on matches made from known rates and scored by the core itself: within sampling error in each fifth."""
        model = Model(ruleset(), 240, prior())
        said, came = [], []
        for _, verdict in self.made(prior(), 400):
            moments = timeline(verdict)[30:210:60]
            came += [1.0 if verdict.result.winner == "a" else 0.5 if verdict.result.winner is None else 0.0] * len(
                moments
            )
            said += [moment.question(model) for moment in moments]
        chances = np.array([chance.win for chance in solve(model, said)])
        results = np.array(came)
        for low in np.arange(0, 1, 0.2):
            inside = (chances >= low) & (chances < low + 0.2)
            if inside.sum() >= 40:
                error = 0.5 / math.sqrt(inside.sum() / 3)  # moments of one match hang together
                self.assertLess(abs(chances[inside].mean() - results[inside].mean()), 3 * error, low)
        self.assertLess(abs(chances.mean() - results.mean()), 0.08)


class Timelines(unittest.TestCase):
    def test_every_second_of_the_clock_stops_left_out(self):
        raw = log(start(10), at(20, "guard", "a"), seen(30, "clock", action="stop"), start(50, restart="same"), end(70))
        moments = timeline(adjudicate(read_log(raw)))
        self.assertEqual([moment.clock for moment in moments], [second * 1000 for second in range(41)])
        self.assertEqual(moments[20].t, 30_000)
        self.assertEqual(moments[21].t, 51_000)
        self.assertEqual(moments[13].leads["points"], 2)
        self.assertEqual(timeline(adjudicate(read_log(log()))), [])
