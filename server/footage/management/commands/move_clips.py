"""Move the clips of this installation from the folder to object storage, or back."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from footage import moving
from footage.object_storage import StorageAway

WAYS = {"storage": (moving.to_storage, "sent"), "folder": (moving.to_folder, "fetched")}


class Command(BaseCommand):
    help = "Copy all clips to object storage or to the folder, and compare each. What is there already is left alone."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--to", choices=WAYS, required=True)

    def handle(self, *_: Any, to: str, **__: Any) -> None:
        if "clips" not in settings.STORAGES:
            raise CommandError("JURATA_STORAGE_BUCKET is not set: it names the bucket that clips are kept in.")
        move, done = WAYS[to]
        try:
            moved = move(self.stdout.write)
        except (StorageAway, OSError) as error:
            raise CommandError(f"Not all clips were copied: {error} Run it again to go on.") from error
        in_storage = "1" if to == "storage" else "0"
        self.stdout.write(f"All clips are there, {moved} of them {done} just now, each compared by its checksum.")
        if (to == "storage") != settings.CLIPS_IN_STORAGE:
            self.stdout.write(f"Set JURATA_CLIPS_IN_STORAGE={in_storage}, restart, and run this once more.")
