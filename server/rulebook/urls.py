from django.urls import path

from . import views

urlpatterns = [
    path("rulesets", views.rulesets),
    path("legality", views.ask_one),
    path("techniques", views.techniques),
    path("division", views.division),
    path("division/technique", views.technique),
    path("division/differences", views.between),
]
