from django.urls import path

from .views import ClipsView, ClipView, ContentView

urlpatterns = [
    path("clips", ClipsView.as_view()),
    path("clips/<uuid:clip>", ClipView.as_view()),
    path("clips/<uuid:clip>/content", ContentView.as_view()),
]
