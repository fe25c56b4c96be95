"""Moving an installation's clips from the folder to object storage and back, while it goes on being used.

Either way can be cut off and begun again: what is there already, with the same checksum, is left as it is.
"""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress

from . import object_storage
from .files import clips_folder
from .object_storage import sha256
from .store import finished_files

Say = Callable[[str], None]


def to_storage(say: Say) -> int:
    """Send what is in the folder, and read each file back; how many were sent.

    Raises StorageAway, and OSError where one came back differently.
    """
    sent = 0
    for path, _ in finished_files():
        with suppress(FileNotFoundError):  # it is not there yet, or was deleted here meanwhile
            digest = sha256(path)
            if not _there(path.name, digest):
                say(f"{path.name}, {path.stat().st_size} bytes")
                object_storage.put(path, path.name)
                if object_storage.sent_back(path.name) != digest:
                    raise OSError(f"{path.name} came back from object storage other than it was sent")
                sent += 1
    return sent


def _there(name: str, digest: str) -> bool:
    with suppress(FileNotFoundError):
        return object_storage.digest_of(name) == digest
    return False


def to_folder(say: Say) -> int:
    """Fetch what is in object storage; how many files were fetched. Raises StorageAway."""
    fetched = 0
    folder = clips_folder()
    for one in object_storage.every():
        path = folder / one.name
        with suppress(FileNotFoundError):  # it was deleted meanwhile
            if not path.exists() or sha256(path) != object_storage.digest_of(one.name):
                say(f"{one.name}, {one.size} bytes")
                object_storage.fetch(path)
                fetched += 1
    return fetched
