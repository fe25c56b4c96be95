"""Bring a backup back, the newest one or one that is named."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from footage.object_storage import StorageAway
from operations.backups import repository, restore
from operations.snapshot import Failed


class Command(BaseCommand):
    help = "Restore database and clips from JURATA_BACKUP_TO. Stop the server and its workers first."
    requires_system_checks: list[str] = []
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("archive", nargs="?", help="which one; the newest where none is named")
        parser.add_argument("--list", action="store_true", help="only say which ones there are")
        parser.add_argument("--replace", action="store_true", help="replace the matches that are here already")

    def handle(self, *_: Any, archive: str | None, list: bool, replace: bool, **__: Any) -> None:
        try:
            if list:
                for name in repository().archives():
                    self.stdout.write(name)
                return
            made = restore(archive, replace, self.stdout.write)
        except (Failed, OSError, StorageAway) as error:
            raise CommandError(f"Nothing more was restored: {error}.") from error
        self.stdout.write(f"Restored what was backed up at {made.made}. Start the server again.")
