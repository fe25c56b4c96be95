"""What is done with athletes. What decides who may see an athlete is a head coach's to change."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import RestrictedError

from clubs.access import is_head_coach
from clubs.children import is_child
from config.refusals import Clash, NotAllowed

from .models import Athlete


@transaction.atomic
def change_athlete(athlete: Athlete, values: dict[str, Any], by: int) -> str:
    """Change what is known of an athlete; what was changed, in words for the audit log.

    A year of birth that makes a child of a grown athlete, or the other way round, decides who sees the athlete's
    footage: only a head coach sets it (NotAllowed). Links about one who is now a child end.
    """
    was_child = athlete.child
    will_be = is_child(values.get("birth_year", athlete.birth_year), athlete.club.adult_age)
    if was_child != will_be and not is_head_coach(by, athlete.club_id):
        message = (
            f"With this year of birth {athlete.name} would {'' if will_be else 'no longer '}be treated as a child."
        )
        raise NotAllowed("changes_who_sees", f"{message} A head coach of the club has to change it.")
    changes = [
        f"{name.replace('_', ' ')} {getattr(athlete, name)} to {value}"
        for name, value in values.items() if getattr(athlete, name) != value
    ]  # fmt: skip
    for name, value in values.items():
        setattr(athlete, name, value)
    athlete.save()
    if will_be and not was_child:
        athlete.end_links()
    return ", ".join(changes)


@transaction.atomic
def delete_athlete(athlete: Athlete, by: int) -> None:
    """Delete an athlete without matches. One with a guardian, a consent or a sign-in is a head coach's to delete."""
    concerns_others = athlete.user_id is not None or athlete.guardians.exists() or athlete.consents.exists()
    if concerns_others and not is_head_coach(by, athlete.club_id):
        message = f"{athlete.name} or a guardian has an account here. A head coach of the club has to delete that."
        raise NotAllowed("has_account", message)
    try:
        athlete.delete()
    except RestrictedError:
        if athlete.matches.exists():
            message = f"{athlete.name} has matches. Delete those first, or keep the athlete."
        else:
            message = f"{athlete.name} has deleted matches that can still be restored. Remove them for good first."
        raise Clash("in_use", message) from None
