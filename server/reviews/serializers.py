"""What reviews look like over HTTP."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from config.choices import SIDES, TALLIES
from jobs.serializers import JobSerializer
from jurata_core.times import to_millis, to_seconds
from matches.schema import BothField, ResultField, VerdictField
from matches.serializers import MatchSerializer, PartSerializer

from .models import Cut, Link, Note, Remark

LONGEST_DAYS = 366


class SecondsField(serializers.FloatField):
    """Seconds outside, milliseconds inside."""

    def __init__(self, **options: Any) -> None:
        super().__init__(min_value=0, max_value=1e6, **options)

    def to_internal_value(self, data: Any) -> Any:
        return to_millis(super().to_internal_value(data))

    def to_representation(self, value: Any) -> Any:
        return to_seconds(value)


class OtherwiseSerializer(serializers.Serializer[Any]):
    score = BothField()
    result = ResultField()
    because = serializers.CharField()
    changes = serializers.BooleanField(help_text="whether the result is another one")
    better = serializers.BooleanField(help_text="whether it is better for the athlete")


class LossSerializer(serializers.Serializer[Any]):
    points = serializers.IntegerField()
    advantages = serializers.IntegerField()
    penalties = serializers.IntegerField()


class SuggestedSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    because = serializers.CharField()


class ReviewErrorSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    kind = serializers.CharField()
    title = serializers.CharField()
    because = serializers.CharField()
    instead = serializers.CharField()
    cost = serializers.CharField()
    loss = LossSerializer()
    since = serializers.FloatField()
    t = serializers.FloatField()
    since_clock = serializers.FloatField()
    clock = serializers.FloatField()
    start = serializers.FloatField()
    end = serializers.FloatField()
    held = serializers.FloatField(allow_null=True)
    needed = serializers.FloatField(allow_null=True)
    exchange = serializers.IntegerField(allow_null=True)
    likely_causes = serializers.ListField(child=serializers.CharField())
    causes = serializers.ListField(child=serializers.CharField())
    standing = serializers.ChoiceField(Remark.Standing.choices)
    own = serializers.BooleanField()
    edited = serializers.BooleanField()
    came_from = serializers.CharField(allow_null=True)
    suggested = SuggestedSerializer(many=True)
    otherwise = OtherwiseSerializer(allow_null=True)


class ChainSerializer(serializers.Serializer[Any]):
    first = serializers.CharField(help_text="the key of its root")
    members = serializers.ListField(child=serializers.CharField())
    cost = serializers.CharField(help_text="of all of it on the sheet")
    otherwise = OtherwiseSerializer(allow_null=True)


class GoodSerializer(serializers.Serializer[Any]):
    """One thing that was done well, in seconds of footage."""

    kind = serializers.CharField()
    side = serializers.ChoiceField(SIDES)
    since = serializers.FloatField()
    t = serializers.FloatField()
    because = serializers.CharField()


class FoundSerializer(serializers.Serializer[Any]):
    found = ReviewErrorSerializer(many=True)
    chains = ChainSerializer(many=True)
    causes = serializers.ListField(child=serializers.CharField())
    well = GoodSerializer(many=True)


class ReviewSerializer(FoundSerializer):
    match = MatchSerializer()
    parts = PartSerializer(many=True)
    verdict = VerdictField()


class RemarkSerializer(serializers.ModelSerializer[Remark]):
    """What is said of an error; fields that are left out stay as they are."""

    since = SecondsField(source="since_ms", required=False)
    t = SecondsField(source="t_ms", required=False)
    causes = serializers.ListField(child=serializers.CharField(max_length=60), max_length=12, required=False)

    class Meta:
        model = Remark
        fields = [
            "standing", "title", "because", "instead", "causes", "came_from", "since", "t", "points", "advantages",
        ]  # fmt: skip


class CausesSerializer(serializers.Serializer[Any]):
    causes = serializers.ListField(child=serializers.CharField(max_length=60, allow_blank=True), max_length=60)


class WaySerializer(serializers.Serializer[Any]):
    outcome = serializers.ChoiceField(["wins", "levels"])
    said = serializers.CharField()
    worth = serializers.CharField()
    takes = serializers.FloatField()
    closes = serializers.FloatField(help_text="the match clock after which it is too late")
    possible = serializers.BooleanField()


class WindowSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    clock = serializers.FloatField()
    until = serializers.FloatField()
    stands = serializers.CharField()
    ways = WaySerializer(many=True)
    turns = serializers.CharField(allow_null=True)


class MomentSerializer(serializers.Serializer[Any]):
    clock = serializers.FloatField()
    t = serializers.FloatField()
    win = serializers.FloatField()
    lose = serializers.FloatField()


class SwingSerializer(serializers.Serializer[Any]):
    was = serializers.FloatField()
    otherwise = serializers.FloatField()
    lost = serializers.FloatField()


class LetSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    clock = serializers.FloatField()
    because = serializers.CharField()


class ClosingSerializer(serializers.Serializer[Any]):
    """A way that became too late while it was still needed; times of the match clock."""

    said = serializers.CharField()
    closes = serializers.FloatField()

    def get_fields(self) -> dict[str, serializers.Field[Any, Any, Any, Any]]:
        return {"from": serializers.FloatField(), **super().get_fields()}


class ProspectsSerializer(serializers.Serializer[Any]):
    """The chance of winning, an estimate from so many matches, and what was still winnable."""

    matches = serializers.IntegerField()
    minutes = serializers.IntegerField()
    moments = MomentSerializer(many=True)
    swings = serializers.DictField(child=SwingSerializer())
    order = serializers.ListField(child=serializers.CharField(), help_text="roots, the most telling first")
    windows = WindowSerializer(many=True)
    closings = ClosingSerializer(many=True)
    lets = LetSerializer(many=True)


class SpreadSerializer(serializers.Serializer[Any]):
    low = serializers.ListField(child=serializers.FloatField())
    high = serializers.ListField(child=serializers.FloatField())
    draws = serializers.IntegerField()


class MarkSerializer(serializers.Serializer[Any]):
    """Pixels of the clip as it was filmed; ``to_x`` and ``to_y`` of an arrow, ``text`` of a text."""

    kind = serializers.ChoiceField(["point", "arrow", "text"])
    x = serializers.FloatField(min_value=0, max_value=20_000)
    y = serializers.FloatField(min_value=0, max_value=20_000)
    to_x = serializers.FloatField(min_value=0, max_value=20_000, required=False)
    to_y = serializers.FloatField(min_value=0, max_value=20_000, required=False)
    text = serializers.CharField(max_length=60, required=False)

    def validate(self, mark: dict[str, Any]) -> dict[str, Any]:
        needed = {"point": (), "arrow": ("to_x", "to_y"), "text": ("text",)}[mark["kind"]]
        missing = {name: "is missing" for name in needed if name not in mark}
        if missing:
            raise serializers.ValidationError(missing)
        return mark


class NoteSerializer(serializers.ModelSerializer[Note]):
    t = SecondsField(source="t_ms")
    until = SecondsField(source="until_ms", required=False, allow_null=True)
    marks = MarkSerializer(many=True, required=False)

    class Meta:
        model = Note
        fields = ["id", "t", "until", "text", "marks"]


class CutSerializer(serializers.ModelSerializer[Cut]):
    class Meta:
        model = Cut
        fields = ["id", "key", "style", "job"]
        read_only_fields = ["id"]

    job = JobSerializer(read_only=True, allow_null=True)


class LinkSerializer(serializers.ModelSerializer[Link]):
    class Meta:
        model = Link
        fields = ["id", "ends", "revoked", "opened", "created"]
        read_only_fields = fields


class NewLinkSerializer(serializers.Serializer[Any]):
    days = serializers.IntegerField(min_value=1, max_value=LONGEST_DAYS)


class MadeLinkSerializer(LinkSerializer):
    token = serializers.CharField(help_text="shown this once")

    class Meta(LinkSerializer.Meta):
        fields = [*LinkSerializer.Meta.fields, "token"]
        read_only_fields = fields


class LetterSerializer(serializers.Serializer[Any]):
    """What the coach writes above the report, and the good thing if it is not the core's."""

    greeting = serializers.CharField(max_length=600, allow_blank=True)
    well = serializers.CharField(max_length=300, allow_blank=True)


class AnswerSerializer(serializers.Serializer[Any]):
    key = serializers.CharField(max_length=100, allow_blank=True, required=False, default="")
    text = serializers.CharField(max_length=600)


class GivenAnswerSerializer(AnswerSerializer):
    at = serializers.DateTimeField()


class TickSerializer(serializers.Serializer[Any]):
    done = serializers.BooleanField()


class LedSerializer(serializers.Serializer[Any]):
    clock = serializers.FloatField()
    title = serializers.CharField()


class ShownClipSerializer(serializers.Serializer[Any]):
    cut = serializers.UUIDField()
    captions = serializers.BooleanField()
    title = serializers.CharField()


class ThingSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    title = serializers.CharField()
    clock = serializers.FloatField()
    because = serializers.CharField()
    led_to = LedSerializer(many=True)
    cost = serializers.CharField()
    swing = serializers.FloatField(help_text="of the chance to win")
    otherwise = serializers.CharField(allow_null=True)
    causes = serializers.ListField(child=serializers.CharField())
    clips = ShownClipSerializer(many=True)


class DrillToDoSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    text = serializers.CharField()
    done = serializers.BooleanField()


class GainedSerializer(serializers.Serializer[Any]):
    to = serializers.ChoiceField(SIDES)
    kind = serializers.ChoiceField(TALLIES)
    n = serializers.IntegerField()


class LineRowSerializer(serializers.Serializer[Any]):
    clock = serializers.FloatField()
    gained = GainedSerializer(many=True)
    began = serializers.ListField(child=serializers.CharField())


class ReportNoteSerializer(serializers.Serializer[Any]):
    clock = serializers.FloatField()
    text = serializers.CharField()


class ReportSerializer(serializers.Serializer[Any]):
    athlete = serializers.CharField()
    opponent = serializers.CharField()
    event = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    ruleset = serializers.CharField()
    score = BothField()
    result = ResultField()
    because = serializers.CharField()
    greeting = serializers.CharField()
    well = serializers.CharField()
    mattered = ThingSerializer(many=True)
    drills = DrillToDoSerializer(many=True)
    line = LineRowSerializer(many=True)
    notes = ReportNoteSerializer(many=True)
    answers = GivenAnswerSerializer(many=True)
    deference = serializers.CharField()


class OpenQuestionSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    clock = serializers.FloatField()
    text = serializers.CharField()


class QuestionsSerializer(serializers.Serializer[Any]):
    questions = OpenQuestionSerializer(many=True)
