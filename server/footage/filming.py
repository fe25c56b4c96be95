"""Clips that the simulated camera films from a log: it stands in for a phone, in the practice and in the demo.

The worker films them. What was filmed once is kept, so that the next clip of the same log is there at once.
"""

from __future__ import annotations

import json
import zlib
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction

from jobs.actions import discard, enqueue, new_job
from jobs.models import Job
from jobs.queues import MEDIA
from jobs.running import Kind, NotMade, Reporter, Stopped, anyone, finishing, register
from jurata_core.match_log import read_log
from jurata_simulation.camera import FPS, PIXELS, Camera, render

from .actions import finish
from .files import clips_folder, make_private
from .models import Clip
from .tasks import clip_given_up, clip_queued

LONGEST_S = 30 * 60
"""The longest that the filming of a clip may take, on a slow machine."""


@transaction.atomic
def have_filmed(club: int, uploader: int, name: str, log: dict[str, Any]) -> Clip:
    """A clip that the worker will film from a match log. Until then it can't be played."""
    width, height = PIXELS
    job = new_job(uploader, FILM.name)
    clip = Clip.objects.create(
        club_id=club, uploader_id=uploader, name=name, size=0, script=log, state=Clip.State.CONVERTING, width=width,
        height=height, fps=FPS, duration_ms=Camera(read_log(log)).length, job=job,
    )  # fmt: skip
    enqueue(job)
    return clip


def film(log: dict[str, Any], path: Path, reporter: Reporter | None = None) -> None:
    """Film a log; the file appears under its name only when it is whole. Raises Stopped where it was cancelled."""

    def heard(share: float) -> None:
        if reporter is not None and not reporter(share):
            raise Stopped

    path.parent.mkdir(parents=True, exist_ok=True)
    partial = path.with_suffix(".part")
    try:
        render(read_log(log), partial, heard)
        partial.rename(path)
    finally:
        partial.unlink(missing_ok=True)


def kept(log: dict[str, Any]) -> Path:
    """Where the clip of a log is kept once it was filmed."""
    name = zlib.crc32(json.dumps(log, sort_keys=True).encode())
    return Path(settings.DATA) / "filmed" / f"{name:08x}.webm"


def _run(job: Job, reporter: Reporter) -> None:
    clip = Clip.objects.filter(job=job).first()
    if clip is None or clip.script is None:
        raise Stopped
    log: dict[str, Any] = clip.script
    path = kept(log)
    if not path.exists():
        try:
            film(log, path, reporter)
        except RuntimeError as error:
            raise NotMade(str(error)) from error
    with finishing(job):
        _take_in(clip, path)
    discard(job.pk)


def _take_in(clip: Clip, path: Path) -> None:
    """Go on with a clip that was filmed as with one that was uploaded."""
    clips_folder()
    partial = clip.beside("part")
    partial.unlink(missing_ok=True)
    partial.hardlink_to(path)
    make_private(partial)
    clip.size, clip.state, clip.job = path.stat().st_size, Clip.State.UPLOADING, None
    clip.save(update_fields=["size", "state", "job"])
    finish(clip)


FILM = register(
    Kind("film a clip", _run, LONGEST_S, anyone, MEDIA, priority=-1, queued=clip_queued, given_up=clip_given_up)
)
