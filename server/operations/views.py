"""For whoever runs the installation: is it alive, is it ready, its figures, and a page about them."""

from __future__ import annotations

import hmac
import logging
import platform
import uuid
from ipaddress import ip_address
from typing import Any

import django
from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.guessing import address_of
from accounts.models import called
from config.refusals import body_of
from footage import object_storage, store
from jobs.actions import retry_set_aside
from jobs.models import Job
from journal.models import note

from . import figures, metrics
from .health import looked_at
from .models import Backup

log = logging.getLogger(__name__)


def alive(request: HttpRequest) -> JsonResponse:
    """Whether this process answers at all; where it does not, it is to be started again."""
    return JsonResponse({"alive": True})


def ready(request: HttpRequest) -> JsonResponse:
    """Whether it can do its work; where it can't, another server is to be asked meanwhile."""
    found = looked_at()
    wrong = [f"{name}: {trouble}" for name, trouble in found.items() if trouble]
    if wrong:
        log.warning("not ready: %s", "; ".join(wrong))
    return JsonResponse(
        {name: not trouble for name, trouble in found.items()}, status=503 if any(found.values()) else 200
    )


def figures_for_prometheus(request: HttpRequest) -> HttpResponse:
    """The metrics, for who is on this machine or knows the token."""
    if not _may_read(request):
        return JsonResponse(body_of("no_token", "The metrics are for this machine, or with their token."), status=403)
    return HttpResponse(metrics.all_figures(), content_type=metrics.CONTENT_TYPE)


def _may_read(request: HttpRequest) -> bool:
    if settings.METRICS_TOKEN:
        said = request.headers.get("Authorization", "").removeprefix("Bearer ")
        return hmac.compare_digest(said.encode(), settings.METRICS_TOKEN.encode())
    return ip_address(address_of(request) or "0.0.0.0").is_loopback


class QueueSerializer(serializers.Serializer[Any]):
    waiting = serializers.IntegerField()
    working = serializers.IntegerField()
    oldest_s = serializers.FloatField(help_text="for how long the longest has waited, in seconds")


class WorkTimesSerializer(serializers.Serializer[Any]):
    """How long one kind of work took in the last day."""

    kind = serializers.CharField()
    done = serializers.IntegerField()
    failed = serializers.IntegerField()
    mean_s = serializers.FloatField()
    longest_s = serializers.FloatField()


class FailedJobSerializer(serializers.ModelSerializer[Job]):
    """Work that failed; what it was about is its owner's alone."""

    owner = serializers.SerializerMethodField()

    class Meta:
        model = Job
        fields = ["id", "kind", "trouble", "tries", "created", "owner"]
        read_only_fields = fields

    def get_owner(self, job: Job) -> str:
        return called(job.owner)


class RoomSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    free = serializers.IntegerField()
    total = serializers.IntegerField()


class AttemptSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    address = serializers.CharField()
    tries = serializers.IntegerField()
    last = serializers.DateTimeField()


class SignInsSerializer(serializers.Serializer[Any]):
    failed = serializers.IntegerField(help_text="wrong passwords in the last day")
    shut_out = serializers.IntegerField(help_text="accounts that are locked out right now")
    attempts = AttemptSerializer(many=True)


class BackupSerializer(serializers.ModelSerializer[Backup]):
    good = serializers.BooleanField()

    class Meta:
        model = Backup
        fields = ["begun", "ended", "archive", "trouble", "verified", "matches", "clips", "clip_bytes", "good"]


class InstallationSerializer(serializers.Serializer[Any]):
    """How the installation is."""

    troubles = serializers.DictField(child=serializers.CharField(), help_text="what is wrong, by the name of its check")
    queue = QueueSerializer()
    times = WorkTimesSerializer(many=True)
    failed = FailedJobSerializer(many=True)
    rooms = RoomSerializer(many=True)
    database_bytes = serializers.IntegerField()
    versions = serializers.DictField(child=serializers.CharField())
    backups_to = serializers.CharField(help_text="where backups are kept; empty where none are made")
    backups = BackupSerializer(many=True)
    sign_ins = SignInsSerializer()
    clips_in = serializers.CharField(help_text="the bucket that clips are kept in; empty where it is the folder")


def versions() -> dict[str, str]:
    """What runs here."""
    with connection.cursor() as cursor:
        cursor.execute("show server_version")
        (database,) = cursor.fetchone() or ("",)
    return {
        "Jurata": settings.VERSION,
        "Python": platform.python_version(),
        "Django": django.get_version(),
        "PostgreSQL": str(database).split()[0],
    }


class InstallationView(APIView):
    @extend_schema(operation_id="installation", responses=InstallationSerializer)
    def get(self, request: Request) -> Response:
        """How the installation is: what waits and what failed, room, versions, backups, wrong passwords."""
        troubles = looked_at()
        if store.in_use():
            troubles["storage"] = object_storage.trouble()
        found = {
            "troubles": {name: trouble for name, trouble in troubles.items() if trouble},
            "queue": figures.waiting(),
            "times": figures.times(),
            "failed": figures.failed_jobs(),
            "rooms": figures.rooms(),
            "database_bytes": figures.database_bytes(),
            "versions": versions(),
            "backups_to": settings.BACKUP_TO,
            "backups": Backup.objects.all()[:5],
            "sign_ins": figures.sign_ins(),
            "clips_in": object_storage.address() if store.in_use() else "",
        }
        return Response(InstallationSerializer(found).data)


class FailedJobView(APIView):
    @extend_schema(operation_id="retry_failed_job", request=None, responses={204: None})
    def post(self, request: Request, failed: uuid.UUID) -> Response:
        """Put work that failed into the queue again."""
        job = get_object_or_404(Job, pk=failed, state=Job.State.FAILED)
        retry_set_aside(job)
        note("work tried again", job.kind, request=request)
        return Response(status=204)
