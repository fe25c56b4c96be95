"""Errors as a coach reads them: what a rule found, with its sentences and the stretch of footage that shows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from ..adjudication.sentences import filled
from ..faults import Fault, FaultyInput
from ..match_log.observations import Mark, Ref
from ..techniques import within_sentence
from ..times import Millis, to_seconds
from .advice import advice_of
from .kinds import Kind, Setting, Young, kinds, looked_for
from .rules import MARKED, RULES
from .rules.marks import title_of
from .seen import Found, Loss, Seen
from .why import opened

LEAD_IN, LEAD_OUT = 4_000, 2_000
"""How long before it began its clip starts, and how long after it was decided it ends."""
BESIDE: Millis = 2_000
"""So far from an error a mark still belongs to it."""
OWN = "own"
"""The kind of an error that the coach added."""


@dataclass(frozen=True, slots=True)
class Error:
    """One error. ``since`` is where it began, ``t`` where it was decided; ``start`` to ``end`` shows both.

    ``key`` stays the same as long as the same rule finds it in the same observations.
    """

    key: str
    title: str
    because: str
    instead: str
    drill: str
    young: Young
    """The sentences for an athlete who is a child."""
    causes: tuple[str, ...]
    """Likely ones, of :func:`kinds.causes`, the likeliest first."""
    said_cost: str
    since_clock: Millis
    clock: Millis
    found: Found

    @property
    def kind(self) -> str:
        return self.found.kind

    @property
    def start(self) -> Millis:
        return max(0, self.found.since - LEAD_IN)

    @property
    def end(self) -> Millis:
        return self.found.t + LEAD_OUT

    def as_json(self) -> dict[str, Any]:
        found = self.found
        return {
            "key": self.key,
            "kind": found.kind,
            "title": self.title,
            "because": self.because,
            "instead": self.instead,
            "drill": self.drill,
            "causes": list(self.causes),
            "cost": self.said_cost,
            "loss": found.loss._asdict(),
            "since": to_seconds(found.since),
            "t": to_seconds(found.t),
            "since_clock": to_seconds(self.since_clock),
            "clock": to_seconds(self.clock),
            "start": to_seconds(self.start),
            "end": to_seconds(self.end),
            "held": None if found.held is None else to_seconds(found.held),
            "needed": None if found.needed is None else to_seconds(found.needed),
            "exchange": found.exchange,
            "observations": list(found.refs),
        }


MOST_REVIEWED = 3_000
"""Observations: ten times as many as the busiest match that a coach scores. Each error is scored again without it."""


def errors(seen: Seen, settings: Mapping[str, Setting] = MappingProxyType({})) -> list[Error]:
    """Every error of the side, in order of where it began; ``settings`` are those of the coach, by kind.

    Raises FaultyInput for a log too long to be reviewed.
    """
    if len(seen.log.observations) > MOST_REVIEWED:
        message = f"has {len(seen.log.observations)} entries; a review reads a match of up to {MOST_REVIEWED}"
        raise FaultyInput([Fault("observations", message, "too_large")])
    wanted = looked_for(settings)
    # A kind that is not wanted is looked for all the same: what it covers is not reported as another kind.
    by_rule = [one for kind, rule in RULES.items() for one in rule(seen, wanted.get(kind, kinds()[kind]).limits)]
    found = _with_marks(seen, [one for one in by_rule if one.kind in wanted])
    found = [opened(seen, one) for one in found]
    found += [one for kind, rule in MARKED.items() if kind in wanted for one in rule(seen, wanted[kind].limits)]
    made: dict[str, Error] = {}
    for one in found:
        key = _key(one, made)
        made[key] = _error(seen, key, wanted[one.kind], one)
    order = [*RULES, *MARKED]
    return sorted(made.values(), key=lambda error: (error.found.since, error.found.t, order.index(error.kind)))


def _error(seen: Seen, key: str, kind: Kind, found: Found) -> Error:
    facts = _facts(seen, found)
    marks = marks_of(seen, found)
    causes = tuple(dict.fromkeys([*(mark.cause for mark in marks if mark.cause), *kind.causes]))
    # The coach's words stand over what the coach marked.
    title = title_of(marks[0]) if marks else filled(kind.title, facts)
    by_coach = " ".join(mark.instead.strip() for mark in marks if mark.instead and mark.instead.strip())
    advice = advice_of(seen, found, kind)
    young = Young(_sentence(filled(kind.young.because, facts)), by_coach or advice.young)
    return Error(
        key, _sentence(title), _sentence(filled(kind.because, facts)),
        by_coach or advice.instead, advice.drill, young, causes, str(facts["cost"]), seen.clock(found.since),
        seen.clock(found.t), found,
    )  # fmt: skip


def marks_of(seen: Seen, found: Found) -> list[Mark]:
    """The coach's marks of something wrong that an error stands on."""
    cited = (seen.observation(ref) for ref in found.refs)
    return [one for one in cited if isinstance(one, Mark) and one.on == seen.side and not one.good]


def _with_marks(seen: Seen, found: list[Found]) -> list[Found]:
    """The same with each mark of something wrong added to the shortest error whose moment and likely causes it fits.

    All others are errors of their own, as is a chance that was not taken.
    """
    for mark in seen.marks(good=False):
        if mark.chance:
            continue
        near = [
            (one.t - one.since, number)
            for number, one in enumerate(found)
            if one.since - BESIDE <= mark.t <= one.t + BESIDE and mark.cause in kinds()[one.kind].causes
        ]  # fmt: skip
        if near:
            _, number = min(near)
            seen.joined.add(mark.ref)
            found[number] = found[number]._replace(refs=(*found[number].refs, mark.ref))
    return found


def own_error(
    seen: Seen, key: str, title: str, because: str, instead: str, since: Millis, t: Millis, loss: Loss
) -> Error:
    """An error that the coach saw and no rule finds. ``loss`` is what the coach says it cost."""
    found = Found(OWN, since, t, seen.exchange_at(t), (), {}, loss)
    young = Young(because, instead)
    return Error(
        key, title, because, instead, instead, young, (), str(loss), seen.clock(since), seen.clock(t), found
    )  # fmt: skip


def _key(found: Found, taken: Mapping[str, Error]) -> str:
    first: Ref = found.refs[0] if found.refs else found.since
    key = name = f"{found.kind}-{first}"
    number = 1
    while key in taken:
        number += 1
        key = f"{name}-{number}"
    return key


def _facts(seen: Seen, found: Found) -> dict[str, Any]:
    facts = {"other": seen.other, "cost": str(found.loss), **found.facts}
    if isinstance(written := facts.get("technique"), str):
        facts["technique"] = within_sentence(written)
    return facts


def _sentence(text: str) -> str:
    return text[:1].upper() + text[1:]
