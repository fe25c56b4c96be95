"""The practice match: one for each coach, on a clip that the simulated camera films. It counts nowhere."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from footage.filming import have_filmed
from footage.models import Clip
from jurata_core.practice import LookingBack, look_back, practice_log
from roster.models import Athlete

from .actions import set_up
from .models import Match
from .queries import own_matches
from .standing import standing

CLIP_NAME = "practice.webm"
ATHLETE, OPPONENT = "Kester Alm", "Bram Odell"
BORN = 2000


@transaction.atomic
def practice_of(owner: AbstractBaseUser, again: bool = False) -> Match:
    """The practice match of a coach: the one that was begun, or a new one; ``again``: with nothing logged."""
    athlete, _ = Athlete.objects.get_or_create(
        owner_id=owner.pk, practice=True, defaults={"name": ATHLETE, "birth_year": BORN, "belt": "white"}
    )
    athlete = Athlete.objects.select_for_update().get(pk=athlete.pk)  # two windows begin one practice
    begun = own_matches(owner.pk).filter(practice=True).first()
    if begun is not None and not again:
        return begun
    Match.with_deleted.filter(owner_id=owner.pk, practice=True).delete()
    log = practice_log()
    division = log["division"]
    values = {
        "athlete": athlete, "opponent": OPPONENT, "event": "Practice", "clip": _clip(owner.pk), "practice": True,
        "ruleset": log["ruleset"], "duration_ms": log["duration"] * 1000, **division,
        "athlete_looks": "amber gi", "opponent_looks": "blue gi",
    }  # fmt: skip
    return set_up(owner, values)


def _clip(owner: int) -> Clip:
    """The practice clip among a coach's clips; where it is not there, or failed, it is filmed."""
    found = Clip.objects.filter(owner_id=owner, name=CLIP_NAME).exclude(script=None).first()
    if found is not None and found.state != Clip.State.FAILED:
        return found
    return have_filmed(owner, CLIP_NAME, practice_log())


def looking_back(match: Match) -> LookingBack:
    """What was logged of the practice clip, set against what it shows."""
    now = standing(match)
    return look_back(now.log, now.verdict)
