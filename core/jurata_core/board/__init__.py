"""What an event's scoreboard showed, understood from readings of it: the match clock and the officials' calls.

Readings come from pictures, but no picture is seen here. Many readings may be missing or wrong.
"""

from .clock import course_of
from .counters import Figure, Step, steps_of
from .course import Course, Moment, Setting
from .proposals import Proposal, only_logged, proposals, with_calls
from .readings import BOARD_PARTS, CLOCK, Rule, Seen
from .understood import Understood, read_understood, understand

__all__ = [
    "BOARD_PARTS",
    "CLOCK",
    "Course",
    "Figure",
    "Moment",
    "Proposal",
    "Rule",
    "Seen",
    "Setting",
    "Step",
    "Understood",
    "course_of",
    "only_logged",
    "proposals",
    "read_understood",
    "steps_of",
    "understand",
    "with_calls",
]
