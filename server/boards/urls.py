from django.urls import path

from .views import AuditView, BoardPictureView, BoardView, LookAtBoardView

urlpatterns = [
    path("matches/<uuid:match>/audit", AuditView.as_view()),
    path("matches/<uuid:match>/boards/<uuid:clip>", BoardView.as_view()),
    path("matches/<uuid:match>/boards/<uuid:clip>/look", LookAtBoardView.as_view()),
    path("matches/<uuid:match>/boards/<uuid:clip>/pictures/<int:moment>", BoardPictureView.as_view()),
]
