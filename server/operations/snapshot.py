"""One moment of the database: what is in each table, and a dump of just that.

A snapshot is held by a transaction; the sums are worked out and the dump is made within it, so that whatever is
restored from the dump can be held against the sums.
"""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from django.db import connections
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.backends.utils import CursorWrapper
from psycopg import sql

Sums = Mapping[str, list[str]]
"""Of each table how many rows it has and a checksum of them in any order, as text."""
TOOLS = sorted(Path("/usr/lib/postgresql").glob("*/bin"), key=lambda folder: float(folder.parent.name))


class Failed(Exception):
    """Why a backup could not be made, verified or restored."""


def tool(name: str) -> str:
    """The newest of PostgreSQL's programs that is installed: an older one can't read a newer server."""
    return str(TOOLS[-1] / name) if TOOLS else name


def run(command: list[str], env: dict[str, str] | None = None, cwd: Path | None = None) -> bytes:
    """Run a program and return what it prints. Raises Failed with what it complained of last."""
    try:
        done = subprocess.run(command, capture_output=True, check=False, env=env, cwd=cwd)
    except FileNotFoundError:
        raise Failed(f"{command[0]} is not installed") from None
    if done.returncode:
        words = done.stderr.decode("utf-8", "replace").strip().splitlines()
        raise Failed(f"{Path(command[0]).name}: {words[-1] if words else f'ended with {done.returncode}'}")
    return done.stdout


def environment(database: BaseDatabaseWrapper) -> dict[str, str]:
    """How PostgreSQL's programs reach a database."""
    to = database.settings_dict
    said = {
        "PGHOST": to["HOST"],
        "PGPORT": str(to["PORT"]),
        "PGUSER": to["USER"],
        "PGPASSWORD": to["PASSWORD"],
        "PGDATABASE": to["NAME"],
        # A server that waits for ever for somebody else's lock is worse than a backup that failed.
        "PGOPTIONS": "-c lock_timeout=60000",
    }
    return {**os.environ, **said}


@contextmanager
def held(database: BaseDatabaseWrapper) -> Iterator[tuple[str, CursorWrapper]]:
    """A snapshot by its name, with a cursor that sees just that, as long as the block runs."""
    with database.cursor() as cursor:
        cursor.execute("begin isolation level repeatable read read only")
        try:
            cursor.execute("select pg_export_snapshot()")
            (name,) = cursor.fetchone() or ("",)
            yield name, cursor
        finally:
            cursor.execute("rollback")


def sums(cursor: CursorWrapper) -> dict[str, list[str]]:
    """What is in each table."""
    cursor.execute("select tablename from pg_tables where schemaname = 'public' order by tablename")
    found: dict[str, list[str]] = {}
    for (table,) in cursor.fetchall():
        asked = sql.SQL("select count(*), coalesce(sum(hashtextextended(t::text, 0)::numeric), 0) from {} t")
        cursor.execute(asked.format(sql.Identifier("public", table)).as_string(None))
        count, total = cursor.fetchone() or (0, 0)
        found[table] = [str(count), str(total)]
    return found


def sums_of(database: BaseDatabaseWrapper) -> dict[str, list[str]]:
    """What is in each table of a database now."""
    with database.cursor() as cursor:
        return sums(cursor)


def differences(wanted: Sums, found: Sums) -> list[str]:
    """Where two differ, in words."""
    faults = [f"{table} is missing" for table in wanted if table not in found]
    faults += [f"{table} should not be there" for table in found if table not in wanted]
    for table in sorted(set(wanted) & set(found)):
        (rows, total), (here, other) = wanted[table], found[table]
        if rows != here:
            faults.append(f"{table} has {here} rows in place of {rows}")
        elif total != other:
            faults.append(f"{table} has other values")
    return faults


def dump(database: BaseDatabaseWrapper, snapshot: str, into: Path) -> None:
    """Write what a snapshot holds; not compressed, so that what did not change is kept once in many backups."""
    asked = [tool("pg_dump"), "--format=custom", "--compress=0", "--no-owner", "--no-privileges"]
    run([*asked, f"--snapshot={snapshot}", f"--file={into}"], env=environment(database))


def put_back(dumped: Path, database: BaseDatabaseWrapper) -> None:
    """Replace all that is in a database by a dump, all of it or nothing."""
    script = dumped.with_suffix(".sql")
    try:
        asked = [tool("pg_restore"), "--no-owner", "--no-privileges", "--schema=public"]
        run([*asked, f"--file={script}", str(dumped)])
        asked = [tool("psql"), "--quiet", "--no-psqlrc", "--single-transaction", "--set=ON_ERROR_STOP=1"]
        empty = ["--command=drop schema public cascade", "--command=create schema public"]
        run([*asked, *empty, f"--file={script}"], env=environment(database))
    finally:
        script.unlink(missing_ok=True)


@contextmanager
def other(name: str) -> Iterator[BaseDatabaseWrapper]:
    """A connection of its own to a database of the same server; made where there is none yet and it may be."""
    database = connections.create_connection("default")
    database.settings_dict = {**database.settings_dict, "NAME": name}
    try:
        _make_where_missing(name)
        yield database
    finally:
        database.close()


def _make_where_missing(name: str) -> None:
    main = connections.create_connection("default")
    try:
        with main.cursor() as cursor:
            cursor.execute("select 1 from pg_database where datname = %s", [name])
            if cursor.fetchone() is None:
                try:
                    cursor.execute(sql.SQL("create database {}").format(sql.Identifier(name)).as_string(None))
                except Exception as error:
                    raise Failed(f"the scratch database {name} is not there and can't be made: {error}") from error
    finally:
        main.close()
