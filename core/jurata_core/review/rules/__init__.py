"""The rules that find errors, the most telling first: what one covers, a later one leaves alone."""

from collections.abc import Callable, Iterator, Mapping

from ...times import Millis
from ..seen import Found, Seen
from .attacks import chased, leg_swept, unused
from .conceding import given, gripped, submitted, taken
from .fouls import illegal, paid_pull, penalty
from .holding import retaken, reversal, shielded, too_late, unheld
from .late import idle, no_attempt, risk_ahead

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
    "reversal": reversal,
    "retaken": retaken,
    "unused": unused,
    "no_attempt": no_attempt,
    "gripped": gripped,
    "penalty": penalty,
    "paid_pull": paid_pull,
    "illegal": illegal,
    "idle": idle,
}
