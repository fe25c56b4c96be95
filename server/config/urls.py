"""All addresses: the API, the footage, and the one page that the front end lives on."""

from django.urls import include, path, re_path

from .views import index, missing, unusual

urlpatterns = [
    path("", include("operations.urls")),
    path("api/auth/browser/v1/", include("accounts.guarded")),
    path("api/auth/", include("allauth.headless.urls")),
    path("api/", include("matches.urls")),  # first, since one coach who scores asks more often than all others do
    path("api/", include("accounts.urls")),
    path("api/", include("post.urls")),
    path("api/", include("clubs.urls")),
    path("api/", include("roster.urls")),
    path("api/", include("rulebook.urls")),
    path("api/", include("drills.urls")),
    path("api/", include("jobs.urls")),
    path("api/", include("footage.urls")),
    path("api/", include("reviews.urls")),
    path("api/", include("seasons.urls")),
    path("api/", include("training.urls")),
    path("api/", include("events.urls")),
    path("api/", include("boards.urls")),
    path("api/", include("owndata.urls")),
    re_path(r"^(?:api|static)/", missing),
    re_path(r"^.*$", index),
]
handler404 = missing
handler400 = unusual
