"""What is done with drills and plans."""

from __future__ import annotations

import datetime
import secrets
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from clubs.actions import digest_of
from clubs.models import Club
from config.refusals import Refused
from jurata_core.faults import Fault, FaultyInput
from jurata_core.season import Played
from jurata_core.season.plan import LONGEST_PLAN, MOST_DRILLS, days_of, examples, proposed, wanted
from jurata_core.season.plan import Drill as CoreDrill
from reviews.actions import refuse_link
from roster.models import Athlete

from .models import Drill, Plan, Planned

MOST_IN_LIBRARY, MOST_PLANNED = 300, 1_000


def core_drill(drill: Drill) -> CoreDrill:
    """A drill as the core proposes it."""
    lists = (tuple(of) for of in (drill.kinds, drill.causes, drill.positions))
    return CoreDrill(str(drill.pk), drill.name, drill.about, drill.minutes, *lists)


def library(club: int) -> list[Drill]:
    """The drills that a club has now."""
    return list(Drill.objects.filter(club=club, archived=False))


def add_drill(club: Club, values: dict[str, Any]) -> Drill:
    """A new drill of the library."""
    if len(library(club.pk)) >= MOST_IN_LIBRARY:
        raise Refused("too_many", f"The library holds {MOST_IN_LIBRARY} drills. Remove some you no longer use.")
    return Drill.objects.create(club=club, **values)


@transaction.atomic
def add_examples(club: Club) -> None:
    """Put the drills that ship with the product into a library, those that it does not have by name."""
    there = set(Drill.objects.filter(club=club, archived=False).values_list("name", flat=True))
    for one in examples():
        if one.name not in there:
            values = {"name": one.name, "about": one.about, "minutes": one.minutes}
            lists = {"kinds": list(one.kinds), "causes": list(one.causes), "positions": list(one.positions)}
            add_drill(club, values | lists)


@transaction.atomic
def make_plan(athlete: Athlete, author: User, played: list[Played], values: dict[str, Any]) -> Plan:
    """A plan with what is proposed for the athlete's errors; it is empty where no drill is for any of them.

    Raises FaultyInput for days in the wrong order, or too far apart.
    """
    start, until = values["start"], values["until"]
    if until <= start:
        raise FaultyInput([Fault("until", "should be after the day on which the plan begins", "out_of_range")])
    if until - start > LONGEST_PLAN:
        raise FaultyInput([Fault("until", "is more than a year after the plan begins", "out_of_range")])
    drills = library(athlete.club_id)
    if not drills:
        raise Refused("no_drills", "The club has no drills yet. Add some first, or start with the examples.")
    plan = Plan.objects.create(athlete=athlete, author=author, **values)
    best = wanted([core_drill(one) for one in drills], played)[:MOST_DRILLS]
    days = days_of(start, until, plan.sessions)
    rows = proposed(best, days, plan.minutes)
    Planned.objects.bulk_create(Planned(plan=plan, drill_id=int(one.drill), day=one.day) for one in rows)
    return plan


def put(plan: Plan, drill: Drill, day: datetime.date) -> Planned:
    """Put a drill on a day of a plan. Raises FaultyInput for a day outside of it."""
    _check_day(plan, day)
    if plan.planned.count() >= MOST_PLANNED:
        raise Refused("too_many", f"A plan holds {MOST_PLANNED} drills.")
    return Planned.objects.create(plan=plan, drill=drill, day=day)


def move(one: Planned, day: datetime.date) -> None:
    """Move a drill to another day of its plan."""
    _check_day(one.plan, day)
    one.day = day
    one.save(update_fields=["day"])


def _check_day(plan: Plan, day: datetime.date) -> None:
    if not plan.start <= day < plan.until:
        last = plan.until - datetime.timedelta(days=1)
        raise FaultyInput([Fault("day", f"{day} is not from {plan.start} to {last}", "out_of_range")])


def tick(one: Planned, done: bool) -> None:
    """Tick a drill off, or take that back."""
    if done != (one.done is not None):
        one.done = timezone.now() if done else None
        one.save(update_fields=["done"])


def make_link(plan: Plan, days: int) -> str:
    """The token of a link that shows a plan for so many days; an earlier link to it ends."""
    refuse_link(plan.athlete, days)
    token = secrets.token_urlsafe(24)
    plan.digest, plan.link_ends = digest_of(token), timezone.now() + datetime.timedelta(days=days)
    plan.save(update_fields=["digest", "link_ends"])
    return token


def open_link(token: str) -> Plan | None:
    """The plan that a token shows, where it still does."""
    rows = Plan.objects.filter(digest=digest_of(token), link_ends__gt=timezone.now())
    plan = rows.select_related("athlete__club").first()
    if plan is not None and plan.athlete.child and plan.athlete.consent is None:
        return None  # it was taken back
    return plan
