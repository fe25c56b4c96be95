"""Why a row of the ledger is there: points, advantages and penalties."""

from __future__ import annotations

from typing import assert_never

from ...match_log.observations import Side
from ...records import record
from ...techniques import within_sentence
from ...times import Millis
from ..places import ClaimKind
from .base import LossHow, Reason, Recount


@record
class Held(Reason):
    """A claim was held for long enough. Clock times are of the match clock."""

    code = "held"
    sentence = "{claim:Claim}: {to:who} in position at {opened:clock}, held for {needed:span}: {n:award}.{recount}"
    claim: ClaimKind
    opened: Millis
    needed: Millis
    recount: Recount | None
    counted: Millis


@record
class HeldAdvantage(Reason):
    """The same, for a claim that scores an advantage."""

    code = "held_advantage"
    sentence = (
        "{claim:Claim}: {to:who} came up first at {opened:clock}, held for {needed:span}: "
        "an advantage after a double guard pull.{recount}"
    )
    claim: ClaimKind
    opened: Millis
    needed: Millis
    recount: Recount | None
    counted: Millis


@record
class Lost(Reason):
    """Claims that one observation ended before they scored: one advantage for all of them."""

    code = "lost"
    sentence = "{claims}: reached but held only {held:span} of {needed:span}, {ending}: advantage."
    claims: tuple[ClaimKind, ...]
    held: Millis
    needed: Millis
    ending: LossHow
    place: str | None


@record
class NearScore(Reason):
    """The scorer judged that it very nearly came off."""

    code = "near"
    sentence = "{claim:Claim} by {to:who}: very nearly completed, in the scorer's judgement: advantage."
    claim: ClaimKind


@record
class CloseSubmission(Reason):
    code = "close_submission"
    sentence = "{called} by {to:who}: close to a finish, in the scorer's judgement: advantage."
    technique: str

    @property
    def called(self) -> str:
        name = within_sentence(self.technique)
        return name[:1].upper() + name[1:]


@record
class Penalty(Reason):
    """``count``: the number of this penalty of its side."""

    code = "penalty"
    sentence = "{foul:foul}: {count:nth} penalty against {to:who}."
    foul: str
    count: int


@record
class RungAdvantage(Reason):
    code = "rung_advantage"
    sentence = "The {count:nth} penalty against {other:who} gives {to:who} an advantage."
    count: int
    other: Side


@record
class RungOnePoint(Reason):
    code = "rung_one_point"
    sentence = "The {count:nth} penalty against {other:who} gives {to:who} a point."
    count: int
    other: Side


@record
class RungTwoPoints(Reason):
    code = "rung_two_points"
    sentence = "The {count:nth} penalty against {other:who} gives {to:who} two points."
    count: int
    other: Side


@record
class RungMinusPoint(Reason):
    code = "rung_minus_point"
    sentence = "The {count:nth} penalty takes a point from {to:who}."
    count: int


@record
class Fled(Reason):
    code = "fled"
    sentence = "{other:Who} fled the {avoiding:claim}: two points to {to:who}."
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
    sentence = "Coach's ruling: {n:award} to {to:who}."


@record
class CarriedIn(Reason):
    """What was on the board where the footage starts."""

    code = "carried_in"
    sentence = "{to:Who} had {n:award} when the footage starts."


Rung = RungAdvantage | RungOnePoint | RungTwoPoints | RungMinusPoint
NotScored = CoachRuling | CarriedIn
NOT_SCORED = (CoachRuling, CarriedIn)
"""What stands on the sheet and was not scored in the footage by these rules."""
AwardReason = Held | HeldAdvantage | Lost | NearScore | CloseSubmission | Penalty | Rung | Fled | PaidAtOnce | NotScored


def claims_of(reason: AwardReason) -> tuple[ClaimKind, ...]:
    """The claims that a row of the ledger was given for; none for fouls, rulings and submissions."""
    match reason:
        case Held(claim=claim) | HeldAdvantage(claim=claim) | NearScore(claim=claim):
            return (claim,)
        case Lost(claims=claims):
            return claims
        case CloseSubmission() | Penalty() | Fled() | PaidAtOnce() | CoachRuling() | CarriedIn():
            return ()
        case RungAdvantage() | RungOnePoint() | RungTwoPoints() | RungMinusPoint():
            return ()
        case _:
            assert_never(reason)
