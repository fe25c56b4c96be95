"""Signing in and out with Django's own accounts."""

from __future__ import annotations

from typing import Any, cast

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.errors import ErrorSerializer
from config.refusals import NotAllowed

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
