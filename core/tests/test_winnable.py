"""What is still winnable: the search against brute force through the adjudication itself, and the last minute's questions."""

import itertools
import os
import random
import unittest
from dataclasses import replace

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.fold import states_at
from jurata_core.adjudication.places import Place
from jurata_core.chance import Model, Moments, prior, solve_together
from jurata_core.match_log import read_log
from jurata_core.match_log.observations import OTHER, SIDES
from jurata_core.review.seen import Seen
from jurata_core.winnable import guessed, last_turn, learned, letting_go, moves_of, standpoint, ways
from jurata_core.winnable.paces import place_of
from jurata_core.winnable.way import Score

from .making import at, end, log, seen, start
from .random_logs import random_log

RANDOM_LOGS = int(os.environ.get("JURATA_RANDOM_LOGS", "150"))

QUICK = replace(
    guessed(),
    moves={role: dict.fromkeys(found, 1_000) for role, found in guessed().moves.items()},
    close=10**9,
)
"""Every move takes a second, and nothing is ever close: what the rules alone leave of the time."""

LONGEST = 9
"""Seconds that the brute force looks ahead."""
HELD = (1, 2, 3, 4)
"""Seconds in a place before the next move."""

#: Where the athlete is, the leads as rulings, and the ruleset.
STARTS = [
    ("standing", {}, "full-points"),
    ("standing", {"points": -3}, "full-points"),
    ("guard bottom", {"points": -2}, "full-points"),
    ("guard bottom", {"points": -2, "advantages": -1}, "full-points"),
    ("guard top", {"points": -3}, "full-points"),
    ("guard top", {"points": -7}, "full-points"),
    ("side top", {"points": -4, "advantages": 1}, "full-points"),
    ("side bottom", {"advantages": -1}, "full-points"),
    ("turtle top", {"points": -4}, "house-warnings"),
    ("mount top", {"points": -2}, "house-warnings"),
    ("double_pull", {}, "full-points"),
    ("double_pull", {"points": -2}, "house-warnings"),
    ("standing", {"points": -4}, "late-points"),
    ("guard bottom", {"points": -3}, "late-points"),
    ("entangled bottom", {"points": -1}, "full-points"),
    ("back_one_hook top", {"points": -4, "advantages": -1}, "full-points"),
]  # fmt: skip


def begun(role: str, leads: dict[str, int], rules: str, clock: int = 0) -> list[dict]:
    """A match in that place, nothing open, with these leads."""
    place = place_of(role, "a")
    rows = [at(0, place.position, place.top), start()]
    for tally, n in leads.items():
        rows.append(seen(0, "ruling", to="a" if n > 0 else "b", **{tally: abs(n)}))
    return rows


def scored(rows: list[dict], rules: str, seconds: float = 300):
    raw = log(*rows, ruleset={"extends": rules, "points_from_fraction": 0, "double_pull_limit": 0})
    read = read_log({**raw, "duration": seconds})
    return read, adjudicate(read)


def by_brute_force(role: str, leads: dict[str, int], rules: str) -> dict[str, float]:
    """The least seconds after which time may run out on a won, and on a level match, with two moves at the most."""
    found: dict[str, float] = {}
    first = begun(role, leads, rules)
    for moves in _moves(role):
        for stays in itertools.product(HELD, repeat=len(moves)):
            times = list(itertools.accumulate(stays))
            rows = [
                _row(time, before, after) for time, before, after in zip(times, (role, *moves), moves, strict=False)
            ]
            for last in range(times[-1] if times else 0, LONGEST + 1):
                if len(found) == 2 and max(found.values()) <= last:
                    break
                _, verdict = scored([*first, *itertools.chain(*rows), end(last)], rules)
                result = verdict.result
                outcome = "wins" if result.winner == "a" else "levels" if result.method == "undecided" else None
                if outcome is not None:
                    found[outcome] = min(found.get(outcome, LONGEST + 1), last)
    return found


def _moves(role: str) -> list[tuple[str, ...]]:
    one = list(QUICK.moves.get(role, {}))
    two = [(to, then) for to in one for then in QUICK.moves.get(to, {})]
    return [(), *((to,) for to in one), *two]


def _row(time: float, before: str, after: str) -> list[dict]:
    place = place_of(after, "a")
    pulls = [seen(time, "pull", by="a")] if (before, after) == ("standing", "guard bottom") else []
    return [*pulls, at(time, place.position, place.top)]


def offered(read, t, paces=None, side="a", **more):
    """The ways that are offered at a time in milliseconds."""
    (state,) = states_at(read, [t])
    point = standpoint(state, side, t, Seen(read, adjudicate(read)).bell(t))
    return [] if point is None else ways(point, read.ruleset, paces or guessed(), **more)


class Search(unittest.TestCase):
    def test_against_brute_force_through_the_adjudication(self):
        for role, leads, rules in STARTS:
            with self.subTest(role=role, leads=leads, rules=rules):
                read, _ = scored(begun(role, leads, rules), rules)
                found = offered(read, 0, QUICK, most_moves=2)
                expected = by_brute_force(role, leads, rules)
                least = {
                    outcome: min(way.takes / 1000 for way in found if way.outcome == outcome)
                    for outcome in {way.outcome for way in found}
                }
                for outcome, seconds in expected.items():
                    if seconds > 0:  # what is so already is no way
                        self.assertEqual(least.get(outcome), seconds, (outcome, [way.said for way in found]))
                for outcome, seconds in least.items():
                    if outcome not in expected:
                        self.assertGreater(seconds, LONGEST - max(HELD), outcome)

    def test_what_is_being_held_is_counted_on(self):
        """A sweep held for two seconds needs one more."""
        rows = [*begun("guard bottom", {"points": -1}, "full-points"), at(10, "guard", "a"), seen(12, "exchange")]
        read, _ = scored(rows, "full-points")
        first = offered(read, 12_000)[0]
        self.assertEqual((first.takes, first.said, first.scores), (1_000, "hold on", (Score("sweep", "points", 2),)))

    def test_it_closes_as_the_clock_runs_down(self):
        rows = [*begun("guard bottom", {"points": -2}, "full-points"), seen(290, "exchange")]
        read, _ = scored(rows, "full-points")
        found = {t: offered(read, t * 1000) for t in (0, 290)}
        sweep = {t: next(way for way in rows if way.said.startswith("sweep")) for t, rows in found.items()}
        self.assertEqual((sweep[0].closes, sweep[0].possible), (sweep[290].closes, True))
        self.assertFalse(sweep[290].possible)

    def test_points_that_are_not_open_yet_pay_nothing(self):
        raw = log(
            at(0, "guard", "b"),
            start(),
            seen(0, "ruling", to="b", points=2),
            seen(140, "exchange"),
            ruleset="late-points",
        )
        read = read_log(raw)
        found = offered(read, 140_000)
        self.assertTrue(found)
        for way in found:
            # Points open at 150 s: every way begins then, and needs its three seconds.
            self.assertGreaterEqual(way.takes, 3_000, way.said)
            self.assertEqual((way.closes, way.possible), (300_000 - way.takes, True))

    def test_ahead_there_is_nothing_to_do(self):
        read, _ = scored(begun("guard top", {"points": 2}, "full-points"), "full-points")
        self.assertEqual(offered(read, 0), [])

    def test_a_position_that_is_reached_again_promises_no_second_advantage(self):
        """Knee on belly, lost, and again: in one spell of control the loss gives one advantage, not two."""
        rows = [*begun("side top", {"points": -4, "advantages": -1}, "full-points")]
        read, _ = scored(rows, "full-points", seconds=20)
        quick = replace(QUICK, moves={**QUICK.moves, "side top": {"knee_on_belly top": 1_000}})
        for way in offered(read, 0, quick):
            let_go = [score for score in way.scores if score.what.startswith("letting go of the knee on belly")]
            self.assertLessEqual(len(let_go), 1, way.said)

    def test_what_the_opponent_holds_is_paid_to_them_meanwhile(self):
        """Two seconds of their mount are left: an escape that takes longer has to make up for it too."""
        rows = [*begun("side bottom", {"points": -1}, "full-points"), at(10, "mount", "b"), seen(11, "exchange")]
        read, _ = scored(rows, "full-points")
        slow = replace(guessed(), moves={**guessed().moves, "mount bottom": {"guard top": 9_000}})
        for way in offered(read, 11_000, slow):
            self.assertIn(Score("the opponent's mount", "points", -4, own=False), way.scores)
            self.assertIn(" (the opponent gets 4 points)", way.as_json()["worth"])

    def test_every_way_that_is_offered_scores_what_it_promises(self):
        """Each is carried out on the log that it was offered for, and adjudicated."""
        rng = random.Random(4)
        tried = 0
        for number in range(RANDOM_LOGS):
            raw = random_log(rng, rng.randrange(1, 25), ended=False)
            raw["observations"] = [one for one in raw["observations"] if one["kind"] != "decision"]
            read = read_log(raw)
            if read.duration is None:
                continue
            t = rng.choice([one.t for one in read.observations])
            bell = Seen(read, adjudicate(read)).bell(t)
            (state,) = states_at(read, [t])
            for side in SIDES:
                for way in offered(read, t, side=side):
                    if way.possible and not (way.wait and state.stay.since is not None):
                        tried += 1
                        self.carry_out(number, raw, t, side, way, bell)
        self.assertGreater(tried, RANDOM_LOGS // 2)

    def carry_out(self, number, raw, t, side, way, bell):
        before = [one for one in raw["observations"] if round(one["t"] * 1000) <= t]
        (state,) = states_at(read_log({**raw, "observations": before}), [t])
        rows = [] if state.clock.run_from is not None else [seen(t / 1000, "clock", action="start", restart="same")]
        place, now = state.control.place, t + way.wait
        left = bell - state.clock.at(t) - way.wait - way.takes
        later = not state.claims and state.stay.since is None
        if way.steps[-1].does == "time" and later:
            now += left  # it is begun so late that time runs out on it
        for step in way.steps:
            now += step.takes
            if isinstance(step.does, Place):
                if place.position == "standing" and step.does.top == OTHER[side]:
                    rows.append(seen(now / 1000, "pull", by=side))
                place = step.does
                rows.append(at(now / 1000, place.position, place.top))
            elif step.does == "close":
                rows.append(
                    seen(now / 1000, "submission", by=side, technique="armbar", threat="close", until=now / 1000)
                )
        end = "time" if way.steps[-1].does == "time" else "exchange"
        if end == "time":
            rows.append(seen((now if later else now + left) / 1000, "end", how="time"))
        else:
            rows.append(seen(now / 1000, "exchange"))
        sign = 1 if side == "a" else -1
        was = adjudicate(read_log({**raw, "observations": [*before, seen(t / 1000, "exchange")]}))
        then = adjudicate(read_log({**raw, "observations": [*before, *rows]}))
        held = {one: sum(1 for hold in state.holds if hold.side == one and hold.until < now) for one in SIDES}
        for tally in ("points", "advantages"):
            gained = {one: then.score[one][tally] - was.score[one][tally] for one in SIDES}
            if tally == "advantages" and read_log(raw).ruleset.advantages:
                gained = {one: n - held[one] for one, n in gained.items()}
            promised = sum(score.n for score in way.scores if score.tally == tally)
            self.assertEqual(
                sign * (gained["a"] - gained["b"]), promised, (number, tally, t, side, way, raw["ruleset"])
            )


def let_go(model, moment, side):
    ((found,),) = solve_together(model, letting_go(model, [moment], side))
    return found


class Turns(unittest.TestCase):
    def test_who_has_the_last_one(self):
        for left, each, expected in [
            (60_000, 11_000, (5, "a")), (55_000, 11_000, (5, "a")), (54_999, 11_000, (4, "b")),
            (11_000, 11_000, (1, "a")), (10_999, 11_000, (0, None)), (0, 11_000, (0, None)),
        ]:  # fmt: skip
            with self.subTest(left=left):
                self.assertEqual(tuple(last_turn(left, each, "a")), expected)
        with self.assertRaises(ValueError):
            last_turn(10, 0, "a")

    def test_letting_go_for_the_advantage(self):
        """Level with two seconds left and one held: it can't be paid, but letting go gives the advantage at once.

        At time the lost claim would give the same, so with nothing else to fear neither is better.
        """
        rows = [*begun("guard bottom", {}, "full-points"), at(297, "guard", "a"), seen(299, "exchange")]
        read, verdict = scored(rows, "full-points")
        model = Model(read.ruleset, 300, prior())
        self.assertIsNone(let_go(model, Moments(verdict).at(298_000), "b"))
        # With half a minute left the points are the better thing.
        early = [*begun("guard bottom", {}, "full-points"), at(200, "guard", "a"), seen(203, "exchange")]
        read, verdict = scored(early, "full-points")
        self.assertIsNone(let_go(model, Moments(verdict).at(201_000), "a"))

    def test_letting_go_of_the_mount_that_can_only_be_lost(self):
        """The model sees it where the other is likely to finish from there: an advantage in hand, and standing."""
        dangerous = prior()
        per_minute = {band: dict(events) for band, events in dangerous.per_minute.items()}
        for band, events in per_minute.items():
            if band.place == Place("guard", "a"):
                for event in events:
                    if event.what == "finish" and event.side == "b":
                        events[event] = 30.0
        model = Model(read_log(log()).ruleset, 300, replace(dangerous, per_minute=per_minute))
        rows = [*begun("guard bottom", {}, "full-points"), at(290, "guard", "a"), seen(299, "exchange")]
        _, verdict = scored(rows, "full-points")
        found = let_go(model, Moments(verdict).at(291_000), "a")
        self.assertEqual(found.to, Place("standing", None))
        self.assertGreater(found.goes, found.holds + 0.2)


class Paces(unittest.TestCase):
    def test_moved_by_the_quickest_of_what_was_seen(self):
        _, verdict = scored([start(), at(8, "guard", "a"), at(10, "side", "a"), end(60)], "full-points")
        before, after = (
            guessed().moves["guard top"]["side top"],
            learned({move: 8 * n for move, n in moves_of(verdict).items()}).moves["guard top"]["side top"],
        )
        self.assertEqual((before, after), (12_000, round((12_000 * 4 + 2 * 2_000) / 6)))
        self.assertEqual(learned({}), guessed())
