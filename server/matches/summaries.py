"""What each match comes to, stored: lists, seasons and estimates read rows, and never score a log again.

A summary is of a revision of its match, and of the core that made it. Where either has gone on, the summary is made
again when it is next asked for, or by the worker within a minute.
"""

from __future__ import annotations

from collections.abc import Iterable
from itertools import groupby
from operator import attrgetter
from typing import Any

from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.db.models.signals import post_delete
from django.dispatch import receiver

from jurata_core import fingerprint
from jurata_core.adjudication import adjudicate
from jurata_core.faults import FaultyInput
from jurata_core.lessons import Lesson, added, lesson_of
from jurata_core.match_log import read_log
from jurata_core.review import Seen, errors

from .logs import log_of
from .models import CoachLesson, Match, Summary

MOST_AT_ONCE = 20
"""So many summaries at most are made again while somebody waits for a list; the worker makes the others."""
FIELDS = ["revision", "core", "observed", "winner", "method", "score", "because", "errors", "lesson"]


def stale(matches: QuerySet[Match]) -> QuerySet[Match]:
    """Those of some matches whose summary is missing, or older than the match or the core; the latest change first."""
    old = Q(summary=None) | ~Q(summary__core=fingerprint()) | ~Q(summary__revision=F("revision"))
    return matches.filter(old).order_by("-changed")


def freshen(matches: QuerySet[Match], most: int = MOST_AT_ONCE) -> int:
    """Make summaries again, as many as are said. How many were made."""
    asked = list(stale(matches)[:most])
    store(asked)
    return len(asked)


def store(matches: Iterable[Match]) -> list[Summary]:
    """Make and keep the summaries of some matches, and add what they teach to what their coaches know."""
    made = []
    for owner, together in groupby(sorted(matches, key=attrgetter("owner_id")), key=attrgetter("owner_id")):
        rows = [_summary(match) for match in together]
        with transaction.atomic():
            known = _known_by(owner)
            before = Summary.objects.filter(match__in=[row.match_id for row in rows], core=known.core)
            lesson: Lesson = known.lesson
            for old in before:
                lesson = added(lesson, old.lesson, -1)
            for row in rows:
                lesson = added(lesson, row.lesson)
            _keep(known, lesson)
            Summary.objects.bulk_create(rows, update_conflicts=True, unique_fields=["match"], update_fields=FIELDS)
        made += rows
    return made


def known_by(owner: int) -> CoachLesson:
    """What a coach's own matches teach, the ones that changed last among them."""
    freshen(Match.objects.filter(owner_id=owner))
    found = CoachLesson.objects.filter(owner_id=owner, core=fingerprint()).first()
    return found or CoachLesson(owner_id=owner, core=fingerprint())


def _known_by(owner: int) -> CoachLesson:
    """The row of a coach, locked; empty where another core has counted it."""
    CoachLesson.objects.bulk_create([CoachLesson(owner_id=owner, core=fingerprint())], ignore_conflicts=True)
    known = CoachLesson.objects.select_for_update().get(pk=owner)
    if known.core != fingerprint():
        known.core, known.lesson = fingerprint(), {}
    return known


def _keep(known: CoachLesson, lesson: Lesson) -> None:
    if lesson != known.lesson or known.version == 0:
        known.lesson = lesson
        known.version += 1
        known.save()


@receiver(post_delete, sender=Summary)
def _forget(instance: Summary, **_: Any) -> None:
    """A match that is deleted teaches nothing any more."""
    if not instance.lesson or instance.core != fingerprint():
        return
    owner = Match.with_deleted.filter(pk=instance.match_id).values_list("owner_id", flat=True).first()
    if owner is None or not CoachLesson.objects.filter(owner_id=owner).exists():
        return
    known = _known_by(owner)
    _keep(known, added(known.lesson, instance.lesson, -1))


def _summary(match: Match) -> Summary:
    revision = match.revision  # read before the log: what is logged meanwhile makes it older, and never too new
    log = read_log(log_of(match))
    verdict = adjudicate(log)
    try:
        found = {error.key: error.found.kind for error in errors(Seen(log, verdict))}
    except FaultyInput:  # the log is too long to be reviewed
        found = {}
    teaches = match.second_of_id is None and not match.practice
    return Summary(
        match=match,
        revision=revision,
        core=fingerprint(),
        observed=len(log.observations),
        winner=verdict.result.winner or "",
        method=verdict.result.method,
        score=verdict.summary()["score"],
        because=verdict.result.because if log.observations else "Nothing is scored yet.",
        errors=found,
        lesson=lesson_of(log, verdict) if teaches else {},
    )
