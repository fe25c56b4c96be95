from django.urls import path

from .views import ClipsView, ClipView, ContentView, FramesView

urlpatterns = [
    path("clips/<uuid:clip>/frames", FramesView.as_view()),
    path("clips", ClipsView.as_view()),
    path("clips/<uuid:clip>", ClipView.as_view()),
    path("clips/<uuid:clip>/content", ContentView.as_view()),
]
