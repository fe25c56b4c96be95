"""The rules of one division, explained for a coach before the match; every answer of it comes from :mod:`legality`."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from itertools import groupby
from typing import Any, Literal

from .adjudication.at_once import rules_of
from .adjudication.sentences import RUNGS, ordinal
from .divisions import BELTS, OLDEST, RANK, Division, age_class, allowed_belts, doubts, match_length
from .legality import Status, legality
from .rulesets import Ruleset
from .techniques import Technique, catalogue, lineage, within_sentence
from .times import Millis, minutes

Attire = Literal["gi", "nogi"]
EDGES = (4, 13, 16, 18)
"""The ages at which the legality table changes; a ruleset may add one of its own."""
DEFERENCE = (
    "The event's own rulebook, its referees and its licensed medical staff decide. If anything here differs from the "
    "event's rules, ask before the event."
)
FALLS = "Takedowns and throws"
FALLING = (
    "Practise the fall first, on mats and with a partner who is ready for it. Let go before either of you lands badly. "
    "Both stop when the referee says stop."
)
"""What goes for techniques on the feet: nobody is caught in them who could tap."""
DANGER = "If you are caught, tap at once. If you apply it, let go at the tap. Both stop when the referee says stop."


@dataclass(frozen=True, slots=True)
class Entry:
    """One technique in one division. ``argued``: what does not change it, however often it is argued."""

    technique: Technique
    status: Status
    because: str
    follows: str
    argued: str
    neighbours: tuple[str, ...]
    """What would make a technique of it that is not legal."""

    def as_json(self) -> dict[str, Any]:
        found = self.technique
        return {
            "id": found.id,
            "name": found.name,
            "family": found.family,
            "aliases": list(found.aliases),
            "meant_by": list(found.meant_by),
            "status": self.status,
            "because": self.because,
            "follows": self.follows,
            "argued": self.argued,
            "neighbours": list(self.neighbours),
            "varies": _nearest(found, "varies"),
            "about": found.about,
            "danger": FALLING if found.family == FALLS else DANGER,
            "injures": _nearest(found, "injures"),
            "caution": _nearest(found, "caution"),
        }


def _nearest(technique: Technique, what: str) -> str | None:
    """What is said of a technique, or else of what it is a variant of."""
    return next((said for step in lineage(technique) if (said := getattr(step, what))), None)


@dataclass(frozen=True, slots=True)
class Rule:
    """One thing a division is scored by."""

    topic: str
    text: str


@dataclass(frozen=True, slots=True)
class Ahead:
    """What changes with another age or belt: ids of techniques that change, and the length of the match."""

    division: Division
    when: str
    opened: tuple[str, ...]
    closed: tuple[str, ...]
    length: Millis | None
    length_before: Millis | None

    @property
    def changes(self) -> bool:
        return bool(self.opened or self.closed or self.length != self.length_before)

    def as_json(self) -> dict[str, Any]:
        names = catalogue()
        longer = f"Matches last {_length(self.length)} instead of {_length(self.length_before)}."
        return {
            "when": self.when,
            "age": self.division.age,
            "belt": self.division.belt,
            "opened": [names[one].name for one in self.opened],
            "closed": [names[one].name for one in self.closed],
            "length": longer if self.length != self.length_before else None,
            "doubts": list(doubts(self.division)),
            "same": not self.changes,
        }


@dataclass(frozen=True, slots=True)
class Band:
    """Ages ``youngest`` to ``oldest`` that the map of a technique treats alike; None: no upper end."""

    youngest: int
    oldest: int | None
    statuses: dict[str, Status]
    """By belt; a belt that is not worn at these ages is left out."""

    def as_json(self) -> dict[str, Any]:
        return {"from": self.youngest, "to": self.oldest, "statuses": self.statuses}


def entry(technique: Technique, division: Division, ruleset: Ruleset) -> Entry:
    """What a technique is in a division, and what follows from it."""
    answer = legality(technique.id, division, ruleset)
    then, whatever = follows(answer.status, ruleset), argued(technique, answer.status)
    return Entry(technique, answer.status, answer.because, then, whatever, answer.neighbours)


def entries(division: Division, ruleset: Ruleset) -> list[Entry]:
    """The whole catalogue, family by family."""
    return [entry(technique, division, ruleset) for technique in catalogue().values()]


def follows(status: Status, ruleset: Ruleset) -> str:
    """What a referee does about a technique of this status."""
    if status == "legal":
        return "Allowed."
    if status == "stop":
        return "Stopped and restarted, with no penalty."
    if ruleset.illegal == "disqualify":
        return "Disqualified at once."
    return f"Stopped with a warning; the {ordinal(ruleset.illegal_disqualify_on)} warning disqualifies."


def argued(technique: Technique, status: Status) -> str:
    """What is often argued and makes no difference."""
    if status == "legal":
        return ""
    said = []
    if technique.parent is not None:
        root = lineage(technique)[-1]
        said.append(
            f"Variants count as the parent technique (here: {within_sentence(root.name)}), however they are entered."
        )
    else:
        said.append("How it was entered makes no difference.")
    said.append("Intent is no defence: using it to sweep or take down changes nothing.")
    return " ".join(said)


def scoring(division: Division, ruleset: Ruleset) -> list[Rule]:
    """How a match is won and what scores, in the order a coach asks for it."""
    points, length = ruleset.points, match_length(division)
    rules = [
        Rule(
            "Length", f"{_length(length)}." if length else "Ask the event: there is no usual length for this division."
        )
    ]
    rules.append(Rule("Ends at once", "A submission wins. So does the opponent's withdrawal or disqualification."))
    paying = [
        ("takedown", points["takedown"], points["takedown_clear"]),
        ("sweep", points["sweep"], points["sweep_clear"]),
        ("knee on belly", points["knee_on_belly"], None),
        ("guard pass", points["guard_pass"], None),
        ("mount", points["mount"], None),
        ("back control with both hooks", points["back"], None),
        ("coming up on top from under control", points["reversal"], None),
    ]
    if any(n for _, n, _ in paying):
        paying_words = [
            f"{name} {n}" + (f" ({clear} landing past the guard)" if clear not in (None, n) else "")
            for name, n, clear in paying
            if n or clear
        ]
        rules.append(Rule("Points", f"{first_upper(', '.join(paying_words))}."))
        again = _AGAIN[ruleset.repeat]
        rules.append(
            Rule(
                "Held",
                f"Scored after {ruleset.hold_said} of control with the clock running. "
                f"Knee on belly, mount and back score {again}.",
            )
        )
        if ruleset.regain == "nothing":
            rules.append(
                Rule("Top taken back", "Scores nothing if the opponent had not yet held the top for long enough.")
            )
        rules += _opening(ruleset, length)
    else:
        rules.append(Rule("Points", "No points."))
    rules.append(
        Rule(
            "Advantages",
            "For a scoring position reached but not held, a near score, or a close submission."
            if ruleset.advantages
            else "None.",
        )
    )
    rules += _pulls(ruleset)
    ladder = [RUNGS[rung] for rung in ruleset.ladder]
    costs = f"{first_upper(', then '.join(ladder))}; the last repeats." if ladder else "Noted only."
    rules.append(Rule("Penalties", costs))
    rules += _early_ends(ruleset)
    rules.append(Rule("Illegal technique", follows("illegal", ruleset)))
    rules.append(Rule("A tie", f"{first_upper(', then '.join(_TIES[step] for step in ruleset.tiebreak))}."))
    return rules


_AGAIN = {
    "after_recovery": "only once per sequence of control",
    "after_turtle": "only once per sequence of control, which turtle ends",
    "every_time": "every time they are reached",
}


def _opening(ruleset: Ruleset, length: Millis | None) -> list[Rule]:
    """From when on points are open, where not from the start."""
    if ruleset.points_from_seconds:
        return [
            Rule(
                "Points start",
                f"Only what starts from {minutes(ruleset.opening(length))} of the match clock on scores.",
            )
        ]
    fraction = ruleset.points_from_fraction
    if not fraction or ruleset.points_from_seconds is not None:
        return []
    opening = f" ({minutes(ruleset.opening(length))} of the match clock)" if length else ""
    share = "half-time" if fraction == 0.5 else f"{fraction:.0%} of the match"
    return [Rule("Points start", f"Only what starts after {share}{opening} scores.")]


def _early_ends(ruleset: Ruleset) -> list[Rule]:
    """What the score alone can end, and what follows a tie at time."""
    rules = []
    if ruleset.mercy:
        rules.append(Rule("Lead that wins", f"A lead of {ruleset.mercy} points ends the match."))
    if ruleset.overtime is not None:
        length = ruleset.overtime.length
        lasts = "without a limit" if length is None else f"of {minutes(length)}"
        golden = {"points": " The first points win.", "advantages": " The first points or advantage win.", None: ""}
        said = f"Periods {lasts} if the event plays on; points count from the start.{golden[ruleset.overtime.golden]}"
        rules.append(Rule("Overtime", said))
    return rules


_TIES = {
    "points": "more points",
    "advantages": "more advantages",
    "penalties": "fewer penalties",
    "first_score": "who scored first",
    "last_score": "who scored last",
    "submission_attempts": "more close submissions",
    "decision": "the referees' decision",
    "draw": "a draw",
}


def _pulls(ruleset: Ruleset) -> list[Rule]:
    rules = [Rule(rule.topic, rule.said(ruleset)) for rule in rules_of(ruleset)]
    if ruleset.pull_caught == "takedown":
        rules.append(Rule("Guard pull with a leg caught", "Counts as the opponent's takedown."))
    if ruleset.double_pull_top != "none":
        worth = {"advantage": "an advantage", "takedown": "the points of a takedown"}[ruleset.double_pull_top]
        rules.append(Rule("Double guard pull", f"Coming up on top and holding it gets {worth}."))
    if ruleset.double_pull_limit:
        rules.append(Rule("Both stay seated", f"A penalty for both after {ruleset.double_pull_limit:g} s."))
    return rules


def ahead(division: Division, ruleset: Ruleset) -> list[Ahead]:
    """What changes next year, at the next age that changes anything, and with the next belts worn at this age."""
    found = [_ahead(division, Division(division.age + 1, division.belt, division.attire), "Next year", ruleset)]
    if not found[0].changes:
        for age in range(division.age + 2, OLDEST):
            step = _ahead(division, Division(age, division.belt, division.attire), f"From age {age}", ruleset)
            if step.changes:
                found.append(step)
                break
    higher = [belt for belt in allowed_belts(division.age) if RANK[belt] > RANK[division.belt]]
    for belt in higher:
        step = _ahead(division, Division(division.age, belt, division.attire), f"With a {belt} belt", ruleset)
        if step.changes or belt == higher[0]:
            found.append(step)
        if step.changes:
            break
    return found


def _ahead(now: Division, then: Division, when: str, ruleset: Ruleset) -> Ahead:
    opened: list[str] = []
    closed: list[str] = []
    for name in catalogue():
        before, after = (legality(name, one, ruleset).status for one in (now, then))
        if before != after:
            (opened if after == "legal" else closed).append(name)
    return Ahead(then, when, tuple(opened), tuple(closed), match_length(then), match_length(now))


def bands(technique: Technique, attire: Attire, ruleset: Ruleset) -> list[Band]:
    """Where over age and belt a technique is legal, stopped or illegal."""
    edges = sorted({*EDGES, max(EDGES[0], ruleset.also_legal.from_age)})
    rows = []
    for start, after in zip(edges, [*edges[1:], None], strict=True):
        oldest = OLDEST if after is None else after - 1
        worn = [belt for belt in BELTS if any(belt in allowed_belts(age) for age in range(start, oldest + 1))]
        rows.append(
            (start, {belt: legality(technique.id, Division(start, belt, attire), ruleset).status for belt in worn})
        )
    found = []
    for statuses, alike in groupby(rows, key=lambda row: row[1]):
        starts = [start for start, _ in alike]
        later = [edge for edge in edges if edge > starts[-1]]
        found.append(Band(starts[0], later[0] - 1 if later else None, statuses))
    return found


def page(division: Division, ruleset: Ruleset) -> dict[str, Any]:
    """All that is to be known of a division before a match."""
    found = age_class(division.age)
    return {
        "age_class": None if found is None else found.name,
        "division": str(division),
        "belts": list(allowed_belts(division.age)),
        "doubts": list(doubts(division)),
        "ruleset": ruleset.title,
        "about": ruleset.about,
        "scoring": [asdict(rule) for rule in scoring(division, ruleset)],
        "techniques": [one.as_json() for one in entries(division, ruleset)],
        "ahead": [step.as_json() for step in ahead(division, ruleset)],
        "deference": DEFERENCE,
        "danger": DANGER,
    }


def technique_page(technique: Technique, division: Division, ruleset: Ruleset) -> dict[str, Any]:
    """One technique in a division, by way of its parents, and over all ages and belts."""
    return {
        **entry(technique, division, ruleset).as_json(),
        "lineage": [step.name for step in lineage(technique)],
        "map": {attire: [band.as_json() for band in bands(technique, attire, ruleset)] for attire in ("gi", "nogi")},
    }


def differences(one: tuple[Division, Ruleset], other: tuple[Division, Ruleset]) -> dict[str, Any]:
    """What two divisions, or two rulesets, do not have in common, side by side."""
    sides = (one, other)
    statuses = [{row.technique.id: row for row in entries(*side)} for side in sides]
    rules = [{rule.topic: rule.text for rule in scoring(*side)} for side in sides]
    topics = list(dict.fromkeys([*rules[0], *rules[1]]))
    return {
        "sides": [{"division": str(division), "ruleset": ruleset.title} for division, ruleset in sides],
        "scoring": [
            {"topic": topic, "texts": [side.get(topic, "No such rule.") for side in rules]}
            for topic in topics
            if rules[0].get(topic) != rules[1].get(topic)
        ],
        "techniques": [
            {"id": name, "name": row.technique.name, "statuses": [row.status, statuses[1][name].status]}
            for name, row in statuses[0].items()
            if row.status != statuses[1][name].status
        ],
    }


def _length(length: Millis | None) -> str:
    return "a length set by the event" if length is None else f"{length // 60_000} minutes"


def first_upper(text: str) -> str:
    """A text that begins with a capital."""
    return text[:1].upper() + text[1:]
