"""What the other side tried in vain, and grips."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import groupby

from ...adjudication.places import CONTROL
from ...adjudication.reasons import Held
from ...match_log.observations import Attempt, Grip
from ...times import Millis, span
from ..seen import Seen
from ..why import RELEASED, grip_in_words
from .moves import moved
from .rows import Good, at_clock, level, worst

STOPPED_FOR: Millis = 20_000
"""What does not come off within so long was stopped; what comes off then had only been slow."""
CALLED = {
    "takedown": ("a takedown", "takedowns"), "sweep": ("a sweep", "sweeps"),
    "guard_pass": ("a guard pass", "guard passes"), "reversal": ("a reversal", "reversals"),
    "knee_on_belly": ("a step to knee on belly", "steps to knee on belly"),
    "mount": ("a step to the mount", "steps to the mount"), "back": ("a step to the back", "steps to the back"),
    "escape": ("an escape", "escapes"), "stand_up": ("a try to stand up", "tries to stand up"),
}  # fmt: skip
"""What one try and several are called."""
AT_ONCE: Millis = 10_000
"""A grip that is gone so soon was dealt with."""


def stopped(seen: Seen) -> Iterator[Good]:
    """Tries of the other side that came to nothing, those at one move in one stay together."""
    tries = [one for one in seen.of(Attempt, seen.other) if _came_to_nothing(seen, one)]
    for (move, _), run in groupby(tries, key=lambda one: (one.move, seen.top_since(one.t))):
        together = list(run)
        first, last = together[0], together[-1]
        (one, several), at = CALLED.get(move, ("a try", "tries")), at_clock(seen, first.t)
        if len(together) == 1:
            said = f"Stopped {one} at {at}."
        else:
            said = f"Stopped {len(together)} {several} from {at} to {at_clock(seen, last.t)}."
        yield Good("stopped", seen.side, first.t, max(last.t, last.until), said, len(together))


def _came_to_nothing(seen: Seen, one: Attempt) -> bool:
    """Whether the side stood no worse for some time after a try, and the grip that it was made with led nowhere."""
    if one.outcome == "done":
        return False
    stood = level(seen, seen.place_at(one.t))
    until = max(one.t, one.until)
    if stood < -1 or worst(seen, one.t, min(until + STOPPED_FOR, seen.over)) < stood:
        return False
    grips = seen.lasting_into(Grip, one.t, one.t, seen.other)
    return all(worst(seen, one.t, min(seen.grip_end(grip) + RELEASED, seen.over)) >= stood for grip in grips)


def freed(seen: Seen) -> Iterator[Good]:
    """A grip of the other side that was gone at once, with nothing lost by it."""
    for grip in seen.of(Grip, seen.other):
        ended = seen.grip_end(grip)
        place = seen.place_at(grip.t)
        under = place.top == seen.other and place.position in CONTROL
        if grip.outcome != "held" or under or not 0 < ended - grip.t <= AT_ONCE or ended >= seen.over:
            continue
        if worst(seen, grip.t, min(ended + RELEASED, seen.over)) < level(seen, place):
            continue
        named = grip_in_words(grip.grip)
        said = f"{named[:1].upper()}{named[1:]} of {at_clock(seen, grip.t)} was gone after {span(ended - grip.t)}."
        yield Good("freed", seen.side, grip.t, ended, said)


def gripped(seen: Seen) -> Iterator[Good]:
    """An own grip that was on up to a step of one's own that paid, or that took a better position."""
    paid = (row for row in seen.verdict.ledger if row.to == seen.side and isinstance(row.reason, Held))
    steps = [*(seen.began(row) for row in paid), *(one.t for one in moved(seen))]
    for grip in seen.of(Grip, seen.side):
        if grip.outcome != "held":
            continue
        came = [began for began in steps if grip.t < began <= seen.grip_end(grip) + RELEASED]
        if came:
            named = grip_in_words(grip.grip)
            said = (
                f"{named[:1].upper()}{named[1:]} of {at_clock(seen, grip.t)} was kept up to the step at "
                f"{at_clock(seen, max(came))}."
            )
            yield Good("gripped", seen.side, grip.t, max(came), said)
