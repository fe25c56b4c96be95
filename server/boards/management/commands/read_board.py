"""manage.py read_board: reads the scoreboard of a clip for the worker that asks for it."""

from typing import Any

from django.core.management.base import BaseCommand

from boards.process import answer


class Command(BaseCommand):
    help = "Read the scoreboard of a clip: takes what to do from standard input, and answers in lines of JSON."
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        answer()
