"""A board as it goes over HTTP."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from config.sizes import BoundedListField
from jobs.serializers import JobSerializer
from matches.serializers import ComparisonSerializer

from .actions import MOST_MOMENTS
from .models import Board


class CornersField(serializers.ListField):
    """Four corners of x and y, as shares of the picture, clockwise from the top left one."""

    child = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)


class BoxesField(serializers.DictField):
    """A box for each part: ``clock``, ``a.points``, ``b.penalties`` and so on."""

    child = CornersField(min_length=4, max_length=4)


class BoardMomentSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField(min_value=0, help_text="seconds of the clip")
    boxes = BoxesField()


class MarkBoardSerializer(serializers.Serializer[Any]):
    marks = BoundedListField(child=BoardMomentSerializer(), max_length=MOST_MOMENTS)
    counts = serializers.ChoiceField(Board.Counts.choices, default=Board.Counts.EITHER)
    last_second = serializers.ChoiceField(Board.LastSecond.choices, default=Board.LastSecond.ONE)


class LookAtBoardSerializer(serializers.Serializer[Any]):
    """A moment of the clip; with ``board``, a box around the whole board, its lines are found."""

    t = serializers.FloatField(min_value=0, help_text="seconds of the clip")
    boxes = BoxesField(required=False)
    board = CornersField(min_length=4, max_length=4, required=False)


class BoardTextSerializer(serializers.Serializer[Any]):
    text = serializers.CharField()
    sure = serializers.FloatField(help_text="from 0 to 1")


class FoundLineSerializer(BoardTextSerializer):
    box = CornersField()


class LookedSerializer(serializers.Serializer[Any]):
    parts = serializers.DictField(child=BoardTextSerializer())
    lines = FoundLineSerializer(many=True)


class BoardStretchSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    until = serializers.FloatField()
    runs = serializers.BooleanField()
    value = serializers.FloatField(help_text="what the clock stood at when it began, in seconds")


class BoardClockSerializer(serializers.Serializer[Any]):
    readable = serializers.BooleanField()
    because = serializers.CharField()
    seen = serializers.FloatField(help_text="the share of the footage in which the clock was read")
    direction = serializers.ChoiceField(["down", "up"])
    stretches = BoardStretchSerializer(many=True)


class ProposalSerializer(serializers.Serializer[Any]):
    key = serializers.CharField(help_text="the key of the observation once it is taken")
    t = serializers.FloatField()
    since = serializers.FloatField()
    until = serializers.FloatField()
    body = serializers.JSONField(help_text="the observation")
    because = serializers.CharField()
    sure = serializers.FloatField(help_text="from 0 to 1")
    part = serializers.CharField(allow_null=True)
    asks = serializers.BooleanField(help_text="whether it matters if they started standing or as they were")
    standing = serializers.ChoiceField(["new", "logged", "differs"])
    logged = serializers.CharField(allow_null=True, help_text="the key of what the log has in its place")
    off = serializers.FloatField(help_text="by how many seconds the log's is later; negative: earlier")
    picture = serializers.CharField(allow_null=True, help_text="the address of the picture that a call was read from")


class OnlyLoggedSerializer(serializers.Serializer[Any]):
    logged = serializers.CharField()
    t = serializers.FloatField()
    because = serializers.CharField()


class BoardSerializer(serializers.Serializer[Any]):
    marked = serializers.BooleanField(help_text="whether it is marked in this clip; else the marks are a proposal")
    marks = BoardMomentSerializer(many=True)
    counts = serializers.ChoiceField(Board.Counts.choices)
    last_second = serializers.ChoiceField(Board.LastSecond.choices)
    job = JobSerializer(allow_null=True)
    lost = serializers.FloatField()
    clock = BoardClockSerializer(allow_null=True)
    unread = serializers.ListField(child=serializers.CharField(), help_text="figures that could not be read")
    proposals = ProposalSerializer(many=True)
    only_logged = OnlyLoggedSerializer(many=True)


class BoardLookSerializer(serializers.Serializer[Any]):
    """What a scorer typed off the scoreboard, held against the score at that moment."""

    t = serializers.FloatField()
    agrees = serializers.BooleanField()
    because = serializers.CharField()


class AuditSerializer(ComparisonSerializer):
    """The officials' calls against the score; those of a board that the log lacks count as well."""

    boards = BoardLookSerializer(many=True, help_text="looks at the scoreboard that the scorer typed")
    pictures = serializers.DictField(child=serializers.CharField(), help_text="their addresses, by the key of a call")
    unlogged = serializers.ListField(child=serializers.CharField(), help_text="keys of calls that the log lacks")
