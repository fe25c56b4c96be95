"""Work for the background worker: cutting clips. Same queue and worker as the footage."""

from __future__ import annotations

from collections.abc import Callable

from django.db import close_old_connections, transaction
from procrastinate import JobContext
from procrastinate.contrib.django import app

from footage.files import remove_files
from footage.models import Clip
from footage.tasks import AGAIN, UNDER_WAY, Reporter, source_of, work_on
from footage.tools import Stopped
from footage.upkeep import give_up

from .cuts import cut
from .models import Cut


@app.task(queue="footage", pass_context=True, retry=AGAIN)
def make_cut(context: JobContext, pk: str) -> None:
    close_old_connections()  # the database may have been started again meanwhile
    cut_clip(pk, context.should_abort)


def cut_clip(pk: str, ending: Callable[[], bool] = lambda: False) -> None:
    """Cut one clip. What was cancelled, or is gone, is left alone; ``ending`` as in preparing a clip."""
    rows = Cut.objects.filter(pk=pk, work__in=UNDER_WAY)
    if not rows.update(work=Clip.Work.WORKING, progress=0, trouble=""):
        return
    found = rows.select_related("clip").get()
    trouble = work_on(rows, ending, lambda reporter: _cut(found, reporter))
    if trouble:
        rows.update(work=Clip.Work.FAILED, trouble=trouble)
    found.partial.unlink(missing_ok=True)
    if not Cut.objects.filter(pk=pk).exists():
        remove_files(pk)


def _cut(row: Cut, reporter: Reporter) -> None:
    cut(source_of(row.clip), row.partial, row.start_ms, row.end_ms, row.style, row.captions, reporter)
    with transaction.atomic():
        if not Cut.objects.select_for_update().filter(pk=row.pk, work=Clip.Work.WORKING).exists():
            raise Stopped
        row.partial.replace(row.path)
        Cut.objects.filter(pk=row.pk).update(work=Clip.Work.DONE, progress=1)


@app.periodic(cron="* * * * *")
@app.task(queue="footage", queueing_lock="reviews.upkeep")
def upkeep(timestamp: int) -> None:
    """Every minute: say of cuts whose job has ended without them that it did."""
    give_up(Cut.objects.all())
