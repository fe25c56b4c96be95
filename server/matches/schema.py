"""The core's shapes in the API's schema, from which the browser's types are made."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from config.choices import POSITIONS, SIDES, TALLIES
from config.sizes import LONGEST_TEXT
from jurata_core.formats.schema import observation_schemas, verdict_parts

COMPONENTS = "#/components/schemas/"


def add_core_shapes(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Put the records of a verdict, one schema per kind of observation and their union into the components."""
    components = result["components"]["schemas"]
    components |= verdict_parts(COMPONENTS)
    verdict = _without(components["Verdict"], "range")  # it is asked for by itself, after the verdict
    components["Verdict"] = verdict
    components["VerdictChange"] = {
        **verdict,
        "properties": {name: _spliced(of) for name, of in verdict["properties"].items()},
    }
    names = {}
    for kind, schema in observation_schemas().items():
        name = f"{kind.capitalize()}Observation"
        names[kind] = f"{COMPONENTS}{name}"
        components[name] = {**schema, "properties": {field: _short(of) for field, of in schema["properties"].items()}}
    components["Observation"] = {
        "oneOf": [{"$ref": ref} for ref in names.values()],
        "discriminator": {"propertyName": "kind", "mapping": names},
    }
    return result


def _short(schema: dict[str, Any]) -> dict[str, Any]:
    """The schema of a field, with the longest text that is taken over HTTP."""
    free = schema.get("type") == "string" and "enum" not in schema
    return {**schema, "maxLength": LONGEST_TEXT} if free else schema


def _without(record: dict[str, Any], name: str) -> dict[str, Any]:
    """The schema of a record without one of its fields."""
    properties = {field: of for field, of in record["properties"].items() if field != name}
    return {**record, "properties": properties, "required": [field for field in record["required"] if field != name]}


def _spliced(schema: dict[str, Any]) -> dict[str, Any]:
    """What a part of a verdict is in a change of it: of a list, what is removed and added from a place on."""
    if schema.get("type") != "array":
        return schema
    whole = {"type": "integer"}
    parts = {"start": whole, "remove": whole, "add": schema}
    return {"type": "object", "properties": parts, "required": list(parts)}


@extend_schema_field({"$ref": f"{COMPONENTS}Observation"})
class ObservationField(serializers.JSONField):
    """An observation as the match log has it; the core checks it."""


@extend_schema_field({"$ref": f"{COMPONENTS}Verdict"})
class VerdictField(serializers.JSONField):
    """A verdict as the core gives it."""


@extend_schema_field({"$ref": f"{COMPONENTS}VerdictChange"})
class VerdictChangeField(serializers.JSONField):
    """A verdict with its lists as splices."""


@extend_schema_field({"allOf": [{"$ref": f"{COMPONENTS}Range"}]})
class RangeField(serializers.JSONField):
    """What a match comes to where the scorer was not sure."""


@extend_schema_field({"allOf": [{"$ref": f"{COMPONENTS}Both"}]})
class BothField(serializers.JSONField):
    """Points, advantages and penalties of both sides."""


@extend_schema_field({"allOf": [{"$ref": f"{COMPONENTS}Award"}]})
class AwardField(serializers.JSONField):
    """A row of the ledger."""


@extend_schema_field({"allOf": [{"$ref": f"{COMPONENTS}Result"}]})
class ResultField(serializers.JSONField):
    """Who won, and how."""


class OpensSerializer(serializers.Serializer[Any]):
    claim = serializers.CharField()
    tally = serializers.ChoiceField(TALLIES)
    n = serializers.IntegerField()


class LosesSerializer(serializers.Serializer[Any]):
    claim = serializers.CharField()
    side = serializers.ChoiceField(SIDES)


class MoveSerializer(serializers.Serializer[Any]):
    position = serializers.ChoiceField(POSITIONS)
    top = serializers.ChoiceField(SIDES, allow_null=True)
    opens = OpensSerializer(many=True)
    loses = LosesSerializer(many=True)
    because = serializers.CharField()


class EachSideSerializer(serializers.Serializer[Any]):
    a = serializers.FloatField()
    b = serializers.FloatField()


class WeighedPartSerializer(serializers.Serializer[Any]):
    near = EachSideSerializer()
    submissions = EachSideSerializer()
    attacking = EachSideSerializer(help_text="seconds of running clock inside own attacks")
    on_top = EachSideSerializer(help_text="seconds on top in any position but the guard")


class WeighedSerializer(WeighedPartSerializer):
    """What referees are asked to weigh, and the same for the last minute."""

    last_minute = WeighedPartSerializer()
    quiet_for = serializers.FloatField(allow_null=True, help_text="seconds in which nothing has scored or come near")
    tipped_by = serializers.ListField(child=serializers.CharField(), help_text="what would decide for a side")
    said = serializers.CharField(help_text="both in words; empty where one side is ahead")


class OutlookSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    position = serializers.ChoiceField(POSITIONS)
    top = serializers.ChoiceField(SIDES, allow_null=True)
    running = serializers.BooleanField()
    started = serializers.BooleanField()
    overtime = serializers.BooleanField(help_text="whether time is up and overtime may begin")
    over = serializers.BooleanField()
    clock = serializers.FloatField()
    score = BothField()
    decision = WeighedSerializer(allow_null=True, help_text="in the last minute of a level match")
    moves = MoveSerializer(many=True)
