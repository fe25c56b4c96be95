from __future__ import annotations

from django.apps import AppConfig


class ReviewsConfig(AppConfig):
    name = "reviews"

    def ready(self) -> None:
        from . import kinds  # noqa: F401  # it says how a club looks for errors
