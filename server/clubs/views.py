"""Clubs over HTTP: who is in them, and who is invited."""

from __future__ import annotations

import uuid
from typing import Any, cast

from django.contrib.auth.models import User
from django.db.models import Count, Q, QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from config.errors import ErrorSerializer
from config.refusals import NotAllowed, NotThere
from config.requests import absolute
from journal.models import note

from .access import CHOSEN, Access, asks, asks_in_club, memberships
from .actions import (
    change_club,
    found_club,
    invitation_of,
    invite,
    leave,
    may_invite,
    may_withdraw,
    no_invitation,
    take_up,
)
from .joining import TOKEN
from .models import Club, Invitation, Membership, Role


class ClubSerializer(serializers.ModelSerializer[Club]):
    class Meta:
        model = Club
        fields = ["id", "name", "adult_age", "initials"]


class MemberSerializer(serializers.ModelSerializer[Membership]):
    """One role of one member."""

    user = serializers.IntegerField(source="user_id")
    name = serializers.SerializerMethodField()
    email = serializers.EmailField(source="user.email")
    of = serializers.SerializerMethodField(help_text="the athletes that the role is about")

    class Meta:
        model = Membership
        fields = ["id", "user", "name", "email", "role", "since", "of"]

    def get_name(self, membership: Membership) -> str:
        return called(membership.user)

    def get_of(self, membership: Membership) -> list[str]:
        return cast(list[str], self.context["of"].get((membership.user_id, membership.role), []))


class InvitationSerializer(serializers.ModelSerializer[Invitation]):
    athlete_name = serializers.CharField(source="athlete.name", default=None)

    class Meta:
        model = Invitation
        fields = ["id", "email", "role", "athlete", "athlete_name", "ends"]


class MembersSerializer(serializers.Serializer[Any]):
    """A club, with everyone who is in it and everyone who is invited."""

    club = ClubSerializer()
    members = MemberSerializer(many=True)
    invitations = InvitationSerializer(many=True)
    may_invite = serializers.ListField(
        child=serializers.ChoiceField(Role.choices), help_text="whom the user may invite"
    )


class NewInvitationSerializer(serializers.Serializer[Any]):
    email = serializers.EmailField()
    role = serializers.ChoiceField(Role.choices)
    athlete = serializers.IntegerField(required=False, allow_null=True)


class OpenedSerializer(serializers.Serializer[Any]):
    """What somebody is invited to."""

    club = serializers.CharField()
    role = serializers.ChoiceField(Role.choices)
    athlete = serializers.CharField(allow_null=True)
    by = serializers.CharField()
    email = serializers.EmailField()
    known = serializers.BooleanField(help_text="whether that address has an account already")


class ChoiceSerializer(serializers.Serializer[Any]):
    club = serializers.IntegerField()


def _roles(request: Request, club: Club) -> set[str]:
    return {one.role for one in memberships(request) if one.club_id == club.pk}


def _invitations(access: Access) -> QuerySet[Invitation]:
    """The invitations to the clubs of somebody's, without those about athletes whom they don't know of."""
    about_known = Q(athlete=None) | access.known_athletes("athlete")
    return Invitation.objects.filter(access.clubs(), about_known).select_related("club", "athlete")


def _members(request: Request, access: Access, club: Club) -> dict[str, Any]:
    """Who is in a club, as far as somebody may know of them."""
    of: dict[tuple[int, str], list[str]] = {}
    known = club.athletes.filter(access.known_athletes(), practice=False)
    for athlete in known.prefetch_related("guardians"):
        if athlete.user_id is not None:
            of.setdefault((athlete.user_id, Role.ATHLETE), []).append(athlete.name)
        for guardian in athlete.guardians.all():
            of.setdefault((guardian.pk, Role.GUARDIAN), []).append(athlete.name)
    shown = MemberSerializer(club.memberships.select_related("user"), many=True, context={"of": of})
    invitations = InvitationSerializer(_invitations(access), many=True)
    return {
        "club": ClubSerializer(club).data,
        "members": shown.data,
        "invitations": invitations.data,
        "may_invite": may_invite(_roles(request, club)),
    }


class ClubView(APIView):
    @extend_schema(operation_id="club", responses=MembersSerializer)
    def get(self, request: Request) -> Response:
        """The club, with who is in it and who is invited."""
        return Response(_members(request, *asks_in_club(request)))

    @extend_schema(operation_id="change_club", request=ClubSerializer(partial=True), responses=MembersSerializer)
    def patch(self, request: Request) -> Response:
        access, club = asks_in_club(request)
        asked = ClubSerializer(club, data=request.data, partial=True)
        asked.is_valid(raise_exception=True)
        change_club(club, asked.validated_data)
        note("club changed", f"{club.name}, adult from {club.adult_age}", request=request, club=club.pk)
        return Response(_members(request, access, club))


class FoundedSerializer(serializers.ModelSerializer[Club]):
    """A club as an administrator of the installation sees it: nothing of what is in it."""

    members = serializers.IntegerField(read_only=True)

    class Meta:
        model = Club
        fields = ["id", "name", "created", "members"]


class ClubsView(APIView):
    @extend_schema(operation_id="clubs", responses=FoundedSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The clubs of the installation."""
        found = Club.objects.annotate(members=Count("memberships__user", distinct=True))
        return Response(FoundedSerializer(found, many=True).data)

    @extend_schema(operation_id="found_club", request=FoundedSerializer, responses={201: FoundedSerializer(many=True)})
    def post(self, request: Request) -> Response:
        """A further club. Who founds it is its head coach, until they have made somebody else one and leave."""
        asked = FoundedSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        club = found_club(asked.validated_data["name"], cast(User, request.user))
        note("club founded", club.name, request=request, club=club.pk)
        return Response(self.get(request).data, status=201)


class ChosenClubView(APIView):
    @extend_schema(operation_id="choose_club", request=ChoiceSerializer, responses={204: None})
    def put(self, request: Request) -> Response:
        """Work in another of one's clubs from now on."""
        asked = ChoiceSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        chosen = asked.validated_data["club"]
        if chosen not in {one.club_id for one in memberships(request)}:
            raise NotThere("no_club", "You are not a member of that club.")
        request.session[CHOSEN] = chosen
        return Response(status=204)


class MemberView(APIView):
    @extend_schema(operation_id="remove_member", responses={204: None})
    def delete(self, request: Request, member: int) -> Response:
        """Take a role away from a member; what they did stays."""
        found = get_object_or_404(Membership.objects.select_related("user", "club"), asks(request).clubs(), pk=member)
        leave(found)
        about = f"{called(found.user)}, {found.get_role_display()}"
        note("role taken away", about, request=request, club=found.club_id)
        return Response(status=204)


class InvitationsView(APIView):
    @extend_schema(operation_id="invite", request=NewInvitationSerializer, responses={201: InvitationSerializer})
    def post(self, request: Request) -> Response:
        """Invite somebody by mail."""
        access, club = asks_in_club(request)
        asked = NewInvitationSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        values = dict(asked.validated_data)
        if values.get("athlete") is not None:
            known = club.athletes.filter(access.known_athletes(), practice=False)
            values["athlete"] = get_object_or_404(known, pk=values["athlete"])
        made = invite(club, cast(User, request.user), _roles(request, club), values, absolute(request, "/"))
        note("invited", str(made), request=request, club=club.pk)
        return Response(InvitationSerializer(made).data, status=201)


class InvitationView(APIView):
    @extend_schema(operation_id="withdraw_invitation", responses={204: None})
    def delete(self, request: Request, invitation: uuid.UUID) -> Response:
        found = get_object_or_404(_invitations(asks(request)), pk=invitation)
        if not may_withdraw(found, _roles(request, found.club)):
            raise NotAllowed("no_right", "Only a head coach withdraws an invitation of a coach.")
        note("invitation withdrawn", str(found), request=request, club=found.club_id)
        found.delete()
        return Response(status=204)


class OpenedInvitationView(APIView):
    @extend_schema(operation_id="invitation", responses={200: OpenedSerializer, 404: ErrorSerializer})
    def get(self, request: Request, token: str) -> Response:
        """What an invitation is to. Its session may sign up from then on."""
        found = _opened(request, token)
        request.session[TOKEN] = token
        return Response(
            {
                "club": found.club.name,
                "role": found.role,
                "athlete": found.athlete and found.athlete.name,
                "by": called(found.invited_by),
                "email": found.email,
                "known": User.objects.filter(email__iexact=found.email, is_active=True).exists(),
            }
        )


class TakenUpView(APIView):
    @extend_schema(operation_id="take_up_invitation", request=None, responses={204: None})
    def post(self, request: Request, token: str) -> Response:
        """Join with the account that is signed in."""
        found = _opened(request, token)
        made = take_up(found, cast(User, request.user))
        request.session[CHOSEN] = made.club_id
        note("joined", f"as {made.get_role_display()}", request=request, club=made.club_id)
        return Response(status=204)


def _opened(request: Request, token: str) -> Invitation:
    found = invitation_of(token, request.user)
    if found is None:
        raise no_invitation()
    return found
