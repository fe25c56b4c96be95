"""Importing many matches over HTTP."""

from __future__ import annotations

import re
import uuid
from typing import Any, cast

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from jobs.serializers import JobSerializer
from roster.models import Athlete

from ..importing import announce
from ..models import Import

MOST_LISTED = 20
LONGEST_NAMES = 900_000


class NotTakenSerializer(serializers.Serializer[Any]):
    """A match that could not be taken in, and every fault of it."""

    where = serializers.CharField()
    faults = serializers.ListField(child=serializers.CharField())


class ImportSerializer(serializers.ModelSerializer[Import]):
    job = JobSerializer(allow_null=True)
    faults = NotTakenSerializer(many=True)
    added = serializers.ListField(child=serializers.CharField())

    class Meta:
        model = Import
        fields = ["id", "name", "created", "made", "known", "refused", "added", "faults", "job"]
        read_only_fields = fields


class NewImportSerializer(serializers.Serializer[Any]):
    """Files with match logs; ``names`` are their paths, in the same order, where they come from a folder."""

    files = serializers.ListField(
        child=serializers.FileField(allow_empty_file=True), max_length=settings.DATA_UPLOAD_MAX_NUMBER_FILES
    )
    names = serializers.CharField(required=False, max_length=LONGEST_NAMES, help_text="one a line")
    athlete = serializers.IntegerField(required=False, help_text="whose the logs are that name nobody")
    add_athletes = serializers.BooleanField(default=False)

    def validate(self, values: dict[str, Any]) -> dict[str, Any]:
        said = values.get("names")
        names = re.split("\r?\n", said) if said else [one.name for one in values["files"]]
        if len(names) != len(values["files"]):
            raise serializers.ValidationError({"names": "should be one for each file"})
        return {**values, "names": names}


def _imports(request: Request) -> QuerySet[Import]:
    """One's own imports, in the clubs that one may still set matches up for."""
    own = Import.objects.filter(asks(request).clubs(), asked_by=cast(User, request.user))
    return own.select_related("job")


class ImportsView(APIView):
    parser_classes = [MultiPartParser]

    @extend_schema(operation_id="imports", responses=ImportSerializer(many=True))
    def get(self, request: Request) -> Response:
        """One's own imports, the latest first."""
        return Response(ImportSerializer(_imports(request)[:MOST_LISTED], many=True).data)

    @extend_schema(operation_id="import_matches", request=NewImportSerializer, responses={201: ImportSerializer})
    def post(self, request: Request) -> Response:
        """Take in the matches of some files; the worker does it."""
        access, club = asks_in_club(request)
        asked = NewImportSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        values = asked.validated_data
        athlete = None
        if "athlete" in values:
            own = Athlete.objects.filter(access.athletes(), club=club, practice=False)
            athlete = get_object_or_404(own, pk=values["athlete"])
        made = announce(
            club, cast(User, request.user), values["files"], values["names"],
            athlete=athlete, add_athletes=values["add_athletes"],
        )  # fmt: skip
        return Response(ImportSerializer(made).data, status=201)


class ImportView(APIView):
    @extend_schema(operation_id="one_import", responses=ImportSerializer)
    def get(self, request: Request, taken: uuid.UUID) -> Response:
        return Response(ImportSerializer(get_object_or_404(_imports(request), pk=taken)).data)

    @extend_schema(operation_id="forget_import", responses={204: None})
    def delete(self, request: Request, taken: uuid.UUID) -> Response:
        """Remove an import from the list, and stop it where it is under way; matches that were taken in stay."""
        get_object_or_404(_imports(request), pk=taken).delete()
        return Response(status=204)
