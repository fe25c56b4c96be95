"""Who is treated as a child, as a condition of a query and of one athlete.

Only the year of birth is known: one who may still be a child is treated as one, until the end of the year in which they
reach the age that their club has set.
"""

from __future__ import annotations

import datetime

from django.db.models import F, Q

LONGEST_LINK_DAYS = 14
"""A link to a report of a child ends within so many days."""


def grown(at: str) -> Q:
    """Athletes who are no children any more; ``at`` is the path to an athlete, empty or ending in ``__``."""
    return Q(**{f"{at}birth_year__lt": datetime.date.today().year - F(f"{at}club__adult_age")})


def is_child(birth_year: int, adult_age: int) -> bool:
    return birth_year >= datetime.date.today().year - adult_age
