"""What to do instead, for one error: from what brought it about, from the step of the other side, and from its kind.

``causes.json`` and ``steps.json`` are lists of rows that a coach can read and change. The first row whose conditions
all hold is taken; a condition is a list of what may be the case.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

from ...adjudication.places import CONTROL
from ...adjudication.reasons import claims_of
from ...adjudication.sentences import PLACES, filled
from ...match_log.observations import Attempt, Contest, Grip, Legs, Mark, Submission
from ...techniques import find, goes_for_a_leg, lineage, within_sentence
from ...vocabulary import vocabulary
from ..kinds import Kind
from ..seen import Found, Seen
from ..tries import detail_before
from ..why import STEPS, Mechanism, MechanismKind, grip_in_words, mechanisms

OF_THEIR_KIND = frozenset((
    "illegal", "unheld", "chased", "too_late", "shielded", "retaken", "paid_pull", "stuck", "dragged_out", "no_attempt",
    "chance_missed", "attempt_failed",
))  # fmt: skip
"""Kinds whose own advice says what matters; what brought them about is added to it."""


ABOUT_THEMSELVES: dict[str, MechanismKind] = {
    "technical": "mark", "out_of_plan": "mark", "grip_unbroken": "grip",
}  # fmt: skip
"""Kinds whose own observation says what to do, by what it is."""


class Advice(NamedTuple):
    """What to do instead, the same for a child, and what to drill."""

    instead: str
    young: str
    drill: str


class _Row(NamedTuple):
    """One row of a list. ``when`` has for each condition what may be the case."""

    when: Mapping[str, Sequence[Any]]
    instead: str
    drill: str
    young: str | None


def advice_of(seen: Seen, found: Found, kind: Kind) -> Advice:
    """The advice for an error.

    What brought it about comes first, then the step that was taken; where the log shows neither, its kind.
    """
    said = [one for one in (_by_cause(seen, found), _by_step(seen, found)) if one is not None]
    own = Advice(kind.instead, kind.young.instead, kind.drill)
    if not said:
        return own
    if found.kind in OF_THEIR_KIND:
        said = [own, said[0]]
    # The athlete remembers two sentences. The drill is of what brought it about.
    drill = said[-1].drill if found.kind in OF_THEIR_KIND else said[0].drill
    both = list(dict.fromkeys(said))[:2]
    return Advice(" ".join(one.instead for one in both), said[0].young, drill)


def _by_cause(seen: Seen, found: Found) -> Advice | None:
    """For the likeliest of what brought it about that the list has a row for."""
    about = [_about(seen, one) for one in _named(seen, found)]
    match found.kind:
        case "submitted":
            name = str(found.facts["technique"])
            about.insert(0, {"by": "submitted", **_technique(name)})
        case "penalty":
            about.append({"by": "penalty", "foul": found.facts["foul"]})
    return next((advice for facts in about if (advice := _listed("causes", facts)) is not None), None)


def _named(seen: Seen, found: Found) -> list[Mechanism]:
    """What brought an error about; of some kinds it is what they are about themselves."""
    if found.kind in ABOUT_THEMSELVES:
        about = seen.observation(found.refs[0])
        return [Mechanism(ABOUT_THEMSELVES[found.kind], about.t, about.ref, "")]
    return mechanisms(seen, found)


def _by_step(seen: Seen, found: Found) -> Advice | None:
    """Against the step of the other side, or for the position that was lost."""
    facts: dict[str, Any] = {"belts": seen.log.division.belt if seen.log.division else None}
    before = seen.place_before(found.happened)
    if found.kind in STEPS and before.top == seen.side and before.position in CONTROL:
        facts["lost"] = before.position
    elif found.kind in STEPS:
        facts["move"] = _move(found)
        facts["from"] = detail_before(seen, found.happened) or before.position
    else:
        return None
    return _listed("steps", facts)


def _move(found: Found) -> str | None:
    """What the other side did: the first of what it won by one step."""
    claims = [claim for row in found.rows for claim in claims_of(row.reason)]
    reached = found.facts.get("reached")
    return next(iter(claims), None) or (str(reached) if reached else None)


def _technique(name: str) -> dict[str, Any]:
    known = find(name)
    return {
        "technique": within_sentence(name), "leg": goes_for_a_leg(name),
        "family": None if known is None else lineage(known)[-1].id,
    }  # fmt: skip


def _about(seen: Seen, one: Mechanism) -> dict[str, Any]:
    """What the conditions of the list of causes ask of."""
    logged = seen.observation(one.ref)
    facts: dict[str, Any] = {"by": one.kind}
    match logged:
        case Submission():
            place = seen.place_before(logged.t)
            on_top = place.top == logged.by
            facts |= {**_technique(logged.technique), "top": on_top, "place": place.position if on_top else None}
            barred = any(one.ref in row.observations for row in seen.verdict.illegal)
            if one.kind == "own_hold" and barred:
                facts["by"] = "barred"
        case Attempt():
            facts |= {"move": logged.move}
        case Grip():
            facts |= {"grip": grip_in_words(logged.grip).removeprefix("the ")}
        case Contest():
            facts |= {"aim": vocabulary()["contests"][logged.aim], "contest": logged.aim}
        case Legs():
            facts |= {"what": "heel" if logged.heel == "exposed" else "knee"}
        case Mark():
            facts |= {"mark": logged.cause}
    return facts


def _listed(name: str, facts: Mapping[str, Any]) -> Advice | None:
    """What the first row of a list says that fits."""
    return next((_said(row, facts) for row in _rows(name) if _fits(row.when, facts)), None)


def _fits(when: Mapping[str, Sequence[Any]], facts: Mapping[str, Any]) -> bool:
    return all(_is_one_of(name, facts.get(name), may) for name, may in when.items())


def _is_one_of(name: str, fact: Any, may: Sequence[Any]) -> bool:
    if name == "grip":
        return isinstance(fact, str) and any(one in fact for one in may)
    return fact in may


def _said(row: _Row, facts: Mapping[str, Any]) -> Advice:
    words = {name: PLACES[fact] if name == "place" and fact else fact for name, fact in facts.items()}
    instead, drill, young = (filled(text, words) for text in (row.instead, row.drill, row.young or row.instead))
    return Advice(instead, young, drill)


@cache
def _rows(name: str) -> tuple[_Row, ...]:
    rows = json.loads((Path(__file__).parent / f"{name}.json").read_text("utf-8"))["rows"]
    return tuple(_Row(row["when"], row["instead"], row["drill"], row.get("young")) for row in rows)
