"""Logs: one JSON object a line, with the id of its request, and nothing of whom or what the request was about."""

from __future__ import annotations

from typing import Any

import structlog
from django.http import HttpRequest
from django.urls import Resolver404, resolve
from django_structlog.middlewares.request import RequestMiddleware

BEFORE: list[Any] = [
    structlog.contextvars.merge_contextvars,
    structlog.stdlib.add_logger_name,
    structlog.stdlib.add_log_level,
    structlog.processors.TimeStamper(fmt="iso", utc=True),
]
"""What happens to every line, whether structlog or a library wrote it."""
FORMATTER: dict[str, Any] = {
    "()": structlog.stdlib.ProcessorFormatter,
    "foreign_pre_chain": BEFORE,
    "processors": [
        structlog.stdlib.ProcessorFormatter.remove_processors_meta,
        # Without the values of variables: those are what a request was about.
        structlog.processors.ExceptionRenderer(structlog.tracebacks.ExceptionDictTransformer(show_locals=False)),
        structlog.processors.JSONRenderer(),
    ],
}


def configure() -> None:
    """Send what structlog writes through the standard library's logging."""
    structlog.configure(
        processors=[
            *BEFORE,
            structlog.stdlib.PositionalArgumentsFormatter(),
            structlog.stdlib.ProcessorFormatter.wrap_for_formatter,
        ],
        logger_factory=structlog.stdlib.LoggerFactory(),
        cache_logger_on_first_use=True,
    )


class Requests(RequestMiddleware):
    """Writes a line for each request with its route: addresses hold tokens, and words of a search."""

    @staticmethod
    def format_request(request: HttpRequest) -> str:
        try:
            route = resolve(request.path_info).route
        except Resolver404:
            route = "?"
        return f"{request.method} {route}"
