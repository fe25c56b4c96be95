"""What a user has set for their own way of working, over HTTP."""

from __future__ import annotations

from typing import Any, cast

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.printing import pdf_answer

from .key_card import key_card
from .models import Notice, Preferences, called
from .notices import KINDS

MOST_KEYS = 60
MOST_NOTICES = 100


class PreferencesSerializer(serializers.Serializer[Any]):
    keys = serializers.DictField(
        child=serializers.RegexField(r"^[a-z0-9]$"), help_text="command to key, where it is not the usual one"
    )
    muted = serializers.ListField(
        child=serializers.ChoiceField(KINDS), max_length=len(KINDS), help_text="the notices by mail that are not wanted"
    )
    hidden = serializers.ListField(
        child=serializers.ChoiceField(KINDS),
        max_length=len(KINDS),
        help_text="the notices in the product that are not wanted",
    )

    def validate_keys(self, keys: dict[str, str]) -> dict[str, str]:
        if len(keys) > MOST_KEYS or any(len(name) > MOST_KEYS for name in keys):
            raise serializers.ValidationError("names too many commands")
        if len(set(keys.values())) < len(keys):
            raise serializers.ValidationError("gives one key to two commands")
        return keys


class PreferencesView(APIView):
    @extend_schema(operation_id="preferences", responses=PreferencesSerializer)
    def get(self, request: Request) -> Response:
        return Response(PreferencesSerializer(Preferences.of(cast(Any, request.user))).data)

    @extend_schema(
        operation_id="set_preferences", request=PreferencesSerializer(partial=True), responses=PreferencesSerializer
    )
    def patch(self, request: Request) -> Response:
        """Change some of what one has set."""
        asked = PreferencesSerializer(data=request.data, partial=True)
        asked.is_valid(raise_exception=True)
        found, _ = Preferences.objects.update_or_create(user=cast(Any, request.user), defaults=asked.validated_data)
        return Response(PreferencesSerializer(found).data)


class NoticeSerializer(serializers.ModelSerializer[Notice]):
    class Meta:
        model = Notice
        fields = ["id", "kind", "text", "path", "read", "at"]
        read_only_fields = fields


class NoticesView(APIView):
    @extend_schema(operation_id="notices", responses=NoticeSerializer(many=True))
    def get(self, request: Request) -> Response:
        """What the user was given notice of, the latest first."""
        found = Notice.objects.filter(user=cast(Any, request.user))[:MOST_NOTICES]
        return Response(NoticeSerializer(found, many=True).data)


class ReadNoticesView(APIView):
    @extend_schema(operation_id="read_notices", request=None, responses=NoticeSerializer(many=True))
    def put(self, request: Request) -> Response:
        """All notices are read."""
        Notice.objects.filter(user=cast(Any, request.user), read=False).update(read=True)
        return NoticesView().get(request)


class KeyRowSerializer(serializers.Serializer[Any]):
    keys = serializers.CharField(max_length=30)
    words = serializers.CharField(max_length=200)


class KeySectionSerializer(serializers.Serializer[Any]):
    title = serializers.CharField(max_length=60)
    rows = serializers.ListField(child=KeyRowSerializer(), max_length=40)


class KeyCardSerializer(serializers.Serializer[Any]):
    """The keys as the desk has them, in the order in which they are printed."""

    sections = serializers.ListField(child=KeySectionSerializer(), min_length=1, max_length=12)


class KeyCardView(APIView):
    @extend_schema(
        operation_id="key_card",
        request=KeyCardSerializer,
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def post(self, request: Request) -> HttpResponse:
        """The keys of the desk as a page to print."""
        asked = KeyCardSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        page = key_card(called(cast(Any, request.user)), asked.validated_data["sections"])
        return pdf_answer(page, "jurata-keys.pdf")
