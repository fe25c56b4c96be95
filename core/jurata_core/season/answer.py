"""The season of the matches in some files, as the command line prints it: without a server, by the core's own rates."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any, NamedTuple

from ..adjudication import adjudicate
from ..chance import fit
from ..faults import Fault, FaultyInput, quoted
from ..lessons import Lesson, added, lesson_of, seen_in
from ..review import MOVES, Move, Seen, errors
from ..rulesets.house import titled
from .athlete import Played, as_json, result_of, season_of
from .certainty import Spread, spread_of
from .figures import figures_of, tried_of
from .mistakes import Asked, costs_of, counted, mistakes_of
from .reading import Record, Unread, read_records, sources_of
from .tables import Entry


class Gathered(NamedTuple):
    """The matches of some files: those that could be read, and what was wrong with the others."""

    entries: list[Entry]
    unread: list[Unread]


def gather(paths: Iterable[Path]) -> Gathered:
    """Read and score all matches, and weigh their errors by what the matches themselves teach."""
    records: list[Record] = []
    unread: list[Unread] = []
    for path in paths:
        try:
            for one in read_records(sources_of(path)):
                if isinstance(one, Record):
                    records.append(one)
                else:
                    unread.append(one)
        except FaultyInput as error:
            unread.append(Unread(str(path), error.faults))
    scored = [Seen(one.log, adjudicate(one.log)) for one in records]
    lesson: Lesson = {}
    for seen in scored:
        lesson = added(lesson, lesson_of(seen.log, seen.verdict))
    rates = fit(seen_in(lesson))
    asked = [Asked(seen, errors(seen), rates) for seen in scored]
    costs = costs_of(asked)
    return Gathered([_entry(*row) for row in zip(records, asked, costs, strict=True)], unread)


def _entry(record: Record, asked: Asked, costs: dict[str, Any]) -> Entry:
    about, log, verdict = record.about, record.log, asked.seen.verdict
    method = verdict.result.method
    played = Played(
        record.source, about.date, result_of(verdict.result.winner, method), method,
        titled(log.ruleset, log.raw["ruleset"]), figures_of(asked.seen),
        counted(mistakes_of(asked.seen, asked.errors), costs, {}),
    )  # fmt: skip
    division = log.division
    return Entry(
        about.athlete, about.opponent, about.event, division.age, division.belt, division.attire, played
    )  # fmt: skip


def season_answer(found: Gathered, athlete: str | None) -> dict[str, Any]:
    """The season of one athlete among some matches; of the only one, where none is named.

    Raises FaultyInput for one who is not there, or where several are and none is named.
    """
    names = Counter(entry.athlete for entry in found.entries)
    if athlete is None:
        if len(names) > 1:
            known = ", ".join(quoted(name) for name in sorted(names))
            raise FaultyInput([Fault("athlete", f"is missing: there are matches of {known}", "missing")])
        athlete = next(iter(names), "")
    elif athlete not in names:
        known = ", ".join(quoted(name) for name in sorted(names)) or "nobody"
        raise FaultyInput([Fault("athlete", f"{quoted(athlete)} has no match here: there are {known}", "unknown")])
    own = [entry.played for entry in found.entries if entry.athlete == athlete]
    season = season_of(own, spreads(found.entries))
    unread = [{"source": one.source, "faults": [str(fault) for fault in one.faults]} for one in found.unread]
    return {"athlete": athlete, **as_json(season), "unread": unread}


def spreads(entries: Sequence[Entry]) -> dict[Move, Spread]:
    """How the shares of all athletes of some matches are spread, by move."""
    sums: dict[tuple[Move, str], list[int]] = {}
    for entry in entries:
        tried = tried_of(entry.played.figures)
        for move in MOVES:
            done, of = tried.get(move, (0, 0))
            row = sums.setdefault((move, entry.athlete), [0, 0])
            row[0], row[1] = row[0] + done, row[1] + of
    by_move = {move: [(done, of) for (of_move, _), (done, of) in sums.items() if of_move == move] for move in MOVES}
    return {move: spread_of(shares) for move, shares in by_move.items()}
