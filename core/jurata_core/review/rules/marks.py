"""What the coach marked as wrong, where it belongs to no other error."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...adjudication.sentences import CLAIMS
from ...match_log.observations import Mark
from ...times import Millis
from ..seen import Found, Seen

PLANS = frozenset(("plan", "pace", "rules"))
"""Causes of what was done against the plan; all others are of how it was done."""


def technical(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Something that was done wrong."""
    yield from _marked(seen, "technical", of_plan=False)


def out_of_plan(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Something other than what was agreed."""
    yield from _marked(seen, "out_of_plan", of_plan=True)


def _marked(seen: Seen, kind: str, of_plan: bool) -> Iterator[Found]:
    for mark in seen.marks(good=False):
        if (mark.cause in PLANS) != of_plan or mark.ref in seen.joined:
            continue
        facts = {"said": said_of(mark), "quoted": quoted(mark), "cost": "as the coach judges"}
        yield Found(kind, mark.t, max(mark.t, mark.until), seen.exchange_at(mark.t), (mark.ref,), facts)


def said_of(mark: Mark) -> str:
    """A mark in words."""
    missed = f"{CLAIMS[mark.chance]} not taken" if mark.chance else None
    return mark.text or missed or mark.cause or "marked by the coach"


def quoted(mark: Mark) -> str:
    """A sentence that quotes a mark, or says what it is."""
    if not mark.text:
        return f"Marked by the coach: {said_of(mark)}."
    text = mark.text.strip()
    return f"The coach: “{text}{'' if text.endswith(('.', '!', '?', '…')) else '.'}”"
