"""What goes on around a log over HTTP: its history, its audit, prompts, and a blind second score."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth import get_user_model
from django.db.models import Q
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from config.choices import SIDES
from config.errors import Refused
from jurata_core.audit import audit, compare
from jurata_core.faults import Fault, FaultyInput
from jurata_core.match_log.observations import Call
from jurata_core.prompts import prompts
from jurata_core.rulesets import read_ruleset
from jurata_core.scoreboard import Reading, check_clock
from jurata_core.times import to_millis
from jurata_core.unsure import range_of
from jurata_core.whatif import what_if

from .actions import TABLE_BYTES, ask_second, fetch_calls, finish_second, matches_on_table, take_calls
from .models import Change, Match
from .schema import AwardField, BothField, ObservationField, RangeField, ResultField, VerdictField
from .standing import standing
from .views import ChangedSerializer, MatchSerializer, answer_to, own_match, signed_in

MOST_CHANGES = 500
"""So many steps of a history are shown, the newest first."""


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
    ruleset = serializers.JSONField(help_text="a preset's id, or one with changes")


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


class WhatIfSerializer(serializers.Serializer[Any]):
    columns = ColumnSerializer(many=True, help_text="its own ruleset, then the other")


class CallsSerializer(serializers.Serializer[Any]):
    match = serializers.CharField(required=False, max_length=200, help_text="the match as the table calls it")
    lines = serializers.CharField(required=False, max_length=TABLE_BYTES, help_text="a file of calls, one a line")


class TableSerializer(serializers.Serializer[Any]):
    matches = serializers.ListField(child=serializers.CharField())


class AskSecondSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=150, help_text="the user who is asked")


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


class RevisionView(APIView):
    @extend_schema(operation_id="revision", responses=RevisionSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """Whether the log has changed: asked often, so the log itself is not read for it."""
        return Response({"revision": own_match(request, match).revision})


class HistoryView(APIView):
    @extend_schema(operation_id="history", responses=ChangeSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        changes = own_match(request, match).changes.select_related("who")[:MOST_CHANGES]
        return Response(ChangeSerializer(changes, many=True).data)


class AttentionView(APIView):
    @extend_schema(operation_id="attention", responses=AttentionSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """What may want another look: prompts, clock against scoreboard, the officials' calls, and what is unsure."""
        found = own_match(request, match)
        now = standing(found)
        log, verdict = now.log, now.verdict
        readings = [Reading(to_millis(one["t"]), to_millis(one["left"])) for one in found.readings]
        checks = check_clock(log, verdict, readings)
        shown = any(isinstance(seen, Call) for seen in log.observations)
        calls = audit(log, verdict).as_json()["lines"] if shown else []
        return Response(
            {
                "prompts": [prompt.as_json() for prompt in prompts(log, verdict, checks)],
                "clock": [check.as_json() for check in checks],
                "calls": calls,
                "range": None if verdict.result.t is None else range_of(log, verdict).as_json(),
            }
        )


class AuditView(APIView):
    @extend_schema(operation_id="audit", responses=ComparisonSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        now = standing(own_match(request, match))
        return Response(audit(now.log, now.verdict).as_json())


class WhatIfView(APIView):
    @extend_schema(operation_id="what_if", request=OtherRulesetSerializer, responses=WhatIfSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """What the match comes to under another ruleset, and which rows differ; nothing is changed by it."""
        found = own_match(request, match)
        asked = OtherRulesetSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        faults: list[Fault] = []
        ruleset = read_ruleset(asked.validated_data["ruleset"], "ruleset", faults)
        if ruleset is None:
            raise FaultyInput(faults)
        columns = [column.as_json() for column in what_if(standing(found).log, [ruleset])]
        return Response({"columns": columns})


class TableView(APIView):
    @extend_schema(operation_id="table", responses=TableSerializer)
    def get(self, request: Request) -> Response:
        """What the scoreboard table has."""
        return Response({"matches": matches_on_table()})


class CallsView(APIView):
    @extend_schema(operation_id="take_calls", request=CallsSerializer, responses=ChangedSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """Read the officials' calls from the table, or from a file it has written."""
        own_match(request, match)  # before the table is asked
        asked = CallsSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        name, lines = asked.validated_data.get("match"), asked.validated_data.get("lines")
        if name is None and lines is None:
            raise FaultyInput([Fault("match", "is missing: name the match on the table, or give the lines", "missing")])
        text = lines if lines is not None else fetch_calls(name)
        return answer_to(request, match, lambda one: take_calls(one, text, signed_in(request)))


class SecondsView(APIView):
    @extend_schema(operation_id="second_scores", responses=SecondSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        return Response([_second(one) for one in found.seconds.select_related("owner").order_by("created")])

    @extend_schema(operation_id="ask_second", request=AskSecondSerializer, responses={201: SecondSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        asked = AskSecondSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        name = asked.validated_data["name"].strip()
        scorer = get_user_model().objects.filter(username=name, is_active=True).first()
        if scorer is None:
            raise Refused("nobody", f"There is nobody with the sign-in name {name} here.", 422)
        return Response(_second(ask_second(found, scorer)), status=201)


class FinishView(APIView):
    @extend_schema(operation_id="finish_second", request=None, responses=MatchSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        done = finish_second(own_match(request, match))
        return Response(MatchSerializer(done, context={"request": request}).data)


class SideBySideView(APIView):
    @extend_schema(operation_id="side_by_side", responses=SideBySideSerializer)
    def get(self, request: Request, match: uuid.UUID, second: uuid.UUID) -> Response:
        """The first score and a second one. Its scorer sees it only when done: until then the second is blind."""
        first, other = _pair(request, match, second)
        stand = [standing(one) for one in (first, other)]
        return Response(
            {
                "match": MatchSerializer(first, context={"request": request}).data,
                "verdicts": [one.told for one in stand],
                "scorers": [called(one.owner) for one in (first, other)],
                "comparison": compare(*(one.verdict for one in stand)).as_json(),
            }
        )


def _pair(request: Request, match: uuid.UUID, second: uuid.UUID) -> tuple[Match, Match]:
    pairs = Match.objects.select_related("owner", "second_of__owner").filter(second_of_id=match)
    mine = Q(owner_id=request.user.pk) | Q(second_of__owner_id=request.user.pk)
    other = get_object_or_404(pairs.filter(mine), pk=second)
    assert other.second_of is not None  # it was found by it
    if other.second_of.owner_id != request.user.pk and not other.finished:
        raise Refused("still_blind", "You see the first score when you have handed yours over.", 403)
    return other.second_of, other


def _second(match: Match) -> dict[str, Any]:
    observed = match.observations.filter(deleted=False).count()
    return {"match": match.pk, "scorer": called(match.owner), "finished": match.finished, "observed": observed}
