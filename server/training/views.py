"""Drills and plans over HTTP: for coaches, for the athlete and the guardians, and by link."""

from __future__ import annotations

from typing import cast

from django.contrib.auth.models import User
from django.db.models import QuerySet
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from django.template.loader import render_to_string
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import Access, Right, asks, asks_in_club
from config.bytoken import ByTokenView
from config.printing import pdf, pdf_answer
from journal.models import note
from reviews.report import DEFERENCE, STYLE
from roster.models import Athlete
from seasons.queries import played_of

from .actions import add_drill, add_examples, library, make_link, make_plan, move, open_link, put, tick
from .models import Drill, Plan
from .queries import plan_json, plans_json
from .serializers import (
    ChangePlannedSerializer,
    DoneSerializer,
    DrillOfLibrarySerializer,
    MadePlanLinkSerializer,
    NewPlannedSerializer,
    NewPlanSerializer,
    PlanLinkSerializer,
    PlanSerializer,
    PlansSerializer,
    outside_name,
)


def _library(club: int) -> Response:
    return Response(DrillOfLibrarySerializer(library(club), many=True).data)


class LibraryView(APIView):
    @extend_schema(operation_id="drills", responses=DrillOfLibrarySerializer(many=True))
    def get(self, request: Request) -> Response:
        """The club's library of drills."""
        return _library(asks_in_club(request)[1].pk)

    @extend_schema(
        operation_id="add_drill",
        request=DrillOfLibrarySerializer,
        responses={201: DrillOfLibrarySerializer},
    )
    def post(self, request: Request) -> Response:
        _, club = asks_in_club(request)
        asked = DrillOfLibrarySerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        return Response(DrillOfLibrarySerializer(add_drill(club, asked.validated_data)).data, status=201)


class ExamplesView(APIView):
    @extend_schema(operation_id="add_example_drills", request=None, responses=DrillOfLibrarySerializer(many=True))
    def post(self, request: Request) -> Response:
        """Put the drills that ship with Jurata into the library."""
        _, club = asks_in_club(request)
        add_examples(club)
        return _library(club.pk)


class DrillOfLibraryView(APIView):
    @extend_schema(
        operation_id="change_drill", request=DrillOfLibrarySerializer, responses=DrillOfLibrarySerializer
    )  # fmt: skip
    def put(self, request: Request, drill: int) -> Response:
        found = self._drill(request, drill)
        asked = DrillOfLibrarySerializer(found, data=request.data)
        asked.is_valid(raise_exception=True)
        asked.save()
        return Response(asked.data)

    @extend_schema(operation_id="archive_drill", responses={204: None})
    def delete(self, request: Request, drill: int) -> Response:
        """Take a drill out of the library; plans that have it keep it."""
        found = self._drill(request, drill)
        found.archived = True
        found.save(update_fields=["archived"])
        return Response(status=204)

    def _drill(self, request: Request, pk: int) -> Drill:
        return get_object_or_404(Drill.objects.filter(asks(request).clubs(), archived=False), pk=pk)


def _athlete(request: Request, pk: int) -> Athlete:
    return get_object_or_404(
        Athlete.objects.filter(asks(request).athletes(), practice=False).select_related("club"), pk=pk
    )


def _plan(request: Request, plan: int) -> Plan:
    """One of the plans of the athletes that a coach works with."""
    return get_object_or_404(_plans(request), pk=plan)


def _plans(request: Request) -> QuerySet[Plan]:
    """The plans of the athletes that a coach works with."""
    return Plan.objects.filter(asks(request).athletes("athlete")).select_related("athlete__club")


class PlansView(APIView):
    @extend_schema(operation_id="plans", responses=PlansSerializer)
    def get(self, request: Request, pk: int) -> Response:
        """An athlete's plans, what changed since each began, and the drills that would help now."""
        return Response(plans_json(asks(request), _athlete(request, pk)))

    @extend_schema(operation_id="make_plan", request=NewPlanSerializer, responses={201: PlansSerializer})
    def post(self, request: Request, pk: int) -> Response:
        """A new plan, with drills proposed from what cost most and came back most."""
        access, athlete = asks(request), _athlete(request, pk)
        asked = NewPlanSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        make_plan(athlete, cast(User, request.user), played_of(access, athlete), asked.validated_data)
        return Response(plans_json(access, athlete), status=201)


class PlanView(APIView):
    @extend_schema(operation_id="remove_plan", responses={204: None})
    def delete(self, request: Request, plan: int) -> Response:
        _plan(request, plan).delete()
        return Response(status=204)


class PlanPdfView(APIView):
    @extend_schema(operation_id="plan_pdf", responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    def get(self, request: Request, plan: int) -> HttpResponse:
        """A plan to print, with boxes to tick."""
        found = _plan(request, plan)
        shown = {"plan": plan_json(found, found.athlete.name), "deference": DEFERENCE}
        return pdf_answer(pdf(render_to_string("training/plan.html", shown), STYLE), "plan.pdf")


class PlannedListView(APIView):
    @extend_schema(operation_id="put_drill", request=NewPlannedSerializer, responses={201: PlanSerializer})
    def post(self, request: Request, plan: int) -> Response:
        """Put a drill of the library on a day."""
        found = _plan(request, plan)
        asked = NewPlannedSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        drills = Drill.objects.filter(club=found.athlete.club_id, archived=False)
        put(found, get_object_or_404(drills, pk=asked.validated_data["drill"]), asked.validated_data["day"])
        return Response(plan_json(found, found.athlete.name), status=201)


class PlannedView(APIView):
    @extend_schema(operation_id="change_planned", request=ChangePlannedSerializer, responses=PlanSerializer)
    def put(self, request: Request, plan: int, planned: int) -> Response:
        """Move a drill to another day, or tick it off."""
        found = _plan(request, plan)
        one = get_object_or_404(found.planned, pk=planned)
        asked = ChangePlannedSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        if "day" in asked.validated_data:
            move(one, asked.validated_data["day"])
        if "done" in asked.validated_data:
            tick(one, asked.validated_data["done"])
        return Response(plan_json(found, found.athlete.name))

    @extend_schema(operation_id="take_out_planned", responses=PlanSerializer)
    def delete(self, request: Request, plan: int, planned: int) -> Response:
        found = _plan(request, plan)
        get_object_or_404(found.planned, pk=planned).delete()
        return Response(plan_json(found, found.athlete.name))


class PlanLinkView(APIView):
    @extend_schema(operation_id="make_plan_link", request=PlanLinkSerializer, responses={201: MadePlanLinkSerializer})
    def post(self, request: Request, plan: int) -> Response:
        """A link that shows the plan and lets who has it tick drills off; an earlier one ends."""
        found = _plan(request, plan)
        asked = PlanLinkSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        token = make_link(found, asked.validated_data["days"])
        note("link made", f"to the {found}", request=request, club=found.athlete.club_id)
        return Response({"token": token, "plan": plan_json(found, found.athlete.name)}, status=201)

    @extend_schema(operation_id="end_plan_link", responses=PlanSerializer)
    def delete(self, request: Request, plan: int) -> Response:
        found = _plan(request, plan)
        found.end_link()
        note("link revoked", f"to the {found}", request=request, club=found.athlete.club_id)
        return Response(plan_json(found, found.athlete.name))


def _tick(request: Request, plan: Plan, planned: int) -> None:
    asked = DoneSerializer(data=request.data)
    asked.is_valid(raise_exception=True)
    tick(get_object_or_404(plan.planned, pk=planned), asked.validated_data["done"])


def _own_plans(request: Request) -> QuerySet[Plan]:
    own = Access(cast(User, request.user).pk, Right.OWN)
    rows = Plan.objects.filter(own.own_athletes("athlete"), athlete__practice=False)
    return rows.select_related("athlete__club").distinct()


class OwnPlansView(APIView):
    @extend_schema(operation_id="own_plans", responses=PlanSerializer(many=True))
    def get(self, request: Request) -> Response:
        """One's own plans, or one's children's, the latest first."""
        return Response([plan_json(plan, plan.athlete.name) for plan in _own_plans(request)])


class OwnPlannedView(APIView):
    @extend_schema(operation_id="tick_own_planned", request=DoneSerializer, responses=PlanSerializer)
    def put(self, request: Request, plan: int, planned: int) -> Response:
        """Tick a drill of one's own plan off, or take that back."""
        found = get_object_or_404(_own_plans(request), pk=plan)
        _tick(request, found, planned)
        return Response(plan_json(found, found.athlete.name))


class SharedPlan(ByTokenView):
    def plan(self, token: str) -> Plan:
        plan = open_link(token)
        if plan is None:
            raise Http404
        return plan


class SharedPlanView(SharedPlan):
    @extend_schema(operation_id="shared_plan", auth=[], responses=PlanSerializer)
    def get(self, request: Request, token: str) -> Response:
        plan = self.plan(token)
        return Response(plan_json(plan, outside_name(plan.athlete)))


class SharedPlannedView(SharedPlan):
    @extend_schema(operation_id="tick_shared_planned", auth=[], request=DoneSerializer, responses=PlanSerializer)
    def put(self, request: Request, token: str, planned: int) -> Response:
        plan = self.plan(token)
        _tick(request, plan, planned)
        return Response(plan_json(plan, outside_name(plan.athlete)))
