"""Short ways to write logs in tests."""

from __future__ import annotations

from typing import Any

from jurata_core.answers import score


def start(t: float = 0, **more: Any) -> dict[str, Any]:
    return {"t": t, "kind": "clock", "action": "start", **more}


def stop(t: float) -> dict[str, Any]:
    return {"t": t, "kind": "clock", "action": "stop"}


def at(t: float, position: str, top: str | None = None, **more: Any) -> dict[str, Any]:
    return {"t": t, "kind": "position", "position": position, **({"top": top} if top else {}), **more}


def seen(t: float, kind: str, **more: Any) -> dict[str, Any]:
    return {"t": t, "kind": kind, **more}


def tried(t: float, by: str, move: str, **more: Any) -> dict[str, Any]:
    return {"t": t, "kind": "attempt", "by": by, "move": move, **more}


def end(t: float = 300, **more: Any) -> dict[str, Any]:
    return {"t": t, "kind": "end", "how": "time", **more}


def log(
    *observations: dict[str, Any], ruleset: Any = "full-points", age: int = 24, belt: str = "blue", **more: Any
) -> dict[str, Any]:
    return {
        "format": "jurata-match/3",
        "ruleset": ruleset,
        "duration": 300,
        "division": {"age": age, "belt": belt, "attire": "gi", **more},
        "observations": list(observations),
    }


def sheet(*observations: dict[str, Any], **more: Any) -> tuple[str, str, str | None, str]:
    """The score as ``points/advantages/penalties`` of either side, the winner, and how."""
    verdict = score(log(*observations, **more))
    sides = [
        "/".join(str(verdict["score"][side][tally]) for tally in ("points", "advantages", "penalties")) for side in "ab"
    ]
    return sides[0], sides[1], verdict["result"]["winner"], verdict["result"]["method"]
