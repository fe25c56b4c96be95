from django.urls import path

from .views import DrillView, ProgressView

urlpatterns = [
    path("drill", DrillView.as_view()),
    path("drill/progress", ProgressView.as_view()),
]
