"""Who is signed in, and in which clubs they are. Signing in and out itself is allauth's: see config.urls."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called

from .access import ROLES, Right, current_club, memberships
from .models import Role


class DemoSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    password = serializers.CharField()


class OwnClubSerializer(serializers.Serializer[Any]):
    """A club that the user is in."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    roles = serializers.ListField(child=serializers.ChoiceField(Role.choices))
    may = serializers.ListField(child=serializers.ChoiceField([right.name.lower() for right in Right]))
    chosen = serializers.BooleanField(help_text="whether the user works in it now")


class SessionSerializer(serializers.Serializer[Any]):
    user = serializers.IntegerField(allow_null=True, help_text="the account that is signed in; null: nobody is")
    name = serializers.CharField(allow_null=True, help_text="how the user is called who is signed in; null: nobody is")
    clubs = OwnClubSerializer(many=True)
    administrator = serializers.BooleanField(help_text="whether the user looks after this installation")
    demo = DemoSerializer(allow_null=True, help_text="how to sign in to a demo; null in an installation for real use")
    unread = serializers.IntegerField(help_text="how many notices wait for the user")
    backup_days = serializers.IntegerField(help_text="how long backups still hold what was deleted")
    open_sign_up = serializers.BooleanField(help_text="whether anyone may create an account, without an invitation")
    least_password = serializers.IntegerField(help_text="characters that a password has at the least")


@method_decorator(ensure_csrf_cookie, "dispatch")
class SessionView(APIView):
    @extend_schema(operation_id="session", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        user, demo = request.user, settings.DEMO_ACCOUNT if settings.DEMO else None
        return Response(
            {
                "user": user.pk,
                "name": called(user) if user.is_authenticated else None,
                "clubs": _clubs(request) if user.is_authenticated else [],
                "administrator": user.is_authenticated and user.is_superuser,
                "demo": None if demo is None else dict(zip(("name", "password"), demo, strict=True)),
                "unread": user.notices.filter(read=False).count() if user.is_authenticated else 0,
                "backup_days": settings.BACKUP_DAYS,
                "open_sign_up": settings.OPEN_SIGN_UP,
                "least_password": settings.LEAST_PASSWORD,
            }
        )


def _clubs(request: Request) -> list[dict[str, Any]]:
    found: dict[int, dict[str, Any]] = {}
    chosen = current_club(request)
    for one in memberships(request):
        club: dict[str, Any] = {"id": one.club_id, "name": one.club.name, "roles": [], "chosen": one.club == chosen}
        found.setdefault(one.club_id, club)["roles"].append(one.role)
    for club in found.values():
        held = set(club["roles"])
        club["may"] = [right.name.lower() for right, roles in ROLES.items() if roles & held]
    return list(found.values())
