"""Control that slipped, grips that stayed on, and long stretches in which nothing was tried."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import groupby, pairwise
from typing import NamedTuple

from ...adjudication.places import CONTROL, GUARDS, Place
from ...adjudication.reasons import NoWorth
from ...adjudication.sentences import CLAIMS, PLACES
from ...match_log.observations import Attempt, Grip, Observation, Submission, Technique, Unwatched
from ...techniques import find, within_sentence
from ...times import Millis
from ..seen import Change, Found, Seen

TRIED = (Submission, Technique, Attempt)
"""The kinds of observation in which a side tries something."""
DANGEROUS = ("takedown", "sweep", "guard_pass", "mount", "back")
"""What is dangerous under any ruleset, paid or not."""
LEAD: Millis = 4_000
"""So long before a change of place it is seen coming."""
LATE: Millis = 60_000
"""With a lead and so little time left a chance is rightly let go."""


def worth_zero(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """What the other side reached, worth nothing under this ruleset and dangerous under any."""
    for row in seen.verdict.unpaid:
        if row.to != seen.other or not isinstance(row.reason, NoWorth):
            continue
        claims = [claim for claim in row.reason.claims if claim in DANGEROUS]
        counted = any(one.since == row.t and one.to == seen.other and one.n for one in seen.verdict.counts)
        if claims and not counted:  # what is counted as well is reported as what was conceded
            facts = {
                "what": " and ".join(CLAIMS[claim] for claim in claims), "reached": claims[0], "clock": row.clock,
                "ruleset": seen.log.ruleset.title, "cost": "nothing on the sheet",
            }  # fmt: skip
            yield Found(
                "worth_zero", row.t, row.t, seen.exchange_of(row), row.observations, facts,
                place=seen.place_before(row.t),
            )  # fmt: skip


def control_lost(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A pin or the back was lost for nothing on the sheet: no claim was open, and the other side is not paid for it."""
    restarts = {one.start for one in seen.verdict.running}
    for change in seen.changes:
        if not _lost(seen, change) or change.t in restarts or change.t >= seen.over or change.t in seen.reported:
            continue
        if any(row.to == seen.side for row in seen.missed_at(change.t)) or seen.on_purpose(change.t - LEAD, change.t):
            continue
        if any(seen.gains(row) and seen.began(row) == change.t for row in seen.verdict.ledger):
            continue  # reported as what was conceded
        attack = _last_attack(seen, change.t)
        how = f", {_during(attack, change.t)}" if attack else ""
        facts = {
            "from": change.before.position, "lost": _called_own(change.before),
            "to": _called(change.after, seen), "clock": seen.clock(change.t),
            "how": how, "cost": "nothing on the sheet",
        }  # fmt: skip
        since = change.t if attack is None else attack.t
        refs = _refs_at(seen, change.t) + ((attack.ref,) if attack else ())
        yield Found(
            "control_lost", since, change.t, seen.exchange_at(change.t), refs, facts, place=change.before,
            changed=change.t,
        )  # fmt: skip


def _lost(seen: Seen, change: Change) -> bool:
    """Whether the side had a pin or the back, and has neither it nor another one now."""
    before, after = change.before, change.after
    if before.top != seen.side or before.position not in CONTROL:
        return False
    return after.top != seen.side or (after.position in GUARDS and after.position != "entangled")


def _last_attack(seen: Seen, t: Millis) -> Submission | None:
    held = [one for one in seen.between(Submission, seen.since(t - 1), t, seen.side) if one.until >= t - 5_000]
    return held[-1] if held else None


def _during(attack: Submission, t: Millis) -> str:
    when = "while" if attack.until >= t else "just after"
    return f"{when} going for the {within_sentence(attack.technique)}"


def _called_own(place: Place) -> str:
    return "the top of the turtle" if place.position == "turtle" else PLACES[place.position]


def _called(place: Place, seen: Seen) -> str:
    if place.top is None:
        return PLACES[place.position]
    return f"{PLACES[place.position]}{' from below' if place.top == seen.other else ''}"


def _refs_at(seen: Seen, t: Millis) -> tuple[int | str, ...]:
    return tuple(one.ref for one in seen.log.observations if one.t == t)[:1]


def attempt_failed(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """The same technique tried three times or more in a row, and it led nowhere."""
    tries = [one for one in seen.of(Attempt, seen.side) if one.outcome == "failed" and one.technique]
    for _, run in groupby(tries, key=lambda one: (one.move, _same(one.technique or ""))):
        together = list(run)
        close = all(later.t - one.until <= limits["within"] for one, later in pairwise(together))
        last = together[-1]
        after = last.until + limits["after"]
        if len(together) < 3 or not close or seen.progressed(together[0].t, after):
            continue
        if not seen.watched(together[0].t, after):
            continue  # it may have led somewhere
        facts = {
            "technique": together[0].technique, "times": str(len(together)), "clock": seen.clock(together[0].t),
            "last": seen.clock(last.t), "move": CLAIMS[last.move], "cost": "nothing on the sheet",
        }  # fmt: skip
        refs = tuple(one.ref for one in together)
        yield Found("attempt_failed", together[0].t, last.until, seen.exchange_at(last.t), refs, facts)


def _same(technique: str) -> str:
    found = find(technique)
    return technique if found is None else found.id


def grip_unbroken(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A grip of the other side that stayed on for long; not one by which a pin is held, or from under one."""
    for grip in seen.of(Grip, seen.other):
        until = seen.grip_end(grip)
        lasted = seen.clock(until) - seen.clock(grip.t)
        place = seen.place_at(grip.t)
        if grip.outcome == "failed" or grip.broken or lasted < limits["least"] or place.position in CONTROL:
            continue
        if seen.standing(grip.t) > 0 and place.top == seen.other and not _won_under(seen, grip):
            continue  # ahead, and content to be held
        called = grip.grip if grip.grip.endswith("grip") else f"{grip.grip} grip"
        facts = {"grip": called, "lasted": lasted, "clock": seen.clock(grip.t), "cost": "nothing on the sheet"}
        yield Found("grip_unbroken", grip.t, until, seen.exchange_at(grip.t), (grip.ref,), facts)


def _won_under(seen: Seen, grip: Grip) -> bool:
    return any(seen.gains(row) and grip.t <= seen.began(row) <= seen.grip_end(grip) for row in seen.verdict.ledger)


class Quiet(NamedTuple):
    since: Millis
    until: Millis
    place: Place
    escaped: bool
    """Whether it ended with the side out of that place."""


def _quiet(seen: Seen, top: str, kinds: tuple[type[Observation], ...], held: bool) -> Iterator[Quiet]:
    """Quietes with the same side on top in which the reviewed one did none of these; ``held``: past the guard."""
    ends = [*(t for t, _ in seen.places[1:]), seen.over]
    spans: list[tuple[Millis, Millis, Place]] = []
    for (since, place), end in zip(seen.places, ends, strict=True):
        wanted = place.top == top and (place.position in CONTROL or not held)
        if wanted and spans and spans[-1][1] == since and since not in seen.breaks:
            spans[-1] = (spans[-1][0], end, place)
        elif wanted:
            spans.append((since, end, place))
    for since, end, place in spans:
        own = (one for kind in kinds for one in seen.between(kind, since, end - 1, seen.side))
        # Defending a hold is work enough, and nothing is known of what nobody watched.
        # So is being moved about by the one on top.
        moved = [change.t for change in seen.changes if since < change.t < end] if top == seen.other else []
        acts = sorted((
            *((t, t) for t in moved),
            *(
                (one.t, min(end, getattr(one, "until", one.t)))
                for one in (
                    *own,
                    *seen.between(Submission, since, end - 1, seen.other),
                    *seen.lasting_into(Unwatched, since, end - 1),
                )
            ),
        ))  # fmt: skip
        begins = since
        for t, until in acts:
            if t > begins:
                yield Quiet(begins, t, place, False)
            begins = max(begins, until)
        yield Quiet(begins, end, place, end < seen.over)


def stuck(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Long under a pin without a way out being tried; a grip, a frame or a hold of one's own is a try."""
    for one in _quiet(seen, seen.other, (*TRIED, Grip), held=True):
        lasted = seen.clock(one.until) - seen.clock(one.since)
        if one.escaped or lasted < limits["least"] or seen.on_purpose(one.since, one.until):
            continue
        facts = {"lasted": lasted, "place": one.place.position, "clock": seen.clock(one.since)}
        yield Found("stuck", one.since, one.until, None, (), {**facts, "cost": "time"})


def dragged_out(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """On top and behind, and nothing was tried for long."""
    for one in _quiet(seen, seen.side, TRIED, held=False):
        changes = [change.t for change in seen.changes if one.since < change.t < one.until]
        bounds = [one.since, *(t for t in changes if seen.progressed(t - 1, t)), one.until]
        for first, last in pairwise(bounds):
            for since, until in _behind(seen, first, last):
                lasted = seen.clock(until) - seen.clock(since)
                if lasted < limits["least"] or seen.on_purpose(since, until):
                    continue
                _, by = seen.lead_in(since)
                facts = {"lasted": lasted, "by": by, "clock": seen.clock(since), "cost": "time"}
                yield Found("dragged_out", since, until, seen.exchange_at(since), (), facts)


def _behind(seen: Seen, since: Millis, until: Millis) -> Iterator[tuple[Millis, Millis]]:
    """Of a stretch those parts in which the side is behind all along: the score may change on the way."""
    changed = sorted({row.t for row in seen.verdict.ledger if since < row.t < until})
    start: Millis | None = None
    for t in (since, *changed, until):
        behind = t < until and seen.standing(t) < 0
        if behind and start is None:
            start = t
        elif not behind and start is not None:
            yield start, t
            start = None


def chance_missed(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A hold of the other side failed, and nothing was made of it, with the other not moving on either."""
    for hold in seen.of(Submission, seen.other):
        end = seen.after_clock(hold.until, limits["within"])
        place = seen.place_at(hold.until)
        if seen.clock(end) - seen.clock(hold.until) < limits["within"] or end > seen.over:
            continue
        if hold.until - hold.t < max(1, limits["least"]) or not _worth_taking(seen, hold.until):
            continue
        if hold.threat == "close" and seen.since(hold.until) > hold.t:
            continue  # out of it at the last moment, by moving: that was enough to do
        if (place.top == seen.other and place.position in CONTROL) or seen.on_purpose(hold.t, end):
            continue  # getting out is all that can be asked for
        moved = [change for change in seen.changes if hold.until <= change.t <= end]
        acts = [one for kind in TRIED for one in seen.between(kind, hold.until, end)]
        acts += seen.between(Grip, hold.until, end, seen.side)
        if any(_forward(seen, change) for change in moved) or acts or not seen.watched(hold.until, end):
            continue
        facts = {
            "technique": hold.technique,
            "clock": seen.clock(hold.until),
            "within": limits["within"],
            "cost": "a chance",
        }
        yield Found("chance_missed", hold.until, end, seen.exchange_at(hold.until), (hold.ref,), facts)


def _worth_taking(seen: Seen, t: Millis) -> bool:
    """Whether a chance is to be taken: points are open, and it is not late with a lead."""
    open_ = seen.clock(t) >= seen.log.ruleset.opening(seen.log.duration) or seen.verdict.timeline.period_at(t) > 0
    return open_ and not (seen.standing(t) > 0 and seen.left(t) <= LATE)


def _forward(seen: Seen, change: Change) -> bool:
    """Whether a change of place is one's own step, or the other's; shifting under the same top is neither."""
    return change.before.top != change.after.top or change.after.position in CONTROL
