"""What was done well: found by the same means as the errors, and shown with the same weight."""

from ..seen import Seen
from .course import kept, marked, patient
from .holds import attacked, defended, finished
from .moves import denied, escaped, held, moved
from .rows import ORDER, WELL_NAMES, Good
from .stops import freed, gripped, stopped

MOST = 12

__all__ = ["WELL_NAMES", "Good", "done_well", "found_well"]

_FINDERS = (
    finished, marked, escaped, held, moved, denied, stopped, defended, attacked, gripped, freed, patient, kept,
)  # fmt: skip


def found_well(seen: Seen) -> list[Good]:
    """Everything that was done well; empty where the log shows nothing of the kind."""
    return [good for find in _FINDERS for good in find(seen)]


def done_well(seen: Seen) -> list[Good]:
    """What a review shows of what was done well, the most telling first."""
    found = found_well(seen)
    penalised = any(row.to == seen.side and row.kind == "penalties" for row in seen.verdict.ledger)
    if not found and not penalised and seen.watched(0, seen.over):
        found.append(Good("clean", seen.side, 0, seen.over, "Not a single penalty."))
    return sorted(found, key=lambda one: (ORDER.index(one.kind), -one.weight, one.since))[:MOST]
