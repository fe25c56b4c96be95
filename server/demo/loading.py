"""Puts the demo into the database: the club, its matches, and what its coach made of them. Clips are filmed later."""

from __future__ import annotations

import datetime
from typing import Any

from allauth.account.models import EmailAddress
from django.contrib.auth.models import User
from django.utils import timezone

from clubs.access import Access, Right
from clubs.actions import found_club, join
from clubs.models import Club, Role
from events.actions import take_table
from events.models import EventDay
from footage.filming import have_filmed
from jurata_core.rulesets.house import read_house_rules
from matches.actions import ask_second, finish_second, locked, record, set_up
from matches.models import Match
from matches.tasks import freshen_all
from reviews.actions import answer, keep_note, make_link, remark, send, tick
from reviews.models import Remark, Report
from reviews.queries import reviewed
from reviews.report import report_json
from roster.models import Athlete, give_consent
from rulebook.models import HouseRules
from seasons.pricing import price
from seasons.queries import played_of
from training.actions import add_examples, make_plan
from training.actions import tick as tick_planned

from .setting import (
    ATHLETE,
    ATHLETE_S_NAME,
    ATHLETES,
    CLUB,
    COACH,
    DAYS_TO_IT,
    DRILLED,
    FIGHTS,
    GUARDIAN,
    GUARDIAN_OF,
    HOUSE_RULES,
    NEXT_EVENT,
    OPERATOR,
    OPERATOR_S_NAME,
    PASSWORD,
    PLAN_BEGAN,
    PLAN_ENDED,
    PLANNED,
    SECOND,
    SECOND_SCORER,
    USERNAME,
    WARD,
    filmed_matches,
    season,
    second_score,
)

DAYS_SHARED = 14


def load() -> None:
    """Load the demo into a database without accounts."""
    coach, second = _account(USERNAME, COACH), _account(SECOND, SECOND_SCORER)
    operator = _account(OPERATOR, OPERATOR_S_NAME)
    operator.is_superuser = True
    operator.save()
    club = found_club(CLUB, coach)
    join(club, second, Role.SCORER)
    roster = {one.name: one for one in (Athlete.objects.create(club=club, **row) for row in ATHLETES)}
    for athlete in roster.values():
        athlete.coaches.add(coach)
    _own_places(club, roster)
    rules = {**read_house_rules(HOUSE_RULES), "version": 1}
    HouseRules.objects.create(club=club, author=coach, version=1, body=rules, shared=True)
    stored = []
    for one in season():
        if one["event"] == "Millrace Duals":
            one["log"]["ruleset"] = rules
        stored.append((_store(coach, roster, one), one))
    # The shortest is filmed first, so that there soon is something to play.
    for name, one in sorted(filmed_matches().items(), key=lambda filmed: _length(filmed[1])):
        stored.append((_store(coach, roster, one, f"{name}.webm"), one))
        if name == second_score()["of"]:
            _score_again(stored[-1][0], second)
    freshen_all()
    while price():
        pass
    _train(club, coach, roster)
    for made, one in stored:  # once all are there: each match changes the estimates that a review is made with
        if "review" in one:
            _review(made, one["review"])


def _train(club: Club, coach: User, roster: dict[str, Athlete]) -> None:
    """The library of drills, a plan that is done and one that has begun, and the day of the next event."""
    add_examples(club)
    access = Access(coach.pk, Right.REVIEW, club.pk)
    today = timezone.localdate()
    event = today + datetime.timedelta(days=DAYS_TO_IT)
    spans = ((DRILLED, PLAN_BEGAN, PLAN_ENDED, ""), (PLANNED, today, event, NEXT_EVENT))
    for name, start, until, title in spans:
        values = {"event": title, "start": start, "until": until, "sessions": 3, "minutes": 25}
        plan = make_plan(roster[name], coach, played_of(access, roster[name]), values)
        for one in plan.planned.filter(day__lt=today):
            tick_planned(one, True)
    day = EventDay.objects.create(club=club, name=NEXT_EVENT, date=event, ruleset="full-points")
    take_table(day, FIGHTS, access)


def _account(username: str, about: dict[str, str]) -> User:
    user = User.objects.create_user(username, password=PASSWORD, **about)
    EmailAddress.objects.create(user=user, email=user.email, verified=True, primary=True)
    return user


def _own_places(club: Club, roster: dict[str, Athlete]) -> None:
    """An athlete with a sign-in, and a guardian who has agreed to links about their child."""
    first, last = ATHLETE_S_NAME.split()
    athlete = roster[ATHLETE_S_NAME]
    athlete.user = _account(ATHLETE, {"first_name": first, "last_name": last, "email": "finch@millrace.example"})
    athlete.save(update_fields=["user"])
    join(club, athlete.user, Role.ATHLETE)
    guardian = _account(GUARDIAN, GUARDIAN_OF)
    join(club, guardian, Role.GUARDIAN)
    roster[WARD].guardians.add(guardian)
    give_consent(roster[WARD], guardian)


def _store(coach: User, roster: dict[str, Athlete], one: dict[str, Any], clip: str | None = None) -> Match:
    """A match with its log; with a clip, which is asked for."""
    log = one["log"]
    about = {name: one[name] for name in ("opponent", "club", "event", "date", "round", "mat")}
    looks = _looks(log["division"]["attire"]) if clip else {}
    values = {
        **about, **log["division"], **looks, "weight_class": one.get("weight_class", ""),
        "athlete": roster[one["athlete"]], "ruleset": log["ruleset"], "duration_ms": log["duration"] * 1000,
        "clip": have_filmed(roster[one["athlete"]].club_id, coach.pk, clip, log) if clip else None,
    }  # fmt: skip
    return set_up(coach, values, None if one.get("unscored") else log)


def _length(one: dict[str, Any]) -> float:
    """The time of the last thing that is seen in a match, in seconds."""
    return float(max(seen["t"] for seen in one["log"]["observations"]))


def _looks(attire: str) -> dict[str, str]:
    """What the two figures that the camera draws look like."""
    worn = "gi" if attire == "gi" else "shirt"
    return {"athlete_looks": f"amber {worn}", "opponent_looks": f"blue {worn}"}


def _review(match: Match, review: dict[str, Any]) -> None:
    """What the coach made of the errors: the first ones accepted, or each named by its kind and where it began."""
    errors = reviewed(match).review.errors
    keys = {(error.kind, error.found.since / 1000): error.key for error in errors}
    for error in errors[: review.get("accept", 0)]:
        remark(match, error.key, {"standing": Remark.Standing.ACCEPTED})
    for said in review.get("remarks", []):
        values = {name: said[name] for name in ("standing", "title", "causes") if name in said}
        if "from" in said:
            values["came_from"] = keys[tuple(said["from"])]
        remark(match, keys[said["error"], said["since"]], values)
    if "greeting" in review:
        Report.objects.create(match=match, greeting=review["greeting"])
    for note in review.get("notes", []):
        keep_note(match, None, {"t_ms": round(note["t"] * 1000), "text": note["text"], "marks": note["marks"]})
    if "sent" in review:
        _send(match, review["sent"])


def _send(match: Match, sent: dict[str, Any]) -> None:
    """A link to the report, what the athlete wrote back, and the drills that were ticked off."""
    match = Match.objects.select_related("athlete", "clip").get(pk=match.pk)
    link, _ = make_link(match, DAYS_SHARED)
    send(match, True)
    link.opened = timezone.now()
    link.save(update_fields=["opened"])
    for text in sent["replies"]:
        answer(match, link, "", text)
    for drill in report_json(match, match.answers.all())["drills"][: sent["done"]]:
        tick(match, drill["key"], True)


def _score_again(match: Match, second: User) -> None:
    """The second scorer's own score of a match, handed in."""
    made = ask_second(match, second)
    for number, seen in enumerate(second_score()["observations"]):
        record(locked(made.pk), f"second-{number}", seen, second)
    made.refresh_from_db()
    finish_second(made)
