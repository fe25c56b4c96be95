"""What is done with all of somebody's data: asking for an export, and for a deletion, which is carried out later."""

from __future__ import annotations

from collections.abc import Iterable

from django.conf import settings
from django.contrib.auth.models import User
from django.core.mail import send_mail
from django.db import transaction
from django.utils import timezone

from accounts.models import called
from clubs.models import Club, Role
from config.refusals import Clash, NoRoom
from footage.actions import SPARE, free_space, promised
from jobs.actions import enqueue, new_job
from roster.models import Athlete, readers_of

from .collecting import pieces_of_club, pieces_of_person
from .models import TIME_TO_THINK, Deletion, Export
from .tasks import EXPORT


@transaction.atomic
def export(asked_by: User, club: Club | None) -> Export:
    """Have everything of a club, or of a person, written into a zip; one that was asked for before is replaced.

    Raises Clash while one is being written, and NoRoom where the disk has no room for it.
    """
    earlier = Export.objects.select_for_update(of=("self",)).filter(asked_by=asked_by, club=club).select_related("job")
    if any(one.job is not None and one.job.under_way for one in earlier):
        raise Clash("at_work", "An export is being made already. Wait until it is done, or cancel it.")
    for one in earlier:
        one.delete()
    pieces = pieces_of_person(asked_by) if club is None else pieces_of_club(club, asked_by)
    size = sum(piece.size for piece in pieces)
    if size + SPARE > free_space() - promised():
        needed = size // 1024**2 + 1
        message = f"The export needs about {needed} MB of disk space. Delete clips you no longer need first."
        raise NoRoom("no_room", message)
    made = Export.objects.create(asked_by=asked_by, club=club, job=new_job(asked_by.pk, EXPORT.name))
    assert made.job is not None  # as just made
    enqueue(made.job)
    return made


def ask_to_delete(what: User | Club | Athlete, by: User) -> Deletion:
    """Have an account, a club, or an athlete with their matches deleted when there was time to think.

    Those whom it concerns are written to. Asked for twice it is the same as once. Raises Clash where a club would be
    left without a head coach.
    """
    if isinstance(what, User):
        refuse_last_head_coach(what)
    due = timezone.now() + TIME_TO_THINK
    made, new = Deletion.objects.get_or_create(**_field(what), defaults={"asked_by": called(by), "due": due})
    if new:
        text = f"{called(by)} has asked to delete {name_of(what)}. It will be deleted on {made.due:%-d %B %Y}."
        write_to(concerned(what), "A deletion was asked for", f"{text} Until then it can be stopped in Jurata.")
    return made


def keep(what: User | Club | Athlete, by: User) -> None:
    """Take a deletion back that was asked for."""
    found = Deletion.objects.filter(**_field(what))
    if found.delete()[0]:
        text = f"{called(by)} has stopped the deletion of {name_of(what)}."
        write_to(concerned(what), "A deletion was stopped", text)


def _field(what: User | Club | Athlete) -> dict[str, User | Club | Athlete]:
    return {"user" if isinstance(what, User) else "club" if isinstance(what, Club) else "athlete": what}


def refuse_last_head_coach(user: User) -> None:
    """Raise Clash where somebody is the only head coach of a club."""
    for membership in user.memberships.filter(role=Role.HEAD_COACH).select_related("club"):
        club = membership.club
        if not club.memberships.filter(role=Role.HEAD_COACH).exclude(user=user).exists():
            message = f"You are the only head coach of {club.name}."
            raise Clash("last_head_coach", f"{message} Make someone else head coach first, or delete the club.")


def name_of(what: User | Club | Athlete) -> str:
    """What is deleted, in a mail: without the name of an athlete, who may be a child."""
    if isinstance(what, User):
        return f"the account {what.get_username()}"
    return f"the club {what.name}" if isinstance(what, Club) else f"everything about an athlete of {what.club.name}"


def concerned(what: User | Club | Athlete) -> list[str]:
    """The addresses of those who must know that something will be deleted."""
    if isinstance(what, User):
        people = [what]
    else:
        club = what if isinstance(what, Club) else what.club
        heads = club.memberships.filter(role=Role.HEAD_COACH).select_related("user")
        people = [one.user for one in heads]
        if isinstance(what, Athlete):
            people += [*what.coaches.all(), *readers_of(what)]
    return sorted({one.email for one in people if one.email and one.is_active})


def write_to(addresses: Iterable[str], subject: str, text: str) -> None:
    """Mail that nobody can turn off, once the transaction is done; each gets one of their own."""

    def send() -> None:
        for address in addresses:
            send_mail(subject, f"Hello,\n\n{text}\n", settings.DEFAULT_FROM_EMAIL, [address])

    transaction.on_commit(send)
