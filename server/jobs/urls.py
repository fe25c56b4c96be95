from django.urls import path

from .views import JobView

urlpatterns = [path("jobs/<uuid:job>", JobView.as_view())]
