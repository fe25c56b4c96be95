"""From stored matches to the core's match log and back."""

from __future__ import annotations

from typing import Any

from jurata_core.adjudication.sentences import named
from jurata_core.match_log import FORMAT
from jurata_core.rulesets import read_ruleset
from jurata_core.rulesets.house import titled
from jurata_core.times import to_seconds

from .models import Match


def ruleset_title(raw: Any) -> str:
    """How a match's ruleset is called."""
    ruleset = read_ruleset(raw, "ruleset", [])
    return "Unknown ruleset" if ruleset is None else titled(ruleset, raw)


def with_names(match: Match, text: str) -> str:
    """A sentence of the core with the names of the two in it."""
    return named(text, match.athlete.name, match.opponent)


def with_outside_names(match: Match) -> Match:
    """A match as it is shown outside its club: of children first names only, and opponents as the club has set it.

    Only what is in memory is changed, and it is not to be saved.
    """
    athlete = match.athlete
    if athlete.child:
        athlete.name, match.opponent = athlete.name.split()[0], match.opponent.split()[0]
    if athlete.club.initials:
        match.opponent = " ".join(f"{part[0]}." for part in match.opponent.split())
    return match


def bodies(match: Match) -> list[dict[str, Any]]:
    """What was seen, in the order it was logged, deletions left out."""
    rows = match.observations.filter(deleted=False).values_list("body", flat=True)
    return list(rows)


def log_of(match: Match, observations: list[dict[str, Any]] | None = None) -> dict[str, Any]:
    """The match log in the current format."""
    plan = {"plan": match.plan} if match.plan else {}
    return {
        "format": FORMAT,
        "ruleset": match.ruleset,
        "duration": None if match.duration_ms is None else to_seconds(match.duration_ms),
        "division": {"age": match.age, "belt": match.belt, "attire": match.attire},
        **plan,
        "observations": bodies(match) if observations is None else observations,
    }
