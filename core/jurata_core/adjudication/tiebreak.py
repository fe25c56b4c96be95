"""Who wins when time is up: the first difference down a ruleset's tiebreak. Nothing else decides a tie."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from ..match_log.observations import Tally
from ..rulesets.model import TieBreak


class Settled(NamedTuple):
    """``lead`` is above zero where the athlete wins, below where the opponent does; ``by`` is the step that decides.

    With a lead of zero the step is a draw, or a decision that is still to be made; None: no step decides anything.
    """

    lead: int
    by: TieBreak | None


Lead = Tally | Literal["first_score", "last_score", "submission_attempts"]
"""What a lead can be in: a tally of the sheet, who scored first or last, or close submissions."""


def settled(tiebreak: Sequence[TieBreak], leads: Mapping[Lead, int], votes: int | None = None) -> Settled:
    """How a match comes out at the end of time.

    ``leads`` are the athlete's over the opponent, none where one is left out; of penalties, by how many fewer; of the
    first and the last score, 1 or -1 for whose it was. ``votes`` is the athlete's lead in
    the votes of a decision (0 where none was logged), None where the decision is yet to come.
    """
    for step in tiebreak:
        if step == "draw":
            return Settled(0, step)
        if step == "decision":
            if votes is None:
                return Settled(0, step)
            lead = votes
        else:
            lead = leads.get(step, 0)
        if lead:
            return Settled(lead, step)
    return Settled(0, None)
