from django.urls import path

from .views import (
    AthleteDeletionView,
    ClubDataView,
    ClubDeletionView,
    ClubExportsView,
    ExportFileView,
    OldClipsView,
    OwnDataView,
    OwnDeletionView,
    OwnExportsView,
)

urlpatterns = [
    path("own-data", OwnDataView.as_view()),
    path("own-data/exports", OwnExportsView.as_view()),
    path("own-data/deletion", OwnDeletionView.as_view()),
    path("own/athletes/<int:athlete>/deletion", AthleteDeletionView.as_view()),
    path("exports/<uuid:export>/file", ExportFileView.as_view()),
    path("club/data", ClubDataView.as_view()),
    path("club/data/exports", ClubExportsView.as_view()),
    path("club/data/deletion", ClubDeletionView.as_view()),
    path("club/data/clips", OldClipsView.as_view()),
]
