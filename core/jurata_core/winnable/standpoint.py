"""From where one side looks ahead: who is where, what is held, the leads and the clock of a match at one time."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

from ..adjudication.control import Control
from ..adjudication.early_end import golden_tallies
from ..adjudication.fold import all_leads
from ..adjudication.places import ClaimKind
from ..adjudication.state import State
from ..adjudication.steps import take
from ..adjudication.tiebreak import Lead
from ..match_log.observations import Clock, Side, Tally
from ..times import Millis


class Claim(NamedTuple):
    """A claim being held: what it pays, and how much longer it has to be held."""

    kind: ClaimKind
    side: Side
    tally: Tally
    n: int
    left: Millis
    by_hook: bool = False
    too_early: bool = False
    """Whether it opened before points did: then it pays nothing and gives nothing."""
    suspended: bool = False
    """Whether its count waits while something is passed through, and then begins again."""


@dataclass(frozen=True, slots=True)
class Standpoint:
    """From where one side looks ahead: who is where, what is held, its leads, and the match clock.

    The clock runs; times in ``control`` are of the match clock too.
    """

    side: Side
    control: Control
    holding: tuple[Claim, ...]
    leads: Mapping[Lead, int]
    clock: Millis
    left: Millis
    opening: Millis
    """The match clock from which points can be scored."""
    shielded_until: Mapping[Side, Millis]
    """The match clock until which the counts of a side wait, because the other has it in a submission."""
    seated_until: Millis | None
    """The match clock at which both are penalised if they still sit opposite each other; None where they are not."""
    golden: tuple[Tally, ...]
    """The tallies of which the first score ends the match."""


def standpoint(state: State, side: Side, t: Millis, bell: Millis) -> Standpoint | None:
    """What a side has in front of it at ``t``, as it is in ``state``; None once the match is over.

    ``bell`` is what the match clock shows when time is up. Where the clock stands still, it goes on from the same
    position. A close submission that is still on gives its advantage, since the other side only looks on.
    """
    if state.ending is not None:
        return None
    if state.clock.run_from is None:
        state = state.fork()
        take(state, Clock(-1, t, None, None, True, "start", "same", None, None, None, None, "kept"))
    clock = state.clock.at(t)
    needed, shift = state.ruleset.holds, clock - t
    holding = tuple(
        Claim(
            one.kind,
            one.side,
            one.tally,
            0 if one.too_early else one.n,
            needed[one.kind] if one.counting_from is None else one.counting_from + needed[one.kind] - t,
            one.by_hook,
            one.too_early,
            one.suspended,
        )
        for one in state.claims
    )
    sign = 1 if side == "a" else -1
    leads = {tally: sign * n for tally, n in all_leads(state).items()}
    if state.ruleset.advantages:
        for hold in state.holds:
            leads["advantages"] += 1 if hold.side == side else -1
    control = state.control
    if control.top_from is not None:
        control = replace(control, top_from=control.top_from + shift)
    shields = {held: until + shift for held, until in state.shielded_until.items()}
    seated, limit = state.stay.since, state.ruleset.double_pull
    until = None if seated is None or not limit else shift + seated + limit
    left, golden = max(0, bell - clock), golden_tallies(state)
    return Standpoint(side, control, holding, leads, clock, left, state.opening, shields, until, golden)
