from __future__ import annotations

from django.apps import AppConfig


class MatchesConfig(AppConfig):
    name = "matches"

    def ready(self) -> None:
        from . import access  # noqa: F401  # it says who may reach what
