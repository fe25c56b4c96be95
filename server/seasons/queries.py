"""Seasons out of what is stored with each match: no log is scored again for them."""

from __future__ import annotations

import datetime
from collections import defaultdict
from collections.abc import Iterable
from typing import Any

from django.core.cache import cache
from django.db.models import QuerySet

from clubs.access import Access
from jurata_core import fingerprint
from jurata_core.season import MOVES, AthleteSeason, Move, Played, Spread, season_of, spread_of
from jurata_core.season.athlete import as_json
from jurata_core.season.figures import from_json
from matches.logs import ruleset_title, with_outside_names
from matches.models import Match, Summary
from matches.queries import own_matches
from matches.serializers import shown_parts
from matches.summaries import freshen, known_by
from roster.models import Athlete

SPREADS_KEPT_S = 24 * 3600


def season_json(access: Access, athlete: Athlete, split: datetime.date | None) -> dict[str, Any]:
    """The season of an athlete as a page shows it, with the matches that its moments are in."""
    matches = _matches(access, athlete)
    played = [_played(match) for match in matches]
    season = season_of(played, spreads_of(athlete.club_id), split)
    return _json(athlete, [_shown(match) for match in matches], played, season)


def own_season_json(access: Access, athlete: Athlete, split: datetime.date | None) -> dict[str, Any]:
    """The same for the athlete and the guardians: without footage, and with the errors of what was sent to them."""
    matches = _matches(access, athlete)
    played = {match.pk: _played(match) for match in matches}
    sent = [played[match.pk] for match in matches if _sent(match)]
    shown = [{**_shown(with_outside_names(match)), "parts": []} for match in matches]
    # Errors are looked for among what was sent alone: other matches would look as if there were none in them.
    about = season_of(sent, {}, split)
    season = season_of(played.values(), spreads_of(athlete.club_id), split)
    return _json(athlete, shown, list(played.values()), season._replace(errors=about.errors, split=about.split))


def _matches(access: Access, athlete: Athlete) -> list[Match]:
    rows = own_matches(access).filter(athlete=athlete, second_of=None, practice=False)
    freshen(rows)
    return list(
        rows.select_related("summary", "report", "athlete__club", "clip__job").prefetch_related("further__clip__job")
    )


def _sent(match: Match) -> bool:
    report = getattr(match, "report", None)
    return report is not None and report.sent is not None


def _json(athlete: Athlete, shown: list[dict[str, Any]], played: list[Played], season: AthleteSeason) -> dict[str, Any]:
    return {
        "athlete": {"id": athlete.pk, "name": athlete.name, "belt": athlete.belt},
        "played": [{**row, "result": one.result} for row, one in zip(shown, played, strict=True)],
        "season": as_json(season),
    }


def _played(match: Match) -> Played:
    summary: Summary | None = getattr(match, "summary", None)
    figures = from_json({} if summary is None else summary.figures)
    method = "" if summary is None else summary.method
    return Played(str(match.pk), match.date, _result(summary), method, ruleset_title(match.ruleset), figures)


def _result(summary: Summary | None) -> str:
    """How the match came out for the athlete; empty where it has no end yet."""
    if summary is None or summary.method == "unfinished":
        return ""
    return {"a": "won", "b": "lost"}.get(summary.winner, "drawn")


def _shown(match: Match) -> dict[str, Any]:
    summary: Summary | None = getattr(match, "summary", None)
    return {
        "id": match.pk,
        "opponent": match.opponent,
        "event": match.event,
        "date": match.date,
        "belt": match.belt,
        "ruleset": ruleset_title(match.ruleset),
        "score": None if summary is None or not summary.observed else summary.score,
        "method": "" if summary is None else summary.method,
        "parts": shown_parts(match),
    }


def spreads_of(club: int) -> dict[Move, Spread]:
    """How the shares of a club's athletes are spread, by move; kept until its matches teach something else."""
    key = f"spreads-{club}-{fingerprint()}-{known_by(club).version}"
    kept: dict[Move, Spread] | None = cache.get(key)
    if kept is None:
        rows = Summary.objects.filter(match__athlete__club=club, match__deleted=None).exclude(tried={})
        kept = _spreads(rows)
        cache.set(key, kept, SPREADS_KEPT_S)
    return kept


def _spreads(rows: QuerySet[Summary]) -> dict[Move, Spread]:
    found: dict[Move, dict[int, tuple[int, int]]] = {move: defaultdict(lambda: (0, 0)) for move in MOVES}
    for athlete, tried in rows.values_list("match__athlete", "tried"):
        for move, (done, of) in _known(tried):
            before = found[move][athlete]
            found[move][athlete] = (before[0] + done, before[1] + of)
    return {move: spread_of(list(shares.values())) for move, shares in found.items()}


def _known(tried: dict[str, tuple[int, int]]) -> Iterable[tuple[Move, tuple[int, int]]]:
    for move in MOVES:
        if move in tried:
            yield move, tried[move]
