"""What can be done with a match: set up, take in a log, record, correct and take back observations."""

from __future__ import annotations

import json
import uuid
from collections.abc import Container
from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import quote
from urllib.request import urlopen

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, connection, transaction
from django.db.models import Q, QuerySet
from django.http import Http404
from django.utils import timezone

from clubs.access import is_head_coach
from config.refusals import Clash, NotAllowed, NotThere, OtherServiceDown, Refused
from config.sizes import LARGEST_OBSERVATION, LARGEST_RULESET, LONGEST_TEXT, size_faults
from jurata_core.adjudication import adjudicate
from jurata_core.audit import read_calls
from jurata_core.faults import Fault, FaultyInput
from jurata_core.match_log import FORMAT, read_log
from jurata_core.match_log.kinds import read_observation
from jurata_core.times import minutes, to_seconds
from jurata_core.whatif import Resetting, reset
from rulebook.models import house_rules_of

from .logs import FROM_TABLE, bodies, log_of
from .models import Change, Match, Observation, Presence, Summary
from .parts import Part, ends_before, lay_out, parts_of
from .standing import standing

TABLE_SECONDS, TABLE_BYTES = 10, 1024 * 1024
"""How long the table is waited for, and how much is read from it."""
SLIDING = timedelta(seconds=20)
"""Moves of one observation along time within so long are one step of the history."""
SETTING = ("ruleset", "duration_ms", "age", "belt", "attire")
"""What a verdict depends on apart from the log."""
LONGEST_KEY = 64
LATER = 1_000_000
"""What is logged at the desk is numbered from here on, by the revision: after all that a log file may hold."""
KEPT_DELETED = timedelta(days=30)
"""How long a match that was deleted can be restored."""
EPOCHS_SINCE = datetime(2026, 1, 1, tzinfo=UTC)
"""A restore moves revisions on by the milliseconds since then: no match has changed that often."""
PRESENT_FOR = timedelta(seconds=12)
"""So long after a desk was last heard of, somebody counts as being at it."""
SLACK_MS = 1_000
"""How far past the end of its clip an observation may lie: players round the end of a clip."""


def check_settings(values: dict[str, Any]) -> None:
    """Whether the core can score a match set up like this. Raises FaultyInput."""
    division = {name: values[name] for name in ("age", "belt", "attire")}
    length = values["duration_ms"]
    duration = None if length is None else to_seconds(length)
    read_log(
        {"format": FORMAT, "ruleset": values["ruleset"], "duration": duration, "division": division, "observations": []}
    )


@transaction.atomic
def set_up(scorer: AbstractBaseUser, values: dict[str, Any], log: dict[str, Any] | None = None) -> Match:
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
            "plan": checked.raw.get("plan") or "",
        }
    check_settings(values)
    _check_club(values, values["athlete"].club_id)
    faults = list(size_faults(values["ruleset"], LARGEST_RULESET, "ruleset"))
    if len(values.get("plan", "")) > LONGEST_TEXT:
        faults.append(Fault("plan", f"has more than {LONGEST_TEXT} characters", "too_large"))
    for number, one in enumerate([] if log is None else checked.raw["observations"]):
        faults += size_faults(one, LARGEST_OBSERVATION, f"log.observations[{number}]")
    if faults:
        raise FaultyInput(faults)
    rules = house_rules_of(values["athlete"].club_id, values["ruleset"])
    match = Match.objects.create(scorer_id=scorer.pk, house_rules=rules, **values)
    if match.clip is not None:
        lay_out(match, parts_of(match))
    if log is not None:
        keys = {one.index: str(one.id or uuid.uuid4()) for one in checked.observations}
        faults = [
            fault
            for number, key in sorted(keys.items())
            for fault in _key_faults(key, f"log.observations[{number}].id")
        ]
        if faults:
            raise FaultyInput(faults)
        bodies = enumerate(checked.raw["observations"])
        rows = (
            Observation(match=match, key=keys[number], sequence=number, body={**body, "id": keys[number]})
            for number, body in bodies
        )
        Observation.objects.bulk_create(rows, batch_size=2_000)
    return match


def change_setting(match: Match, values: dict[str, Any], by: int) -> Match:
    """Change what a locked match is about. What its verdict depends on raises its revision, as a change of its log.

    A child's match becomes a grown athlete's by a head coach alone: more people see it then.
    """
    _check_club(values, match.athlete.club_id)
    whose = values.get("athlete", match.athlete)
    if match.athlete.child and not whose.child and not is_head_coach(by, match.athlete.club_id):
        message = f"{match.athlete.name} is a child. A head coach of the club has to make this {whose.name}'s match."
        raise NotAllowed("changes_who_sees", message)
    before = {name: getattr(match, name) for name in SETTING}
    check_settings(before | {name: value for name, value in values.items() if name in SETTING})
    for name, value in values.items():
        setattr(match, name, value)
    match.house_rules = house_rules_of(match.athlete.club_id, match.ruleset)
    if any(getattr(match, name) != value for name, value in before.items()):
        match.revision += 1
    match.save()
    if "clip" in values:  # one clip in place of whatever was laid out
        lay_out(match, [] if match.clip is None else [Part(match.clip, 0)])
    return match


def _check_club(values: dict[str, Any], club: int) -> None:
    """Refuse what is of another club than a match. Raises FaultyInput."""
    faults = [
        Fault(name, "is of another club", "unknown")
        for name in ("athlete", "clip") if values.get(name) is not None and values[name].club_id != club
    ]  # fmt: skip
    if faults:
        raise FaultyInput(faults)


def preview_setting(match: Match, values: dict[str, Any]) -> Resetting:
    """What a change of a match's setting would make of its score. Nothing is stored. Raises FaultyInput."""
    setting = {name: values.get(name, getattr(match, name)) for name in SETTING}
    check_settings(setting)
    changed = Match(plan=match.plan, **setting)
    log = read_log(log_of(changed, bodies(match)))
    return reset(standing(match).verdict, adjudicate(log))


def _key_faults(key: str, path: str) -> list[Fault]:
    """What is wrong with the key of an observation."""
    if len(key) <= LONGEST_KEY and key.isprintable():
        return []
    return [Fault(path, f"should be text of up to {LONGEST_KEY} characters, without line breaks", "too_large")]


def record(
    match: Match, key: str, body: dict[str, Any], who: AbstractBaseUser, based_on: int | None = None
) -> list[Observation]:
    """Store an observation under its key: made, corrected or brought back, once however often it is sent.

    ``based_on`` is the revision of the key that the change was made on. Raises
    Refused("conflict") where it was changed since by another hand, and keeps that.
    The match is a locked one; returns what was written.
    """
    _refuse_finished(match)
    if faults := _key_faults(key, "id"):
        raise FaultyInput(faults)
    _check(match, body)
    return _put(match, key, body, who, based_on, standing(match).revisions)


def take_back(match: Match, key: str, who: AbstractBaseUser, based_on: int | None = None) -> list[Observation]:
    """Mark an observation as deleted. Deleting it twice is the same as once. Otherwise as :func:`record`."""
    _refuse_finished(match)
    found = match.observations.filter(key=key, deleted=False).first()
    if found is None:
        return []
    _refuse_conflict(found.revision, based_on)
    return [_change(match, found, who, None)]


def _put(
    match: Match, key: str, body: dict[str, Any], who: AbstractBaseUser, based_on: int | None, known: Container[str]
) -> list[Observation]:
    """Put an observation into a locked match; nothing happens where it is there already."""
    body = {**body, "id": key}
    found = match.observations.get(key=key) if key in known else None
    if found is not None and not found.deleted and found.body == body:
        return []
    _refuse_conflict(0 if found is None else found.revision, based_on)
    if found is None:
        found = Observation(match=match, key=key, sequence=LATER + match.revision, body=body, deleted=True)
    return [_change(match, found, who, body)]


def locked(match: uuid.UUID) -> Match:
    """A match for changing, to be asked for in a transaction. Raises Http404 where it is gone.

    One change comes after another: their order is part of the log.
    """
    # Written out, because it is asked at every key: putting it together takes Django longer than all the rest of a key.
    found = Match.objects.raw("select * from matches_match where id = %s and deleted is null for update", [match])
    try:
        return found[0]
    except IndexError:
        raise Http404 from None


def _refuse_finished(match: Match) -> None:
    if match.finished:
        raise Refused("handed_over", "This second score has been submitted and can no longer be changed.")


def _refuse_conflict(revision: int, based_on: int | None) -> None:
    if based_on is not None and revision != based_on:
        raise Clash("conflict", "This was also changed in another window. Compare the two and choose.")


def _change(match: Match, row: Observation, who: AbstractBaseUser, body: dict[str, Any] | None) -> Observation:
    """Save a row's new state and its step of the history; a body of None deletes it."""
    before = None if row.deleted else row.body
    match.revision += 1
    match.save(update_fields=["revision", "changed"])
    row.body, row.deleted, row.revision = row.body if body is None else body, body is None, match.revision
    row.save()
    last = match.changes.first() if before and body else None
    if last is not None and _goes_on(last, row.key, who, before, body):
        last.after, last.revision = body, match.revision
        last.save(update_fields=["after", "revision"])
    else:
        Change.objects.create(
            match=match, key=row.key, who_id=who.pk, before=before, after=body, revision=match.revision
        )
    return row


def _goes_on(last: Change, key: str, who: AbstractBaseUser, before: Any, after: Any) -> bool:
    """Whether a change is one more step of a move along time by the same hand: the history keeps it as one."""
    if last.key != key or last.who_id != who.pk or not (last.before and before and after):
        return False
    return timezone.now() - last.at < SLIDING and _still(last.before) == _still(before) == _still(after)


def _still(body: dict[str, Any]) -> dict[str, Any]:
    """An observation without its times."""
    return {name: value for name, value in body.items() if name not in ("t", "until")}


@transaction.atomic
def delete(match: Match) -> None:
    """Delete a match with its second scores; they can be restored for :data:`KEPT_DELETED`. Its clips stay."""
    now = timezone.now()
    gone = Match.objects.filter(Q(pk=match.pk) | Q(second_of=match))
    for summary in Summary.objects.filter(match__in=gone):
        summary.delete()  # one by one: what they taught the estimates goes with them
    gone.update(deleted=now)


@transaction.atomic
def restore(match: Match) -> None:
    """Take the deletion of a match back, and of the second scores that went with it."""
    together = Match.with_deleted.filter(Q(pk=match.pk) | Q(second_of=match), deleted=match.deleted)
    together.update(deleted=None)


REVISED = ("matches_match", "matches_summary", "matches_observation", "matches_change")


def begin_epoch() -> None:
    """After a restore: put all revisions beyond those that were given since the backup, so that none comes twice.

    A tab that was open all the while sees then that its log is another one, and no change of its own is taken for one
    that was made on what is there now.
    """
    ahead = int((timezone.now() - EPOCHS_SINCE).total_seconds()) * 1_000
    with transaction.atomic(), connection.cursor() as cursor:
        for table in REVISED:
            cursor.execute(f"update {table} set revision = revision + %s", [ahead])


def be_present(match: uuid.UUID, user: AbstractBaseUser, t: int) -> QuerySet[Presence]:
    """Say that somebody is at the desk with the playhead at ``t`` ms of the footage; the others who are there now.

    Raises Http404 where the match was removed for good since it was looked for.
    """
    now = timezone.now()
    here = Presence(match_id=match, user_id=user.pk, t_ms=t, at=now)
    try:
        Presence.objects.bulk_create(
            [here], update_conflicts=True, unique_fields=["match", "user"], update_fields=["t_ms", "at"]
        )
    except IntegrityError:
        raise Http404 from None
    others = Presence.objects.filter(match=match, at__gt=now - PRESENT_FOR).exclude(user=user.pk)
    return others.select_related("user").order_by("user__first_name", "user__username")


def remove_for_good(matches: QuerySet[Match]) -> int:
    """Remove deleted matches with all that belongs to them; this can't be taken back. How many there were."""
    gone = list(matches.exclude(deleted=None))
    for match in gone:
        match.delete()
    return len(gone)


def take_calls(match: Match, text: str, who: AbstractBaseUser) -> list[Observation]:
    """Put the calls of a scoreboard table into the log of a locked match. Returns what was written.

    Reading the same ones again adds nothing: they only move where the log's clock was
    corrected since, and what a coach deleted stays deleted.
    """
    _refuse_finished(match)
    before = standing(match)
    deleted = set(match.observations.filter(deleted=True).values_list("key", flat=True))
    written: list[Observation] = []
    for number, call in enumerate(read_calls(text, before.verdict)):
        key = f"{FROM_TABLE}{number}-{call['clock']}-{call['to']}"
        if key not in deleted:
            written += _put(match, key, call, who, None, before.revisions)
    return written


def fetch_calls(name: str) -> str:
    """The calls of a match from the scoreboard table, as lines of JSON."""
    return _ask_table(f"calls/{quote(name, safe='')}?speed=0")


def matches_on_table() -> list[str]:
    """What the scoreboard table has; empty where there is no table."""
    if not settings.TABLE:
        return []
    found = json.loads(_ask_table("matches"))
    return [str(name) for name in found]


def _ask_table(path: str) -> str:
    if not settings.TABLE:
        raise NotThere("no_table", "No scoreboard table is set up here; its calls can be read from a file.")
    try:
        with urlopen(f"{settings.TABLE.rstrip('/')}/{path}", timeout=TABLE_SECONDS) as answer:
            text: str = answer.read(TABLE_BYTES).decode("utf-8", "replace")
            return text
    except (OSError, ValueError):
        message = "The scoreboard table does not answer. Is it running? Its calls can also be read from a file."
        raise OtherServiceDown("table_away", message) from None


@transaction.atomic
def ask_second(match: Match, scorer: AbstractBaseUser) -> Match:
    """Ask another user to score the match again without seeing this score; asking twice is the same as once."""
    if scorer.pk == match.scorer_id:
        raise Refused("own_match", "This is your own score. Ask someone else for a second one.")
    if match.second_of_id is not None:
        raise Refused("is_second", "This is already a second score.")
    found = match.seconds.filter(scorer_id=scorer.pk).first()
    if found is not None:
        return found
    kept = ("athlete", "opponent", "event", "date", "ruleset", "house_rules", "duration_ms", "age", "belt", "attire")
    second = Match.objects.create(scorer_id=scorer.pk, second_of=match, **{name: getattr(match, name) for name in kept})
    lay_out(second, parts_of(match))
    return second


def finish_second(match: Match) -> Match:
    """Say that a second score is done; from then on its scorer may see the first."""
    if match.second_of_id is None:
        raise Refused("not_second", "Only a second score can be submitted.")
    match.finished = True
    match.save(update_fields=["finished"])
    return match


def _check(match: Match, body: dict[str, Any]) -> None:
    faults = list(size_faults(body, LARGEST_OBSERVATION, ""))
    seen = read_observation(body, 0, "", faults)
    end = None if seen is None else ends_before(match, seen.t - SLACK_MS)
    if seen is not None and end is not None:
        message = f"{minutes(seen.t)} is after the end of the clip ({minutes(end)})"
        faults.append(Fault("t", message, "out_of_range"))
    if faults:
        raise FaultyInput(faults)
