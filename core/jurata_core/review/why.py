"""What the log shows to have brought an error about: an own attempt, a hold, a grip, a contest, or the legs."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, NamedTuple

from ..adjudication.sentences import CLAIMS, WHO
from ..match_log.observations import Attempt, Contest, Foul, Grip, Legs, Ref, Submission
from ..techniques import NOT_NAMED, within_sentence
from ..times import Millis, minutes
from ..vocabulary import vocabulary
from .seen import Found, Seen

OWN_TRY: Millis = 8_000
"""So long after an own attempt or hold what follows can come from it."""
RELEASED: Millis = 3_000
"""So long after a grip or hold of the other side ended what follows can still come from it."""
FOUGHT: Millis = 8_000
"""So long after a contest was lost what follows can come from it."""
MOST = 2
"""So many mechanisms are named together at most."""
AT_ITS_END = ("control_lost", "retaken", "penalty", "too_late")
"""Kinds that are decided when they end; the others where they began."""
OF_THEMSELVES = ("technical", "out_of_plan", "grip_unbroken", "no_attempt", "dragged_out", "chance_missed")
"""Kinds that say themselves what there is to say, or are about what was left undone."""


class Cause(NamedTuple):
    """One sentence with the observations that it rests on."""

    because: str
    observations: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {"because": self.because, "observations": list(self.observations)}


class _Mechanism(NamedTuple):
    t: Millis
    ref: Ref
    said: str


def cause_of(seen: Seen, found: Found) -> Cause | None:
    """What brought an error about; None where the log shows nothing of the kind."""
    if found.kind in OF_THEMSELVES:
        return None
    at = found.t if found.kind in AT_ITS_END else found.since
    # An own try explains most, then what the other side had on, then what was lost before. A mark is quoted already.
    sources = (_own_tries, _holds, _grips, _contests, _legs, _fouls)
    named = [one for source in sources if (one := _last(source(seen, found, at), found, seen, at)) is not None][:MOST]
    if not named:
        return None
    said = " ".join(one.said for one in named)
    return Cause(said, tuple(one.ref for one in named))


def _last(mechanisms: Iterator[_Mechanism], found: Found, seen: Seen, at: Millis) -> _Mechanism | None:
    """The last of some that the error is not about itself, and that no restart lies after."""
    restarts = [one.start for one in seen.verdict.running[1:]]
    fitting = [
        one for one in mechanisms if one.ref not in found.refs and not any(one.t < start <= at for start in restarts)
    ]
    return max(fitting, key=lambda one: one.t, default=None)


def _own_tries(seen: Seen, found: Found, at: Millis) -> Iterator[_Mechanism]:
    whose = f"{WHO[seen.side].capitalize()}'s own"
    for one in seen.between(Attempt, at - 2 * OWN_TRY, at, seen.side):
        if one.outcome != "done" and one.t < at and max(one.t, one.until) >= at - OWN_TRY:
            how = "very nearly worked" if one.outcome == "near" else "failed"
            yield _Mechanism(one.t, one.ref, f"{whose} {CLAIMS[one.move]} at {_at(seen, one.t)} {how} just before.")
    for hold in seen.lasting_into(Submission, at - OWN_TRY, at, seen.side):
        if hold.t < at:
            when = "was on" if hold.until > at else "had just failed"
            said = f"{whose} {within_sentence(hold.technique)} of {_at(seen, hold.t)} {when}."
            yield _Mechanism(hold.t, hold.ref, said)


def _holds(seen: Seen, found: Found, at: Millis) -> Iterator[_Mechanism]:
    for hold in seen.lasting_into(Submission, at - RELEASED, at, seen.other):
        if hold.t < at:
            said = f"It came out of {WHO[seen.other]}'s {within_sentence(hold.technique)} of {_at(seen, hold.t)}."
            yield _Mechanism(hold.t, hold.ref, said)


def _grips(seen: Seen, found: Found, at: Millis) -> Iterator[_Mechanism]:
    since = min(found.since, at)
    for grip in seen.lasting_into(Grip, since - RELEASED, at, seen.other):
        if grip.outcome == "held" and grip.t < at and seen.grip_end(grip) >= since - RELEASED:
            said = f"{WHO[seen.other].capitalize()} had {grip_in_words(grip.grip)} from {_at(seen, grip.t)}."
            yield _Mechanism(grip.t, grip.ref, said)


def _contests(seen: Seen, found: Found, at: Millis) -> Iterator[_Mechanism]:
    for one in seen.between(Contest, at - 2 * FOUGHT, at):
        if one.won == seen.other and at - FOUGHT <= one.until <= at:
            aim = vocabulary()["contests"][one.aim]
            said = f"{WHO[seen.other].capitalize()} had won {aim} at {_at(seen, one.until)}."
            yield _Mechanism(one.t, one.ref, said)


def _legs(seen: Seen, found: Found, at: Millis) -> Iterator[_Mechanism]:
    """What the other side last had of the legs that are tied up."""
    if seen.place_before(at).position not in ("entangled", "guard"):
        return
    had: dict[str, Legs] = {}
    for one in seen.between(Legs, seen.since(at - 1), at, seen.other):
        for what, said, there in (("the knee", one.knee, "caught"), ("the heel", one.heel, "exposed")):
            if said == there:
                had[what] = one
            elif said is not None:
                had.pop(what, None)
    if had:
        last = max(had.values(), key=lambda one: one.t)
        what = " and ".join(name for name, one in had.items() if one is last)
        yield _Mechanism(last.t, last.ref, f"{WHO[seen.other].capitalize()} had {what} since {_at(seen, last.t)}.")


def _fouls(seen: Seen, found: Found, at: Millis) -> Iterator[_Mechanism]:
    """What had been penalised before, of a further penalty."""
    if found.kind == "penalty":
        for foul in seen.between(Foul, 0, at - 1):
            if foul.by in (seen.side, "both") and not foul.verbal:
                yield _Mechanism(foul.t, foul.ref, f"There had been a penalty at {_at(seen, foul.t)} already.")


def grip_in_words(name: str) -> str:
    """A grip within a sentence, with its article."""
    if name == NOT_NAMED:
        return "a grip"
    return f"the {name}" if name.endswith(("grip", "hook", "hooks", "lock", "tie", "headlock")) else f"the {name} grip"


def _at(seen: Seen, t: Millis) -> str:
    return minutes(seen.clock(t))
