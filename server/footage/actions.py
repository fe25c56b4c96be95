"""What can be done with clips: announce, take in, throw away."""

from __future__ import annotations

import json
import shutil
import uuid
from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser

from config.errors import Refused

from .models import Clip
from .probe import frame_times, probe

CHUNK = 1024 * 1024
SPARE = 256 * 1024 * 1024
"""Bytes of disk that an upload must leave free."""
MADE = ("part", "frames.json")
"""The endings of files that lie beside a clip and go with it."""
ENDINGS = (".mp4", ".m4v", ".mov", ".webm")


def announce(owner: AbstractBaseUser, name: str, size: int) -> Clip:
    """Say that a clip will be uploaded; refused before a byte is sent where it can't be kept."""
    if not name.lower().endswith(ENDINGS):
        raise Refused("wrong_ending", f"{name} is no MP4, MOV or WebM file. Choose a clip of one of those kinds.", 422)
    if size <= 0:
        raise Refused("empty", f"{name} is empty. Choose the clip your phone or camera recorded.", 422)
    if size > settings.LARGEST_CLIP:
        most = settings.LARGEST_CLIP / 1024**3
        raise Refused("too_large", f"{name} is larger than {most:g} GB. Cut it to the match and upload that.", 413)
    free = free_space()
    if size + SPARE > free:
        room = max(0, free - SPARE) // 1024**2
        message = f"There is no room for {name} on this machine: {room} MB are left. Delete clips you no longer need."
        raise Refused("no_room", message, 507)
    return Clip.objects.create(owner_id=owner.pk, name=name[:200], size=size)


def free_space() -> int:
    """Bytes free where clips are kept."""
    return shutil.disk_usage(settings.MEDIA_ROOT).free


def take_in(clip: Clip, read: Callable[[int], bytes]) -> Clip:
    """Stream a clip's bytes to disk, look into it, and make it ready.

    An upload that is cut, or a file that will not play, leaves nothing behind.
    """
    if clip.state == Clip.State.READY:
        raise Refused("already_there", "This clip is uploaded already.", 409)
    partial = clip.beside("part")
    try:
        received = _write(read, partial, clip.size)
        if received != clip.size:
            raise Refused("cut_off", "The upload was cut off before its end. Nothing is lost: upload the clip again.")
        footage = probe(partial)
        partial.rename(clip.path)
    except OSError as error:
        discard(clip)
        message = (
            f"The clip could not be written ({error.strerror or 'the connection broke'}). Free some room, or try again."
        )
        raise Refused("not_written", message, 507) from error
    except BaseException:
        discard(clip)
        raise
    clip.state = Clip.State.READY
    clip.content_type = footage.content_type
    clip.duration_ms = footage.duration_ms
    clip.width, clip.height, clip.fps = footage.width, footage.height, footage.fps
    clip.save()
    return clip


def frames_of(clip: Clip) -> list[int]:
    """When each frame of a clip is shown, in milliseconds; looked up once and kept beside the clip."""
    path = clip.beside("frames.json")
    if not path.exists():
        partial = clip.beside(f"{uuid.uuid4()}.part")
        partial.write_text(json.dumps(frame_times(clip.path)))
        partial.replace(path)
    times: list[int] = json.loads(path.read_text())
    return times


def _write(read: Callable[[int], bytes], path: Path, most: int) -> int:
    received = 0
    with path.open("wb") as file:
        while received < most and (chunk := read(min(CHUNK, most - received))):
            file.write(chunk)
            received += len(chunk)
    return received


def discard(clip: Clip) -> None:
    """Throw a clip and its file away; matches that used it keep their log."""
    for made in MADE:
        clip.beside(made).unlink(missing_ok=True)
    clip.path.unlink(missing_ok=True)
    clip.delete()
