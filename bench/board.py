"""How well and how fast scoreboards are read: made clips of every kind of board, and made series of readings.

Nothing has to run. Clips are filmed into a folder of their own, read by the real reader and compared with the logs that
they were filmed from.

bench/run board [clips]          # 40 clips of a minute and a half, over all kinds of boards
bench/run board --long           # a clip of six minutes: seconds and memory
bench/run board --series [many]  # readings of which 30 % are missing and 10 % wrong
"""

from __future__ import annotations

import os
import random
import resource
import sys
import tempfile
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from itertools import pairwise
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django  # noqa: E402

django.setup()

from boards.reading import marks_from, read_board  # noqa: E402
from footage.convert import Source  # noqa: E402
from jurata_core.board import Course, Understood, course_of, understand  # noqa: E402
from jurata_core.board.readings import Rule  # noqa: E402
from jurata_core.match_log import read_log  # noqa: E402
from jurata_simulation.boards import KINDS  # noqa: E402
from jurata_simulation.camera import PIXELS, Camera, render  # noqa: E402
from tests.made_boards import made_series  # noqa: E402

RULES = (Rule("down"), Rule("up"))
SLACK = 500
"""Milliseconds by which a start, a stop or a call may lie outside the span that was found."""
CLOSE = 250
HIDDEN = 1_500
"""A start or a stop with a longer span was hidden: what the clock stood at then, the board did not show."""


def made(kind: str, seed: int, seconds: int) -> dict[str, Any]:
    """A log with up to two stops and a call now and then."""
    rng = random.Random(seed)
    seen: list[dict[str, Any]] = []

    def clock(t: float, action: str) -> None:
        seen.append({"t": round(t, 3), "kind": "clock", "action": action})

    t = rng.uniform(2, 5)
    clock(t, "start")
    for stop in sorted(rng.sample(range(10, seconds - 20), 2)):
        if stop > t + 5:
            t = stop + rng.uniform(1.5, 8)
            clock(stop + rng.random(), "stop")
            clock(t, "start")
    t = 4.0
    while (t := t + rng.uniform(4, 12)) < seconds - 6:
        tally, n = rng.choice((("points", 2), ("points", 3), ("points", 4), ("advantages", 1), ("penalties", 1)))
        seen.append({"t": round(t, 3), "kind": "call", "to": rng.choice("ab"), tally: n})
    seen.append({"t": seconds, "kind": "exchange"})
    division = {"age": 30, "belt": "blue", "attire": "gi"}
    observations = sorted(seen, key=lambda one: one["t"])
    head = {"format": "jurata-match/3", "ruleset": "full-points", "duration": 600, "division": division}
    return {**head, "board": kind, "observations": observations}


def read(kind: str, seed: int, seconds: int) -> tuple[Camera, Understood, float]:
    """A made clip, what was understood of it, and how many seconds the reading took."""
    log = read_log(made(kind, seed, seconds))
    camera = Camera(log)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "clip.webm"
        render(log, path)
        source = Source(path, "matroska", camera.length, PIXELS[0] * PIXELS[1])
        begun = time.monotonic()
        found = read_board(source, marks_from([{"t": 0, "boxes": camera.boxes(0)}]), 0, camera.length)
        understood = understand(found.readings, 0, camera.length, RULES)
    return camera, understood, time.monotonic() - begun


def judged(asked: tuple[str, int]) -> tuple[str, Counter[str], float]:
    """What was right and wrong in one clip."""
    kind, seed = asked
    camera, found, took = read(kind, seed, 90)
    counts: Counter[str] = Counter()
    course = found.course
    assert course is not None
    unseen = unseen_in(course)
    for t in range(0, camera.length, 100):
        left = camera.timeline.left_at(t)
        truth = 600_000 if left is None else left
        value = course.value_at(t)
        counts["moments"] += 1
        counts["within 0.25 s"] += value is not None and abs(value - truth) <= CLOSE
        shown = value is not None and any(
            course.rule.shown(max(0, value + by)) == course.rule.shown(truth) for by in (-CLOSE, 0, CLOSE)
        )
        hidden = any(since <= t <= until for since, until in unseen)
        counts["as the board shows"] += shown
        counts["that the board shows"] += not hidden
        counts["right of those"] += shown and not hidden
    changes = [
        (round(one["t"] * 1000), one["action"]) for one in camera.log.raw["observations"] if one["kind"] == "clock"
    ]
    spans = [(one.since - SLACK, one.until + SLACK, one.action) for one in course.moments]
    matched(counts, "clock", changes, spans)
    calls = [
        (call.t, (f"{call.to}.{tally}", getattr(call, tally)))
        for call in camera.calls
        for tally in ("points", "advantages", "penalties")
        if getattr(call, tally)
    ]
    steps = [
        (step.since - SLACK, step.until + SLACK, (name, step.after - step.before))
        for name, figure in found.figures.items()
        for step in figure.steps
    ]
    matched(counts, "calls", calls, steps)
    if "--details" in sys.argv:
        print(kind, seed, calls, steps, sep="\n  ", flush=True)
    return kind, counts, took


def unseen_in(course: Course) -> list[tuple[int, int]]:
    """Where the board could not show what the clock stood at: around hidden starts and stops.

    Between a hidden stop and the start after it the value is as open as the moment of the stop.
    """
    found = [(one.since, one.until) for one in course.moments if one.until - one.since > HIDDEN]
    found += [
        (stop.since, start.until)
        for stop, start in pairwise(course.moments)
        if stop.action == "stop" and stop.until - stop.since > HIDDEN
    ]
    return found


def matched(counts: Counter[str], name: str, truth: list[tuple[int, Any]], found: list[tuple[int, int, Any]]) -> None:
    """Count what was found of what there was, one to one, and what is left over."""
    rest, missed = list(found), []
    for t, what in truth:
        hit = next((one for one in rest if one[0] <= t <= one[1] and one[2] == what), None)
        if hit is None:
            missed.append((t, what))
        else:
            rest.remove(hit)
    if name == "calls":
        missed, rest = _together(missed, rest)
    counts[name] += len(truth)
    counts[f"{name} found"] += len(truth) - len(missed)
    counts[f"{name} false"] += len(rest)


def _together(missed: list[tuple[int, Any]], rest: list[tuple[int, int, Any]]) -> tuple[list[Any], list[Any]]:
    """Calls of one figure while somebody stood in front of it are one step: the board can show their sum alone."""
    for step in list(rest):
        since, until, (part, n) = step
        within = [one for one in missed if since <= one[0] <= until and one[1][0] == part]
        if len(within) > 1 and sum(one[1][1] for one in within) == n:
            rest.remove(step)
            missed = [one for one in missed if one not in within]
    return missed, rest


def clips(many: int) -> None:
    kinds = list(KINDS)
    asked = [(kinds[number % len(kinds)], 100 + number) for number in range(many)]
    total: Counter[str] = Counter()
    with ProcessPoolExecutor(2) as pool:
        for kind, counts, took in pool.map(judged, asked):
            total += counts
            share = counts["as the board shows"] / counts["moments"]
            said = ", ".join(f"{name} {counts[name + ' found']}/{counts[name]}" for name in ("clock", "calls"))
            false = counts["clock false"] + counts["calls false"]
            print(f"{kind:10} clock right {share:.1%}, {said}, false {false}, read in {took:.1f} s", flush=True)
    for name in ("within 0.25 s", "as the board shows"):
        print(f"match clock {name}: {total[name] / total['moments']:.2%} of the moments")
    print(f"where the board shows it: {total['right of those'] / total['that the board shows']:.2%}")
    for name in ("clock", "calls"):
        found, false = total[f"{name} found"], total[f"{name} false"]
        print(f"{name}: {found} of {total[name]} found ({found / total[name]:.1%}), {false} false")


def long() -> None:
    _, found, took = read("heads", 7, 360)
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    seen = 0.0 if found.course is None else found.course.seen
    print(f"six minutes read in {took:.1f} s, {most} MiB at the most; the clock was seen in {seen:.0%}")


def of_series(seed: int) -> tuple[bool, float]:
    """Whether exactly the starts and stops of a series were found in their spans, and the share of right seconds."""
    series = made_series(random.Random(seed))
    course = course_of(series.readings, 0, series.length, (series.rule,))
    spans = [(one.since - SLACK, one.until + SLACK) for one in course.moments]
    found = len(spans) == len(series.changes) and all(
        since <= t <= until for t, (since, until) in zip(series.changes, spans, strict=True)
    )
    times = range(0, series.length, 500)
    right = 0
    for t in times:
        value, shown = course.value_at(t), series.rule.shown(series.value(t))
        right += value is not None and any(series.rule.shown(max(0, value + by)) == shown for by in (-CLOSE, 0, CLOSE))
    return found, right / len(times)


def series(many: int) -> None:
    begun = time.monotonic()
    with ProcessPoolExecutor(2) as pool:
        rows = list(pool.map(of_series, range(many), chunksize=50))
    whole = sum(found for found, _ in rows)
    right = sum(share for _, share in rows) / many
    took = time.monotonic() - begun
    print(f"{many} series in {took:.0f} s: starts and stops right in {whole / many:.2%}, clock right {right:.2%}")


if __name__ == "__main__":
    number = next((int(one) for one in sys.argv[1:] if one.isdigit()), None)
    if "--long" in sys.argv:
        long()
    elif "--series" in sys.argv:
        series(number or 5_000)
    else:
        clips(number or 40)
