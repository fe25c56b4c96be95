"""What can be done in a review: remark on errors, link them, note, cut clips, send the report, answer it."""

from __future__ import annotations

import secrets
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from clubs.actions import digest_of
from clubs.children import LONGEST_LINK_DAYS
from config.refusals import NotAllowed, NotThere, Refused
from footage.models import Clip
from footage.store import there
from jobs.actions import enqueue, new_job
from jurata_core.faults import Fault, FaultyInput
from jurata_core.formats.captions import captions_of
from jurata_core.review import OWN, Error, chains, measured
from jurata_core.times import Millis, minutes
from matches.logs import heading_of, with_outside_names
from matches.models import Match
from matches.parts import parts_of
from roster.models import Athlete

from .models import Answer, Causes, Cut, Link, Note, Remark, Report, Tick
from .queries import Reviewed, reviewed
from .tasks import CUT_OUT

LINK_DAYS = (3, 14, 60)
MOST_ANSWERS, MOST_LINKS, MOST_NOTES = 200, 50, 500


@transaction.atomic
def remark(match: Match, key: str, values: dict[str, Any]) -> None:
    """Say something of an error, or change what was said. A key that no rule has found is an error of the coach's own.

    Raises FaultyInput, naming the field, where a link is not valid or the coach's own error lacks a title.
    """
    match = Match.objects.select_for_update(of=("self",)).select_related("athlete").get(pk=match.pk)
    found = reviewed(match)
    known = {error.key: error for error in found.review.errors}
    row = match.remarks.filter(key=key).first() or Remark(match=match, key=key)
    row.own = row.own or key not in known
    for name, value in values.items():
        setattr(row, name, value)
    faults: list[Fault] = []
    if row.own:
        if not key.startswith(f"{OWN}-"):
            raise NotThere("no_error", "There is no such error in this match any more. Reload the page.")
        if not row.title.strip():
            faults.append(Fault("title", "is missing: say in a few words what happened", "missing"))
        if row.t_ms < row.since_ms:
            faults.append(Fault("t", "is before it began", "out_of_range"))
    if values.get("came_from"):
        row.root = False
    faults += _link_faults(found, row, known)
    if faults:
        raise FaultyInput(faults)
    if key in known:
        row.measure_ms = measured(known[key])
    row.save()


def _link_faults(found: Reviewed, row: Remark, known: dict[str, Error]) -> list[Fault]:
    if not row.came_from:
        return []
    if row.came_from == row.key or row.came_from not in known:
        return [Fault("came_from", "is no other error of this match", "unknown")]
    later = known[row.key].found.since if row.key in known else row.since_ms
    if known[row.came_from].found.since > later:
        return [Fault("came_from", "is an error that began later", "out_of_range")]
    links = {one.key: one.came_from for one in found.remarks.values() if one.came_from} | {row.key: row.came_from}
    try:
        chains(found.review.errors, links)
    except ValueError as error:
        return [Fault("came_from", str(error), "out_of_range")]
    return []


@transaction.atomic
def decide_chain(match: Match, root: str, accepted: bool) -> None:
    """Accept a chain as it stands, with the links that were suggested, or take that back."""
    match = Match.objects.select_for_update(of=("self",)).select_related("athlete").get(pk=match.pk)
    found = reviewed(match)
    chain = next((one for one in found.review.chains if one.root == root), None)
    if chain is None:
        raise NotThere("no_error", "There is no such error in this match any more. Reload the page.")
    for error in found.review.of(chain.members):
        row = found.remarks.get(error.key) or Remark(match=match, key=error.key)
        row.standing = Remark.Standing.ACCEPTED if accepted else Remark.Standing.OPEN
        row.measure_ms = measured(error)
        if accepted and error.key in found.review.came_from:
            row.came_from = found.review.came_from[error.key].earlier
        row.save()


@transaction.atomic
def unremark(match: Match, key: str) -> None:
    """Take back all that was said of an error; one of the coach's own is gone with it, and links to it."""
    gone = match.remarks.filter(key=key).first()
    if gone is None:
        return
    if gone.own:
        match.remarks.filter(came_from=key).update(came_from="")
        match.cuts.filter(key=key).delete()
    gone.delete()


def set_causes(club: int, words: list[str]) -> list[str]:
    """Make a list of causes the club's own. Empty ones and doubles are left out."""
    kept = list(dict.fromkeys(word.strip() for word in words if word.strip()))
    if not kept:
        raise FaultyInput([Fault("causes", "is empty: keep one cause at least", "missing")])
    Causes.objects.update_or_create(club_id=club, defaults={"words": kept})
    return kept


def keep_note(match: Match, note: Note | None, values: dict[str, Any]) -> Note:
    """A note, new or changed. It says something, in words or in marks."""
    if note is None:
        if match.notes.count() >= MOST_NOTES:
            raise Refused("too_many", f"A match has {MOST_NOTES} notes at most.")
        note = Note(match=match)
    for name, value in values.items():
        setattr(note, name, value)
    faults = []
    if not note.text.strip() and not note.marks:
        faults.append(Fault("text", "is missing: write something, or mark something in the picture", "missing"))
    if note.until_ms is not None and note.until_ms < note.t_ms:
        faults.append(Fault("until", "is before the note begins", "out_of_range"))
    if faults:
        raise FaultyInput(faults)
    note.save()
    return note


def cut_out(match: Match, key: str, style: str, who: int) -> Cut:
    """Have the clip of an error cut by the worker; one that exists is made again."""
    found = reviewed(with_outside_names(match) if match.athlete.child else match)  # its words go into the picture
    error = next((one for one in found.review.errors if one.key == key), None)
    if error is None:
        raise NotThere("no_error", "There is no such error in this match any more. Reload the page.")
    clip, start, end, offset = _stretch(match, error)
    heading = f"{minutes(error.clock)} {error.title}"
    words = captions_of(found.review.seen.verdict, start + offset, end + offset, heading, heading_of(match).names)
    with transaction.atomic():
        for before in match.cuts.filter(key=key):
            before.delete()
        made = Cut.objects.create(
            match=match, key=key, clip=clip, style=style, start_ms=start, end_ms=end, captions=words,
            job=new_job(who, CUT_OUT.name),
        )  # fmt: skip
        assert made.job is not None
        enqueue(made.job)
    return made


def _stretch(match: Match, error: Error) -> tuple[Clip, Millis, Millis, Millis]:
    """The clip that shows where an error was decided, its stretch there, and where in the footage that clip begins."""
    for part in parts_of(match):
        if part.begin <= error.found.t <= part.end and there(part.clip.path):
            start = max(part.begin, error.start) - part.start
            end = min(part.end, error.end) - part.start
            if end > start:
                return part.clip, start, end, part.start
    raise Refused("no_footage", f"There is no footage of {minutes(error.clock)}.")


def make_link(match: Match, days: int) -> tuple[Link, str]:
    """A link to the report that ends after so many days, and its token, which is given only here.

    Only whose footage it is may publish it: not somebody who was asked for a second score.
    """
    if match.second_of_id is not None:
        message = "Only the coach whose footage this is makes links. Hand your score over, and ask for one."
        raise NotAllowed("not_yours", message)
    refuse_link(match.athlete, days)
    if match.links.filter(revoked=False, ends__gt=timezone.now()).count() >= MOST_LINKS:
        raise Refused("too_many", f"This report already has {MOST_LINKS} active links. Revoke some first.")
    token = secrets.token_urlsafe(24)
    link = Link.objects.create(match=match, digest=digest_of(token), ends=timezone.now() + timedelta(days=days))
    return link, token


def link_days(athlete: Athlete) -> list[int]:
    """For how many days a link to a report about an athlete is offered."""
    return [days for days in LINK_DAYS if days <= LONGEST_LINK_DAYS or not athlete.child]


def refuse_link(athlete: Athlete, days: int) -> None:
    """Refuse a link about a child that no guardian has agreed to, or that would work too long."""
    if not athlete.child:
        return
    if athlete.consent is None:
        message = f"{athlete.name} is a child: a guardian has to agree first. Invite them under Club."
        raise Refused("no_consent", message)
    if days > LONGEST_LINK_DAYS:
        message = f"is more than {LONGEST_LINK_DAYS}: the longest a link about a child works"
        raise FaultyInput([Fault("days", message, "out_of_range")])


def revoke(link: Link) -> None:
    link.revoked = True
    link.save(update_fields=["revoked"])


def open_link(token: str) -> Link | None:
    """The link of a token, where it still holds."""
    link = (
        Link.objects.filter(digest=digest_of(token), revoked=False, ends__gt=timezone.now(), match__deleted=None)
        .select_related("match__athlete__club", "match__clip")
        .first()
    )
    if link is not None and link.match.athlete.child and link.match.athlete.consent is None:
        return None  # it was taken back
    if link is not None:
        with_outside_names(link.match)
        Link.objects.filter(pk=link.pk).update(opened=timezone.now())
    return link


def links_of(match: Match) -> QuerySet[Link]:
    """All links that show the footage of a match: those of its second scores too."""
    return Link.objects.filter(Q(match=match) | Q(match__second_of=match))


def send(match: Match, sent: bool) -> Report:
    """Show the report in the athlete's own place, or take it back from there."""
    row, _ = Report.objects.update_or_create(match=match, defaults={"sent": timezone.now() if sent else None})
    return row


def answer(match: Match, link: Link | None, key: str, text: str) -> Answer:
    """What somebody writes back, through a link or signed in; it is shown to the coach and where it was written."""
    if match.answers.count() >= MOST_ANSWERS:
        raise Refused("too_many", "This report has reached its limit of replies. Talk to your coach.")
    if not text.strip():
        raise FaultyInput([Fault("text", "is missing: write something", "missing")])
    return Answer.objects.create(match=match, link=link, key=key, text=text.strip())


def reply(match: Match, answer: int, text: str) -> Answer:
    """What the coach answers to what was written back; empty takes it away again."""
    row = get_object_or_404(match.answers, pk=answer)
    row.reply = text.strip()
    row.save(update_fields=["reply"])
    return row


def tick(match: Match, key: str, done: bool) -> None:
    """Tick a drill off, or take that back."""
    if done:
        Tick.objects.get_or_create(match=match, key=key)
    else:
        match.ticks.filter(key=key).delete()
