"""Questions about one row that are asked at every key, with their SQL worked out once.

Building and compiling what somebody may see takes Django several times as long as PostgreSQL takes to answer it. What
differs from one request to the next is only who asks and about which row, so the SQL is made for two stand-ins, which
are replaced each time.
"""

from __future__ import annotations

import datetime
import uuid
from collections.abc import Callable
from functools import lru_cache
from typing import Any

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Model, Q

from .access import Access, Right

USER = -1_804_289_383
"""Stands for who asks: no user has this number, nor anything else in a question."""
ROW = uuid.UUID("00000000-0000-4000-8000-6b8b4567327b")
"""Stands for the row that is asked about."""
Condition = Callable[[Access], Q]


def allowed(model: type[Model], condition: Condition, access: Access, row: uuid.UUID) -> bool:
    """Whether a row of a model is among those that somebody has a right for, in whichever club.

    The same as asking for it with ``condition(access)`` as a filter.
    """
    question = _question(model, condition, access.right, datetime.date.today().year)
    if question is None:
        return False
    sql, parameters = question
    asked = [access.user if one == USER else row if one == ROW else one for one in parameters]
    with connection.cursor() as cursor:
        cursor.execute(sql, asked)
        return cursor.fetchone() is not None


@lru_cache(maxsize=200)
def _question(model: type[Model], condition: Condition, right: Right, year: int) -> tuple[str, tuple[Any, ...]] | None:
    """The SQL and its parameters; None where nobody has that right. The year says who is still a child in it."""
    rows = model._default_manager.filter(condition(Access(USER, right)), pk=ROW).order_by()
    try:
        return rows.values("pk").query.sql_with_params()
    except EmptyResultSet:
        return None
