"""A second opinion on scoring: the rules of docs/scoring.md said again, naively, on a grid of 100 ms.

It shares no code with the adjudication. The match is walked tick by tick; every claim keeps a tally of ticks held, and
everything is looked at again at each tick. It knows three techniques, one that is always legal, one that never is and
one that the referee stops below adult blue belt, and an unknown name with the barred one in it; logs given to it name
no other.
"""

from __future__ import annotations

from typing import Any

TICK = 100
PASSED = {"side", "knee_on_belly", "mount"}
BACKS = {"back", "back_one_hook"}
CONTROL = PASSED | BACKS | {"turtle"}
GUARDS = {"guard", "entangled"}
OWN = ("knee_on_belly", "mount", "back")
COMING_UP = ("takedown", "sweep", "reversal", "double_pull_top")
HEIGHT = ["guard entangled", "turtle", "side", "knee_on_belly", "mount", "back_one_hook", "back"]
STANDING = ("standing", None)
UNKNOWN = "running slams"
MOVES = ("takedown", "sweep", "guard_pass", "knee_on_belly", "mount", "back")

Place = tuple[str, str | None]


def other(side: str) -> str:
    return "b" if side == "a" else "a"


def height(position: str) -> int:
    return next(rank for rank, names in enumerate(HEIGHT) if position in names.split())


def ms(seconds: float) -> int:
    return round(seconds * 1000)


class Naive:
    """Walks one log. ``score`` is filled by :meth:`walk`, which gives it with the winner and the method."""

    def __init__(self, log: dict[str, Any], rules: dict[str, Any]) -> None:
        self.rules = rules
        self.division = log["division"]
        self.seen = sorted(log["observations"], key=lambda one: one["t"])
        self.length = None if log["duration"] is None else ms(log["duration"])
        if rules["points_from_seconds"] is not None:
            self.opening = ms(rules["points_from_seconds"])
        else:
            self.opening = 0 if self.length is None else rules["points_from_fraction"] * self.length
        self.bell = self.length
        self.score = {side: {"points": 0, "advantages": 0, "penalties": 0} for side in "ab"}
        self.rows: list[dict[str, Any]] = []
        self.claims: list[dict[str, Any]] = []
        self.place: Place = STANDING
        self.solid: Place = STANDING  # the last position that was not passed through
        self.came_from: Place = STANDING
        self.firm, self.firm_place = True, STANDING  # whether the top is established, and the last one that was
        self.there = 0  # how long a top that is not established has been there without a break
        self.pulled: list[str] = []
        self.shields: list[tuple[str, int, int]] = []  # (side whose counts wait, from, until)
        self.close: list[tuple[str, int]] = []  # (side, until) of close submissions that are not over
        self.close_seen = {"a": 0, "b": 0}
        self.spells: dict[str, dict[str, set[str]] | None] = {"a": None, "b": None}
        self.illegal = {"a": 0, "b": 0}
        self.seated, self.seated_out = 0, False
        self.running = self.begun = self.began_inside = self.between = False
        self.clock = self.periods = self.now = 0
        self.votes: dict[str, int] | None = None
        self.result: tuple[str | None, str] | None = None

    def walk(self) -> tuple[dict[str, dict[str, int]], str | None, str]:
        waiting = list(self.seen)
        while waiting:
            here = [one for one in waiting if ms(one["t"]) == self.now]
            waiting = waiting[len(here) :]
            self.moment(self.fall_due, bool(waiting) and not here)
            for one in here:
                self.moment(self.take, one)
                self.moment(self.fall_due, False)
            if waiting:
                self.moment(self.end_closes, self.now)
                self.tick()
        return self.score, *(self.result or (None, "unfinished"))

    def tick(self) -> None:
        self.now += TICK
        if not self.running or self.result:
            return
        self.clock += TICK
        for claim in self.claims:
            under = any(side == claim["side"] and start < self.now <= until for side, start, until in self.shields)
            claim["held"] = 0 if under or claim["loose"] else claim["held"] + TICK
        if self.place == self.solid:
            self.there += TICK
            if self.place[0] == "double_pull":
                self.seated += TICK

    # What is given, and whether that ends the match.

    def give(self, to: str, tally: str, n: int, by_hand: bool = False) -> None:
        if tally == "advantages" and not self.rules["advantages"]:
            return
        self.score[to][tally] += n
        self.rows.append({"t": self.now, "to": to, "tally": tally, "n": n, "by_hand": by_hand})

    def moment(self, happen: Any, what: Any) -> None:
        """Something happens at one moment; then it is judged whether that ended the match."""
        over, periods, given = self.result is not None, self.periods, len(self.rows)
        happen(what)
        by_time = self.result is not None and self.result[1] == "time"
        if over or (self.result and not by_time):
            return
        if self.rules["mercy"] and not by_time:
            for side in self.scorers(given, ("points",)):
                if self.score[side]["points"] - self.score[other(side)]["points"] >= self.rules["mercy"]:
                    self.result = (side, "mercy")
                    return
        golden = (self.rules["overtime"] or {}).get("golden")
        if golden and periods:
            counted = ("points", golden)
            if self.scorers(given, counted):
                self.end_closes(self.now)
                scorers = self.scorers(given, counted)
                if len(scorers) == 1:
                    self.result = (scorers.pop(), "golden_score")
                    return
        if by_time:
            self.result = self.after_time()

    def scorers(self, given: int, counted: tuple[str, ...]) -> set[str]:
        new = [row for row in self.rows[given:] if row["n"] > 0 and not row["by_hand"] and row["tally"] in counted]
        return {row["to"] for row in new}

    def after_time(self) -> tuple[str | None, str]:
        times: dict[int, set[str]] = {}
        for row in self.rows:
            if row["tally"] == "points" and row["n"] > 0 and not row["by_hand"]:
                times.setdefault(row["t"], set()).add(row["to"])
        alone = [next(iter(times[t])) for t in sorted(times) if len(times[t]) == 1]
        for step in self.rules["tiebreak"]:
            if step == "draw":
                return None, "draw"
            if step == "decision":
                lead = 0 if self.votes is None else self.votes["a"] - self.votes["b"]
            elif step in ("first_score", "last_score"):
                lead = 0 if not alone else 1 if alone[0 if step == "first_score" else -1] == "a" else -1
            elif step == "submission_attempts":
                lead = self.close_seen["a"] - self.close_seen["b"]
            else:
                lead = self.score["a"][step] - self.score["b"][step]
                lead = -lead if step == "penalties" else lead
            if lead:
                return "a" if lead > 0 else "b", step
        return None, "undecided"

    # What falls due.

    def need(self, kind: str) -> int:
        held = self.rules["hold_seconds"]
        return ms(held.get(kind, held.get("other", 3)) if isinstance(held, dict) else held)

    def fall_due(self, closes: bool) -> None:
        if self.result:
            return
        in_time = self.bell is None or self.clock <= self.bell
        for claim in list(self.claims):
            shielded = any(side == claim["side"] and self.now < until for side, _, until in self.shields)
            if not (self.running and in_time) or claim["loose"] or shielded or claim["held"] < self.need(claim["kind"]):
                continue
            self.claims.remove(claim)
            spell = self.spells[claim["side"]]
            if claim["early"]:
                continue
            if spell and claim["kind"] in OWN:
                spell["paid"].add(claim["kind"])
            if claim["n"]:
                self.give(claim["side"], claim["tally"], claim["n"])
        self.look_at_top()
        limit = ms(self.rules["double_pull_limit"])
        seated = self.place[0] == "double_pull" and self.running and in_time
        if limit and seated and not self.seated_out and self.seated >= limit:
            self.seated_out = True
            self.penalty(["a", "b"])
        if closes:
            self.end_closes(self.now)

    def look_at_top(self) -> None:
        """Whether the top is established by now."""
        top = self.solid[1]
        if top and not self.firm:
            claims = [claim for claim in self.claims if claim["side"] == top and claim["kind"] in COMING_UP]
            there = self.place == self.solid and self.there >= max(
                (self.need(one["kind"]) for one in claims), default=0
            )
            self.firm = not claims or there
        if self.firm:
            self.firm_place = self.solid
            if top:
                self.spells[other(top)] = None

    def end_closes(self, at: int) -> None:
        """Those whose time is up give an advantage."""
        if self.result and self.result[1] != "time":
            return
        for hold in list(self.close):
            if hold[1] <= at:
                self.close.remove(hold)
                self.give(hold[0], "advantages", 1)

    def lose(self, claims: list[dict[str, Any]]) -> None:
        owed: dict[str, set[str]] = {}
        for claim in claims:
            self.claims.remove(claim)
            spell = self.spells[claim["side"]]
            again = claim["kind"] in OWN and spell is not None and claim["kind"] in spell["given"]
            if claim["tally"] == "points" and claim["n"] and not claim["early"] and not again:
                owed.setdefault(claim["side"], set()).add(claim["kind"])
        for side, kinds in owed.items():
            spell = self.spells[side]
            if self.rules["advantages"]:
                self.give(side, "advantages", 1)
                if spell is not None:
                    spell["given"] |= kinds & set(OWN)

    def penalty(self, sides: list[str]) -> None:
        for side in sides:
            self.give(side, "penalties", 1)
        out = []
        for side in sides:
            ladder = self.rules["ladder"] or ["none"]
            rung = ladder[min(max(1, self.score[side]["penalties"]), len(ladder)) - 1]
            gifts = {"advantage": ("advantages", 1), "one_point": ("points", 1), "two_points": ("points", 2)}
            if rung in gifts:
                self.give(other(side), *gifts[rung])
            elif rung == "minus_point":
                self.give(side, "points", -1)
            elif rung == "disqualify":
                out.append(side)
        if out:
            self.out(out)

    def out(self, sides: list[str]) -> None:
        self.result = (None if len(sides) == 2 else other(sides[0]), "disqualification")

    # Observations, by kind.

    def take(self, one: dict[str, Any]) -> None:
        kind = one["kind"]
        if self.result and kind not in ("decision", "ruling"):
            return
        step = getattr(self, f"on_{kind}", None)
        if step is not None:
            step(one)
        if self.result and kind in ("decision", "ruling") and self.result[1] in AFTER_TIME:
            self.result = self.after_time()

    def on_decision(self, one: dict[str, Any]) -> None:
        self.votes = one["votes"]

    def on_ruling(self, one: dict[str, Any]) -> None:
        for tally in ("points", "advantages", "penalties"):
            if one.get(tally):
                self.give(one["to"], tally, one[tally], by_hand=True)

    def on_begin(self, one: dict[str, Any]) -> None:
        if self.begun or self.began_inside:
            return
        self.began_inside = True
        self.clock = ms(one.get("clock", 0))
        for side in "ab":
            for tally, n in one.get("score", {}).get(side, {}).items():
                if n:
                    self.give(side, tally, n, by_hand=True)

    def on_clock(self, one: dict[str, Any]) -> None:
        if one["action"] == "stop":
            if self.running:
                self.look_at_top()
                self.running, self.seated, self.there = False, 0, 0
                for claim in self.claims:
                    claim["held"] = 0
            return
        if self.running:
            return
        how, put = one.get("restart", "standing"), (one.get("position"), one.get("top"))
        if self.begun:
            put_back = how == "placed" and put == self.place and put != STANDING
            if self.between or not (how == "same" or put_back):
                self.begin_again(put if how == "placed" else STANDING)
        self.running = self.begun = True
        self.between = False

    def begin_again(self, place: Place) -> None:
        """All that was on is over; the two go on from a place."""
        self.end_closes(10**12)
        self.lose(list(self.claims))
        self.place = self.solid = self.came_from = self.firm_place = place
        self.firm = True
        self.pulled, self.shields = [], []
        self.seated, self.seated_out = 0, False
        self.spells = {"a": None, "b": None}
        self.spell_of(place)

    def spell_of(self, place: Place) -> None:
        """A spell of the side on top goes on, begins or ends with a position."""
        position, top = place
        if top is None:
            return
        goes_on = position in CONTROL and not (position == "turtle" and self.rules["repeat"] == "after_turtle")
        self.spells[top] = (self.spells[top] or {"paid": set(), "given": set()}) if goes_on else None

    def on_period(self, one: dict[str, Any]) -> None:
        if self.running or not self.begun or self.length is None or not self.rules["overtime"]:
            return
        if not self.periods and self.clock < self.length - 2000:
            return
        self.begin_again(STANDING)
        seconds = self.rules["overtime"].get("seconds")
        self.bell = None if seconds is None else self.clock + ms(seconds)
        self.periods += 1
        self.between = True

    def open(self) -> bool:
        return self.periods > 0 or self.clock >= self.opening

    def status(self, name: str) -> str:
        adult = self.division["age"] >= 18 and self.division["belt"] in ("blue", "purple", "brown", "black")
        if name == "single leg head outside":
            return "legal" if adult else "stop"
        return {"triangle": "legal", "slam": "illegal", UNKNOWN: "legal"}[name]

    def on_technique(self, one: dict[str, Any]) -> str:
        status, by = self.status(one["technique"]), one["by"]
        if status == "illegal":
            self.illegal[by] += 1
            if self.rules["illegal"] == "disqualify" or self.illegal[by] >= self.rules["illegal_disqualify_on"]:
                self.out([by])
        elif status == "stop":
            self.claims = [claim for claim in self.claims if claim["side"] != by]
        return status

    def on_submission(self, one: dict[str, Any]) -> None:
        status, by = self.on_technique(one), one["by"]
        if self.result:
            return
        until = ms(one.get("until", one["t"]))
        if until - self.now >= 1000 and (status == "legal" or self.rules["illegal_hold_blocks"]):
            self.shields.append((other(by), self.now, until))
            for claim in self.claims:
                if claim["side"] == other(by):
                    claim["held"] = 0
        if status == "legal" and one["threat"] == "close":
            self.close_seen[by] += 1
            if self.open():
                if until > self.now:
                    self.close.append((by, until))
                else:
                    self.give(by, "advantages", 1)

    def on_attempt(self, one: dict[str, Any]) -> None:
        legal = "technique" not in one or self.on_technique(one) == "legal"
        if self.result or one.get("outcome") != "near" or not legal or one["move"] not in MOVES:
            return
        if self.rules["points"][one["move"]] and self.open():
            self.give(one["by"], "advantages", 1)

    def on_foul(self, one: dict[str, Any]) -> None:
        by = ["a", "b"] if one["by"] == "both" else [one["by"]]
        if one.get("verbal"):
            return
        avoiding = one.get("avoiding") if one["foul"] == "fleeing" else None
        if one["foul"] == "severe" or avoiding == "submission":
            self.out(by)
            return
        if avoiding in ("takedown", "sweep"):
            up, kinds = other(by[0]), [avoiding, "double_pull_top" if avoiding == "takedown" else avoiding]
            self.claims = [claim for claim in self.claims if claim["side"] != up or claim["kind"] not in kinds]
            if self.rules["points"][avoiding]:
                self.give(up, "points", 2)
        self.penalty(by)

    def on_end(self, one: dict[str, Any]) -> None:
        if one["how"] == "time":
            self.lose(list(self.claims))
            self.end_closes(10**12)
            self.result = (None, "time")
        elif one["how"] == "submission" and one["technique"] == UNKNOWN:
            return  # no finish by a name that has a barred one in it
        elif one["how"] == "submission":
            legal = self.status(one["technique"]) == "legal"
            self.result = (one["by"], "submission") if legal else (other(one["by"]), "disqualification")
        else:
            self.result = (None if one["by"] == "both" else other(one["by"]), one["how"])

    def on_pull(self, one: dict[str, Any]) -> None:
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
        if self.open() and not one.get("attack") and self.rules["pull_cost"]:
            for side in by:
                self.give(side, "points", -self.rules["pull_cost"])

    def on_position(self, one: dict[str, Any]) -> None:
        place = (one["position"], one.get("top"))
        loose = place[0] == "scramble" or place == ("entangled", None)
        if not self.begun:
            self.place = place
            if not loose:
                self.solid = self.came_from = self.firm_place = place
                self.spells = {"a": None, "b": None}
                self.spell_of(place)
            return
        if not self.running:
            return
        self.look_at_top()
        if loose:
            for claim in self.claims:
                claim["loose"], claim["held"] = True, 0
            self.place, self.there = place, 0
            self.seated, self.seated_out = 0, False
        elif place == self.solid:
            self.back_again(place)
        else:
            self.to(place)

    def back_again(self, place: Place) -> None:
        """The same position and top: logged again, or after something was passed through."""
        if self.place != place:
            self.there = 0
            for claim in self.claims:
                claim["loose"], claim["held"] = False, 0
        self.place = self.came_from = place
        self.pulled = []

    def to(self, place: Place) -> None:
        top, before = place[1], self.solid
        origin, taken_back = self.came_from, False
        if not self.firm and top and before[1] == other(top):
            origin = self.firm_place
            taken_back = origin[1] == top
        gone = []
        for claim in list(self.claims):
            up = top == claim["side"] == before[1] and height(place[0]) > height(before[0])
            if claim["hook"] and claim["side"] == top and place[0] == "back":
                self.claims.remove(claim)
            elif self.holds(claim["kind"], claim["side"], place):
                if claim["loose"]:
                    claim["loose"], claim["held"] = False, 0
            elif up:
                self.claims.remove(claim)
            else:
                gone.append(claim)
        self.lose(gone)
        if top is None:
            self.spells = {"a": None, "b": None}
        self.spell_of(place)
        turned = origin == ("guard", top) and place == ("turtle", top) and not taken_back
        if turned and self.rules["turtle_escape"] == "advantage" and self.open():
            self.give(str(top), "advantages", 1)
        new = self.open_claims(place, top, origin, taken_back) if top else []
        if top is None or before[1] != top:
            self.firm = self.rules["regain"] == "sweep" or not any(kind in COMING_UP for kind in new)
            self.there = 0
            if not self.firm:
                self.firm_place = origin
        self.place = self.solid = self.came_from = place
        self.pulled = []
        self.seated, self.seated_out = 0, False
        self.look_at_top()

    @staticmethod
    def holds(kind: str, side: str, place: Place) -> bool:
        if place[1] != side:
            return False
        if kind in COMING_UP:
            return True
        return place[0] in PASSED | BACKS if kind == "guard_pass" else place[0] == kind

    def open_claims(self, place: Place, top: str, origin: Place, taken_back: bool) -> list[str]:
        position, points = place[0], self.rules["points"]
        clear = "_clear" if position in PASSED else ""
        new: list[tuple[str, str, int]] = []
        if position != "back" and not taken_back:
            if origin[0] == "standing":
                new.append(("takedown", "points", points["takedown" + clear]))
            elif origin[0] == "double_pull":
                pays = {
                    "advantage": ("advantages", 1 if self.rules["advantages"] else 0),
                    "takedown": ("points", points["takedown"]),
                }
                new.append(("double_pull_top", *pays.get(self.rules["double_pull_top"], ("points", 0))))
            elif origin[0] in GUARDS and origin[1] == other(top):
                new.append(("sweep", "points", points["sweep" + clear]))
            elif origin[1] == other(top):
                new.append(("reversal", "points", points["reversal"]))
        if origin[0] in GUARDS and origin[1] == top and position in PASSED and not taken_back:
            new.append(("guard_pass", "points", points["guard_pass"]))
        if position in OWN:
            spell = self.spells[top]
            if self.rules["repeat"] == "every_time" or spell is None or position not in spell["paid"]:
                new.append((position, "points", points[position]))
        opened = []
        for kind, tally, n in new:
            if not any(claim["kind"] == kind and claim["side"] == top for claim in self.claims):
                hook = position == "back_one_hook" and kind in ("sweep", "reversal")
                claim = {"kind": kind, "side": top, "tally": tally, "n": n, "held": 0, "loose": False, "hook": hook}
                self.claims.append({**claim, "early": not self.open()})
                opened.append(kind)
        return opened


AFTER_TIME = (
    "points", "advantages", "penalties", "first_score", "last_score", "submission_attempts", "decision", "draw",
    "undecided",
)  # fmt: skip
