"""Where files of clips are kept: in the folder of clips or, by choice, in object storage.

With object storage the folder of each machine is a place to work only. A file is sent when it is whole, fetched when it
is needed there, and leaves the folder when room is short or nobody has used it for a day; its name is the same in both
places. Without object storage the folder is all there is, and sending and fetching do nothing.
"""

from __future__ import annotations

import logging
import os
import time
from contextlib import suppress
from pathlib import Path

from django.conf import settings

from . import object_storage
from .files import UNFINISHED, clips_folder
from .object_storage import StorageAway

log = logging.getLogger(__name__)

UNUSED_S = 24 * 3600
"""What no work on this machine has used for so long leaves its folder."""


def in_use() -> bool:
    """Whether this installation keeps its clips in object storage."""
    return bool(settings.CLIPS_IN_STORAGE)


def send(path: Path, name: str) -> None:
    """Keep a file that is whole under a name, before it gets that name in the folder. Raises StorageAway."""
    if in_use():
        object_storage.put(path, name)


def at_hand(path: Path) -> Path:
    """A file of the folder of clips, fetched into it where it is not there.

    Raises FileNotFoundError where it is nowhere, and StorageAway.
    """
    if not in_use():
        path.stat()
    elif path.exists():
        # It was used now; when it was written stays as it is.
        os.utime(path, (time.time(), path.stat().st_mtime))
    else:
        make_room(object_storage.size_of(path.name))
        object_storage.fetch(path)
    return path


def there(path: Path) -> bool:
    """Whether a file of the folder of clips is kept. Raises StorageAway."""
    with suppress(FileNotFoundError):
        return path.exists() or (in_use() and object_storage.size_of(path.name) >= 0)
    return False


def bytes_of(identity: object) -> int:
    """The bytes of all files of a clip. Raises StorageAway."""
    if in_use():
        return sum(one.size for one in object_storage.every(str(identity)))
    return sum(path.stat().st_size for path in Path(settings.MEDIA_ROOT).glob(f"{identity}*"))


def remove_files(identity: object) -> None:
    """Remove all files of a clip or of something like it: each has its id at the beginning of its name.

    What can't be reached now is found by the worker at night, since it belongs to nothing.
    """
    for path in Path(settings.MEDIA_ROOT).glob(f"{identity}*"):
        path.unlink(missing_ok=True)
    if in_use():
        try:
            object_storage.remove([one.name for one in object_storage.every(str(identity))])
        except StorageAway:
            log.warning("the files of %s could not be removed from object storage yet", identity)


def make_room(needed: int) -> None:
    """Remove what was used the longest ago from the folder, until so many bytes more fit into what it may hold."""
    held = finished_files()
    over = sum(stat.st_size for _, stat in held) + needed - settings.SCRATCH
    for path, stat in sorted(held, key=lambda one: one[1].st_atime):
        if over <= 0:
            break
        if _leaves(path, stat):
            over -= stat.st_size


def expire() -> None:
    """Remove what has not been used for a day from the folder: it may have been deleted on another machine."""
    unused = time.time() - UNUSED_S
    for path, stat in finished_files() if in_use() else ():
        if stat.st_atime < unused:
            _leaves(path, stat)


def finished_files() -> list[tuple[Path, os.stat_result]]:
    """The files in the folder that are whole."""
    found = []
    for path in clips_folder().iterdir():
        with suppress(FileNotFoundError):
            if path.is_file() and path.suffix != UNFINISHED:
                found.append((path, path.stat()))
    return found


def _leaves(path: Path, stat: os.stat_result) -> bool:
    """Remove a file from the folder if object storage has it; whether it did."""
    with suppress(FileNotFoundError):
        if object_storage.size_of(path.name) != stat.st_size:
            return False
        path.unlink(missing_ok=True)
        return True
    return False
