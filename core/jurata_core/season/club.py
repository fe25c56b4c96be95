"""A club's season: what costs it most, who shares that, and how its belts and ages compare."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from ..divisions import BELTS, age_class
from ..divisions.ages import age_classes
from ..times import Millis
from .athlete import MINUTE, kind_name
from .certainty import Rate, Share, rate, share
from .mistakes import PART_NAMES, Standing
from .words import said_cost, share_json

COUNTED = ("kind", "part", "n", "matches", "points", "lost", "athletes")
"""What is shown of a kind of error as it is counted."""
MOST_SHARED = 12
"""So many athletes are named for one kind of error."""


class PlayedBy(NamedTuple):
    """A match of a club: whose, at which belt and age, for how long, how it came out, and its errors."""

    athlete: int
    belt: str
    age: int
    length: Millis
    result: str
    errors: Sequence[Standing]


class ClubKind(NamedTuple):
    """A kind of error over all athletes: how often, what it cost, and who shares it, whom it cost most first."""

    kind: str
    part: str
    """Which move was conceded, where the kind has them all together."""
    n: int
    matches: int
    points: int
    lost: float
    shared: tuple[tuple[int, int], ...]
    """An athlete and how often."""
    athletes: int


class Group(NamedTuple):
    """The matches at one belt or of one age class."""

    name: str
    matches: int
    athletes: int
    won: Share
    errors: Rate
    worst: str
    """The kind of error that cost most; empty where there is none."""


class ClubSeason(NamedTuple):
    matches: int
    athletes: int
    kinds: tuple[ClubKind, ...]
    belts: tuple[Group, ...]
    ages: tuple[Group, ...]


def club_of(matches: Iterable[PlayedBy]) -> ClubSeason:
    """The season of a club; matches in which nothing is logged count nowhere."""
    played = [one for one in matches if one.length > 0]
    ages = [known.name for known in age_classes()]
    return ClubSeason(
        len(played),
        len({one.athlete for one in played}),
        tuple(_kinds(played)),
        tuple(_groups(played, lambda one: one.belt, list(BELTS))),
        tuple(_groups(played, _age, ages)),
    )


def _age(one: PlayedBy) -> str:
    found = age_class(one.age)
    return found.name if found else ""


def _kinds(played: Sequence[PlayedBy]) -> list[ClubKind]:
    rows: dict[tuple[str, str], list[tuple[int, int, Standing]]] = defaultdict(list)
    for number, one in enumerate(played):
        for error in one.errors:
            rows[error.mistake.kind, error.mistake.part].append((number, one.athlete, error))
    return sorted(
        (_kind(*named, of) for named, of in rows.items()),
        key=lambda row: (-row.lost, -row.points, -row.n, row.kind, row.part),
    )


def _kind(kind: str, part: str, rows: Sequence[tuple[int, int, Standing]]) -> ClubKind:
    cost: Counter[int] = Counter()
    often: Counter[int] = Counter()
    for _, athlete, error in rows:
        often[athlete] += 1
        cost[athlete] += round(10_000 * (error.lost or 0.0)) + 500 * error.mistake.points
    first = sorted(often, key=lambda athlete: (-cost[athlete], -often[athlete], athlete))
    return ClubKind(
        kind, part, len(rows), len({number for number, *_ in rows}), sum(error.mistake.points for *_, error in rows),
        round(sum(error.lost or 0.0 for *_, error in rows), 3),
        tuple((athlete, often[athlete]) for athlete in first[:MOST_SHARED]), len(often),
    )  # fmt: skip


def _groups(played: Sequence[PlayedBy], by: Callable[[PlayedBy], str], order: Sequence[str]) -> Iterable[Group]:
    found: Mapping[str, list[PlayedBy]] = defaultdict(list)
    for one in played:
        found[by(one)].append(one)
    for name in order:
        of = found.get(name, [])
        if of:
            decided = [one for one in of if one.result]
            costs: Counter[str] = Counter()
            for one in of:
                for error in one.errors:
                    costs[error.mistake.kind] += round(10_000 * (error.lost or 0.0)) + 1
            worst = costs.most_common(1)
            yield Group(
                name, len(of), len({one.athlete for one in of}),
                share(sum(one.result == "won" for one in decided), len(decided)),
                rate(sum(len(one.errors) for one in of), sum(one.length for one in of) / MINUTE),
                worst[0][0] if worst else "",
            )  # fmt: skip


def as_json(season: ClubSeason, names: Mapping[int, str]) -> dict[str, Any]:
    """The season as it is shown; ``names`` are those of the athletes."""
    return {
        "matches": season.matches,
        "athletes": season.athletes,
        "kinds": [
            {
                **{field: getattr(row, field) for field in COUNTED},
                "name": PART_NAMES[row.part] if row.part else kind_name(row.kind),
                "cost": said_cost(row.points, row.lost),
                "shared": [{"id": athlete, "name": names[athlete], "n": n} for athlete, n in row.shared],
            }
            for row in season.kinds
        ],
        "belts": [_group_json(one) for one in season.belts],
        "ages": [_group_json(one) for one in season.ages],
    }


def _group_json(one: Group) -> dict[str, Any]:
    return {
        "name": one.name,
        "matches": one.matches,
        "athletes": one.athletes,
        "won": share_json(one.won),
        "often": one.errors.per_ten,
        "often_low": one.errors.low,
        "often_high": one.errors.high if one.errors.minutes else None,
        "worst": kind_name(one.worst) if one.worst else "",
    }
