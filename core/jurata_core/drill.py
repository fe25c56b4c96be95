"""The drill: questions on the rules made from the data, each answered by the core itself.

An item is made from its key and a seed: the same two always give the same item.
A key names what is practised (a technique's legality, a claim and what happens to it),
so that what was answered wrong comes back with other numbers.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from typing import Any, Literal

from .adjudication import adjudicate
from .adjudication.sentences import CLAIMS, PLACES, WHO
from .divisions import Division, match_length
from .match_log import FORMAT, MatchLog, read_log
from .rulebook import entry, follows
from .rulesets import Ruleset
from .techniques import catalogue, find
from .times import minutes, to_seconds

Topic = Literal["legality", "pays", "why"]
TOPICS: tuple[Topic, ...] = ("legality", "pays", "why")
ATTACK = "triangle"
"""A submission that every division allows, so that it shields."""
USUAL_SECONDS = 300
_Seen = dict[str, Any]

_LAST = {
    "takedown": ("guard", "standing"),
    "sweep": ("guard", "standing"),
    "guard_pass": ("side", "guard"),
    "knee_on_belly": ("knee_on_belly", "guard"),
    "mount": ("mount", "guard"),
    "back": ("back", "turtle"),
}
"""For each claim the position that opens it, and the one in which it ends."""
_TWISTS = {
    "held": "",
    "short": "It was not held long enough.",
    "shielded": "The opponent had a submission on, so the count was on hold.",
    "stopped": "The clock was stopped in between, so the count started again.",
}
_NEVER = "It had already scored in the same sequence of control."


@dataclass(frozen=True, slots=True)
class Item:
    """A question with its options, of which one is right, and why."""

    key: str
    seed: int
    topic: Topic
    question: str
    lines: tuple[str, ...]
    """What happened, line by line; empty for a question that needs none."""
    options: tuple[str, ...]
    right: int
    because: str

    def asked(self) -> dict[str, Any]:
        """The item as it is asked: without its answer."""
        return {
            "key": self.key,
            "seed": self.seed,
            "topic": self.topic,
            "question": self.question,
            "lines": list(self.lines),
            "options": list(self.options),
        }


def keys(ruleset: Ruleset) -> dict[Topic, list[str]]:
    """All that can be practised under a ruleset, by topic."""
    claims = [claim for claim in _LAST if ruleset.points[claim]]
    return {
        "legality": [f"legality/{name}" for name in _doubtful(ruleset)],
        "pays": [f"pays/{claim}/{twist}" for claim in claims for twist in _TWISTS],
        "why": [f"why/{claim}/{twist}" for claim in claims for twist in _TWISTS if twist != "held"],
    }


def _doubtful(ruleset: Ruleset) -> list[str]:
    """Techniques of the families in which something is barred somewhere: of throws nobody needs to be asked."""
    barred = {known.id for name in ruleset.barred if (known := find(name))}
    families = {one.family for one in catalogue().values() if one.legal_from != "always" or one.id in barred}
    return [one.id for one in catalogue().values() if one.family in families]


def make(key: str, seed: int, division: Division, ruleset: Ruleset) -> Item:
    """The item of a key and a seed. Raises KeyError for a key that this ruleset does not have."""
    topic = next((topic for topic, known in keys(ruleset).items() if key in known), None)
    if topic is None:
        raise KeyError(key)
    rng = random.Random(f"{key} {seed}")
    if topic == "legality":
        return _legality(key, seed, division, ruleset, rng)
    _, claim, twist = key.split("/")
    return _sequence(topic, key, seed, (claim, twist), division, ruleset, rng)


def _legality(key: str, seed: int, division: Division, ruleset: Ruleset, rng: random.Random) -> Item:
    technique = catalogue()[key.removeprefix("legality/")]
    found = entry(technique, division, ruleset)
    name = rng.choice([technique.name, *technique.aliases])
    options = {status: follows(status, ruleset) for status in ("legal", "stop", "illegal")}
    return Item(
        key=key,
        seed=seed,
        topic="legality",
        question=f"{name[:1].upper()}{name[1:]}: {division}, {ruleset.title}. What does the referee do?",
        lines=(technique.about,),
        options=tuple(options.values()),
        right=list(options).index(found.status),
        because=" ".join(one for one in (found.because, *found.neighbours, found.argued) if one),
    )


def _sequence(
    topic: Topic, key: str, seed: int, what: tuple[str, str], division: Division, ruleset: Ruleset, rng: random.Random
) -> Item:
    claim, twist = what
    side = rng.choice("ab")
    seen = _observations(claim, twist, side, division, ruleset, rng)
    verdict = adjudicate(_log(seen, division, ruleset))
    lines = tuple(_line(one) for one in seen)
    reached = [(row.t, row.because) for row in verdict.ledger]
    reached += [(row.t, row.because) for row in verdict.missed]
    because = " ".join(said for _, said in sorted(reached)) or "No scoring position was reached."
    if topic == "why":
        options = [*(said for said in _TWISTS.values() if said), _NEVER]
        rng.shuffle(options)
        question = f"Why does the {CLAIMS[claim]} at the end not score?"
        return Item(key, seed, topic, question, lines, tuple(options), options.index(_TWISTS[twist]), because)
    right = _Sheet.of(verdict.score)
    wrong = list(dict.fromkeys(sheet for sheet in right.mistaken(ruleset, claim, side) if sheet != right))
    sheets = [right, *rng.sample(wrong, min(3, len(wrong)))]
    rng.shuffle(sheets)
    options = [sheet.said(ruleset) for sheet in sheets]
    return Item(key, seed, topic, "What is the score now?", lines, tuple(options), sheets.index(right), because)


@dataclass(frozen=True, slots=True)
class _Sheet:
    points: tuple[int, int]
    advantages: tuple[int, int]

    @classmethod
    def of(cls, score: Any) -> _Sheet:
        return cls((score["a"]["points"], score["b"]["points"]), (score["a"]["advantages"], score["b"]["advantages"]))

    def mistaken(self, ruleset: Ruleset, claim: str, side: str) -> list[_Sheet]:
        """What a scorer would write who overlooked one thing."""
        worth, at = ruleset.points[claim], "ab".index(side)
        found = [_Sheet(self.points[::-1], self.advantages[::-1])]
        for n in (worth, -worth, 1):
            points = _with(self.points, at, n)
            if min(points) >= 0:
                found.append(_Sheet(points, self.advantages))
        if ruleset.advantages:
            found += [_Sheet(self.points, _with(self.advantages, place, 1)) for place in (0, 1)]
            if self.advantages[at]:
                found.append(_Sheet(_with(self.points, at, worth), _with(self.advantages, at, -1)))
        else:
            found.append(_Sheet(_with(self.points, 1 - at, worth), self.advantages))
        return found

    def said(self, ruleset: Ruleset) -> str:
        points = f"{self.points[0]} to {self.points[1]} on points"
        return f"{points}, {self.advantages[0]} to {self.advantages[1]} on advantages" if ruleset.advantages else points


def _with(pair: tuple[int, int], at: int, more: int) -> tuple[int, int]:
    return (pair[0] + more, pair[1]) if at == 0 else (pair[0], pair[1] + more)


def _observations(
    claim: str, twist: str, side: str, division: Division, ruleset: Ruleset, rng: random.Random
) -> list[_Seen]:
    """A sequence that a match could bring: how it got there, the claim, what happens to it, and its end."""
    other = "b" if side == "a" else "a"
    hold = to_seconds(ruleset.holds[claim])
    t = to_seconds(ruleset.opening(_length(division))) + rng.randrange(5, 20)
    seen: list[_Seen] = [{"t": 0, "kind": "clock", "action": "start"}]

    def reach(position: str, top: str | None = None) -> None:
        seen.append({"t": round(t, 1), "kind": "position", "position": position, **({"top": top} if top else {})})

    if claim != "takedown":
        below = side if claim == "sweep" else other
        seen.append({"t": round(t, 1), "kind": "pull", "by": below})
        reach("guard", other if claim == "sweep" else side)
        t += rng.randrange(4, 12)
    if claim in ("knee_on_belly", "mount"):
        reach("side", side)
        t += hold + rng.randrange(1, 6)
    if claim == "back":
        reach("turtle", side)
        t += rng.randrange(4, 8)
    position, after = _LAST[claim]
    reach(position, side)
    start = t
    if twist == "held":
        t += hold + rng.choice((0, 0.4, 2, 5))
    elif twist == "short":
        t += max(0.1, hold - rng.choice((0.1, 0.2, 0.5, 1)))
    elif twist == "shielded":
        t += hold + rng.choice((1, 2, 4))
        begun = start + min(0.5, hold / 2)
        seen.append(
            {
                "t": round(begun, 1),
                "kind": "submission",
                "by": other,
                "technique": ATTACK,
                "threat": "attempt",
                "until": round(t, 1),
            }
        )
    else:
        stop = start + max(0.1, hold - rng.choice((0.2, 0.5, 1)))
        again = stop + rng.randrange(3, 9)
        t = again + max(0.1, hold - rng.choice((0.2, 0.5, 1)))
        seen.append({"t": round(stop, 1), "kind": "clock", "action": "stop"})
        seen.append({"t": round(again, 1), "kind": "clock", "action": "start", "restart": "same"})
    reach(after, None if after == "standing" else side)
    return seen


def _length(division: Division) -> int:
    return match_length(division) or USUAL_SECONDS * 1000


def _log(seen: list[_Seen], division: Division, ruleset: Ruleset) -> MatchLog:
    head = {"format": FORMAT, "ruleset": "full-points", "duration": to_seconds(_length(division))}
    raw = {**head, "division": {"age": division.age, "belt": division.belt, "attire": division.attire}}
    found = read_log({**raw, "observations": seen})
    return MatchLog(ruleset, found.duration, division, found.observations, found.raw)


def _line(seen: _Seen) -> str:
    """A line of the sequence, with the time of the footage."""
    at = _at(seen["t"])
    match seen["kind"]:
        case "clock":
            if seen["action"] == "stop":
                return f"{at}  The referee stops the clock."
            return f"{at}  The clock starts{', in the same position' if 'restart' in seen else ''}."
        case "pull":
            return f"{at}  {_upper(WHO[seen['by']])} pulls guard."
        case "submission":
            return f"{at}  {_upper(WHO[seen['by']])} has a {seen['technique']} on until {_at(seen['until'])}."
        case _:
            if "top" not in seen:
                return f"{at}  Both are standing."
            return f"{at}  {_upper(PLACES[seen['position']])}, {WHO[seen['top']]} on top."


def _at(seconds: float) -> str:
    return f"{minutes(round(seconds * 1000))}.{round(seconds * 10) % 10}"


def _upper(text: str) -> str:
    return text[:1].upper() + text[1:]
