"""Tidy this machine's folder of clips; the worker does so every night on its own machine."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from footage.upkeep import tidy


class Command(BaseCommand):
    help = "Remove files of clips that belong to nothing, and what object storage has and was not used here for a day."

    def handle(self, *_: Any, **__: Any) -> None:
        tidy()
