"""From stored matches to the core's match log and back."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from django.db.models import Prefetch, prefetch_related_objects
from django.utils.text import slugify

from jurata_core.adjudication.sentences import named
from jurata_core.exports import Heading
from jurata_core.match_log import FORMAT, MatchLog
from jurata_core.match_log.observations import Call, Side
from jurata_core.rulesets import read_ruleset
from jurata_core.rulesets.house import titled
from jurata_core.times import to_seconds

from .models import Match, Observation

READ = "observations_read"
"""Where the observations of a match are kept that were read with those of others."""


FROM_TABLE = "table-"
"""How the keys of calls begin that were read from the officials' own scoreboard table."""


def all_calls_logged(log: MatchLog) -> bool:
    """Whether the officials' calls were read from their table: then no call is missing."""
    return any(isinstance(seen, Call) and str(seen.ref).startswith(FROM_TABLE) for seen in log.observations)


def ruleset_title(raw: Any) -> str:
    """How a match's ruleset is called."""
    ruleset = read_ruleset(raw, "ruleset", [])
    return "Unknown ruleset" if ruleset is None else titled(ruleset, raw)


def heading_of(match: Match) -> Heading:
    """Whose match a file is of, and where and when it was."""
    when = "" if match.date is None else match.date.isoformat()
    names: dict[Side, str] = {"a": match.athlete.name, "b": match.opponent}
    return Heading(names, ", ".join(part for part in (match.event, when) if part))


def file_name(match: Match, what: str, suffix: str) -> str:
    """What a file about a match is called: when, who against whom, and what it is."""
    when = "" if match.date is None else match.date.isoformat()
    parts = (when, slugify(match.athlete.name), "against", slugify(match.opponent), what)
    return "-".join(part for part in parts if part) + f".{suffix}"


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
    read: list[Observation] | None = getattr(match, READ, None)
    if read is not None:
        return [one.body for one in read]
    rows = match.observations.filter(deleted=False).values_list("body", flat=True)
    return list(rows)


@contextmanager
def logs_read(matches: Sequence[Match]) -> Iterator[None]:
    """Read the logs of many matches at once, so that within this :func:`bodies` asks for none of them."""
    rows = Observation.objects.filter(deleted=False).only("match", "body", "sequence")
    prefetch_related_objects(matches, Prefetch("observations", rows, to_attr=READ))
    try:
        yield
    finally:
        for match in matches:
            delattr(match, READ)


def about(match: Match) -> dict[str, str]:
    """Whose match it was and where, for a file that is opened in another place; no part of the format itself."""
    said = {
        "athlete": match.athlete.name, "opponent": match.opponent, "club": match.club, "event": match.event,
        "date": "" if match.date is None else match.date.isoformat(), "round": match.round,
    }  # fmt: skip
    return {name: text for name, text in said.items() if text}


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
