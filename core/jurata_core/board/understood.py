"""All that was understood of a board, as it is kept and moved along with the clip it was read from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

from ..times import Millis
from .clock import course_of
from .counters import Figure, Step, steps_of
from .course import Course, Moment, Setting, Stretch
from .readings import CLOCK, Rule, Seen


@dataclass(frozen=True, slots=True)
class Understood:
    """The course of the clock, where one was marked, and of each figure by its part, as ``a.points``."""

    course: Course | None
    figures: Mapping[str, Figure]

    def moved(self, by: Millis) -> Understood:
        """The same in a footage in which the clip begins at ``by``."""
        course = self.course
        if course is not None:
            course = replace(
                course,
                stretches=tuple(replace(one, t=one.t + by, until=one.until + by) for one in course.stretches),
                moments=tuple(
                    replace(one, t=one.t + by, since=one.since + by, until=one.until + by) for one in course.moments
                ),
                settings=tuple(replace(one, since=one.since + by, until=one.until + by) for one in course.settings),
                read=tuple((since + by, until + by) for since, until in course.read),
            )
        figures = {
            name: replace(
                one, steps=tuple(replace(step, since=step.since + by, until=step.until + by) for step in one.steps)
            )
            for name, one in self.figures.items()
        }
        return Understood(course, figures)

    def written(self) -> dict[str, Any]:
        """As JSON; :func:`read_understood` reads it."""
        course = None if self.course is None else asdict(self.course)
        return {"course": course, "figures": {name: asdict(one) for name, one in self.figures.items()}}


def read_understood(raw: Mapping[str, Any]) -> Understood:
    """What :meth:`Understood.written` wrote."""
    course = raw["course"]
    if course is not None:
        course = Course(
            rule=Rule(**course["rule"]),
            stretches=tuple(Stretch(**one) for one in course["stretches"]),
            moments=tuple(Moment(**one) for one in course["moments"]),
            settings=tuple(Setting(**one) for one in course["settings"]),
            seen=course["seen"],
            because=course["because"],
            read=tuple((since, until) for since, until in course["read"]),
        )
    figures = {
        name: Figure(one["first"], tuple(Step(**step) for step in one["steps"])) for name, one in raw["figures"].items()
    }
    return Understood(course, figures)


def understand(readings: Mapping[str, Sequence[Seen]], begin: Millis, end: Millis, rules: Sequence[Rule]) -> Understood:
    """What the readings of all parts of a board say together, from ``begin`` to ``end``."""
    course = course_of(readings[CLOCK], begin, end, rules) if CLOCK in readings else None
    clear = course.read if course is not None and course.readable else None
    figures = {name: steps_of(seen, begin, end, clear) for name, seen in readings.items() if name != CLOCK}
    return Understood(course, figures)
