"""Reads the review's sentences again and holds each fact in them against the log as it was written.

It knows the raw log and the published verdict on it (positions, clock, ledger, counts), and none of the review's code.
"""

from __future__ import annotations

import re
from itertools import combinations, pairwise
from typing import Any

from jurata_core.adjudication.sentences import CLAIMS, FOULS, PLACES
from jurata_core.match_log import read_log
from jurata_core.techniques import within_sentence

WHO = {"a": "the athlete", "b": "the opponent"}
CLOCK, SPAN = r"(\d+:\d\d)", r"([\d.]+) s"
ACTS = ("submission", "technique", "attempt")
UNITS = {"point": "points", "points": "points", "advantage": "advantages", "advantages": "advantages",
         "penalty": "penalties", "penalties": "penalties"}  # fmt: skip
COUNTS = ("held", "held_advantage", "lost", "near", "close_submission")


def ms(seconds: float) -> int:
    return round(seconds * 1000)


def minutes(millis: int) -> str:
    return f"{millis // 60_000}:{millis // 1000 % 60:02d}"


def span(millis: int) -> str:
    tenths = millis // 100
    return f"{tenths // 10}" if tenths % 10 == 0 else f"{tenths / 10}"


def passing(place: Any) -> bool:
    """Whether a place is only passed through on the way to the next one."""
    return place["position"] == "scramble" or (place["position"] == "entangled" and place["top"] is None)


def last_of_each_time(places: list[Any]) -> Any:
    """Of several places logged at one time the last."""
    return {t: (t, *place) for t, *place in places}.values()


class Untrue(AssertionError):
    pass


class Reader:
    """One match, from one side."""

    def __init__(self, raw: Any, verdict: Any, side: str) -> None:
        self.raw, self.verdict, self.side = raw, verdict, side
        self.other = "b" if side == "a" else "a"
        self.log = read_log(raw)
        self.places = [(ms(one["t"]), one["position"], one["top"]) for one in verdict["positions"] if not passing(one)]
        self.clocks = [(ms(one["t"]), ms(one["clock"]), one["running"], one["left"]) for one in verdict["clock"]]

    # What can be asked of the log and its verdict.

    def clock(self, t: int) -> int:
        entry = [one for one in self.clocks if one[0] <= t][-1:]
        return 0 if not entry else entry[0][1] + (t - entry[0][0] if entry[0][2] else 0)

    def left(self, t: int) -> int:
        at, _, running, left = [one for one in self.clocks if one[0] <= t][-1]
        if left is None:  # no length was agreed, and the end was logged as the end of time
            return self.clock(self.clocks[-1][0]) - self.clock(t)
        return max(0, ms(left) - (t - at if running else 0))

    def place(self, t: int) -> tuple[str, str | None]:
        found = [one for one in self.places if one[0] <= t]
        return (found[-1][1], found[-1][2]) if found else ("standing", None)

    def tops(self, start: int, end: int) -> set[str | None]:
        """Who was on top from ``start`` up to just before ``end``."""
        return {self.place(start)[1], *(top for t, _, top in self.places if start < t < end)}

    def guards(self, start: int, end: int) -> set[str]:
        """Guards, and legs tied up, that were there from ``start`` up to just before ``end``."""
        places = last_of_each_time(self.places)
        there = {self.place(start)[0], *(position for t, position, _ in places if start < t < end)}
        return there & {"guard", "entangled"}

    def seen(self, *kinds: str, by: str | None = None) -> list[Any]:
        return [one for one in self.raw["observations"] if one["kind"] in kinds and by in (None, one.get("by"))]

    def until(self, one: Any) -> int:
        return ms(one.get("until", one["t"]))

    def rows(self, name: str, t: int, to: str) -> list[Any]:
        return [row for row in self.verdict[name] if ms(row["t"]) == t and row["to"] == to]

    def lead(self, t: int, tally: str) -> int:
        """By how much the side led at ``t``; of penalties, by how many fewer it had."""
        own = {side: sum(row["n"] for row in self.verdict["ledger"]
                         if ms(row["t"]) <= t and row["to"] == side and row["kind"] == tally) for side in "ab"}  # fmt: skip
        lead = own[self.side] - own[self.other]
        return -lead if tally == "penalties" else lead

    def acted(self, start: int, end: int) -> bool:
        return any(start < ms(one["t"]) < end for one in self.seen(*ACTS, by=self.side))

    def is_true(self, fact: Any, what: str) -> None:
        if not fact:
            raise Untrue(what)

    def same(self, said: Any, found: Any, what: str) -> None:
        if said != found:
            raise Untrue(f"{what}: said {said!r}, found {found!r}")

    def technique(self, said: str, t: int, kind: str, by: str) -> Any:
        """The observation of a technique that a sentence names, at a time."""
        found = [
            one for one in self.seen(kind, by=by) if ms(one["t"]) == t and within_sentence(one["technique"]) == said
        ]
        self.is_true(found, f"{by} logged no {said} at {t}")
        return found[0]

    # Errors.

    def read(self, error: Any) -> None:
        """Raises Untrue where a sentence of an error says what the log does not."""
        self.since, self.t = error.found.since, error.found.t
        getattr(self, f"read_{error.kind}")(error.because)
        known = self.numbers(error.because) | self.numbers(error.said_cost) | {minutes(self.clock(self.since))}
        known.add(minutes(self.clock(self.t)))
        for text in (error.title, error.young.because):
            self.is_true(self.numbers(text) <= known, f"{text!r} has another number than {error.because!r}")

    def numbers(self, text: str) -> set[str]:
        return set(re.findall(r"\d+:\d\d|\d+(?:\.\d+)?", text))

    def parts(self, pattern: str, said: str) -> tuple[Any, ...]:
        other = WHO[self.other]
        pattern = pattern.replace("OTHER", other.capitalize()).replace("other", other)
        found = re.fullmatch(pattern.replace("CLOCK", CLOCK).replace("SPAN", SPAN), said)
        if found is None:
            raise Untrue(f"{said!r} is not {pattern!r}")
        return found.groups()

    def read_submitted(self, said: str) -> None:
        technique, clock, place = self.parts(r"OTHER finished it with (.+) at CLOCK, from (.+)\.", said)
        (end,) = [one for one in self.seen("end", by=self.other) if ms(one["t"]) == self.t]
        self.same(technique, within_sentence(end.get("technique") or "a submission"), "technique")
        self.same(clock, minutes(self.clock(self.t)), "clock")
        self.same(place, PLACES[self.place(self.t)[0]], "place")
        self.same(self.verdict["result"], {"winner": self.other, "method": "submission"}, "result")

    def read_leg_swept(self, said: str) -> None:
        technique, place, clock, came, cost = self.parts(
            r"Went for (.+) from (.+) at CLOCK, and other came up at CLOCK for (.+)\.", said
        )
        self.technique(technique, self.since, "submission", self.side)
        self.same(place, PLACES[self.place(self.since - 1)[0]], "place")
        self.same(clock, minutes(self.clock(self.since)), "clock")
        row = next(
            row for row in self.rows("ledger", self.t, self.other) if row["kind"] in cost or row["kind"][:-1] in cost
        )
        self.same(cost.split()[0], str(row["n"]), "cost")
        began = [
            ms(one["since"]) for one in self.verdict["counts"] if one["to"] == self.other and ms(one["ended"]) == self.t
        ]
        near = [ms(one["t"]) for one in self.seen("attempt", by=self.other)]
        self.is_true(came in {minutes(self.clock(t)) for t in (*began, *near)}, f"nothing came at {came}")

    def read_chased(self, said: str) -> None:
        technique, held, claim, needed = self.parts(
            r"The (.+) began SPAN into the (.+); it takes SPAN to score, and the position was lost\.", said
        )
        rows = self.rows("missed", self.t, self.side)
        claimed = [row for row in rows if CLAIMS[row["claim"]] == claim and span(ms(row["needed"])) == needed]
        self.is_true(claimed, f"no {claim} was missed")
        self.is_true(any(
            within_sentence(one["technique"]) == technique and span(ms(one["t"]) - ms(row["since"])) == held
            for one in self.seen("submission", by=self.side) for row in rows
        ), said)  # fmt: skip

    def read_too_late(self, said: str) -> None:
        left, needed = self.parts(r"Got there with SPAN left; SPAN are needed\.", said)
        rows = self.rows("missed", self.t, self.side)
        self.is_true(any(
            span(self.left(ms(row["since"]))) == left and span(ms(row["needed"])) == needed
            and self.left(ms(row["since"])) < ms(row["needed"]) for row in rows
        ), said)  # fmt: skip

    def read_shielded(self, said: str) -> None:
        (ending,) = self.parts(r"The count never started: other had a submission on, then (.+)\.", said)
        for row in self.rows("missed", self.t, self.side):
            on = [one for one in self.seen("submission", by=self.other)
                  if ms(one["t"]) <= self.t and self.until(one) >= ms(row["since"])]  # fmt: skip
            self.is_true(on, "no submission was on")
            self.same(row["held"], 0, "held")
        self.ended_by(ending)

    def read_unheld(self, said: str) -> None:
        held, needed, ending = self.parts(r"Held for SPAN of SPAN, then (.+)\.", said)
        rows = self.rows("missed", self.t, self.side)
        self.is_true(held in {span(ms(row["held"])) for row in rows}, f"not held {held}")
        self.is_true(needed in {span(ms(row["needed"])) for row in rows}, f"not needed {needed}")
        self.ended_by(ending)

    def ended_by(self, ending: str) -> None:
        if ending in ("a restart", "overtime", "time ran out"):
            events = self.seen("clock", "period", "end", "begin")
            at = any(ms(one["t"]) == self.t for one in events) or any(one[0] == self.t for one in self.clocks)
            self.is_true(at or ending == "time ran out", f"no {ending} at {self.t}")
        else:
            self.same(ending, PLACES[self.place(self.t)[0]], "what came then")

    def read_risk_ahead(self, said: str) -> None:
        n, unit, left, technique, cost = self.parts(
            r"Ahead by (\d+) (\w+) with SPAN left, and (?:went for (.+) and )?lost the top(?:; from there other got (.+))?\.",
            said,
        )
        self.same(int(n), self.lead(self.t - 1, UNITS[unit]), "lead")
        if self.raw.get("duration"):
            self.same(left, span(self.left(self.t)), "left")
        self.same((self.place(self.t - 1)[1], self.place(self.t)[1]), (self.side, self.other), "who was on top")
        if technique:
            tried = [one for one in self.seen("submission", by=self.side) if self.t - 10_000 <= ms(one["t"]) <= self.t]
            self.is_true(technique in {within_sentence(one["technique"]) for one in tried}, f"no {technique}")
        for amount, tally in re.findall(r"(\d+) (points?|advantages?)", cost or ""):
            gained = sum(row["n"] for row in self.verdict["ledger"]
                         if ms(row["t"]) >= self.t and row["to"] == self.other and row["kind"] == UNITS[tally]
                         and row["reason"] in COUNTS)  # fmt: skip
            self.is_true(int(amount) <= gained, f"only {gained} {tally} followed")

    def read_given(self, said: str) -> None:
        cost, after, attempt = self.parts(r"OTHER got (.+) SPAN after it failed: (.+)\.", said)
        rows = [row for row in self.rows("ledger", self.t, self.other) if row["reason"] in COUNTS]
        amounts = [[row["n"] for row in rows if row["kind"] == kind] for kind in ("points", "advantages")]
        together = {
            str(sum(some)) for all_of in amounts for n in range(len(all_of)) for some in combinations(all_of, n + 1)
        }
        self.is_true(cost.split()[0] in together, f"not {cost}: {rows}")
        self.is_true(float(after) <= 8, "long after")
        if found := re.fullmatch(rf"(.+) at {CLOCK}, not held", attempt):
            missed = [one for one in self.verdict["missed"] if one["to"] == self.side]
            self.is_true(
                any(found[1] == f"the {CLAIMS[one['claim']]}" and self.at(one["since"]) == found[2] for one in missed),
                attempt,
            )
        elif found := re.fullmatch(rf"a (.+) that nearly worked at {CLOCK}", attempt):
            near = [one for one in self.seen("attempt", by=self.side) if one.get("outcome") == "near"]
            self.is_true(
                any(CLAIMS[one["move"]] == found[1] and self.at(one["t"]) == found[2] for one in near), attempt
            )
        elif found := re.fullmatch(rf"a pull that was caught at {CLOCK}", attempt):
            self.is_true(any(one.get("caught") and self.at(one["t"]) == found[1] for one in self.seen("pull")), attempt)
        else:
            name, clock = re.fullmatch(rf"(.+) at {CLOCK}", attempt).groups()  # type: ignore[union-attr]
            tried = self.seen("submission", "technique", by=self.side)
            self.is_true(any(one["technique"] == name and self.at(one["t"]) == clock for one in tried), attempt)

    def at(self, seconds: float) -> str:
        return minutes(self.clock(ms(seconds)))

    def read_taken(self, said: str) -> None:
        rest = said
        for row in self.rows("ledger", self.t, self.other):
            rest = rest.replace(row["because"], "", 1)
        self.same(rest.strip(), "", "what no row says")

    def read_retaken(self, said: str) -> None:
        self.is_true(said in [row["because"] for row in self.rows("unpaid", self.t, self.side)], said)

    def read_penalty(self, said: str) -> None:
        rest = said
        for row in self.rows("ledger", self.t, self.side) + self.rows("ledger", self.t, self.other):
            rest = rest.replace(row["because"], "", 1)
        self.same(rest.strip(), "", "what no row says")
        self.is_true(any(foul in said.lower() for foul in FOULS.values()), said)

    def read_paid_pull(self, said: str) -> None:
        self.is_true(
            any(row["because"] == said and row["n"] < 0 for row in self.rows("ledger", self.t, self.side)), said
        )

    def read_illegal(self, said: str) -> None:
        rows = [row for row in self.verdict["illegal"] if ms(row["t"]) == self.t and row["by"] == self.side]
        self.is_true(said in [row["because"] for row in rows], said)

    def read_worth_zero(self, said: str) -> None:
        clock, title = self.parts(
            r"OTHER got there at CLOCK\. It scores nothing under (.+), but it is a step towards a finish under any rules\.",
            said,
        )
        self.same(clock, minutes(self.clock(self.t)), "clock")
        self.same(title, self.log.ruleset.title, "ruleset")
        self.is_true(self.rows("unpaid", self.t, self.other), "nothing was got")
        counts = [one for one in self.verdict["counts"] if ms(one["since"]) == self.t and one["to"] == self.other]
        self.same([one for one in counts if one["outcome"] == "paid" and one["worth"] != "nothing"], [], "scored")

    def read_control_lost(self, said: str) -> None:
        before, after, clock, when, technique = self.parts(
            r"Went from (.+) to (.+?) at CLOCK(?:, (while|just after) going for the (.+))?\. "
            r"No one scored for it, but the control is gone\.",
            said,
        )
        self.same(before, PLACES[self.place(self.t - 1)[0]], "before")
        position, top = self.place(self.t)
        self.same(after, PLACES[position] + (" from below" if top == self.other else ""), "after")
        self.same(clock, minutes(self.clock(self.t)), "clock")
        scored = [one for one in self.verdict["counts"] if ms(one["since"]) == self.t and one["to"] == self.other]
        self.same([one for one in scored if one["outcome"] == "paid" and one["worth"] != "nothing"], [], "scored")
        if technique:
            tried = [one for one in self.seen("submission", by=self.side) if ms(one["t"]) <= self.t <= self.until(one) + 5000
                     and within_sentence(one["technique"]) == technique]  # fmt: skip
            self.is_true(any((self.until(one) >= self.t) == (when == "while") for one in tried), said)

    def read_attempt_failed(self, said: str) -> None:
        first, last, move, times = self.parts(
            r"From CLOCK to CLOCK the same (.+) was tried (\d+) times, and it led nowhere\.", said
        )
        tried = [one for one in self.seen("attempt", by=self.side)
                 if self.since <= ms(one["t"]) <= self.t and one.get("outcome", "failed") == "failed"
                 and CLAIMS[one["move"]] == move and one.get("technique")]  # fmt: skip
        self.same(int(times), len(tried), "times")
        self.same((first, last), (self.at(tried[0]["t"]), self.at(tried[-1]["t"])), "from and to")
        came_up = [t for (_, _, before), (t, _, top) in pairwise(last_of_each_time(self.places))
                   if top == self.side and before != self.side]  # fmt: skip
        self.is_true(not any(self.since < t <= self.t for t in came_up), "it led somewhere")

    def read_stuck(self, said: str) -> None:
        clock, lasted = self.parts(r"From CLOCK on, SPAN under other without an escape attempt\.", said)
        self.stretch(clock, lasted, self.other)
        self.is_true(
            not [one for one in self.seen("grip", by=self.side) if self.since < ms(one["t"]) < self.t], "a grip"
        )

    def read_dragged_out(self, said: str) -> None:
        clock, lasted, n, unit = self.parts(
            r"From CLOCK on, SPAN on top without an attempt while behind by (\d+) (\w+)\.", said
        )
        self.stretch(clock, lasted, self.side)
        self.same(-int(n), self.lead(self.since, UNITS[unit]), "lead")

    def stretch(self, clock: str, lasted: str, top: str) -> None:
        self.same(clock, minutes(self.clock(self.since)), "clock")
        self.same(lasted, span(self.clock(self.t) - self.clock(self.since)), "lasted")
        self.same(self.tops(self.since, self.t), {top}, "who was on top")
        self.is_true(not self.acted(self.since, self.t), "something was tried")

    def read_no_attempt(self, said: str) -> None:
        n, unit, left = self.parts(r"Behind by (\d+) (\w+) with SPAN left, and no attempt in that time\.", said)
        self.same(-int(n), self.lead(self.since, UNITS[unit]), "lead")
        self.same(left, span(self.clock(self.t) - self.clock(self.since)), "left")
        self.is_true(not self.acted(self.since, self.t), "something was tried")

    def read_chance_missed(self, said: str) -> None:
        technique, clock, within = self.parts(
            r"The (.+) of other was off at CLOCK, and for SPAN neither side did anything\.", said
        )
        holds = [one for one in self.seen("submission", by=self.other)
                 if self.until(one) == self.since and within_sentence(one["technique"]) == technique]  # fmt: skip
        self.is_true(holds, f"no {technique} was let go")
        self.same(
            (clock, ms(float(within))),
            (minutes(self.clock(self.since)), self.clock(self.t) - self.clock(self.since)),
            "time",
        )
        acts = [one for one in self.seen(*ACTS) if self.since < ms(one["t"]) < self.t]
        self.same(acts, [], "what was done")
        self.same(len(self.tops(self.since, self.t)), 1, "tops")

    def read_grip_unbroken(self, said: str) -> None:
        grip, clock, lasted = self.parts(
            r"OTHER had the (.+) from CLOCK for SPAN, and it was not broken in that time\.", said
        )
        grips = [
            one for one in self.seen("grip", by=self.other) if ms(one["t"]) == self.since and not one.get("broken")
        ]
        self.is_true(
            any(grip.removesuffix(" grip") == one["grip"].removesuffix(" grip") for one in grips), f"no {grip}"
        )
        self.same(clock, minutes(self.clock(self.since)), "clock")
        self.same(lasted, span(self.clock(self.t) - self.clock(self.since)), "lasted")
        self.is_true(any(self.until(one) >= self.t for one in grips), "let go before")

    def read_technical(self, said: str) -> None:
        clock, place, cause = self.parts(r"Marked by the coach at CLOCK, in ([^:.]+)(?:: ([^.]+))?\.", said)
        marks = [one for one in self.seen("mark") if ms(one["t"]) == self.since and one["on"] == self.side]
        self.is_true(any(not one.get("good") and cause in (None, one.get("cause")) for one in marks), said)
        self.same(clock, minutes(self.clock(self.since)), "clock")
        self.same(place, PLACES[self.place(self.since)[0]], "place")

    read_out_of_plan = read_technical
