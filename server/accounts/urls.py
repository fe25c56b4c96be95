from django.urls import path

from .views import KeyCardView, PreferencesView, SessionView

urlpatterns = [
    path("session", SessionView.as_view()),
    path("preferences", PreferencesView.as_view()),
    path("key-card", KeyCardView.as_view()),
]
