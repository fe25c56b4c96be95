"""One log under several rulesets: what each makes of it, which rows differ, and why."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any, assert_never

from .adjudication import Verdict, adjudicate
from .adjudication.at_once import rule_of
from .adjudication.places import ClaimKind
from .adjudication.reasons import (
    ByDisqualification,
    CarriedIn,
    CloseSubmission,
    CoachRuling,
    Fled,
    Held,
    HeldAdvantage,
    Lost,
    NearScore,
    NoWorth,
    PaidAtOnce,
    Penalty,
    RungAdvantage,
    RungMinusPoint,
    RungOnePoint,
    RungTwoPoints,
    claims_of,
)
from .adjudication.rows import Award, UnpaidClaim
from .adjudication.sentences import CLAIMS, RUNGS, amount
from .match_log import MatchLog
from .rulesets import Ruleset
from .times import to_seconds

_DESCRIPTIVE = ("id", "title", "about", "unknown")


@dataclass(frozen=True, slots=True)
class Difference:
    """A ledger row that two rulesets see differently. Either may have none."""

    here: Award | None
    there: Award | None
    because: str

    def as_json(self) -> dict[str, Any]:
        row = self.here or self.there
        assert row is not None  # a difference is about at least one row
        return {
            "t": to_seconds(row.t),
            "to": row.to,
            "here": self.here.as_json() if self.here else None,
            "there": self.there.as_json() if self.there else None,
            "because": self.because,
        }


@dataclass(frozen=True, slots=True)
class Column:
    """The log under one ruleset, against its own."""

    ruleset: Ruleset
    verdict: Verdict
    changed: tuple[tuple[str, Any, Any], ...]
    """Settings that differ from the log's ruleset: (setting, value there, value here)."""
    differences: tuple[Difference, ...]

    def as_json(self) -> dict[str, Any]:
        said = self.verdict.as_json()
        return {
            "ruleset": self.ruleset.id,
            "title": self.ruleset.title,
            **{name: said[name] for name in ("score", "result", "because", "ended", "ledger", "missed", "warnings")},
            "changed": [
                {"setting": name, "own": _plain(own), "here": _plain(here)} for name, own, here in self.changed
            ],
            "differences": [difference.as_json() for difference in self.differences],
        }


def what_if(log: MatchLog, rulesets: Iterable[Ruleset]) -> list[Column]:
    """The log under its own ruleset first, then under each of ``rulesets``, compared with the first."""
    own = adjudicate(log)
    columns = [Column(log.ruleset, own, (), ())]
    for ruleset in rulesets:
        verdict = adjudicate(replace(log, ruleset=ruleset))
        changed = changed_settings(log.ruleset, ruleset)
        differences = _differences(own, log.ruleset, verdict, ruleset)
        columns.append(Column(ruleset, verdict, changed, tuple(differences)))
    return columns


@dataclass(frozen=True, slots=True)
class Resetting:
    """What a log comes to with its ruleset, length or division changed: rows of the ledger that go, and that come."""

    before: Verdict
    after: Verdict
    gone: tuple[Award, ...]
    new: tuple[Award, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "before": self.before.summary(),
            "after": self.after.summary(),
            "gone": [row.as_json() for row in self.gone],
            "new": [row.as_json() for row in self.new],
        }


def reset(before: Verdict, after: Verdict) -> Resetting:
    """Two verdicts on one log, under settings before and after a change. Rows that stay alike are left out."""

    def alike(row: Award) -> tuple[Any, ...]:
        return (row.t, row.to, row.kind, row.n, row.reason.code, row.observations)

    kept = {alike(row) for row in before.ledger} & {alike(row) for row in after.ledger}
    gone, new = (tuple(row for row in one.ledger if alike(row) not in kept) for one in (before, after))
    return Resetting(before, after, gone, new)


def changed_settings(own: Ruleset, other: Ruleset) -> tuple[tuple[str, Any, Any], ...]:
    """The settings in which two rulesets differ, point values one by one as ``points.mount``."""
    changed: list[tuple[str, Any, Any]] = []
    for setting in fields(Ruleset):
        before, after = getattr(own, setting.name), getattr(other, setting.name)
        if setting.name in _DESCRIPTIVE or before == after:
            continue
        if setting.name == "points":
            changed += [(f"points.{key}", before[key], after[key]) for key in before if before[key] != after[key]]
        else:
            changed.append((setting.name, before, after))
    return tuple(changed)


def _plain(value: Any) -> Any:
    """A setting as JSON writes it."""
    if isinstance(value, tuple):
        return list(value)
    return {field.name: _plain(getattr(value, field.name)) for field in fields(value)} if _is_record(value) else value


def _is_record(value: Any) -> bool:
    return hasattr(value, "__dataclass_fields__")


def _differences(own: Verdict, own_rules: Ruleset, verdict: Verdict, rules: Ruleset) -> list[Difference]:
    """Rows paired by what they are for; pairs with equal numbers are no difference."""
    ours, theirs = _by_event(own.ledger), _by_event(verdict.ledger)
    found = []
    for event in dict.fromkeys([*ours, *theirs]):
        left, right = ours.get(event, []), theirs.get(event, [])
        for index in range(max(len(left), len(right))):
            there = left[index] if index < len(left) else None
            here = right[index] if index < len(right) else None
            if here is not None and there is not None:
                if (here.n, here.t) != (there.n, there.t):
                    found.append(Difference(here, there, _other_number(here, rules, there, own_rules)))
            elif there is not None:
                found.append(Difference(None, there, _why_not(there, verdict, rules)))
            elif here is not None:
                found.append(Difference(here, None, _why_not(here, own, own_rules)))
    return sorted(found, key=lambda difference: (difference.here or difference.there or own.ledger[0]).t)


def _by_event(rows: Sequence[Award]) -> dict[tuple[Any, ...], list[Award]]:
    """Ledger rows by what they were given for: the observations, the side, the kind and the claim."""
    found = defaultdict(list)
    for row in rows:
        claims = () if isinstance(row.reason, Lost) else claims_of(row.reason)
        found[row.observations, row.to, row.kind, row.reason.code, claims].append(row)
    return found


def _other_number(here: Award, rules: Ruleset, there: Award, own: Ruleset) -> str:
    if here.n != there.n:
        return f"{rules.title} gives {amount(here.n, here.kind)} for it, {own.title} {amount(there.n, there.kind)}."
    needed = f"{rules.title} asks for {rules.hold_said}, {own.title} for {own.hold_said}"
    return f"{needed}." if rules.holds != own.holds else "It scores at a different time."


def _why_not(row: Award, verdict: Verdict, rules: Ruleset) -> str:
    """Why a row of one verdict is not in ``verdict``, by the rule of ``rules`` that says so."""
    title, ended = rules.title, verdict.result.t
    disqualified = isinstance(verdict.result.how, ByDisqualification)
    if ended is not None and (row.t > ended or (row.t == ended and disqualified)):
        return f"Under {title} the match is over before that: {verdict.result.because}"
    if row.kind == "advantages" and not rules.advantages:
        return f"{title} has no advantages."
    match row.reason:
        case PaidAtOnce(code=code):
            return rule_of(code).missing(rules)
        case RungAdvantage() | RungOnePoint() | RungTwoPoints() | RungMinusPoint():
            return f"{title} does not give this: its penalties go {', '.join(RUNGS[rung] for rung in rules.ladder)}."
        case Penalty(foul="double_pull"):
            limit = rules.double_pull_limit
            return f"{title} sets {f'a limit of {limit:g} s' if limit else 'no limit'} on a double guard pull."
        case Lost():
            return f"Under {title} the claim was not lost, or was worth nothing."
        case Held(claim=claim) | HeldAdvantage(claim=claim) | NearScore(claim=claim):
            unpaid = _unpaid(row, claim, verdict)
            if unpaid is not None and not isinstance(unpaid.reason, NoWorth):
                return f"{title}: {unpaid.because}"
            if claim == "double_pull_top":
                worth = rules.double_pull_top.replace("none", "nothing")
                return f"{title} gives {worth} for coming up on top after a double guard pull."
            return f"{title} gives nothing for this {CLAIMS[claim]}."
        case CloseSubmission() | Penalty() | Fled() | CoachRuling() | CarriedIn():
            return f"{title} does not give this."
        case _:
            assert_never(row.reason)


def _unpaid(row: Award, claim: ClaimKind, verdict: Verdict) -> UnpaidClaim | None:
    """The claim of ``row`` as ``verdict`` has it, unpaid."""
    for unpaid in (*verdict.missed, *verdict.unpaid, *verdict.open):
        if unpaid.to == row.to and unpaid.claim == claim and unpaid.observations[:1] == row.observations[:1]:
            return unpaid
    return None
