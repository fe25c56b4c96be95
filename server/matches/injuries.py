"""What a log says of injuries, and who may read it."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from typing import Any, TypeVar

from clubs.access import Access, Right
from clubs.questions import allowed

from .models import Match

INJURED = "hurt"
"""The field of a mark that names the injured part of a body."""
Body = TypeVar("Body", dict[str, Any], dict[str, Any] | None)


def sees_injuries(user: int, match: uuid.UUID) -> bool:
    return allowed(Match, Access.injuries, Access(user, Right.INJURIES), match)


def as_seen_by(user: int, match: uuid.UUID, bodies: Sequence[Body]) -> list[Body]:
    """Observations as somebody may read them; nothing is asked where none of them is about an injury."""
    if not any(one and INJURED in one for one in bodies) or sees_injuries(user, match):
        return list(bodies)
    return [one and {name: value for name, value in one.items() if name != INJURED} for one in bodies]


def with_unseen(user: int, match: Match, key: str, body: dict[str, Any]) -> dict[str, Any]:
    """A changed mark with the injury that whoever changed it could not see."""
    if body.get("kind") != "mark" or body.get(INJURED) is not None:
        return body
    before = match.observations.filter(key=key).values_list("body", flat=True).first()
    if before is None or INJURED not in before or sees_injuries(user, match.pk):
        return body
    return {**body, INJURED: before[INJURED]}
