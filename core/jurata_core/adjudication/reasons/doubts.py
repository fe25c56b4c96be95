"""What is doubtful and was scored all the same."""

from __future__ import annotations

from ...records import record
from ...times import Millis
from ..places import ClaimKind
from .base import Reason
from .illegal import IllegalWarned


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
