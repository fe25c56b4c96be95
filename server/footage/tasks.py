"""Preparing a clip: its frames, its pictures, and the copy of it that is played."""

from __future__ import annotations

import json
from collections.abc import Callable
from contextlib import ExitStack, suppress
from pathlib import Path
from typing import Any

from accounts.notices import tell
from jobs.models import Job
from jobs.queues import MEDIA
from jobs.running import Kind, NotMade, Reporter, Stopped, anyone, finishing, register

from .convert import WIDEST, WIDEST_AWAITED, Source, make_copy, make_pictures, make_proxy
from .files import in_making, open_private
from .models import Clip
from .probe import LONGEST_GAP, MOST_DECODED, MOST_PIXELS, Footage, Frames, frames_in, probe
from .store import at_hand, remove_files, send

LONGEST_S = 6 * 3600
"""The longest that the preparing of a clip may take: two hours of a large picture, on a slow machine."""
SAME_FRAME = 2
"""Milliseconds by which a frame of the copy may be off the original's."""


def _run(job: Job, reporter: Reporter) -> None:
    clip = Clip.objects.filter(job=job).first()
    if clip is None:
        raise Stopped
    try:
        with ExitStack() as making:
            names = ("poster.jpg", "strip.jpg", "proxy")
            poster, strip, copy = (making.enter_context(in_making(clip.beside(name))) for name in names)
            _prepare(clip, job, reporter, poster, strip, copy)
    finally:
        if not Clip.objects.filter(pk=clip.pk).exists():  # it was deleted meanwhile
            remove_files(clip.pk)


def clip_queued(job: Job) -> None:
    """A clip that failed is being worked on once more."""
    Clip.objects.filter(job=job, state=Clip.State.FAILED).update(state=Clip.State.CONVERTING)


def clip_given_up(job: Job) -> None:
    """The work on a clip has failed: without it the clip can't be played."""
    Clip.objects.filter(job=job, state=Clip.State.CONVERTING).update(state=Clip.State.FAILED)


PREPARE = register(Kind("prepare a clip", _run, LONGEST_S, anyone, MEDIA, queued=clip_queued, given_up=clip_given_up))


def _prepare(clip: Clip, job: Job, reporter: Reporter, poster: Path, strip: Path, copy: Path) -> None:
    footage = probe(at_hand(clip.path))
    clip.demuxer = footage.demuxer
    frames = keep_frames(clip, reporter.go_on)
    most = 300 * (clip.duration_ms or 0) / 1000 + 1000
    if len(frames.times) > most:
        raise NotMade(f"it has {len(frames.times)} frames, more than any camera takes in that time")
    make_pictures(source_of(clip), poster, strip, reporter.go_on)
    clip.played_as, clip.state = _copied(clip, copy, footage, frames, reporter), Clip.State.READY
    finished = [(poster, clip.beside("poster.jpg")), (strip, clip.beside("strip.jpg")), (copy, clip.copy)]
    for made, place in finished:
        send(made, place.name)
    with finishing(job):
        for made, place in finished:
            made.replace(place)
        clip.save(update_fields=["demuxer", "played_as", "state"])
        if clip.script is None:
            tell(clip.uploader, "clip_ready", "/", f"{clip.name} is ready to be played.")


def _copied(clip: Clip, partial: Path, footage: Footage, frames: Frames, reporter: Reporter) -> str:
    """Make the copy that is played; its content type. What plays and seeks well is copied without its tags only."""
    source = source_of(clip)
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
    """The frames of the original, kept with it: the times of a log are always its own."""
    frames = frames_in(at_hand(clip.path), demuxer_of(clip), go_on)
    place = clip.beside("frames.json")
    with in_making(place) as partial:
        with open_private(partial, "wb") as file:
            file.write(json.dumps(frames.times).encode())
        send(partial, place.name)
        partial.replace(place)
    return frames


def demuxer_of(clip: Clip) -> str:
    """The demuxer that a clip's file is opened with; looked up where the clip is older than that rule."""
    if not clip.demuxer:
        clip.demuxer = probe(at_hand(clip.path)).demuxer
        Clip.objects.filter(pk=clip.pk).update(demuxer=clip.demuxer)
    return clip.demuxer


def source_of(clip: Clip) -> Source:
    """How a clip's file is read, which is brought here first. Raises FileNotFoundError, and StorageAway."""
    path = at_hand(clip.path)
    return Source(path, demuxer_of(clip), clip.duration_ms or 0, (clip.width or 0) * (clip.height or 0))


def _check_times(original: Frames, copy: Frames) -> None:
    """Times must stay true to the original to the frame. Raises NotMade."""
    off = max((abs(t - other) for t, other in zip(original.times, copy.times, strict=False)), default=0)
    if len(original.times) != len(copy.times) or off > SAME_FRAME:
        raise NotMade(f"the copy has {len(copy.times)} frames of {len(original.times)}, up to {off} ms off")
