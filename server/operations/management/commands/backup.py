"""Back database and clips up, and see that what was backed up can be restored."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from footage.object_storage import StorageAway
from operations.backups import back_up
from operations.snapshot import Failed


class Command(BaseCommand):
    help = "Back database and clips of one moment up to JURATA_BACKUP_TO, and check it by restoring it."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--without-check", action="store_true", help="don't restore it into a scratch database")

    def handle(self, *_: Any, without_check: bool, **__: Any) -> None:
        try:
            made = back_up(self.stdout.write, verify=not without_check)
        except (Failed, OSError, StorageAway) as error:
            raise CommandError(f"The backup was not made: {error}.") from error
        checked = "verified by restoring it" if made.verified else "not verified"
        self.stdout.write(f"{made.archive} is there: {made.matches} matches, {made.clips} files of clips; {checked}.")
