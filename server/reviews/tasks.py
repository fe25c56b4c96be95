"""Work for the background worker: cutting clips. Same queue and worker as the footage."""

from __future__ import annotations

from procrastinate.contrib.django import app

from footage.convert import NotMade, Stopped
from footage.models import Clip
from footage.tasks import Reporter

from .cuts import cut
from .models import Cut


@app.task(queue="footage")
def make_cut(pk: str) -> None:
    """Cut one clip. What was cancelled, or is gone, is left alone."""
    found = Cut.objects.filter(pk=pk, work=Clip.Work.WAITING).select_related("clip").first()
    if found is None:
        return
    working = Cut.objects.filter(pk=found.pk, work=Clip.Work.WORKING)
    found.work, found.progress, found.trouble = Clip.Work.WORKING, 0, ""
    found.save(update_fields=["work", "progress", "trouble"])
    partial = found.path.with_suffix(".part")
    try:
        reporter = Reporter(working)
        cut(found.clip.path, partial, found.start_ms, found.end_ms, found.style, found.captions, reporter)
        if working.exists():
            partial.replace(found.path)
            working.update(work=Clip.Work.DONE, progress=1)
    except Stopped:
        return  # whoever cancelled it has said so
    except (NotMade, OSError) as error:
        Cut.objects.filter(pk=found.pk).update(work=Clip.Work.FAILED, trouble=str(error))
    finally:
        partial.unlink(missing_ok=True)
