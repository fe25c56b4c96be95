"""The errors of a match as a season counts them, with what the coach made of them and what they cost."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from ..adjudication.reasons import CloseSubmission, claims_of
from ..chance import Rates, solve_together
from ..review import Decision, Error, Seen, chains, marks_of, model_of, suggested, swings
from ..times import Millis


class Mistake(NamedTuple):
    """One error: when it was decided, the footage that shows it, what it cost on the sheet, and where it came from."""

    key: str
    kind: str
    title: str
    t: Millis
    start: Millis
    end: Millis
    position: str
    """The position it began in; empty for one that a coach added."""
    points: int
    advantages: int
    causes: tuple[str, ...]
    """Those that a coach named: by a mark in the log, or in the review."""
    came_from: str
    """The key of the earlier error it came from; empty for one that began by itself."""
    part: str = ""
    """Which move it conceded, where its kind has them all together."""


PARTS: dict[str, str] = {
    "takedown": "takedown", "double_pull_top": "takedown", "sweep": "sweep", "reversal": "sweep", "guard_pass": "pass",
    "knee_on_belly": "hold", "mount": "hold", "back": "back",
}  # fmt: skip
PART_NAMES = {
    "takedown": "Takedowns conceded", "sweep": "Sweeps conceded", "pass": "Guard passes conceded",
    "hold": "Mount and knee on belly conceded", "back": "Back control conceded", "submission": "Nearly submitted",
}  # fmt: skip
"""What the parts of conceding are called: a coach drills one of them, not all of them."""
PARTED = "taken"
"""The kind of error that has parts."""


def parts_of(kind: str) -> dict[str, str]:
    """What a drill can be for within a kind of error, each with its name."""
    return {f"{kind}:{part}": name for part, name in PART_NAMES.items()} if kind == PARTED else {}


def drilled_as(mistake: Mistake) -> frozenset[str]:
    """What a drill for this error may be for: its kind as a whole, or the move that it conceded."""
    return frozenset({mistake.kind, f"{mistake.kind}:{mistake.part}"})


def part_of(error: Error) -> str:
    """Which move an error conceded; of a row that was given for several, the first of them."""
    if error.kind != PARTED or not error.found.rows:
        return ""
    reason = error.found.rows[0].reason
    claims = () if isinstance(reason, CloseSubmission) else claims_of(reason)
    return PARTS[claims[0]] if claims else "submission"


class Cost(NamedTuple):
    """What an error cost of the chance of winning, from 0 to 1; and whether the side stood better after it."""

    lost: float
    helped: bool


class Said(NamedTuple):
    """What a coach made of an error, and the causes that they named."""

    decision: Decision
    causes: tuple[str, ...]


class Standing(NamedTuple):
    """An error that counts, and its cost; None where that is not known yet."""

    mistake: Mistake
    lost: float | None


class Counted(NamedTuple):
    """An error that counts, with the key of the root it came from and its cost; None where that is not known yet."""

    mistake: Mistake
    root: str
    lost: float | None


def mistakes_of(seen: Seen, errors: Sequence[Error]) -> tuple[Mistake, ...]:
    """The errors of a match, each with the likeliest earlier one that it came from."""
    links = suggested(seen, errors)
    return tuple(
        Mistake(
            error.key, error.kind, error.title, error.found.t, error.start, error.end,
            seen.place_at(error.found.since).position, error.found.loss.points, error.found.loss.advantages,
            tuple(dict.fromkeys(mark.cause for mark in marks_of(seen, error.found) if mark.cause)),
            links[error.key][0].earlier if links.get(error.key) else "", part_of(error),
        )
        for error in errors
    )  # fmt: skip


class Asked(NamedTuple):
    """A match whose errors are to be weighed by some rates."""

    seen: Seen
    errors: Sequence[Error]
    rates: Rates


def costs_of(matches: Sequence[Asked]) -> list[dict[str, Cost]]:
    """What each error of some matches cost of the chance of winning, by its key.

    Matches of the same rules, length and rates are asked together, so that a thousand of them cost little more than
    one. Errors that left the match where it was are left out, and so are those of a match too long for the model.
    """
    together: dict[Any, list[int]] = defaultdict(list)
    models = [model_of(one.seen, one.rates) for one in matches]
    for number, model in enumerate(models):
        if model is not None:
            together[repr(model.ruleset), model.seconds, id(model.rates)].append(number)
    found: list[dict[str, Cost]] = [{} for _ in matches]
    for numbers in together.values():
        model = models[numbers[0]]
        assert model is not None  # those without one were left out above
        asked = [matches[number] for number in numbers]
        answers = solve_together(model, *(swings(one.seen, one.errors, model) for one in asked))
        for number, one, swung in zip(numbers, asked, answers, strict=True):
            pairs = zip(one.errors, swung, strict=True)
            found[number] = {error.key: Cost(round(of.lost, 4), of.helped) for error, of in pairs if of is not None}
    return found


def standing(mistakes: Iterable[Mistake], costs: Mapping[str, Cost] | None, said: Mapping[str, Said]) -> list[Standing]:
    """The errors that count: neither dismissed by a coach, nor such that the side stood better after them.

    What a coach accepted counts whatever the model says. Without ``costs`` none is known yet.
    """
    known = costs or {}
    kept = []
    for one in mistakes:
        of = said.get(one.key, NOTHING_SAID)
        if not of.decision.counts(one.key in known and known[one.key].helped):
            continue
        came_from = one.came_from if of.decision.came_from is None else of.decision.came_from
        if of is not NOTHING_SAID:
            one = one._replace(came_from=came_from, causes=of.causes or one.causes)
        lost = known[one.key].lost if one.key in known else 0.0
        kept.append(Standing(one, None if costs is None else lost))
    return kept


def counted(
    mistakes: Iterable[Mistake], costs: Mapping[str, Cost] | None, said: Mapping[str, Said]
) -> tuple[Counted, ...]:
    """The errors that count, as :func:`standing` has them, each with the root that it came from."""
    rows = standing(mistakes, costs, said)
    kept = [one.mistake for one in rows]
    links = {one.key: one.came_from for one in kept if one.came_from}
    roots = {key: chain.root for chain in chains(kept, links) for key in chain.members}
    return tuple(Counted(one.mistake, roots[one.mistake.key], one.lost) for one in rows)


NOTHING_SAID = Said(Decision(), ())


def as_json(mistakes: Iterable[Mistake]) -> list[list[Any]]:
    """Errors as they are stored; :func:`from_json` reads them again."""
    return [[*one[:9], list(one.causes), one.came_from, one.part] for one in mistakes]


def from_json(stored: Iterable[Sequence[Any]]) -> tuple[Mistake, ...]:
    return tuple(Mistake._make([*row[:9], tuple(row[9]), row[10], *(row[11:] or [""])]) for row in stored)


def costs_from_json(stored: Mapping[str, Sequence[Any]] | None) -> dict[str, Cost] | None:
    return None if stored is None else {key: Cost(*cost) for key, cost in stored.items()}
