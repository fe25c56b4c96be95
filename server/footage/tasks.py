"""Work for the background worker. The queue lives in PostgreSQL; workers may run on any machine that sees it.

manage.py procrastinate worker
"""

from __future__ import annotations

import json
import time
import uuid
from typing import Any

from django.db.models import QuerySet
from procrastinate.contrib.django import app

from .convert import WIDEST, WIDEST_AWAITED, NotMade, Stopped, make_pictures, make_proxy
from .models import Clip
from .probe import LONGEST_GAP, MOST_DECODED, MOST_PIXELS, Frames, frames_in, probe

TELL_EVERY = 0.5
"""Seconds between two reports of progress."""
SAME_FRAME = 2
"""Milliseconds by which a frame of the copy may be off the original's."""


@app.task(queue="footage")
def prepare(clip: str) -> None:
    """Look up a clip's frames, make its pictures, and a copy where it does not play or seeks badly."""
    found = Clip.objects.filter(pk=clip).first()
    if found is None or found.work == Clip.Work.CANCELLED:
        return
    found.work, found.progress, found.trouble = Clip.Work.WORKING, 0, ""
    found.save(update_fields=["work", "progress", "trouble"])
    try:
        _prepare(found)
    except Stopped:
        return  # whoever cancelled it has said so in the clip
    except (NotMade, OSError) as error:
        found.work, found.trouble = Clip.Work.FAILED, str(error)
        if found.state == Clip.State.CONVERTING:
            found.state = Clip.State.FAILED
        found.save(update_fields=["work", "trouble", "state"])
    finally:
        found.beside("proxy.part").unlink(missing_ok=True)


def _prepare(clip: Clip) -> None:
    frames = keep_frames(clip)
    make_pictures(clip.path, clip.beside("poster.jpg"), clip.beside("strip.jpg"), clip.duration_ms or 0)
    playable = probe(clip.path).playable
    if not playable or not _seeks_well(clip, frames):
        partial = clip.beside("proxy.part")
        reporter = Reporter(Clip.objects.filter(pk=clip.pk, work=Clip.Work.WORKING))
        make_proxy(clip.path, partial, clip.duration_ms or 0, WIDEST if playable else WIDEST_AWAITED, reporter)
        _check_times(frames, frames_in(partial))
        partial.replace(clip.beside("proxy.mp4"))
        clip.proxied = True
    clip.state, clip.work, clip.progress = Clip.State.READY, Clip.Work.DONE, 1
    if Clip.objects.filter(pk=clip.pk).exclude(work=Clip.Work.CANCELLED).exists():
        clip.save(update_fields=["state", "work", "progress", "proxied"])


def _seeks_well(clip: Clip, frames: Frames) -> bool:
    pixels = (clip.width or 0) * (clip.height or 0)
    decoded = pixels * frames.longest_run
    return pixels <= MOST_PIXELS and frames.longest_gap <= LONGEST_GAP and decoded <= MOST_DECODED


def keep_frames(clip: Clip) -> Frames:
    """The frames of the original, kept beside it: the times of a log are always its own."""
    frames = frames_in(clip.path)
    partial = clip.beside(f"{uuid.uuid4()}.part")
    partial.write_text(json.dumps(frames.times))
    partial.replace(clip.beside("frames.json"))
    return frames


def _check_times(original: Frames, copy: Frames) -> None:
    """Times must stay true to the original to the frame. Raises NotMade."""
    off = max((abs(t - other) for t, other in zip(original.times, copy.times, strict=False)), default=0)
    if len(original.times) != len(copy.times) or off > SAME_FRAME:
        raise NotMade(f"the copy has {len(copy.times)} frames of {len(original.times)}, up to {off} ms off")


class Reporter:
    """Writes progress down now and then; says to stop when none of the rows is being worked on any more."""

    def __init__(self, working: QuerySet[Any]) -> None:
        self.working = working
        self.told = 0.0

    def __call__(self, share: float) -> bool:
        now = time.monotonic()
        if now - self.told < TELL_EVERY:
            return True
        self.told = now
        return bool(self.working.update(progress=share))
