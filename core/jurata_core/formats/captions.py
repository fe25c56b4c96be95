"""A verdict as WebVTT captions over the clip: the score throughout, the reasons when they fall.

Source of the form: W3C, "WebVTT: The Web Video Text Tracks Format".
"""

from __future__ import annotations

from collections.abc import Mapping
from html import escape
from itertools import groupby, pairwise

from ..adjudication import Verdict
from ..adjudication.rows import Award
from ..adjudication.sentences import named
from ..adjudication.timeline import Stretch
from ..match_log.observations import SIDES, TALLIES, Side, Tally
from ..times import Millis

SHOWN: Millis = 5_000
"""How long a reason stays on, unless the next comes first."""
Names = Mapping[Side, str]
"""What the two are called in a file."""
NAMES: Names = {"a": "Athlete", "b": "Opponent"}
_LETTERS: dict[Tally, str] = {"points": "", "advantages": " adv", "penalties": " pen"}


def captions(verdict: Verdict, names: Names = NAMES) -> str:
    """WebVTT text with times of the footage; empty but for its head where the clock never ran."""
    return written(_cues(verdict, names))


def captions_of(verdict: Verdict, start: Millis, end: Millis, heading: str, names: Names = NAMES) -> str:
    """The captions of a stretch cut out of the footage, with times from its beginning, and a heading throughout."""
    within = [(max(start, since), min(end, until), text) for since, until, text in _cues(verdict, names)]
    kept = [cue for cue in within if cue[1] > cue[0]]
    # Where no score is shown yet, or any more, the heading stands alone.
    bounds = [(start, kept[0][0] if kept else end, ""), (kept[-1][1] if kept else end, end, "")]
    cues = [cue for cue in (bounds[0], *kept, bounds[1]) if cue[1] > cue[0]]
    return written([(since - start, until - start, f"{heading}\n{text}".strip()) for since, until, text in cues])


def written(cues: list[tuple[Millis, Millis, str]]) -> str:
    """Cues as WebVTT text."""
    blocks = [f"{_time(start)} --> {_time(end)}\n{escape(text, quote=False)}" for start, end, text in cues]
    return "\n\n".join(["WEBVTT", *blocks]) + "\n"


def _cues(verdict: Verdict, names: Names) -> list[tuple[Millis, Millis, str]]:
    """(start, end, text), in order and without overlap."""
    beginnings = [one.start for one in verdict.running[:1]] + [row.t for row in verdict.ledger[:1]]
    if not beginnings:
        return []
    begin = min(beginnings)
    score = {side: dict.fromkeys(TALLIES, 0) for side in SIDES}
    moments: list[tuple[Millis, str, str]] = [(begin, _line(score, names), "")]
    reached: list[tuple[Millis, str, Award | None]] = [
        (row.t, called(row.because, names), row) for row in verdict.ledger
    ]
    reached += [(one.start, "Overtime.", None) for one in _overtimes(verdict)]
    for t, rows in groupby(sorted(reached, key=lambda one: one[0]), key=lambda one: one[0]):
        said = []
        for _, because, row in rows:
            if row is not None:
                score[row.to][row.kind] += row.n
            said.append(because)
        moments.append((t, _line(score, names), "\n".join(dict.fromkeys(said))))
    last = max([one.stop for one in verdict.running[-1:]] + [moments[-1][0]]) + SHOWN
    ends = [after[0] for _, after in pairwise(moments)] + [last]
    cues = []
    for (t, line, said_then), end in zip(moments, ends, strict=True):
        until = min(t + SHOWN, end) if said_then else t
        cues += [(t, until, f"{line}\n{said_then}"), (until, end, line)]
    return [cue for cue in cues if cue[1] > cue[0]]


def called(text: str, names: Names) -> str:
    """A sentence of the core with the names of the two in it, where there are any."""
    return text if names == NAMES else named(text, names["a"], names["b"])


def _overtimes(verdict: Verdict) -> list[Stretch]:
    """The first stretch of running clock of each period of overtime."""
    periods = [list(stretches) for _, stretches in groupby(verdict.running, key=lambda one: one.period)]
    return [stretches[0] for stretches in periods if stretches[0].period]


def _line(score: dict[Side, dict[Tally, int]], names: Names) -> str:
    sides = []
    for side in SIDES:
        shown = [f"{n}{_LETTERS[tally]}" for tally, n in score[side].items() if n or tally == "points"]
        sides.append(f"{names[side]} {', '.join(shown)}")
    return " | ".join(sides)


def _time(t: Millis) -> str:
    hours, rest = divmod(t, 3_600_000)
    minutes, rest = divmod(rest, 60_000)
    return f"{hours:02d}:{minutes:02d}:{rest // 1000:02d}.{rest % 1000:03d}"
