"""The range of a verdict: what the match comes to where the scorer was not sure of what was seen, and what hangs
on one judgement of the scorer alone.

Every unsure observation is either true or left out. The fold goes through the log
once with all ways side by side; ways that stand alike again, whatever led there,
go on as one, so that twelve unsure observations (4,096 ways) cost little more than
a handful.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from .adjudication import Verdict, adjudicate
from .adjudication.fold import advance, begin, result, step
from .adjudication.rows import Result
from .adjudication.sentences import WHO
from .adjudication.state import State
from .adjudication.verdict import Tallies
from .match_log import MatchLog
from .match_log.observations import Attempt, Observation, Ref, Side, Submission
from .techniques import within_sentence
from .times import Millis, minutes
from .vocabulary import phrases

MOST_EXACT = 12
"""Up to so many unsure observations every way of taking them is scored."""
WAYS_BEYOND = 128
"""With more of them so many ways go on side by side; the middling ones are let go, and the range is not exact."""
STEPS_BEYOND = 200_000
"""And in a very long log fewer ways, so that not more than about this many steps are taken."""
MOVES = phrases("moves")
MOST_ALONE = 50
"""So many judgements are looked at one by one, whether each decides by itself."""


@dataclass(frozen=True, slots=True)
class Scenario:
    """How the match comes out in one way of taking the unsure observations."""

    score: Tallies
    result: Result
    left_out: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "score": {side: dict(tally) for side, tally in self.score.items()},
            "result": {"winner": self.result.winner, "method": self.result.method},
            "left_out": list(self.left_out),
        }

    @property
    def standing(self) -> tuple[int, int, int, int]:
        """How good it is for the athlete: the winner first, then points, advantages and penalties."""
        return _standing(self.result.winner, self.score)


@dataclass(frozen=True, slots=True)
class Deciding:
    """One judgement of the scorer without which, all else as logged, the match has another winner."""

    observation: Ref
    judged: str
    """What was judged, as the end of a sentence."""
    winner: Side | None
    without: Side | None

    @property
    def because(self) -> str:
        with_it, without = _win(self.winner), _win(self.without)
        return f"One judgement decides the match, {self.judged}: with it {with_it}, without it {without}."

    def as_json(self) -> dict[str, Any]:
        return {
            "observation": self.observation,
            "winner": self.winner,
            "without": self.without,
            "because": self.because,
        }


@dataclass(frozen=True, slots=True)
class Range:
    """The scenarios with none, with all, and the worst and best for the athlete over all ways.

    Where ``exact`` is false, more ways were possible than were followed: the true
    range reaches at least as far as this one.
    """

    unsure: tuple[Ref, ...]
    exact: bool
    none: Scenario
    all: Scenario
    worst: Scenario
    best: Scenario
    deciding: tuple[Deciding, ...]

    @property
    def because(self) -> str:
        if not self.unsure:
            return "Nothing is marked as unsure."
        many = len(self.unsure)
        what = "the unsure entry is" if many == 1 else f"the {many} unsure entries are"
        worst, best = self.worst.result.winner, self.best.result.winner
        if worst == best:
            said = f"Whether or not {what} true, {_win(worst)}."
        else:
            said = f"Depending on whether {what} true: at best {_win(best)}, at worst {_win(worst)}."
        if self.exact:
            return said
        return f"{said} With this many unsure entries not every combination was scored, so the true range may be wider."

    def as_json(self) -> dict[str, Any]:
        return {
            "unsure": list(self.unsure),
            "exact": self.exact,
            "because": self.because,
            **{name: getattr(self, name).as_json() for name in ("none", "all", "worst", "best")},
            "deciding": [row.as_json() for row in self.deciding],
        }


def range_of(log: MatchLog, verdict: Verdict) -> Range:
    """The range of ``verdict``, which is the adjudication of ``log``."""
    unsure = [seen for seen in log.observations if not seen.sure]
    everything = Scenario(verdict.score, verdict.result, ())
    if not unsure:
        return Range((), True, everything, everything, everything, everything, deciding(log, verdict))
    refs = tuple(seen.ref for seen in unsure)
    ways, exact = _every_way(log, _most_ways(log, len(unsure)))
    scenarios = [Scenario(way.state.score, result(way.state), tuple(way.left_out)) for way in ways]
    return Range(
        unsure=refs,
        exact=exact,
        none=_without(log, unsure),
        all=everything,
        worst=min(scenarios, key=lambda scenario: scenario.standing),
        best=max(scenarios, key=lambda scenario: scenario.standing),
        deciding=deciding(log, verdict),
    )


@dataclass(slots=True)
class _Way:
    """One way of taking the unsure observations, up to where the walk has come."""

    state: State
    left_out: list[Ref]
    last: Millis

    def take(self, seen: Observation) -> None:
        step(self.state, seen)
        self.last = seen.t


def _most_ways(log: MatchLog, unsure: int) -> int:
    if unsure <= MOST_EXACT:
        return 1 << MOST_EXACT
    return max(4, min(WAYS_BEYOND, STEPS_BEYOND // len(log.observations)))


def _every_way(log: MatchLog, most: int) -> tuple[list[_Way], bool]:
    """All ways through the log, alike ones as one; and whether none was let go."""
    ways = [_Way(begin(log), [], 0)]
    exact = True
    for seen in log.observations:
        if seen.sure:
            for way in ways:
                way.take(seen)
        else:
            without = [_Way(way.state.fork(), [*way.left_out, seen.ref], way.last) for way in ways]
            for way in ways:
                way.take(seen)
            ways += without
        if len(ways) > 1:
            ways = _merged(ways)
        if len(ways) > most:
            exact = False
            ways.sort(key=lambda way: _standing(_ahead(way.state), way.state.score))
            ways = ways[: most // 4] + ways[-(most // 4) :]
    for way in ways:
        advance(way.state, way.last)
    return ways, exact


def _merged(ways: list[_Way]) -> list[_Way]:
    kept: dict[Any, _Way] = {}
    for way in ways:
        kept.setdefault((way.last, way.state.future(way.last)), way)
    return list(kept.values())


def _without(log: MatchLog, left_out: Sequence[Observation]) -> Scenario:
    gone = {seen.index for seen in left_out}
    kept = tuple(seen for seen in log.observations if seen.index not in gone)
    verdict = adjudicate(replace(log, observations=kept))
    return Scenario(verdict.score, verdict.result, tuple(seen.ref for seen in left_out))


def deciding(log: MatchLog, verdict: Verdict) -> tuple[Deciding, ...]:
    """The judgements that decide by themselves: an attempt that very nearly came off, a close submission, a doubt."""
    judged = [(seen, _judged(seen)) for seen in log.observations]
    judgements = [(seen, *found) for seen, found in judged if found is not None]
    if len(judgements) > MOST_ALONE:
        return ()
    winner = verdict.result.winner
    rows = []
    for seen, said, otherwise in judgements:
        others = [otherwise if one is seen else one for one in log.observations]
        again = adjudicate(replace(log, observations=tuple(one for one in others if one is not None)))
        if again.result.winner != winner:
            rows.append(Deciding(seen.ref, said, winner, again.result.winner))
    return tuple(rows)


def _judged(seen: Observation) -> tuple[str, Observation | None] | None:
    """What the scorer judged in an observation, and what it would be otherwise: None, left out."""
    at = f"at {minutes(seen.t)} of the footage"
    if not seen.sure:
        return f"what was seen {at} and is marked as unsure", None
    if isinstance(seen, Attempt) and seen.outcome == "near":
        return f"that {WHO[seen.by]}'s {MOVES[seen.move]} {at} very nearly worked", replace(seen, outcome="failed")
    if isinstance(seen, Submission) and seen.threat == "close":
        technique = within_sentence(seen.technique)
        return f"that {WHO[seen.by]}'s {technique} {at} was close", replace(seen, threat="attempt")
    return None


def _standing(winner: Side | None, score: Tallies) -> tuple[int, int, int, int]:
    a, b = score["a"], score["b"]
    won = {"a": 1, None: 0, "b": -1}[winner]
    ahead = (a["points"] - b["points"], a["advantages"] - b["advantages"], b["penalties"] - a["penalties"])
    return (won, *ahead)


def _ahead(state: State) -> Side | None:
    return None if state.ending is None else state.ending.winner


def _win(winner: Side | None) -> str:
    return "no one has won" if winner is None else f"{WHO[winner]} wins"
