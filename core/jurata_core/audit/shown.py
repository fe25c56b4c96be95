"""What the event's scoreboard showed, as the scorer typed it, held against the verdict at that moment."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations
from typing import Any, NamedTuple

from ..adjudication import Verdict
from ..adjudication.reasons import CarriedIn
from ..adjudication.sentences import CLAIMS, WHO, amount
from ..match_log import MatchLog
from ..match_log.observations import SIDES, TALLIES, Board, Side, Tally
from ..times import Millis, minutes, span, to_seconds
from .pairing import OFFICIALS

MOST_TOGETHER = 3
"""So many changes at most are put together to explain a difference."""
MOST_SETS = 4
"""So many explanations at most are given."""
MOST_CANDIDATES = 40
"""With more changes that may be meant, only pairs of them are tried."""

Figures = dict[tuple[Side, Tally], int]


class Change(NamedTuple):
    """One thing that the officials may have given otherwise than the log: ``n`` more or less of a tally to a side."""

    t: Millis
    to: Side
    kind: Tally
    n: int
    text: str
    """The end of a sentence that begins with "if"."""

    def as_json(self) -> dict[str, Any]:
        return {"t": to_seconds(self.t), "to": self.to, "kind": self.kind, "n": self.n, "text": self.text}


class Shown(NamedTuple):
    """One look at the scoreboard. ``since`` is the last moment at which board and verdict are known to have agreed."""

    t: Millis
    clock: Millis
    board: Figures
    verdict: Figures
    since: Millis
    sets: tuple[tuple[Change, ...], ...]
    """The smallest sets of changes that explain the difference; empty where it agrees, or where nothing does."""

    @property
    def agrees(self) -> bool:
        return self.board == self.verdict

    @property
    def because(self) -> str:
        said = f"At {minutes(self.t)} of the footage the scoreboard shows {_score(self.board)}"
        if self.agrees:
            return f"{said}: the log agrees."
        known = f" Up to {minutes(self.since)} they agreed." if self.since else ""
        return f"{said}, and the log has {_score(self.verdict)}.{known} {self._explained()}"

    def _explained(self) -> str:
        if not self.sets:
            return f"No award of the log explains it: the officials gave {self._difference()}."
        ways = ["; and ".join(change.text for change in found) for found in self.sets]
        return f"It comes out if {'; or if '.join(ways)}."

    def _difference(self) -> str:
        left = {key: self.board[key] - self.verdict[key] for key in self.board}
        more = [f"{amount(abs(n), kind)} {'more' if n > 0 else 'less'} to {WHO[to]}"
                for (to, kind), n in left.items() if n]  # fmt: skip
        return " and ".join(more)

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t), "clock": to_seconds(self.clock), "agrees": self.agrees,
            "board": _sides(self.board), "verdict": _sides(self.verdict), "since": to_seconds(self.since),
            "sets": [[change.as_json() for change in found] for found in self.sets], "because": self.because,
        }  # fmt: skip


def shown_on_boards(log: MatchLog, verdict: Verdict) -> list[Shown]:
    """Each look at the scoreboard that was logged, in order of time."""
    found: list[Shown] = []
    since: Millis = 0
    for seen in log.observations:
        if not isinstance(seen, Board):
            continue
        board: Figures = {(side, tally): n for side in SIDES for tally, n in seen.score[side].items()}
        score = {key: n for key, n in _score_at(verdict, seen.t).items() if key in board}
        sets = () if board == score else _explanations(log, verdict, since, seen.t, board, score)
        found.append(Shown(seen.t, verdict.clock_at(seen.t), board, score, since, sets))
        if board == score:
            since = seen.t
    return found


def _score_at(verdict: Verdict, t: Millis) -> Figures:
    score: Figures = {(side, tally): 0 for side in SIDES for tally in TALLIES}
    for row in verdict.ledger:
        if row.t <= t:
            score[row.to, row.kind] += row.n
    return score


def _explanations(
    log: MatchLog, verdict: Verdict, since: Millis, t: Millis, board: Figures, score: Figures
) -> tuple[tuple[Change, ...], ...]:
    """The smallest sets of changes after ``since`` that turn the score into the board's."""
    wanted = {key: board[key] - score[key] for key in board if board[key] != score[key]}
    candidates = [one for one in _candidates(log, verdict, since, t) if (one.to, one.kind) in wanted]
    together = MOST_TOGETHER if len(candidates) <= MOST_CANDIDATES else 2
    for size in range(1, together + 1):
        sets = [found for found in combinations(candidates, size) if _sum(found) == wanted]
        if sets:
            return tuple(sets[-MOST_SETS:])
    return ()


def _sum(changes: Sequence[Change]) -> Figures:
    sums: Figures = {}
    for one in changes:
        sums[one.to, one.kind] = sums.get((one.to, one.kind), 0) + one.n
    return {key: n for key, n in sums.items() if n}


def _candidates(log: MatchLog, verdict: Verdict, since: Millis, t: Millis) -> list[Change]:
    """What can have been given otherwise: an award that was not given, or a lost claim that was; the earlier first."""
    found = []
    for row in verdict.ledger:
        if since - OFFICIALS.after < row.t <= t and not isinstance(row.reason, CarriedIn):
            was = "was" if abs(row.n) == 1 else "were"
            yet = "not on the board yet" if t - row.t <= OFFICIALS.after else "not given"
            what = f"the {amount(row.n, row.kind)} of {minutes(row.t)} {_to(row.to, row.kind)} {was} {yet}"
            found.append(Change(row.t, row.to, row.kind, -row.n, what))
    for count in verdict.counts:
        if count.outcome != "lost" or not count.n or not since < count.ended <= t:
            continue
        ran = sum(end - start for start, end in count.counted[-1:])
        what = (
            f"the {CLAIMS[count.claim]} of {minutes(count.since)} {_to(count.to, count.tally)}, held {span(ran)}, "
            f"was given: {amount(count.n, count.tally)}"
        )
        found.append(Change(count.ended, count.to, count.tally, count.n, what))
    return sorted(found)


def _to(side: Side, kind: Tally) -> str:
    return f"{'against' if kind == 'penalties' else 'to'} {WHO[side]}"


def _score(figures: Figures) -> str:
    """A score in words: points, and what else there is."""
    pairs = {tally: (figures["a", tally], figures["b", tally]) for tally in TALLIES if ("a", tally) in figures}
    points = ["{} to {}".format(*pairs.pop("points"))] if "points" in pairs else []
    return ", ".join([*points, *(f"{a} to {b} {tally}" for tally, (a, b) in pairs.items() if a or b or not points)])


def _sides(figures: Figures) -> dict[str, dict[str, int]]:
    return {side: {tally: n for (of, tally), n in figures.items() if of == side} for side in SIDES}
