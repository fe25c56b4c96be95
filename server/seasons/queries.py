"""Seasons out of what is stored with each match: no log is scored again for them."""

from __future__ import annotations

import datetime
import uuid
from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import Any, NamedTuple

from django.db.models import QuerySet

from clubs.access import Access
from jurata_core import fingerprint
from jurata_core.review import OWN
from jurata_core.review.errors import LEAD_IN, LEAD_OUT
from jurata_core.season import (
    MOVES,
    AthleteSeason,
    Counted,
    Mistake,
    Move,
    Played,
    Spread,
    counted,
    season_of,
    spread_of,
)
from jurata_core.season.athlete import as_json, result_of
from jurata_core.season.figures import from_json
from jurata_core.season.mistakes import Said, costs_from_json
from jurata_core.season.mistakes import from_json as mistakes_from_json
from matches.logs import ruleset_title, with_outside_names
from matches.models import ClubLesson, Match, Summary
from matches.queries import own_matches
from matches.serializers import shown_parts
from matches.summaries import freshen, known_by
from reviews.models import Remark
from reviews.queries import decision_of
from roster.models import Athlete


def season_json(access: Access, athlete: Athlete, split: datetime.date | None) -> dict[str, Any]:
    """The season of an athlete as a page shows it, with the matches that its moments are in."""
    matches = _matches(access, athlete)
    played = played_in(matches)
    season = season_of(played, spreads_of(athlete.club_id), split)
    return _json(athlete, matches, [_shown(match) for match in matches], played, season)


def own_season_json(access: Access, athlete: Athlete, split: datetime.date | None) -> dict[str, Any]:
    """The same for the athlete and the guardians: without footage, and with the errors of what was sent to them."""
    matches = _matches(access, athlete)
    played = played_in(matches, accepted_only=True)
    sent = [one for one, match in zip(played, matches, strict=True) if _sent(match)]
    shown = [{**_shown(with_outside_names(match)), "parts": []} for match in matches]
    # Errors are looked for among what was sent alone: other matches would look as if there were none in them.
    about = season_of(sent, {}, split)
    season = season_of(played, spreads_of(athlete.club_id), split)
    return _json(athlete, matches, shown, played, season._replace(coming_back=about.coming_back, split=about.split))


def season_of_athlete(access: Access, athlete: Athlete, split: datetime.date | None) -> AthleteSeason:
    """The season of an athlete as a coach may see it."""
    return season_of(played_of(access, athlete), spreads_of(athlete.club_id), split)


def played_of(access: Access, athlete: Athlete) -> list[Played]:
    """The matches of an athlete that somebody has a right for."""
    return played_in(_matches(access, athlete))


def counted_matches(access: Access) -> QuerySet[Match]:
    """The matches that count in a season, of those that somebody has a right for."""
    return own_matches(access).filter(second_of=None, practice=False)


def _matches(access: Access, athlete: Athlete) -> list[Match]:
    rows = counted_matches(access).filter(athlete=athlete)
    freshen(rows)
    return list(
        rows.select_related("summary", "report", "athlete__club", "clip__job").prefetch_related("further__clip__job")
    )


def _sent(match: Match) -> bool:
    report = getattr(match, "report", None)
    return report is not None and report.sent is not None


def _json(
    athlete: Athlete, matches: list[Match], shown: list[dict[str, Any]], played: list[Played], season: AthleteSeason
) -> dict[str, Any]:
    return {
        "athlete": {"id": athlete.pk, "name": athlete.name, "belt": athlete.belt},
        "waiting": sum(not _known(match) for match in matches),
        "played": [{**row, "result": one.result} for row, one in zip(shown, played, strict=True)],
        "season": as_json(season),
    }


def played_in(matches: Sequence[Match], accepted_only: bool = False) -> list[Played]:
    """Matches as the core reads a season, with their errors as the coaches see them, or as an athlete does: those alone
    that a coach has accepted."""
    decided = decisions(Remark.objects.filter(match__in=[match.pk for match in matches]))
    return [_played(match, decided.get(match.pk, Decided({}, [])), accepted_only) for match in matches]


class Decided(NamedTuple):
    """What coaches made of the errors of a match, and the errors that they added."""

    said: dict[str, Said]
    own: list[Mistake]


def decisions(remarks: QuerySet[Remark]) -> dict[uuid.UUID, Decided]:
    """What coaches decided, by match."""
    found: dict[uuid.UUID, Decided] = {}
    for one in remarks:
        of = found.setdefault(one.match_id, Decided({}, []))
        of.said[one.key] = Said(decision_of(one), tuple(one.causes))
        if one.own:
            shown = (max(0, one.since_ms - LEAD_IN), one.t_ms + LEAD_OUT)
            of.own.append(
                Mistake(
                    one.key, OWN, one.title, one.t_ms, *shown, "", one.points, one.advantages, tuple(one.causes), ""
                )
            )
    return found


def _played(match: Match, decided: Decided, accepted_only: bool) -> Played:
    summary = match.summary if _known(match) else None
    counts: tuple[Counted, ...] = ()
    if summary is not None:
        found = mistakes_from_json(summary.mistakes)
        if accepted_only:
            found = tuple(one for one in found if one.key in decided.said and decided.said[one.key].decision.accepted)
        errors = [*found, *decided.own]
        counts = counted(errors, costs_from_json(summary.costs), decided.said)
    winner, method = ("", "unfinished") if summary is None else (summary.winner, summary.method)
    return Played(
        str(match.pk), match.date, result_of(winner, method), method,
        ruleset_title(match.ruleset), from_json({} if summary is None else summary.figures), counts,
    )  # fmt: skip


def _known(match: Match) -> bool:
    """Whether what the match comes to has been worked out by the core as it is now."""
    summary: Summary | None = getattr(match, "summary", None)
    return summary is not None and summary.core == fingerprint()


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
    """How the shares of a club's athletes are spread, by move; kept until something else was tried."""
    known = known_by(club)
    if known.spreads is None:
        rows = Summary.objects.filter(match__athlete__club=club, match__deleted=None).exclude(tried={})
        known.spreads = _spreads(rows)
        ClubLesson.objects.filter(club=club, version=known.version).update(spreads=known.spreads)
    return {move: Spread(*known.spreads[move]) for move in MOVES}


def _spreads(rows: QuerySet[Summary]) -> dict[Move, Spread]:
    found: dict[Move, dict[int, tuple[int, int]]] = {move: defaultdict(lambda: (0, 0)) for move in MOVES}
    for athlete, tried in rows.values_list("match__athlete", "tried"):
        for move, (done, of) in _shares(tried):
            before = found[move][athlete]
            found[move][athlete] = (before[0] + done, before[1] + of)
    return {move: spread_of(list(shares.values())) for move, shares in found.items()}


def _shares(tried: dict[str, tuple[int, int]]) -> Iterable[tuple[Move, tuple[int, int]]]:
    for move in MOVES:
        if move in tried:
            yield move, tried[move]
