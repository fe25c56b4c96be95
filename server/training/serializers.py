"""What of drills and plans goes over HTTP, in and out."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from config.choices import POSITIONS
from jurata_core.review import kinds
from jurata_core.season.mistakes import parts_of
from reviews.serializers import LONGEST_DAYS
from roster.models import Athlete
from seasons.views.season import WORDS, OfAthleteSerializer

from .models import LONGEST_DRILL, LONGEST_SESSION, Drill, Plan, Planned

LONGEST_CAUSE, MOST_TAGS = 40, 40


class DrillOfLibrarySerializer(serializers.ModelSerializer[Drill]):
    """A drill and what it is for: kinds of errors, causes and positions."""

    minutes = serializers.IntegerField(min_value=1, max_value=LONGEST_DRILL)
    kinds = serializers.ListField(child=serializers.CharField(max_length=LONGEST_CAUSE), max_length=MOST_TAGS)
    causes = serializers.ListField(child=serializers.CharField(max_length=LONGEST_CAUSE), max_length=MOST_TAGS)
    positions = serializers.ListField(child=serializers.ChoiceField(POSITIONS), max_length=MOST_TAGS)

    class Meta:
        model = Drill
        fields = ["id", "name", "about", "minutes", "kinds", "causes", "positions"]

    def validate_kinds(self, value: list[str]) -> list[str]:
        if unknown := set(value) - {part for kind in kinds() for part in (kind, *parts_of(kind))}:
            raise serializers.ValidationError(f"{', '.join(sorted(unknown))}: there is no such kind of error")
        return value


class NewPlanSerializer(serializers.ModelSerializer[Plan]):
    sessions = serializers.IntegerField(min_value=1, max_value=7, help_text="a week")
    minutes = serializers.IntegerField(min_value=5, max_value=LONGEST_SESSION, help_text="of each session")

    class Meta:
        model = Plan
        fields = ["event", "start", "until", "sessions", "minutes"]


class PlannedSerializer(serializers.Serializer[Any]):
    """A drill on its day."""

    id = serializers.IntegerField()
    drill = serializers.IntegerField()
    name = serializers.CharField()
    about = serializers.CharField()
    minutes = serializers.IntegerField()
    done = serializers.BooleanField()


class PlanDaySerializer(serializers.Serializer[Any]):
    day = serializers.DateField()
    planned = PlannedSerializer(many=True)


class PlanSerializer(serializers.Serializer[Any]):
    """A plan as everybody sees it who may: nothing of matches is in it."""

    id = serializers.IntegerField()
    athlete = serializers.CharField(help_text="the name; of a child the first name, outside the club")
    event = serializers.CharField()
    start = serializers.DateField()
    until = serializers.DateField()
    sessions = serializers.IntegerField()
    minutes = serializers.IntegerField()
    link_ends = serializers.DateTimeField(allow_null=True)
    done = serializers.IntegerField(help_text="how many drills were ticked off")
    of = serializers.IntegerField()
    days = PlanDaySerializer(many=True)


class EffectSerializer(serializers.Serializer[Any]):
    """What became of the errors that a drill is for, in the matches since the plan began."""

    drill = serializers.IntegerField()
    name = serializers.CharField()
    word = serializers.ChoiceField(WORDS)
    since = serializers.IntegerField(help_text="how many matches there were since")
    said = serializers.CharField()


class PlanOfAthleteSerializer(PlanSerializer):
    effects = EffectSerializer(many=True)


class WantedDrillSerializer(serializers.Serializer[Any]):
    """A drill that would help, and why."""

    drill = serializers.IntegerField()
    name = serializers.CharField()
    minutes = serializers.IntegerField()
    because = serializers.CharField()


class PlansSerializer(serializers.Serializer[Any]):
    athlete = OfAthleteSerializer()
    wanted = WantedDrillSerializer(many=True)
    plans = PlanOfAthleteSerializer(many=True, help_text="the latest first")


class NewPlannedSerializer(serializers.ModelSerializer[Planned]):
    class Meta:
        model = Planned
        fields = ["drill", "day"]

    drill = serializers.IntegerField()


class ChangePlannedSerializer(serializers.Serializer[Any]):
    day = serializers.DateField(required=False)
    done = serializers.BooleanField(required=False)


class DoneSerializer(serializers.Serializer[Any]):
    done = serializers.BooleanField()


class PlanLinkSerializer(serializers.Serializer[Any]):
    days = serializers.IntegerField(min_value=1, max_value=LONGEST_DAYS)


class MadePlanLinkSerializer(serializers.Serializer[Any]):
    token = serializers.CharField(help_text="shown this once")
    plan = PlanSerializer()


def outside_name(athlete: Athlete) -> str:
    """How an athlete is called outside the club: of children the first name only."""
    return athlete.name.split()[0] if athlete.child else athlete.name
