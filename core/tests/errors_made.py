"""Made logs for each rule of the review: three at least that it must find, and three that it must leave alone."""

from __future__ import annotations

from typing import Any

from .making import at, end, log, seen, start, stop, tried

Row = dict[str, Any]

PULLED_BY_A = [start(), seen(5, "pull", by="a"), at(5, "guard", "b")]
PULLED_BY_B = [start(), seen(5, "pull", by="b"), at(5, "guard", "a")]


def hold(t: float, by: str, technique: str = "armbar", until: float | None = None, threat: str = "attempt") -> Row:
    return seen(t, "submission", by=by, technique=technique, threat=threat, until=until or t)


def finish(t: float, by: str, technique: str = "rear-choke") -> Row:
    return seen(t, "end", how="submission", by=by, technique=technique)


def grip(t: float, until: float, by: str = "b") -> Row:
    return seen(t, "grip", by=by, grip="cross collar", until=until)


def foul(t: float, by: str = "a", name: str = "stalling", **more: Any) -> Row:
    return seen(t, "foul", by=by, foul=name, **more)


def mark(t: float, on: str, cause: str | None, good: bool = False, **more: Any) -> Row:
    return seen(t, "mark", on=on, good=good, **({"cause": cause} if cause else {}), **more)


def throw(t: float) -> Row:
    return tried(t, "a", "takedown", technique="osoto gari")


ON_TOP = [*PULLED_BY_B, at(20, "side", "a")]
UNDER = [*PULLED_BY_A, at(20, "side", "b")]
MOUNTED = [*UNDER, at(30, "mount", "b")]
BEHIND_ON_TOP = [start(), at(5, "guard", "b"), at(20, "standing"), seen(25, "pull", by="b"), at(26, "guard", "a")]
LATE = {"ruleset": "late-points"}
WARNED = {"ruleset": "house-warnings"}

#: By kind of error: logs in which it is found, logs in which it is not. Each is (observations, setting of the log).
MADE: dict[str, tuple[list[tuple[list[Row], Row]], list[tuple[list[Row], Row]]]] = {
    "submitted": (
        [([*PULLED_BY_A, hold(20, "b", "triangle", 24), finish(24, "b", "triangle")], {}),
         ([*UNDER, at(40, "back", "b"), finish(60, "b")], {}),
         ([*PULLED_BY_B, hold(30, "b", "collar choke", 41), finish(40, "b", "collar choke")], {})],
        [([*PULLED_BY_A, hold(20, "a", "triangle", 24), finish(24, "a", "triangle")], {}),
         ([*PULLED_BY_A, hold(20, "b", "triangle", 24), end()], {}),
         ([*PULLED_BY_A, seen(50, "end", how="withdrawal", by="a")], {})],
    ),
    "leg_swept": (
        [([*PULLED_BY_B, hold(30, "a", "straight-foot-lock", 34), at(36, "guard", "b"), end()], {}),
         ([*PULLED_BY_B, hold(30, "a", "kneebar", 34), at(34, "entangled", "a"), at(35, "guard", "b"), end()],
          {"belt": "brown"}),
         ([*PULLED_BY_B, at(20, "entangled", "b"), hold(30, "a", "toe-hold", 34), at(37, "guard", "a"),
           hold(50, "a", "toe-hold", 53), at(55, "mount", "b"), end()], {"belt": "black"})],
        [([*PULLED_BY_B, hold(30, "a", "straight-foot-lock", 34), at(60, "guard", "b"), end()], {}),
         ([*PULLED_BY_B, hold(30, "a", "armbar", 34), at(36, "guard", "b"), end()], {}),
         ([*PULLED_BY_B, hold(30, "a", "straight-foot-lock", 34), at(36, "guard", "b"), at(38, "standing"), end()], {}),
         ([*PULLED_BY_A, hold(30, "a", "straight-foot-lock", 34), at(36, "side", "b"), end()], {})],
    ),
    "chased": (
        [([*ON_TOP, hold(21, "a", "kimura", 23), at(22.5, "guard", "a"), end()], {}),
         ([start(), at(10, "guard", "a"), hold(11, "a", "guillotine", 14), at(12, "standing"), end()], {}),
         ([*ON_TOP, at(40, "mount", "a"), hold(41, "a", "armbar", 44), at(42.5, "guard", "b"), end()], {})],
        [([*ON_TOP, hold(24, "a", "kimura", 26), at(27, "guard", "a"), end()], {}),
         ([*ON_TOP, at(22.5, "guard", "a"), hold(23, "a", "kimura", 25), end()], {}),
         ([*ON_TOP, hold(21, "a", "kimura", 23), end()], {})],
    ),
    "too_late": (
        [([*PULLED_BY_B, at(298, "side", "a"), end()], {}),
         ([*PULLED_BY_A, at(298.5, "guard", "a"), end()], {}),
         ([start(), at(299, "guard", "a"), end()], {})],
        [([*PULLED_BY_B, at(297, "side", "a"), end()], {}),
         ([*PULLED_BY_B, at(298, "side", "b"), end()], {}),
         ([*PULLED_BY_B, at(200, "side", "a"), at(202, "guard", "a"), end()], {})],
    ),
    "unheld": (
        [([*ON_TOP, at(22.5, "guard", "a"), end()], {}),
         ([start(), at(10, "guard", "a"), at(12, "standing"), end()], {}),
         ([*ON_TOP, stop(22), start(25, restart="standing"), end()], {})],
        [([*ON_TOP, at(23, "guard", "a"), end()], {}),
         ([*ON_TOP, at(21, "mount", "a"), at(30, "guard", "a"), end()], {}),
         ([*UNDER, at(22, "guard", "b"), end()], {})],
    ),
    "shielded": (
        [([start(), hold(10, "b", "guillotine", 20), at(11, "guard", "a"), at(19, "standing"), end()], {}),
         ([*PULLED_BY_B, hold(20, "b", "triangle", 30), at(21, "side", "a"), at(29, "guard", "a"), end()], {}),
         ([*PULLED_BY_A, hold(20, "b", "armbar", 30), at(22, "guard", "a"), at(28, "guard", "b"), end()], {})],
        [([start(), hold(10, "b", "guillotine", 13), at(11, "guard", "a"), at(15, "standing"), end()], {}),
         ([start(), hold(10, "b", "guillotine", 13), at(11, "guard", "a"), at(19, "standing"), end()], {}),
         ([start(), at(11, "guard", "a"), at(13, "standing"), end()], {})],
    ),
    "risk_ahead": (
        [([start(), at(10, "guard", "a"), hold(240, "a", "collar choke", 243), at(244, "guard", "b"), end()], {}),
         ([*ON_TOP, tried(256, "a", "mount"), at(260, "guard", "b"), end()], {}),
         ([*ON_TOP, at(40, "mount", "a"), hold(280, "a", "armbar", 284), at(285, "guard", "b"), end()], {})],
        [([start(), at(10, "guard", "a"), at(100, "guard", "b"), end()], {}),
         ([*UNDER, at(100, "guard", "b"), at(200, "guard", "a"), at(260, "guard", "b"), end()], {}),
         ([start(), at(10, "guard", "a"), at(260, "standing"), end()], {})],
    ),
    "given": (
        [([*PULLED_BY_A, hold(20, "a", "triangle", 26), at(28, "side", "b"), end()], {}),
         ([start(), tried(20, "a", "takedown", outcome="near"), at(22, "side", "b"), end()], {}),
         ([start(), at(10, "guard", "a"), at(12, "guard", "b"), end()], {}),
         ([start(), seen(20, "pull", by="a", caught=True), at(21, "guard", "b"), end()], {})],
        [([*PULLED_BY_A, hold(20, "a", "triangle", 26), at(40, "side", "b"), end()], {}),
         ([*PULLED_BY_A, at(28, "side", "b"), end()], {}),
         ([*PULLED_BY_A, hold(20, "a", "triangle", 26), at(28, "side", "b"), at(29, "guard", "b"), at(40, "standing"),
           at(60, "guard", "a"), end()], {"ruleset": "late-points"})],
    ),
    "taken": (
        [([*UNDER, end()], {}),
         ([*PULLED_BY_A, hold(20, "b", "armbar", 22, "close"), end()], {}),
         ([*UNDER, at(22, "guard", "b"), end()], {})],
        [([*ON_TOP, end()], {}),
         ([start(), seen(9, "ruling", to="b", points=2), end()], {}),
         ([*PULLED_BY_A, at(20, "mount", "a"), foul(30), foul(40), end()], {})],
    ),
    "retaken": (
        [([*ON_TOP, at(30, "mount", "a"), at(40, "side", "a"), at(50, "mount", "a"), end()], {}),
         ([*ON_TOP, at(30, "knee_on_belly", "a"), at(40, "side", "a"), at(50, "knee_on_belly", "a"), end()], {}),
         ([*ON_TOP, at(30, "back", "a"), at(40, "turtle", "a"), at(50, "back", "a"), end()], {})],
        [([*ON_TOP, at(30, "mount", "a"), at(40, "guard", "a"), at(50, "mount", "a"), end()], {}),
         ([*ON_TOP, at(30, "mount", "a"), at(31, "side", "a"), at(50, "mount", "a"), end()], {}),
         ([*ON_TOP, at(30, "mount", "a"), at(40, "side", "a"), at(50, "mount", "a"), end()], WARNED)],
    ),
    "no_attempt": (
        [([*UNDER, end()], {}),
         ([*PULLED_BY_A, at(250, "mount", "b"), end()], {}),
         ([start(), foul(10), end()], {})],
        [([*UNDER, hold(280, "a", "triangle"), end()], {}),
         ([*UNDER, at(280, "guard", "a"), end()], {}),
         ([*ON_TOP, end()], {}),
         ([*PULLED_BY_A, at(290, "side", "b"), end()], {})],
    ),
    "penalty": (
        [([start(), foul(9), end()], {}),
         ([start(), foul(9, name="grip"), end()], {}),
         ([*PULLED_BY_A, foul(30, name="fleeing", avoiding="sweep"), end()], {})],
        [([start(), foul(9, by="b"), end()], {}),
         ([start(), seen(9, "ruling", to="a", penalties=1), end()], {}),
         ([start(), seen(9, "call", to="a", penalties=1), end()], {})],
    ),
    "paid_pull": (
        [([start(), seen(200, "pull", by="a"), at(200, "guard", "b"), end()], LATE),
         ([start(), seen(150, "pull", by="a"), at(151, "guard", "b"), end()], LATE),
         ([start(), seen(200, "pull", by="both"), at(200, "double_pull"), end()], LATE)],
        [([start(), seen(100, "pull", by="a"), at(100, "guard", "b"), end()], LATE),
         ([start(), seen(200, "pull", by="b"), at(200, "guard", "a"), end()], LATE),
         ([start(), seen(200, "pull", by="a"), at(200, "guard", "b"), end()], {})],
    ),
    "illegal": (
        [([start(), seen(9, "technique", by="a", technique="slam")], {}),
         ([*PULLED_BY_A, hold(30, "a", "heel-hook"), end()], {}),
         ([*PULLED_BY_A, hold(30, "a", "calf-slicer"), end()], WARNED)],
        [([start(), seen(9, "technique", by="b", technique="slam")], {}),
         ([*PULLED_BY_A, hold(30, "a", "kneebar"), end()], {"belt": "brown"}),
         ([*PULLED_BY_A, hold(30, "a", "armbar"), end()], {})],
    ),
    "worth_zero": (
        [([*PULLED_BY_A, at(20, "side", "b"), end()], {"ruleset": "submission-only"}),
         ([*PULLED_BY_B, at(20, "guard", "b"), end()], {"ruleset": "submission-only"}),
         ([*PULLED_BY_A, at(20, "turtle", "b"), at(30, "back", "b"), end()], {"ruleset": "submission-only"})],
        [([*PULLED_BY_A, at(20, "side", "b"), end()], {}),
         ([*PULLED_BY_B, at(20, "side", "a"), end()], {"ruleset": "submission-only"}),
         ([*PULLED_BY_A, at(20, "turtle", "b"), end()], {"ruleset": "submission-only"})],
    ),
    "control_lost": (
        [([*ON_TOP, at(40, "guard", "a"), end()], {}),
         ([*ON_TOP, at(30, "mount", "a"), hold(50, "a", "armbar", 55), at(55, "guard", "b"), end()], {}),
         ([*PULLED_BY_B, at(20, "turtle", "a"), at(30, "back", "a"), at(50, "standing"), end()], {})],
        [([*ON_TOP, at(22, "guard", "a"), end()], {}),
         ([*ON_TOP, at(40, "mount", "a"), at(60, "side", "a"), end()], {}),
         ([*ON_TOP, mark(38, "a", "plan", good=True), at(40, "guard", "a"), end()], {}),
         ([*ON_TOP, stop(40), start(50, restart="standing"), end()], {})],
    ),
    "attempt_failed": (
        [([start(), *(throw(t) for t in (10, 25, 40)), end()], {}),
         ([*PULLED_BY_A, *(tried(t, "a", "sweep", technique="hip bump") for t in (20, 40, 60, 80)), end()], {}),
         ([start(), throw(10), tried(20, "b", "takedown", technique="single leg"), throw(25), throw(40), end()], {})],
        [([start(), throw(10), throw(25), end()], {}),
         ([start(), throw(10), throw(25), throw(40), at(42, "guard", "a"), end()], {}),
         ([start(), throw(10), throw(90), throw(170), end()], {}),
         ([start(), throw(10), tried(25, "a", "takedown", technique="single leg"), throw(40), end()], {})],
    ),
    "stuck": (
        [([*UNDER, end(70)], {}),
         ([*MOUNTED, hold(60, "b", "americana", 65), end(110)], {}),
         ([*UNDER, tried(30, "a", "escape"), end(80)], {})],
        [([*UNDER, tried(45, "a", "escape"), tried(70, "a", "escape"), end(95)], {}),
         ([*UNDER, at(65, "guard", "b"), end()], {}),
         ([*UNDER, mark(40, "a", "pace", good=True), end(70)], {}),
         ([*UNDER, seen(40, "grip", by="a", grip="underhook", until=60), end(80)], {})],
    ),
    "dragged_out": (
        [([*BEHIND_ON_TOP, end(300)], {}),
         ([*BEHIND_ON_TOP, tried(60, "a", "guard_pass"), end(300)], {}),
         ([*BEHIND_ON_TOP, foul(80), end(300)], {})],
        [([*BEHIND_ON_TOP, *(tried(t, "a", "guard_pass") for t in range(50, 300, 30)), end(300)], {}),
         ([*PULLED_BY_B, end(300)], {}),
         ([*BEHIND_ON_TOP, mark(60, "a", "plan", good=True), end(75)], {})],
    ),
    "chance_missed": (
        [([*PULLED_BY_B, hold(30, "b", "triangle", 40), end()], {}),
         ([*PULLED_BY_B, hold(30, "b", "armbar", 34), at(60, "side", "a"), end()], {}),
         ([*ON_TOP, hold(50, "b", "kimura", 58), end()], {})],
        [([*PULLED_BY_B, hold(30, "b", "triangle", 40), at(44, "side", "a"), end()], {}),
         ([*PULLED_BY_B, hold(30, "b", "triangle", 40), tried(46, "a", "guard_pass"), end()], {}),
         ([*PULLED_BY_B, hold(30, "b", "triangle", 40), tried(43, "b", "sweep"), end()], {}),
         ([*UNDER, hold(50, "b", "kimura", 58), end()], {})],
    ),
    "grip_unbroken": (
        [([start(), grip(10, 40), end()], {}),
         ([*PULLED_BY_B, grip(20, 70), end()], {}),
         ([*PULLED_BY_A, grip(20, 50), at(45, "side", "b"), end()], {})],
        [([start(), grip(10, 25), end()], {}),
         ([start(), {**grip(10, 40), "broken": True}, end()], {}),
         ([start(), grip(10, 60, "a"), end()], {}),
         ([*UNDER, grip(30, 80), end()], {})],
    ),
    "technical": (
        [([start(), mark(20, "a", "posture"), end()], {}),
         ([*PULLED_BY_A, mark(20, "a", "frames", text="no frame"), end()], {}),
         ([*PULLED_BY_A, mark(20, "a", None, chance="sweep"), end()], {})],
        [([start(), mark(20, "b", "posture"), end()], {}),
         ([start(), mark(20, "a", "posture", good=True), end()], {}),
         ([start(), mark(20, "a", "plan"), end()], {})],
    ),
    "out_of_plan": (
        [([start(), mark(20, "a", "plan", text="pull at once"), end()], {}),
         ([start(), mark(20, "a", "pace"), end()], {}),
         ([start(), mark(20, "a", "rules"), end()], {})],
        [([start(), mark(20, "b", "plan"), end()], {}),
         ([start(), mark(20, "a", "plan", good=True), end()], {}),
         ([start(), mark(20, "a", "base"), end()], {})],
    ),
}  # fmt: skip

CASES = [
    (kind, number, expected, log(*observations, **setting))
    for kind, both in MADE.items()
    for expected, logs in zip((True, False), both, strict=True)
    for number, (observations, setting) in enumerate(logs)
]
