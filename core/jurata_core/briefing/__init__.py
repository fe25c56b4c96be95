"""The briefing: one page for an athlete's division at an event, in plain words where it is a child's."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from ..adjudication.at_once import rules_of
from ..divisions import Division, match_length
from ..legality import legality
from ..rulebook import DANGER, DEFERENCE, Rule, differences, entries, first_upper, follows, scoring
from ..rulesets import Ruleset
from ..techniques import catalogue

CHILD = 15
"""Up to this age a briefing is worded for a child and the parents."""
MOST_ERRORS = 5
MOST_TURNS = 4


@dataclass(frozen=True, slots=True)
class BarredTechnique:
    """A technique that a division does not allow, with what it is in a few words."""

    name: str
    about: str


@dataclass(frozen=True, slots=True)
class SameConsequence:
    """Barred techniques that lead to the same."""

    techniques: tuple[BarredTechnique, ...]
    follows: str


@dataclass(frozen=True, slots=True)
class Barred:
    """The techniques of one family that a division does not allow."""

    family: str
    groups: tuple[SameConsequence, ...]


@dataclass(frozen=True, slots=True)
class Briefing:
    division: str
    ruleset: str
    plain: bool
    """Whether it is worded for a child."""
    wins: tuple[Rule, ...]
    barred: tuple[Barred, ...]
    turns: tuple[str, ...]
    """What is legal and turns into something that is not, the commonest first."""
    errors: tuple[str, ...]
    changed: tuple[str, ...]
    """What differs from the event before; empty where none is given, or nothing differs."""
    danger: str
    deference: str


def briefing(division: Division, ruleset: Ruleset, before: tuple[Division, Ruleset] | None = None) -> Briefing:
    """The briefing for a division under a ruleset; ``before`` is that of the athlete's last event."""
    plain = division.age <= CHILD
    return Briefing(
        division=str(division),
        ruleset=ruleset.title,
        plain=plain,
        wins=tuple(_plain_scoring(division, ruleset) if plain else scoring(division, ruleset)),
        barred=tuple(_barred(division, ruleset)),
        turns=tuple(_turns(division, ruleset)),
        errors=tuple(_errors(division, ruleset, plain)),
        changed=() if before is None else tuple(_changed(before, (division, ruleset))),
        danger="Tap early. Let go when your opponent taps. Stop when the referee says stop." if plain else DANGER,
        deference="The event's rules, its referee and its medical staff decide. Not sure? Ask your coach."
        if plain
        else DEFERENCE,
    )


def _barred(division: Division, ruleset: Ruleset) -> list[Barred]:
    """What is barred by family; a variant goes with what it is a variant of."""
    found: dict[str, dict[str, list[BarredTechnique]]] = {}
    for row in entries(division, ruleset):
        one = row.technique
        if row.status != "legal" and one.parent is None:
            same = found.setdefault(one.family, {}).setdefault(follows(row.status, ruleset), [])
            same.append(BarredTechnique(one.name, one.about))
    return [
        Barred(family, tuple(SameConsequence(tuple(techniques), then) for then, techniques in groups.items()))
        for family, groups in found.items()
    ]


def _turns(division: Division, ruleset: Ruleset) -> list[str]:
    """For what is tried most, what would make it illegal; of each kind once."""
    found: dict[str, str] = {}
    for one in sorted(catalogue().values(), key=lambda one: (-len(one.likely), one.id)):
        answer = legality(one.id, division, ruleset)
        for said in answer.neighbours if one.likely else ():
            found.setdefault(said, f"{one.name}: {said[:1].lower()}{said[1:]}")
    return list(found.values())[:MOST_TURNS]


@cache
def _known_errors() -> list[dict[str, Any]]:
    rows: list[dict[str, Any]] = json.loads((Path(__file__).parent / "errors.json").read_text("utf-8"))["errors"]
    return rows


def _errors(division: Division, ruleset: Ruleset, plain: bool) -> list[str]:
    fitting = [row for row in _known_errors() if _fits(row, division, ruleset)]
    return [str(row["plain" if plain else "text"]) for row in fitting[:MOST_ERRORS]]


def _fits(row: dict[str, Any], division: Division, ruleset: Ruleset) -> bool:
    if not row.get("from_age", 0) <= division.age <= row.get("to_age", division.age):
        return False
    if "setting" in row and getattr(ruleset, row["setting"][0]) not in row["setting"][1]:
        return False
    if "barred" in row and legality(row["barred"], division, ruleset).status == "legal":
        return False
    return "legal" not in row or legality(row["legal"], division, ruleset).status == "legal"


def _changed(before: tuple[Division, Ruleset], now: tuple[Division, Ruleset]) -> list[str]:
    found = differences(before, now)
    said = [f"{row['topic']}: {row['texts'][1]} Before: {row['texts'][0]}" for row in found["scoring"]]
    for status, words in (("legal", "Legal now"), ("illegal", "Illegal now"), ("stop", "Stopped now")):
        names = [row["name"] for row in found["techniques"] if row["statuses"][1] == status]
        if names:
            said.append(f"{words}: {', '.join(names)}.")
    return said


def _plain_scoring(division: Division, ruleset: Ruleset) -> list[Rule]:
    """The same rules in short sentences."""
    length, points = match_length(division), ruleset.points
    rules = [
        Rule("Time", f"Your match lasts {length // 60_000} minutes." if length else "Ask how long your match lasts.")
    ]
    rules.append(Rule("Win at once", "You win if your opponent taps. If you tap, you lose. That is fine: tap early."))
    if any(points.values()):
        paying = [("takedown", "a takedown"), ("sweep", "a sweep"), ("knee_on_belly", "knee on belly")]
        paying += [("guard_pass", "passing the guard"), ("mount", "mount"), ("back", "back control with both feet in")]
        rules.append(Rule("Points", " ".join(f"{points[key]} for {words}." for key, words in paying)))
        rules.append(Rule("Hold it", f"Stay there for {ruleset.hold_said.replace(' s', ' seconds')}. Then it counts."))
        if ruleset.opening(length):
            rules.append(Rule("Later", "In the first part of the match nothing counts yet."))
    else:
        rules.append(Rule("Points", "There are no points. Only a tap wins."))
    if ruleset.advantages:
        rules.append(Rule("Almost", "If you almost get it, you score an advantage. Advantages break a tie."))
    rules += [Rule(rule.topic, rule.plainly(ruleset)) for rule in rules_of(ruleset)]
    rules.append(Rule("Not allowed", f"If you do something that is not allowed, {_plain_illegal(ruleset)}"))
    ways = {"points": "most points wins", "advantages": "most advantages", "penalties": "fewest penalties"}
    steps = [ways[step] for step in ruleset.tiebreak if step in ways]
    last = "the referee decides" if "decision" in ruleset.tiebreak else "it is a draw"
    rules.append(Rule("If time runs out", f"{first_upper(', then '.join([*steps, last]))}."))
    return rules


def _plain_illegal(ruleset: Ruleset) -> str:
    if ruleset.illegal == "disqualify":
        return "you are disqualified at once."
    return f"the referee stops you with a warning. After warning {ruleset.illegal_disqualify_on} your match is over."
