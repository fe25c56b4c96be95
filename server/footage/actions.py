"""What can be done with clips: announce, take in piece by piece, prepare, throw away."""

from __future__ import annotations

import fcntl
import json
import shutil
import uuid
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from typing import BinaryIO

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from config.refusals import Clash, NoRoom, NotNow, Occupied, Refused, TooLarge
from jobs.actions import enqueue, new_job, retry

from .files import clips_folder, open_private
from .models import Clip
from .probe import probe
from .store import at_hand, send
from .tasks import PREPARE, keep_frames
from .tools import TookTooLong

CHUNK = 1024 * 1024
SPARE = 256 * 1024 * 1024
"""Bytes of disk that an upload must leave free."""
ENDINGS = (".mp4", ".m4v", ".mov", ".webm", ".mkv", ".avi", ".mts", ".m2ts", ".3gp", ".mpg", ".ts")
MOST_UNFINISHED = 20
"""So many uploads somebody may have begun at a time."""
KEEPS_ROOM = timedelta(minutes=30)
"""An upload keeps room for itself as long as something of it came within that time, or it was announced within it."""
SHARE = 4
"""What somebody's uploads keep room for is at most one part of so many of the room there is, or one clip."""
ABANDONED = timedelta(days=3)
"""An upload that nobody went on with for so long is thrown away."""


def announce(club: int, uploader: int, name: str, size: int, filmed: date | None = None) -> Clip:
    """Say that a clip will be uploaded; refused before a byte is sent where it can't be kept.

    The same file announced again goes on with the upload that was begun.
    """
    if not name.lower().endswith(ENDINGS):
        message = f"{name} is not a video file. Choose the clip your phone or camera recorded."
        raise Refused("wrong_ending", message)
    if size <= 0:
        raise Refused("empty", f"{name} is empty. Choose the clip your phone or camera recorded.")
    if size > settings.LARGEST_CLIP:
        most = settings.LARGEST_CLIP / 1024**3
        raise TooLarge("too_large", f"{name} is larger than {most:g} GB. Cut it to the match and upload that.")
    sweep()
    unfinished = Clip.objects.filter(club=club, uploader=uploader, state=Clip.State.UPLOADING)
    begun = unfinished.filter(name=name[:200], size=size).first()
    if begun is not None:
        finish(begun)
        return begun
    if unfinished.count() >= MOST_UNFINISHED:
        message = f"{MOST_UNFINISHED} uploads are unfinished already. Finish or cancel some of them first."
        raise Refused("too_many", message)
    free = free_space() - promised()
    own = promised(unfinished)
    if own and own + size > free_space() / SHARE:
        message = "Your other uploads keep too much room already. Finish or cancel some of them first."
        raise NoRoom("too_much_at_once", message)
    if size + SPARE > free:
        room = max(0, free - SPARE) // 1024**2
        message = f"Not enough disk space for {name}: only {room} MB left. Delete clips you no longer need."
        raise NoRoom("no_room", message)
    return Clip.objects.create(club_id=club, uploader_id=uploader, name=name[:200], size=size, filmed=filmed)


def free_space() -> int:
    """Bytes free where clips are kept."""
    return shutil.disk_usage(clips_folder()).free


def promised(of: QuerySet[Clip] | None = None) -> int:
    """Bytes that uploads under way have still to bring; one that was only announced keeps no room for long."""
    rows = Clip.objects.filter(state=Clip.State.UPLOADING) if of is None else of
    return sum(max(0, clip.size - received(clip)) for clip in rows if _keeps_room(clip))


def _keeps_room(clip: Clip) -> bool:
    partial = clip.beside("part")
    came = partial.stat().st_mtime if partial.exists() else 0
    return max(came, clip.created.timestamp()) > (timezone.now() - KEEPS_ROOM).timestamp()


def sweep() -> None:
    """Throw away uploads that were left lying."""
    for clip in Clip.objects.filter(state=Clip.State.UPLOADING, created__lt=timezone.now() - ABANDONED):
        discard(clip)


def received(clip: Clip) -> int:
    """How many bytes of a clip are here."""
    if clip.state != Clip.State.UPLOADING:
        return clip.size
    partial = clip.beside("part")
    return partial.stat().st_size if partial.exists() else 0


def append(clip: Clip, offset: int, read: Callable[[int], bytes]) -> int:
    """Write what comes at ``offset`` down as it comes; what arrived before a cut stays. Returns the bytes now here.

    With its last byte the clip is looked into and made ready.
    """
    with _alone(clip) as file:
        if file.tell() != offset:
            raise Clash("other_offset", f"The server has {file.tell()} bytes, not {offset}. Ask it where to resume.")
        try:
            _write(read, file, clip.size)
        except OSError as error:
            if error.errno is not None and not isinstance(error, ConnectionError | TimeoutError):
                trouble = f"The clip could not be saved ({error.strerror})."
                message = f"{trouble} Free some disk space and the upload will continue."
                raise NoRoom("not_written", message) from error
            # A connection that broke: what came is kept, and the client asks where to go on.
        here = file.tell()
        if here == clip.size:
            _complete(clip)
    return here


def finish(clip: Clip) -> None:
    """Make a clip ready whose bytes are all here, but which was left there by a server that ended at that moment."""
    if clip.state == Clip.State.UPLOADING and received(clip) == clip.size:
        append(clip, clip.size, lambda _: b"")


@contextmanager
def _alone(clip: Clip) -> Iterator[BinaryIO]:
    """The partial file at its end, for one upload at a time."""
    clips_folder()
    with open_private(clip.beside("part"), "ab") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise Occupied("at_work", "This clip is already being uploaded in another window.") from None
        clip.refresh_from_db()
        if clip.state != Clip.State.UPLOADING:
            clip.beside("part").unlink(missing_ok=True)
            raise Clash("already_there", "This clip is uploaded already.")
        yield file


def _write(read: Callable[[int], bytes], file: BinaryIO, size: int) -> None:
    while (left := size - file.tell()) > 0 and (chunk := read(min(CHUNK, left))):
        file.write(chunk)
    file.flush()


def _complete(clip: Clip) -> None:
    """All bytes are here: look into the clip and hand it to the worker. What is not a video is deleted.

    The partial file goes last, so that this can be done again after a crash at any place.
    """
    partial = clip.beside("part")
    try:
        footage = probe(partial)
    except TookTooLong:
        message = "All of the clip is here, but the machine was too busy to look into it. Try again in a minute."
        raise NotNow("busy", message) from None
    except Refused:
        discard(clip)
        raise
    send(partial, clip.path.name)
    clip.path.unlink(missing_ok=True)
    clip.path.hardlink_to(partial)
    clip.state = Clip.State.READY if footage.playable else Clip.State.CONVERTING
    clip.demuxer, clip.content_type, clip.duration_ms = footage.demuxer, footage.content_type, footage.duration_ms
    clip.width, clip.height, clip.fps = footage.width, footage.height, footage.fps
    with transaction.atomic():
        clip.save()
        prepare(clip)
    partial.unlink()


@transaction.atomic
def prepare(clip: Clip) -> None:
    """Have a clip prepared by the worker; one that was prepared before is prepared again."""
    if clip.job is None:
        assert clip.uploader_id is not None  # who has just sent its last byte
        clip.job = new_job(clip.uploader_id, PREPARE.name)
        clip.save(update_fields=["job"])
        enqueue(clip.job)
    else:
        retry(clip.job)
    clip.refresh_from_db(fields=["state"])


def frames_of(clip: Clip) -> list[int]:
    """When each frame of a clip is shown, in milliseconds; looked up once and kept with the clip.

    Raises FileNotFoundError where there is no clip, and StorageAway.
    """
    try:
        times: list[int] = json.loads(at_hand(clip.beside("frames.json")).read_text())
    except FileNotFoundError:
        return keep_frames(clip).times
    return times


def with_pictures(clips: Iterable[uuid.UUID | None]) -> set[uuid.UUID]:
    """Which of some clips have pictures of themselves: those that were prepared."""
    prepared = Clip.objects.filter(pk__in={clip for clip in clips if clip is not None}).exclude(played_as="")
    return set(prepared.values_list("pk", flat=True))


def discard(clip: Clip) -> None:
    """Throw a clip and its files away; matches that used it keep their log."""
    clip.delete()
