from django.urls import path

from . import views

urlpatterns = [
    path("drills", views.LibraryView.as_view()),
    path("drills/examples", views.ExamplesView.as_view()),
    path("drills/<int:drill>", views.DrillOfLibraryView.as_view()),
    path("athletes/<int:pk>/plans", views.PlansView.as_view()),
    path("plans/<int:plan>", views.PlanView.as_view()),
    path("plans/<int:plan>/pdf", views.PlanPdfView.as_view()),
    path("plans/<int:plan>/planned", views.PlannedListView.as_view()),
    path("plans/<int:plan>/planned/<int:planned>", views.PlannedView.as_view()),
    path("plans/<int:plan>/link", views.PlanLinkView.as_view()),
    path("own/plans", views.OwnPlansView.as_view()),
    path("own/plans/<int:plan>/planned/<int:planned>", views.OwnPlannedView.as_view()),
    path("shared-plans/<str:token>", views.SharedPlanView.as_view()),
    path("shared-plans/<str:token>/planned/<int:planned>", views.SharedPlannedView.as_view()),
]
