"""A job as it goes over HTTP."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from .models import Job


class JobSerializer(serializers.ModelSerializer[Job]):
    class Meta:
        model = Job
        fields = ["id", "kind", "state", "progress", "trouble"]
        read_only_fields = fields


class DoSerializer(serializers.Serializer[Any]):
    do = serializers.ChoiceField(["cancel", "retry"])
