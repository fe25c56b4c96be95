"""Object storage with the S3 interface, by django-storages: files are put there, fetched, listed and removed.

Every function raises StorageAway where it does not answer, and FileNotFoundError for a file that it does not have.
"""

from __future__ import annotations

import hashlib
import logging
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from http import HTTPStatus
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple, cast

from botocore.exceptions import BotoCoreError, ClientError
from django.core.files.storage import storages

from config.refusals import NotNow

from .files import in_making, open_private

if TYPE_CHECKING:  # it brings the whole client with it, which only those need who use it
    from storages.backends.s3 import S3Storage

log = logging.getLogger(__name__)

ADDRESS_HOLDS_S = 300
"""So long an address of a file can be used; nginx does so at once."""
DIGEST = "sha256"
"""The name under which the checksum of a file is kept with it."""
REMOVED_AT_ONCE = 1000
"""So many files the S3 interface removes at a time."""
BLOCK = 1024 * 1024


class StorageAway(NotNow):
    """Object storage does not answer, or not as it should."""

    def __init__(self) -> None:
        super().__init__("storage_away", "The storage for clips does not answer just now. Try again in a few minutes.")


class Kept(NamedTuple):
    """A file in object storage, with its size in bytes."""

    name: str
    size: int
    changed: datetime


def _storage() -> S3Storage:
    return cast("S3Storage", storages["clips"])


@contextmanager
def _asking() -> Iterator[Any]:
    """The bucket, with what goes wrong there in our words."""
    try:
        yield _storage().bucket
    except ClientError as error:
        if error.response["ResponseMetadata"]["HTTPStatusCode"] == HTTPStatus.NOT_FOUND:
            raise FileNotFoundError(f"not in object storage: {error}") from None
        log.warning("object storage refused: %s", error)
        raise StorageAway from error
    except BotoCoreError as error:
        log.warning("object storage does not answer: %s", error)
        raise StorageAway from error


def put(path: Path, name: str) -> None:
    """Keep a file under a name, in parts where it is large."""
    with _asking() as bucket:
        bucket.upload_file(str(path), name, ExtraArgs={"Metadata": {DIGEST: sha256(path)}})


def fetch(path: Path) -> None:
    """Fetch the file with the name of a path to that path, where it appears when it is whole and as it was sent."""
    with in_making(path) as partial:
        with _asking() as bucket, open_private(partial, "wb") as file:
            bucket.download_fileobj(path.name, file)
        if digest_of(path.name) not in (None, sha256(partial)):
            log.error("%s came from object storage other than it was sent", path.name)
            raise StorageAway
        partial.replace(path)


def sent_back(name: str) -> str:
    """The checksum of a file as it comes back."""
    with _asking() as bucket:
        found = hashlib.sha256()
        for block in bucket.Object(name).get()["Body"].iter_chunks(BLOCK):
            found.update(block)
        return found.hexdigest()


def size_of(name: str) -> int:
    """Bytes of a file."""
    with _asking() as bucket:
        return int(bucket.Object(name).content_length)


def digest_of(name: str) -> str | None:
    """The checksum with which a file was sent; None where somebody else put it there."""
    with _asking() as bucket:
        return cast(str | None, bucket.Object(name).metadata.get(DIGEST))


def address_of(name: str, content_type: str, method: str) -> str:
    """Where a file is given away, for a short time, to whoever asks there with that method."""
    parameters = {"ResponseContentType": content_type}
    return str(_storage().url(name, parameters=parameters, expire=ADDRESS_HOLDS_S, http_method=method))


def every(prefix: str = "") -> Iterator[Kept]:
    """The files whose names begin so."""
    with _asking() as bucket:
        for one in bucket.objects.filter(Prefix=prefix):
            yield Kept(one.key, one.size, one.last_modified)


def remove(names: list[str]) -> None:
    """Remove files; what is gone already is no fault."""
    with _asking() as bucket:
        for start in range(0, len(names), REMOVED_AT_ONCE):
            some = names[start : start + REMOVED_AT_ONCE]
            bucket.delete_objects(Delete={"Objects": [{"Key": name} for name in some]})


def address() -> str:
    """Which bucket it is, for who runs the installation."""
    of = _storage()
    return f"{of.endpoint_url}/{of.bucket_name}"


def trouble() -> str:
    """What is wrong with it, asked just now; empty where it answers."""
    try:
        with _asking() as bucket:
            list(bucket.objects.limit(1))
    except (StorageAway, FileNotFoundError) as error:
        return str(error.__cause__ or error)
    return ""


def sha256(path: Path) -> str:
    """The checksum of a file on this machine, in hexadecimal digits."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
