"""Who may see and do what: the one table of it, and how each role reaches what a club owns.

A right is what somebody asks to do. ``ROLES`` says which roles have it; ``ROUTES`` says which right each route of the
API asks for. A request without a row in the table is refused. :class:`Access` turns a right into conditions on
queries, so that what somebody may not see is, for them, not there.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from typing import Any, cast

from django.db.models import Q, QuerySet
from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from config.refusals import NotAllowed

from .models import Club, Membership, Role


class Right(Enum):
    """What can be asked for, in the words in which it is shown."""

    ANYONE = "open to everyone, signed in or not"
    SIGNED_IN = "for each person who is signed in, about themselves alone"
    PRACTISE = "score the practice match"
    LIST = "see the lists of matches, clips and causes"
    SCORE = "watch the footage of a match and score it"
    COMPARE = "see a second score next to the first"
    SET_UP = "set matches up, change, delete and restore them, and upload clips"
    REVIEW = "review a match: errors, notes, cuts and the report"
    SHARE = "send the report, and make and end links to it"
    COACH = "see and change the club's athletes, rulesets, causes and names of techniques"
    INJURIES = "see what the log says of an injury: head coaches, and the coaches and guardians of that athlete"
    READ = "read the reports that were sent, reply, and tick drills off"
    OWN = "see their own matches and results, or their child's, and say what may be shown"
    PEOPLE = "see who is in the club, and invite athletes, guardians and scorers"
    CLUB = "invite coaches, take roles away, name coaches for a child, look after its settings, journal and data"
    ADMINISTER = "look after the installation: found clubs, and read the whole journal"


STAFF = frozenset({Role.HEAD_COACH, Role.COACH})
SCORING = STAFF | {Role.SCORER}
OWN = frozenset({Role.ATHLETE, Role.GUARDIAN})

ROLES: dict[Right, frozenset[Role]] = {
    Right.PRACTISE: SCORING,
    Right.LIST: SCORING,
    Right.SCORE: SCORING,
    Right.COMPARE: SCORING,
    Right.SET_UP: STAFF,
    Right.REVIEW: STAFF,
    Right.SHARE: STAFF,
    Right.COACH: STAFF,
    Right.INJURIES: STAFF | {Role.GUARDIAN},
    Right.READ: OWN,
    Right.OWN: OWN,
    Right.PEOPLE: STAFF,
    Right.CLUB: frozenset({Role.HEAD_COACH}),
}
"""Which roles have a right in their club. Of the others, two need no role, and one needs an administrator."""

MATCH = "matches/<uuid:match>"
PACKAGE = "auth/browser/"
"""What lies below is allauth's: signing in, and one's own account. It asks by itself who is signed in."""
ROUTES: dict[str, dict[str, Right]] = {
    "live": {"get": Right.ANYONE},
    "ready": {"get": Right.ANYONE},
    "session": {"get": Right.ANYONE},
    "mails": {"get": Right.ANYONE},  # in a demo; see post.views
    "invitations/<str:token>": {"get": Right.ANYONE},
    "invitations/<str:token>/taken-up": {"post": Right.SIGNED_IN},
    "club/chosen": {"put": Right.SIGNED_IN},
    "club": {"get": Right.PEOPLE, "patch": Right.CLUB},
    "club/journal": {"get": Right.CLUB},
    "journal": {"get": Right.ADMINISTER},
    "installation": {"get": Right.ADMINISTER},
    "installation/failed/<uuid:failed>": {"post": Right.ADMINISTER},
    "clubs": {"get": Right.ADMINISTER, "post": Right.ADMINISTER},
    "club/members/<int:member>": {"delete": Right.CLUB},
    "club/invitations": {"post": Right.PEOPLE},
    "club/invitations/<uuid:invitation>": {"delete": Right.PEOPLE},
    "club/data": {"get": Right.CLUB, "put": Right.CLUB},
    "club/data/exports": {"post": Right.CLUB},
    "club/data/deletion": {"post": Right.CLUB, "delete": Right.CLUB},
    "club/data/clips": {"put": Right.CLUB, "post": Right.CLUB},
    "own-data": {"get": Right.SIGNED_IN},
    "own-data/exports": {"post": Right.SIGNED_IN},
    "own-data/deletion": {"post": Right.SIGNED_IN, "delete": Right.SIGNED_IN},
    "own/athletes/<int:athlete>/deletion": {"post": Right.OWN, "delete": Right.OWN},
    "exports/<uuid:export>/file": {"get": Right.SIGNED_IN},
    "shared/<str:token>": {"get": Right.ANYONE},
    "shared/<str:token>/report.pdf": {"get": Right.ANYONE},
    "shared/<str:token>/cuts/<uuid:cut>/<str:part>": {"get": Right.ANYONE},
    "shared/<str:token>/answers": {"post": Right.ANYONE},
    "shared/<str:token>/drills/<str:key>": {"put": Right.ANYONE},
    "preferences": {"get": Right.SIGNED_IN, "patch": Right.SIGNED_IN},
    "notices": {"get": Right.SIGNED_IN},
    "notices/read": {"put": Right.SIGNED_IN},
    "key-card": {"post": Right.SIGNED_IN},
    "rulesets": {"get": Right.SIGNED_IN},
    "legality": {"get": Right.SIGNED_IN},
    "techniques": {"get": Right.SIGNED_IN},
    "division": {"get": Right.SIGNED_IN},
    "division/length": {"get": Right.SIGNED_IN},
    "division/technique": {"get": Right.SIGNED_IN},
    "division/differences": {"get": Right.SIGNED_IN},
    "division/briefing": {"get": Right.SIGNED_IN},
    "drill": {"get": Right.SIGNED_IN, "post": Right.SIGNED_IN},
    "drill/progress": {"get": Right.SIGNED_IN},
    "jobs/<uuid:job>": {"get": Right.SIGNED_IN, "post": Right.SIGNED_IN},
    "athletes": {"get": Right.COACH, "post": Right.COACH},
    "athletes/<int:pk>": {"get": Right.COACH, "put": Right.COACH, "patch": Right.COACH, "delete": Right.COACH},
    "athletes/<int:pk>/coaches": {"get": Right.COACH, "put": Right.CLUB},
    "athletes/<int:pk>/season": {"get": Right.REVIEW},
    "athletes/<int:pk>/season/<str:form>": {"get": Right.REVIEW},
    "club/season": {"get": Right.REVIEW},
    "club/calibration": {"get": Right.REVIEW, "post": Right.REVIEW},
    "scorer-record": {"get": Right.SCORE},
    "club/season/tables": {"get": Right.REVIEW},
    "drills": {"get": Right.REVIEW, "post": Right.COACH},
    "drills/examples": {"post": Right.COACH},
    "drills/<int:drill>": {"put": Right.COACH, "delete": Right.COACH},
    "athletes/<int:pk>/plans": {"get": Right.REVIEW, "post": Right.REVIEW},
    "plans/<int:plan>": {"delete": Right.REVIEW},
    "plans/<int:plan>/pdf": {"get": Right.REVIEW},
    "plans/<int:plan>/planned": {"post": Right.REVIEW},
    "plans/<int:plan>/planned/<int:planned>": {"put": Right.REVIEW, "delete": Right.REVIEW},
    "plans/<int:plan>/link": {"post": Right.SHARE, "delete": Right.SHARE},
    "own/plans": {"get": Right.SIGNED_IN},
    "own/plans/<int:plan>/planned/<int:planned>": {"put": Right.OWN},
    "shared-plans/<str:token>": {"get": Right.ANYONE},
    "shared-plans/<str:token>/planned/<int:planned>": {"put": Right.ANYONE},
    "event-days": {"get": Right.REVIEW, "post": Right.SET_UP},
    "event-days/<int:day>": {"get": Right.REVIEW, "put": Right.SET_UP, "delete": Right.SET_UP},
    "event-days/<int:day>/fights": {"post": Right.SET_UP},
    "event-days/<int:day>/table": {"post": Right.SET_UP},
    "event-days/<int:day>/fights/<int:fight>": {
        "put": Right.SET_UP,
        "post": Right.SET_UP,
        "delete": Right.SET_UP,
    },
    "imports": {"get": Right.SET_UP, "post": Right.SET_UP},
    "imports/<uuid:taken>": {"get": Right.SET_UP, "delete": Right.SET_UP},
    "house-rules": {"get": Right.LIST, "post": Right.COACH},
    "house-rules/<uuid:rules>": {"patch": Right.COACH, "delete": Right.COACH},
    "house-rules/<uuid:rules>/file": {"get": Right.COACH},
    "technique-names": {"get": Right.LIST, "post": Right.COACH},
    "technique-names/<int:name>": {"delete": Right.COACH},
    "causes": {"get": Right.LIST, "put": Right.COACH},
    "kinds": {"get": Right.COACH},
    "kinds/<str:kind>": {"put": Right.COACH},
    "table": {"get": Right.SET_UP},
    "clips": {"get": Right.SET_UP, "post": Right.SET_UP},
    "unused-clips": {"get": Right.SET_UP},
    "clips/<uuid:clip>": {"get": Right.SCORE, "delete": Right.SET_UP},
    "clips/<uuid:clip>/upload": {"head": Right.SET_UP, "patch": Right.SET_UP},
    "clips/<uuid:clip>/frames": {"get": Right.SCORE},
    "clips/<uuid:clip>/content": {"get": Right.SCORE},
    "clips/<uuid:clip>/pictures/<str:picture>": {"get": Right.SCORE},
    "own": {"get": Right.SIGNED_IN},
    "own/athletes/<int:athlete>/consent": {"post": Right.OWN, "delete": Right.OWN},
    "own/athletes/<int:athlete>/season": {"get": Right.OWN},
    "own/reports/<uuid:match>": {"get": Right.READ},
    "own/reports/<uuid:match>/report.pdf": {"get": Right.READ},
    "own/reports/<uuid:match>/cuts/<uuid:cut>/<str:part>": {"get": Right.READ},
    "own/reports/<uuid:match>/answers": {"post": Right.READ},
    "own/reports/<uuid:match>/drills/<str:key>": {"put": Right.READ},
    "practice": {"post": Right.PRACTISE},
    "matches": {"get": Right.LIST, "post": Right.SET_UP},
    "waiting": {"get": Right.LIST},
    "remembered": {"get": Right.SET_UP},
    "deleted-matches": {"get": Right.SET_UP},
    "deleted-matches/<uuid:match>": {"post": Right.SET_UP, "delete": Right.SET_UP},
    MATCH: {"get": Right.SCORE, "post": Right.SET_UP, "patch": Right.SET_UP, "delete": Right.SET_UP},
    f"{MATCH}/observations/<str:key>": {"put": Right.SCORE, "delete": Right.SCORE},
    f"{MATCH}/outlook": {"get": Right.SCORE},
    f"{MATCH}/parts": {"put": Right.SET_UP},
    f"{MATCH}/log": {"get": Right.SCORE},
    f"{MATCH}/practice": {"get": Right.PRACTISE},
    f"{MATCH}/revision": {"get": Right.SCORE},
    f"{MATCH}/here": {"put": Right.SCORE},
    f"{MATCH}/history": {"get": Right.SCORE},
    f"{MATCH}/attention": {"get": Right.SCORE},
    f"{MATCH}/audit": {"get": Right.SCORE},
    f"{MATCH}/calls": {"post": Right.SCORE},
    f"{MATCH}/boards/<uuid:clip>": {"get": Right.SCORE, "put": Right.SCORE, "delete": Right.SCORE},
    f"{MATCH}/boards/<uuid:clip>/look": {"post": Right.SCORE},
    f"{MATCH}/boards/<uuid:clip>/pictures/<int:moment>": {"get": Right.SCORE},
    f"{MATCH}/finished": {"post": Right.SCORE},
    f"{MATCH}/what-if": {"post": Right.SCORE},
    f"{MATCH}/people": {"get": Right.SET_UP, "put": Right.SET_UP},
    f"{MATCH}/seconds": {"get": Right.SET_UP, "post": Right.SET_UP},
    f"{MATCH}/seconds/<uuid:second>": {"get": Right.COMPARE},
    f"{MATCH}/review": {"get": Right.REVIEW},
    f"{MATCH}/prospects": {"get": Right.REVIEW},
    f"{MATCH}/prospects/spread": {"get": Right.REVIEW},
    f"{MATCH}/errors/<str:key>": {"put": Right.REVIEW, "delete": Right.REVIEW},
    f"{MATCH}/chains/<str:key>": {"put": Right.REVIEW},
    f"{MATCH}/notes": {"get": Right.REVIEW, "post": Right.REVIEW},
    f"{MATCH}/notes/<int:note>": {"put": Right.REVIEW, "delete": Right.REVIEW},
    f"{MATCH}/answers/<int:answer>": {"put": Right.REVIEW},
    f"{MATCH}/cuts": {"get": Right.REVIEW, "post": Right.REVIEW},
    f"{MATCH}/cuts/<uuid:cut>": {"delete": Right.REVIEW},
    f"{MATCH}/cuts/<uuid:cut>/<str:part>": {"get": Right.REVIEW},
    f"{MATCH}/letter": {"get": Right.REVIEW, "put": Right.REVIEW},
    f"{MATCH}/report": {"get": Right.REVIEW},
    f"{MATCH}/report.pdf": {"get": Right.REVIEW},
    f"{MATCH}/sent": {"put": Right.SHARE},
    f"{MATCH}/links": {"get": Right.SHARE, "post": Right.SHARE},
    f"{MATCH}/links/<uuid:link>": {"delete": Right.SHARE},
    f"{MATCH}/questions": {"get": Right.REVIEW},
    f"{MATCH}/questions/<str:form>": {"get": Right.REVIEW},
    f"{MATCH}/file/<str:form>": {"get": Right.REVIEW},
}
"""The right that each route and method of the API asks for; HEAD is as GET where it has no row of its own."""


@dataclass(frozen=True)
class Access:
    """Somebody's asking for a right: in one club, or, where ``club`` is None, in any of theirs."""

    user: int
    right: Right
    club: int | None = None

    @property
    def roles(self) -> frozenset[Role]:
        """Those that have the right."""
        return ROLES[self.right]

    def clubs_as(self, roles: frozenset[Role]) -> QuerySet[Membership, Any]:
        """The clubs in which the user has one of some roles."""
        held = Membership.objects.filter(user=self.user, role__in=sorted(roles))
        return (held if self.club is None else held.filter(club=self.club)).values("club")

    def holds(self) -> bool:
        """Whether the user has the right in any of the clubs."""
        return self.clubs_as(self.roles).exists()

    def clubs(self, path: str = "club") -> Q:
        """What belongs to a club as a whole, and is for everybody there who has the right."""
        return Q(**{f"{path}__in": self.clubs_as(self.roles)})

    def athletes(self, path: str = "") -> Q:
        """Athletes that a coach works with, as conditions at ``path``; see roster.access."""
        return CONDITIONS["athletes"](self, path)

    def known_athletes(self, path: str = "") -> Q:
        """Athletes whom somebody may know of."""
        return CONDITIONS["known_athletes"](self, path)

    def own_athletes(self, path: str = "") -> Q:
        """The athletes that one is, or whose guardian one is."""
        return CONDITIONS["own_athletes"](self, path)

    def matches(self) -> Q:
        """Matches that one has the right for; see matches.access."""
        return CONDITIONS["matches"](self, "")

    def injuries(self) -> Q:
        """Matches whose injuries one may see."""
        return CONDITIONS["injuries"](self, "")

    def clips(self) -> Q:
        """Clips of the matches that one has the right for, and clips that are one's own to dispose of."""
        return CONDITIONS["clips"](self, "")

    def whole_clips(self) -> Q:
        """Clips that a coach may delete; see footage.access."""
        return CONDITIONS["whole_clips"](self, "")


Condition = Callable[[Access, str], Q]
CONDITIONS: dict[str, Condition] = {}
"""What an access may reach, by its name: each app that owns such things says so itself, in its module ``access``."""


def condition(of_access: Condition) -> Condition:
    """Say what an access may reach; the function's name is that of the method."""
    CONDITIONS[of_access.__name__] = of_access
    return of_access


def is_head_coach(user: int, club: int) -> bool:
    """Whether somebody is a head coach of a club, who may do whatever its members can be given the right for."""
    return Membership.objects.filter(user=user, club=club, role=Role.HEAD_COACH).exists()


def right_of(request: Request) -> Right | None:
    """What a request asks for, by the table; None where its route is not in it."""
    match = request._request.resolver_match
    methods = ROUTES.get("" if match is None else match.route.removeprefix("api/"), {})
    method = (request.method or "").lower()
    return methods.get(method) or (methods.get("get") if method == "head" else None)


class InTable(BasePermission):
    """Lets a request through that asks for what the table has.

    What is about the club as a whole needs a role there that has the right. What is about one match, or another thing,
    is looked for among those that the user may have: see :class:`Access`.
    """

    def has_permission(self, request: Request, view: Any) -> bool:
        if request.method == "OPTIONS" or (request.method or "").lower() not in dir(view):
            return bool(request.user.is_authenticated)  # answered as not allowed, with the methods that are
        right = right_of(request)
        if right is Right.ANYONE:
            return True
        if right is None or not request.user.is_authenticated:
            return False
        if right is Right.ADMINISTER:
            return request.user.is_superuser
        if right in ROLES and not view.kwargs:  # of no match or other thing in particular, so of the club
            asks_in_club(request)
        return True


def asks(request: Request) -> Access:
    """What a request asks for, in whichever club it is."""
    right = right_of(request)
    assert right is not None and request.user.pk is not None  # InTable lets no other through
    return Access(request.user.pk, right)


def memberships(request: Request) -> list[Membership]:
    """What somebody is, in all their clubs; read once for a request."""
    known: list[Membership] | None = getattr(request._request, "memberships", None)
    if known is None:
        known = list(Membership.objects.filter(user=cast(Any, request.user)).select_related("club"))
        request._request.memberships = known  # type: ignore[attr-defined]
    return known


CHOSEN = "club"
"""The club that somebody has chosen to work in, in their session."""


def current_club(request: Request) -> Club | None:
    """The club in which somebody works: the one they have chosen, else their first; None for who is in no club."""
    clubs = {one.club_id: one.club for one in memberships(request)}
    chosen = request.session.get(CHOSEN)
    return clubs.get(cast(int, chosen)) or next(iter(clubs.values()), None)


def asks_in_club(request: Request) -> tuple[Access, Club]:
    """What a request asks for in the club where its user works. Raises NotAllowed where no role there has the right."""
    access, club = asks(request), current_club(request)
    roles = {one.role for one in memberships(request) if club is not None and one.club_id == club.pk}
    if club is None or not roles & ROLES[access.right]:
        raise NotAllowed("no_right", "Your role in this club doesn't include that. Ask a head coach of the club.")
    return Access(access.user, access.right, club.pk), club
