"""Signing in and out with Django's own accounts."""

from __future__ import annotations

from typing import Any, cast

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpResponse
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.errors import ErrorSerializer
from config.printing import pdf_answer
from config.refusals import NotAllowed

from .key_card import key_card
from .models import Preferences, called

MOST_KEYS = 60


class DemoSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    password = serializers.CharField()


class SessionSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(allow_null=True, help_text="The coach who is signed in, or null.")
    demo = DemoSerializer(allow_null=True, help_text="how to sign in to a demo; null in an installation for real use")


class SignInSerializer(serializers.Serializer[Any]):
    username = serializers.CharField()
    password = serializers.CharField(trim_whitespace=False)


def _session(request: Request) -> Response:
    user, demo = request.user, settings.DEMO_ACCOUNT if settings.DEMO else None
    return Response(
        {
            "name": called(user) if user.is_authenticated else None,
            "demo": None if demo is None else dict(zip(("name", "password"), demo, strict=True)),
        }
    )


@method_decorator(ensure_csrf_cookie, "dispatch")
class SessionView(APIView):
    permission_classes = [AllowAny]

    @extend_schema(operation_id="session", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        return _session(request)

    @extend_schema(
        operation_id="sign_in",
        request=SignInSerializer,
        responses={200: SessionSerializer, 403: ErrorSerializer, 429: ErrorSerializer},
    )
    @method_decorator(csrf_protect)
    def post(self, request: Request) -> Response:
        asked = SignInSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        user = authenticate(request._request, **asked.validated_data)
        if user is None:
            raise NotAllowed("wrong_sign_in", "Wrong name or password. Try again.")
        login(request, user)
        request.user = user
        return _session(request)

    @extend_schema(operation_id="sign_out", responses={204: None})
    def delete(self, request: Request) -> Response:
        logout(request)
        return Response(status=204)


class PreferencesSerializer(serializers.Serializer[Any]):
    keys = serializers.DictField(
        child=serializers.RegexField(r"^[a-z0-9]$"), help_text="command to key, where it is not the usual one"
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
        found = Preferences.objects.filter(user=cast(Any, request.user)).first()
        return Response({"keys": found.keys if found else {}})

    @extend_schema(operation_id="set_preferences", request=PreferencesSerializer, responses=PreferencesSerializer)
    def put(self, request: Request) -> Response:
        asked = PreferencesSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        Preferences.objects.update_or_create(
            user=cast(Any, request.user), defaults={"keys": asked.validated_data["keys"]}
        )
        return Response(asked.validated_data)


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
