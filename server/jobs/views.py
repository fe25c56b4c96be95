"""Jobs over HTTP: how far one is, and to cancel it or ask for it again. A job is seen by its owner alone."""

from __future__ import annotations

import uuid

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from .actions import cancel, retry
from .models import Job
from .serializers import DoSerializer, JobSerializer


class JobView(APIView):
    @extend_schema(operation_id="job", responses=JobSerializer)
    def get(self, request: Request, job: uuid.UUID) -> Response:
        return Response(JobSerializer(get_object_or_404(Job, pk=job, owner_id=request.user.pk)).data)

    @extend_schema(operation_id="do_with_job", request=DoSerializer, responses=JobSerializer)
    def post(self, request: Request, job: uuid.UUID) -> Response:
        """Cancel a job, or ask for it again."""
        found = get_object_or_404(Job, pk=job, owner_id=request.user.pk)
        asked = DoSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        (cancel if asked.validated_data["do"] == "cancel" else retry)(found)
        found.refresh_from_db()
        return Response(JobSerializer(found).data)
