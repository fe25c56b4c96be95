"""Errors as a coach reads them: what a rule found, with its sentences and the stretch of footage that shows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..adjudication.sentences import filled
from ..faults import Fault, FaultyInput
from ..match_log.observations import Mark, Ref
from ..techniques import within_sentence
from ..times import Millis, to_seconds
from .kinds import kinds
from .rules import MARKED, RULES
from .rules.marks import said_of
from .seen import Found, Loss, Seen

LEAD_IN, LEAD_OUT = 4_000, 2_000
"""How long before it began its clip starts, and how long after it was decided it ends."""
BESIDE: Millis = 2_000
"""So far from an error a mark still stands beside it."""
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


def errors(seen: Seen) -> list[Error]:
    """Every error of the side, in order of where it began. Raises FaultyInput for a log too long to be reviewed."""
    if len(seen.log.observations) > MOST_REVIEWED:
        message = f"has {len(seen.log.observations)} entries; a review reads a match of up to {MOST_REVIEWED}"
        raise FaultyInput([Fault("observations", message, "too_large")])
    found = _with_marks(seen, [one for kind, rule in RULES.items() for one in rule(seen, kinds()[kind].limits)])
    found += [one for kind, rule in MARKED.items() for one in rule(seen, kinds()[kind].limits)]
    made: dict[str, Error] = {}
    for one in found:
        kind = kinds()[one.kind]
        facts = _facts(seen, one)
        key = _key(one, made)
        marks = [mark for ref in one.refs if isinstance(mark := seen.observation(ref), Mark) and mark.on == seen.side]
        causes = tuple(dict.fromkeys([*(mark.cause for mark in marks if mark.cause), *kind.causes]))
        because = _sentence(filled(kind.because, facts))
        if one.kind not in MARKED:
            because = " ".join([because, *(f"The coach: {said_of(mark)}." for mark in marks)])
        made[key] = Error(
            key, filled(kind.title, facts), because, kind.instead, causes,
            str(facts["cost"]), seen.clock(one.since), seen.clock(one.t), one,
        )  # fmt: skip
    order = [*RULES, *MARKED]
    return sorted(made.values(), key=lambda error: (error.found.since, error.found.t, order.index(error.kind)))


def _with_marks(seen: Seen, found: list[Found]) -> list[Found]:
    """The same with each mark of something wrong added to the shortest error that it stands beside."""
    for mark in seen.marks(good=False):
        beside = [
            (one.t - one.since, number)
            for number, one in enumerate(found)
            if one.since - BESIDE <= mark.t <= one.t + BESIDE
        ]  # fmt: skip
        if beside:
            _, number = min(beside)
            seen.joined.add(mark.ref)
            found[number] = found[number]._replace(refs=(*found[number].refs, mark.ref))
    return found


def own_error(
    seen: Seen, key: str, title: str, because: str, instead: str, since: Millis, t: Millis, loss: Loss
) -> Error:
    """An error that the coach saw and no rule finds. ``loss`` is what the coach says it cost."""
    found = Found(OWN, since, t, seen.exchange_at(t), (), {}, loss)
    return Error(key, title, because, instead, (), str(loss), seen.clock(since), seen.clock(t), found)


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
