"""The two questions the core answers for the command line and the server, JSON in and out."""

from __future__ import annotations

from typing import Any

from .adjudication import adjudicate
from .divisions import read_division
from .faults import Fault, FaultyInput, quoted
from .legality import legality
from .match_log import read_log
from .rulesets import DEFAULT, read_ruleset
from .techniques import suggestions

Answer = dict[str, Any]


def score(raw: Any) -> Answer:
    """The verdict on a log or case file. Raises FaultyInput."""
    return adjudicate(read_log(raw)).as_json()


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
        near = suggestions(str(name))
        hint = f"; nearest: {', '.join(near)}" if near else ""
        raise FaultyInput([Fault("technique", f"{quoted(name)} is not in the catalogue{hint}", "unknown")])
    named = answer.technique.id if answer.technique else name
    return {"technique": named, "status": answer.status, "because": answer.because}
