from django.urls import path

from .views import LogView, MatchesView, MatchView, ObservationView, OutlookView

urlpatterns = [
    path("matches", MatchesView.as_view()),
    path("matches/<uuid:match>", MatchView.as_view()),
    path("matches/<uuid:match>/observations/<str:key>", ObservationView.as_view()),
    path("matches/<uuid:match>/outlook", OutlookView.as_view()),
    path("matches/<uuid:match>/log", LogView.as_view()),
]
