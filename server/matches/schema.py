"""The shapes of verdict and observations for the API's schema, from which the browser's types are made."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from config.choices import POSITIONS, SIDES, STATUSES, TALLIES
from jurata_core.formats.schema import observation_schemas


def add_observations(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Put one schema per kind of observation, and their union, into the API's components."""
    components = result["components"]["schemas"]
    names = {}
    for kind, schema in observation_schemas().items():
        name = f"{kind.capitalize()}Observation"
        names[kind] = f"#/components/schemas/{name}"
        components[name] = schema
    components["Observation"] = {
        "oneOf": [{"$ref": ref} for ref in names.values()],
        "discriminator": {"propertyName": "kind", "mapping": names},
    }
    return result


@extend_schema_field({"$ref": "#/components/schemas/Observation"})
class ObservationField(serializers.JSONField):
    """An observation as the match log has it; the core checks it."""


class TallySerializer(serializers.Serializer[Any]):
    points = serializers.IntegerField()
    advantages = serializers.IntegerField()
    penalties = serializers.IntegerField()


class BothSerializer(serializers.Serializer[Any]):
    a = TallySerializer()
    b = TallySerializer()


class MissedNamesSerializer(serializers.Serializer[Any]):
    a = serializers.ListField(child=serializers.CharField())
    b = serializers.ListField(child=serializers.CharField())


class RefsField(serializers.ListField):
    child = serializers.CharField()


class RowSerializer(serializers.Serializer[Any]):
    """What every row of a verdict says: when, for whom, why, and from which observations."""

    t = serializers.FloatField()
    clock = serializers.FloatField()
    to = serializers.ChoiceField(SIDES)
    reason = serializers.CharField()
    because = serializers.CharField()
    observations = RefsField()


class AwardSerializer(RowSerializer):
    kind = serializers.ChoiceField(TALLIES)
    n = serializers.IntegerField()


class UnheldSerializer(RowSerializer):
    claim = serializers.CharField()
    since = serializers.FloatField()
    held = serializers.FloatField()
    needed = serializers.FloatField()


class PlaceSerializer(serializers.Serializer[Any]):
    position = serializers.ChoiceField(POSITIONS)
    top = serializers.ChoiceField(SIDES, allow_null=True)


class PlacedSerializer(PlaceSerializer):
    t = serializers.FloatField()


class ExchangeSerializer(serializers.Serializer[Any]):
    start = serializers.FloatField()
    end = serializers.FloatField()
    clock_start = serializers.FloatField()
    clock_end = serializers.FloatField()
    title = serializers.CharField(allow_null=True)
    by_hand = serializers.BooleanField()
    first = PlaceSerializer()
    last = PlaceSerializer()
    awarded = BothSerializer()
    missed = MissedNamesSerializer()
    ledger_rows = serializers.ListField(child=serializers.IntegerField())
    missed_rows = serializers.ListField(child=serializers.IntegerField())


class CountSerializer(serializers.Serializer[Any]):
    claim = serializers.CharField()
    to = serializers.ChoiceField(SIDES)
    since = serializers.FloatField()
    ended = serializers.FloatField()
    outcome = serializers.CharField()
    worth = serializers.CharField()
    needed = serializers.FloatField()
    counted = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    counting_from = serializers.FloatField(allow_null=True)


class BarredSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField()
    clock = serializers.FloatField()
    by = serializers.ChoiceField(SIDES)
    technique = serializers.CharField()
    status = serializers.ChoiceField(STATUSES)
    consequence = serializers.CharField()
    because = serializers.CharField()
    observations = RefsField()


class WarningSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField(allow_null=True)
    reason = serializers.CharField()
    because = serializers.CharField()
    observations = RefsField()


class ResultSerializer(serializers.Serializer[Any]):
    winner = serializers.ChoiceField(SIDES, allow_null=True)
    method = serializers.CharField()


class VerdictSerializer(serializers.Serializer[Any]):
    score = BothSerializer()
    result = ResultSerializer()
    because = serializers.CharField()
    ended = serializers.FloatField(allow_null=True)
    ledger = AwardSerializer(many=True)
    open = UnheldSerializer(many=True)
    missed = UnheldSerializer(many=True)
    unpaid = UnheldSerializer(many=True)
    exchanges = ExchangeSerializer(many=True)
    counts = CountSerializer(many=True)
    barred = BarredSerializer(many=True)
    positions = PlacedSerializer(many=True)
    running = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    clock_running = serializers.BooleanField()
    warnings = WarningSerializer(many=True)


class OpensSerializer(serializers.Serializer[Any]):
    claim = serializers.CharField()
    tally = serializers.ChoiceField(TALLIES)
    n = serializers.IntegerField()


class LosesSerializer(serializers.Serializer[Any]):
    claim = serializers.CharField()
    side = serializers.ChoiceField(SIDES)


class MoveSerializer(PlaceSerializer):
    opens = OpensSerializer(many=True)
    loses = LosesSerializer(many=True)
    because = serializers.CharField()


class OutlookSerializer(PlacedSerializer):
    running = serializers.BooleanField()
    started = serializers.BooleanField()
    over = serializers.BooleanField()
    clock = serializers.FloatField()
    score = BothSerializer()
    moves = MoveSerializer(many=True)
