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
from config.refusals import Clash, NotAllowed, NotThere, Refused
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
        wards = club.athletes.filter(guardians=user).select_related("club")
        for ward in wards:
            ward.end_consent(by=user)
        user.wards.remove(*wards)
    elif not club.memberships.filter(user=user, role__in=(Role.HEAD_COACH, Role.COACH)).exists():
        user.coached.remove(*club.athletes.filter(coaches=user))
        club.invitations.filter(invited_by=user).delete()


OWN_INVITATION = "Nobody makes themselves the athlete or a guardian. Ask another coach of the club to invite you."


def _refuse_second_account(athlete: Any, user: User | None = None) -> None:
    """Refuse to put somebody else in the place of who is an athlete."""
    if athlete.user_id is not None and (user is None or user.pk != athlete.user_id):
        message = f"{athlete.name} has an account already: {called(athlete.user)}. Take that role away first."
        raise Clash("has_account", message)


def is_address_of(user: User, email: str) -> bool:
    """Whether an address is a user's own, confirmed or not."""
    if user.email.lower() == email.lower():
        return True
    return bool(EmailAddress.objects.filter(user=user, email__iexact=email).exists())


def digest_of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@transaction.atomic
def invite(club: Club, by: User, roles: set[str], values: dict[str, object], address: str) -> Invitation:
    """Invite somebody by mail; ``roles`` are those of who invites, ``address`` is where the product is found.

    An earlier invitation of the same address to the same role ends.
    """
    role, athlete = Role(str(values["role"])), values.get("athlete")
    email = str(values["email"]).strip()
    if role not in may_invite(roles):
        raise NotAllowed("no_right", "Only a head coach invites coaches.")
    if (role in OF_AN_ATHLETE) != (athlete is not None):
        message = "is missing: say who the athlete is" if athlete is None else "belongs to no such role"
        raise FaultyInput([Fault("athlete", message, "missing" if athlete is None else "unknown")])
    if role == Role.ATHLETE:
        _refuse_second_account(athlete)
    if athlete is not None and is_address_of(by, email):
        raise NotAllowed("own_invitation", OWN_INVITATION)
    if club.invitations.count() >= MOST_INVITED:
        raise Refused("too_many", f"{MOST_INVITED} invitations are open already. Withdraw some of them first.")
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
    """Join a club by an invitation, which ends by that: of two who take it up at once, one joins.

    It is for the address that it went to alone (NotAllowed for another account). Whoever has the link to it reads that
    address's mail, so the address need not be confirmed.
    """
    held = Invitation.objects.select_for_update(of=("self",)).select_related("club", "athlete__user", "invited_by")
    found = held.filter(pk=invitation.pk).first()
    if found is None:
        raise no_invitation()
    if not is_address_of(user, found.email):
        message = f"This invitation went to {found.email}. Sign in with that address, or add it to your account."
        raise NotAllowed("other_address", message)
    athlete = found.athlete
    if athlete is not None and found.invited_by_id == user.pk:
        raise NotAllowed("own_invitation", OWN_INVITATION)
    if athlete is not None and found.role == Role.ATHLETE:
        _refuse_second_account(athlete, user)
        athlete.user = user
        athlete.save(update_fields=["user"])
    elif athlete is not None:
        athlete.guardians.add(user)
    made = join(found.club, user, Role(found.role))
    about = f"{called(user)} has joined {found.club.name} as {made.get_role_display()}."
    tell(found.invited_by, "joined", "/club", about)
    found.delete()
    return made


def no_invitation() -> NotThere:
    return NotThere("no_invitation", "This invitation has ended or was taken up already. Ask for a new one.")


def may_withdraw(invitation: Invitation, roles: set[str]) -> bool:
    """Whether somebody with some roles in its club may end an invitation: who may invite to its role."""
    return invitation.role in may_invite(roles)


@transaction.atomic
def change_club(club: Club, values: dict[str, Any]) -> None:
    """Change the settings of a club. Links about athletes who are children by a new age end."""
    was = {one.pk for one in club.athletes.select_related("club") if one.child}
    for name, value in values.items():
        setattr(club, name, value)
    club.save()
    for athlete in club.athletes.select_related("club").exclude(pk__in=was):
        if athlete.child:
            athlete.end_links()
