"""The practice match: one for each coach, on a clip that the simulated camera films. It counts nowhere."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from clubs.models import Club
from footage.filming import have_filmed
from footage.models import Clip
from jurata_core.practice import LookingBack, look_back, practice_log
from roster.models import Athlete

from .actions import set_up
from .models import Match
from .standing import standing

CLIP_NAME = "practice.webm"
ATHLETE, OPPONENT = "Kester Alm", "Bram Odell"
BORN = 2000


@transaction.atomic
def practice_of(club: Club, scorer: AbstractBaseUser, again: bool = False) -> Match:
    """The practice match of one who scores: the one that was begun, or a new one; ``again``: with nothing logged."""
    athlete, _ = Athlete.objects.get_or_create(
        club=club, practice=True, defaults={"name": ATHLETE, "birth_year": BORN, "belt": "white"}
    )
    athlete = Athlete.objects.select_for_update().get(pk=athlete.pk)  # two windows begin one practice
    begun = Match.objects.select_related("athlete", "clip").filter(athlete=athlete, scorer=scorer.pk).first()
    if begun is not None and not again:
        return begun
    Match.with_deleted.filter(athlete=athlete, scorer=scorer.pk).delete()
    log = practice_log()
    division = log["division"]
    values = {
        "athlete": athlete, "opponent": OPPONENT, "event": "Practice", "clip": _clip(club.pk, scorer.pk),
        "practice": True,
        "ruleset": log["ruleset"], "duration_ms": log["duration"] * 1000, **division,
        "athlete_looks": "amber gi", "opponent_looks": "blue gi",
    }  # fmt: skip
    return set_up(scorer, values)


def _clip(club: int, uploader: int) -> Clip:
    """The practice clip among somebody's clips; where it is not there, or failed, it is filmed."""
    found = Clip.objects.filter(club=club, uploader=uploader, name=CLIP_NAME).exclude(script=None).first()
    if found is not None and found.state != Clip.State.FAILED:
        return found
    return have_filmed(club, uploader, CLIP_NAME, practice_log())


def looking_back(match: Match) -> LookingBack:
    """What was logged of the practice clip, set against what it shows."""
    now = standing(match)
    return look_back(now.log, now.verdict)
