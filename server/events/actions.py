"""What is done with a day of fights."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import transaction

from clubs.access import Access
from config.refusals import Refused
from jurata_core.divisions import Division, match_length
from jurata_core.faults import Fault, FaultyInput, quoted
from jurata_core.season.day import MOST_FIGHTS, read_fights
from matches.actions import set_up
from matches.models import Match
from roster.models import Athlete

from .models import EventDay, Fight

USUAL_MS = 300_000
"""How long a match is taken to be whose division has no usual length; it is changed at its desk."""


def division_of(fight: Fight) -> Division:
    """The division of a fight: the age that counts that year, and the athlete's belt."""
    athlete = fight.athlete
    return Division(fight.day.date.year - athlete.birth_year, athlete.belt, "gi" if fight.attire == "gi" else "nogi")


@transaction.atomic
def take_table(day: EventDay, text: str, access: Access) -> list[Fight]:
    """The fights of a CSV table, added to a day. Raises FaultyInput, and then adds none."""
    rows = read_fights(text)
    if day.fights.count() + len(rows) > MOST_FIGHTS:
        raise Refused("too_many", f"A day holds {MOST_FIGHTS} fights.")
    mine = Athlete.objects.filter(access.athletes(), club=day.club, practice=False)
    athletes = {one.name.casefold(): one for one in mine}
    unknown = [one.athlete for one in rows if one.athlete.casefold() not in athletes]
    if unknown:
        faults = [
            Fault("athlete", f"{quoted(name)} is not an athlete of yours", "unknown") for name in dict.fromkeys(unknown)
        ]
        raise FaultyInput(faults)
    made = [
        Fight(
            day=day, athlete=athletes[one.athlete.casefold()], opponent=one.opponent, club=one.club, time=one.time,
            mat=one.mat, round=one.round, weight_class=one.weight_class, attire=one.attire,
            ruleset=one.ruleset or None,
        )
        for one in rows
    ]  # fmt: skip
    return Fight.objects.bulk_create(made)


@transaction.atomic
def begin(fight: Fight, scorer: User) -> Match:
    """Set the match of a fight up; asked for twice it is the same match."""
    locked = Fight.objects.select_for_update(of=("self",)).select_related("day", "athlete", "match").get(pk=fight.pk)
    if locked.match is not None:
        return locked.match
    if not locked.opponent:
        raise FaultyInput([Fault("opponent", "is missing: say who the opponent is first", "missing")])
    division = division_of(locked)
    values = {
        "athlete": locked.athlete, "opponent": locked.opponent, "club": locked.club, "event": locked.day.name,
        "date": locked.day.date, "round": locked.round, "weight_class": locked.weight_class, "mat": locked.mat,
        "ruleset": locked.rules, "duration_ms": match_length(division) or USUAL_MS, "age": division.age,
        "belt": division.belt, "attire": division.attire,
    }  # fmt: skip
    match = set_up(scorer, values)
    locked.match = match
    locked.save(update_fields=["match"])
    return match
