"""A scorer's own record: agreement with the officials and with second scorers, who is early and who late, over time."""

from __future__ import annotations

import datetime
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

import numpy as np
from scipy import stats  # type: ignore[import-untyped]

from ..adjudication.rows import Award
from ..audit import Comparison, audit
from ..match_log.observations import TALLIES, Call
from ..review import Seen
from ..times import Millis
from .certainty import LEVEL, Share, share
from .words import share_json

LEAST_TIMES = 3
"""With fewer times nothing is said of who is early."""
NOTABLE_S = 0.3
"""A difference of less than this is no more than a frame or two of a phone's clip and a finger's delay."""
AGREED = "agreed"


class Judged(NamedTuple):
    """An award of the log, a call of the officials, or a pair of them."""

    kind: str
    standing: str
    late: Millis | None
    """How much later the other one gave it; None where only one did."""
    held: Millis | None
    """How long the position had been held when the other one gave it, of what has to be held."""
    needed: Millis | None


class Scoring(NamedTuple):
    """What one match says of its scorer."""

    seen: int
    unsure: int
    calls: tuple[Judged, ...]


class Average(NamedTuple):
    """A mean with the interval that the true one lies in; in seconds."""

    n: int
    mean: float
    low: float
    high: float


class Against(NamedTuple):
    """A scorer held against others: how much was given alike, by kind, and how much later the others give it."""

    matches: int
    agreement: Mapping[str, Share]
    late: Average | None
    held: Average | None
    """By how much longer than needed a position had been held when the others gave it."""


class Quarter(NamedTuple):
    """Three months of scoring: the share of all that both gave alike."""

    label: str
    share: Share


class Record(NamedTuple):
    """The record of a scorer."""

    matches: int
    unsure: Share
    officials: Against
    seconds: Against
    quarters: tuple[Quarter, ...]


def scoring_of(seen: Seen) -> Scoring:
    """What a match says of its scorer; without calls of the officials only how much was marked as unsure."""
    observed = seen.log.observations
    calls = judged(audit(seen.log, seen.verdict), seen) if any(isinstance(one, Call) for one in observed) else ()
    return Scoring(len(observed), sum(not one.sure for one in observed), calls)


def judged(compared: Comparison, seen: Seen) -> tuple[Judged, ...]:
    """The lines of a comparison; ``seen`` is the match whose awards are held against the others."""
    rows = {(row.t, row.to, row.kind, row.n): row for row in seen.verdict.ledger}
    found = []
    for line in compared.lines:
        award, call = line.award, line.call
        both = award is not None and call is not None and line.standing == AGREED
        late = call.t - award.t if both and award and call else None
        held = needed = None
        row = rows.get((award.t, award.to or "a", award.kind, award.n)) if award else None
        if both and call and row is not None:
            held, needed = _held(seen, row, call.t)
        found.append(Judged(line.kind, line.standing, late, held, needed))
    return tuple(found)


def _held(seen: Seen, row: Award, t: Millis) -> tuple[Millis | None, Millis | None]:
    """For how long of running clock a row's position had been held at a moment, and how long it has to be."""
    count = seen.count_of(row)
    if count is None or not count.needed:
        return None, None
    return max(0, seen.clock(t) - seen.clock(count.since)), count.needed


def record_of(
    matches: Sequence[tuple[datetime.date | None, Scoring]], seconds: Sequence[Sequence[Judged]]
) -> Record:  # fmt: skip
    """The record of a scorer: of their matches, and of each comparison with a second score of a match."""
    called = [scoring.calls for _, scoring in matches if scoring.calls]
    every = [scoring for _, scoring in matches]
    return Record(
        len(every),
        share(sum(one.unsure for one in every), sum(one.seen for one in every)),
        _against(called),
        _against(seconds),
        tuple(_quarters(matches)),
    )


def _against(matches: Sequence[Sequence[Judged]]) -> Against:
    lines = [line for match in matches for line in match]
    by_kind: dict[str, Share] = {
        kind: share(sum(line.standing == AGREED for line in of), len(of))
        for kind in TALLIES
        if (of := [line for line in lines if line.kind == kind])
    }
    late = [line.late / 1000 for line in lines if line.late is not None]
    held = [(line.held - line.needed) / 1000 for line in lines if line.held is not None and line.needed is not None]
    return Against(len(matches), by_kind, average(late), average(held))


def average(values: Sequence[float], level: float = LEVEL) -> Average | None:
    """The mean of some values with Student's interval; None of too few."""
    if len(values) < LEAST_TIMES:
        return None
    mean, error = float(np.mean(values)), float(stats.sem(values))
    low, high = (mean, mean) if error == 0 else stats.t.interval(level, len(values) - 1, mean, error)
    return Average(len(values), mean, float(low), float(high))


def _quarters(matches: Iterable[tuple[datetime.date | None, Scoring]]) -> Iterable[Quarter]:
    found: dict[tuple[int, int], list[bool]] = defaultdict(list)
    for date, scoring in matches:
        if date is not None:
            found[date.year, (date.month - 1) // 3].extend(line.standing == AGREED for line in scoring.calls)
    for (year, quarter), agreed in sorted(found.items()):
        if agreed:
            first = datetime.date(year, 3 * quarter + 1, 1)
            yield Quarter(
                f"{first:%B} to {first.replace(month=3 * quarter + 3):%B} {year}", share(sum(agreed), len(agreed))
            )


def said_late(against: Against, others: str) -> str:
    """Who gives earlier, in a sentence; ``others`` is who the scorer is held against."""
    if against.late is None:
        return "Too few awards that both gave to say who is earlier."
    n, mean, low, high = against.late
    between = f"between {low:.1f} and {high:.1f} s, from {n} awards"
    if abs(mean) < NOTABLE_S or low <= 0 <= high:
        return f"No clear difference in time: {mean:.1f} s on average ({between})."
    word = "later" if mean > 0 else "earlier"
    return f"On average {others} gave {abs(mean):.1f} s {word} than the log ({between})."


def said_held(against: Against, others: str) -> str:
    """How long positions had been held when the others gave points, in a sentence; empty where that is not known."""
    if against.held is None:
        return ""
    n, mean, low, high = against.held
    between = f"between {low:.1f} and {high:.1f} s, from {n} positions"
    if low > NOTABLE_S:
        held, why = f"{mean:.1f} s longer than needed", f"{others} are slow, or the log starts its counts too early"
        return f"By the log, positions were held {held} when {others} gave them ({between}): {why}."
    if high < -NOTABLE_S:
        held, why = f"{-mean:.1f} s too short", f"{others} give too soon, or the log starts its counts too late"
        return f"By the log, positions were held {held} when {others} gave them ({between}): {why}."
    return f"By the log, {others} gave positions about when they had been held long enough ({between})."


def as_json(record: Record) -> dict[str, Any]:
    return {
        "matches": record.matches,
        "unsure": share_json(record.unsure),
        "officials": _against_json(record.officials, "the officials"),
        "seconds": _against_json(record.seconds, "the other scorers"),
        "quarters": [{"months": one.label, "share": share_json(one.share)} for one in record.quarters],
    }


def _against_json(against: Against, others: str) -> dict[str, Any]:
    return {
        "matches": against.matches,
        "agreement": [{"kind": kind, "share": share_json(of)} for kind, of in against.agreement.items()],
        "late": said_late(against, others),
        "held": said_held(against, others),
    }


def stored(scoring: Scoring) -> list[Any]:
    """A scoring as it is stored; :func:`read_stored` reads it again."""
    return [scoring.seen, scoring.unsure, [list(one) for one in scoring.calls]]


def read_stored(values: Sequence[Any]) -> Scoring:
    return Scoring(values[0], values[1], tuple(Judged(*row) for row in values[2])) if values else Scoring(0, 0, ())
