"""A club's own names of techniques. They are found like any other; what is logged is the catalogue's technique."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from jurata_core.faults import Fault, FaultyInput, quoted
from jurata_core.techniques import catalogue, find, spelling

from .models import TechniqueName


class TechniqueNameSerializer(serializers.ModelSerializer[TechniqueName]):
    class Meta:
        model = TechniqueName
        fields = ["id", "name", "technique"]


class TechniqueNamesView(APIView):
    @extend_schema(operation_id="technique_names", responses=TechniqueNameSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The club's own names of techniques."""
        found = TechniqueName.objects.filter(club=asks_in_club(request)[1])
        return Response(TechniqueNameSerializer(found, many=True).data)

    @extend_schema(
        operation_id="name_technique", request=TechniqueNameSerializer, responses={201: TechniqueNameSerializer}
    )
    def post(self, request: Request) -> Response:
        """Give a technique a name of one's own; one that is in use already is refused."""
        asked = TechniqueNameSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        saved = name_technique(asks_in_club(request)[1].pk, **asked.validated_data)
        return Response(TechniqueNameSerializer(saved).data, status=201)


class TechniqueNameView(APIView):
    @extend_schema(operation_id="unname_technique", responses={204: None})
    def delete(self, request: Request, name: int) -> Response:
        """Take a name of one's own away; what was logged by it stays."""
        get_object_or_404(TechniqueName, asks(request).clubs(), pk=name).delete()
        return Response(status=204)


def name_technique(club: int, name: str, technique: str) -> TechniqueName:
    """Keep a club's own name. Raises FaultyInput where it is one already, or the technique is not known."""
    faults: list[Fault] = []
    name = name.strip()
    spelled = spelling(name)
    known = find(name)
    if technique not in catalogue():
        faults.append(Fault("technique", f"{quoted(technique)} is not in the catalogue", "unknown"))
    if not spelled:
        faults.append(Fault("name", "needs a letter or a digit", "missing"))
    elif known is not None:
        faults.append(Fault("name", f"{quoted(name)} is a name of {known.name} already", "duplicate"))
    elif TechniqueName.objects.filter(club=club, spelled=spelled).exists():
        faults.append(Fault("name", f"{quoted(name)} is a name of your club already", "duplicate"))
    if faults:
        raise FaultyInput(faults)
    return TechniqueName.objects.create(club_id=club, name=name, spelled=spelled, technique=technique)
