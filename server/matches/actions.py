"""What can be done with a match: set up, take in a log, record, correct and take back observations."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from jurata_core.faults import Fault, FaultyInput
from jurata_core.match_log import FORMAT, read_log
from jurata_core.match_log.kinds import read_observation
from jurata_core.times import minutes, to_seconds

from .models import Match, Observation

SLACK_MS = 1_000
"""How far past the end of its clip an observation may lie: players round the end of a clip."""


def check_settings(values: dict[str, Any]) -> None:
    """Whether the core can score a match set up like this. Raises FaultyInput."""
    division = {name: values[name] for name in ("age", "belt", "attire")}
    duration = to_seconds(values["duration_ms"])
    read_log(
        {"format": FORMAT, "ruleset": values["ruleset"], "duration": duration, "division": division, "observations": []}
    )


@transaction.atomic
def set_up(owner: AbstractBaseUser, values: dict[str, Any], log: dict[str, Any] | None = None) -> Match:
    """A new match, empty or with the observations of a match log.

    The log's ruleset, duration and division come with it. Raises FaultyInput
    with every fault of the log, and then keeps nothing.
    """
    if log is not None:
        checked = read_log(log)
        values = values | {
            "ruleset": checked.raw["ruleset"],
            "duration_ms": checked.duration,
            "age": checked.division.age,
            "belt": checked.division.belt,
            "attire": checked.division.attire,
        }
    check_settings(values)
    match = Match.objects.create(owner_id=owner.pk, **values)
    if log is not None:
        for number, body in enumerate(checked.raw["observations"]):
            key = str(body.get("id") or uuid.uuid4())
            Observation.objects.create(match=match, key=key, sequence=number, body={**body, "id": key})
    return match


@transaction.atomic
def record(match: Match, key: str, body: dict[str, Any]) -> list[dict[str, Any]]:
    """Store an observation under its key: made, corrected or brought back, once however often it is sent.

    Returns what is logged now, in its order.
    """
    rows = _locked_rows(match)
    body = {**body, "id": key}
    _check(match, body)
    found = next((row for row in rows if row.key == key), None)
    if found is None:
        sequence = rows[-1].sequence + 1 if rows else 0
        rows.append(Observation.objects.create(match=match, key=key, sequence=sequence, body=body))
    else:
        found.body, found.deleted = body, False
        found.save()
    return [row.body for row in rows if not row.deleted]


@transaction.atomic
def take_back(match: Match, key: str) -> list[dict[str, Any]]:
    """Mark an observation as deleted, and return what is left. Deleting it twice is the same as once."""
    rows = _locked_rows(match)
    for row in rows:
        if row.key == key and not row.deleted:
            row.deleted = True
            row.save()
    return [row.body for row in rows if not row.deleted]


def _locked_rows(match: Match) -> list[Observation]:
    """All rows of a match, deleted ones too. One change after another: their order is part of the log."""
    Match.objects.select_for_update().only("pk").get(pk=match.pk)
    return list(Observation.objects.filter(match=match))


def _check(match: Match, body: dict[str, Any]) -> None:
    faults: list[Fault] = []
    seen = read_observation(body, 0, "", faults)
    length = match.clip.duration_ms if match.clip else None
    if seen is not None and length is not None and seen.t > length + SLACK_MS:
        message = f"{minutes(seen.t)} is after the end of the clip ({minutes(length)})"
        faults.append(Fault("t", message, "out_of_range"))
    if faults:
        raise FaultyInput(faults)
