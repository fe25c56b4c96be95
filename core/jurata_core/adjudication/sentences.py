"""The trade's words for what the core knows by code, and the sentences of reasons with their facts filled in."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import fields
from functools import cache
from string import Formatter
from typing import Any

from ..match_log.observations import SIDES
from ..times import minutes, span
from ..vocabulary import phrases, vocabulary
from .reasons import LossHow, Reason, Recount

WHO: Mapping[str | None, str] = {**vocabulary()["people"], None: "nobody"}
"""What the two are called in a sentence: where their names go, and nowhere else."""

_PEOPLE = re.compile("|".join(rf"\b(?:{WHO[side]}|{WHO[side][:1].upper()}{WHO[side][1:]})\b" for side in SIDES))


def named(text: str, athlete: str, opponent: str) -> str:
    """A sentence of the core with the names of the two in it; never for a text that somebody wrote."""
    names = {WHO["a"]: athlete, WHO["b"]: opponent}
    return _PEOPLE.sub(lambda found: names[found[0][:1].lower() + found[0][1:]], text)


CLAIMS = {**phrases("moves"), **phrases("claims"), "submission": "submission"}
PLACES = phrases("positions")
FOULS = {**phrases("fouls"), "double_pull": "both staying seated too long"}

RUNGS = {
    "none": "noted only",
    "advantage": "an advantage to the opponent",
    "one_point": "a point to the opponent",
    "two_points": "two points to the opponent",
    "minus_point": "minus one point",
    "disqualify": "disqualification",
}
"""What each step of a ladder of penalties costs."""

ENDINGS: Mapping[LossHow, str] = {
    "position": "then {place:place}",
    "restart": "then the referee restarted them",
    "period": "then overtime began",
    "time": "then time ran out",
}

RECOUNTS: Mapping[Recount | None, str] = {
    None: "",
    "submission": " The count only started when the submission was cleared, at {counted:clock}.",
    "restart": " The clock was stopped, so the count started again at {counted:clock}.",
    "passing": " Control was shaken in between, so the count started again at {counted:clock}.",
}

_AMOUNTS = {
    "points": ("point", "points"),
    "advantages": ("advantage", "advantages"),
    "penalties": ("penalty", "penalties"),
}


def amount(n: int, kind: str) -> str:
    """``2 points``, ``1 advantage``."""
    one, many = _AMOUNTS[kind]
    return f"{n} {one if abs(n) == 1 else many}"


_ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def ordinal(n: int) -> str:
    """``first``, ``second``; beyond ten ``number 11``."""
    return _ORDINALS[n - 1] if n <= len(_ORDINALS) else f"number {n}"


def _worded(value: Any, form: str, tally: str) -> str:
    """A fact as a coach reads it: ``{held:span}``, ``{to:who}``, ``{opened:clock}``."""
    if form in ("who", "Who"):
        return _cased(WHO[value], form)
    if form == "won":  # by what happened to the other side; nobody where it happened to both
        return "" if value is None else f" {_cased(WHO[value], 'Who')} won."
    if form in ("claim", "Claim"):
        return _cased(CLAIMS[value], form)
    if form in ("place", "Place"):
        return _cased(PLACES[value], form)
    if form == "foul":
        return _cased(FOULS[value], "Foul")
    if form == "nth":
        return ordinal(value)
    if form == "clock":
        return minutes(value)
    if form == "span":
        return span(value)
    if form == "award":
        return amount(value, tally).replace("-", "minus ")
    return _cased(str(value), form) if form else str(value)


def _cased(words: str, form: str) -> str:
    return words[:1].upper() + words[1:] if form[0].isupper() else words


@cache
def _parts(template: str) -> tuple[tuple[str, str | None, str], ...]:
    """A template taken apart once: (text before, name of the fact, its form)."""
    return tuple((before, name, form or "") for before, name, form, _ in Formatter().parse(template))


def filled(template: str, facts: Mapping[str, Any], tally: str = "points") -> str:
    """A template with its facts filled in, each as its form asks."""
    said = []
    for before, name, form in _parts(template):
        said.append(before)
        if name is not None:
            said.append(_worded(facts[name], form, tally))
    return "".join(said)


def sentence(reason: Reason, **row: Any) -> str:
    """The sentence of a reason, with its facts and those of its row."""
    facts = {"won": "won"} | {name: getattr(reason, name) for name in _facts_of(type(reason))} | row
    tally = row.get("kind", "points")
    words: dict[str, Any] = {}
    if "ending" in facts:
        words["ending"] = filled(ENDINGS[facts["ending"]], facts, tally)
    if "recount" in facts:
        words["recount"] = filled(RECOUNTS[facts["recount"]], facts, tally)
    if "claims" in facts:
        words["claims"] = _cased(" and ".join(CLAIMS[claim] for claim in facts["claims"]), "Claims")
    if "cause" in facts:
        words["cause"] = sentence(facts["cause"])
    return filled(reason.sentence, facts | words, tally)


_FACTS: dict[type[Reason], tuple[str, ...]] = {}


def _facts_of(reason: type[Any]) -> tuple[str, ...]:
    """The names of a reason's fields; looking them up each time takes longer than filling them in."""
    if reason not in _FACTS:
        names = [field.name for field in fields(reason)]
        _FACTS[reason] = (*names, *(name for name, one in vars(reason).items() if isinstance(one, property)))
    return _FACTS[reason]
