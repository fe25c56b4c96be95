"""Cutting the clip of an error, by the background worker."""

from __future__ import annotations

from clubs.access import Access, Right
from footage.files import in_making
from footage.store import remove_files, send
from footage.tasks import source_of
from jobs.models import Job
from jobs.queues import MEDIA
from jobs.running import Kind, Reporter, Stopped, finishing, register
from matches.models import Match

from .cuts import cut
from .models import Cut

LONGEST_S = 3600


def _run(job: Job, reporter: Reporter) -> None:
    row = Cut.objects.filter(job=job).select_related("clip").first()
    if row is None:
        raise Stopped
    try:
        with in_making(row.path) as partial:
            cut(source_of(row.clip), partial, row.start_ms, row.end_ms, row.style, row.captions, reporter)
            send(partial, row.path.name)
            with finishing(job):
                partial.replace(row.path)
    finally:
        if not Cut.objects.filter(pk=row.pk).exists():  # it was deleted meanwhile
            remove_files(row.pk)


def _allowed(job: Job) -> bool:
    """Whether who asked for a cut may still review its match."""
    reviewed = Match.objects.filter(Access(job.owner_id, Right.REVIEW).matches())
    return not Cut.objects.filter(job=job).exclude(match__in=reviewed.values("pk")).exists()


CUT_OUT = register(Kind("cut a clip", _run, LONGEST_S, _allowed, MEDIA))
