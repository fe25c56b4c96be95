from django.urls import path

from .views import ReviewView

urlpatterns = [path("matches/<uuid:match>/review", ReviewView.as_view())]
