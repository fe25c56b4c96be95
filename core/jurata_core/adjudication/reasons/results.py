"""How a match came out, and why somebody was disqualified."""

from __future__ import annotations

from ...match_log.observations import Side
from ...records import record
from ...techniques import within_sentence
from .base import Reason


@record
class CauseIllegal(Reason):
    code = "cause_illegal"
    sentence = "{because} {by:Who} is disqualified."
    because: str
    by: Side


@record
class CauseLadder(Reason):
    code = "cause_ladder"
    sentence = "{by:Who} is disqualified on the {count:nth} penalty."
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
    sentence = "{by:Who} is disqualified for fleeing a submission."
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
    sentence = "{winner:Who} {won} on points."


@record
class OnAdvantages(Reason):
    code = "advantages"
    sentence = "{winner:Who} {won} on advantages, tied on points."


@record
class OnPenalties(Reason):
    code = "penalties"
    sentence = "{winner:Who} {won} on fewer penalties, tied on everything else."


@record
class OnFirstScore(Reason):
    code = "first_score"
    sentence = "{winner:Who} {won} by scoring first, tied on everything before that."


@record
class OnLastScore(Reason):
    code = "last_score"
    sentence = "{winner:Who} {won} by scoring last, tied on everything before that."


@record
class OnAttempts(Reason):
    code = "submission_attempts"
    sentence = "{winner:Who} {won} with more close submissions, tied on everything before that."


@record
class ByDecision(Reason):
    code = "decision"
    sentence = "{winner:Who} {won} by the decision of the referees."


@record
class Draw(Reason):
    code = "draw"
    sentence = "Time ran out without a submission: draw."


@record
class Undecided(Reason):
    code = "undecided"
    sentence = "Everything is tied and no decision has been logged."


@record
class BySubmission(Reason):
    code = "submission"
    sentence = "{winner:Who} {won} by {called}."
    technique: str

    @property
    def called(self) -> str:
        return within_sentence(self.technique)


@record
class ByWithdrawal(Reason):
    code = "withdrawal"
    sentence = "{winner:Who} {won}: the opponent withdrew."


@record
class ByStoppage(Reason):
    """``loser``: whom the referee or the medical staff stopped the match for."""

    code = "stoppage"
    sentence = "{winner:Who} {won}: the match was stopped for {loser:who}."
    loser: Side


@record
class ByMercy(Reason):
    code = "mercy"
    sentence = "{winner:Who} {won} {lead} points ahead; a lead of {limit} ends the match."
    lead: int
    limit: int


@record
class ByGoldenScore(Reason):
    code = "golden_score"
    sentence = "{winner:Who} {won} with the first score of overtime."


@record
class ByDisqualification(Reason):
    code = "disqualification"
    sentence = "{cause}{winner:won}"
    cause: Cause


@record
class Unfinished(Reason):
    code = "unfinished"
    sentence = "The end of the match has not been logged yet."


AfterTime = (
    OnPoints | OnAdvantages | OnPenalties | OnFirstScore | OnLastScore | OnAttempts | ByDecision | Draw | Undecided
)
BeforeTime = BySubmission | ByWithdrawal | ByStoppage | ByDisqualification | ByMercy | ByGoldenScore
Method = AfterTime | BeforeTime | Unfinished
"""How a match came out; the code is the ``method`` of the verdict."""
