"""The season of one athlete, put together from the figures of the matches: each number with the moments behind it."""

from __future__ import annotations

import datetime
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from ..match_log.observations import SIDES, Side, Tally
from ..review import MOVES, WELL_NAMES, Move, Try, kinds
from ..techniques import within_sentence
from ..times import Millis, to_seconds
from .certainty import Change, Share, Spread, changes, share, shrunk
from .figures import STATES, THIRDS, Figures, Given, Part
from .mistakes import Counted
from .words import MOVE_TITLES, said_change, said_cost, share_json

LEAST = 3
"""A technique, or a place that moves begin from, is shown by itself from so many tries on."""
FEW = 10
"""Below so many tries a share is also shown moved towards the club's."""
MINUTE: Millis = 60_000


class Played(NamedTuple):
    """A match of the season. ``result`` is as :func:`result_of` has it; ``ruleset`` is its title."""

    match: str
    date: datetime.date | None
    result: str
    method: str
    ruleset: str
    figures: Figures
    mistakes: tuple[Counted, ...] = ()


def result_of(winner: str | None, method: str) -> str:
    """How a match came out for the athlete: won, lost or drawn; empty where it has no end yet."""
    return "" if method == "unfinished" else {"a": "won", "b": "lost"}.get(winner or "", "drawn")


class Moment(NamedTuple):
    """A moment behind a figure: the match, and the stretch of footage that shows it."""

    match: str
    t: Millis
    start: Millis
    end: Millis

    def as_json(self) -> dict[str, Any]:
        times = {name: to_seconds(at) for name, at in (("t", self.t), ("start", self.start), ("end", self.end))}
        return {"match": self.match, **times}


class Tried(NamedTuple):
    """What was tried and came off: the share, the same moved towards the club's, and the moments of both outcomes."""

    name: str
    share: Share
    towards: Share | None
    done: tuple[Moment, ...]
    failed: tuple[Moment, ...]


class OfMove(NamedTuple):
    """One move of one side, as a whole, by technique and by where it began."""

    move: Move
    by: Side
    whole: Tried
    techniques: tuple[Tried, ...]
    places: tuple[Tried, ...]


class Cost(NamedTuple):
    """What errors cost together: on the sheet, and in matches' worth of the chance of winning."""

    points: int
    advantages: int
    lost: float
    unknown: int
    """How many of them have no cost in chance yet."""


class Recurring(NamedTuple):
    """What comes back: a kind of error, a cause that a coach named, or something done well."""

    name: str
    n: int
    matches: int
    cost: Cost
    change: Change
    moments: tuple[Moment, ...]
    began: int = 0
    """Of a kind: how many chains of errors began with it."""
    chain: Cost = Cost(0, 0, 0.0, 0)
    """What those chains cost, with all that came of it."""


class ComingBack(NamedTuple):
    """Errors by their kind and by the causes that coaches named, and what was done well."""

    kinds: tuple[Recurring, ...]
    causes: tuple[Recurring, ...]
    well: tuple[Recurring, ...]


class AthleteSeason(NamedTuple):
    """Everything an athlete's page shows of a season. ``before`` is the day from which errors count as "since"."""

    matches: int
    unscored: int
    record: Mapping[str, Mapping[str, int]]
    """By ruleset: how many were won, lost or neither, and by each method."""
    moves: tuple[OfMove, ...]
    length: Millis
    top: Millis
    below: Millis
    feet: Millis
    given: tuple[tuple[str, Given], ...]
    """All that was given, with its match."""
    thirds: tuple[Part, ...]
    states: Mapping[str, Part]
    illegal: tuple[tuple[str, Side, Moment], ...]
    split: datetime.date | None
    coming_back: ComingBack


def season_of(
    played: Iterable[Played], spreads: Mapping[Move, Spread], split: datetime.date | None = None
) -> AthleteSeason:
    """The season of some matches. Errors before ``split`` are held against those since; without it the season's middle
    match is the split."""
    matches = sorted(played, key=lambda one: one.date or datetime.date.min)
    scored = [one for one in matches if one.figures.length > 0]
    split = split or _middle(scored)
    figures = [one.figures for one in scored]
    return AthleteSeason(
        matches=len(matches),
        unscored=len(matches) - len(scored),
        record=_record(scored),
        moves=tuple(_moves(scored, spreads)),
        **{name: sum(getattr(one, name) for one in figures) for name in ("length", "top", "below", "feet")},
        given=tuple((one.match, given) for one in scored for given in one.figures.given),
        thirds=tuple(_added([one.thirds[number] for one in figures]) for number in range(THIRDS)),
        states={state: _added([one.states[state] for one in figures]) for state in STATES.values()},
        illegal=tuple(
            (technique, by, Moment(one.match, t, max(0, t - 4_000), t + 4_000))
            for one in scored
            for technique, by, t in one.figures.illegal
        ),
        split=split,
        coming_back=_coming_back(scored, split),
    )


def _middle(matches: Sequence[Played]) -> datetime.date | None:
    dates = [one.date for one in matches if one.date is not None]
    return dates[len(dates) // 2] if len(set(dates)) > 1 else None


def _record(matches: Iterable[Played]) -> dict[str, dict[str, int]]:
    found: dict[str, Counter[str]] = defaultdict(Counter)
    for one in matches:
        found[one.ruleset].update([one.result, f"{one.result} {one.method}"])
    return {ruleset: dict(counts) for ruleset, counts in found.items()}


def _added(parts: Iterable[Part]) -> Part:
    return Part(*(sum(column) for column in zip(*parts, strict=True))) if (parts := list(parts)) else Part()


def _moves(matches: Sequence[Played], spreads: Mapping[Move, Spread]) -> Iterable[OfMove]:
    tries = [(one.match, tried) for one in matches for tried in one.figures.tries]
    for move in MOVES:
        for by in SIDES:
            own = [(match, tried) for match, tried in tries if (tried.move, tried.by) == (move, by)]
            spread = spreads.get(move) if by == "a" else None
            yield OfMove(
                move, by, _tried(move, own, spread),
                _grouped(own, lambda tried: tried.technique), _grouped(own, lambda tried: tried.detail),
            )  # fmt: skip


def _grouped(tries: Sequence[tuple[str, Try]], by: Callable[[Try], str | None]) -> tuple[Tried, ...]:
    """The tries by something that some of them have, the commonest first."""
    groups: dict[str, list[tuple[str, Try]]] = defaultdict(list)
    for match, tried in tries:
        if name := by(tried):
            groups[name].append((match, tried))
    shown = [_tried(name, rows, None) for name, rows in groups.items() if len(rows) >= LEAST]
    return tuple(sorted(shown, key=lambda one: (-one.share.of, one.name)))


def _tried(name: str, tries: Sequence[tuple[str, Try]], spread: Spread | None) -> Tried:
    moments = [(Moment(match, one.t, one.start, one.end), one.done) for match, one in tries]
    done = tuple(moment for moment, came_off in moments if came_off)
    failed = tuple(moment for moment, came_off in moments if not came_off)
    of = len(moments)
    towards = shrunk(len(done), of, spread) if spread is not None and 0 < of < FEW else None
    return Tried(name, share(len(done), of), towards, done, failed)


_Happened = tuple[int, str, Moment, Counted | None]
"""In which match, what, when, and the error that it was."""


def _coming_back(matches: Sequence[Played], split: datetime.date | None) -> ComingBack:
    """Kinds of errors, causes and things done well, each from what cost most to what came least often."""
    kinds_seen: list[_Happened] = []
    causes_seen: list[_Happened] = []
    well_seen: list[_Happened] = []
    for number, one in enumerate(matches):
        for counted in one.mistakes:
            mistake = counted.mistake
            moment = Moment(one.match, mistake.t, mistake.start, mistake.end)
            kinds_seen.append((number, mistake.kind, moment, counted))
            causes_seen += [(number, cause, moment, counted) for cause in mistake.causes]
        moments = ((well.kind, Moment(one.match, well.t, well.start, well.end)) for well in one.figures.well)
        well_seen += [(number, kind, moment, None) for kind, moment in moments]
    return ComingBack(
        _recurring(matches, split, kinds_seen, _chained(kinds_seen)),
        _recurring(matches, split, causes_seen, {}),
        _recurring(matches, split, well_seen, {}),
    )


_Chains = Mapping[tuple[int, str], Sequence[Counted]]
"""The errors of each chain, by the number of its match and the key of its root."""


def _recurring(
    matches: Sequence[Played], split: datetime.date | None, happened: Sequence[_Happened], chained: _Chains
) -> tuple[Recurring, ...]:
    by_name: dict[str, list[_Happened]] = defaultdict(list)
    for one in happened:
        by_name[one[1]].append(one)
    counts = [[0] * len(matches) for _ in by_name]
    for row, rows in zip(counts, by_name.values(), strict=True):
        for number, *_ in rows:
            row[number] += 1
    # The matches are in order of their dates; those without one come first.
    before = sum(split is None or one.date is None or one.date < split for one in matches)
    found = changes(counts, [one.figures.length / MINUTE for one in matches], before)
    made = []
    for (name, rows), change in zip(by_name.items(), found, strict=True):
        cost = _cost(counted for *_, counted in rows if counted is not None)
        roots = [(number, one.mistake.key) for number, _, _, one in rows if one and one.mistake.key == one.root]
        began = [chained[root] for root in roots if root in chained]
        chain = _cost(each for members in began for each in members)
        in_matches = len({number for number, *_ in rows})
        moments = tuple(moment for _, _, moment, _ in rows)
        made.append(Recurring(name, len(rows), in_matches, cost, change, moments, len(began), chain))
    return tuple(sorted(made, key=_most_first))


def _chained(happened: Sequence[_Happened]) -> _Chains:
    found: dict[tuple[int, str], list[Counted]] = defaultdict(list)
    for number, _, _, counted in happened:
        if counted is not None:
            found[number, counted.root].append(counted)
    return found


def _cost(errors: Iterable[Counted]) -> Cost:
    rows = list(errors)
    return Cost(
        sum(one.mistake.points for one in rows), sum(one.mistake.advantages for one in rows),
        round(sum(one.lost or 0.0 for one in rows), 4), sum(one.lost is None for one in rows),
    )  # fmt: skip


def _most_first(one: Recurring) -> tuple[Any, ...]:
    return (-one.cost.lost, -one.cost.points, -one.cost.advantages, -one.n, one.name)


def as_json(season: AthleteSeason) -> dict[str, Any]:
    """The season as it is shown: times in seconds, moments by match."""
    return {
        "matches": season.matches,
        "unscored": season.unscored,
        "record": [{"ruleset": ruleset, "counts": dict(counts)} for ruleset, counts in season.record.items()],
        "moves": [
            {
                "move": one.move,
                "by": one.by,
                "whole": {**_tried_json(one.whole), "name": MOVE_TITLES[one.move]},
                "techniques": [{**_tried_json(tried), "name": within_sentence(tried.name)} for tried in one.techniques],
                "places": [_tried_json(tried) for tried in one.places],
            }
            for one in season.moves
        ],
        **{name: to_seconds(getattr(season, name)) for name in ("length", "top", "below", "feet")},
        "scored": [
            {"what": what, **_both(rows, "points"), **_both(rows, "advantages")}
            for what, rows in _by_what(season, penalties=False).items()
        ],
        "thirds": [
            {**_lasted(part), **_both([row for row in season.given if row[1].third == number], "points")}
            for number, part in enumerate(season.thirds)
        ],
        "states": [
            {"state": state, **_lasted(part), **_both([row for row in season.given if row[1].state == state], "points")}
            for state, part in season.states.items()
        ],
        "penalties": [
            {"foul": foul, **_both(rows, "penalties")} for foul, rows in _by_what(season, penalties=True).items()
        ],
        "illegal": [
            {"technique": within_sentence(name), "by": by, "moment": at.as_json()} for name, by, at in season.illegal
        ],
        "split": None if season.split is None else season.split.isoformat(),
        "kinds": [
            _recurring_json(row, kind_name(row.name), said_change(row.change, season.split))
            for row in season.coming_back.kinds
        ],
        "causes": [
            _recurring_json(row, row.name, said_change(row.change, season.split)) for row in season.coming_back.causes
        ],
        "well": [
            _recurring_json(row, WELL_NAMES[row.name], said_change(row.change, season.split, well=True))
            for row in season.coming_back.well
        ],
    }


def kind_name(kind: str) -> str:
    """What a kind of error is called; one that a coach added has no name of its own."""
    return kinds()[kind].name if kind in kinds() else "Seen by the coach"


def _recurring_json(row: Recurring, name: str, said: str) -> dict[str, Any]:
    return {
        "id": row.name,
        "name": name,
        "n": row.n,
        "matches": row.matches,
        "cost": _cost_json(row.cost),
        "change": {**_change_json(row.change), "said": said},
        "moments": [moment.as_json() for moment in row.moments],
        "began": row.began,
        "chain": _cost_json(row.chain),
    }


def _cost_json(cost: Cost) -> dict[str, Any]:
    return {**cost._asdict(), "said": said_cost(cost.points, cost.lost, cost.unknown)}


def _tried_json(tried: Tried) -> dict[str, Any]:
    return {
        "name": tried.name,
        "share": share_json(tried.share),
        "towards": None if tried.towards is None else share_json(tried.towards),
        "done": [moment.as_json() for moment in tried.done],
        "failed": [moment.as_json() for moment in tried.failed],
    }


_GivenIn = tuple[str, Given]


def _by_what(season: AthleteSeason, penalties: bool) -> dict[str, list[_GivenIn]]:
    """What was given by what it was for: either penalties, or points and advantages."""
    found: dict[str, list[_GivenIn]] = defaultdict(list)
    for row in season.given:
        if (row[1].tally == "penalties") == penalties:
            found[row[1].what].append(row)
    return found


def _both(rows: Iterable[_GivenIn], tally: Tally) -> dict[str, Any]:
    """How much of one kind was given to either side, and the moments in which it was."""
    sides = {side: [row for row in rows if (row[1].by, row[1].tally) == (side, tally)] for side in SIDES}
    return {
        f"{tally}_{side}": {
            "n": sum(one.n for _, one in of),
            "moments": [Moment(match, one.t, one.start, one.end).as_json() for match, one in of],
        }
        for side, of in sides.items()
    }


def _lasted(part: Part) -> dict[str, Any]:
    return {"lasted": to_seconds(part.lasted)}


def _change_json(found: Change) -> dict[str, Any]:
    rates = {
        name: {**of._asdict(), "high": _finite(of.high)}
        for name, of in (("before", found.before), ("since", found.since))
    }
    return {**rates, "ratio": found.ratio, "low": found.low, "high": _finite(found.high), "word": found.word}


def _finite(number: float) -> float | None:
    return None if number == float("inf") else number
