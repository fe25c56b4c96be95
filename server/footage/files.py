"""The folder of clips: files that only the server and its video tools may read.

Where the server runs as root, the folder and its files belong to a user without rights, because ffmpeg and nginx run
as that user there.
"""

from __future__ import annotations

import os
import pwd
import stat
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO, cast

from django.conf import settings

UNFINISHED = ".part"
"""How the names of files end that are being made."""


def tools_user() -> pwd.struct_passwd | None:
    """The user that video tools run as; None where the server has no rights to give away."""
    return pwd.getpwnam(settings.TOOLS_USER) if os.geteuid() == 0 else None


def clips_folder() -> Path:
    """The folder of clips, made private where it is not."""
    folder = Path(settings.MEDIA_ROOT)
    folder.mkdir(parents=True, exist_ok=True)
    make_private(folder)
    return folder


def open_private(path: Path, mode: str) -> BinaryIO:
    """Open a file of the folder of clips for writing; a new one is private from its first moment on."""
    path.touch(mode=0o600, exist_ok=True)
    make_private(path)
    return cast(BinaryIO, path.open(mode))


@contextmanager
def in_making(place: Path) -> Iterator[Path]:
    """A name of its own for a file that is made for a place; what is left under it is gone afterwards.

    Two workers may be at the same work, where one only seemed to be dead: neither writes into what the other made.
    """
    partial = place.with_name(f"{place.name}.{uuid.uuid4()}{UNFINISHED}")
    try:
        yield partial
    finally:
        partial.unlink(missing_ok=True)


def make_private(path: Path) -> None:
    """Let nobody but the server and its video tools read a file or a folder."""
    found, user = path.lstat(), tools_user()
    wanted = 0o700 if stat.S_ISDIR(found.st_mode) else 0o600
    if stat.S_ISLNK(found.st_mode):
        return  # nothing of ours: what it points to is not to be given away
    if found.st_mode & 0o777 != wanted:
        path.chmod(wanted)
    if user is not None and found.st_uid != user.pw_uid:
        os.chown(path, user.pw_uid, user.pw_gid)
