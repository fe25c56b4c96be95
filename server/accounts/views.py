"""Signing in and out with Django's own accounts."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.errors import ErrorSerializer, Refused


class SessionSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(allow_null=True, help_text="The coach who is signed in, or null.")


class SignInSerializer(serializers.Serializer[Any]):
    username = serializers.CharField()
    password = serializers.CharField(trim_whitespace=False)


def _session(request: Request) -> Response:
    user = request.user
    return Response({"name": (user.get_full_name() or user.get_username()) if user.is_authenticated else None})


@method_decorator(ensure_csrf_cookie, "dispatch")
class SessionView(APIView):
    permission_classes = [AllowAny]

    @extend_schema(operation_id="session", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        return _session(request)

    @extend_schema(
        operation_id="sign_in", request=SignInSerializer, responses={200: SessionSerializer, 403: ErrorSerializer}
    )
    @method_decorator(csrf_protect)
    def post(self, request: Request) -> Response:
        asked = SignInSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        user = authenticate(request, **asked.validated_data)
        if user is None:
            raise Refused("wrong_sign_in", "That name and password do not go together. Try again.", 403)
        login(request, user)
        request.user = user
        return _session(request)

    @extend_schema(operation_id="sign_out", responses={204: None})
    def delete(self, request: Request) -> Response:
        logout(request)
        return Response(status=204)
