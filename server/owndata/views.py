"""All of one's own data over HTTP: exports, deletions, and how long a club keeps clips."""

from __future__ import annotations

import uuid
from typing import Any, cast

from django.contrib.auth.models import User
from django.http import Http404, HttpResponseBase
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.again import shown_again
from clubs.access import Access, Right, asks, asks_in_club, is_head_coach
from clubs.models import Club
from footage.models import Clip
from footage.ranges import served
from footage.store import there
from jobs.serializers import JobSerializer
from journal.models import note
from roster.models import Athlete

from .actions import ask_to_delete, export, keep
from .collecting import covered_by
from .models import EXPORT_KEPT, LONGEST_MONTHS, Clearing, Deletion, Export, Retention
from .retention import clear, keep_longer, months_of, old_clips

MOST_CLIPS = 2_000
"""So many old clips are listed and deleted at a time."""


class ExportSerializer(serializers.ModelSerializer[Export]):
    job = JobSerializer(allow_null=True)
    until = serializers.SerializerMethodField(help_text="until when it can be downloaded")

    class Meta:
        model = Export
        fields = ["id", "size", "created", "until", "job"]
        read_only_fields = fields

    def get_until(self, made: Export) -> str:
        return (made.created + EXPORT_KEPT).isoformat()


class DeletionSerializer(serializers.ModelSerializer[Deletion]):
    class Meta:
        model = Deletion
        fields = ["asked_by", "asked", "due"]
        read_only_fields = fields


class WardSerializer(serializers.Serializer[Any]):
    """An athlete that the user is, or is a guardian of."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    club = serializers.CharField()
    deletion = DeletionSerializer(allow_null=True)


class OwnDataSerializer(serializers.Serializer[Any]):
    """What a person can do with their own data."""

    exports = ExportSerializer(many=True)
    deletion = DeletionSerializer(allow_null=True, help_text="of the account; null: it stays")
    athletes = WardSerializer(many=True)


class OldClipSerializer(serializers.ModelSerializer[Clip]):
    matches = serializers.SerializerMethodField(help_text="how many matches show it")

    class Meta:
        model = Clip
        fields = ["id", "name", "size", "filmed", "created", "matches"]
        read_only_fields = fields

    def get_matches(self, clip: Clip) -> int:
        return clip.matches.count() + clip.further.count()


class ClearingSerializer(serializers.ModelSerializer[Clearing]):
    job = JobSerializer(allow_null=True)

    class Meta:
        model = Clearing
        fields = ["id", "created", "deleted", "freed", "job"]
        read_only_fields = fields


class AskedDeletionSerializer(DeletionSerializer):
    """The deletion of an athlete of the club, as the athlete or a guardian has asked for it."""

    name = serializers.CharField(source="athlete.name")

    class Meta(DeletionSerializer.Meta):
        fields = ["name", *DeletionSerializer.Meta.fields]
        read_only_fields = fields


class ClubDataSerializer(serializers.Serializer[Any]):
    """What a head coach can do with the club's data."""

    exports = ExportSerializer(many=True)
    deletion = DeletionSerializer(allow_null=True, help_text="of the club; null: it stays")
    athletes = AskedDeletionSerializer(many=True)
    months = serializers.IntegerField(allow_null=True, help_text="how long clips are kept; null: always")
    old = OldClipSerializer(many=True, help_text="the clips that are older than that")
    clearings = ClearingSerializer(many=True)


class MonthsSerializer(serializers.Serializer[Any]):
    months = serializers.IntegerField(min_value=1, max_value=LONGEST_MONTHS, allow_null=True)


class ClipsSerializer(serializers.Serializer[Any]):
    clips = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=MOST_CLIPS)


def _user(request: Request) -> User:
    return cast(User, request.user)


def _exports(asked_by: User, club: Club | None) -> Any:
    return Export.objects.filter(asked_by=asked_by, club=club).select_related("job")


def _own(request: Request) -> Response:
    user = _user(request)
    athletes = Athlete.objects.filter(Access(user.pk, Right.OWN).own_athletes()).select_related("club", "deletion")
    shown = {
        "exports": _exports(user, None),
        "deletion": Deletion.objects.filter(user=user).first(),
        "athletes": [
            {"id": one.pk, "name": one.name, "club": one.club.name, "deletion": getattr(one, "deletion", None)}
            for one in athletes.distinct()
        ],
    }
    return Response(OwnDataSerializer(shown).data)


def _of_club(request: Request, club: Club) -> Response:
    shown = {
        "exports": _exports(_user(request), club),
        "deletion": Deletion.objects.filter(club=club).first(),
        "athletes": Deletion.objects.filter(athlete__club=club).select_related("athlete"),
        "months": months_of(club),
        "old": old_clips(club)[:MOST_CLIPS],
        "clearings": club.clearings.select_related("job")[:5],
    }
    return Response(ClubDataSerializer(shown).data)


class OwnDataView(APIView):
    @extend_schema(operation_id="own_data", responses=OwnDataSerializer)
    def get(self, request: Request) -> Response:
        """Exports of one's data, and what will be deleted."""
        return _own(request)


class OwnExportsView(APIView):
    @extend_schema(operation_id="export_own_data", request=None, responses=OwnDataSerializer)
    def post(self, request: Request) -> Response:
        """Have everything about oneself, and about one's children, written into a zip."""
        shown_again(request)
        export(_user(request), None)
        note("export asked for", "of their own data", request=request)
        return _own(request)


class ExportFileView(APIView):
    @extend_schema(operation_id="export_file", responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: Request, export: uuid.UUID) -> HttpResponseBase:
        """The zip. It is for who asked for it, as long as they may see all that is in it."""
        made = get_object_or_404(Export, pk=export, asked_by=_user(request), size__isnull=False)
        of_head = made.club_id is None or is_head_coach(made.asked_by_id, made.club_id)
        if not of_head or not set(made.covers) <= covered_by(made) or not there(made.path):
            raise Http404
        if "Range" not in request.headers:  # not once more for each piece of one download
            about = "of their own data" if made.club_id is None else "of the club"
            note("export downloaded", about, request=request, club=made.club_id)
        answer = served(request._request, made.path, "application/zip")
        answer["Content-Disposition"] = f'attachment; filename="jurata-{made.created:%Y-%m-%d}.zip"'
        answer["Cache-Control"] = "no-store"
        return answer


class OwnDeletionView(APIView):
    @extend_schema(operation_id="delete_account", request=None, responses=OwnDataSerializer)
    def post(self, request: Request) -> Response:
        """Have one's account deleted in 30 days."""
        shown_again(request)
        ask_to_delete(_user(request), _user(request))
        note("deletion asked for", "of their account", request=request)
        return _own(request)

    @extend_schema(operation_id="keep_account", responses={200: OwnDataSerializer})
    def delete(self, request: Request) -> Response:
        keep(_user(request), _user(request))
        note("deletion stopped", "of their account", request=request)
        return _own(request)


class AthleteDeletionView(APIView):
    @extend_schema(operation_id="delete_athlete_data", request=None, responses=OwnDataSerializer)
    def post(self, request: Request, athlete: int) -> Response:
        """Have everything deleted in 30 days that a club keeps about oneself or one's child."""
        found = self._own_athlete(request, athlete)
        shown_again(request)
        ask_to_delete(found, _user(request))
        note("deletion asked for", f"of everything about {found.name}", request=request, club=found.club_id)
        return _own(request)

    @extend_schema(operation_id="keep_athlete_data", responses={200: OwnDataSerializer})
    def delete(self, request: Request, athlete: int) -> Response:
        found = self._own_athlete(request, athlete)
        keep(found, _user(request))
        note("deletion stopped", f"of everything about {found.name}", request=request, club=found.club_id)
        return _own(request)

    def _own_athlete(self, request: Request, athlete: int) -> Athlete:
        rows = Athlete.objects.filter(asks(request).own_athletes(), practice=False).select_related("club").distinct()
        return get_object_or_404(rows, pk=athlete)


class ClubDataView(APIView):
    @extend_schema(operation_id="club_data", responses=ClubDataSerializer)
    def get(self, request: Request) -> Response:
        """Exports of the club, what will be deleted, and how long clips are kept."""
        return _of_club(request, asks_in_club(request)[1])

    @extend_schema(operation_id="set_retention", request=MonthsSerializer, responses=ClubDataSerializer)
    def put(self, request: Request) -> Response:
        """Say how long the club keeps clips."""
        _, club = asks_in_club(request)
        asked = MonthsSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        months = asked.validated_data["months"]
        Retention.objects.update_or_create(club=club, defaults={"months": months, "told": None})
        note("retention set", f"{months} months" if months else "clips are kept", request=request, club=club.pk)
        return _of_club(request, club)


class ClubExportsView(APIView):
    @extend_schema(operation_id="export_club", request=None, responses=ClubDataSerializer)
    def post(self, request: Request) -> Response:
        """Have everything of the club written into a zip, except what is about children one is not named for."""
        _, club = asks_in_club(request)
        shown_again(request)
        export(_user(request), club)
        note("export asked for", "of the club", request=request, club=club.pk)
        return _of_club(request, club)


class ClubDeletionView(APIView):
    @extend_schema(operation_id="delete_club", request=None, responses=ClubDataSerializer)
    def post(self, request: Request) -> Response:
        """Have the club with all that it owns deleted in 30 days."""
        _, club = asks_in_club(request)
        shown_again(request)
        ask_to_delete(club, _user(request))
        note("deletion asked for", "of the club", request=request, club=club.pk)
        return _of_club(request, club)

    @extend_schema(operation_id="keep_club", responses={200: ClubDataSerializer})
    def delete(self, request: Request) -> Response:
        _, club = asks_in_club(request)
        keep(club, _user(request))
        note("deletion stopped", "of the club", request=request, club=club.pk)
        return _of_club(request, club)


class OldClipsView(APIView):
    @extend_schema(operation_id="keep_old_clips", request=ClipsSerializer, responses=ClubDataSerializer)
    def put(self, request: Request) -> Response:
        """Keep clips for as long again."""
        club, clips = self._asked(request)
        keep_longer(club, clips)
        note("old clips kept", f"{clips.count()} clips", request=request, club=club.pk)
        return _of_club(request, club)

    @extend_schema(operation_id="delete_old_clips", request=ClipsSerializer, responses=ClubDataSerializer)
    def post(self, request: Request) -> Response:
        """Have the worker delete clips that are older than the club keeps them."""
        club, clips = self._asked(request)
        clear(club, clips, _user(request))
        return _of_club(request, club)

    def _asked(self, request: Request) -> tuple[Club, Any]:
        _, club = asks_in_club(request)
        asked = ClipsSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        ids = asked.validated_data["clips"]
        return club, Clip.objects.filter(pk__in=old_clips(club).filter(pk__in=ids).values("pk"))
