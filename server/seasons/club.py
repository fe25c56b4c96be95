"""A club's season and a scorer's record, out of what is stored with each match."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Count, Q, QuerySet

from clubs.access import Access
from clubs.models import Club
from jurata_core import fingerprint
from jurata_core.audit import compare
from jurata_core.review import Seen
from jurata_core.season.athlete import result_of
from jurata_core.season.club import PlayedBy, as_json, club_of
from jurata_core.season.mistakes import costs_from_json, standing
from jurata_core.season.mistakes import from_json as mistakes_from_json
from jurata_core.season.scorer import Judged, judged, read_stored, record_of
from jurata_core.season.scorer import as_json as record_json
from matches.models import Match
from matches.queries import NOT_SCORED
from matches.standing import standing as standing_of
from matches.summaries import freshen
from reviews.models import Remark

from .queries import Decided, counted_matches, decisions

MOST_WAITING = 12
MOST_COMPARED = 50
"""So many second scores are compared for a record, the latest ones."""
FIELDS = (
    "pk", "athlete", "belt", "age", "summary__length_ms", "summary__winner", "summary__method", "summary__mistakes",
    "summary__costs",
)  # fmt: skip
NOT_REVIEWED = ~Q(remarks__standing__in=[Remark.Standing.ACCEPTED, Remark.Standing.DISMISSED])


def club_json(access: Access, club: Club, since: datetime.date | None) -> dict[str, Any]:
    """The season of the athletes that a coach may see, from a day on: what costs most, and what still waits."""
    matches = counted_matches(access).filter(athlete__club=club)
    freshen(matches)
    if since is not None:
        matches = matches.filter(date__gte=since)
    current = matches.filter(summary__core=fingerprint())
    names = dict(club.athletes.values_list("pk", "name"))
    season = club_of(_played(current))
    return {
        "since": since,
        "working": matches.count() - current.count(),
        "season": as_json(season, names),
        "not_scored": _waiting(matches.filter(NOT_SCORED)),
        "not_reviewed": _waiting(matches.exclude(NOT_SCORED).filter(NOT_REVIEWED).distinct()),
    }


def _played(matches: QuerySet[Match]) -> list[PlayedBy]:
    decided = decisions(Remark.objects.filter(match__in=matches.values("pk")))
    nothing = Decided({}, [])
    rows = matches.order_by().values_list(*FIELDS)
    return [_played_by(decided.get(row[0], nothing), *row[1:]) for row in rows.iterator(chunk_size=2_000)]


def _played_by(
    decided: Decided, athlete: int, belt: str, age: int, length: int, winner: str, method: str, mistakes: Any,
    costs: Any,
) -> PlayedBy:  # fmt: skip
    errors = [*mistakes_from_json(mistakes), *decided.own]
    counts = standing(errors, costs_from_json(costs), decided.said)
    return PlayedBy(athlete, belt, age, length, result_of(winner, method), counts)


def _waiting(matches: QuerySet[Match]) -> dict[str, Any]:
    """How many matches wait, the first of them, and for whom how many."""
    rows = matches.order_by("-date", "-created").values("id", "athlete__name", "opponent", "event", "date")
    by_athlete = matches.order_by().values("athlete", "athlete__name").annotate(n=Count("pk", distinct=True))
    return {
        "n": matches.order_by().values("pk").distinct().count(),
        "first": [{**row, "athlete": row["athlete__name"]} for row in rows[:MOST_WAITING]],
        "athletes": [
            {"id": row["athlete"], "name": row["athlete__name"], "n": row["n"]}
            for row in by_athlete.order_by("-n", "athlete__name")
        ],
    }


def scorer_json(user: User, access: Access) -> dict[str, Any]:
    """The record of who asks: of the matches that they scored, and of second scores of the same matches."""
    own = Match.objects.filter(access.matches(), scorer=user, practice=False)
    freshen(own)
    scored = own.filter(summary__core=fingerprint(), summary__observed__gt=0).order_by("date")
    rows = [(date, read_stored(scoring)) for date, scoring in scored.values_list("date", "summary__scoring")]
    return record_json(record_of(rows, _compared(user, access)))


def _compared(user: User, access: Access) -> list[Sequence[Judged]]:
    """The user's scores held against those of others of the same match."""
    seconds = Match.objects.filter(access.matches(), finished=True, second_of__deleted=None).exclude(second_of=None)
    mine = seconds.filter(Q(scorer=user) | Q(second_of__scorer=user)).select_related("second_of__athlete", "athlete")
    return [_compare(one, user.pk) for one in mine.order_by("-date")[:MOST_COMPARED] if one.second_of is not None]


def _compare(second: Match, user: int) -> Sequence[Judged]:
    first = second.second_of
    assert first is not None  # it is looked for by it
    own, other = (second, first) if second.scorer_id == user else (first, second)
    now = standing_of(own)
    return judged(compare(now.verdict, standing_of(other).verdict), Seen(now.log, now.verdict))
