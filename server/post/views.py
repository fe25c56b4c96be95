"""The simulated post office over HTTP."""

from __future__ import annotations

from django.conf import settings
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.refusals import NotAllowed

from .models import Mail

SHOWN = 50


class MailSerializer(serializers.ModelSerializer[Mail]):
    class Meta:
        model = Mail
        fields = ["id", "at", "to", "subject", "body"]


class MailsView(APIView):
    @extend_schema(operation_id="mails", responses=MailSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The mails that were sent last: in a demo for everyone, else for administrators alone."""
        if not (settings.DEMO or (request.user.is_authenticated and request.user.is_superuser)):
            raise NotAllowed("no_right", "Only an administrator of this installation reads its mails.")
        return Response(MailSerializer(Mail.objects.all()[:SHOWN], many=True).data)
