"""The rules that find errors, the most telling first: what one covers, a later one leaves alone."""

from collections.abc import Callable, Iterator, Mapping

from ...times import Millis
from ..seen import Found, Seen
from .attacks import chased, leg_swept
from .conceding import given, submitted, taken
from .control import attempt_failed, chance_missed, control_lost, dragged_out, grip_unbroken, stuck, worth_zero
from .fouls import illegal, paid_pull, penalty
from .holding import retaken, shielded, too_late, unheld
from .late import no_attempt, risk_ahead
from .marks import out_of_plan, technical

Rule = Callable[[Seen, Mapping[str, Millis]], Iterator[Found]]

RULES: dict[str, Rule] = {
    "submitted": submitted,
    "leg_swept": leg_swept,
    "chased": chased,
    "too_late": too_late,
    "shielded": shielded,
    "unheld": unheld,
    "risk_ahead": risk_ahead,
    "given": given,
    "taken": taken,
    "retaken": retaken,
    "no_attempt": no_attempt,
    "penalty": penalty,
    "paid_pull": paid_pull,
    "illegal": illegal,
    "worth_zero": worth_zero,
    "control_lost": control_lost,
    "attempt_failed": attempt_failed,
    "stuck": stuck,
    "dragged_out": dragged_out,
    "chance_missed": chance_missed,
    "grip_unbroken": grip_unbroken,
}
MARKED: dict[str, Rule] = {"technical": technical, "out_of_plan": out_of_plan}
"""Errors that the coach marked, and no rule found."""
