"""What the matches of a club teach together: kept in sums, to which each match is added when its summary is made."""

from __future__ import annotations

from collections.abc import Iterable

from jurata_core import fingerprint
from jurata_core.lessons import Group, Lesson, added

from .models import ClubLesson, GroupLesson, Summary


def lesson_of_club(club: int) -> ClubLesson:
    """What a club knows by the core as it is now."""
    found = ClubLesson.objects.filter(club=club, core=fingerprint()).first()
    return found or ClubLesson(club_id=club, core=fingerprint())


def lessons_of_groups(club: int) -> dict[Group, Lesson]:
    """The same by groups of matches that are alike."""
    if not ClubLesson.objects.filter(club=club, core=fingerprint()).exists():
        return {}
    rows = GroupLesson.objects.filter(club=club).values_list("group", "lesson")
    return {Group(*group): lesson for group, lesson in rows}


def locked_lesson(club: int) -> ClubLesson:
    """The row of a club, locked; empty where another core has counted it."""
    ClubLesson.objects.bulk_create([ClubLesson(club_id=club, core=fingerprint())], ignore_conflicts=True)
    known = ClubLesson.objects.select_for_update().get(pk=club)
    if known.core != fingerprint():
        known.core, known.lesson, known.spreads = fingerprint(), {}, None
        GroupLesson.objects.filter(club=club).delete()
    return known


def learn(known: ClubLesson, gone: Iterable[Summary], come: Iterable[Summary]) -> None:
    """Take what some summaries teach out of a locked row and its groups, and add what others do."""
    rows = [*((one, -1) for one in gone), *((one, 1) for one in come)]
    lesson: Lesson = known.lesson
    groups: dict[Group, Lesson] = {}
    for one, sign in rows:
        if one.lesson:
            lesson = added(lesson, one.lesson, sign)
            group = Group(*one.group)
            groups[group] = added(groups.get(group, {}), one.lesson, sign)
    changed = {group: change for group, change in groups.items() if change}
    before, after = ({one.match_id: one.tried for one, of in rows if of == sign} for sign in (-1, 1))
    same = before == after
    if changed or known.version == 0:
        known.lesson = lesson
        known.version += 1
        _learn_groups(known.club_id, changed)
    elif same:
        return
    if not same:
        known.spreads = None
    known.save()


def _learn_groups(club: int, changed: dict[Group, Lesson]) -> None:
    wanted = [list(group) for group in changed]
    there = {Group(*row.group): row for row in GroupLesson.objects.filter(club=club, group__in=wanted)}
    rows = []
    for group, change in changed.items():
        row = there.get(group) or GroupLesson(club_id=club, group=list(group))
        row.lesson = added(row.lesson, change)
        rows.append(row)
    GroupLesson.objects.bulk_create(
        rows, update_conflicts=True, unique_fields=["club", "group"], update_fields=["lesson"]
    )  # fmt: skip
