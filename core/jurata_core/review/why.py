"""What the log shows to have brought an error about: an own try, a mark, a hold, a grip, a contest, the legs."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import chain
from typing import Any, Literal, NamedTuple

from ..adjudication.reasons import claims_of
from ..adjudication.sentences import CLAIMS, WHO
from ..match_log.observations import Attempt, Contest, Foul, Grip, Legs, Mark, Ref, Submission
from ..techniques import NOT_NAMED, same_technique, within_sentence
from ..times import Millis, minutes
from ..vocabulary import vocabulary
from .seen import Found, Seen

OWN_TRY: Millis = 8_000
"""So long before the other side began its step an own attempt or hold can have opened the way for it."""
LATE_TRY: Millis = 30_000
"""The same before something that came too late to score: what had failed took the time."""
RELEASED: Millis = 3_000
"""So long after a grip or hold of the other side ended what follows can still come from it."""
FOUGHT: Millis = 8_000
"""So long after a contest was lost what follows can come from it."""
OWN_GRIP_GONE: Millis = 5_000
"""So long after an own grip was gone what follows can come from that."""
HELD_BY: Millis = 5_000
"""An own grip that was on for so long kept the other side away."""
MARKED_BEFORE: Millis = 12_000
"""So long before the other side began its step a mark can say what was wrong."""
WARNED: Millis = 20_000
"""The same before a penalty: the referee waits before giving one."""
REACTION: Millis = 2_000
"""So long after something went wrong a mark of it may be set."""
SHARE_ON = 0.5
"""A grip explains a stretch in which nothing was done where it was on for at least so much of it."""
MOST = 2
"""So many mechanisms are named together at most."""
LASTING = frozenset(("stuck", "dragged_out", "no_attempt", "attempt_failed", "grip_unbroken"))
"""Kinds that are about a whole stretch and not about a moment in it."""
OF_THEMSELVES = frozenset(("technical", "out_of_plan", "chance_missed"))
"""Kinds that say themselves what there is to say."""
STEPS = frozenset(("taken", "given", "worth_zero", "risk_ahead", "control_lost", "leg_swept"))
"""Kinds in which the other side took a step, which began before the place changed."""
SEEN_COMING: Millis = 4_000
"""So long before the place changes its change is seen coming, where no try is logged."""
MechanismKind = Literal[
    "own_try", "own_hold", "mark", "hold", "grip", "own_grip", "contest", "legs", "again", "tried", "foul",
]  # fmt: skip


class Mechanism(NamedTuple):
    """One thing that brought an error about, and the sentence that says so."""

    kind: MechanismKind
    t: Millis
    ref: Ref
    said: str


class Cause(NamedTuple):
    """What brought an error about, with the observations that it rests on."""

    because: str
    observations: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {"because": self.because, "observations": list(self.observations)}


def cause_of(seen: Seen, found: Found) -> Cause | None:
    """The likeliest of what brought an error about; None where the log shows nothing of the kind."""
    named: dict[MechanismKind, Mechanism] = {}
    for one in mechanisms(seen, found):
        if one.ref not in found.refs and (one.kind not in named or one.t > named[one.kind].t):
            named[one.kind] = one
    likeliest = list(named.values())[:MOST]
    if not likeliest:
        return None
    return Cause(" ".join(one.said for one in likeliest), tuple(one.ref for one in likeliest))


def mechanisms(seen: Seen, found: Found) -> list[Mechanism]:
    """All that may have brought an error about, what explains most first: an own try, then what was marked, then what
    the other side had on, then what was lost before. None lies before a restart that came in between."""
    if found.kind in OF_THEMSELVES:
        return []
    about = (found.kind, found.refs, found.since, found.t, found.happened)
    return seen.once(("mechanisms", *about), lambda: _mechanisms(seen, found))


def _mechanisms(seen: Seen, found: Found) -> list[Mechanism]:
    sources = _OF_STRETCHES if found.kind in LASTING else _OF_MOMENTS
    restarts = [one.start for one in seen.verdict.running[1:]]
    at = found.t if found.kind in LASTING else found.happened
    return [
        one for one in chain.from_iterable(source(seen, found) for source in sources)
        if one.kind in ("foul", "again") or not any(one.t < start <= at for start in restarts)
    ]  # fmt: skip


def begun(seen: Seen, found: Found) -> Millis:
    """When the step of the other side began that an error is about: its try, where one is logged."""
    at = found.happened
    if found.kind not in STEPS or found.kind == "control_lost":
        return at
    tries = (one for one in seen.between(Attempt, at - 2 * OWN_TRY, at, seen.other) if one.until >= at - OWN_TRY)
    first = next((one.t for one in tries if one.t >= seen.since(at - 1)), None)
    if first is not None:
        return first
    moved = seen.place_before(at) != seen.place_at(at)
    return max(seen.since(at - 1), at - SEEN_COMING) if moved else at


def opened(seen: Seen, found: Found) -> Found:
    """The same, shown from where it began: from the own try that opened the way, or the step of the other side."""
    if found.kind not in STEPS or found.kind == "leg_swept":  # which begins with its hold
        return found
    own = (one.t for one in mechanisms(seen, found) if one.kind in ("own_try", "own_hold"))
    return found._replace(since=min([found.since, begun(seen, found), *own]), changed=found.happened)


def _own_tries(seen: Seen, found: Found) -> Iterator[Mechanism]:
    whose, at = f"{WHO[seen.side].capitalize()}'s own", found.happened
    near = begun(seen, found) - (LATE_TRY if found.kind == "too_late" else OWN_TRY)
    if found.kind in STEPS and seen.place_before(at).top == seen.other:
        near = max(near, seen.since(at - 1))  # what failed before the last step led to that one
    for one in seen.between(Attempt, near - OWN_TRY, at, seen.side):
        if one.outcome != "done" and one.t < at and max(one.t, one.until) >= near:
            how = "very nearly worked" if one.outcome == "near" else "failed"
            said = f"{whose} {CLAIMS[one.move]} at {_at(seen, one.t)} {how} before that."
            yield Mechanism("own_try", one.t, one.ref, said)
    for hold in seen.lasting_into(Submission, near, at, seen.side):
        if hold.t < at:
            when = "was on" if hold.until > at else "had just failed"
            said = f"{whose} {within_sentence(hold.technique)} of {_at(seen, hold.t)} {when}."
            yield Mechanism("own_hold", hold.t, hold.ref, said)


def _marks(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """What the coach marked as wrong up to the moment, or within the stretch."""
    if found.kind in LASTING:
        first, last = found.since, found.t
    else:
        first, last = begun(seen, found), found.happened + REACTION
        first = first - WARNED if found.kind == "penalty" else max(first - MARKED_BEFORE, seen.since(first - 1))
    for mark in seen.marks(good=False):
        if first <= mark.t <= last and not mark.chance:
            yield _marked(seen, mark)


def _marked(seen: Seen, mark: Mark) -> Mechanism:
    said = f"The coach had marked it at {_at(seen, mark.t)}: {mark_in_words(mark)}."
    return Mechanism("mark", mark.t, mark.ref, said)


def mark_in_words(mark: Mark) -> str:
    """What a mark says, for the end of a sentence."""
    text = (mark.text or "").strip().rstrip(".!?…")
    return f"“{text}”" if text else (mark.cause or "something wrong")


def _holds(seen: Seen, found: Found) -> Iterator[Mechanism]:
    at = found.happened
    for hold in seen.lasting_into(Submission, at - RELEASED, at, seen.other):
        if hold.t < at:
            said = f"It came out of {WHO[seen.other]}'s {within_sentence(hold.technique)} of {_at(seen, hold.t)}."
            yield Mechanism("hold", hold.t, hold.ref, said)


def _grips(seen: Seen, found: Found) -> Iterator[Mechanism]:
    at = found.happened
    since = min(begun(seen, found), at)
    for grip in seen.lasting_into(Grip, since - RELEASED, at, seen.other):
        if grip.outcome == "held" and grip.t < at and seen.grip_end(grip) >= since - RELEASED:
            yield _grip(seen, grip)


def _grips_through(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """Grips of the other side that were on for most of a stretch."""
    for grip in seen.lasting_into(Grip, found.since, found.t, seen.other):
        on = min(seen.grip_end(grip), found.t) - max(grip.t, found.since)
        if grip.outcome == "held" and on > 0 and on >= SHARE_ON * (found.t - found.since):
            yield _grip(seen, grip)


def _grip(seen: Seen, grip: Grip) -> Mechanism:
    said = f"{WHO[seen.other].capitalize()} had {grip_in_words(grip.grip)} from {_at(seen, grip.t)}."
    return Mechanism("grip", grip.t, grip.ref, said)


def _own_grips(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """An own grip that had kept the other side away, and was gone just before."""
    at = found.happened
    for grip in seen.lasting_into(Grip, at - OWN_GRIP_GONE, at, seen.side):
        ended = seen.grip_end(grip)
        if grip.outcome == "held" and at - OWN_GRIP_GONE <= ended < at and ended - grip.t >= HELD_BY:
            said = f"{WHO[seen.side].capitalize()} had lost {grip_in_words(grip.grip)} at {_at(seen, ended)}."
            yield Mechanism("own_grip", grip.t, grip.ref, said)


def _contests(seen: Seen, found: Found) -> Iterator[Mechanism]:
    at = found.happened
    for one in seen.between(Contest, at - 2 * FOUGHT, at):
        if one.won == seen.other and at - FOUGHT <= one.until <= at:
            aim = vocabulary()["contests"][one.aim]
            said = f"{WHO[seen.other].capitalize()} had won {aim} at {_at(seen, one.until)}."
            yield Mechanism("contest", one.t, one.ref, said)


def _legs(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """What the other side last had of the legs that are tied up."""
    at = found.happened
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
        since = f"{WHO[seen.other].capitalize()} had {what} since {_at(seen, last.t)}."
        yield Mechanism("legs", last.t, last.ref, since)


def _same_hold(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """An earlier time in the hold that ended the match."""
    if found.kind != "submitted":
        return
    name = str(found.facts["technique"])
    for hold in seen.of(Submission, seen.other):
        if hold.until < found.since and same_technique(hold.technique, name):
            said = f"{WHO[seen.other].capitalize()} had the same hold at {_at(seen, hold.t)} already."
            yield Mechanism("again", hold.t, hold.ref, said)
            yield from (_marked(seen, mark) for mark in seen.marks(good=False) if hold.t <= mark.t <= hold.until)


def _tried_before(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """Earlier tries of the other side at what came off in the end, while the same side was on top."""
    at = begun(seen, found)
    moves = {claim for row in found.rows for claim in claims_of(row.reason)}
    tries = [one for one in seen.between(Attempt, seen.top_since(at - 1), at - 1, seen.other) if one.move in moves]
    if len(tries) > 1:
        last = tries[-1]
        who, often = WHO[seen.other].capitalize(), len(tries)
        said = f"{who} had tried it {often} times by then, the last time at {_at(seen, last.t)}."
        yield Mechanism("tried", last.t, last.ref, said)


def _fouls(seen: Seen, found: Found) -> Iterator[Mechanism]:
    """What the referee had said or penalised before, of a further penalty."""
    if found.kind != "penalty":
        return
    for foul in seen.between(Foul, 0, found.t - 1):
        if foul.by in (seen.side, "both"):
            before = "The referee had warned" if foul.verbal else "There had been a penalty"
            yield Mechanism("foul", foul.t, foul.ref, f"{before} at {_at(seen, foul.t)} already.")


Source = Callable[[Seen, Found], Iterator[Mechanism]]
_OF_MOMENTS: tuple[Source, ...] = (
    _own_tries, _marks, _same_hold, _fouls, _holds, _grips, _own_grips, _contests, _legs,
    _tried_before,
)  # fmt: skip
_OF_STRETCHES: tuple[Source, ...] = (_marks, _grips_through)


def grip_in_words(name: str) -> str:
    """A grip within a sentence, with its article."""
    if name == NOT_NAMED:
        return "a grip"
    if name.startswith(("both ", "two ", "double ")):
        return name
    if name.startswith("on "):
        return f"a grip {name}"
    return f"the {name}" if name.endswith(("grip", "hook", "hooks", "lock", "tie", "headlock")) else f"the {name} grip"


def _at(seen: Seen, t: Millis) -> str:
    return minutes(seen.clock(t))
