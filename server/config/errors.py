"""Errors as the browser gets them: a stable code, a sentence, and faults with their fields."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from typing import Any

from django.db import InterfaceError, OperationalError
from rest_framework import serializers
from rest_framework.exceptions import ValidationError
from rest_framework.response import Response
from rest_framework.settings import api_settings
from rest_framework.views import exception_handler

from jurata_core.faults import Fault, FaultyInput

from .refusals import (
    AskAgain,
    Clash,
    NoRoom,
    NotAllowed,
    NotNow,
    NotThere,
    Occupied,
    OtherServiceDown,
    Refused,
    TooLarge,
    body_of,
)

NON_FIELD = api_settings.NON_FIELD_ERRORS_KEY
log = logging.getLogger(__name__)


STATUS: dict[type[Refused], int] = {
    Refused: 422,
    AskAgain: 401,
    NotAllowed: 403,
    NotThere: 404,
    Clash: 409,
    TooLarge: 413,
    Occupied: 423,
    NoRoom: 507,
    NotNow: 503,
    OtherServiceDown: 502,
}


class FaultSerializer(serializers.Serializer[Any]):
    path = serializers.CharField()
    message = serializers.CharField()
    code = serializers.CharField()


class ErrorSerializer(serializers.Serializer[Any]):
    code = serializers.CharField()
    message = serializers.CharField()
    faults = FaultSerializer(many=True)


def answer(error: Exception, context: dict[str, Any]) -> Response | None:
    """The response to any error a view lets through."""
    if isinstance(error, FaultyInput):
        return Response(body_of("faulty", "Some fields need another look.", error.faults), status=400)
    if isinstance(error, Refused):
        return Response(body_of(error.code, str(error)), status=_status_of(error))
    if isinstance(error, OperationalError | InterfaceError):  # the database is away: it says nothing of the request
        log.error("The database did not answer: %s", error)
        return Response(body_of("away", "The server is not ready. Try again in a moment."), status=503)
    response = exception_handler(error, context)
    if response is None:
        return None
    if isinstance(error, ValidationError):
        response.data = body_of("faulty", "Some fields need another look.", list(_faults(response.data, "")))
    else:
        detail = getattr(error, "detail", None)
        code = getattr(detail, "code", None) or getattr(error, "default_code", "not_found")
        response.data = body_of(str(code), str(detail or "Not found, or you do not have access."))
    return response


def _status_of(error: Refused) -> int:
    return next(STATUS[kind] for kind in type(error).__mro__ if kind in STATUS)


def _faults(detail: Any, path: str) -> Iterator[Fault]:
    if isinstance(detail, dict):
        for name, inner in detail.items():
            own = name == NON_FIELD  # what is wrong with all of it, and not with a field
            yield from _faults(inner, path if own else f"{path}.{name}" if path else str(name))
    elif isinstance(detail, list):
        for inner in detail:
            yield from _faults(inner, path)
    else:
        yield Fault(path, str(detail), "wrong_type")
