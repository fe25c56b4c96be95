from django.urls import path

from .views import ClipsView, ClipView, ContentView, FramesView, PictureView, UploadView

urlpatterns = [
    path("clips", ClipsView.as_view()),
    path("clips/<uuid:clip>", ClipView.as_view()),
    path("clips/<uuid:clip>/upload", UploadView.as_view()),
    path("clips/<uuid:clip>/frames", FramesView.as_view()),
    path("clips/<uuid:clip>/content", ContentView.as_view()),
    path("clips/<uuid:clip>/pictures/<str:picture>", PictureView.as_view()),
]
