"""Time as a value: integers of milliseconds inside, seconds in files, m:ss for people.

Two scales are used throughout:

* footage time ``t``: milliseconds from the first frame of the clip;
* match clock: milliseconds of running clock since the first start.

Intervals include both ends where something is *held*: a claim counted from
20.000 s with three seconds needed is held at exactly 23.000 s.

    |--- held ---|
    20.000       23.000   paid at 23.000, "exactly that long is enough"
    20.000    22.999      missed
"""

from __future__ import annotations

Millis = int
"""An integer number of milliseconds."""


def to_millis(seconds: int | float) -> Millis:
    """Seconds as written in a file, to the nearest millisecond."""
    return seconds * 1000 if isinstance(seconds, int) else round(seconds * 1000)


def to_seconds(millis: Millis) -> int | float:
    """Milliseconds as a file writes them: whole seconds stay whole."""
    return millis // 1000 if millis % 1000 == 0 else millis / 1000


def minutes(millis: Millis) -> str:
    """``m:ss`` for a clock, rounded down as a scoreboard counts up."""
    whole = millis // 1000
    return f"{whole // 60}:{whole % 60:02d}"


def span(millis: Millis) -> str:
    """A length of time for a sentence, rounded down so that 2.999 s is never shown as 3."""
    tenths = millis // 100
    return f"{tenths // 10} s" if tenths % 10 == 0 else f"{tenths // 10}.{tenths % 10} s"
