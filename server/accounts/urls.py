from django.urls import path

from .views import PreferencesView, SessionView

urlpatterns = [path("session", SessionView.as_view()), path("preferences", PreferencesView.as_view())]
