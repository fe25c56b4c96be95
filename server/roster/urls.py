from rest_framework.routers import SimpleRouter

from .views import AthleteViewSet

router = SimpleRouter(trailing_slash=False, use_regex_path=False)
router.register("athletes", AthleteViewSet)
urlpatterns = router.urls
