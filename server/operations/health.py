"""Whether the server can do its work, asked by whoever keeps it running."""

from __future__ import annotations

from collections.abc import Callable

from django.core.cache import cache
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from footage.files import clips_folder

from .figures import rooms

LEAST_FREE = 64 * 1024 * 1024
"""Bytes without which a database and its neighbours can't be relied on."""


class NotReady(Exception):
    """Why the server can't do its work just now."""


def _database() -> None:
    with connection.cursor() as cursor:
        cursor.execute("select 1")


def _migrations() -> None:
    executor = MigrationExecutor(connection)
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        raise NotReady("the database is older than the program: run manage.py migrate")


def _cache() -> None:
    cache.set("ready", 1, 10)
    if cache.get("ready") != 1:
        raise NotReady("what was put into the cache is not there")


def _clips() -> None:
    clips_folder()


def _disk() -> None:
    full = [room.name for room in rooms() if room.free < LEAST_FREE]
    if full:
        raise NotReady(f"the disk is full: {', '.join(full)}")


CHECKS: dict[str, Callable[[], None]] = {
    "database": _database,
    "migrations": _migrations,
    "cache": _cache,
    "clips": _clips,
    "disk": _disk,
}


def looked_at() -> dict[str, str]:
    """Each check with what is wrong; empty where nothing is."""
    found: dict[str, str] = {}
    for name, check in CHECKS.items():
        try:
            check()
            found[name] = ""
        except Exception as error:  # whatever it is, the server is not ready
            found[name] = str(error) or type(error).__name__
    return found
