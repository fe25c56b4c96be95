"""Presets and what is legal, straight from the core."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.decorators import api_view
from rest_framework.request import Request
from rest_framework.response import Response

from config.choices import ATTIRES, BELTS, STATUSES
from jurata_core.answers import ask_legality
from jurata_core.divisions import read_division
from jurata_core.faults import Fault, FaultyInput
from jurata_core.legality import legality
from jurata_core.match_log import parse_json
from jurata_core.rulesets import DEFAULT, preset, preset_ids, preset_settings, read_ruleset
from jurata_core.techniques import catalogue


class RulesetSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    title = serializers.CharField()
    about = serializers.CharField()
    settings = serializers.JSONField()


class LegalityQuery(serializers.Serializer[Any]):
    age = serializers.IntegerField()
    belt = serializers.ChoiceField(BELTS)
    attire = serializers.ChoiceField(ATTIRES)
    ruleset = serializers.CharField(default=DEFAULT)


class NamedLegalityQuery(LegalityQuery):
    technique = serializers.CharField()


class AnswerSerializer(serializers.Serializer[Any]):
    technique = serializers.CharField()
    status = serializers.ChoiceField(STATUSES)
    because = serializers.CharField()


class TechniqueSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    name = serializers.CharField()
    family = serializers.CharField()
    aliases = serializers.ListField(child=serializers.CharField())
    about = serializers.CharField()
    caution = serializers.CharField(allow_null=True)
    status = serializers.ChoiceField(STATUSES)
    because = serializers.CharField()
    likely = serializers.DictField(
        child=serializers.IntegerField(), help_text="its rank in the places it is tried from"
    )


@extend_schema(operation_id="rulesets", responses=RulesetSerializer(many=True))
@api_view(["GET"])
def rulesets(request: Request) -> Response:
    rows = []
    for name in preset_ids():
        ruleset = preset(name)
        settings = preset_settings(name)
        rows.append({"id": name, "title": ruleset.title, "about": ruleset.about, "settings": settings})
    return Response(rows)


@extend_schema(operation_id="legality", parameters=[NamedLegalityQuery], responses=AnswerSerializer)
@api_view(["GET"])
def one(request: Request) -> Response:
    """The same answer as ``bin/jurata legality``."""
    return Response(ask_legality(_asked(request)))


@extend_schema(operation_id="techniques", parameters=[LegalityQuery], responses=TechniqueSerializer(many=True))
@api_view(["GET"])
def techniques(request: Request) -> Response:
    """The whole catalogue with its status in one division."""
    asked = _asked(request)
    faults: list[Fault] = []
    division = read_division(asked, "", faults)
    ruleset = read_ruleset(asked.get("ruleset", DEFAULT), "ruleset", faults)
    if division is None or ruleset is None:
        raise FaultyInput(faults)
    rows = []
    for technique in catalogue().values():
        answer = legality(technique.id, division, ruleset)
        rows.append(
            {
                "id": technique.id,
                "name": technique.name,
                "family": technique.family,
                "aliases": technique.aliases,
                "about": technique.about,
                "caution": technique.caution,
                "status": answer.status,
                "because": answer.because,
                "likely": technique.likely,
            }
        )
    return Response(rows)


def _asked(request: Request) -> dict[str, Any]:
    asked: dict[str, Any] = request.query_params.dict()
    if asked.get("ruleset", "").startswith("{"):
        asked["ruleset"] = parse_json(asked["ruleset"])
    age = asked.get("age", "")
    if age.isascii() and age.isdigit() and len(age) < 6:
        asked["age"] = int(age)
    return asked
