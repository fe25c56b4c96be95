from django.urls import path

from . import briefing, house, names, views

urlpatterns = [
    path("rulesets", views.rulesets),
    path("legality", views.ask_one),
    path("techniques", views.techniques),
    path("technique-names", names.TechniqueNamesView.as_view()),
    path("technique-names/<int:name>", names.TechniqueNameView.as_view()),
    path("house-rules", house.HouseRulesView.as_view()),
    path("house-rules/<uuid:rules>", house.OneHouseRulesView.as_view()),
    path("house-rules/<uuid:rules>/file", house.RulesFileView.as_view()),
    path("division", views.division),
    path("division/length", views.length),
    path("division/technique", views.technique),
    path("division/differences", views.between),
    path("division/briefing", briefing.briefing_page),
]
