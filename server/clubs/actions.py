"""What is done to clubs and who is in them."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Any

from allauth.account.models import EmailAddress
from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser, User
from django.core.mail import send_mail
from django.db import transaction
from django.db.models.functions import Lower
from django.template.loader import render_to_string
from django.utils import timezone

from accounts.models import called
from accounts.notices import tell
from config.refusals import Clash, NotAllowed, Refused
from jurata_core.faults import Fault, FaultyInput

from .models import Club, Invitation, Membership, Role

INVITED_FOR = timedelta(days=14)
"""So long an invitation holds."""
OF_AN_ATHLETE = (Role.ATHLETE, Role.GUARDIAN)
"""The roles that are about one athlete."""
COACHES_INVITE = (Role.ATHLETE, Role.GUARDIAN, Role.SCORER)
"""Whom a coach may invite; a head coach invites everyone."""
MOST_INVITED = 500


def may_invite(roles: set[str]) -> tuple[Role, ...]:
    """Whom somebody with some roles in a club may invite."""
    return tuple(Role) if Role.HEAD_COACH in roles else COACHES_INVITE


@transaction.atomic
def found_club(name: str, head_coach: AbstractBaseUser) -> Club:
    """A new club with its first head coach."""
    club = Club.objects.create(name=name)
    join(club, head_coach, Role.HEAD_COACH)
    return club


def join(club: Club, user: AbstractBaseUser, role: Role) -> Membership:
    """Give somebody a role in a club; giving it twice is the same as once."""
    made, _ = Membership.objects.get_or_create(club=club, user_id=user.pk, role=role)
    return made


@transaction.atomic
def leave(membership: Membership) -> None:
    """Take a role away. A club keeps one head coach at least."""
    club = Club.objects.select_for_update().get(pk=membership.club_id)
    heads = club.memberships.filter(role=Role.HEAD_COACH)
    if membership.role == Role.HEAD_COACH and heads.count() == 1:
        raise Clash("last_head_coach", "A club needs a head coach. Make someone else head coach first.")
    membership.delete()
    user = membership.user
    if membership.role == Role.ATHLETE:
        club.athletes.filter(user=user).update(user=None)
    elif membership.role == Role.GUARDIAN:
        wards = club.athletes.filter(guardians=user)
        for ward in wards:
            ward.consents.filter(by=user, withdrawn=None).update(withdrawn=timezone.now())
        user.wards.remove(*wards)
    elif not club.memberships.filter(user=user, role__in=(Role.HEAD_COACH, Role.COACH)).exists():
        user.coached.remove(*club.athletes.filter(coaches=user))


def digest_of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@transaction.atomic
def invite(club: Club, by: User, roles: set[str], values: dict[str, object], address: str) -> Invitation:
    """Invite somebody by mail; ``roles`` are those of who invites, ``address`` is where the product is found.

    An earlier invitation of the same address to the same role ends.
    """
    role, athlete = Role(str(values["role"])), values.get("athlete")
    if role not in may_invite(roles):
        raise NotAllowed("no_right", "Only a head coach invites coaches.")
    if (role in OF_AN_ATHLETE) != (athlete is not None):
        message = "is missing: say who the athlete is" if athlete is None else "belongs to no such role"
        raise FaultyInput([Fault("athlete", message, "missing" if athlete is None else "unknown")])
    if club.invitations.count() >= MOST_INVITED:
        raise Refused("too_many", f"{MOST_INVITED} invitations are open already. Withdraw some of them first.")
    email = str(values["email"]).strip()
    club.invitations.filter(email__iexact=email, role=role, athlete=athlete).delete()  # type: ignore[misc]
    token = secrets.token_urlsafe(24)
    made = Invitation.objects.create(
        club=club, email=email, role=role, athlete=athlete, invited_by=by, digest=digest_of(token),  # type: ignore[misc]
        ends=timezone.now() + INVITED_FOR,
    )  # fmt: skip
    context = {"invitation": made, "by": called(by), "link": f"{address}invitation#{token}"}
    subject = f"You are invited to {club.name} on Jurata"
    send_mail(subject, render_to_string("clubs/invitation.txt", context), settings.DEFAULT_FROM_EMAIL, [email])
    known = EmailAddress.objects.filter(email__iexact=email, verified=True).select_related("user").first()
    if known is not None:  # the mail has gone out already
        about = f"{called(by)} invites you to {club.name} as {made.get_role_display()}."
        tell(known.user, "invited", f"/invitation#{made.pk}", about, mailed=False)
    return made


def invitation_of(token: str, user: Any = None) -> Invitation | None:
    """The invitation of a token, where it still holds; for who has confirmed its address, its id is enough."""
    found = Invitation.objects.select_related("club", "athlete", "invited_by").filter(ends__gt=timezone.now())
    by_token = found.filter(digest=digest_of(token)).first()
    if by_token is not None or user is None or not user.is_authenticated:
        return by_token
    own = EmailAddress.objects.filter(user=user, verified=True).annotate(lower=Lower("email")).values("lower")
    to_them = found.annotate(lower=Lower("email")).filter(lower__in=own)
    return next((one for one in to_them if str(one.pk) == token), None)


@transaction.atomic
def take_up(invitation: Invitation, user: User) -> Membership:
    """Join a club by an invitation, which ends by that."""
    made = join(invitation.club, user, Role(invitation.role))
    athlete = invitation.athlete
    if athlete is not None and invitation.role == Role.ATHLETE:
        athlete.user = user
        athlete.save(update_fields=["user"])
    elif athlete is not None:
        athlete.guardians.add(user)
    about = f"{called(user)} has joined {invitation.club.name} as {made.get_role_display()}."
    tell(invitation.invited_by, "joined", "/club", about)
    invitation.delete()
    return made
