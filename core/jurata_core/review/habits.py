"""What a coach dismisses again and again, and the setting that would turn it down: offered, never set by itself."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from typing import NamedTuple

from ..times import Millis, to_seconds
from .errors import Error
from .kinds import Setting, kinds

LEAST_DISMISSED = 3
"""So many of a kind are dismissed before anything is offered."""
SHARE = 0.75
"""At least so much of what was decided of a kind was dismissed."""
STEP: Millis = 5_000
"""A new limit is a multiple of this."""
THRESHOLD = "least"
"""The name of a limit below which a kind is not reported."""
NEVER_OFFERED = frozenset(("submitted", "illegal", "technical", "out_of_plan"))
"""What ended the match, what is a matter of safety, and what the coach said."""
MEASURES = {"grip_unbroken": "lasted", "stuck": "lasted", "dragged_out": "lasted", "no_attempt": "left"}
"""By kind, the fact that is compared with that limit."""


class Decided(NamedTuple):
    """What a coach made of one error: its kind, whether it was dismissed, and how long it was, where that is asked."""

    kind: str
    dismissed: bool
    measure: Millis | None


class Offer(NamedTuple):
    """A setting that would have spared the coach most of what was dismissed."""

    kind: str
    name: str
    dismissed: int
    decided: int
    least: Millis | None
    """The new limit; None where the kind can only be turned off."""

    def as_json(self) -> dict[str, object]:
        least = None if self.least is None else to_seconds(self.least)
        return {**self._asdict(), "least": least}


def measured(error: Error) -> Millis | None:
    """What of an error is compared with the limit of its kind, in milliseconds."""
    fact = error.found.facts.get(MEASURES.get(error.kind, ""))
    return fact if isinstance(fact, int) else None


def offers(decided: Iterable[Decided], settings: Mapping[str, Setting], declined: Mapping[str, int]) -> list[Offer]:
    """What could be turned down, the most dismissed first.

    ``declined`` says by kind how many had been dismissed when the coach declined an offer: it is made again only after
    as many more as were needed for the first.
    """
    by_kind: dict[str, list[Decided]] = defaultdict(list)
    for one in decided:
        if one.measure is None or one.measure >= _least(one.kind, settings):  # others are not shown any more
            by_kind[one.kind].append(one)
    found = []
    for kind, made in by_kind.items():
        setting = settings.get(kind, Setting())
        dismissed = [one for one in made if one.dismissed]
        needed = declined.get(kind, 0) + LEAST_DISMISSED
        if (
            kind not in kinds()
            or kind in NEVER_OFFERED
            or setting.off
            or len(dismissed) < needed
            or len(dismissed) < SHARE * len(made)
        ):
            continue
        least = _limit(kind, made)
        found.append(Offer(kind, kinds()[kind].name, len(dismissed), len(made), least))
    return sorted(found, key=lambda offer: -offer.dismissed)


def _limit(kind: str, made: list[Decided]) -> Millis | None:
    """A limit above most of what was dismissed that spares all that was accepted; None where there is no such one."""
    long = sorted(one.measure for one in made if one.dismissed and one.measure is not None)
    if kind not in MEASURES or not long:
        return None
    limit = (long[int(SHARE * (len(long) - 1) + 0.5)] // STEP + 1) * STEP
    accepted = [one.measure for one in made if not one.dismissed and one.measure is not None]
    return limit if all(one >= limit for one in accepted) else None


def _least(kind: str, settings: Mapping[str, Setting]) -> Millis:
    """The limit below which a kind is not reported; 0 where there is none."""
    usual = kinds()[kind].limits if kind in kinds() else {}
    own = settings[kind].limits if kind in settings else {}
    return own.get(THRESHOLD, usual.get(THRESHOLD, 0))
