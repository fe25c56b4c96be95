"""A season's figures in sentences: never a bare percentage, and no more certainty than there is."""

from __future__ import annotations

import datetime
import math
from typing import Any

from ..review import Move
from .certainty import LEAST_MATCHES, Change, Rate, Share, Word

MOVE_TITLES: dict[Move, str] = {
    "takedown": "Takedowns",
    "sweep": "Sweeps",
    "guard_pass": "Guard passes",
    "back": "Taking the back",
    "escape": "Escapes from control",
    "submission": "Submissions",
}
MOST_DECIMALS = 3
LEAST_LOST = 0.005
LEAST = 4
"""With fewer, before and since together, nothing is said of a change."""
ERRORS: dict[Word, str] = {
    "better": "better",
    "probably better": "probably better, not certain",
    "no difference": "no difference to be seen",
    "probably worse": "probably worse, not certain",
    "worse": "worse",
}
DONE_WELL: dict[Word, str] = {
    "better": "less often",
    "probably better": "probably less often, not certain",
    "no difference": "no difference to be seen",
    "probably worse": "probably more often, not certain",
    "worse": "more often",
}
"""The same words for what is to be more often, not rarer."""


def percent(share: float) -> str:
    """A share in percent; near 0 and 1 with so many decimals that it does not read as never or always."""
    edge = 100 * min(share, 1 - share)
    decimals = min(MOST_DECIMALS, -math.floor(math.log10(edge))) if 0 < edge < 1 else 0
    said = f"{100 * share:.{decimals}f}"
    return f"{said.rstrip('0').rstrip('.') if decimals else said}%"


def said_share(share: Share) -> str:
    """How many of how many, and between what the true share lies."""
    if not share.of:
        return "nothing to count"
    return f"{share.done} of {share.of}: between {percent(share.low)} and {percent(share.high)}"


def share_json(share: Share) -> dict[str, Any]:
    """A share with its sentence."""
    return {**share._asdict(), "said": said_share(share)}


def said_change(change: Change, split: datetime.date | None, well: bool = False) -> str:
    """Whether something has become rarer since a day, with what that is seen from."""
    before, since = change.before, change.since
    if split is None:
        return _in_matches(before, since.matches + before.matches)
    said = f"{_in_matches(before, before.matches)} before {day(split)}, {_in_matches(since, since.matches)} since"
    if before.n + since.n < LEAST or min(before.matches, since.matches) < LEAST_MATCHES:
        return f"{said}: too few to say whether it changes"
    return f"{said}: {(DONE_WELL if well else ERRORS)[change.word]}"


def said_cost(points: int, lost: float, unknown: int = 0) -> str:
    """What errors cost together, in words; empty where that is nothing. ``lost`` is in won matches."""
    parts = [f"{points} {'point' if points == 1 else 'points'}"] if points else []
    if lost >= LEAST_LOST:
        parts.append(f"chances worth {lost:.2f} wins" if lost < 1 else f"chances worth {lost:.1f} wins")
    if unknown:
        parts.append("the rest is still being calculated")
    return ", ".join(parts)


def _in_matches(rate: Rate, matches: int) -> str:
    if not matches:
        return "no match"
    often = f" ({rate.per_ten:.1f} in ten minutes)" if rate.n else ""
    return f"{rate.n} in {matches} {'match' if matches == 1 else 'matches'}{often}"


def day(date: datetime.date) -> str:
    return f"{date.day} {date:%B %Y}"
