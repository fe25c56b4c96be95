"""A second opinion on holding: the rules of docs/scoring.md said again, naively, on a grid of 100 ms.

It shares no code with the adjudication. The match is walked tick by tick; every
claim keeps a tally of ticks held, and everything is looked at again at each tick.
It knows points and advantages for claims and near misses, pulls, shields, stops
and restarts; logs given to it hold only those kinds, legal techniques, and an end
by time.
"""

from __future__ import annotations

from typing import Any

TICK = 100
PASSED = {"side", "knee_on_belly", "mount"}
BACKS = {"back", "back_one_hook"}
CONTROL = PASSED | BACKS | {"turtle"}
GUARDS = {"guard", "entangled"}
HEIGHT = ["guard entangled", "turtle", "side", "knee_on_belly", "mount back_one_hook", "back"]


def other(side: str) -> str:
    return "b" if side == "a" else "a"


def height(position: str) -> int:
    return next(rank for rank, names in enumerate(HEIGHT) if position in names.split())


class Naive:
    """Walks one log. ``score`` is filled by :meth:`walk`."""

    def __init__(self, log: dict[str, Any], rules: dict[str, Any]) -> None:
        self.rules = rules
        self.seen = sorted(log["observations"], key=lambda one: one["t"])
        self.opening = rules["points_from_fraction"] * log["duration"] * 1000
        self.need = round(rules["hold_seconds"] * 1000)
        self.score = {side: {"points": 0, "advantages": 0} for side in "ab"}
        self.claims: list[dict[str, Any]] = []
        self.place: tuple[str, str | None] = ("standing", None)
        self.solid = self.place  # the last position that was not passed through
        self.came_from = self.place
        self.pulled: list[str] = []
        self.shields: list[tuple[str, int, int]] = []  # (side whose counts wait, from, until)
        self.paid: set[str] = set()
        self.running = self.begun = False
        self.clock = 0

    def walk(self) -> dict[str, dict[str, int]]:
        now, waiting = 0, list(self.seen)
        while True:
            # What was held up to this instant is paid before anything seen at it.
            self.pay()
            while waiting and round(waiting[0]["t"] * 1000) == now:
                one = waiting.pop(0)
                if one["kind"] == "end":
                    self.lose(list(self.claims))
                    return self.score
                {
                    "clock": self.start_or_stop,
                    "near": self.near,
                    "submission": self.submission,
                    "pull": self.pull,
                    "position": self.position,
                }[one["kind"]](one, now)
                self.pay()
            if not waiting:
                return self.score
            now += TICK
            if self.running:
                self.clock += TICK
                for claim in self.claims:
                    under = any(side == claim["side"] and start < now <= until for side, start, until in self.shields)
                    if under or claim["loose"]:
                        claim["held"] = 0
                    else:
                        claim["held"] += TICK

    def pay(self) -> None:
        for claim in list(self.claims):
            if self.running and not claim["loose"] and claim["held"] >= self.need:
                self.claims.remove(claim)
                if not claim["early"]:
                    self.score[claim["side"]][claim["tally"]] += claim["n"]
                    self.paid.add(claim["kind"])

    def lose(self, claims: list[dict[str, Any]]) -> None:
        owed = set()
        for claim in claims:
            self.claims.remove(claim)
            if claim["tally"] == "points" and claim["n"] and not claim["early"]:
                owed.add(claim["side"])
        for side in owed:
            self.advantage(side)

    def advantage(self, side: str) -> None:
        if self.rules["advantages"]:
            self.score[side]["advantages"] += 1

    # Observations, by kind.

    def start_or_stop(self, one: dict[str, Any], now: int) -> None:
        if one["action"] == "stop":
            if self.running:
                self.running = False
                for claim in self.claims:
                    claim["held"] = 0
            return
        if self.running:
            return
        if self.begun and one.get("restart", "standing") == "standing":
            self.lose(list(self.claims))
            self.place = self.solid = self.came_from = ("standing", None)
            self.pulled, self.shields, self.paid = [], [], set()
        self.running = self.begun = True

    def near(self, one: dict[str, Any], now: int) -> None:
        self.advantage(one["by"])

    def submission(self, one: dict[str, Any], now: int) -> None:
        until = round(one.get("until", one["t"]) * 1000)
        if until > now:
            self.shields.append((other(one["by"]), now, until))
            for claim in self.claims:
                if claim["side"] == other(one["by"]):
                    claim["held"] = 0
        if one["threat"] == "close":
            self.advantage(one["by"])

    def pull(self, one: dict[str, Any], now: int) -> None:
        if not self.running or self.solid[0] != "standing":
            return
        by = ["a", "b"] if one["by"] == "both" else [one["by"]]
        if not self.pulled:
            if len(by) == 2:
                self.came_from = ("double_pull", None)
            elif not (one.get("caught") and self.rules["pull_caught"] == "takedown"):
                self.came_from = ("guard", other(by[0]))
        elif len(self.pulled) == 1 and len(by) == 1 and by != self.pulled:
            self.came_from = ("double_pull", None)
        else:
            return
        self.pulled += by
        if self.clock >= self.opening:
            for side in by:
                self.score[side]["points"] -= self.rules["pull_cost"]

    def position(self, one: dict[str, Any], now: int) -> None:
        place = (one["position"], one.get("top"))
        loose = place[0] == "scramble" or place == ("entangled", None)
        if not self.begun:
            self.place = place
            if not loose:
                self.solid = self.came_from = place
            return
        if not self.running:
            return
        if loose:
            for claim in self.claims:
                claim["loose"], claim["held"] = True, 0
            self.place = place
            return
        same = place == self.place
        gone = []
        for claim in list(self.claims):
            if self.holds(claim["kind"], claim["side"], place):
                if claim["loose"]:
                    claim["loose"], claim["held"] = False, 0
            elif place[1] == claim["side"] == self.solid[1] and height(place[0]) > height(self.solid[0]):
                self.claims.remove(claim)
            else:
                gone.append(claim)
        self.lose(gone)
        top = place[1]
        on_top_still = top is not None and self.solid[1] == top and self.solid[0] in CONTROL and place[0] in CONTROL
        if not on_top_still and not same:
            self.paid = set()
        if top and not same:
            self.open_claims(place, top)
        self.place = self.solid = self.came_from = place
        self.pulled = []

    @staticmethod
    def holds(kind: str, side: str, place: tuple[str, str | None]) -> bool:
        if place[1] != side:
            return False
        if kind in ("takedown", "sweep", "double_pull_top"):
            return True
        return place[0] in PASSED | BACKS if kind == "guard_pass" else place[0] == kind

    def open_claims(self, place: tuple[str, str | None], top: str) -> None:
        before, position = self.came_from, place[0]
        points = self.rules["points"]
        clear = "_clear" if position in PASSED else ""
        new: list[tuple[str, str, int]] = []
        if position not in BACKS:
            if before[0] == "standing":
                new.append(("takedown", "points", points["takedown" + clear]))
            if before[0] == "double_pull":
                kind = self.rules["double_pull_top"]
                pays = {
                    "advantage": ("advantages", 1 if self.rules["advantages"] else 0),
                    "takedown": ("points", points["takedown"]),
                }
                new.append(("double_pull_top", *pays.get(kind, ("points", 0))))
            if before[0] in GUARDS and before[1] == other(top):
                new.append(("sweep", "points", points["sweep" + clear]))
        if before[0] in GUARDS and before[1] == top and position in PASSED:
            new.append(("guard_pass", "points", points["guard_pass"]))
        if position in ("knee_on_belly", "mount", "back"):
            again = self.rules["repeat"] == "after_recovery" and position in self.paid
            if not again:
                new.append((position, "points", points[position]))
        for kind, tally, n in new:
            if not any(claim["kind"] == kind and claim["side"] == top for claim in self.claims):
                early = self.clock < self.opening
                self.claims.append(
                    {"kind": kind, "side": top, "tally": tally, "n": n, "held": 0, "loose": False, "early": early}
                )
