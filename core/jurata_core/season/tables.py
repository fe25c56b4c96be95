"""A season as tidy tables: one row a thing that happened, one column a fact, and a dictionary that says what each is.

The tables, their columns and the dictionary are all made from ``TABLES``. Times are in seconds. The coached athlete is
``a``, the opponent ``b``.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Iterator
from typing import Any, Literal, NamedTuple

from ..formats.table import csv_text
from ..match_log.observations import SIDES
from ..times import to_seconds
from .athlete import Played


class Entry(NamedTuple):
    """A match of a season, with what a table says of it apart from its figures."""

    athlete: str
    opponent: str
    event: str
    age: int
    belt: str
    attire: str
    played: Played


Type = Literal["text", "date", "whole number", "number", "true or false"]


class Column(NamedTuple):
    name: str
    type: Type
    unit: str
    about: str


class Table(NamedTuple):
    """A table: what one row of it is, its columns, and the rows that a match adds."""

    name: str
    about: str
    columns: tuple[Column, ...]
    rows: Callable[[Entry], Iterable[tuple[Any, ...]]]


_MATCH = Column("match", "text", "", "the match, as in the table of matches")
_BY = Column("by", "text", "", "a: the coached athlete; b: the opponent")
_T = Column("t", "number", "s", "when it happened, in seconds of the footage")


def _matches(entry: Entry) -> Iterator[tuple[Any, ...]]:
    one, figures = entry.played, entry.played.figures
    sums = [sum(row[place] for row in figures.scored.values()) for place in range(4)]
    yield (
        one.match, entry.athlete, entry.opponent, entry.event, one.date, one.ruleset, entry.age, entry.belt,
        entry.attire, one.result, one.method, *sums, *map(to_seconds, (figures.length, figures.top, figures.below)),
        to_seconds(figures.feet),
    )  # fmt: skip


def _tries(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for one in entry.played.figures.tries:
        at = (to_seconds(one.t), to_seconds(one.clock))
        yield (entry.played.match, one.move, one.by, one.done, *at, one.technique, one.detail)


def _scores(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for what, sums in entry.played.figures.scored.items():
        for side, (points, advantages) in zip(SIDES, (sums[:2], sums[2:]), strict=True):
            if points or advantages:
                yield (entry.played.match, what, side, points, advantages)


def _errors(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for one in entry.played.mistakes:
        of = one.mistake
        known = (of.key, of.kind, to_seconds(of.t), of.points, of.advantages, one.lost, one.root)
        yield (entry.played.match, *known, one.root == of.key)


def _causes(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for one in entry.played.mistakes:
        for cause in one.mistake.causes:
            yield (entry.played.match, one.mistake.key, cause)


def _well(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for one in entry.played.figures.well:
        yield (entry.played.match, one.kind, to_seconds(one.t))


def _penalties(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for foul, counts in entry.played.figures.penalties.items():
        for side, n in zip(SIDES, counts, strict=True):
            if n:
                yield (entry.played.match, foul, side, n)


def _illegal(entry: Entry) -> Iterator[tuple[Any, ...]]:
    for technique, by, t in entry.played.figures.illegal:
        yield (entry.played.match, technique, by, to_seconds(t))


def _parts(entry: Entry) -> Iterator[tuple[Any, ...]]:
    figures = entry.played.figures
    for number, part in enumerate(figures.thirds, 1):
        yield (entry.played.match, f"third {number}", to_seconds(part.lasted), part.points_a, part.points_b)
    for state, part in figures.states.items():
        yield (entry.played.match, state, to_seconds(part.lasted), part.points_a, part.points_b)


TABLES = (
    Table("matches", "one match", (
        Column("match", "text", "", "what the match is called in all tables"),
        Column("athlete", "text", "", "the coached athlete"),
        Column("opponent", "text", "", "the opponent"),
        Column("event", "text", "", "the event; empty where it is not known"),
        Column("date", "date", "", "the day of the match"),
        Column("ruleset", "text", "", "the title of the ruleset that it is scored by"),
        Column("age", "whole number", "years", "the athlete's age at the event"),
        Column("belt", "text", "", "the belt then held"),
        Column("attire", "text", "", "gi or nogi"),
        Column("result", "text", "", "won, lost or drawn, for the athlete; empty where it has no end"),
        Column("method", "text", "", "how it was decided; unfinished where it has no end"),
        Column("points_a", "whole number", "", "points of the athlete"),
        Column("advantages_a", "whole number", "", "advantages of the athlete"),
        Column("points_b", "whole number", "", "points of the opponent"),
        Column("advantages_b", "whole number", "", "advantages of the opponent"),
        Column("length", "number", "s", "how long the clock ran"),
        Column("top", "number", "s", "of that, how long the athlete was on top"),
        Column("below", "number", "s", "of that, how long the athlete was below"),
        Column("feet", "number", "s", "of that, how long nobody was on top"),
    ), _matches),
    Table("tries", "one move that somebody tried", (
        _MATCH,
        Column("move", "text", "", "takedown, sweep, guard_pass, back, escape or submission"),
        _BY,
        Column("worked", "true or false", "", "whether it worked: held, or left for something better"),
        _T,
        Column("clock", "number", "s", "when it happened, on the match clock"),
        Column("technique", "text", "", "which technique, where it was logged"),
        Column("from", "text", "", "the position it began in, or the detail of the guard"),
    ), _tries),
    Table("scores", "what one side was given for one thing in one match", (
        _MATCH,
        Column("what", "text", "", "what it was for"),
        _BY,
        Column("points", "whole number", "", ""),
        Column("advantages", "whole number", "", ""),
    ), _scores),
    Table("errors", "one error of the athlete", (
        _MATCH,
        Column("error", "text", "", "the key of the error"),
        Column("kind", "text", "", "which kind of error"),
        _T,
        Column("points", "whole number", "", "what it cost on the sheet"),
        Column("advantages", "whole number", "", "what it cost on the sheet"),
        Column("chance", "number", "", "what it cost of the chance of winning, 0 to 1; empty where that is not known"),
        Column("root", "text", "", "the key of the error that the chain began with"),
        Column("began", "true or false", "", "whether a chain began with it"),
    ), _errors),
    Table("causes", "one cause that a coach named for one error", (
        _MATCH,
        Column("error", "text", "", "the key of the error"),
        Column("cause", "text", "", "in the coach's words"),
    ), _causes),
    Table("well", "one thing done well", (_MATCH, Column("kind", "text", "", "what it was"), _T), _well),
    Table("penalties", "how often one side was penalised for one foul in one match", (
        _MATCH, Column("foul", "text", "", ""), _BY, Column("n", "whole number", "", "how many"),
    ), _penalties),
    Table("illegal", "one illegal technique", (_MATCH, Column("technique", "text", "", ""), _BY, _T), _illegal),
    Table("parts", "one third of a match, or all of it in which the athlete was ahead, level or behind", (
        _MATCH,
        Column("part", "text", "", "third 1 to third 3; ahead, level or behind"),
        Column("length", "number", "s", "how long the clock ran in it"),
        Column("points_a", "whole number", "", "points of the athlete in it"),
        Column("points_b", "whole number", "", "points of the opponent in it"),
    ), _parts),
)  # fmt: skip


def written(head: Iterable[str], rows: Iterable[Iterable[Any]]) -> str:
    """A table as CSV (RFC 4180): empty for what is not known, and no cell that a spreadsheet would calculate."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    writer.writerows([_cell(value) for value in row] for row in rows)
    return out.getvalue()


def _cell(value: Any) -> Any:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    return csv_text(value) if isinstance(value, str) else value


def files(entries: Iterable[Entry]) -> Iterator[tuple[str, str]]:
    """The tables of some matches and their dictionary, each with the name of its file."""
    known = list(entries)
    for table in TABLES:
        head = [column.name for column in table.columns]
        yield f"{table.name}.csv", written(head, (row for entry in known for row in table.rows(entry)))
    yield "dictionary.csv", dictionary()


def dictionary() -> str:
    """What each column of each table is, as a table."""
    rows = ((table.name, table.about, *column) for table in TABLES for column in table.columns)
    return written(("table", "row", "column", "type", "unit", "about"), rows)
