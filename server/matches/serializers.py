"""What of matches goes over HTTP, in and out."""

from __future__ import annotations

from datetime import datetime
from typing import Any, cast

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from accounts.models import called
from clubs.access import asks
from config.choices import SIDES
from config.sizes import LONGEST_TEXT, BoundedListField, RulesetField
from footage.models import Clip
from footage.views import ClipSerializer
from jobs.serializers import JobSerializer
from jurata_core.times import to_seconds
from roster.models import Athlete

from .actions import KEPT_DELETED, TABLE_BYTES
from .logs import ruleset_title
from .models import Change, Match
from .parts import MOST_PARTS, parts_of
from .schema import (
    AwardField,
    BothField,
    ObservationField,
    RangeField,
    ResultField,
    VerdictChangeField,
    VerdictField,
)


class OwnField(serializers.PrimaryKeyRelatedField[Any]):
    """A reference to an athlete or a clip that the user may set a match up with; any other does not exist."""

    def get_queryset(self) -> QuerySet[Any]:
        queryset = cast(QuerySet[Any], super().get_queryset())
        access = self.context.get("access") or asks(self.context["request"])
        return queryset.filter(access.athletes() if queryset.model is Athlete else access.clips())


class ReadingSerializer(serializers.Serializer[Any]):
    """What the scoreboard in the clip showed as left at a time of the footage, both in seconds."""

    t = serializers.FloatField(min_value=0, max_value=1e6)
    left = serializers.FloatField(min_value=0, max_value=1e6)


class MatchSerializer(serializers.ModelSerializer[Match]):
    athlete = OwnField(queryset=Athlete.objects.all())
    athlete_name = serializers.CharField(source="athlete.name", read_only=True)
    clip = OwnField(queryset=Clip.objects.exclude(state=Clip.State.UPLOADING), allow_null=True, required=False)
    ruleset = RulesetField()
    ruleset_title = serializers.SerializerMethodField()
    duration_ms = serializers.IntegerField(min_value=1_000, max_value=86_400_000, allow_null=True)
    plan = serializers.CharField(max_length=LONGEST_TEXT, allow_blank=True, required=False)

    class Meta:
        model = Match
        fields = [
            "id", "athlete", "athlete_name", "opponent", "club", "event", "date", "round", "weight_class", "mat",
            "ruleset", "ruleset_title", "duration_ms", "age", "belt", "attire", "plan", "athlete_looks",
            "opponent_looks", "clip", "readings", "second_of", "finished", "practice", "due",
        ]  # fmt: skip
        read_only_fields = ["second_of", "finished", "practice", "due"]

    readings = serializers.ListField(child=ReadingSerializer(), required=False, max_length=50)

    def get_ruleset_title(self, match: Match) -> str:
        return ruleset_title(match.ruleset)


class NewMatchSerializer(MatchSerializer):
    """A new match; with ``log``, its ruleset, length, division and observations come from there."""

    log = serializers.JSONField(required=False)

    class Meta(MatchSerializer.Meta):
        fields = [*MatchSerializer.Meta.fields, "opens_ms", "closes_ms", "log"]
        extra_kwargs = {name: {"required": False} for name in ("age", "belt", "attire", "opens_ms", "closes_ms")}

    ruleset = RulesetField(required=False)
    duration_ms = serializers.IntegerField(min_value=1_000, max_value=86_400_000, allow_null=True, required=False)

    def validate(self, values: dict[str, Any]) -> dict[str, Any]:
        if "log" not in values:
            missing = [name for name in ("ruleset", "duration_ms", "age", "belt", "attire") if name not in values]
            if missing:
                raise serializers.ValidationError(dict.fromkeys(missing, "is missing"))
        return values


class WaitingSerializer(serializers.Serializer[Any]):
    """How many matches wait for the coach."""

    clips = serializers.IntegerField(help_text="clips that no match was set up for")
    not_scored = serializers.IntegerField()
    to_submit = serializers.IntegerField(help_text="second scores that were asked for and not handed in")
    answered = serializers.IntegerField(help_text="matches with replies of the athlete that were not looked at")


class DeletedMatchSerializer(serializers.ModelSerializer[Match]):
    """A match that was deleted and can be restored, until it is removed for good."""

    athlete_name = serializers.CharField(source="athlete.name")
    until = serializers.SerializerMethodField()

    class Meta:
        model = Match
        fields = ["id", "athlete_name", "opponent", "event", "date", "deleted", "until"]

    def get_until(self, match: Match) -> datetime:
        assert match.deleted is not None  # it was found by it
        return match.deleted + KEPT_DELETED


class RememberedEventSerializer(serializers.Serializer[Any]):
    """An event with the date and the ruleset that were last given for it."""

    event = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    ruleset = serializers.JSONField()


class RememberedOpponentSerializer(serializers.Serializer[Any]):
    """An opponent with the club that was last given."""

    opponent = serializers.CharField()
    club = serializers.CharField(allow_blank=True)


class RememberedSerializer(serializers.Serializer[Any]):
    events = RememberedEventSerializer(many=True)
    opponents = RememberedOpponentSerializer(many=True)
    clubs = serializers.ListField(child=serializers.CharField())
    rounds = serializers.ListField(child=serializers.CharField())
    weight_classes = serializers.ListField(child=serializers.CharField())
    mats = serializers.ListField(child=serializers.CharField())


class MatchRowSerializer(MatchSerializer):
    """A match in the list, with where its scoring stands."""

    observed = serializers.IntegerField(source="summary.observed")
    second_scores = serializers.IntegerField(help_text="how many second scores it has")
    poster = serializers.BooleanField(help_text="whether there is a picture of its clip")
    clip_job = JobSerializer(source="clip.job", allow_null=True, default=None, help_text="the work on its clip")
    score = serializers.SerializerMethodField(help_text="null where nothing is logged")
    result = serializers.SerializerMethodField(help_text="null where nothing is logged")
    because = serializers.CharField(source="summary.because")

    class Meta(MatchSerializer.Meta):
        fields = [
            *MatchSerializer.Meta.fields,
            "observed",
            "second_scores",
            "poster",
            "clip_job",
            "score",
            "result",
            "because",
        ]

    @extend_schema_field(BothField(allow_null=True))
    def get_score(self, match: Match) -> dict[str, Any] | None:
        return match.summary.score if match.summary.observed else None

    @extend_schema_field(ResultField(allow_null=True))
    def get_result(self, match: Match) -> dict[str, Any] | None:
        found = match.summary
        return {"winner": found.winner or None, "method": found.method} if found.observed else None


class ScoredSerializer(serializers.Serializer[Any]):
    observations = serializers.ListField(child=ObservationField())
    revisions = serializers.DictField(child=serializers.IntegerField(), help_text="of each key, deleted ones too")
    revision = serializers.IntegerField()
    verdict = VerdictField()


class ObservationSpliceSerializer(serializers.Serializer[Any]):
    """Remove so many from a place on, and put others there."""

    start = serializers.IntegerField()
    remove = serializers.IntegerField()
    add = serializers.ListField(child=ObservationField())


class ChangedSerializer(serializers.Serializer[Any]):
    """What has changed since revision ``base``; null: all that there is."""

    base = serializers.IntegerField(allow_null=True)
    revision = serializers.IntegerField()
    observations = ObservationSpliceSerializer()
    revisions = serializers.DictField(child=serializers.IntegerField(), help_text="of the keys that changed")
    verdict = VerdictChangeField()


class PartSerializer(serializers.Serializer[Any]):
    """A clip of the match with its place in the footage, and the part of it that the match is in; all in seconds."""

    clip = ClipSerializer()
    start = serializers.FloatField(help_text="where in the footage its first frame lies; may be before its beginning")
    opens = serializers.FloatField(help_text="where in the clip the match begins")
    closes = serializers.FloatField(allow_null=True, help_text="where in the clip the match ends; null: with the clip")


class DeskSerializer(ScoredSerializer):
    match = MatchSerializer()
    parts = PartSerializer(many=True)


class PlacedClipSerializer(serializers.Serializer[Any]):
    clip = OwnField(queryset=Clip.objects.exclude(state=Clip.State.UPLOADING))
    start = serializers.FloatField(min_value=-1e6, max_value=1e6)
    opens = serializers.FloatField(min_value=0, max_value=1e6, default=0)
    closes = serializers.FloatField(min_value=0, max_value=1e6, default=None, allow_null=True)


class PartsSerializer(serializers.Serializer[Any]):
    parts = BoundedListField(child=PlacedClipSerializer(), max_length=MOST_PARTS)


class RevisionSerializer(serializers.Serializer[Any]):
    revision = serializers.IntegerField()


class ChangeSerializer(serializers.ModelSerializer[Change]):
    who = serializers.SerializerMethodField()
    before = ObservationField(allow_null=True)
    after = ObservationField(allow_null=True)

    class Meta:
        model = Change
        fields = ["revision", "key", "who", "at", "before", "after"]

    def get_who(self, change: Change) -> str:
        return called(change.who) if change.who else "somebody"


class EntrySerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    to = serializers.ChoiceField(["a", "b"])
    kind = serializers.CharField()
    n = serializers.IntegerField()
    because = serializers.CharField()
    observations = serializers.ListField(child=serializers.CharField())


class LineSerializer(serializers.Serializer[Any]):
    standing = serializers.ChoiceField(["agreed", "differently", "not_called", "not_awarded"])
    award = EntrySerializer(allow_null=True)
    call = EntrySerializer(allow_null=True)
    exchange = serializers.IntegerField()
    because = serializers.CharField()


class FiguresSerializer(serializers.Serializer[Any]):
    agreed = serializers.IntegerField()
    differently = serializers.IntegerField()
    not_called = serializers.IntegerField()
    not_awarded = serializers.IntegerField()
    share = serializers.FloatField(allow_null=True)
    interval = serializers.ListField(child=serializers.FloatField(), allow_null=True)


class AgreementSerializer(serializers.Serializer[Any]):
    points = FiguresSerializer()
    advantages = FiguresSerializer()
    penalties = FiguresSerializer()


class ComparisonSerializer(serializers.Serializer[Any]):
    lines = LineSerializer(many=True)
    agreement = AgreementSerializer()
    kappa = serializers.FloatField(allow_null=True)


class PromptSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    kind = serializers.CharField()
    t = serializers.FloatField()
    because = serializers.CharField()
    take = ObservationField(allow_null=True)


class CheckSerializer(serializers.Serializer[Any]):
    start = serializers.FloatField()
    end = serializers.FloatField()
    off = serializers.FloatField()
    finding = serializers.CharField()
    because = serializers.CharField()


class AttentionSerializer(serializers.Serializer[Any]):
    prompts = PromptSerializer(many=True)
    clock = CheckSerializer(many=True)
    calls = LineSerializer(many=True, help_text="officials' calls against the ledger; empty where none is logged")
    range = RangeField(allow_null=True, help_text="null before the end is logged: what is counted may still be paid")


class OtherRulesetSerializer(serializers.Serializer[Any]):
    ruleset = RulesetField(help_text="a preset's id, or one with changes")


class DifferenceSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    to = serializers.ChoiceField(SIDES)
    here = AwardField(allow_null=True)
    there = AwardField(allow_null=True, help_text="under the match's own ruleset")
    because = serializers.CharField()


class ColumnSerializer(serializers.Serializer[Any]):
    ruleset = serializers.CharField()
    title = serializers.CharField()
    score = BothField()
    result = ResultField()
    because = serializers.CharField()
    differences = DifferenceSerializer(many=True)


class ScoreSerializer(serializers.Serializer[Any]):
    """What a match comes to."""

    score = BothField()
    result = ResultField()
    because = serializers.CharField()


class PreviewSerializer(serializers.Serializer[Any]):
    """What a change of the setting would make of the score; rows of the ledger that stay alike are left out."""

    before = ScoreSerializer()
    after = ScoreSerializer()
    gone = serializers.ListField(child=AwardField())
    new = serializers.ListField(child=AwardField())


class WhatIfSerializer(serializers.Serializer[Any]):
    columns = ColumnSerializer(many=True, help_text="its own ruleset, then the other")


class BeginPracticeSerializer(serializers.Serializer[Any]):
    again = serializers.BooleanField(default=False, help_text="whether to begin again, with nothing logged")


class PracticeMomentSerializer(serializers.Serializer[Any]):
    """Something that happens in the practice clip, and when it was logged; times of the footage in seconds."""

    t = serializers.FloatField()
    what = serializers.CharField()
    logged = serializers.FloatField(allow_null=True, help_text="null where it was not")
    because = serializers.CharField()


class LookingBackSerializer(serializers.Serializer[Any]):
    moments = PracticeMomentSerializer(many=True)
    score = BothField(help_text="what the clip comes to")
    own = BothField(help_text="what the score that was logged comes to")
    because = serializers.CharField()


class CallsSerializer(serializers.Serializer[Any]):
    match = serializers.CharField(required=False, max_length=200, help_text="the match as the table calls it")
    lines = serializers.CharField(required=False, max_length=TABLE_BYTES, help_text="a file of calls, one a line")


class TableSerializer(serializers.Serializer[Any]):
    matches = serializers.ListField(child=serializers.CharField())


class AskSecondSerializer(serializers.Serializer[Any]):
    user = serializers.IntegerField(help_text="who is asked")


class SecondSerializer(serializers.Serializer[Any]):
    match = serializers.UUIDField()
    scorer = serializers.CharField()
    finished = serializers.BooleanField()
    observed = serializers.IntegerField()


class SideBySideSerializer(serializers.Serializer[Any]):
    match = MatchSerializer()
    verdicts = serializers.ListField(child=VerdictField(), help_text="the first score, then the second")
    scorers = serializers.ListField(child=serializers.CharField())
    comparison = ComparisonSerializer()


def shown_parts(match: Match) -> list[dict[str, Any]]:
    return [
        {
            "clip": ClipSerializer(part.clip).data,
            "start": to_seconds(part.start),
            "opens": to_seconds(part.opens),
            "closes": None if part.closes is None else to_seconds(part.closes),
        }
        for part in parts_of(match)
    ]
