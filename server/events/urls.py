from django.urls import path

from . import views

urlpatterns = [
    path("event-days", views.DaysView.as_view()),
    path("event-days/<int:pk>", views.DayView.as_view()),
    path("event-days/<int:pk>/fights", views.FightsView.as_view()),
    path("event-days/<int:pk>/table", views.FightTableView.as_view()),
    path("event-days/<int:pk>/fights/<int:fight>", views.FightView.as_view()),
]
