"""What an illegal technique leads to. ``because`` says why it is illegal."""

from __future__ import annotations

from ...match_log.observations import Side
from ...records import record
from .base import Reason


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
    sentence = "{because} {by:Who} loses any count in progress."
    because: str
    by: Side


@record
class IllegalFinish(Reason):
    code = "illegal_finish"
    sentence = "{because} A match can't be won by it: {by:who} is disqualified."
    because: str
    by: Side


Consequence = IllegalDisqualify | IllegalWarned | IllegalStop | IllegalFinish
