"""Random match logs that keep the format but no other rule: what a careless scorer might log."""

from __future__ import annotations

import random
from typing import Any

from jurata_core.divisions import BELTS
from jurata_core.match_log.observations import CLAIM_KINDS, TOPLESS, TOPPED
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


def random_observation(rng: random.Random, t: float) -> dict[str, Any]:
    side = rng.choice("ab")
    kind = rng.choices(
        (
            "position",
            "clock",
            "pull",
            "submission",
            "technique",
            "near",
            "foul",
            "grip",
            "call",
            "ruling",
            "exchange",
            "decision",
        ),
        (60, 6, 8, 8, 1, 2, 2, 2, 2, 1, 1, 1),
    )[0]
    seen: dict[str, Any] = {"t": t, "kind": kind}
    if kind == "position":
        seen["position"] = rng.choice((*TOPLESS, *TOPPED, *TOPPED, "entangled"))
        if seen["position"] in TOPPED or (seen["position"] == "entangled" and rng.random() < 0.5):
            seen["top"] = side
    elif kind == "clock":
        seen["action"] = rng.choice(("start", "stop"))
        if rng.random() < 0.6:
            seen["restart"] = rng.choice(("standing", "same"))
    elif kind == "pull":
        seen |= {"by": rng.choice(("a", "b", "both")), "caught": rng.random() < 0.3}
    elif kind == "submission":
        seen |= {"by": side, "technique": rng.choice(TECHNIQUES), "threat": rng.choice(("attempt", "close"))}
        if rng.random() < 0.8:
            seen["until"] = round(t + rng.uniform(0, 9), 1)
    elif kind == "technique":
        seen |= {"by": side, "technique": rng.choice(TECHNIQUES)}
    elif kind == "near":
        seen |= {"by": side, "claim": rng.choice(CLAIM_KINDS)}
    elif kind == "foul":
        seen |= {
            "by": side,
            "foul": rng.choices(("stalling", "fleeing", "grip", "conduct", "severe"), (9, 4, 4, 4, 1))[0],
        }
        if seen["foul"] == "fleeing":
            seen["avoiding"] = rng.choice(("takedown", "sweep", "sweep", "submission"))
    elif kind == "grip":
        seen |= {"by": side, "grip": "collar"}
    elif kind in ("call", "ruling"):
        seen |= {"to": side, rng.choice(("points", "advantages", "penalties")): rng.choice((-1, 1, 2, 3))}
    elif kind == "decision":
        seen["votes"] = {"a": rng.randrange(4), "b": rng.randrange(4)}
    return seen


def random_log(rng: random.Random, length: int = 40, ended: bool | None = None) -> dict[str, Any]:
    """A log of about ``length`` observations with times on a 100 ms grid."""
    t = rng.choice((0.0, 5.0))
    observations: list[dict[str, Any]] = []
    if rng.random() < 0.2:
        observations.append(random_observation(rng, t))
    observations.append({"t": t, "kind": "clock", "action": "start"})
    for _ in range(length):
        t = round(t + rng.choice((0, 0.1, 0.5, 1, 1, 2, 2.9, 3, 3, 3.1, 5, 12, 25)), 1)
        observations.append(random_observation(rng, t))
    if ended if ended is not None else rng.random() < 0.8:
        t = round(t + rng.choice((0, 1, 3, 10)), 1)
        end: dict[str, Any] = {
            "t": t,
            "kind": "end",
            "how": rng.choices(("time", "submission", "withdrawal", "disqualification"), (8, 1, 1, 1))[0],
        }
        if end["how"] != "time":
            end["by"] = rng.choice("ab")
        if end["how"] == "submission":
            end["technique"] = rng.choice(TECHNIQUES)
        observations.append(end)
        if rng.random() < 0.5:
            observations.append({"t": t, "kind": "decision", "votes": {"a": 2, "b": 1}})
    ruleset: Any = rng.choice(preset_ids())
    if rng.random() < 0.4:
        ruleset = {"extends": ruleset} | dict(
            rng.sample(
                [
                    ("repeat", "every_time"),
                    ("illegal", "warn"),
                    ("illegal_disqualify_on", 2),
                    ("illegal_hold_blocks", True),
                    ("points_from_fraction", 0.25),
                    ("double_pull_top", "takedown"),
                    ("pull_cost", 1),
                    ("pull_caught", "takedown"),
                    ("double_pull_limit", 10),
                    ("ladder", ["advantage", "minus_point", "two_points"]),
                    ("points", {"takedown_clear": 5, "knee_on_belly": 0}),
                ],
                3,
            )
        )
    return {
        "format": "jurata-match/1",
        "ruleset": ruleset,
        "duration": rng.choice((120, 300, 360)),
        "division": {"age": rng.randrange(8, 50), "belt": rng.choice(BELTS), "attire": rng.choice(("gi", "nogi"))},
        "observations": observations,
    }
