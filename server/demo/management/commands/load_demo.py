"""Load the demo: an invented club's coach, athletes, and matches; the worker films their clips meanwhile."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand
from django.db import transaction

from demo.loading import load
from demo.setting import PASSWORD, USERNAME


class Command(BaseCommand):
    help = "Loads the demo data if there are no accounts yet. Safe to run again."

    def handle(self, *args: Any, **options: Any) -> None:
        if get_user_model().objects.exists():
            return
        self.stdout.write("Loading the demo's club, athletes and matches")
        with transaction.atomic():
            load()
        self.stdout.write(f"Demo loaded: sign in as {USERNAME} with {PASSWORD}")
        self.stdout.write("Its clips are filmed in the background; that takes a few minutes")
