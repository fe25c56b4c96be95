"""Random match logs that keep the format but no other rule: what a careless scorer might log."""

from __future__ import annotations

import random
from typing import Any

from jurata_core.divisions import BELTS
from jurata_core.match_log.observations import AVOIDABLE, CONTESTED, LATERAL, MOVES, TOPLESS, TOPPED
from jurata_core.match_log.versions import FORMAT
from jurata_core.rulesets import preset_ids

TECHNIQUES = (
    "triangle",
    "guillotine",
    "heel-hook",
    "wrist-lock",
    "single leg head outside",
    "knee reap",
    "no such hold",
)


CHANGES: list[tuple[str, Any]] = [
    ("repeat", "every_time"),
    ("repeat", "after_turtle"),
    ("regain", "sweep"),
    ("turtle_escape", "advantage"),
    ("mercy", 6),
    ("overtime", {"seconds": 60, "golden": "points"}),
    ("overtime", {"seconds": None, "golden": "advantages"}),
    ("overtime", {"seconds": 30, "golden": None}),
    ("hold_seconds", {"mount": 0, "takedown": 2.5, "other": 4}),
    ("points_from_seconds", 45),
    ("illegal", "warn"),
    ("illegal_disqualify_on", 2),
    ("illegal_hold_blocks", True),
    ("points_from_fraction", 0.25),
    ("double_pull_top", "takedown"),
    ("pull_cost", 1),
    ("pull_caught", "takedown"),
    ("double_pull_limit", 10),
    ("ladder", ["advantage", "one_point", "minus_point", "two_points"]),
    ("ladder", []),
    ("points", {"takedown_clear": 5, "knee_on_belly": 0}),
    ("points", {"reversal": 2}),
    ("tiebreak", ["first_score", "points"]),
    ("tiebreak", ["points", "submission_attempts", "last_score", "decision"]),
]


def random_observation(rng: random.Random, t: float) -> dict[str, Any]:
    side = rng.choice("ab")
    kind = rng.choices(
        (
            "position",
            "clock",
            "pull",
            "submission",
            "technique",
            "attempt",
            "mark",
            "period",
            "begin",  # too late, except before the first start
            "foul",
            "grip",
            "call",
            "ruling",
            "exchange",
            "decision",
            *SILENT_KINDS,
        ),
        (60, 8, 8, 8, 1, 3, 3, 1, 0.5, 2, 2, 2, 1, 1, 1, 1, 1, 1, 1),
    )[0]
    if kind in SILENT_KINDS:
        return silent_observation(rng, t, kind)
    seen: dict[str, Any] = {"t": t, "kind": kind}
    if kind == "position":
        seen |= random_place(rng, side)
    elif kind == "clock":
        seen |= random_clock(rng, side)
    elif kind == "pull":
        seen |= {"by": rng.choice(("a", "b", "both")), "caught": rng.random() < 0.3, "attack": rng.random() < 0.2}
    elif kind == "submission":
        seen |= {"by": side, "technique": rng.choice(TECHNIQUES), "threat": rng.choice(("attempt", "close"))}
        if rng.random() < 0.8:
            seen["until"] = round(t + rng.uniform(0, 9), 1)
    elif kind == "technique":
        seen |= {"by": side, "technique": rng.choice(TECHNIQUES)}
    elif kind == "attempt":
        seen |= {"by": side, "move": rng.choice(MOVES), "outcome": rng.choice(("failed", "near", "near", "done"))}
        if rng.random() < 0.3:
            seen["technique"] = rng.choice(TECHNIQUES)
    elif kind == "mark":
        seen |= {"on": side, "good": rng.random() < 0.5, "cause": rng.choice(("grips", "plan"))}
        if rng.random() < 0.5:
            seen["text"] = rng.choice(("Elbow out.", "too slow"))
        if rng.random() < 0.3:
            seen |= rng.choice(({"instead": "Elbow in first."}, {"hurt": "left knee"}))
    elif kind == "foul":
        seen |= {
            "by": rng.choice((side, side, "both")),
            "foul": rng.choices(("stalling", "fleeing", "grip", "conduct", "severe"), (9, 4, 4, 4, 1))[0],
        }
        if seen["foul"] == "fleeing":
            seen |= {"by": side, "avoiding": rng.choice(("sweep", "takedown", *AVOIDABLE))}
        elif seen["foul"] != "severe" and rng.random() < 0.2:
            seen["verbal"] = True
    elif kind == "grip":
        seen |= {"by": side, "grip": "collar", "until": round(t + rng.uniform(0, 60), 1), "broken": rng.random() < 0.3}
        if rng.random() < 0.3:
            seen["outcome"] = rng.choice(("held", "failed"))
    elif kind in ("call", "ruling"):
        seen |= {"to": side, rng.choice(("points", "advantages", "penalties")): rng.choice((-1, 1, 2, 3))}
    elif kind == "decision":
        seen["votes"] = {"a": rng.randrange(4), "b": rng.randrange(4)}
    if kind in SIDED_KINDS and rng.random() < 0.2:
        seen[rng.choice(("own", "target"))] = rng.choice(LATERAL)
    return seen


SILENT_KINDS = ("legs", "contest", "board", "unwatched")
"""Kinds that no award looks at."""
SIDED_KINDS = ("attempt", "submission", "technique", "grip", "mark")
"""Kinds that may say left and right, apart from a contest."""


def silent_observation(rng: random.Random, t: float, kind: str) -> dict[str, Any]:
    """An observation of one of ``SILENT_KINDS``."""
    seen: dict[str, Any] = {"t": t, "kind": kind}
    if kind == "legs":
        said = {"knee": ("caught", "free"), "heel": ("exposed", "hidden"), "leg": ("left", "right")}
        fields = rng.sample(sorted(said), rng.randrange(1, 4))
        return seen | {"by": rng.choice("ab")} | {name: rng.choice(said[name]) for name in fields}
    if kind == "contest":
        seen |= {"for": rng.choice(CONTESTED), "until": round(t + rng.uniform(0, 20), 1)}
        return seen | rng.choice(({}, {"won": "a"}, {"won": "b"}, {"own": "left", "target": "right"}))
    if kind == "board":
        return seen | {"score": {side: {"points": rng.randrange(9), "advantages": rng.randrange(3)} for side in "ab"}}
    return seen | {"until": round(t + rng.uniform(0, 40), 1)}


def random_clock(rng: random.Random, side: str) -> dict[str, Any]:
    """A start or stop, and how it goes on after it."""
    seen: dict[str, Any] = {"action": rng.choice(("start", "stop"))}
    if rng.random() < 0.6:
        seen["restart"] = rng.choice(("standing", "same", "placed"))
    if rng.random() < 0.2:
        seen["grips"] = rng.choice(("kept", "let_go"))
    if seen.get("restart") == "placed":
        place = random_place(rng, side)
        while place["position"] == "scramble" or place == {"position": "entangled"}:
            place = random_place(rng, side)
        seen |= place
    return seen


def random_place(rng: random.Random, side: str) -> dict[str, Any]:
    """A position, with ``side`` on top where it has one."""
    position = rng.choice((*TOPLESS, *TOPPED, *TOPPED, "entangled"))
    topped = position in TOPPED or (position == "entangled" and rng.random() < 0.5)
    return {"position": position, "top": side} if topped else {"position": position}


def overtime(rng: random.Random, t: float) -> list[dict[str, Any]]:
    """Time runs out level or not, and a period begins."""
    t = round(t + rng.choice((1, 60, 200, 400)), 1)
    return [
        {"t": t, "kind": "clock", "action": "stop"},
        {"t": round(t + 1, 1), "kind": "period"},
        {"t": round(t + 2, 1), "kind": "clock", "action": "start", "restart": rng.choice(("standing", "same"))},
    ]


def again_and_again(rng: random.Random, t: float) -> list[dict[str, Any]]:
    """The same attempt three times or more."""
    tried = {"kind": "attempt", "by": rng.choice("ab"), "move": rng.choice(MOVES), "technique": "triangle"}
    times = range(rng.randrange(3, 6))
    return [{"t": round(t + 4 * n + 1, 1), **tried, "outcome": "failed"} for n in times]


def random_log(rng: random.Random, length: int = 40, ended: bool | None = None) -> dict[str, Any]:
    """A log of about ``length`` observations with times on a 100 ms grid."""
    t = rng.choice((0.0, 5.0))
    observations: list[dict[str, Any]] = []
    if rng.random() < 0.2:
        observations.append(random_observation(rng, t))
    if rng.random() < 0.1:
        score = {side: {"points": 4, "advantages": 1, "penalties": 2} for side in rng.choice(("a", "b", "ab"))}
        observations.append({"t": t, "kind": "begin", "clock": rng.choice((0, 30, 118, 250)), "score": score})
    observations.append({"t": t, "kind": "clock", "action": "start"})
    for _ in range(length):
        t = round(t + rng.choice((0, 0.1, 0.5, 1, 1, 2, 2.9, 3, 3, 3.1, 5, 12, 25)), 1)
        observations.append(random_observation(rng, t))
        if rng.random() < 0.02:
            observations += overtime(rng, t)
            t = observations[-1]["t"]
        if rng.random() < 0.01:
            observations += again_and_again(rng, t)
            t = observations[-1]["t"]
    if ended if ended is not None else rng.random() < 0.8:
        t = round(t + rng.choice((0, 1, 3, 10)), 1)
        end: dict[str, Any] = {
            "t": t,
            "kind": "end",
            "how": rng.choices(("time", "submission", "withdrawal", "stoppage", "disqualification"), (8, 1, 1, 1, 1))[
                0
            ],
        }
        if end["how"] != "time":
            end["by"] = rng.choice(("a", "b", "both") if end["how"] == "disqualification" else ("a", "b"))
        if end["how"] == "submission":
            end["technique"] = rng.choice(TECHNIQUES)
        observations.append(end)
        if rng.random() < 0.5:
            observations.append({"t": t, "kind": "decision", "votes": {"a": 2, "b": 1}})
    ruleset: Any = rng.choice(preset_ids())
    if rng.random() < 0.6:
        ruleset = {"extends": ruleset} | dict(rng.sample(CHANGES, 5))
    return {
        "format": FORMAT,
        "ruleset": ruleset,
        "duration": rng.choice((120, 300, 360, 120, None)),
        "division": {"age": rng.randrange(8, 50), "belt": rng.choice(BELTS), "attire": rng.choice(("gi", "nogi"))},
        "observations": observations,
    }
