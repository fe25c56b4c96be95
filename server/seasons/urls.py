from django.urls import path

from .views import OwnSeasonView, SeasonView

urlpatterns = [
    path("athletes/<int:pk>/season", SeasonView.as_view()),
    path("own/athletes/<int:athlete>/season", OwnSeasonView.as_view()),
]
