"""Work for the background worker. The queue lives in PostgreSQL; workers may run on any machine that sees it.

manage.py procrastinate worker

Work that was cut off is taken up again: at a stop of the worker its job goes back into the queue, and after a crash the
job is found by the worker's heartbeat. Every task can be run again from its beginning.
"""

from __future__ import annotations

import json
import logging
import time
import uuid
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from django.db import close_old_connections, transaction
from django.db.models import QuerySet
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.exceptions import JobAborted

from config.errors import Refused

from .convert import WIDEST, WIDEST_AWAITED, Source, make_copy, make_pictures, make_proxy
from .files import open_private, remove_files
from .models import Clip
from .probe import LONGEST_GAP, MOST_DECODED, MOST_PIXELS, Footage, Frames, frames_in, probe
from .tools import NotMade, Stopped

log = logging.getLogger(__name__)

TELL_EVERY = 0.5
"""Seconds between two reports of progress."""
SAME_FRAME = 2
"""Milliseconds by which a frame of the copy may be off the original's."""
MOST_TRIES = 5
"""So often a job that was cut off is begun again: one that ends its worker each time must not go on for ever."""
AGAIN = RetryStrategy(max_attempts=MOST_TRIES, retry_exceptions={JobAborted})
UNDER_WAY = (Clip.Work.WAITING, Clip.Work.WORKING)
BROKEN = "Something went wrong here that should not have. The server's log says more; ask for it again."


@app.task(queue="footage", pass_context=True, retry=AGAIN)
def prepare(context: JobContext, clip: str) -> None:
    close_old_connections()  # the database may have been started again meanwhile
    prepare_clip(clip, context.should_abort)


def prepare_clip(clip: str, ending: Callable[[], bool] = lambda: False) -> None:
    """Look up a clip's frames, make its pictures, and the copy that is played.

    ``ending`` says whether the worker is about to end; then the work is left for the next one by JobAborted.
    """
    rows = Clip.objects.filter(pk=clip, work__in=UNDER_WAY)
    if not rows.update(work=Clip.Work.WORKING, progress=0, trouble=""):
        return  # cancelled, done already, or gone
    found = rows.get()
    trouble = work_on(rows, ending, lambda reporter: _prepare(found, reporter))
    if trouble:
        rows.filter(state=Clip.State.CONVERTING).update(state=Clip.State.FAILED)
        rows.update(work=Clip.Work.FAILED, trouble=trouble)
    for partial in ("proxy.part", "poster.part", "strip.part"):
        found.beside(partial).unlink(missing_ok=True)
    if not Clip.objects.filter(pk=clip).exists():
        remove_files(clip)


def work_on(rows: QuerySet[Any], ending: Callable[[], bool], work: Callable[[Reporter], None]) -> str:
    """Do a piece of work on a row; why it failed, or "" where it did not, or was cancelled.

    Raises JobAborted where the worker ends: the row waits for the next one.
    """
    try:
        work(Reporter(rows, ending))
    except Stopped:
        if ending() and rows.update(work=Clip.Work.WAITING):
            raise JobAborted from None
    except Refused as error:
        return str(error.detail)
    except (NotMade, OSError) as error:
        return str(error)
    except Exception:
        log.exception("The worker failed at %s", rows.model.__name__)
        return BROKEN
    return ""


def _prepare(clip: Clip, reporter: Reporter) -> None:
    footage = probe(clip.path)
    clip.demuxer = footage.demuxer
    frames = keep_frames(clip, reporter.go_on)
    most = 300 * (clip.duration_ms or 0) / 1000 + 1000
    if len(frames.times) > most:
        raise NotMade(f"it has {len(frames.times)} frames, more than any camera takes in that time")
    pictures = {name: (clip.beside(f"{name}.part"), clip.beside(f"{name}.jpg")) for name in ("poster", "strip")}
    (poster, _), (strip, _) = pictures.values()
    make_pictures(source_of(clip), poster, strip, reporter.go_on)
    partial = clip.beside("proxy.part")
    played_as = _copied(clip, footage, frames, reporter)
    with transaction.atomic():
        row = Clip.objects.select_for_update().filter(pk=clip.pk, work=Clip.Work.WORKING).first()
        if row is None:
            raise Stopped
        row.demuxer, row.played_as = clip.demuxer, played_as
        row.state, row.work, row.progress = Clip.State.READY, Clip.Work.DONE, 1
        for made, place in [*pictures.values(), (partial, row.copy)]:
            made.replace(place)
        row.save(update_fields=["demuxer", "played_as", "state", "work", "progress"])


def _copied(clip: Clip, footage: Footage, frames: Frames, reporter: Reporter) -> str:
    """Make the copy that is played; its content type. What plays and seeks well is copied without its tags only."""
    partial, source = clip.beside("proxy.part"), source_of(clip)
    if footage.playable and _seeks_well(clip, frames):
        with suppress(NotMade):  # some recordings can't be put into a new container frame by frame
            make_copy(source, partial, footage.content_type, reporter)
            _check_times(frames, _frames_of_copy(partial, footage.content_type, reporter))
            return footage.content_type
    widest = WIDEST if footage.playable else WIDEST_AWAITED
    make_proxy(source, partial, widest, reporter)
    _check_times(frames, _frames_of_copy(partial, "video/mp4", reporter))
    return "video/mp4"


def _frames_of_copy(path: Any, content_type: str, reporter: Reporter) -> Frames:
    return frames_in(path, "mov" if content_type == "video/mp4" else "matroska", reporter.go_on)


def _seeks_well(clip: Clip, frames: Frames) -> bool:
    pixels = (clip.width or 0) * (clip.height or 0)
    decoded = pixels * frames.longest_run
    return pixels <= MOST_PIXELS and frames.longest_gap <= LONGEST_GAP and decoded <= MOST_DECODED


def keep_frames(clip: Clip, go_on: Callable[[], bool] = lambda: True) -> Frames:
    """The frames of the original, kept beside it: the times of a log are always its own."""
    frames = frames_in(clip.path, demuxer_of(clip), go_on)
    partial = clip.beside(f"{uuid.uuid4()}.part")
    with open_private(partial, "wb") as file:
        file.write(json.dumps(frames.times).encode())
    partial.replace(clip.beside("frames.json"))
    return frames


def demuxer_of(clip: Clip) -> str:
    """The demuxer that a clip's file is opened with; looked up where the clip is older than that rule."""
    if not clip.demuxer:
        clip.demuxer = probe(clip.path).demuxer
        Clip.objects.filter(pk=clip.pk).update(demuxer=clip.demuxer)
    return clip.demuxer


def source_of(clip: Clip) -> Source:
    """How a clip's file is read."""
    return Source(clip.path, demuxer_of(clip), clip.duration_ms or 0, (clip.width or 0) * (clip.height or 0))


def _check_times(original: Frames, copy: Frames) -> None:
    """Times must stay true to the original to the frame. Raises NotMade."""
    off = max((abs(t - other) for t, other in zip(original.times, copy.times, strict=False)), default=0)
    if len(original.times) != len(copy.times) or off > SAME_FRAME:
        raise NotMade(f"the copy has {len(copy.times)} frames of {len(original.times)}, up to {off} ms off")


class Reporter:
    """Writes progress down now and then; says to stop when none of the rows is being worked on, or the worker ends."""

    def __init__(self, rows: QuerySet[Any], ending: Callable[[], bool] = lambda: False) -> None:
        self.working = rows.filter(work=Clip.Work.WORKING)
        self.ending = ending
        self.reported_at = self.share = 0.0

    def __call__(self, share: float) -> bool:
        now, self.share = time.monotonic(), share
        if now - self.reported_at < TELL_EVERY:
            return True
        self.reported_at = now
        return not self.ending() and bool(self.working.update(progress=share))

    def go_on(self) -> bool:
        """Whether to go on with work that has no progress to tell."""
        return self(self.share)
