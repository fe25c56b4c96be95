from django.urls import path
from rest_framework.routers import SimpleRouter

from .views import AthleteViewSet, CoachesView

router = SimpleRouter(trailing_slash=False, use_regex_path=False)
router.register("athletes", AthleteViewSet)
urlpatterns = [*router.urls, path("athletes/<int:pk>/coaches", CoachesView.as_view())]
