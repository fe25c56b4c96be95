"""Whether a technique is legal in a division under a ruleset, and why.

The table of the rules is a list of steps: each grade of ``legal_from`` names
the first column of :attr:`Division.column` in which a technique is legal.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from .divisions import RANK, Division
from .rulesets import Ruleset
from .techniques import (
    Technique,
    family,
    find,
    lineage,
    misspelt,
    named_in,
    spelling,
    suggestions,
    within,
    within_sentence,
)

Status = Literal["legal", "illegal", "stop"]

FIRST_LEGAL_COLUMN = {"always": 0, "age-13": 1, "age-16": 2, "blue": 3, "brown": 4, "brown-nogi": 4, "never": 5}

RULES = {
    "always": "is legal in every division",
    "age-13": "is legal from age 13",
    "age-16": "is legal from age 16",
    "blue": "is legal from blue belt and age 18",
    "brown": "is legal from brown belt and age 18",
    "brown-nogi": "is legal only in no-gi, from brown belt and age 18",
    "never": "is barred in every division",
}


@dataclass(frozen=True, slots=True)
class Legality:
    """The answer for one technique. ``technique`` is None where the name is not known."""

    technique: Technique | None
    status: Status
    because: str
    doubtful: bool = False
    """Whether the name is unknown and near that of a technique that is not legal."""
    neighbours: tuple[str, ...] = ()
    """Of a legal technique, what would make one of it that is not, each as a sentence."""


def legality(name: str, division: Division, ruleset: Ruleset) -> Legality:
    """Look a technique up by any of its names. An unknown name is treated as legal."""
    return _answer(name, division, _Allowances.of(ruleset))


MOST_NEAREST = 3


def nearest(name: str, division: Division, ruleset: Ruleset) -> dict[str, Status]:
    """The ids nearest to an unknown name, or of the family it names, with their status; the barred ones come first."""
    meant = family(name)
    near = meant or tuple(dict.fromkeys((*misspelt(name), *suggestions(name))))
    found = [(one, legality(one, division, ruleset).status) for one in near]
    found.sort(key=lambda row: row[1] == "legal")
    return dict(found if meant else found[:MOST_NEAREST])


def barred_near(name: str, division: Division, ruleset: Ruleset) -> Legality | None:
    """What is not legal and may be meant by an unknown name: a name within it, or one it misspells."""
    own = tuple(form for form in named_in(name) if form in _keys(ruleset.barred))  # barred and not in the catalogue
    answers = (legality(one, division, ruleset) for one in (*own, *within(name), *misspelt(name)))
    return next((one for one in answers if one.status != "legal"), None)


@dataclass(frozen=True, slots=True)
class _Allowances:
    """What a ruleset changes about legality; hashable, so that answers are kept."""

    title: str
    also_legal: frozenset[str]
    from_age: int
    from_belt: str
    barred: frozenset[str]

    @classmethod
    def of(cls, ruleset: Ruleset) -> _Allowances:
        also = ruleset.also_legal
        return cls(ruleset.title, _keys(also.techniques), also.from_age, also.from_belt, _keys(ruleset.barred))


@lru_cache(maxsize=256)
def _keys(names: tuple[str, ...]) -> frozenset[str]:
    """Names as keys: the id where the catalogue knows the name, its spelling where not."""
    return frozenset(known.id if (known := find(name)) else spelling(name) for name in names)


@lru_cache(maxsize=8192)
def _answer(name: str, division: Division, rules: _Allowances) -> Legality:
    found = _status(name, division, rules)
    if found.technique is None or found.status != "legal":
        return found
    said = []
    for turn in dict.fromkeys(turn for step in lineage(found.technique) for turn in step.turns):
        other = _status(turn.into, division, rules)
        if other.status != "legal" and other.technique is not None:
            then = "is illegal here" if other.status == "illegal" else "is stopped by the referee here"
            said.append(f"Where {turn.when}, it is a {within_sentence(other.technique.name)}, which {then}.")
    return replace(found, neighbours=tuple(said))


def _status(name: str, division: Division, rules: _Allowances) -> Legality:
    technique = find(name)
    if technique is None:
        named = name[:1].upper() + name[1:]
        if spelling(name) in rules.barred:
            return Legality(None, "illegal", f"{named} is barred for everyone under {rules.title}.")
        return Legality(
            None, "legal", f"{named} is not in the catalogue. It is treated as legal: check with the event."
        )
    chain = lineage(technique)
    root = chain[-1]
    ids = {step.id for step in chain}
    subject = root.name if root is technique else f"{technique.name} is a variant of {root.name}, which"
    if ids & rules.barred:
        return Legality(technique, "illegal", f"{subject} is barred for everyone under {rules.title}.")
    first = FIRST_LEGAL_COLUMN[root.legal_from]
    allowed = division.column >= first and not (root.legal_from == "brown-nogi" and division.attire == "gi")
    if allowed:
        tail = "." if root.legal_from == "always" else f". This division: {division}."
        return Legality(technique, "legal", f"{subject} {RULES[root.legal_from]}{tail}")
    if (
        ids & rules.also_legal
        and division.age >= rules.from_age
        and RANK[division.counted_belt] >= RANK[rules.from_belt]
    ):
        opened = f"{rules.title} allows it from {rules.from_belt} belt and age {rules.from_age}"
        return Legality(technique, "legal", f"{subject} {RULES[root.legal_from]}, but {opened}.")
    consequence = "; below that the referee stops and restarts, with no penalty" if root.below == "stop" else ""
    return Legality(
        technique, root.below, f"{subject} {RULES[root.legal_from]}{consequence}. This division: {division}."
    )
