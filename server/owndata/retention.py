"""How long a club keeps its clips: which ones are proposed for deletion, and when its head coaches are given notice."""

from __future__ import annotations

from datetime import date, timedelta

from dateutil.relativedelta import relativedelta  # type: ignore[import-untyped]
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from accounts.notices import tell
from clubs.models import Club, Role
from footage.models import Clip
from jobs.actions import enqueue, new_job

from .models import Clearing, KeptClip, Retention
from .tasks import CLEAR

NOTICE_EVERY = timedelta(days=30)
"""The head coaches are given notice of old clips at most so often."""


def months_of(club: Club) -> int | None:
    found = Retention.objects.filter(club=club).first()
    return None if found is None else found.months


def old_clips(club: Club, today: date | None = None) -> QuerySet[Clip]:
    """The clips that are older than the club wants to keep them, the oldest first; none where it keeps them all.

    A clip's age is counted from when it was filmed, or uploaded where that is not known.
    """
    months, today = months_of(club), today or timezone.localdate()
    if months is None:
        return Clip.objects.none()
    since = today - relativedelta(months=months)
    rows = Clip.objects.filter(club=club, script__isnull=True).exclude(state=Clip.State.UPLOADING)
    rows = rows.exclude(kept__until__gt=today)
    filmed = rows.filter(filmed__lt=since) | rows.filter(filmed=None, created__date__lt=since)
    return filmed.order_by("filmed", "created")


def keep_longer(club: Club, clips: QuerySet[Clip]) -> None:
    """Keep clips for as long again as the club keeps any."""
    until = timezone.localdate() + relativedelta(months=months_of(club) or 0)
    for clip in clips:
        KeptClip.objects.update_or_create(clip=clip, defaults={"until": until})


@transaction.atomic
def clear(club: Club, clips: QuerySet[Clip], asked_by: User) -> Clearing:
    """Have the worker delete clips. Logs, scores and written reports stay; clips cut from them go with them."""
    ids = [str(pk) for pk in clips.values_list("pk", flat=True)]
    made = Clearing.objects.create(club=club, asked_by=asked_by, clips=ids, job=new_job(asked_by.pk, CLEAR.name))
    assert made.job is not None  # as just made
    enqueue(made.job)
    return made


def give_notice(today: date | None = None) -> None:
    """Tell head coaches of clips that have become too old, now and then."""
    today = today or timezone.localdate()
    due = Retention.objects.exclude(months=None).exclude(told__gt=today - NOTICE_EVERY).select_related("club")
    for retention in due:
        old = old_clips(retention.club, today).count()
        if not old:
            continue
        clips = "1 clip is" if old == 1 else f"{old} clips are"
        about = f"{clips} older than {retention.club.name} wants to keep. Delete them, or keep them longer."
        heads = retention.club.memberships.filter(role=Role.HEAD_COACH).select_related("user")
        for head in heads:
            tell(head.user, "old_clips", "/club/data", about)
        retention.told = today
        retention.save(update_fields=["told"])
