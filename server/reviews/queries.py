"""A match as it is reviewed: the core's errors with the coach's words laid over them, chains, costs and prospects."""

from __future__ import annotations

import uuid
from dataclasses import replace
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
from django.shortcuts import get_object_or_404

from config.refusals import Refused
from jurata_core.chance import LONGEST_S, Model, Rates, draw, solve_together
from jurata_core.faults import FaultyInput
from jurata_core.review import (
    Chain,
    Error,
    Loss,
    Seen,
    Swing,
    causes,
    chains,
    done_well,
    errors,
    otherwise_json,
    own_error,
    regained,
    suggested,
    undone,
)
from jurata_core.review.prospects import Prospects, chances_of, prospects
from jurata_core.times import to_seconds
from matches.logs import with_names
from matches.models import Match
from matches.standing import standing

from .learning import taught
from .models import Causes, Remark

DRAWS = 8
"""How many times the rates are drawn for the spread of the chance."""
WITHIN = 1.28
"""Standard deviations on either side that hold four fifths of a normal distribution."""


class Reviewed(NamedTuple):
    """``errors`` in order of time, dismissed ones too; ``chains`` are of those that stand."""

    seen: Seen
    errors: list[Error]
    remarks: dict[str, Remark]
    chains: list[Chain]

    def of(self, keys: tuple[str, ...]) -> list[Error]:
        return [error for error in self.errors if error.key in keys]


def reviewed(match: Match) -> Reviewed:
    """The review of a match as it stands now."""
    now = standing(match)
    seen = Seen(now.log, now.verdict)
    remarks = {remark.key: remark for remark in match.remarks.all()}
    own = [_own(seen, remark) for remark in remarks.values() if remark.own]
    try:
        by_rule = errors(seen)
    except FaultyInput as error:
        raise Refused("too_long", f"This match {error.faults[0].message} observations.") from None
    found = [_worded(match, error, remarks.get(error.key)) for error in by_rule] + own
    found.sort(key=lambda error: (error.found.since, error.found.t))
    standing_ones = [error for error in found if not _dismissed(remarks.get(error.key))]
    links = {remark.key: remark.came_from for remark in remarks.values() if remark.came_from}
    return Reviewed(seen, found, remarks, chains(standing_ones, links))


def _dismissed(remark: Remark | None) -> bool:
    return remark is not None and remark.standing == Remark.Standing.DISMISSED


def _own(seen: Seen, remark: Remark) -> Error:
    loss = Loss(remark.points, remark.advantages)
    return own_error(
        seen, remark.key, remark.title, remark.because, remark.instead, remark.since_ms, remark.t_ms, loss
    )  # fmt: skip


def _worded(match: Match, error: Error, remark: Remark | None) -> Error:
    """An error in the coach's words, or else in the core's, with the names in these."""
    said = remark or Remark()
    return replace(
        error,
        title=said.title or with_names(match, error.title),
        because=said.because or with_names(match, error.because),
        instead=said.instead or with_names(match, error.instead),
    )


def otherwise_of(match: Match, found: Reviewed, members: list[Error]) -> dict[str, Any] | None:
    """What the match would have come to with some errors gone otherwise, in a sentence with the names."""
    other = otherwise_json(found.seen, undone(found.seen, members))
    return None if other is None else {**other, "because": with_names(match, other["because"])}


def causes_of(owner: int) -> list[str]:
    """The causes that a coach chooses from."""
    own = Causes.objects.filter(owner_id=owner).first()
    return list(causes()) if own is None else list(own.words)


def review_json(match: Match) -> dict[str, Any]:
    """Errors, chains and what was done well, for the screen."""
    found = reviewed(match)
    likely = suggested(found.seen, found.errors)
    rows = []
    for error in found.errors:
        remark = found.remarks.get(error.key)
        said = error.as_json()
        rows.append(
            {
                **said,
                "likely_causes": list(error.causes),
                "causes": remark.causes if remark else [],
                "standing": remark.standing if remark else Remark.Standing.OPEN,
                "own": bool(remark and remark.own),
                "edited": bool(remark and not remark.own and (remark.title or remark.because or remark.instead)),
                "came_from": remark.came_from if remark and remark.came_from else None,
                "suggested": [{"key": link.earlier, "because": link.because} for link in likely.get(error.key, [])],
                "otherwise": otherwise_of(match, found, [error]),
            }
        )
    return {
        "found": rows,
        "chains": [_chain_json(match, found, chain) for chain in found.chains],
        "causes": causes_of(match.owner_id),
        "well": [{**one.as_json(), "because": with_names(match, one.because)} for one in done_well(found.seen)],
    }


def _chain_json(match: Match, found: Reviewed, chain: Chain) -> dict[str, Any]:
    members = found.of(chain.members)
    again = undone(found.seen, members)
    cost = "nothing" if again is None else str(regained(found.seen, again))
    return {**chain.as_json(), "cost": cost, "otherwise": otherwise_of(match, found, members)}


class Outlook(NamedTuple):
    """How the match stood all along, and the chains with what would have changed most at the root first."""

    prospects: Prospects
    swings: dict[str, Swing]
    order: list[str]
    """The roots of the chains."""
    matches: int
    minutes: float


class _Revisions(NamedTuple):
    """All that an outlook depends on: the match and its review as they are, and what the coach's matches teach."""

    match: uuid.UUID
    revision: int
    review_revision: int
    taught: tuple[int, str, int]


def _revisions(match: Match) -> _Revisions:
    return _Revisions(match.pk, match.revision, match.review_revision, taught(match.owner_id).key)


def outlook_of(match: Match) -> Outlook:
    return _outlook(_revisions(match))


@lru_cache(maxsize=32)
def _outlook(of: _Revisions) -> Outlook:
    match = get_object_or_404(Match, pk=of.match)
    found, known = reviewed(match), taught(match.owner_id)
    rates = known.rates
    model = _model(found.seen, rates)
    seen_all = prospects(found.seen, found.errors, model, known.paces)
    swings = {error.key: swing for error, swing in zip(found.errors, seen_all.swings, strict=True) if swing is not None}
    weights = {chain.root: _weight(found, chain, swings) for chain in found.chains}
    order = sorted(weights, key=lambda root: weights[root], reverse=True)
    return Outlook(seen_all, swings, order, rates.matches, rates.minutes)


def _model(seen: Seen, rates: Rates) -> Model:
    seconds = max(1, round(seen.length / 1000))
    if max(seconds, seen.clock(seen.over) / 1000) > LONGEST_S:
        raise Refused("too_long", "The chance of winning is reckoned for matches of up to an hour.")
    return Model(seen.log.ruleset, seconds, rates)


def _weight(found: Reviewed, chain: Chain, swings: dict[str, Swing]) -> tuple[float, ...]:
    """What would have changed most: the result, then the chance of winning, then the sheet."""
    members = found.of(chain.members)
    other = otherwise_json(found.seen, undone(found.seen, members))
    lost = sum(swings[error.key].lost for error in members if error.key in swings)
    sheet = sum(error.found.loss.points + error.found.loss.advantages / 10 for error in members)
    return float(bool(other and other["better"])), lost, sheet


def outlook_json(match: Match) -> dict[str, Any]:
    """The outlook for the screen: one row a second of the match clock."""
    outlook = outlook_of(match)
    seen_all = outlook.prospects
    return {
        "matches": outlook.matches,
        "minutes": round(outlook.minutes),
        "moments": [
            {
                "clock": to_seconds(moment.clock),
                "t": to_seconds(moment.t),
                "win": round(chance.win, 4),
                "lose": round(chance.lose, 4),
            }
            for moment, chance in zip(seen_all.moments, seen_all.chances, strict=True)
        ],
        "swings": {key: _swing(swing) for key, swing in outlook.swings.items()},
        "order": outlook.order,
        "windows": [window.as_json() for window in seen_all.windows],
        "closings": [one.as_json() for one in seen_all.closings],
        "lets": [let.as_json() for let in seen_all.lets],
    }


def _swing(swing: Swing) -> dict[str, float]:
    return {"was": round(swing.was, 4), "otherwise": round(swing.otherwise, 4), "lost": round(swing.lost, 4)}


def spread_json(match: Match) -> dict[str, Any]:
    """Between what the chance may lie in four of five cases, a row a second: how sure the rates are."""
    low, high = _spread(_revisions(match))
    return {"low": low, "high": high, "draws": DRAWS}


@lru_cache(maxsize=32)
def _spread(of: _Revisions) -> tuple[list[float], list[float]]:
    match = get_object_or_404(Match, pk=of.match)
    found, counted = reviewed(match), taught(match.owner_id).counted
    moments = _outlook(of).prospects.moments
    if not moments:
        return [], []
    random = np.random.default_rng(1)  # the same match shows the same spread
    rows = []
    for _ in range(DRAWS):
        model = _model(found.seen, draw(counted, random))
        (chances,) = solve_together(model, chances_of(moments, model, found.seen))
        rows.append([chance.win for chance in chances])
    sure = np.clip(np.array(rows), 1e-4, 1 - 1e-4)
    logits = np.log(sure / (1 - sure))
    middle, width = logits.mean(axis=0), WITHIN * logits.std(axis=0, ddof=1)
    low, high = (1 / (1 + np.exp(-(middle + sign * width))) for sign in (-1, 1))
    return [round(float(one), 4) for one in low], [round(float(one), 4) for one in high]
