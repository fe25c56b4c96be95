"""Backups: database and clips of one moment in one archive, checked by restoring, and brought back.

borg keeps the archives: what did not change since an earlier one is kept once, and with a key all of it is encrypted.
An archive holds ``manifest.json``, ``database.dump``, ``secret-key`` and ``clips/``. Clips that are kept in object
storage stay there; the archive says which ones belong to it.
"""

from __future__ import annotations

import fcntl
import json
import os
import shutil
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.db import connections
from django.db.backends.base.base import BaseDatabaseWrapper
from django.utils import timezone

from footage import object_storage, store
from footage.files import clips_folder, make_private
from footage.object_storage import StorageAway
from matches.models import Match

from . import snapshot
from .models import Backup
from .restored import after_restore, rights_now
from .snapshot import Failed, Sums

FORMAT = 1
STAGE = ".backup"
"""Where in the folder of clips a backup is put together: links to its files need to be on the same disk."""
GONE_S = 3
"""So long it may take until a connection that was closed is seen no more."""
CUT_OFF = "it was cut off"
Say = Callable[[str], None]


@dataclass(frozen=True)
class Repository:
    """Where backups are kept: a folder, or ``ssh://user@host/folder``; and a file with the key, if they are secret."""

    place: str
    key_file: str

    def borg(self, *arguments: str, cwd: Path | None = None) -> bytes:
        """Run borg on it. Raises Failed."""
        own = Path(settings.DATA) / "borg"
        said = {
            "BORG_BASE_DIR": str(own),
            "BORG_REPO": self.place,
            "BORG_UNKNOWN_UNENCRYPTED_REPO_ACCESS_IS_OK": "yes",
            "BORG_RELOCATED_REPO_ACCESS_IS_OK": "yes",
        }
        if self.key_file:
            said["BORG_PASSPHRASE"] = Path(self.key_file).read_text("utf-8").strip()
        return snapshot.run(["borg", *arguments], cwd=cwd, env={**os.environ, **said})

    def prepare(self) -> None:
        """Make the repository where there is none."""
        try:
            self.borg("info")
        except Failed:
            encryption = "repokey-blake2" if self.key_file else "none"
            self.borg("init", "--make-parent-dirs", f"--encryption={encryption}")

    def archives(self) -> list[str]:
        """The names of its archives, the oldest first."""
        found = json.loads(self.borg("list", "--json"))["archives"]
        return [one["archive"] for one in found if one["archive"].startswith("jurata-")]


@dataclass(frozen=True)
class Manifest:
    """What is in an archive. ``clips``: of each file its bytes, when it was changed, and its SHA-256."""

    format: int
    version: str
    made: str
    tables: dict[str, list[str]]
    clips: dict[str, tuple[int, int, str]]
    in_storage: bool = False
    """Whether the clips are in object storage, and not in the archive."""


def repository() -> Repository:
    """The repository of this installation. Raises Failed where none is set."""
    if not settings.BACKUP_TO:
        raise Failed("JURATA_BACKUP_TO is not set: it says where backups are kept, a folder or ssh://user@host/folder")
    if settings.BACKUP_KEY_FILE and not Path(settings.BACKUP_KEY_FILE).is_file():
        raise Failed(f"JURATA_BACKUP_KEY_FILE names {settings.BACKUP_KEY_FILE}, which is not there")
    return Repository(settings.BACKUP_TO, settings.BACKUP_KEY_FILE)


def last_good() -> Backup | None:
    """The last backup that came to its end."""
    return Backup.objects.filter(trouble="").exclude(ended=None).first()


def back_up(say: Say, verify: bool = True) -> Backup:
    """Make a backup, and restore it into a scratch database to see that it is equal. Raises Failed."""
    now = timezone.now()
    row = Backup.objects.create(begun=now, archive=f"jurata-{now:%Y-%m-%dT%H-%M-%S}")
    try:
        with _alone():
            Backup.objects.filter(ended=None).exclude(pk=row.pk).update(ended=now, trouble=CUT_OFF)
            _make(row, say, verify)
    except (Failed, OSError, StorageAway) as error:
        row.trouble = str(error)
        raise
    finally:
        row.ended = timezone.now()
        row.save()
    return row


@contextmanager
def _alone() -> Iterator[None]:
    with (Path(settings.DATA) / "backup.lock").open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise Failed("another backup or restore is under way") from None
        yield


def _make(row: Backup, say: Say, verify: bool) -> None:
    to = repository()
    to.prepare()
    stage = clips_folder() / STAGE
    shutil.rmtree(stage, ignore_errors=True)
    stage.mkdir(mode=0o700)
    try:
        say("Putting database and clips of one moment together")
        manifest = _stage(stage)
        row.matches = int(manifest.tables[Match._meta.db_table][0])
        row.clips, row.clip_bytes = len(manifest.clips), sum(size for size, _, _ in manifest.clips.values())
        say(f"Writing {row.archive}: {row.matches} matches, {row.clips} files of clips")
        # Names, sizes and times say whether a file has changed: a link to it has changed its other dates.
        to.borg("create", "--compression=auto,zstd", "--files-cache=mtime,size", f"::{row.archive}", ".", cwd=stage)
    finally:
        shutil.rmtree(stage, ignore_errors=True)
    # What was deleted is to be gone from the backups too after that time.
    to.borg("prune", f"--keep-within={settings.BACKUP_DAYS}d", "--glob-archives=jurata-*")
    to.borg("compact")
    if verify:
        say("Restoring it into a scratch database")
        check(to, row.archive)
        row.verified = True


def _stage(stage: Path) -> Manifest:
    """Put what belongs into an archive into a folder; clips as links, so that no deletion takes them away."""
    clips = stage / "clips"
    clips.mkdir()
    database = connections.create_connection("default")
    try:
        _link_clips(clips)
        with snapshot.held(database) as (name, cursor):
            _link_clips(clips)  # those that were finished since
            stored = _stored() if store.in_use() else None
            snapshot.dump(database, name, stage / "database.dump")
            tables = snapshot.sums(cursor)
    finally:
        database.close()
    secret = Path(settings.DATA) / "secret-key"
    if secret.exists():
        shutil.copy2(secret, stage / "secret-key")
    now, in_storage = timezone.now().isoformat(), stored is not None
    made = Manifest(FORMAT, settings.VERSION, now, tables, _described(clips) if stored is None else stored, in_storage)
    (stage / "manifest.json").write_text(json.dumps(asdict(made)), "utf-8")
    return made


def _link_clips(into: Path) -> None:
    if store.in_use():
        return
    for path in clips_folder().iterdir():
        if path.is_file() and not path.name.endswith(".part"):
            try:
                os.link(path, into / path.name)
            except (FileExistsError, FileNotFoundError):  # linked before; or deleted just now
                continue


def _described(clips: Path) -> dict[str, tuple[int, int, str]]:
    """Every file with its checksum; that of a file that has not changed is known from the last time."""
    files = ((path, path.stat()) for path in sorted(clips.iterdir()))
    return _with_checksums(
        (path.name, stat.st_size, stat.st_mtime_ns, partial(object_storage.sha256, path)) for path, stat in files
    )


def _stored() -> dict[str, tuple[int, int, str]]:
    """The same of the files in object storage. Raises StorageAway."""
    return _with_checksums(
        (one.name, one.size, int(one.changed.timestamp()), partial(_digest_of, one.name))
        for one in object_storage.every()
    )


def _digest_of(name: str) -> str:
    try:
        return object_storage.digest_of(name) or object_storage.sent_back(name)
    except FileNotFoundError:  # it was deleted just now
        return ""


def _with_checksums(files: Iterable[tuple[str, int, int, Callable[[], str]]]) -> dict[str, tuple[int, int, str]]:
    notes = Path(settings.DATA) / "backup-checksums.json"
    known: dict[str, Any] = json.loads(notes.read_text("utf-8")) if notes.exists() else {}
    found: dict[str, tuple[int, int, str]] = {}
    for name, size, changed, digest in files:
        before = known.get(name)
        if before is not None and before[:2] == [size, changed]:
            found[name] = (size, changed, before[2])
        else:
            found[name] = (size, changed, digest())
    notes.write_text(json.dumps(found), "utf-8")
    return found


def manifest_of(of: Repository, archive: str) -> Manifest:
    """What an archive says that it holds. Raises Failed where this program is too old for it."""
    raw = json.loads(of.borg("extract", "--stdout", f"::{archive}", "manifest.json"))
    if raw["format"] > FORMAT:
        raise Failed(f"{archive} was made by Jurata {raw['version']}, which is newer than this one")
    return Manifest(**raw)


def check(of: Repository, archive: str) -> None:
    """Restore an archive's database into a scratch one, and hold it and every clip against the manifest."""
    manifest = manifest_of(of, archive)
    with _extracted(of, archive) as folder, snapshot.other(_scratch()) as scratch:
        snapshot.put_back(folder / "database.dump", scratch)
        _compare(manifest.tables, scratch)
    if manifest.in_storage:
        _storage_has(manifest)
        return
    listed = of.borg("list", "--format={sha256} {path}{NL}", f"::{archive}", "--pattern=+clips/*", "--pattern=-*")
    rows = (line.split(" ", 1) for line in listed.decode().splitlines())
    found = {path.removeprefix("clips/"): digest for digest, path in rows if path != "clips"}
    wrong = [name for name, (_, _, digest) in manifest.clips.items() if found.get(name) != digest]
    if wrong:
        raise Failed(f"{len(wrong)} clips in the archive are not as they were, {wrong[0]} first")


def _scratch() -> str:
    return f"{connections['default'].settings_dict['NAME']}_check"


def _compare(tables: Sums, database: BaseDatabaseWrapper) -> None:
    faults = snapshot.differences(tables, snapshot.sums_of(database))
    if faults:
        raise Failed(f"what was restored is not what was backed up: {'; '.join(faults[:5])}")


@contextmanager
def _extracted(of: Repository, archive: str) -> Iterator[Path]:
    """All of an archive but its clips, in a folder that is gone afterwards."""
    folder = Path(settings.DATA) / "restoring"
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(mode=0o700)
    try:
        of.borg("extract", "--exclude=clips", f"::{archive}", cwd=folder)
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def restore(archive: str | None, replace: bool, say: Say) -> Manifest:
    """Bring an archive back, the newest one where none is named. Raises Failed.

    What is there must be empty, or ``replace`` it is; then a dump of it is kept in the data folder first.
    """
    of = repository()
    name = archive or next(reversed(of.archives()), None)
    if name is None:
        raise Failed(f"there is no backup in {of.place}")
    with _alone():
        manifest = manifest_of(of, name)
        if manifest.in_storage and not store.in_use():
            raise Failed("the clips of this backup are in object storage: set JURATA_CLIPS_IN_STORAGE and its bucket")
        database = connections["default"]
        _must_be_alone(database)
        if _has_matches(database):
            if not replace:
                raise Failed("this installation has matches already: with --replace they are replaced by the backup's")
            kept = Path(settings.DATA) / f"before-restore-{datetime.now():%Y%m%d-%H%M%S}.dump"
            say(f"Keeping what is here in {kept}")
            with snapshot.held(database) as (held, _):
                snapshot.dump(database, held, kept)
        before = rights_now()
        database.close()
        say(f"Restoring {name}, made at {manifest.made}")
        with _extracted(of, name) as folder:
            snapshot.put_back(folder / "database.dump", database)
            _compare(manifest.tables, database)
            say(f"All {len(manifest.tables)} tables are as they were backed up")
            secret = folder / "secret-key"
            if secret.exists():
                shutil.copy2(secret, Path(settings.DATA) / "secret-key")
        _restore_clips(of, name, manifest)
        say(f"All {len(manifest.clips)} files of clips are as they were backed up")
    call_command("migrate", verbosity=0)
    after_restore(before, say)
    return manifest


def _storage_has(manifest: Manifest) -> None:
    """Whether object storage still has what belongs to an archive. Raises Failed."""
    there = {one.name: one.size for one in object_storage.every()}
    missing = [name for name, (size, _, _) in manifest.clips.items() if there.get(name) != size]
    if missing:
        raise Failed(
            f"{len(missing)} files of clips are not in object storage as they were, {missing[0]} first: "
            "bring them back there by its own means"
        )


def _restore_clips(of: Repository, archive: str, manifest: Manifest) -> None:
    if manifest.in_storage:
        _storage_has(manifest)
        return
    folder = clips_folder()
    if manifest.clips:
        of.borg("extract", "--strip-components=1", f"::{archive}", "clips", cwd=folder)
    wrong = []
    for name, (_, _, digest) in manifest.clips.items():
        path = folder / name
        if path.exists() and object_storage.sha256(path) == digest:
            make_private(path)
            store.send(path, name)
        else:
            wrong.append(name)
    if wrong:
        raise Failed(f"{len(wrong)} files of clips did not come back as they were, {wrong[0]} first")


def _has_matches(database: BaseDatabaseWrapper) -> bool:
    with database.cursor() as cursor:
        cursor.execute("select to_regclass(%s)", [Match._meta.db_table])
        (there,) = cursor.fetchone() or (None,)
    return there is not None and Match.with_deleted.exists()


def _must_be_alone(database: BaseDatabaseWrapper) -> None:
    """Somebody who has just gone may still be seen for a moment; what PostgreSQL does by itself is nobody."""
    asked = (
        "select count(*) from pg_stat_activity where datname = current_database() "
        "and pid <> pg_backend_pid() and backend_type = 'client backend'"
    )
    others = 0
    for _ in range(GONE_S * 10):
        with database.cursor() as cursor:
            cursor.execute(asked)
            (others,) = cursor.fetchone() or (0,)
        if not others:
            return
        time.sleep(0.1)
    raise Failed(f"the database is still in use ({others} connected): stop the server and its workers first")
