"""Who did what, over HTTP: in a club for its head coaches, and as a whole for administrators. Nobody changes it."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema, extend_schema_view
from rest_framework import serializers
from rest_framework.filters import SearchFilter
from rest_framework.generics import ListAPIView

from config.paging import Pages
from journal.models import Entry

from .access import asks_in_club


class JournalEntrySerializer(serializers.ModelSerializer[Entry]):
    class Meta:
        model = Entry
        fields = ["id", "at", "name", "what", "about", "address"]


class JournalView(ListAPIView[Entry]):
    serializer_class = JournalEntrySerializer
    pagination_class = Pages
    filter_backends = [SearchFilter]
    search_fields = ["name", "what", "about"]
    queryset: QuerySet[Any] = Entry.objects.all()


@extend_schema_view(get=extend_schema(operation_id="club_journal"))
class ClubJournalView(JournalView):
    """What was done in the club, the latest first."""

    def get_queryset(self) -> QuerySet[Entry]:
        return Entry.objects.filter(club=asks_in_club(self.request)[1].pk)


@extend_schema_view(get=extend_schema(operation_id="journal"))
class WholeJournalView(JournalView):
    """Everything that was done, sign-ins too, the latest first."""
