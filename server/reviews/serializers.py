"""What reviews look like over HTTP."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from config.choices import SIDES, TALLIES
from config.sizes import BoundedListField
from jobs.serializers import JobSerializer
from jurata_core.times import to_millis, to_seconds
from matches.schema import BothField, ResultField, VerdictField, WeighedSerializer
from matches.serializers import MatchSerializer, PartSerializer
from roster.models import readers_of

from .actions import link_days
from .models import Cut, Link, Note, Remark, Report

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


class CameFromSerializer(SuggestedSerializer):
    """The earlier error that one came from: as the coach says, or as it is suggested."""

    accepted = serializers.BooleanField(help_text="whether the coach says so")


class SwingSerializer(serializers.Serializer[Any]):
    """The chances to win and to lose after an error and as they would have been without it, and what it cost."""

    was = serializers.FloatField()
    otherwise = serializers.FloatField()
    was_lose = serializers.FloatField()
    otherwise_lose = serializers.FloatField()
    lost = serializers.FloatField()


class ReviewErrorSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    kind = serializers.CharField()
    title = serializers.CharField()
    because = serializers.CharField()
    cause = serializers.CharField(allow_null=True, help_text="what the log shows to have brought it about")
    instead = serializers.CharField()
    drill = serializers.CharField()
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
    came_from = CameFromSerializer(allow_null=True)
    suggested = SuggestedSerializer(many=True)
    marked = serializers.ListField(
        child=serializers.CharField(), help_text="ids of the coach's marks that it stands on"
    )
    swing = SwingSerializer(allow_null=True)
    otherwise = OtherwiseSerializer(allow_null=True)


class ChainSerializer(serializers.Serializer[Any]):
    first = serializers.CharField(help_text="the key of its root")
    members = serializers.ListField(child=serializers.CharField())
    cost = serializers.CharField(allow_blank=True, help_text="of all of it together, in a sentence")
    accepted = serializers.BooleanField(help_text="whether the coach has accepted it with all its links")
    in_report = serializers.ListField(child=serializers.CharField(), help_text="those that the report shows")
    otherwise = OtherwiseSerializer(allow_null=True)


class GoodSerializer(serializers.Serializer[Any]):
    """One thing that was done well, in seconds of footage."""

    kind = serializers.CharField()
    side = serializers.ChoiceField(SIDES)
    since = serializers.FloatField()
    t = serializers.FloatField()
    because = serializers.CharField()


class ReviewMarkSerializer(serializers.Serializer[Any]):
    """One of the coach's marks on the athlete, in seconds of footage."""

    id = serializers.CharField()
    clock = serializers.FloatField()
    t = serializers.FloatField()
    until = serializers.FloatField()
    good = serializers.BooleanField()
    cause = serializers.CharField(allow_null=True)
    text = serializers.CharField()


class FileSerializer(serializers.Serializer[Any]):
    """A kind of file that the match can be taken away as."""

    name = serializers.CharField()
    title = serializers.CharField()


class OfferSerializer(serializers.Serializer[Any]):
    """A kind of error that the coach dismisses again and again, and could have turned down."""

    kind = serializers.CharField()
    name = serializers.CharField()
    dismissed = serializers.IntegerField()
    decided = serializers.IntegerField()
    least = serializers.FloatField(allow_null=True, help_text="a new limit in seconds; null where it is turned off")


class StoppedMomentSerializer(serializers.Serializer[Any]):
    """A moment by the match clock, with the footage that shows it, in seconds."""

    clock = serializers.FloatField()
    start = serializers.FloatField()
    end = serializers.FloatField()


class UnderSerializer(serializers.Serializer[Any]):
    grip = serializers.CharField()
    times = serializers.IntegerField()


class StoppedSerializer(serializers.Serializer[Any]):
    """The other side's tries at a move, the moments of those that were stopped, and own grips that were on then."""

    move = serializers.CharField()
    stopped = serializers.IntegerField()
    tried = serializers.IntegerField()
    moments = StoppedMomentSerializer(many=True)
    under = UnderSerializer(many=True)


class PlannedTrySerializer(StoppedMomentSerializer):
    done = serializers.BooleanField()


class PlannedMoveSerializer(serializers.Serializer[Any]):
    """One thing that the plan names, and the tries at it."""

    what = serializers.CharField()
    tries = PlannedTrySerializer(many=True)


class PatternSerializer(serializers.Serializer[Any]):
    """What came back in the match: the keys of its errors, and how many moments they are."""

    said = serializers.CharField()
    members = serializers.ListField(child=serializers.CharField())
    times = serializers.IntegerField()


class FoundSerializer(serializers.Serializer[Any]):
    found = ReviewErrorSerializer(many=True)
    chains = ChainSerializer(many=True, help_text="what mattered most first")
    first = serializers.IntegerField(help_text="how many of the chains are shown first")
    patterns = PatternSerializer(many=True)
    danger = serializers.BooleanField(help_text="whether costs are the danger of being finished, as nothing scores")
    causes = serializers.ListField(child=serializers.CharField())
    marks = ReviewMarkSerializer(many=True)
    well = GoodSerializer(many=True)
    stopped = StoppedSerializer(many=True)
    planned = PlannedMoveSerializer(many=True)
    decision = WeighedSerializer()
    offers = OfferSerializer(many=True)
    files = FileSerializer(many=True)


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
            "standing", "title", "because", "instead", "causes", "came_from", "root", "since", "t", "points",
            "advantages",
        ]  # fmt: skip


class DecidedChainSerializer(serializers.Serializer[Any]):
    accepted = serializers.BooleanField()


class LimitSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    seconds = serializers.FloatField()
    usual = serializers.FloatField()


class PartOfKindSerializer(serializers.Serializer[Any]):
    """A move that was conceded, as a drill may be for it."""

    kind = serializers.CharField()
    name = serializers.CharField()


class KindSerializer(serializers.Serializer[Any]):
    """A kind of error as the coach has it looked for, and what was made of it so far."""

    kind = serializers.CharField()
    name = serializers.CharField()
    instead = serializers.CharField()
    off = serializers.BooleanField()
    parts = PartOfKindSerializer(many=True)
    limits = LimitSerializer(many=True)
    accepted = serializers.IntegerField()
    dismissed = serializers.IntegerField()


class KindSettingSerializer(serializers.Serializer[Any]):
    off = serializers.BooleanField(required=False)
    limits = serializers.DictField(child=serializers.FloatField(), required=False)
    decline = serializers.BooleanField(required=False, help_text="whether an offer to turn it down is declined")


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


class LayerSerializer(serializers.Serializer[Any]):
    """Matches that the estimate was learned from: which, how many, and their minutes."""

    name = serializers.CharField()
    matches = serializers.IntegerField()
    minutes = serializers.IntegerField()


class ProspectsSerializer(serializers.Serializer[Any]):
    """The chance of winning, an estimate from so many matches, and what was still winnable."""

    matches = serializers.IntegerField()
    minutes = serializers.IntegerField()
    submissions = serializers.IntegerField(help_text="finishes and close ones in them")
    layers = LayerSerializer(many=True, help_text="the most general first")
    moments = MomentSerializer(many=True)
    windows = WindowSerializer(many=True)
    closings = ClosingSerializer(many=True)
    lets = LetSerializer(many=True)


class CostRangeSerializer(serializers.Serializer[Any]):
    low = serializers.FloatField()
    high = serializers.FloatField()


class SpreadSerializer(serializers.Serializer[Any]):
    low = serializers.ListField(child=serializers.FloatField())
    high = serializers.ListField(child=serializers.FloatField())
    lost = serializers.DictField(child=CostRangeSerializer(), help_text="of what each error cost, by its key")
    draws = serializers.IntegerField()


MOST_MARKS = 100
"""So many marks one note has."""


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
    marks = BoundedListField(child=MarkSerializer(), required=False, max_length=MOST_MARKS)

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
    sent = serializers.DateTimeField(
        read_only=True, allow_null=True, help_text="when it was sent to the athlete's own place; null: not yet"
    )
    child = serializers.BooleanField(
        read_only=True, source="match.athlete.child", help_text="whether the athlete is treated as a child"
    )
    link_days = serializers.SerializerMethodField(help_text="for how many days a link to it can be made")
    readers = serializers.SerializerMethodField(help_text="how many of the athlete and the guardians have a sign-in")

    def get_readers(self, report: Report) -> int:
        return len(readers_of(report.match.athlete))

    def get_link_days(self, report: Report) -> list[int]:
        return link_days(report.match.athlete)


class SentSerializer(serializers.Serializer[Any]):
    sent = serializers.BooleanField()


class AnswerSerializer(serializers.Serializer[Any]):
    key = serializers.CharField(max_length=100, allow_blank=True, required=False, default="")
    text = serializers.CharField(max_length=600)


class GivenAnswerSerializer(AnswerSerializer):
    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    reply = serializers.CharField(help_text="what the coach answered to it; empty: nothing yet")


class ReplySerializer(serializers.Serializer[Any]):
    reply = serializers.CharField(max_length=600, allow_blank=True)


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
    instead = serializers.CharField(allow_blank=True)
    led_to = LedSerializer(many=True)
    cost = serializers.CharField(allow_blank=True, help_text="in a sentence")
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


class InjurySerializer(serializers.Serializer[Any]):
    clock = serializers.FloatField()
    part = serializers.CharField(help_text="the part of the body")


class ReportSerializer(serializers.Serializer[Any]):
    athlete = serializers.CharField()
    opponent = serializers.CharField()
    event = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    ruleset = serializers.CharField()
    score = BothField()
    result = ResultField()
    because = serializers.CharField()
    young = serializers.BooleanField(help_text="whether it is worded for a child")
    greeting = serializers.CharField()
    well = serializers.ListField(child=serializers.CharField(), help_text="what was done well, shown first")
    mattered = ThingSerializer(many=True)
    drills = DrillToDoSerializer(many=True)
    line = LineRowSerializer(many=True)
    notes = ReportNoteSerializer(many=True)
    answers = GivenAnswerSerializer(many=True)
    injuries = InjurySerializer(many=True, help_text="for guardians and coaches; never through a link")
    deference = serializers.CharField()


class OpenQuestionSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    clock = serializers.FloatField()
    text = serializers.CharField()


class QuestionsSerializer(serializers.Serializer[Any]):
    questions = OpenQuestionSerializer(many=True)
