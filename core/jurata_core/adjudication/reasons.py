"""Why a row of the verdict is there: one frozen record for each reason, with its facts, its code and its sentence.

The code is stable and stands in files; the sentence is what a coach reads, with the facts of the record and of its row
filled in (see :mod:`sentences` for the forms, as ``{held:span}``). What depends on a reason matches on its type, so
that mypy finds a reason that was forgotten: end such a ``match`` with ``assert_never``.
"""

from __future__ import annotations

from typing import ClassVar, Literal, assert_never

from ..match_log.observations import Side, Tally
from ..records import record
from ..times import Millis
from .places import ClaimKind

LossHow = Literal["position", "restart", "time"]
"""How a claim was lost: to another position, to a restart from standing, or to the end of time."""
Recount = Literal["submission", "restart", "passing"]
"""Why a count began later than its claim."""


class Reason:
    """A reason; its fields are its facts."""

    __slots__ = ()
    code: ClassVar[str]
    sentence: ClassVar[str]


# Points, advantages and penalties.


@record
class Held(Reason):
    """A claim was held for long enough. Clock times are of the match clock."""

    code = "held"
    sentence = "{claim:Claim}: {to:who} got there at {opened:clock} and held it for {needed:span}: {n:award}.{recount}"
    claim: ClaimKind
    opened: Millis
    needed: Millis
    recount: Recount | None
    counted: Millis


@record
class HeldAdvantage(Reason):
    """The same, for a claim that pays an advantage."""

    code = "held_advantage"
    sentence = (
        "{claim:Claim}: {to:who} came up first at {opened:clock} and held it for {needed:span}; "
        "after a double pull this ruleset pays an advantage.{recount}"
    )
    claim: ClaimKind
    opened: Millis
    needed: Millis
    recount: Recount | None
    counted: Millis


@record
class Lost(Reason):
    """Claims that one observation ended before they were paid: one advantage for all of them."""

    code = "lost"
    sentence = "{claims}: reached and not held ({held:span} of {needed:span}), {ending}: an advantage."
    claims: tuple[ClaimKind, ...]
    held: Millis
    needed: Millis
    ending: LossHow
    place: str | None


@record
class NearScore(Reason):
    """The scorer judged that it very nearly came off."""

    code = "near"
    sentence = "{claim:Claim}: judged by the scorer to have very nearly come off: an advantage."
    claim: ClaimKind


@record
class CloseSubmission(Reason):
    code = "close_submission"
    sentence = "{technique}: {to:who} had it close: an advantage."
    technique: str


@record
class Penalty(Reason):
    """``count``: the number of this penalty of its side."""

    code = "penalty"
    sentence = "{foul:foul}: penalty number {count} against {to:who}."
    foul: str
    count: int


@record
class RungAdvantage(Reason):
    code = "rung_advantage"
    sentence = "Penalty number {count} of {other:who} gives {to:who} an advantage."
    count: int
    other: Side


@record
class RungTwoPoints(Reason):
    code = "rung_two_points"
    sentence = "Penalty number {count} of {other:who} gives {to:who} two points."
    count: int
    other: Side


@record
class RungMinusPoint(Reason):
    code = "rung_minus_point"
    sentence = "Penalty number {count} takes a point from {to:who}."
    count: int


@record
class Fled(Reason):
    code = "fled"
    sentence = "{other:Who} fled from a {avoiding:claim}: two points to {to:who}."
    other: Side
    avoiding: str


@record
class PaidAtOnce(Reason):
    """What a rule of :mod:`at_once` gives; code and sentence are the rule's."""

    code: str  # type: ignore[misc]
    sentence: str  # type: ignore[misc]


@record
class CoachRuling(Reason):
    code = "ruling"
    sentence = "Ruling of the coach: {n:award} to {to:who}."


Rung = RungAdvantage | RungTwoPoints | RungMinusPoint
AwardReason = (
    Held | HeldAdvantage | Lost | NearScore | CloseSubmission | Penalty | Rung | Fled | PaidAtOnce | CoachRuling
)

# Claims that were not paid. Their row has the claim, how long it was held and how long it needed.


@record
class Missed(Reason):
    """A claim that was lost. ``worth`` is what it would have paid."""

    code = "missed"
    sentence = "{claim:Claim} by {to:who}: held {held:span} of {needed:span}, {ending}.{recount}"
    ending: LossHow
    place: str | None
    recount: Recount | None
    counted: Millis
    other: Side
    worth: tuple[int, Tally]


@record
class MissedUnderSubmission(Reason):
    """A claim that was lost and never counted, because the other side had a submission on."""

    code = "missed_under_submission"
    sentence = "{claim:Claim} by {to:who}: the count never began, because {other:who} had a submission on, {ending}."
    ending: LossHow
    place: str | None
    recount: Recount | None
    counted: Millis
    other: Side
    worth: tuple[int, Tally]


@record
class StillOpen(Reason):
    code = "open"
    sentence = "{claim:Claim} by {to:who}: held {held:span} of {needed:span} where the log stops."


@record
class NotOpenYet(Reason):
    """``opening``: the match clock at which points open."""

    code = "not_open_yet"
    sentence = "{claim:Claim} by {to:who}: points open only at {opening:clock}, so it pays nothing."
    opening: Millis


@record
class MovedOn(Reason):
    code = "moved_on"
    sentence = (
        "{claim:Claim} by {to:who}: left after {held:span} of {needed:span} for something higher; that gives nothing."
    )


@record
class DroppedByStop(Reason):
    code = "dropped_stop"
    sentence = "{claim:Claim} by {to:who}: dropped, because the referee stopped them for {technique}."
    technique: str


@record
class DroppedAsFled(Reason):
    code = "dropped_fled"
    sentence = "{claim:Claim} by {to:who}: replaced by the two points for fleeing from it."


@record
class MatchOver(Reason):
    code = "match_over"
    sentence = "{claim:Claim} by {to:who}: the match ended first; a match that ends this way pays nothing for it."


@record
class Reversal(Reason):
    """``place``: under what the side was before."""

    code = "reversal"
    sentence = "{to:Who} came on top from under {place:place}: that is an escape, not a sweep, and pays nothing."
    place: str


@record
class OnTopByPull(Reason):
    code = "pulled"
    sentence = "{to:Who} is on top because {other:who} pulled guard: no takedown."
    other: Side


@record
class PaidBefore(Reason):
    code = "paid_before"
    sentence = (
        "{claim:Claim} by {to:who}: already paid in this spell of control; it pays again only after the "
        "guard or the feet were recovered."
    )


WorthNothing = Reversal | OnTopByPull | PaidBefore
"""What a change of position does not open although a coach might expect it."""
MissReason = Missed | MissedUnderSubmission
UnpaidReason = MissReason | StillOpen | NotOpenYet | MovedOn | DroppedByStop | DroppedAsFled | MatchOver | WorthNothing

# Illegal techniques: what one leads to. ``because`` says why it is illegal.


@record
class IllegalDisqualify(Reason):
    code = "illegal_disqualify"
    sentence = "{because} The match ends for {by:who}."
    because: str
    by: Side


@record
class IllegalWarned(Reason):
    code = "illegal_warned"
    sentence = "{because} Warning {count} of {limit} for {by:who}; number {limit} ends the match."
    because: str
    by: Side
    count: int
    limit: int


@record
class IllegalStop(Reason):
    code = "illegal_stop"
    sentence = "{because} {by:Who} loses what was being counted."
    because: str
    by: Side


@record
class IllegalFinish(Reason):
    code = "illegal_finish"
    sentence = "{because} A match can't be won with it: {by:who} is disqualified."
    because: str
    by: Side


Consequence = IllegalDisqualify | IllegalWarned | IllegalStop | IllegalFinish

# Results.


@record
class CauseIllegal(Reason):
    code = "cause_illegal"
    sentence = "{because} {by:Who} is disqualified."
    because: str
    by: Side


@record
class CauseLadder(Reason):
    code = "cause_ladder"
    sentence = "{by:Who} is disqualified with penalty number {count}."
    by: Side
    count: int


@record
class CauseBoth(Reason):
    code = "cause_both"
    sentence = "Both are disqualified."


@record
class CauseSevere(Reason):
    code = "cause_severe"
    sentence = "{by:Who} is disqualified for a severe foul."
    by: Side


@record
class CauseFled(Reason):
    code = "cause_fled"
    sentence = "{by:Who} is disqualified for fleeing from a submission."
    by: Side


@record
class CauseLogged(Reason):
    code = "cause_logged"
    sentence = "{by:Who} is disqualified."
    by: Side


Cause = CauseIllegal | CauseLadder | CauseBoth | CauseSevere | CauseFled | CauseLogged
"""Why somebody was disqualified."""


@record
class OnPoints(Reason):
    code = "points"
    sentence = "{winner:Who} won on points."


@record
class OnAdvantages(Reason):
    code = "advantages"
    sentence = "{winner:Who} won on advantages, level on points."


@record
class OnPenalties(Reason):
    code = "penalties"
    sentence = "{winner:Who} won on fewer penalties, all else level."


@record
class ByDecision(Reason):
    code = "decision"
    sentence = "{winner:Who} won by decision, all else level."


@record
class Draw(Reason):
    code = "draw"
    sentence = "Time ran out without a submission: a draw."


@record
class Undecided(Reason):
    code = "undecided"
    sentence = "All level, and no decision logged."


@record
class BySubmission(Reason):
    code = "submission"
    sentence = "{winner:Who} won by {technique}."
    technique: str


@record
class ByWithdrawal(Reason):
    code = "withdrawal"
    sentence = "{winner:Who} won: the other side withdrew."


@record
class ByDisqualification(Reason):
    code = "disqualification"
    sentence = "{cause}"
    cause: Cause


@record
class Unfinished(Reason):
    code = "unfinished"
    sentence = "No end is logged yet."


AfterTime = OnPoints | OnAdvantages | OnPenalties | ByDecision | Draw | Undecided
BeforeTime = BySubmission | ByWithdrawal | ByDisqualification
Method = AfterTime | BeforeTime | Unfinished
"""How a match came out; the code is the ``method`` of the verdict."""

# Warnings: what is doubtful and was scored all the same.


@record
class PositionWhileStopped(Reason):
    code = "position_while_stopped"
    sentence = "{place:Place} was logged while the clock was stopped: ignored."
    place: str


@record
class PullWhileStopped(Reason):
    code = "pull_while_stopped"
    sentence = "A pull was logged while the clock was stopped: ignored."


@record
class PullNotFromStanding(Reason):
    code = "pull_not_from_standing"
    sentence = "A pull was logged that did not come from standing: ignored."


@record
class PullAgain(Reason):
    code = "pull_again"
    sentence = "A further pull was logged before any position: ignored."


@record
class PullBothCaught(Reason):
    code = "pull_both_caught"
    sentence = "A pull by both cannot be caught: counted as a pull by both."


@record
class StartWhileRunning(Reason):
    code = "start_while_running"
    sentence = "A start was logged while the clock was running: ignored."


@record
class StopWhileStopped(Reason):
    code = "stop_while_stopped"
    sentence = "A stop was logged while the clock was stopped: ignored."


@record
class AfterEnd(Reason):
    code = "after_end"
    sentence = "{kind} was logged after the match was over: ignored."
    kind: str


@record
class PastDuration(Reason):
    code = "past_duration"
    sentence = "The match clock runs {over:span} past the length of the match: is a stop or the end missing?"
    over: Millis


@record
class NearAlreadyShown(Reason):
    code = "near_already_shown"
    sentence = (
        "Nearly a {claim:claim} was logged within 5 s of a {claim:claim} that was lost anyway: is it the same one?"
    )
    claim: ClaimKind


@record
class NoAdvantages(Reason):
    code = "no_advantages"
    sentence = "{ruleset} has no advantages: none is given."
    ruleset: str


@record
class UnknownTechnique(Reason):
    code = "unknown_technique"
    sentence = "The name {technique} is not in the catalogue{nearest}: taken as legal."
    technique: str
    nearest: str


@record
class UnknownSetting(Reason):
    code = "unknown_setting"
    sentence = "The name {setting} is not a setting of a ruleset: ignored."
    setting: str


@record
class OddDivision(Reason):
    code = "odd_division"
    sentence = "{why} Events differ: it is scored as it stands."
    why: str


@record
class NeverStarted(Reason):
    code = "never_started"
    sentence = "The clock was never started."


Doubt = (
    PositionWhileStopped | PullWhileStopped | PullNotFromStanding | PullAgain | PullBothCaught | StartWhileRunning
    | StopWhileStopped | AfterEnd | PastDuration | NearAlreadyShown | NoAdvantages | UnknownTechnique | UnknownSetting
    | OddDivision | NeverStarted | IllegalWarned
)  # fmt: skip


def claims_of(reason: AwardReason) -> tuple[ClaimKind, ...]:
    """The claims that a row of the ledger was given for; none for fouls, rulings and submissions."""
    match reason:
        case Held(claim=claim) | HeldAdvantage(claim=claim) | NearScore(claim=claim):
            return (claim,)
        case Lost(claims=claims):
            return claims
        case CloseSubmission() | Penalty() | Fled() | PaidAtOnce() | CoachRuling():
            return ()
        case RungAdvantage() | RungTwoPoints() | RungMinusPoint():
            return ()
        case _:
            assert_never(reason)
