from django.urls import path

from .views import SeasonView

urlpatterns = [
    path("athletes/<int:pk>/season", SeasonView.as_view()),
]
