from django.urls import path

from .journal import ClubJournalView, WholeJournalView
from .session import SessionView
from .views import (
    ChosenClubView,
    ClubsView,
    ClubView,
    InvitationsView,
    InvitationView,
    MemberView,
    OpenedInvitationView,
    TakenUpView,
)

urlpatterns = [
    path("session", SessionView.as_view()),
    path("club", ClubView.as_view()),
    path("club/journal", ClubJournalView.as_view()),
    path("journal", WholeJournalView.as_view()),
    path("clubs", ClubsView.as_view()),
    path("club/chosen", ChosenClubView.as_view()),
    path("club/members/<int:member>", MemberView.as_view()),
    path("club/invitations", InvitationsView.as_view()),
    path("club/invitations/<uuid:invitation>", InvitationView.as_view()),
    path("invitations/<str:token>", OpenedInvitationView.as_view()),
    path("invitations/<str:token>/taken-up", TakenUpView.as_view()),
]
