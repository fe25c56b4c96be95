"""Carrying out a deletion whose time has come: what it is about is then truly gone, files too."""

from __future__ import annotations

import logging
import uuid

from allauth.account.models import EmailAddress
from allauth.usersessions.models import UserSession
from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from clubs.models import Club, Invitation
from config.refusals import Clash
from footage.models import Clip
from jobs.models import UNDER_WAY
from journal.models import note
from matches.models import Match
from post.models import Mail
from roster.models import Athlete

from .actions import concerned, name_of, refuse_last_head_coach, write_to
from .models import Deletion

log = logging.getLogger(__name__)


def carry_out_due() -> int:
    """Delete what was asked to be deleted, where there was time to think; how many deletions were carried out."""
    done = 0
    for deletion in Deletion.objects.filter(due__lte=timezone.now()).select_related("user", "club", "athlete__club"):
        try:
            with transaction.atomic():
                done += _carried_out(deletion)
        except Clash as error:  # the club has meanwhile lost its other head coaches
            log.warning("deletion %s waits: %s", deletion.pk, error.code)
    return done


def _carried_out(deletion: Deletion) -> bool:
    what = deletion.user or deletion.club or deletion.athlete
    if what is None or _at_work(what):
        return False  # the worker is still at something of theirs
    addresses, name = concerned(what), name_of(what)
    club = None if isinstance(what, User) else what.pk if isinstance(what, Club) else what.club_id
    if isinstance(what, User):
        remove_user(what)
    elif isinstance(what, Club):
        remove_club(what)
    else:
        remove_athlete(what)
    note("deleted", name, club=club)
    about = f"{name[0].upper()}{name[1:]} was deleted, as {deletion.asked_by} has asked."
    backups = f"Backups still hold it for up to {settings.BACKUP_DAYS} days."
    write_to(addresses, "A deletion was carried out", f"{about} {backups}")
    return True


def _at_work(what: User | Club | Athlete) -> bool:
    if isinstance(what, User):
        return what.jobs.filter(state__in=UNDER_WAY).exists()
    return isinstance(what, Club) and what.clips.filter(job__state__in=UNDER_WAY).exists()


def remove_athlete(athlete: Athlete) -> None:
    """Delete an athlete, with every match about them and the clips that show no other athlete's match."""
    matches = Match.with_deleted.filter(athlete=athlete)
    others = Match.with_deleted.filter(athlete__club=athlete.club).exclude(athlete=athlete)
    alone = Clip.objects.filter(showed=athlete).exclude(pk__in=Clip.objects.filter(showed__in=_others_than(athlete)))
    clips = _clips_of(matches) - _clips_of(others) | {clip.pk for clip in alone}
    matches.delete()
    Clip.objects.filter(pk__in=clips).delete()
    athlete.delete()


def _others_than(athlete: Athlete) -> QuerySet[Athlete]:
    return Athlete.objects.filter(club=athlete.club_id).exclude(pk=athlete.pk)


def _clips_of(matches: QuerySet[Match]) -> set[uuid.UUID]:
    first = Clip.objects.filter(pk__in=matches.values("clip"))
    further = Clip.objects.filter(further__match__in=matches)
    return {clip.pk for clip in (*first, *further)}


def remove_club(club: Club) -> None:
    """Delete a club with all that it owns. Its people keep their accounts."""
    Match.with_deleted.filter(athlete__club=club).delete()
    # Other clubs may score by a ruleset that was shared with them: its text stays in their matches.
    Match.with_deleted.filter(house_rules__club=club).update(house_rules=None)
    club.delete()


def remove_user(user: User) -> None:
    """Delete an account with all that is about it alone. Raises Clash for the only head coach of a club.

    What somebody scored and wrote for a club is the club's, and stays without their name. So do the lines of the
    journal, with the name, until the journal's own time is over.
    """
    refuse_last_head_coach(user)
    practised = Match.with_deleted.filter(scorer=user, practice=True)
    clips = list(practised.exclude(clip=None).values_list("clip", flat=True))
    practised.delete()
    Clip.objects.filter(pk__in=clips).delete()
    for athlete in (
        Athlete.objects.filter(consents__by=user, consents__withdrawn=None).select_related("club").distinct()
    ):
        athlete.end_consent(by=user)
    addresses = {user.email, *EmailAddress.objects.filter(user=user).values_list("email", flat=True)} - {""}
    for model in (AccessAttempt, AccessLog, AccessFailureLog):
        model.objects.filter(username=user.get_username()).delete()
    Mail.objects.filter(to__in=addresses).delete()
    Invitation.objects.filter(email__in=addresses).delete()
    for session in UserSession.objects.filter(user=user):
        session.end()
    user.delete()
