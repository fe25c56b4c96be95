"""What is held against a log over HTTP: doubts, officials' calls, another ruleset."""

from __future__ import annotations

import uuid

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks
from config.requests import signed_in
from jurata_core.audit import audit
from jurata_core.faults import Fault, FaultyInput
from jurata_core.match_log.observations import Call
from jurata_core.prompts import prompts
from jurata_core.rulesets import read_ruleset
from jurata_core.scoreboard import Reading, check_clock
from jurata_core.times import to_millis
from jurata_core.unsure import range_of
from jurata_core.whatif import what_if

from ..actions import (
    TABLE_BYTES,
    fetch_calls,
    matches_on_table,
    take_calls,
)
from ..logs import all_calls_logged
from ..queries import own_match
from ..serializers import (
    AttentionSerializer,
    CallsSerializer,
    ChangedSerializer,
    OtherRulesetSerializer,
    TableSerializer,
    WhatIfSerializer,
)
from ..standing import standing
from .observations import answer_to


class AttentionView(APIView):
    @extend_schema(operation_id="attention", responses=AttentionSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """What may want another look: prompts, clock against scoreboard, the officials' calls, and what is unsure."""
        found = own_match(asks(request), match)
        now = standing(found)
        log, verdict = now.log, now.verdict
        readings = [Reading(to_millis(one["t"]), to_millis(one["left"])) for one in found.readings]
        checks = check_clock(log, verdict, readings)
        shown = any(isinstance(seen, Call) for seen in log.observations)
        calls = audit(log, verdict, all_calls_logged(log)).as_json()["lines"] if shown else []
        return Response(
            {
                "prompts": [prompt.as_json() for prompt in prompts(log, verdict, checks)],
                "clock": [check.as_json() for check in checks],
                "calls": calls,
                "range": None if verdict.result.t is None else range_of(log, verdict).as_json(),
            }
        )


class WhatIfView(APIView):
    @extend_schema(operation_id="what_if", request=OtherRulesetSerializer, responses=WhatIfSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """What the match comes to under another ruleset, and which rows differ; nothing is changed by it."""
        found = own_match(asks(request), match)
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
    most_bytes = 2 * TABLE_BYTES  # quotation marks in it are written as two characters

    @extend_schema(operation_id="take_calls", request=CallsSerializer, responses=ChangedSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """Read the officials' calls from the table, or from a file it has written."""
        own_match(asks(request), match)  # before the table is asked
        asked = CallsSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        name, lines = asked.validated_data.get("match"), asked.validated_data.get("lines")
        if name is None and lines is None:
            raise FaultyInput([Fault("match", "is missing: name the match on the table, or give the lines", "missing")])
        text = lines if lines is not None else fetch_calls(name)
        return answer_to(request, match, lambda one: take_calls(one, text, signed_in(request)))
