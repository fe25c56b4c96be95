"""The coach's athletes."""

from __future__ import annotations

import datetime
from typing import Any

from django.db.models import QuerySet, RestrictedError
from rest_framework import serializers, viewsets

from config.refusals import Clash

from .models import Athlete


class AthleteSerializer(serializers.ModelSerializer[Athlete]):
    class Meta:
        model = Athlete
        fields = ["id", "name", "birth_year", "belt"]

    def validate_birth_year(self, year: int) -> int:
        this_year = datetime.date.today().year
        if not this_year - 100 <= year <= this_year - 3:
            raise serializers.ValidationError(f"{year} should be a year from {this_year - 100} to {this_year - 3}")
        return year


class AthleteViewSet(viewsets.ModelViewSet[Athlete]):
    serializer_class = AthleteSerializer
    queryset = Athlete.objects.none()
    lookup_value_converter = "int"

    def get_queryset(self) -> QuerySet[Athlete]:
        assert self.request.user.pk is not None
        return Athlete.objects.filter(owner_id=self.request.user.pk, practice=False)

    def perform_create(self, serializer: Any) -> None:
        serializer.save(owner=self.request.user)

    def perform_destroy(self, instance: Athlete) -> None:
        try:
            instance.delete()
        except RestrictedError:
            if instance.matches.exists():
                message = f"{instance.name} has matches. Delete those first, or keep the athlete."
            else:
                message = f"{instance.name} has deleted matches that can still be restored. Remove them for good first."
            raise Clash("in_use", message) from None
