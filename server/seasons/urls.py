from django.urls import path

from .views.club import CalibrationView, ClubSeasonView, ScorerRecordView
from .views.files import ClubTablesView, SeasonFileView
from .views.imports import ImportsView, ImportView
from .views.season import OwnSeasonView, SeasonView

urlpatterns = [
    path("athletes/<int:pk>/season", SeasonView.as_view()),
    path("athletes/<int:pk>/season/<str:form>", SeasonFileView.as_view()),
    path("own/athletes/<int:athlete>/season", OwnSeasonView.as_view()),
    path("club/season", ClubSeasonView.as_view()),
    path("club/calibration", CalibrationView.as_view()),
    path("scorer-record", ScorerRecordView.as_view()),
    path("club/season/tables", ClubTablesView.as_view()),
    path("imports", ImportsView.as_view()),
    path("imports/<uuid:taken>", ImportView.as_view()),
]
