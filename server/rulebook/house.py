"""House rules over HTTP: made from a preset, versioned, shared with other clubs, written to and read from a file."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import transaction
from django.db.models import Max, Q, QuerySet, RestrictedError
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from clubs.access import Access, asks, asks_in_club
from config.refusals import Clash
from config.sizes import RulesetField
from jurata_core.rulesets import read_ruleset
from jurata_core.rulesets.house import as_file, read_house_rules, without_effect
from jurata_core.rulesets.loader import merged_settings

from .models import HouseRules


class HouseRulesSerializer(serializers.ModelSerializer[HouseRules]):
    title = serializers.SerializerMethodField()
    note = serializers.SerializerMethodField()
    body = serializers.JSONField(help_text="as a match takes it")
    settings = serializers.SerializerMethodField(help_text="all settings, those of the preset included")
    without_effect = serializers.SerializerMethodField(help_text="settings that others leave without effect")
    own = serializers.SerializerMethodField()
    owner = serializers.SerializerMethodField()

    class Meta:
        model = HouseRules
        fields = ["id", "family", "version", "title", "note", "shared", "own", "owner", "created", "body", "settings",
            "without_effect",
        ]  # fmt: skip

    def get_title(self, rules: HouseRules) -> str:
        return str(rules.body["title"])

    def get_note(self, rules: HouseRules) -> str:
        return str(rules.body.get("note", ""))

    def get_settings(self, rules: HouseRules) -> dict[str, Any]:
        return merged_settings(rules.body)

    def get_without_effect(self, rules: HouseRules) -> list[str]:
        ruleset = read_ruleset(rules.body, "rules", [])
        return [] if ruleset is None else without_effect(ruleset)

    def get_own(self, rules: HouseRules) -> bool:
        return bool(rules.club_id == self.context["club"].pk)

    def get_owner(self, rules: HouseRules) -> str:
        """Who wrote them, where they are the club's own; else the club that shares them."""
        return called(rules.author) if self.get_own(rules) else rules.club.name


class SaveRulesSerializer(serializers.Serializer[Any]):
    rules = RulesetField(help_text="a ruleset as in a file of one; its version is given here")
    family = serializers.UUIDField(required=False, help_text="the house rules of which this is the next version")
    shared = serializers.BooleanField(default=False)


class ShareRulesSerializer(serializers.Serializer[Any]):
    shared = serializers.BooleanField()


def visible(access: Access) -> QuerySet[HouseRules]:
    """The club's own rules, and those that others share, for who has the right in some club."""
    shared = Q(shared=True) if access.holds() else Q(pk__in=[])
    return HouseRules.objects.filter(access.clubs() | shared).select_related("author", "club")


def own(access: Access) -> QuerySet[HouseRules]:
    return HouseRules.objects.filter(access.clubs()).select_related("author", "club")


class HouseRulesView(APIView):
    @extend_schema(operation_id="house_rules", responses=HouseRulesSerializer(many=True))
    def get(self, request: Request) -> Response:
        """All versions, the latest of each first."""
        access, club = asks_in_club(request)
        return Response(HouseRulesSerializer(visible(access), many=True, context={"club": club}).data)

    @extend_schema(operation_id="save_rules", request=SaveRulesSerializer, responses={201: HouseRulesSerializer})
    @transaction.atomic
    def post(self, request: Request) -> Response:
        """Save a ruleset: a new one, or the next version of one of the club's."""
        asked = SaveRulesSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        body = read_house_rules(asked.validated_data["rules"])
        access, club = asks_in_club(request)
        family = asked.validated_data.get("family")
        last = 0
        if family is not None:
            before = own(access).select_for_update(of=("self",)).filter(family=family)
            get_object_or_404(before.order_by("-version")[:1])
            last = before.aggregate(last=Max("version"))["last"]
        saved = HouseRules.objects.create(
            club=club,
            author_id=access.user,
            family=family or uuid.uuid4(),
            version=last + 1,
            body={**body, "version": last + 1},
            shared=asked.validated_data["shared"],
        )
        return Response(HouseRulesSerializer(saved, context={"club": club}).data, status=201)


class OneHouseRulesView(APIView):
    @extend_schema(operation_id="share_rules", request=ShareRulesSerializer, responses=HouseRulesSerializer)
    def patch(self, request: Request, rules: uuid.UUID) -> Response:
        """Share a version with the other clubs of this installation, or take it back; matches keep it."""
        found = get_object_or_404(own(asks(request)), pk=rules)
        asked = ShareRulesSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        found.shared = asked.validated_data["shared"]
        found.save(update_fields=["shared"])
        return Response(HouseRulesSerializer(found, context={"club": found.club}).data)

    @extend_schema(operation_id="delete_rules", responses={204: None})
    def delete(self, request: Request, rules: uuid.UUID) -> Response:
        try:
            get_object_or_404(own(asks(request)), pk=rules).delete()
        except RestrictedError as error:
            many = len(error.restricted_objects)
            used = "a match uses" if many == 1 else f"{many} matches use"
            raise Clash("in_use", f"It can't be deleted: {used} this version.") from None
        return Response(status=204)


class RulesFileView(APIView):
    @extend_schema(operation_id="rules_file", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, rules: uuid.UUID) -> Response:
        """A version as a file that can be read in again anywhere."""
        found = get_object_or_404(visible(asks(request)), pk=rules)
        name = f"{slugify(found.body['title']) or 'ruleset'}-{found.version}.json"
        return Response(as_file(found.body), headers={"Content-Disposition": f'attachment; filename="{name}"'})
