"""A day of fights as it is shown: what is announced, what has come in, and what is known from before."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from typing import Any

from django.db.models import Q, QuerySet

from clubs.access import Access
from jurata_core.season import Played
from jurata_core.season.day import met, met_json, things_of
from matches.logs import ruleset_title
from matches.models import Match
from matches.serializers import shown_parts
from matches.summaries import freshen
from seasons.queries import counted_matches, played_in

from .actions import division_of
from .models import EventDay, Fight


def days_json(days: QuerySet[EventDay]) -> list[dict[str, Any]]:
    """The days of a club, the latest first."""
    return [{"id": one.pk, "name": one.name, "date": one.date, "ruleset": one.ruleset} for one in days]


def day_json(day: EventDay, access: Access) -> dict[str, Any]:
    """One day, as the coach who asks may see it."""
    rows = day.fights.filter(access.athletes("athlete"))
    fights = list(rows.select_related("athlete", "day"))
    known = _known(fights, access)
    return {
        "id": day.pk,
        "name": day.name,
        "date": day.date,
        "ruleset": day.ruleset,
        "ruleset_title": ruleset_title(day.ruleset),
        "fights": [_fight(one, known) for one in fights],
        "played": [_shown(match) for match in known.matches.values()],
    }


class _Known:
    """The matches that say something of the fights of a day: of its athletes, and against its opponents."""

    def __init__(self, matches: Iterable[Match]) -> None:
        rows = list(matches)
        self.matches = {str(match.pk): match for match in rows}
        self.against: dict[str, list[tuple[str, Played]]] = defaultdict(list)
        self.of: dict[int, list[Played]] = defaultdict(list)
        for match, played in zip(rows, played_in(rows), strict=True):
            if played.figures.length > 0:
                self.against[match.opponent.casefold()].append((match.athlete.name, played))
                self.of[match.athlete_id].append(played)


def _known(fights: list[Fight], access: Access) -> _Known:
    wanted = Q(athlete__in={one.athlete_id for one in fights})
    for opponent in {one.opponent for one in fights if one.opponent}:
        wanted |= Q(opponent__iexact=opponent)
    rows = counted_matches(access).filter(wanted) if fights else Match.objects.none()
    freshen(rows)
    rows = rows.select_related("summary", "athlete", "clip__job").prefetch_related("further__clip__job")
    return _Known(rows.order_by("-date", "-created"))


def _fight(one: Fight, known: _Known) -> dict[str, Any]:
    own = None if one.match_id is None else str(one.match_id)
    match = known.matches.get(own or "")
    before = [played for played in known.of[one.athlete_id] if played.match != own]
    against = [row for row in known.against.get(one.opponent.casefold(), []) if row[1].match != own]
    division = division_of(one)
    last = before[0] if before else None
    return {
        "id": one.pk,
        "athlete": {"id": one.athlete_id, "name": one.athlete.name, "belt": one.athlete.belt},
        **{name: getattr(one, name) for name in ("opponent", "club", "time", "mat", "round", "weight_class", "attire")},
        "ruleset": one.rules,
        "ruleset_title": ruleset_title(one.rules),
        "age": division.age,
        "match": own,
        "clip": match is not None and match.clip_id is not None,
        "state": _state(match),
        "last": last and last.match,
        "things": [
            {"name": thing.name, "moment": thing.moment.as_json()} for thing in (things_of(last) if last else [])
        ],
        "met": met_json(met(against)) if against else None,
    }


def _state(match: Match | None) -> dict[str, Any] | None:
    """What a match has come to so far; None before anything is logged."""
    summary = None if match is None else getattr(match, "summary", None)
    if summary is None or not summary.observed:
        return None
    return {"score": summary.score, "method": summary.method, "winner": summary.winner, "because": summary.because}


def _shown(match: Match) -> dict[str, Any]:
    """What is needed to play moments of a match."""
    return {"id": match.pk, "opponent": match.opponent, "date": match.date, "parts": shown_parts(match)}
