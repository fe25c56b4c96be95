from django.urls import path

from . import views

urlpatterns = [
    path("event-days", views.DaysView.as_view()),
    path("event-days/<int:day>", views.DayView.as_view()),
    path("event-days/<int:day>/fights", views.FightsView.as_view()),
    path("event-days/<int:day>/table", views.FightTableView.as_view()),
    path("event-days/<int:day>/fights/<int:fight>", views.FightView.as_view()),
]
