"""The questions the core answers for the command line and the server, JSON in and out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from .adjudication import adjudicate
from .audit import audit, compare_all
from .divisions import Division, age_class, age_in, allowed_belts, doubts, match_length, read_division
from .exports import EXPORTS, UNKNOWN, export_named
from .faults import Fault, FaultyInput, quoted
from .fields import REQUIRED, read_fields, whole
from .legality import legality, nearest
from .match_log import MatchLog, read_log, write_log
from .match_log.observations import SIDES, Side
from .rulesets import DEFAULT, Ruleset, preset, preset_ids, read_ruleset
from .techniques import family
from .times import to_seconds
from .unsure import range_of
from .whatif import what_if

if TYPE_CHECKING:
    from .review import Lesson, Review

Answer = dict[str, Any]
FORMS = (*(one.name for one in EXPORTS), "log")
"""What a log can be exported as."""


def verdict_on(log: MatchLog) -> Answer:
    """The verdict on a log with its range, as ``bin/jurata score`` prints it."""
    verdict = adjudicate(log)
    return {**verdict.as_json(), "range": range_of(log, verdict).as_json()}


def score(raw: Any, ruleset: Any = None, brief: bool = False) -> Answer:
    """The verdict on a log or case file, under its own ruleset or another. Raises FaultyInput.

    ``brief`` leaves only the score, the result and its sentence.
    """
    log = read_log(raw)
    if ruleset is not None:
        log = replace(log, ruleset=_ruleset(ruleset))
    if not brief:
        return verdict_on(log)
    return adjudicate(log).summary()


def _ruleset(raw: Any) -> Ruleset:
    faults: list[Fault] = []
    found = read_ruleset(raw, "ruleset", faults)
    if found is None:
        raise FaultyInput(faults)
    return found


def audit_calls(raw: Any) -> Answer:
    """The officials' calls of a log against its ledger. Raises FaultyInput."""
    return audit(read_log(raw)).as_json()


def compare_scorers(raws: Sequence[Any]) -> Answer:
    """Logs of one match by several scorers, each against the first. Raises FaultyInput."""
    if len(raws) < 2:
        raise FaultyInput([Fault("logs", "needs the logs of two scorers or more", "missing")])
    return compare_all([adjudicate(read_log(raw)) for raw in raws])


def under_rulesets(raw: Any, rulesets: Sequence[Any] = ()) -> Answer:
    """A log under its own ruleset and under others, all presets where none is named. Raises FaultyInput."""
    log = read_log(raw)
    others = [_ruleset(one) for one in rulesets] or [preset(name) for name in preset_ids()]
    columns = what_if(log, [one for one in others if one != log.ruleset])
    return {"columns": [column.as_json() for column in columns]}


def review_of(raw: Any, side: Side = "a") -> Answer:
    """A side's errors in a log: cost, swing by the prior alone, and likely root; and what it did well."""
    return _review(read_log(raw), side)


def review_both(raw: Any) -> Answer:
    """The review of either side of a log."""
    log = read_log(raw)
    return {side: _review(log, side) for side in SIDES}


def _review(log: MatchLog, side: Side) -> Answer:
    from .chance import prior, solve_together  # they need NumPy and SciPy, which scoring does not
    from .review import (
        Seen,
        Swing,
        cause_of,
        decision_json,
        done_well,
        errors,
        gathered,
        model_of,
        otherwise_json,
        planned,
        stopped_by,
        swings,
        undone,
    )  # fmt: skip

    seen = Seen(log, adjudicate(log), side)
    found = errors(seen)
    swung: dict[str, Swing] = {}
    model = model_of(seen, prior())
    if model is not None:
        (all_of,) = solve_together(model, swings(seen, found, model))
        swung = {error.key: swing for error, swing in zip(found, all_of, strict=True) if swing is not None}
    review = gathered(seen, found, swung, {})
    causes = {error.key: cause_of(seen, error.found) for error in review.errors}
    rows = [
        {
            "key": error.key,
            "kind": error.kind,
            "side": side,
            "since": to_seconds(error.found.since),
            "t": to_seconds(error.found.t),
            "title": error.title,
            "because": error.because,
            "instead": error.instead,
            "drill": error.drill,
            "causes": list(error.causes),
            "from": review.came_from[error.key].earlier if error.key in review.came_from else None,
            "cost": {"points": error.found.loss.points, "advantages": error.found.loss.advantages},
            "swing": round(swung[error.key].lost, 4) if error.key in swung else None,
            "otherwise": otherwise_json(seen, undone(seen, [error])),
            "times": review.times(error),
            "cause": None if (cause := causes[error.key]) is None else cause.as_json(),
            "observations": list(dict.fromkeys([*error.found.refs, *(cause.observations if cause else ())])),
        }
        for error in review.errors
    ]
    return {
        "errors": rows,
        "first": [_lesson(review, lesson) for lesson in review.lessons[: review.first]],
        "patterns": [one.as_json() for one in review.patterns],
        "good": [one.as_json() for one in done_well(seen)],
        "stopped": {one.move: [len(one.tries), one.of] for one in stopped_by(seen)},
        "plan": log.raw.get("plan") or None,
        "planned": [one.as_json() for one in planned(seen, log.raw.get("plan") or "")],
        "decision": decision_json(seen),
    }


def _lesson(review: Review, lesson: Lesson) -> Answer:
    """What a coach would speak of first: an error and what came from it, as often as it happened."""
    members = review.of(lesson.errors)
    root = next(error for error in members if error.key == lesson.chains[0].root)
    swings = [review.swings[error.key].lost for error in members if error.key in review.swings]
    return {
        "errors": list(lesson.errors),
        "title": root.title,
        "because": root.because,
        "times": max(review.times(error) for error in members),
        "swing": round(sum(swings), 4) if swings else None,
        "drill": root.drill,
    }


def export(raw: Any, form: str) -> str:
    """A scored match as one of ``EXPORTS``, or its log in the current format as ``log``. Raises FaultyInput."""
    log = read_log(raw)
    if form == "log":
        return write_log(log) + "\n"
    found = export_named(form)
    if found is None:
        raise FaultyInput([Fault("as", f"{quoted(form)} is not one of {', '.join(FORMS)}", "unknown")])
    return found.made(log, adjudicate(log), UNKNOWN)


def ask_division(raw: Any) -> Answer:
    """The age class, belts and match length of a division; its age, or ``born`` and ``year``. Raises FaultyInput."""
    if not isinstance(raw, dict):
        raise FaultyInput([Fault("question", "should be an object with age, belt and attire", "wrong_type")])
    faults: list[Fault] = []
    if raw.get("age") is None and raw.get("born") is not None:
        years = read_fields(raw, [(name, whole(1900, 2200), REQUIRED) for name in ("born", "year")], "", faults)
        if faults:
            raise FaultyInput(faults)
        raw = {**raw, "age": age_in(years["year"], years["born"])}
    division = read_division(raw, "", faults)
    if division is None:
        raise FaultyInput(faults)
    found, length = age_class(division.age), match_length(division)
    return {
        "age": division.age,
        "age_class": None if found is None else found.name,
        "belts": list(allowed_belts(division.age)),
        "match_length": None if length is None else to_seconds(length),
        "doubts": list(doubts(division)),
    }


def unknown_technique(name: str, division: Division, ruleset: Ruleset) -> FaultyInput:
    """That no technique has a name, with the nearest, those that are not legal in the division first."""
    near = ", ".join(f"{one}{_STATUS_HERE[status]}" for one, status in nearest(name, division, ruleset).items())
    if family(name):
        said = f"{quoted(name)} may be any of several; say which: {near}"
    else:
        said = f"{quoted(name)} is not in the catalogue" + (f"; nearest: {near}" if near else "")
    return FaultyInput([Fault("technique", said, "unknown")])


_STATUS_HERE = {"legal": "", "illegal": " (illegal here)", "stop": " (the referee stops it here)"}


def ask_legality(raw: Any) -> Answer:
    """The answer to one ``{"technique", "age", "belt", "attire", "ruleset"}``. Raises FaultyInput."""
    if not isinstance(raw, dict):
        raise FaultyInput([Fault("question", "should be an object with technique, age, belt and attire", "wrong_type")])
    faults: list[Fault] = []
    name = raw.get("technique")
    if not isinstance(name, str) or not name.strip():
        faults.append(Fault("technique", "is missing" if name is None else "should be a name", "missing"))
    division = read_division(raw, "", faults)
    ruleset = read_ruleset(DEFAULT if raw.get("ruleset") is None else raw["ruleset"], "ruleset", faults)
    if faults or division is None or ruleset is None:
        raise FaultyInput(faults)
    answer = legality(str(name), division, ruleset)
    if answer.technique is None and answer.status == "legal":
        raise unknown_technique(str(name), division, ruleset)
    named = answer.technique.id if answer.technique else name
    because = " ".join((answer.because, *answer.neighbours))
    return {"technique": named, "status": answer.status, "because": because}
