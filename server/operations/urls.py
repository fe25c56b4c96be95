from django.urls import path

from .views import FailedJobView, InstallationView, alive, figures_for_prometheus, ready

urlpatterns = [
    path("api/live", alive),
    path("api/ready", ready),
    path("metrics", figures_for_prometheus),
    path("api/installation", InstallationView.as_view()),
    path("api/installation/failed/<uuid:failed>", FailedJobView.as_view()),
]
