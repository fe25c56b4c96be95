"""What is doubtful and was scored all the same."""

from __future__ import annotations

from typing import Literal

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
    sentence = "A guard pull was logged while the clock was stopped: ignored."


@record
class PullNotFromStanding(Reason):
    code = "pull_not_from_standing"
    sentence = "Guard pull logged while not standing: ignored."


@record
class PullAgain(Reason):
    code = "pull_again"
    sentence = "Second guard pull logged before any position: ignored."


@record
class PullBothCaught(Reason):
    code = "pull_both_caught"
    sentence = "A double guard pull can't be caught: counted as a double guard pull."


@record
class StartWhileRunning(Reason):
    code = "start_while_running"
    sentence = "A start was logged while the clock was running: ignored."


@record
class StopWhileStopped(Reason):
    code = "stop_while_stopped"
    sentence = "A stop was logged while the clock was stopped: ignored."


@record
class BeginIgnored(Reason):
    """``again``: it was said before; else the clock had been started."""

    code = "begin_ignored"
    sentence = "A start in the middle of the match was logged {when}: ignored."
    again: bool

    @property
    def when(self) -> str:
        return "twice" if self.again else "after the clock was started"


WhyNoPeriod = Literal["no_overtime", "no_length", "not_started", "running", "too_early"]
_NO_PERIOD: dict[WhyNoPeriod, str] = {
    "no_overtime": "this ruleset has none",
    "no_length": "this match has no length",
    "not_started": "the clock was never started",
    "running": "the clock was running",
    "too_early": "regular time had not run out",
}


@record
class PeriodIgnored(Reason):
    code = "period_ignored"
    sentence = "Overtime was logged, but {because}: ignored."
    why: WhyNoPeriod

    @property
    def because(self) -> str:
        return _NO_PERIOD[self.why]


@record
class AfterEnd(Reason):
    code = "after_end"
    sentence = "{kind} was logged after the match was over: ignored."
    kind: str


@record
class PastDuration(Reason):
    code = "past_duration"
    sentence = "The match clock runs {over:span} past the end of {what}: is a stop or the end missing?"
    over: Millis
    overtime: bool

    @property
    def what(self) -> str:
        return "this period" if self.overtime else "regular time"


@record
class NearAlreadyShown(Reason):
    code = "near_already_shown"
    sentence = (
        "A near {claim:claim} was logged within 5 s of a {claim:claim} that already counts as lost: is it the same one?"
    )
    claim: ClaimKind


@record
class NoAdvantages(Reason):
    code = "no_advantages"
    sentence = "There are no advantages under {ruleset}, so none is given."
    ruleset: str


@record
class UnknownTechnique(Reason):
    code = "unknown_technique"
    sentence = "The name {technique} is not in the catalogue{nearest}: treated as legal. Check with the event."
    technique: str
    nearest: str


@record
class TechniqueNotNamed(Reason):
    code = "technique_not_named"
    sentence = "Which technique it was is not named: treated as legal. Name it to have that looked up."


@record
class NearBarred(Reason):
    """An unknown name near that of a technique that is not legal; ``finish``: the match was said to end by it."""

    code = "near_barred"
    sentence = "The name {technique} is not in the catalogue. {barred} {then}"
    technique: str
    barred: str
    finish: bool

    @property
    def then(self) -> str:
        if self.finish:
            return "If it was another technique, give its name; until then this end does not count."
        return "If it was another technique, give its name; until then it is treated as legal."


@record
class UnknownSetting(Reason):
    code = "unknown_setting"
    sentence = "The name {setting} is not a setting of a ruleset: ignored."
    setting: str


@record
class OddDivision(Reason):
    code = "odd_division"
    sentence = "{why} Events differ, so it is scored as entered."
    why: str


@record
class NeverStarted(Reason):
    code = "never_started"
    sentence = "The clock was never started."


Doubt = (
    PositionWhileStopped | PullWhileStopped | PullNotFromStanding | PullAgain | PullBothCaught | StartWhileRunning
    | StopWhileStopped | BeginIgnored | PeriodIgnored | AfterEnd | PastDuration | NearAlreadyShown | NoAdvantages
    | UnknownTechnique | TechniqueNotNamed | NearBarred | UnknownSetting | OddDivision | NeverStarted | IllegalWarned
)  # fmt: skip
