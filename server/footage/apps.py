from __future__ import annotations

from django.apps import AppConfig


class FootageConfig(AppConfig):
    name = "footage"

    def ready(self) -> None:
        from . import access  # noqa: F401  # it says who may reach what
