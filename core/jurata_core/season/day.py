"""A day of fights: who fights when on which mat, out of a table; and what is known of opponents met before."""

from __future__ import annotations

import csv
import datetime
import io
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from ..faults import Fault, FaultyInput, quoted
from ..fields import Check, Wrong, choice, read_fields
from ..rulesets import preset_ids
from ..techniques import within_sentence
from .athlete import Moment, Played, kind_name
from .mistakes import Counted
from .plan import weight_of
from .reading import text_of
from .words import MOVE_TITLES

MOST_FIGHTS = 500
MOST_THINGS = 3
"""So many things are said between two rounds: more is not heard."""


class Fight(NamedTuple):
    """A fight as it is announced. ``ruleset`` is a preset's id, or empty."""

    athlete: str
    opponent: str
    time: datetime.time | None
    mat: str
    club: str
    round: str
    weight_class: str
    ruleset: str
    attire: str


def _time(value: Any) -> datetime.time:
    try:
        hours, minutes = (int(part) for part in str(value).strip().replace(".", ":").split(":")[:2])
        return datetime.time(hours, minutes)
    except ValueError:
        raise Wrong(f"{quoted(value)} should be a time such as 9:40") from None


COLUMNS: tuple[tuple[str, Check, Any], ...] = (
    ("athlete", text_of(80), ""),
    ("opponent", text_of(80), ""),
    ("time", Check(_time, {"type": "string"}), None),
    ("mat", text_of(20), ""),
    ("club", text_of(80), ""),
    ("round", text_of(40), ""),
    ("weight_class", text_of(40), ""),
    ("ruleset", choice(*preset_ids()), ""),
    ("attire", choice("gi", "nogi"), "gi"),
)
"""The columns of a table of fights; all but the athlete may be missing."""


def read_fights(text: str) -> list[Fight]:
    """A table of fights as CSV, with the names of the columns in its first line; separated by comma, semicolon or tab.

    Raises FaultyInput with every fault of every line.
    """
    try:
        dialect: Any = csv.Sniffer().sniff(text.splitlines()[0], ",;\t") if text.strip() else csv.excel
    except csv.Error:
        dialect = csv.excel
    rows = list(csv.reader(io.StringIO(text.strip(), newline=""), dialect))
    head = [name.strip().lower().replace(" ", "_") for name in rows[0]] if rows else []
    if "athlete" not in head:
        known = ", ".join(name for name, *_ in COLUMNS)
        raise FaultyInput([Fault("line 1", f"should name the columns, athlete among them: {known}", "missing")])
    if len(rows) > MOST_FIGHTS + 1:
        raise FaultyInput([Fault("file", f"has {len(rows) - 1} fights; {MOST_FIGHTS} at most", "too_large")])
    faults: list[Fault] = []
    found = []
    for number, row in enumerate(rows[1:], 2):
        if not any(cell.strip() for cell in row):
            continue
        raw = {name: cell.strip() or None for name, cell in zip(head, row, strict=False)}
        values = read_fields(raw, COLUMNS, f"line {number}: ", faults)
        if not raw.get("athlete"):
            faults.append(Fault(f"line {number}: athlete", "is missing", "missing"))
        elif len(values) == len(COLUMNS):
            found.append(Fight(**values))
    if faults:
        raise FaultyInput(faults)
    return found


class Thing(NamedTuple):
    """One thing to look at between two rounds: what it was, and the footage that shows it."""

    name: str
    moment: Moment


def things_of(match: Played) -> list[Thing]:
    """What weighed most of a match, in the order in which it happened."""
    first = sorted(match.mistakes, key=lambda one: -weight_of(one))[:MOST_THINGS]
    return [_thing(match, one) for one in sorted(first, key=lambda one: one.mistake.t)]


def _thing(match: Played, one: Counted) -> Thing:
    of = one.mistake
    return Thing(of.title or kind_name(of.kind), Moment(match.match, of.t, of.start, of.end))


class Done(NamedTuple):
    """What somebody did: a technique or a kind of move, how often it worked and was tried, and the footage."""

    name: str
    done: int
    of: int
    moments: tuple[Moment, ...]


class Met(NamedTuple):
    """An opponent met before: the matches, what they tried on us and what we did to them, the commonest first."""

    matches: tuple[tuple[str, Played], ...]
    """The athlete, and the match."""
    theirs: tuple[Done, ...]
    ours: tuple[Done, ...]


def met(matches: Iterable[tuple[str, Played]]) -> Met:
    """What is known of an opponent from the matches against them."""
    rows = sorted(matches, key=lambda row: str(row[1].date or ""), reverse=True)
    played = [one for _, one in rows]
    return Met(tuple(rows), _did(played, "b"), _did(played, "a"))


def _did(matches: Sequence[Played], by: str) -> tuple[Done, ...]:
    groups: dict[str, list[tuple[bool, Moment]]] = {}
    for match in matches:
        for one in match.figures.tries:
            if one.by == by:
                name = one.technique or MOVE_TITLES[one.move].lower()
                groups.setdefault(name, []).append((one.done, Moment(match.match, one.t, one.start, one.end)))
    found = [
        Done(within_sentence(name), sum(done for done, _ in rows), len(rows), tuple(moment for _, moment in rows))
        for name, rows in groups.items()
    ]
    return tuple(sorted(found, key=lambda one: (-one.done, -one.of, one.name)))


def met_json(found: Met) -> Mapping[str, Any]:
    return {
        "matches": [
            {"match": one.match, "athlete": athlete, "date": one.date, "result": one.result, "method": one.method}
            for athlete, one in found.matches
        ],
        "theirs": [_done_json(one) for one in found.theirs],
        "ours": [_done_json(one) for one in found.ours],
    }


def _done_json(one: Done) -> dict[str, Any]:
    moments = [moment.as_json() for moment in one.moments]
    return {"name": one.name, "done": one.done, "of": one.of, "moments": moments}
