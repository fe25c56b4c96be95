from django.urls import path

from .views import KeyCardView, PreferencesView

urlpatterns = [
    path("preferences", PreferencesView.as_view()),
    path("key-card", KeyCardView.as_view()),
]
