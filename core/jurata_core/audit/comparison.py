"""The audit: one ledger held against calls of officials, or against other scorers' ledgers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ..adjudication import Verdict, adjudicate
from ..adjudication.reasons import CarriedIn
from ..adjudication.rows import Award
from ..match_log import MatchLog
from ..match_log.observations import TALLIES
from .agreement import alpha, kappa, share
from .entries import Entry, awarded, called, label
from .pairing import OFFICIALS, SCORERS, Pair, Window, pairs
from .shown import Shown, shown_on_boards

Standing = Literal["agreed", "differently", "not_called", "not_awarded"]


@dataclass(frozen=True, slots=True)
class Line:
    """One award, one call, or a pair of them, and how they stand to each other."""

    standing: Standing
    award: Entry | None
    call: Entry | None
    exchange: int
    because: str

    @property
    def kind(self) -> str:
        entry = self.award or self.call
        assert entry is not None  # a line has at least one of them
        return entry.kind

    def as_json(self) -> dict[str, Any]:
        return {
            "standing": self.standing,
            "award": self.award.as_json() if self.award else None,
            "call": self.call.as_json() if self.call else None,
            "exchange": self.exchange,
            "because": self.because,
        }


@dataclass(frozen=True, slots=True)
class Comparison:
    """All lines in order of time, figures per kind, and the labels both gave to each exchange."""

    lines: tuple[Line, ...]
    exchanges: tuple[tuple[str, str], ...]
    boards: tuple[Shown, ...] = ()
    """Looks at the scoreboard, where officials are held against the log."""

    def as_json(self) -> dict[str, Any]:
        ours, theirs = [one for one, _ in self.exchanges], [other for _, other in self.exchanges]
        return {
            "lines": [line.as_json() for line in self.lines],
            "agreement": {kind: self.figures(kind) for kind in TALLIES},
            "exchanges": [{"awarded": one, "called": other} for one, other in self.exchanges],
            "kappa": kappa(ours, theirs),
            "boards": [one.as_json() for one in self.boards],
        }

    def figures(self, kind: str) -> dict[str, Any]:
        """How often each standing occurs for one kind, and the share agreed with its 95 % interval."""
        standings: tuple[Standing, ...] = ("agreed", "differently", "not_called", "not_awarded")
        lines = [line for line in self.lines if line.kind == kind]
        counts: dict[str, Any] = {name: sum(line.standing == name for line in lines) for name in standings}
        found = share(counts["agreed"], len(lines))
        counts["share"] = None if found is None else found[0]
        counts["interval"] = None if found is None else [found[1], found[2]]
        return counts


@dataclass(frozen=True, slots=True)
class _Words:
    """How the two sides of a comparison are called in its sentences."""

    first: str
    second: str


_TABLE = _Words("the log", "the officials")
_SCORERS = _Words("the first scorer", "the second scorer")


def audit(log: MatchLog, verdict: Verdict | None = None, complete: bool = False) -> Comparison:
    """The officials' calls, and the looks at the scoreboard, in the log against its own ledger.

    Without any call nothing is known of what they gave: there is nothing to hold against anything. Where only some were
    logged, an award counts as not given only where calls around it, or a look at the scoreboard, show it; ``complete``
    says that all were, as where they were read from the officials' own device. What was carried in is no award of this
    footage, and a penalty that the referee was seen to give needs no call.
    """
    verdict = verdict or adjudicate(log)
    boards = tuple(shown_on_boards(log, verdict))
    theirs = called(log)
    if not theirs:
        return Comparison((), (), boards)
    ours = [entry for entry, row in zip(awarded(verdict), verdict.ledger, strict=True) if _to_be_called(row)]
    found = _compare(ours, theirs, verdict, OFFICIALS, _TABLE)
    known = [line for line in found.lines if not _given_by_the_referee(line)]
    unknown = set() if complete else {line for line in known if not _known_not_given(line, theirs, boards)}
    exchanges = {line.exchange for line in unknown}
    return Comparison(
        tuple(line for line in known if line not in unknown),
        tuple(labels for number, labels in enumerate(found.exchanges) if number not in exchanges),
        boards,
    )


def _known_not_given(line: Line, calls: Sequence[Entry], boards: Sequence[Shown]) -> bool:
    """Whether an award without a call was not given: calls lie around it, or a look at the scoreboard shows it."""
    if line.award is None or line.standing != "not_called":
        return True
    t = line.award.t
    after = next((one for one in boards if one.t > t + OFFICIALS.after), None)
    if after is not None:
        return not after.agrees and all(
            any(change.t == t and change.n < 0 and change.kind == line.award.kind for change in found)
            for found in after.sets
        ) and bool(after.sets)  # fmt: skip
    near = any(abs(call.t - t) <= OFFICIALS.after for call in calls)
    return near or (calls[0].t < t < calls[-1].t)


def _to_be_called(row: Award) -> bool:
    return not isinstance(row.reason, CarriedIn)


def _given_by_the_referee(line: Line) -> bool:
    """Whether a line is a penalty that nobody has logged a call of: the log has it from the referee."""
    return line.standing == "not_called" and line.kind == "penalties"


def compare(first: Verdict, second: Verdict) -> Comparison:
    """A second scorer's ledger of the same match against the first's, over the first's exchanges."""
    theirs = [entry._replace(exchange=None) for entry in awarded(second)]
    return _compare(awarded(first), theirs, first, SCORERS, _SCORERS)


def compare_all(verdicts: Sequence[Verdict]) -> dict[str, Any]:
    """Two or more scorers of one match: each against the first, and Krippendorff's alpha over all."""
    against = [compare(verdicts[0], other) for other in verdicts[1:]]
    labels = [[one for one, _ in against[0].exchanges]] if against else []
    labels += [[other for _, other in comparison.exchanges] for comparison in against]
    return {"against_first": [comparison.as_json() for comparison in against], "alpha": alpha(labels)}


def _compare(ours: list[Entry], theirs: list[Entry], verdict: Verdict, window: Window, words: _Words) -> Comparison:
    """Pairs by side and kind first; what is left over, by side or kind alone: called differently."""
    found = pairs(ours, theirs, window, _same_side_and_kind)
    left = [index for index in range(len(ours)) if index not in {one for one, _ in found}]
    right = [index for index in range(len(theirs)) if index not in {other for _, other in found}]
    odd = pairs([ours[index] for index in left], [theirs[index] for index in right], window, _same_side_or_kind)
    found += [(left[one], right[other]) for one, other in odd]
    for one, other in found:
        if theirs[other].to is None:
            theirs[other] = theirs[other]._replace(to=ours[one].to)
    lines = _lines(ours, theirs, found, verdict, words)
    return Comparison(tuple(lines), _labels(lines, len(verdict.exchanges)))


def _same_side_and_kind(one: Entry, other: Entry) -> bool:
    return one.may_be_of(other) and one.kind == other.kind


def _same_side_or_kind(one: Entry, other: Entry) -> bool:
    return one.may_be_of(other) or (one.kind == other.kind and one.n == other.n)


def _lines(ours: list[Entry], theirs: list[Entry], found: list[Pair], verdict: Verdict, words: _Words) -> list[Line]:
    lines = [_paired(ours[one], theirs[other], verdict, words) for one, other in found]
    taken, used = {one for one, _ in found}, {other for _, other in found}
    for index, award in enumerate(ours):
        if index not in taken:
            said = f"{award.given}: {words.second} gave nothing. {award.because}"
            lines.append(Line("not_called", award, None, _exchange_of(award, verdict), said))
    for index, call in enumerate(theirs):
        if index not in used:
            said = f"{words.second[0].upper()}{words.second[1:]} gave {call.given}: {words.first} has nothing there."
            said += f" {call.because}" if call.because else ""
            lines.append(Line("not_awarded", None, call, _exchange_of(call, verdict), said))
    return sorted(lines, key=lambda line: min(entry.t for entry in (line.award, line.call) if entry))


def _paired(award: Entry, call: Entry, verdict: Verdict, words: _Words) -> Line:
    exchange = _exchange_of(award, verdict)
    late = f"{abs(call.t - award.t) / 1000:.1f} s {'later' if call.t >= award.t else 'earlier'}"
    if _same_side_and_kind(award, call) and award.n == call.n:
        return Line("agreed", award, call, exchange, f"{award.given}: both agree; {words.second} {late}.")
    said = f"{award.given} by {words.first}, but {call.given} by {words.second} {late}. {award.because}"
    return Line("differently", award, call, exchange, said)


def _exchange_of(entry: Entry, verdict: Verdict) -> int:
    """The exchange that an entry was given in; where only its time tells, the one of that moment."""
    return (verdict.timeline.exchange_at(entry.t) or 0) if entry.exchange is None else entry.exchange


def _labels(lines: list[Line], exchanges: int) -> tuple[tuple[str, str], ...]:
    """What each exchange gave by either; a paired call counts in the exchange of its award."""
    ours: list[list[Entry]] = [[] for _ in range(max(1, exchanges))]
    theirs: list[list[Entry]] = [[] for _ in range(max(1, exchanges))]
    for line in lines:
        if line.award:
            ours[line.exchange].append(line.award)
        if line.call:
            theirs[line.exchange].append(line.call)
    return tuple((label(one), label(other)) for one, other in zip(ours, theirs, strict=True))
