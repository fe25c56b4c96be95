"""Jobs over HTTP: how far one is, and to cancel it or ask for it again. A job is seen by its owner alone."""

from __future__ import annotations

import uuid

from django.http import Http404
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from .actions import ask_again, cancel
from .models import Job
from .running import KINDS
from .serializers import DoSerializer, JobSerializer


def _own(request: Request, job: uuid.UUID) -> Job:
    """A job that the user asked for, and still has the right to. Raises Http404 for any other."""
    found = get_object_or_404(Job, pk=job, owner_id=request.user.pk)
    if not KINDS[found.kind].allowed(found):
        raise Http404
    return found


class JobView(APIView):
    @extend_schema(operation_id="job", responses=JobSerializer)
    def get(self, request: Request, job: uuid.UUID) -> Response:
        return Response(JobSerializer(_own(request, job)).data)

    @extend_schema(operation_id="do_with_job", request=DoSerializer, responses=JobSerializer)
    def post(self, request: Request, job: uuid.UUID) -> Response:
        """Cancel a job, or ask for it again."""
        found = _own(request, job)
        asked = DoSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        (cancel if asked.validated_data["do"] == "cancel" else ask_again)(found)
        found.refresh_from_db()
        return Response(JobSerializer(found).data)
