"""What an export is made of: the files of a club, and those of a person.

A person finds here what is about them and what they may see: a coach who is not named for a child finds nothing of the
child's matches in the club's export either.
"""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.core.serializers.json import DjangoJSONEncoder
from django.db.models import QuerySet
from django.forms.models import model_to_dict
from django.template.loader import render_to_string
from django.utils import timezone
from django.utils.text import slugify

from accounts.models import Preferences, called
from clubs.access import Access, Right
from clubs.models import Club
from footage.models import Clip
from footage.store import there
from journal.models import Entry
from jurata_core.formats.table import csv_text
from matches.logs import log_of, with_outside_names
from matches.models import Match
from reviews.queries import causes_of
from reviews.report import report_json
from roster.models import Athlete

from .models import Export

USUAL_BYTES = 20_000
"""What a small file counts as, where progress is shown."""
SETTING = (
    "id", "opponent", "club", "event", "round", "weight_class", "mat", "date", "age", "belt", "attire", "plan",
    "opens_ms", "closes_ms", "clip_start_ms", "readings", "finished", "revision", "due", "created", "changed",
)  # fmt: skip
"""What is said of a match apart from its log."""
DRILL = ("id", "name", "about", "minutes", "kinds", "causes", "positions")


@dataclass(frozen=True)
class Piece:
    """One file of an export: small and made when it is written, or a file of the clips' folder."""

    name: str
    made: Callable[[], str] | None = None
    path: Path | None = None
    size: int = USUAL_BYTES


def _json(name: str, made: Callable[[], Any]) -> Piece:
    return Piece(name, lambda: json.dumps(made(), cls=DjangoJSONEncoder, ensure_ascii=False, indent=1))


def _table(name: str, head: Iterable[str], rows: Callable[[], Iterable[Iterable[Any]]]) -> Piece:
    def made() -> str:
        out = io.StringIO()
        writer = csv.writer(out)
        writer.writerow(head)
        writer.writerows([csv_text(str(cell)) if cell is not None else "" for cell in row] for row in rows())
        return out.getvalue()

    return Piece(name, made)


def _of_rows(name: str, rows: QuerySet[Any], *fields: str) -> Piece:
    return _table(name, fields, lambda: rows.values_list(*fields))


def _readme(template: str, values: Mapping[str, Any]) -> Piece:
    return Piece("README.txt", lambda: render_to_string(f"owndata/{template}.txt", {**values, "now": timezone.now()}))


def covered_by(export: Export) -> set[int]:
    """The athletes whose matches an export shows: those whom who asked for it may see now."""
    if export.club is None:
        shown = Athlete.objects.filter(Access(export.asked_by_id, Right.OWN).own_athletes())
    else:
        shown = export.club.athletes.filter(Access(export.asked_by_id, Right.REVIEW, export.club.pk).athletes())
    return set(shown.filter(practice=False).values_list("pk", flat=True))


def pieces_of_club(club: Club, asked_by: User) -> Iterator[Piece]:
    """Everything a club owns that a head coach may see: an iterator of pieces, without their bytes."""
    seen = Access(asked_by.pk, Right.REVIEW, club.pk)
    matches = Match.with_deleted.filter(seen.matches(), athlete__club=club, practice=False)
    every = Match.with_deleted.filter(athlete__club=club, practice=False)
    clips = Clip.objects.filter(seen.clips(), club=club, state=Clip.State.READY)
    yield _readme("club", {"club": club, "left_out": every.count() - matches.count()})
    yield _json("club.json", lambda: {**model_to_dict(club), "created": club.created})
    members = club.memberships.select_related("user")
    yield _table(
        "people.csv", ("name", "email", "role", "since"),
        lambda: ((called(one.user), one.user.email, one.role, one.since) for one in members),
    )  # fmt: skip
    athletes = club.athletes.filter(practice=False)
    head = ("id", "name", "birth_year", "belt", "guardians", "coaches")
    yield _table("athletes.csv", head, lambda: _athletes(athletes))
    consents = athletes.exclude(consents=None)
    fields = ("name", "consents__name", "consents__at", "consents__withdrawn", "consents__text")
    yield _of_rows("consents.csv", consents, *fields)
    yield _of_rows("technique-names.csv", club.technique_names.all(), "name", "technique")
    yield _json("causes.json", lambda: causes_of(club.pk))
    yield _json("drills.json", lambda: list(club.drills.filter(archived=False).values(*DRILL)))
    shown = club.athletes.filter(seen.athletes(), practice=False)
    yield _json("plans.json", lambda: [_plan(plan) for athlete in shown for plan in athlete.plans.all()])
    yield _json("event-days.json", lambda: [_day(day, shown) for day in club.event_days.all()])
    yield _json("kinds-of-errors.json", lambda: list(club.kind_settings.values("kind", "off", "limits")))
    for rules in club.house_rules.all():
        title = slugify(rules.body.get("title", ""))
        yield _json(f"rulesets/{title}-v{rules.version}.json", partial(dict, rules.body))
    for match in matches.select_related("athlete__club").order_by("date", "created").iterator(chunk_size=500):
        folder = _folder(match)
        yield _json(f"{folder}/log.json", partial(log_of, match))
        yield _json(f"{folder}/match.json", partial(_match, match))
        yield _json(f"{folder}/history.json", partial(_history, match))
    yield from _clips(clips)
    entries = Entry.objects.filter(club=club.pk)
    yield _of_rows("journal.csv", entries, "at", "name", "what", "about", "address")


def pieces_of_person(user: User) -> Iterator[Piece]:
    """Everything about a person, and, for a guardian, about their children."""
    access = Access(user.pk, Right.OWN)
    athletes = Athlete.objects.filter(access.own_athletes(), practice=False).select_related("club").distinct()
    yield _readme("person", {"user": user, "name": called(user), "athletes": athletes})
    yield _json("account.json", lambda: _account(user))
    yield _of_rows("journal.csv", Entry.objects.filter(user=user.pk), "at", "what", "about", "address")
    yield _of_rows("notices.csv", user.notices.all(), "at", "kind", "text", "read")
    yield _of_rows("rules-quiz.csv", user.cards.all(), "key", "right", "wrong", "due")
    scored = Match.objects.filter(scorer=user, practice=False)
    yield _of_rows("matches-scored.csv", scored, "id", "date", "event", "athlete__club__name", "created")
    for athlete in athletes:
        yield from _about(athlete, access)


def _about(athlete: Athlete, access: Access) -> Iterator[Piece]:
    """What is kept about an athlete: matches, the reports that were sent, consents and clips."""
    inside = f"{slugify(athlete.name) or 'athlete'}-{athlete.pk}"
    matches = Match.objects.filter(access.matches(), athlete=athlete, practice=False)
    yield _json(f"{inside}/athlete.json", lambda: _athlete(athlete))
    yield _json(f"{inside}/plans.json", lambda: [_plan(plan) for plan in athlete.plans.all()])
    for match in matches.select_related("athlete__club", "report").order_by("date", "created").iterator(chunk_size=500):
        with_outside_names(match)
        folder = f"{inside}/{_folder(match)}"
        yield _json(f"{folder}/log.json", partial(log_of, match))
        yield _json(f"{folder}/match.json", partial(_setting, match))
        if getattr(match, "report", None) and match.report.sent:
            yield _json(f"{folder}/report.json", partial(report_json, match, match.answers.all()))
    shown = Clip.objects.filter(access.clips(), state=Clip.State.READY)
    used = shown.filter(matches__in=matches) | shown.filter(further__match__in=matches)
    yield from _clips(used.distinct(), f"{inside}/", without_tags=True)


def _clips(clips: QuerySet[Clip], inside: str = "", without_tags: bool = False) -> Iterator[Piece]:
    """The clips as they were uploaded; or as they are played, without what a camera writes into its files."""
    fields = ("id", "name", "size", "filmed", "duration_ms", "width", "height", "fps", "created")
    yield _of_rows(f"{inside}clips.csv", clips, *fields)
    for clip in clips:
        path = clip.played[0] if without_tags else clip.path
        if there(path):
            ending = path.suffix if without_tags and clip.proxied else Path(clip.name).suffix.lower()
            name = f"{inside}clips/{slugify(Path(clip.name).stem)}-{clip.pk}{ending}"
            yield Piece(name, path=path, size=clip.size)


def _folder(match: Match) -> str:
    about = slugify(f"{match.date or 'no date'} {match.athlete.name} {match.opponent}")[:80]
    return f"matches/{about}-{match.pk}"


def _plan(plan: Any) -> dict[str, Any]:
    rows = plan.planned.values("day", "drill__name", "drill__minutes", "done")
    return {
        "athlete": plan.athlete.name,
        **{name: getattr(plan, name) for name in ("event", "start", "until", "sessions", "minutes", "created")},
        "planned": list(rows),
    }


def _day(day: Any, athletes: QuerySet[Athlete]) -> dict[str, Any]:
    """A day of an event with the fights of some athletes."""
    fields = ("athlete__name", "opponent", "club", "time", "mat", "round", "weight_class", "attire", "ruleset", "match")
    fights = day.fights.filter(athlete__in=athletes)
    return {"name": day.name, "date": day.date, "ruleset": day.ruleset, "fights": list(fights.values(*fields))}


def _athletes(athletes: QuerySet[Athlete]) -> Iterator[tuple[Any, ...]]:
    for one in athletes.prefetch_related("guardians", "coaches"):
        around = (", ".join(called(user) for user in of.all()) for of in (one.guardians, one.coaches))
        yield (one.pk, one.name, one.birth_year, one.belt, *around)


def _athlete(athlete: Athlete) -> dict[str, Any]:
    return {
        **{name: getattr(athlete, name) for name in ("id", "name", "birth_year", "belt")},
        "club": athlete.club.name,
        "guardians": [called(one) for one in athlete.guardians.all()],
        "coaches": [called(one) for one in athlete.coaches.all()],
        "consents": list(athlete.consents.values("name", "text", "at", "withdrawn")),
    }


def _account(user: User) -> dict[str, Any]:
    preferences = Preferences.of(user)
    roles = user.memberships.select_related("club")
    return {
        **{name: getattr(user, name) for name in ("username", "first_name", "last_name", "email", "date_joined")},
        "roles": [{"club": one.club.name, "role": one.role, "since": one.since} for one in roles],
        "keys": preferences.keys,
        "notices_not_mailed": preferences.muted,
        "notices_hidden": preferences.hidden,
    }


def _setting(match: Match) -> dict[str, Any]:
    return {name: getattr(match, name) for name in SETTING}


def _match(match: Match) -> dict[str, Any]:
    """All that a club keeps of a match apart from its log and the history of that."""
    written = getattr(match, "report", None)
    return {
        **_setting(match),
        "athlete": match.athlete.name,
        "scorer": called(match.scorer),
        "second_score_of": match.second_of_id,
        "deleted": match.deleted,
        "clips": [match.clip_id, *match.further.values_list("clip", flat=True)] if match.clip_id else [],
        "errors": list(match.remarks.values()),
        "notes": list(match.notes.values("t_ms", "until_ms", "text", "marks", "created")),
        "report": written and {"greeting": written.greeting, "well": written.well, "sent": written.sent},
        "links": list(match.links.values("created", "ends", "revoked", "opened")),
        "replies": list(match.answers.values("key", "text", "at", "reply")),
        "drills_done": list(match.ticks.values("key", "at")),
    }


def _history(match: Match) -> list[dict[str, Any]]:
    steps = match.changes.select_related("who").order_by("revision")
    return [
        {"revision": one.revision, "at": one.at, "who": called(one.who), "before": one.before, "after": one.after}
        for one in steps
    ]
