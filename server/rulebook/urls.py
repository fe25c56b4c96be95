from django.urls import path

from . import views

urlpatterns = [
    path("rulesets", views.rulesets),
    path("legality", views.one),
    path("techniques", views.techniques),
]
