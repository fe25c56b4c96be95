from django.urls import path

from .views import KeyCardView, NoticesView, PreferencesView, ReadNoticesView

urlpatterns = [
    path("preferences", PreferencesView.as_view()),
    path("notices", NoticesView.as_view()),
    path("notices/read", ReadNoticesView.as_view()),
    path("key-card", KeyCardView.as_view()),
]
