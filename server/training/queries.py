"""Plans as they are shown."""

from __future__ import annotations

from itertools import groupby
from operator import attrgetter
from typing import Any

from clubs.access import Access
from jurata_core.season import Played
from jurata_core.season.plan import effects, wanted
from jurata_core.season.words import said_change
from roster.models import Athlete
from seasons.queries import played_of

from .actions import core_drill, library
from .models import Plan, Planned


def plan_json(plan: Plan, name: str) -> dict[str, Any]:
    """A plan day by day, without anything of the athlete's matches."""
    rows = list(plan.planned.select_related("drill"))
    return {
        "id": plan.pk,
        "athlete": name,
        "event": plan.event,
        "start": plan.start,
        "until": plan.until,
        "sessions": plan.sessions,
        "minutes": plan.minutes,
        "link_ends": plan.link_ends,
        "done": sum(one.done is not None for one in rows),
        "of": len(rows),
        "days": [
            {"day": day, "planned": [_planned(one) for one in of]} for day, of in groupby(rows, key=attrgetter("day"))
        ],
    }


def _planned(one: Planned) -> dict[str, Any]:
    drill = one.drill
    return {
        "id": one.pk,
        "drill": drill.pk,
        "name": drill.name,
        "about": drill.about,
        "minutes": drill.minutes,
        "done": one.done is not None,
    }


def plans_json(access: Access, athlete: Athlete) -> dict[str, Any]:
    """The plans of an athlete with what changed since each began, and the drills that would help now."""
    played = played_of(access, athlete)
    drills = [core_drill(one) for one in library(athlete.club_id)]
    plans = Plan.objects.filter(athlete=athlete).prefetch_related("planned__drill")
    return {
        "athlete": {"id": athlete.pk, "name": athlete.name, "belt": athlete.belt},
        "wanted": [
            {"drill": int(one.drill.id), "name": one.drill.name, "minutes": one.drill.minutes, "because": one.because}
            for one in wanted(drills, played)
        ],
        "plans": [{**plan_json(plan, athlete.name), "effects": _effects(plan, played)} for plan in plans],
    }


def _effects(plan: Plan, played: list[Played]) -> list[dict[str, Any]]:
    drills = list({one.drill_id: core_drill(one.drill) for one in plan.planned.all()}.values())
    return [
        {
            "drill": int(one.drill.id),
            "name": one.drill.name,
            "word": one.change.word,
            "since": one.change.since.matches,
            "said": said_change(one.change, plan.start),
        }
        for one in effects(drills, played, plan.start)
    ]
