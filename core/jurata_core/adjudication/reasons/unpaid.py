"""Why a claim did not score. Its row has the claim, how long it was held and how long it needed."""

from __future__ import annotations

from ...match_log.observations import Side, Tally
from ...records import record
from ...times import Millis
from .base import LossHow, Reason, Recount


@record
class LostClaim(Reason):
    """A claim that was lost. ``worth`` is what it would have scored."""

    ending: LossHow
    place: str | None
    recount: Recount | None
    counted: Millis
    other: Side
    worth: tuple[int, Tally]


@record
class Missed(LostClaim):
    """A claim whose count began and was too short."""

    code = "missed"
    sentence = "{claim:Claim} by {to:who}: held only {held:span} of {needed:span}, {ending}.{recount}"


@record
class MissedUnderSubmission(LostClaim):
    """A claim that was lost and never counted, because the other side had a submission on."""

    code = "missed_under_submission"
    sentence = "{claim:Claim} by {to:who}: the count never started because {other:who} had a submission on, {ending}."


@record
class StillOpen(Reason):
    code = "open"
    sentence = "{claim:Claim} by {to:who}: held {held:span} of {needed:span} when the log ends."


@record
class NotOpenYet(Reason):
    """``opening``: the match clock at which points open."""

    code = "not_open_yet"
    sentence = "{claim:Claim} by {to:who}: points only start at {opening:clock}, so it scores nothing."
    opening: Millis


@record
class MovedOn(Reason):
    code = "moved_on"
    sentence = (
        "{claim:Claim} by {to:who}: left after {held:span} of {needed:span} for a better position; "
        "no score for this one."
    )


@record
class DroppedByStop(Reason):
    code = "dropped_stop"
    sentence = "{claim:Claim} by {to:who}: dropped because the referee stopped them for {technique}."
    technique: str


@record
class DroppedAsFled(Reason):
    code = "dropped_fled"
    sentence = "{claim:Claim} by {to:who}: dropped because {other:who} fled it; the penalty stands instead."
    other: Side


@record
class MatchOver(Reason):
    code = "match_over"
    sentence = "{claim:Claim} by {to:who}: the match ended first, and an ending like this gives no points for it."


@record
class Reversal(Reason):
    """``place``: under what the side was before."""

    code = "reversal"
    sentence = "{to:Who} came up on top from under {place:place}: an escape, not a sweep, so no points."
    place: str


@record
class OnTopByPull(Reason):
    code = "pulled"
    sentence = "{to:Who} is on top because {other:who} pulled guard: no takedown."
    other: Side


@record
class PaidBefore(Reason):
    """``after_turtle``: whether the turtle, too, ends the time in which a position scores once."""

    code = "paid_before"
    sentence = "{claim:Claim} by {to:who}: already scored; it scores again only once {other:who} is back {where}."
    other: Side
    after_turtle: bool

    @property
    def where(self) -> str:
        return "in guard, in turtle or on the feet" if self.after_turtle else "in guard or on the feet"


@record
class TakenBack(Reason):
    """``other``: who was on top in between, and not for long enough."""

    code = "taken_back"
    sentence = (
        "{to:Who} only took the top back before {other:who} had held it long enough; that scores nothing, "
        "and neither does passing in the same move."
    )
    other: Side


@record
class NoWorth(Reason):
    """What was reached is worth no points under the ruleset with this title."""

    code = "no_worth"
    sentence = "{claims} by {to:who}: worth nothing under {ruleset}."
    claims: tuple[str, ...]
    ruleset: str


@record
class TurtleForNothing(Reason):
    """``other`` turned from the guard to the turtle."""

    code = "turtle"
    sentence = "{other:Who} turned from guard to turtle: no guard pass, and {ruleset} gives nothing for it."
    other: Side
    ruleset: str


@record
class NearForNothing(Reason):
    """A move that is worth no points very nearly came off."""

    code = "near_nothing"
    sentence = "{claim:Claim} by {to:who}: very nearly completed, but worth nothing under {ruleset}."
    ruleset: str


WorthNothing = Reversal | OnTopByPull | PaidBefore | TakenBack | NoWorth | TurtleForNothing
"""What a change of position does not open although a coach might expect it."""
MissReason = Missed | MissedUnderSubmission
UnpaidReason = (
    MissReason | StillOpen | NotOpenYet | MovedOn | DroppedByStop | DroppedAsFled | MatchOver | NearForNothing
    | WorthNothing
)  # fmt: skip
