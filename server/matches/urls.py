from django.urls import path

from .views.checks import AttentionView, CallsView, TableView, WhatIfView
from .views.matches import (
    DeletedMatchView,
    DeletedView,
    LogView,
    MatchesView,
    MatchView,
    PartsView,
    RememberedView,
    UnusedClipsView,
    WaitingView,
)
from .views.observations import HistoryView, ObservationView, OutlookView, RevisionView
from .views.people import HereView, PeopleView
from .views.practice import LookingBackView, PracticeView
from .views.seconds import FinishView, SecondsView, SideBySideView

urlpatterns = [
    path("matches", MatchesView.as_view()),
    path("matches/<uuid:match>", MatchView.as_view()),
    path("matches/<uuid:match>/observations/<str:key>", ObservationView.as_view()),
    path("matches/<uuid:match>/parts", PartsView.as_view()),
    path("matches/<uuid:match>/outlook", OutlookView.as_view()),
    path("matches/<uuid:match>/log", LogView.as_view()),
    path("matches/<uuid:match>/revision", RevisionView.as_view()),
    path("matches/<uuid:match>/here", HereView.as_view()),
    path("matches/<uuid:match>/history", HistoryView.as_view()),
    path("matches/<uuid:match>/attention", AttentionView.as_view()),
    path("matches/<uuid:match>/calls", CallsView.as_view()),
    path("matches/<uuid:match>/what-if", WhatIfView.as_view()),
    path("deleted-matches", DeletedView.as_view()),
    path("deleted-matches/<uuid:match>", DeletedMatchView.as_view()),
    path("unused-clips", UnusedClipsView.as_view()),
    path("practice", PracticeView.as_view()),
    path("matches/<uuid:match>/practice", LookingBackView.as_view()),
    path("remembered", RememberedView.as_view()),
    path("waiting", WaitingView.as_view()),
    path("table", TableView.as_view()),
    path("matches/<uuid:match>/people", PeopleView.as_view()),
    path("matches/<uuid:match>/seconds", SecondsView.as_view()),
    path("matches/<uuid:match>/finished", FinishView.as_view()),
    path("matches/<uuid:match>/seconds/<uuid:second>", SideBySideView.as_view()),
]
