"""Reads the sentences that say what brought an error about, and where it came from, against the log as it was written."""

from __future__ import annotations

import re
from collections.abc import Callable
from itertools import pairwise
from typing import Any

from jurata_core.adjudication.sentences import CLAIMS, PLACES
from jurata_core.techniques import within_sentence
from jurata_core.vocabulary import vocabulary

from .sentence_reader import CLOCK, WHO, Reader, last_of_each_time, ms


class CauseReader(Reader):
    """The reader of one side's errors, for causes and links too."""

    def read_cause(self, said: str, later: Any) -> None:
        """Raises Untrue where a sentence names something that the log does not have, or not before the error."""
        rest, self.latest = said, later.found.t
        while rest:
            for pattern, check in self._sentences().items():
                if found := re.match(pattern.replace("CLOCK", CLOCK), rest):
                    self.is_true(check(*found.groups()), found[0])
                    rest = rest[found.end() :].lstrip()
                    break
            else:
                self.is_true(False, f"no such sentence: {rest}")

    def _sentences(self) -> dict[str, Callable[..., bool]]:
        own, other = WHO[self.side].capitalize(), WHO[self.other].capitalize()
        return {
            rf"{own}'s own (.+?) at CLOCK (failed|very nearly worked) before that\.": self._own_try,
            rf"{own}'s own (.+?) of CLOCK (was on|had just failed)\.": self._own_hold,
            r"The coach had marked it at CLOCK: (“.*?”|[^.“]+)\.": self._mark,
            r"The coach had marked it at CLOCK\.": lambda clock: bool(self._at("mark", clock)),
            rf"It came out of {other.lower()}'s (.+?) of CLOCK\.": self._hold,
            rf"{other} had (the (?:knee|heel)(?: and the heel)?) since CLOCK\.": self._legs,
            rf"{other} had the same hold at CLOCK already\.": lambda clock: bool(
                self._at("submission", clock, self.other)
            ),
            rf"{other} had tried it (\d+) times by then, the last time at CLOCK\.": self._tried,
            rf"{other} had won (.+?) at CLOCK\.": self._contest,
            rf"{own} had lost (.+?) at CLOCK\.": self._own_grip,
            rf"{other} had (.+?) from CLOCK\.": self._grip,
            r"The referee had warned at CLOCK already\.": lambda clock: self._foul(clock, True),
            r"There had been a penalty at CLOCK already\.": lambda clock: self._foul(clock, False),
        }

    def _at(self, kind: str, clock: str, by: str | None = None, end: bool = False) -> list[Any]:
        """What of a kind was logged at a moment of the match clock, not after the error was decided."""
        return [
            one for one in self.seen(kind, by=by)
            if self.at(self.until(one) / 1000 if end else one["t"]) == clock and ms(one["t"]) <= self.latest + 2000
        ]  # fmt: skip

    def _own_try(self, move: str, clock: str, how: str) -> bool:
        wanted = "near" if how.startswith("very") else "failed"
        tries = self._at("attempt", clock, self.side)
        return any(CLAIMS[one["move"]] == move and one.get("outcome", "failed") == wanted for one in tries)

    def _own_hold(self, name: str, clock: str, when: str) -> bool:
        return any(within_sentence(one["technique"]) == name for one in self._at("submission", clock, self.side))

    def _hold(self, name: str, clock: str) -> bool:
        return any(within_sentence(one["technique"]) == name for one in self._at("submission", clock, self.other))

    def _mark(self, clock: str, words: str) -> bool:
        said = words.strip("“”")
        marks = [one for one in self._at("mark", clock) if one["on"] == self.side and not one.get("good")]
        return any(said in ((one.get("text") or "").strip(), one.get("cause") or "something wrong") or said in
                   (one.get("text") or "") for one in marks)  # fmt: skip

    def _grip(self, words: str, clock: str) -> bool:
        return any(one["grip"] in words or words == "a grip" for one in self._at("grip", clock, self.other))

    def _own_grip(self, words: str, clock: str) -> bool:
        ended = [one for one in self.seen("grip", by=self.side) if one["grip"] in words or words == "a grip"]
        starts = [one for one in self.seen("clock") if one["action"] == "start"]
        ends = {self.at(self.until(one) / 1000) for one in ended} | {self.at(one["t"]) for one in starts}
        return bool(ended) and clock in ends

    def _contest(self, aim: str, clock: str) -> bool:
        lost = [one for one in self._at("contest", clock, end=True) if one.get("won") == self.other]
        return any(vocabulary()["contests"][one["for"]] == aim for one in lost)

    def _legs(self, what: str, clock: str) -> bool:
        there = {"knee": "caught", "heel": "exposed"}
        rows = self._at("legs", clock, self.other)
        return any(all(one.get(name) == state for name, state in there.items() if name in what) for one in rows)

    def _tried(self, times: str, clock: str) -> bool:
        tries = [one for one in self.seen("attempt", by=self.other) if ms(one["t"]) <= self.latest]
        last = self._at("attempt", clock, self.other)
        return any(sum(one["move"] == each["move"] for one in tries) >= int(times) for each in last)

    def _foul(self, clock: str, verbal: bool) -> bool:
        fouls = [one for one in self._at("foul", clock) if one["by"] in (self.side, "both")]
        return any(bool(one.get("verbal")) == verbal for one in fouls)

    # Links.

    def held_since(self, began: int, places: list[Any]) -> int:
        """Since when the place just before ``began`` had been held."""
        since = 0
        for (_, *before), (t, *after) in pairwise([(-1, "standing", None), *places]):
            if t < began and before != after:
                since = t
        return since

    def read_link(self, said: str, earlier: Any, later: Any) -> None:
        """Raises Untrue where the reason for a link says what the log does not, or where a stop lies between."""
        before, after = earlier.found, later.found
        at, other = after.happened, WHO[self.other].capitalize()
        if said in (
            "Nothing was done in that time; the penalty was for it.",
            "Nothing had been tried for some time already.",
        ):
            self.is_true(before.since < after.t and earlier.kind in ("stuck", "dragged_out", "no_attempt"), said)
        elif said == f"It came under that grip of {WHO[self.other]}.":
            grips = [one for one in self.seen("grip", by=self.other) if ms(one["t"]) == before.since]
            self.is_true(any(self.until(one) >= min(after.since, at) - 3_000 for one in grips), said)
            self.is_true(before.since < after.t, "the grip came later")
            return
        elif said == "It is the same moment.":
            self.same(before.happened, at, "moment")
        elif found := re.fullmatch(r"It led to (.+); this began from there\.", said):
            self.same(found[1], PLACES[self.place(at - 1)[0]], "place")
            held = (self.held_since(at, places) for places in (self.places, [*last_of_each_time(self.places)]))
            self.is_true(any(before.since <= t <= before.t + 2000 for t in held), "it led to another place")
        elif found := re.fullmatch(rf"{other} had been (on top|past the guard) ever since {CLOCK}\.", said):
            under = [t for t, _, top in self.places if top == self.other and self.at(t / 1000) == found[2] and t < at]
            stayed = [t for t in under if self.tops(t, at) == {self.other}]
            if found[1] == "past the guard":
                stayed = [t for t in stayed if not self.guards(t, at)]
            self.is_true(stayed, said)
        else:
            self.read_cause(said, later)
            return
        self.is_true(before.since <= at, "the earlier began later")
