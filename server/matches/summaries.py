"""What each match comes to, stored: lists, seasons and estimates read rows, and never score a log again.

A summary is of a revision of its match, and of the core that made it. Where either has gone on, the summary is made
again when it is next asked for, or by the worker within a minute.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from itertools import groupby
from operator import attrgetter
from typing import Any, NamedTuple

from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.db.models.signals import post_delete
from django.dispatch import receiver

from jurata_core import fingerprint
from jurata_core.adjudication import adjudicate
from jurata_core.faults import FaultyInput
from jurata_core.lessons import group_of, lesson_of
from jurata_core.match_log import MatchLog, read_log
from jurata_core.review import Error, Seen, Setting, errors
from jurata_core.season import mistakes_of
from jurata_core.season.figures import as_json, figures_of, tried_of
from jurata_core.season.mistakes import as_json as mistakes_json
from jurata_core.season.scorer import scoring_of, stored

from .club_lessons import learn, lesson_of_club, locked_lesson
from .logs import log_of, logs_read, ruleset_title
from .models import ClubLesson, Match, Summary

MOST_AT_ONCE = 20
"""So many summaries at most are made again while somebody waits for a list; the worker makes the others."""
FIELDS = [
    "revision",
    "core",
    "observed",
    "winner",
    "method",
    "score",
    "because",
    "outdated",
    "lesson",
    "group",
    "figures",
    "length_ms",
    "scoring",
    "tried",
    "mistakes",
    "costs",
]


def stale(matches: QuerySet[Match]) -> QuerySet[Match]:
    """Those of some matches whose summary is missing, or older than the match or the core; the latest change first."""
    old = Q(summary=None) | ~Q(summary__core=fingerprint()) | ~Q(summary__revision=F("revision"))
    old |= Q(summary__outdated=True)
    return matches.filter(old).select_related("athlete").order_by("-changed")


def freshen(matches: QuerySet[Match], most: int = MOST_AT_ONCE) -> int:
    """Make summaries again, as many as are said. How many were made."""
    asked = list(stale(matches)[:most])
    store(asked)
    return len(asked)


def store(matches: Iterable[Match]) -> list[Summary]:
    """Make and keep the summaries of some matches, and add what they teach to what their clubs know."""
    made = []
    club_of = attrgetter("athlete.club_id")
    for club, together in groupby(sorted(matches, key=club_of), key=club_of):
        settings = settings_of(club)
        of_club = list(together)
        with logs_read(of_club):
            rows = [_summary(match, settings) for match in of_club]
        with transaction.atomic():
            known = locked_lesson(club)
            learn(known, Summary.objects.filter(match__in=[row.match_id for row in rows], core=known.core), rows)
            Summary.objects.bulk_create(rows, update_conflicts=True, unique_fields=["match"], update_fields=FIELDS)
        made += rows
    return made


def known_by(club: int) -> ClubLesson:
    """What a club's own matches teach, the ones that changed last among them."""
    freshen(Match.objects.filter(athlete__club=club))
    return lesson_of_club(club)


@receiver(post_delete, sender=Summary)
def _forget(instance: Summary, **_: Any) -> None:
    """A match that is deleted teaches nothing any more."""
    if not (instance.lesson or instance.tried) or instance.core != fingerprint():
        return
    club = Match.with_deleted.filter(pk=instance.match_id).values_list("athlete__club", flat=True).first()
    if club is not None and ClubLesson.objects.filter(club=club).exists():
        learn(locked_lesson(club), [instance], [])


ReadSettings = Callable[[int], dict[str, Setting]]
_read_settings: list[ReadSettings] = []


def settings_come_from(read: ReadSettings) -> ReadSettings:
    """Say how the settings of a club are read; the app that keeps them does."""
    _read_settings[:] = [read]
    return read


def settings_of(club: int) -> dict[str, Setting]:
    """How a club wants kinds of errors to be looked for; kinds without a setting are looked for as the core does."""
    return _read_settings[0](club)


def outdate(club: int) -> None:
    """Have all summaries of a club made again, because its settings have changed."""
    Summary.objects.filter(match__athlete__club=club).update(outdated=True)


class Scored(NamedTuple):
    """A match as its log stands, from the side of the athlete, with the errors that its club looks for."""

    log: MatchLog
    seen: Seen
    errors: list[Error]


def scored(match: Match, settings: Mapping[str, Setting]) -> Scored:
    """Score a match; one that is too long to be reviewed has no errors."""
    log = read_log(log_of(match))
    seen = Seen(log, adjudicate(log))
    try:
        return Scored(log, seen, errors(seen, settings))
    except FaultyInput:
        return Scored(log, seen, [])


def _summary(match: Match, settings: Mapping[str, Setting]) -> Summary:
    revision = match.revision  # read before the log: what is logged meanwhile makes it older, and never too new
    log, seen, found = scored(match, settings)
    verdict = seen.verdict
    teaches = match.second_of_id is None and not match.practice
    mistakes = mistakes_of(seen, found) if teaches else ()
    figures = figures_of(seen)
    return Summary(
        match=match,
        revision=revision,
        core=fingerprint(),
        observed=len(log.observations),
        winner=verdict.result.winner or "",
        method=verdict.result.method,
        score=verdict.summary()["score"],
        because=verdict.result.because if log.observations else "Nothing is scored yet.",
        outdated=False,
        lesson=lesson_of(log, verdict) if teaches else {},
        group=list(group_of(log, ruleset_title(match.ruleset))),
        figures=as_json(figures) if log.observations else {},
        length_ms=figures.length,
        scoring=stored(scoring_of(seen)) if not match.practice else [],
        tried=tried_of(figures) if teaches else {},
        mistakes=mistakes_json(mistakes),
        costs=None if mistakes else {},
    )
