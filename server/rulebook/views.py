"""Presets and what is legal, straight from the core."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.decorators import api_view
from rest_framework.request import Request
from rest_framework.response import Response

from clubs.access import current_club
from config.choices import ATTIRES, BELTS, STATUSES
from jurata_core.answers import ask_division, ask_legality, unknown_technique
from jurata_core.divisions import Division, read_division
from jurata_core.faults import Fault, FaultyInput
from jurata_core.json_text import parse_json
from jurata_core.legality import legality
from jurata_core.rulebook import differences, page, technique_page
from jurata_core.rulesets import DEFAULT, Ruleset, preset, preset_ids, preset_settings, read_ruleset
from jurata_core.techniques import catalogue, find

from .models import names_of

OTHER = "other_"
"""Before the names of the second division of a comparison."""


class RulesetSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    title = serializers.CharField()
    about = serializers.CharField()
    settings = serializers.JSONField()


class DivisionQuery(serializers.Serializer[Any]):
    age = serializers.IntegerField()
    belt = serializers.ChoiceField(BELTS)
    attire = serializers.ChoiceField(ATTIRES)


class LegalityQuery(DivisionQuery):
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
    neighbours = serializers.ListField(child=serializers.CharField(), help_text="what would make it illegal here")
    varies = serializers.CharField(allow_null=True, help_text="where rulebooks differ about it")
    likely = serializers.DictField(
        child=serializers.IntegerField(), help_text="its rank in the places it is tried from"
    )
    meant_by = serializers.ListField(
        child=serializers.CharField(), help_text="words for a whole family that may mean it, as leg lock"
    )


class TechniqueEntrySerializer(serializers.Serializer[Any]):
    """A technique in a division: what it is there, what follows, and why."""

    id = serializers.CharField()
    name = serializers.CharField()
    family = serializers.CharField()
    aliases = serializers.ListField(child=serializers.CharField())
    meant_by = serializers.ListField(child=serializers.CharField())
    status = serializers.ChoiceField(STATUSES)
    because = serializers.CharField()
    follows = serializers.CharField()
    argued = serializers.CharField(help_text="what is often argued and makes no difference")
    neighbours = serializers.ListField(child=serializers.CharField(), help_text="what would make it illegal here")
    varies = serializers.CharField(allow_null=True, help_text="where rulebooks differ about it")
    about = serializers.CharField()
    danger = serializers.CharField(help_text="how it is stopped in time")
    injures = serializers.CharField(allow_null=True)
    caution = serializers.CharField(allow_null=True)


class BandSerializer(serializers.Serializer[Any]):
    """Ages that are alike, with the status by belt."""

    to = serializers.IntegerField(allow_null=True)
    statuses = serializers.DictField(child=serializers.ChoiceField(STATUSES))

    def get_fields(self) -> dict[str, serializers.Field[Any, Any, Any, Any]]:
        return {"from": serializers.IntegerField(), **super().get_fields()}


class MapSerializer(serializers.Serializer[Any]):
    gi = BandSerializer(many=True)
    nogi = BandSerializer(many=True)


class TechniquePageSerializer(TechniqueEntrySerializer):
    lineage = serializers.ListField(child=serializers.CharField(), help_text="itself, its parent, and so on")
    map = MapSerializer()


class RuleSerializer(serializers.Serializer[Any]):
    topic = serializers.CharField()
    text = serializers.CharField()


class AheadSerializer(serializers.Serializer[Any]):
    when = serializers.CharField()
    age = serializers.IntegerField()
    belt = serializers.ChoiceField(BELTS)
    opened = serializers.ListField(child=serializers.CharField())
    closed = serializers.ListField(child=serializers.CharField())
    length = serializers.CharField(allow_null=True)
    doubts = serializers.ListField(child=serializers.CharField(), help_text="why there may be no such division")
    same = serializers.BooleanField()


class DivisionSerializer(serializers.Serializer[Any]):
    """All that is to be known of a division before a match."""

    age_class = serializers.CharField(allow_null=True)
    division = serializers.CharField()
    belts = serializers.ListField(child=serializers.ChoiceField(BELTS))
    doubts = serializers.ListField(child=serializers.CharField())
    ruleset = serializers.CharField()
    about = serializers.CharField()
    scoring = RuleSerializer(many=True)
    techniques = TechniqueEntrySerializer(many=True)
    ahead = AheadSerializer(many=True)
    deference = serializers.CharField()
    danger = serializers.CharField()


class DifferentRuleSerializer(serializers.Serializer[Any]):
    topic = serializers.CharField()
    texts = serializers.ListField(child=serializers.CharField())


class DifferentTechniqueSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    name = serializers.CharField()
    statuses = serializers.ListField(child=serializers.ChoiceField(STATUSES))


class SideSerializer(serializers.Serializer[Any]):
    division = serializers.CharField()
    ruleset = serializers.CharField()


class DifferencesSerializer(serializers.Serializer[Any]):
    sides = SideSerializer(many=True)
    scoring = DifferentRuleSerializer(many=True)
    techniques = DifferentTechniqueSerializer(many=True)


class DifferencesQuery(LegalityQuery):
    other_age = serializers.IntegerField()
    other_belt = serializers.ChoiceField(BELTS)
    other_attire = serializers.ChoiceField(ATTIRES)
    other_ruleset = serializers.CharField(default=DEFAULT)


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
def ask_one(request: Request) -> Response:
    """The same answer as ``bin/jurata legality``."""
    return Response(ask_legality(asked_for(request)))


def _club_s_names(request: Request) -> dict[str, list[str]]:
    club = current_club(request)
    return names_of(None if club is None else club.pk)


@extend_schema(operation_id="techniques", parameters=[LegalityQuery], responses=TechniqueSerializer(many=True))
@api_view(["GET"])
def techniques(request: Request) -> Response:
    """The whole catalogue with its status in one division; the club's own names are among the aliases."""
    division, ruleset = side(asked_for(request))
    own = _club_s_names(request)
    rows = []
    for one in catalogue().values():
        answer = legality(one.id, division, ruleset)
        rows.append(
            {
                "id": one.id,
                "name": one.name,
                "family": one.family,
                "aliases": [*one.aliases, *own.get(one.id, ())],
                "about": one.about,
                "caution": one.caution,
                "status": answer.status,
                "because": answer.because,
                "neighbours": answer.neighbours,
                "varies": one.varies,
                "likely": one.likely,
                "meant_by": one.meant_by,
            }
        )
    return Response(rows)


@extend_schema(operation_id="division", parameters=[LegalityQuery], responses=DivisionSerializer)
@api_view(["GET"])
def division(request: Request) -> Response:
    """A division: how it is scored, what is legal in it, and what changes with the next age or belt."""
    found = page(*side(asked_for(request)))
    own = _club_s_names(request)
    for entry in found["techniques"]:
        entry["aliases"] = [*entry["aliases"], *own.get(entry["id"], ())]
    return Response(found)


@extend_schema(operation_id="technique", parameters=[NamedLegalityQuery], responses=TechniquePageSerializer)
@api_view(["GET"])
def technique(request: Request) -> Response:
    """One technique by any of its names, in a division and over all ages and belts."""
    asked = asked_for(request)
    name = str(asked.get("technique", ""))
    found = find(name)
    if found is None:
        raise unknown_technique(name, *side(asked))
    return Response(technique_page(found, *side(asked)))


@extend_schema(operation_id="differences", parameters=[DifferencesQuery], responses=DifferencesSerializer)
@api_view(["GET"])
def between(request: Request) -> Response:
    """What two divisions, or two rulesets, do not have in common."""
    return Response(differences(side(asked_for(request)), side(asked_for(request, OTHER), OTHER)))


class LengthSerializer(serializers.Serializer[Any]):
    age_class = serializers.CharField(allow_null=True)
    match_length = serializers.FloatField(allow_null=True, help_text="seconds; null where no length is usual")


@extend_schema(
    operation_id="match_length",
    parameters=[DivisionQuery],
    responses=LengthSerializer,
)
@api_view(["GET"])
def length(request: Request) -> Response:
    """How long a match of a division usually is."""
    found = ask_division(asked_for(request))
    return Response({name: found[name] for name in ("age_class", "match_length")})


def side(asked: dict[str, Any], prefix: str = "") -> tuple[Division, Ruleset]:
    """The division and the ruleset that are asked for. Raises FaultyInput."""
    faults: list[Fault] = []
    division = read_division(asked, "", faults)
    ruleset = read_ruleset(asked.get("ruleset", DEFAULT), "ruleset", faults)
    if division is None or ruleset is None:
        raise FaultyInput([Fault(f"{prefix}{fault.path}", fault.message, fault.code) for fault in faults])
    return division, ruleset


def asked_for(request: Request, prefix: str = "") -> dict[str, Any]:
    query = request.query_params.items()
    asked: dict[str, Any] = {name.removeprefix(prefix): value for name, value in query if name.startswith(prefix)}
    if asked.get("ruleset", "").startswith("{"):
        asked["ruleset"] = parse_json(asked["ruleset"])
    age = asked.get("age", "")
    if age.isascii() and age.isdigit() and len(age) < 6:
        asked["age"] = int(age)
    return asked
