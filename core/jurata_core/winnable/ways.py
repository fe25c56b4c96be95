"""The cheapest ways to win or level: the shortest path over places, claims being held, and what is paid.

A step is to stay in a place, for as long as the next move takes or until something held there
is paid, and then to move. Only one side moves; the other lets it happen, and is paid what it holds
meanwhile. So a way's time is the least that it can take, not what is likely.

    |-- move --|---- held ----|-- move --|---- held ----|
    now        sweep       paid 2        pass        paid 3
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from heapq import heappop, heappush
from itertools import count, groupby
from operator import attrgetter
from typing import Any, NamedTuple

from ..adjudication.at_once import Gain, rule_of
from ..adjudication.control import Control
from ..adjudication.places import DOUBLE_PULL, OWN_POSITION, ClaimKind, Place
from ..adjudication.sentences import CLAIMS, PLACES
from ..adjudication.tiebreak import Lead, settled
from ..adjudication.transition import Pulled, console, consoled, established, pull, transition
from ..match_log.observations import Side
from ..rulesets import Ruleset
from ..times import Millis
from .paces import Paces, place_of, role_of
from .standpoint import Claim, Standpoint
from .way import Aim, Score, Step, Way

MOST_MOVES, MOST_WAYS = 4, 4
SEARCHED = 20_000
"""States looked at before the search gives up; far more than any match has needed."""


class _State(NamedTuple):
    control: Control
    holding: tuple[Claim, ...]
    leads: tuple[int, ...]
    """In the order of ``LEADS``."""
    steps: tuple[Step, ...]
    scores: tuple[Score, ...]
    at_the_end: bool
    """Whether it counts only because time runs out on a claim: it must come at the very end."""
    ended: int
    """1 where what was scored has ended the match for the side, -1 where it has for the other one, else 0."""

    @property
    def moves(self) -> int:
        return sum(1 for step in self.steps if step.said)


LEADS: tuple[Lead, ...] = ("points", "advantages", "penalties", "first_score", "last_score", "submission_attempts")


def ways(
    start: Standpoint, ruleset: Ruleset, paces: Paces, most: int = MOST_WAYS, most_moves: int = MOST_MOVES
) -> list[Way]:
    """The ways that win, then those that level, the quickest first; a way that only adds to another is left out.

    Empty where the side is ahead already. Before points open, a way begins when they do, from the same place; where
    both would be penalised for sitting there so long, that penalty is left out.
    """
    wait = max(0, start.opening - start.clock)
    if wait and start.seated_until is not None and start.clock + wait >= start.seated_until:
        start = replace(start, seated_until=None)
    search = _Search(replace(start, clock=start.clock + wait, left=start.left - wait), ruleset, paces, most_moves)
    first = search.begin(wait)
    now = search.outcome(first)
    if now == "wins":
        return []
    found: dict[Aim, list[Way]] = {"wins": [], "levels": []}
    for takes, state, outcome in search.reached(first):
        if outcome == "levels" and now == "levels":
            continue
        known = found[outcome]
        scored = _counted(state.scores)
        if len(known) >= most or any(_within(_counted(way.scores), scored) for way in known):
            if all(len(known) >= most for known in found.values()):
                break
            continue
        closes = start.clock + start.left - takes
        known.append(Way(outcome, state.steps, state.scores, wait, takes, closes, wait + takes <= start.left))
    return [*found["wins"], *found["levels"]]


def _counted(scores: tuple[Score, ...]) -> dict[str, int]:
    found: dict[str, int] = {}
    for score in scores:
        found[score.what] = found.get(score.what, 0) + 1
    return found


def _within(less: dict[str, int], more: dict[str, int]) -> bool:
    return all(more.get(what, 0) >= n for what, n in less.items())


class _Search:
    """``start`` is when points are open. What a step opens, pays and loses is the adjudication's to say."""

    def __init__(self, start: Standpoint, ruleset: Ruleset, paces: Paces, most_moves: int) -> None:
        self.start, self.ruleset, self.paces, self.most_moves = start, ruleset, paces, most_moves

    def begin(self, wait: Millis) -> _State:
        """The state once points are open: until then what is held is held on."""
        leads = tuple(self.start.leads.get(lead, 0) for lead in LEADS)
        return self._stayed(_State(self.start.control, self.start.holding, leads, (), (), False, 0), wait)

    def outcome(self, state: _State) -> Aim | None:
        """How the match stands for the side."""
        if state.ended:
            return "wins" if state.ended > 0 else None
        lead, _ = settled(self.ruleset.tiebreak, dict(zip(LEADS, state.leads, strict=True)))
        return "wins" if lead > 0 else "levels" if lead == 0 else None

    def reached(self, first: _State) -> Iterator[tuple[Millis, _State, Aim]]:
        """States that win or level, in order of the time they take."""
        number = count()
        waiting: list[tuple[Millis, int, _State]] = [(0, next(number), first)]
        best: dict[tuple[Any, ...], Millis] = {}
        for _ in range(SEARCHED):
            if not waiting:
                return
            takes, _, state = heappop(waiting)
            outcome = self.outcome(state)
            if outcome is not None and state.scores:
                yield takes, state, outcome
            if outcome == "wins" or state.at_the_end or state.ended:
                continue
            for more, after in self._next(state, takes):
                if state.control.place == DOUBLE_PULL and self.seated_too_long(takes + more):
                    continue
                key = (*after[:3], *after[5:], after.moves)
                if best.get(key, takes + more + 1) > takes + more:
                    best[key] = takes + more
                    heappush(waiting, (takes + more, next(number), after))

    def _next(self, state: _State, takes: Millis) -> Iterator[tuple[Millis, _State]]:
        side = self.start.side
        if self._outlasts(state, self.start.left - takes):
            yield 0, self._out_of_time(state)
        due = sorted({claim.left for claim in state.holding if claim.n and not claim.suspended})
        for wait in due:
            yield wait, self._done(self._stayed(state, wait), Step(wait, "wait", ""))
        if state.moves >= self.most_moves:
            return
        if self.ruleset.advantages and state.control.place.position != "standing":
            close = self._stayed(state, self.paces.close)
            gained = self._scored(close, [Score("close submission", "advantages", 1)], attempts=1)
            yield self.paces.close, self._done(gained, Step(self.paces.close, "close", "a close submission"))
        role = role_of(state.control.place, side)
        for to, travel in self.paces.moves.get(role, {}).items():
            place = place_of(to, side)
            # The move is prepared while what is held here is waited for.
            for stay in {travel, *(left for left in due if left > travel)}:
                after, said = self._moved(self._stayed(state, stay), place, self.start.clock + takes + stay)
                yield stay, self._done(after, Step(stay, place, said))

    def _outlasts(self, state: _State, left: Millis) -> bool:
        """Whether time can run out on what the side holds: it needs more time than is left, or can be begun later."""
        lost = consoled(self.ruleset, state.control, state.holding).get(self.start.side)
        later = not self.start.holding and self.start.seated_until is None
        return bool(lost) and (later or all(one.left > left for one in state.holding))

    def seated_too_long(self, takes: Millis) -> bool:
        """Whether both would be penalised for sitting: what that changes is no way of one side."""
        until = self.start.seated_until
        return until is not None and self.start.clock + takes >= until

    def _done(self, state: _State, step: Step) -> _State:
        return state._replace(steps=(*state.steps, step))

    def _stayed(self, state: _State, wait: Millis) -> _State:
        """After staying in the place: what was held long enough is paid."""
        due = [one for one in state.holding if one.left <= wait and not one.suspended]
        going = [one for one in state.holding if one.left > wait or one.suspended]
        holding = tuple(one if one.suspended else one._replace(left=one.left - wait) for one in going)
        state = state._replace(holding=holding)
        for _, together in groupby(sorted(due, key=attrgetter("left")), key=attrgetter("left")):
            claims = [one for one in together if not one.too_early]
            control = state.control
            for one in claims:
                control = control.with_paid(one.side, (one.kind,))
            scores = [self._score(one) for one in claims if one.n]
            state = self._scored(state._replace(control=control), scores)
        return state

    def _score(self, claim: Claim) -> Score:
        own = claim.side == self.start.side
        what = CLAIMS[claim.kind] if own else f"the opponent's {CLAIMS[claim.kind]}"
        return Score(what, claim.tally, claim.n if own else -claim.n, own)

    def _scored(self, state: _State, scores: list[Score], attempts: int = 0) -> _State:
        """After what is scored at one moment, unless the match is over; points of both sides at once are nobody's."""
        if state.ended:
            return state
        points, advantages, penalties, first, last, tried = state.leads
        points += sum(score.n for score in scores if score.tally == "points")
        advantages += sum(score.n for score in scores if score.tally == "advantages")
        scorers = {score.scorer for score in scores if score.tally == "points"} - {0}
        if len(scorers) == 1:
            (last,) = scorers
            first = first or last
        leads = (points, advantages, penalties, first, last, tried + attempts)
        golden = {score.scorer for score in scores if score.tally in self.start.golden} - {0}
        ended = 0
        if self.ruleset.mercy and not state.at_the_end and any(one * points >= self.ruleset.mercy for one in scorers):
            ended = 1 if points > 0 else -1
        elif len(golden) == 1:
            (ended,) = golden
        return state._replace(leads=leads, scores=(*state.scores, *scores), ended=ended)

    def _out_of_time(self, state: _State) -> _State:
        """Time runs out on what is held."""
        lost = consoled(self.ruleset, state.control, state.holding)
        own = self.start.side
        scores = [Score("time runs out on it", "advantages", 1 if of == own else -1, of == own) for of in lost]
        after = self._scored(state._replace(holding=(), at_the_end=True), scores)
        return self._done(after, Step(0, "time", "not held as time runs out"))

    def _moved(self, state: _State, place: Place, clock: Millis) -> tuple[_State, str]:
        """After a move at ``clock``, and what it is called: claims that go on, that are lost, and that open."""
        side = self.start.side
        control = established(self.ruleset, state.control, state.holding, clock)
        points_open = clock >= self.start.opening
        gains: list[Gain] = []
        if place.top not in (None, side) and control.place.position == "standing":
            pulled = pull(self.ruleset, control, side, points_open=points_open)
            if isinstance(pulled, Pulled):
                control = pulled.control
                gains += pulled.at_once
        change = transition(self.ruleset, control, state.holding, place, points_open, clock)
        gains += change.at_once
        after, let_go = console(self.ruleset, control, change.control, change.lost)
        scores = [self._lost(of, lost) for of, lost in let_go.items()]
        scores += [self._gained(gain) for gain in gains]
        kept = [
            one._replace(suspended=False, left=self._count(one.kind, one.side, clock)) if one.suspended else one
            for one in change.kept
        ]
        waits = [one._replace(suspended=True) for one in change.suspended]
        opened = [
            Claim(
                kind,
                place.top,
                tally,
                n if points_open else 0,
                self._count(kind, place.top, clock),
                place.position == "back_one_hook" and kind in ("sweep", "reversal"),
                not points_open,
            )
            for kind, tally, n in change.opened
            if place.top is not None
        ]
        said = _said(state.control.place, place, side, [claim.kind for claim in opened if claim.n])
        moved = state._replace(control=after, holding=(*kept, *waits, *opened))
        return self._stayed(self._scored(moved, scores), 0), said

    def _count(self, kind: ClaimKind, side: Side, clock: Millis) -> Millis:
        """How long a claim is held from ``clock`` until it is paid."""
        return self.ruleset.holds[kind] + max(0, self.start.shielded_until[side] - clock)

    def _lost(self, side: Side, claims: list[Claim]) -> Score:
        """The advantage of a side for claims lost together."""
        lost = CLAIMS[claims[0].kind]
        if side == self.start.side:
            return Score(f"letting go of the {lost}", "advantages", 1)
        return Score(f"the opponent's lost {lost}", "advantages", -1, own=False)

    def _gained(self, gain: Gain) -> Score:
        """What a rule that pays at once changes."""
        own = gain.to == self.start.side
        return Score(rule_of(gain.code).topic.lower(), gain.tally, gain.n if own else -gain.n, own)


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
