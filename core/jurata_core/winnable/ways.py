"""The cheapest ways to win or level: the shortest path over places, claims being held, and what is paid.

A step is to stay in a place, for as long as the next move takes or until something held there
is paid, and then to move. Only one side moves; the other lets it happen. So a way's time is the
least that it can take, not what is likely.

    |-- move --|---- held ----|-- move --|---- held ----|
    now        sweep       paid 2        pass        paid 3
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from heapq import heappop, heappush
from itertools import count
from typing import Any, Literal, NamedTuple

from ..adjudication.at_once import Gain, rule_of
from ..adjudication.control import Control, Spell, control_at
from ..adjudication.places import OWN_POSITION, Place
from ..adjudication.sentences import CLAIMS, PLACES, amount
from ..adjudication.tiebreak import Lead, settled
from ..adjudication.transition import FRESH, Pulled, consoled, pull, spell_goes_on, transition
from ..chance.moments import Moment, lead_of
from ..match_log.observations import Side, Tally
from ..rulesets import Ruleset
from ..times import Millis, to_seconds
from .paces import Paces, place_of, role_of

Aim = Literal["wins", "levels"]
"""What a way is enough for."""
MOST_MOVES, MOST_WAYS = 4, 4
SEARCHED = 20_000
"""States looked at before the search gives up; far more than any match has needed."""


@dataclass(frozen=True, slots=True)
class Standpoint:
    """From where one side looks ahead: its place, what it holds, its leads, and the match clock."""

    side: Side
    place: Place
    holding: tuple[Claim, ...]
    leads: dict[Tally, int]
    clock: Millis
    left: Millis


class Claim(NamedTuple):
    """A claim being held: what it pays, and how much longer it has to be held."""

    kind: str
    side: Side
    tally: Tally
    n: int
    left: Millis
    by_hook: bool = False


@dataclass(frozen=True, slots=True)
class Way:
    """One way: what is done, what it pays, and how long it takes at the least."""

    outcome: Aim
    steps: tuple[str, ...]
    scores: tuple[tuple[str, Tally, int], ...]
    takes: Millis
    """Of running clock, and from when points are open."""
    closes: Millis
    """The match clock after which it is too late to begin."""
    possible: bool
    """Whether the time that is left is enough."""

    @property
    def said(self) -> str:
        return ", ".join(self.steps) or "hold on"

    def as_json(self) -> dict[str, Any]:
        return {
            "outcome": self.outcome,
            "said": self.said,
            "scores": [{"what": what, "tally": tally, "n": n} for what, tally, n in self.scores],
            "worth": " and ".join(_sums(self.scores)),
            "takes": to_seconds(self.takes),
            "closes": to_seconds(self.closes),
            "possible": self.possible,
        }


def _sums(scores: tuple[tuple[str, Tally, int], ...]) -> list[str]:
    found: dict[Tally, int] = {}
    for _, tally, n in scores:
        found[tally] = found.get(tally, 0) + n
    return [amount(n, tally) for tally, n in found.items() if n]


def standpoint(moment: Moment, side: Side, duration: Millis) -> Standpoint:
    """What a side of a scored match has in front of it at a moment."""
    holding = tuple(
        Claim(one.claim, side, one.tally, one.n, max(0, one.needed - moment.held(one)))
        for one in moment.open
        if one.to == side and one.n
    )
    left = max(0, duration - moment.clock)
    return Standpoint(side, moment.place, holding, lead_of(side, moment), moment.clock, left)


class _State(NamedTuple):
    control: Control
    holding: tuple[Claim, ...]
    points: int
    advantages: int
    steps: tuple[str, ...]
    scores: tuple[tuple[str, Tally, int], ...]
    closes_at_end: bool
    """Whether it counts only because time runs out on a claim: it must come at the very end."""


def ways(
    start: Standpoint,
    ruleset: Ruleset,
    duration: Millis,
    paces: Paces,
    most: int = MOST_WAYS,
    most_moves: int = MOST_MOVES,
) -> list[Way]:
    """The ways that win, then those that level, the quickest first; a way that only adds to another is left out.

    Empty where the side is ahead already. Before points open, a way begins when they do, from the same place.
    """
    wait = max(0, ruleset.opening(duration) - start.clock)
    search = _Search(replace(start, clock=start.clock + wait), ruleset, duration, paces, most_moves)
    if search.outcome(0, 0) == "wins":
        return []
    found: dict[Aim, list[Way]] = {"wins": [], "levels": []}
    level_now = search.outcome(0, 0) == "levels"
    for takes, state, outcome in search.reached():
        if outcome == "levels" and level_now:
            continue
        known = found[outcome]
        scored = _counted(state.scores)
        if len(known) >= most or any(_within(_counted(way.scores), scored) for way in known):
            if all(len(known) >= most for known in found.values()):
                break
            continue
        closes, possible = duration - takes, wait + takes <= start.left
        known.append(Way(outcome, state.steps, state.scores, takes, closes, possible))
    return [*found["wins"], *found["levels"]]


def _counted(scores: tuple[tuple[str, Tally, int], ...]) -> dict[str, int]:
    found: dict[str, int] = {}
    for what, _, _ in scores:
        found[what] = found.get(what, 0) + 1
    return found


def _within(less: dict[str, int], more: dict[str, int]) -> bool:
    return all(more.get(what, 0) >= n for what, n in less.items())


class _Search:
    def __init__(
        self, start: Standpoint, ruleset: Ruleset, duration: Millis, paces: Paces, most_moves: int = MOST_MOVES
    ) -> None:
        self.start, self.ruleset, self.paces, self.most_moves = start, ruleset, paces, most_moves
        self.opening = ruleset.opening(duration)

    def outcome(self, points: int, advantages: int) -> Aim | None:
        """How the match stands for the side with so much more than now."""
        gained: dict[Tally, int] = {"points": points, "advantages": advantages, "penalties": 0}
        leads: dict[Lead, int] = {tally: lead + gained[tally] for tally, lead in self.start.leads.items()}
        lead, _ = settled(self.ruleset.tiebreak, leads)
        return "wins" if lead > 0 else "levels" if lead == 0 else None

    def reached(self) -> Iterator[tuple[Millis, _State, Aim]]:
        """States that win or level, in order of the time they take."""
        number = count()
        first = _State(self._begin(), self.start.holding, 0, 0, (), (), False)
        waiting: list[tuple[Millis, int, _State]] = [(0, next(number), first)]
        best: dict[tuple[Any, ...], Millis] = {}
        for _ in range(SEARCHED):
            if not waiting:
                return
            takes, _, state = heappop(waiting)
            outcome = self.outcome(state.points, state.advantages)
            if outcome is not None and (state.points or state.advantages):
                yield takes, state, outcome
            if outcome == "wins" or state.closes_at_end:
                continue
            for more, after in self._next(state, takes):
                gained = (after.points, after.advantages, after.closes_at_end)
                key = (after.control, after.holding, gained, len(after.steps))
                if best.get(key, takes + more + 1) > takes + more:
                    best[key] = takes + more
                    heappush(waiting, (takes + more, next(number), after))

    def _next(self, state: _State, takes: Millis) -> Iterator[tuple[Millis, _State]]:
        if consoled(self.ruleset, state.control, state.holding):
            console: tuple[str, Tally, int] = ("time runs out on it", "advantages", 1)
            unheld = self._paid(state, [console])
            steps = (*state.steps, "not held as time runs out")
            yield 0, unheld._replace(holding=(), closes_at_end=True, steps=steps)
        for wait in sorted({claim.left for claim in state.holding}):
            yield wait, self._stayed(state, wait)
        if len(state.steps) >= self.most_moves:
            return
        if self.ruleset.advantages and state.control.place.position != "standing":
            close = self._stayed(state, self.paces.close)
            gained = self._paid(close, [("close submission", "advantages", 1)])
            yield self.paces.close, gained._replace(steps=(*state.steps, "a close submission"))
        role = role_of(state.control.place, self.start.side)
        for to, travel in self.paces.moves.get(role, {}).items():
            place = place_of(to, self.start.side)
            # The move is prepared while what is held here is waited for.
            for stay in {travel, *(claim.left for claim in state.holding if claim.left > travel)}:
                yield stay, self._moved(self._stayed(state, stay), place, takes + stay)

    def _stayed(self, state: _State, wait: Millis) -> _State:
        """After staying in the place: what was held long enough is paid."""
        paid = [claim for claim in state.holding if claim.left <= wait]
        holding = tuple(claim._replace(left=claim.left - wait) for claim in state.holding if claim.left > wait)
        control, side = state.control, self.start.side
        if (spell := control.spell(side)) is not None:
            own = spell.paid.union(claim.kind for claim in paid if claim.kind in OWN_POSITION)
            control = control.with_spell(side, Spell(own, spell.consoled))
        scores = [(CLAIMS[claim.kind], claim.tally, claim.n) for claim in paid]
        return self._paid(state._replace(holding=holding, control=control), scores)

    def _paid(self, state: _State, scores: list[tuple[str, Tally, int]]) -> _State:
        return state._replace(
            points=state.points + sum(n for _, tally, n in scores if tally == "points"),
            advantages=state.advantages + sum(n for _, tally, n in scores if tally == "advantages"),
            scores=(*state.scores, *scores),
        )

    def _moved(self, state: _State, place: Place, takes: Millis) -> _State:
        """After a move: claims that go on, those lost for an advantage, and those that open."""
        side, control = self.start.side, state.control
        points_open = self.start.clock + takes >= self.opening
        gains: list[Gain] = []
        if place.top not in (None, side) and control.place.position == "standing":
            pulled = pull(self.ruleset, control, side, points_open=points_open)
            if isinstance(pulled, Pulled):
                control = pulled.control
                gains += pulled.at_once
        change = transition(self.ruleset, control, state.holding, place, points_open)
        gains += change.at_once
        let_go = consoled(self.ruleset, control, change.lost).values()
        scores: list[tuple[str, Tally, int]] = [
            *((f"letting go of the {CLAIMS[lost[0].kind]}", "advantages", 1) for lost in let_go),
            *(_gained(gain, side) for gain in gains),
        ]
        opened = [
            Claim(kind, side, tally, n, self.ruleset.holds[kind])
            for kind, tally, n in (change.opened if points_open and place.top == side else ())
            if n
        ]
        said = _said(state.control.place, place, side, [claim.kind for claim in opened])
        holding = (*change.kept, *opened)
        after = state._replace(control=change.control, holding=holding, steps=(*state.steps, said))
        return self._paid(after, scores)

    def _begin(self) -> Control:
        """Where the side begins; what was paid in the spell of control before is not known."""
        place = self.start.place
        return control_at(place, FRESH if spell_goes_on(self.ruleset, place) else None)


def _gained(gain: Gain, side: Side) -> tuple[str, Tally, int]:
    """What a rule that pays at once changes in a side's lead."""
    return rule_of(gain.code).topic.lower(), gain.tally, gain.n if gain.to == side else -gain.n


def _said(before: Place, after: Place, side: Side, opened: list[str]) -> str:
    """A move in a coach's words."""
    main = next((kind for kind in ("takedown", "sweep", "guard_pass", "double_pull_top") if kind in opened), None)
    where = PLACES[after.position]
    if main is not None:
        direct = after.position in OWN_POSITION or (main != "guard_pass" and after.position == "side")
        return f"{CLAIMS[main]} into {where}" if direct else CLAIMS[main]
    if after.position in OWN_POSITION and after.top == side:
        return CLAIMS[after.position]
    if after.position == "standing":
        return "stand up"
    if after.top != side:
        return "pull guard" if before.position == "standing" else "recover the guard"
    if before.top != side:
        return f"come up to {where}"
    return f"to {where}"
