"""A match as it is reviewed: the core's errors with the coach's words laid over them, chains, costs and prospects."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace
from functools import lru_cache
from typing import Any, NamedTuple

from config.refusals import Refused
from jurata_core.exports import EXPORTS
from jurata_core.faults import FaultyInput
from jurata_core.lessons import group_of
from jurata_core.review import (
    OWN,
    Came,
    Chain,
    Decision,
    Error,
    Loss,
    Review,
    Seen,
    Stopped,
    Swing,
    cause_of,
    causes,
    decision_json,
    done_well,
    errors,
    gathered,
    in_danger,
    marks_of,
    model_of,
    otherwise_json,
    own_error,
    planned,
    regained,
    stopped_by,
    undone,
    young_below,
)
from jurata_core.review.kinds import Young
from jurata_core.review.prospects import Prospects, prospects
from jurata_core.review.rules.marks import said_of
from jurata_core.review.spread import DRAWS, NO_SPREAD, Spread, spread
from jurata_core.times import to_seconds
from matches.logs import ruleset_title, with_names
from matches.models import Match
from matches.standing import standing
from matches.summaries import settings_of

from .habits import offers_json
from .learning import Taught, submissions, taught
from .models import Causes, Remark


class Reviewed(NamedTuple):
    """A match with the core's review of it, worded as the coach has it, and what the coach said of its errors."""

    review: Review
    remarks: dict[str, Remark]
    asked: _Asked


def reviewed(match: Match) -> Reviewed:
    """The review of a match as it stands now."""
    now = standing(match)
    seen = Seen(now.log, now.verdict)
    remarks = {remark.key: remark for remark in match.remarks.all()}
    own = [_own(seen, remark) for remark in remarks.values() if remark.own]
    settings = settings_of(match.athlete.club_id)
    try:
        by_rule = errors(seen, settings)
    except FaultyInput as error:
        raise Refused("too_long", f"This match {error.faults[0].message} observations.") from None
    everything = sorted([*by_rule, *own], key=lambda error: (error.found.since, error.found.t))
    known = taught(match.athlete.club_id, group_of(now.log, ruleset_title(match.ruleset)))
    own_ones = tuple((error.key, error.found.since, error.found.t, error.found.loss) for error in own)
    asked = _Asked((match.pk, match.revision, known.key, own_ones, repr(settings)), seen, everything, known)
    outlook = _outlook(asked)
    swung = {} if outlook is None else outlook.swings
    found = gathered(seen, everything, swung, {key: decision_of(remark) for key, remark in remarks.items()})
    worded = [_worded(match, error, remarks.get(error.key)) for error in found.errors]
    return Reviewed(found._replace(errors=worded), remarks, asked)


def decision_of(remark: Remark) -> Decision:
    """What a coach accepted or added stays, whatever the model says."""
    decided = bool(remark.came_from or remark.root)
    return Decision(
        accepted=_accepted(remark),
        dismissed=remark.standing == Remark.Standing.DISMISSED,
        came_from=remark.came_from if decided else None,
    )


def _accepted(remark: Remark | None) -> bool:
    return remark is not None and (remark.own or remark.standing == Remark.Standing.ACCEPTED)


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
        drill=said.instead or error.drill,
        young=Young(
            said.because or with_names(match, error.young.because),
            said.instead or with_names(match, error.young.instead),
        ),
    )


def otherwise_of(match: Match, found: Reviewed, members: list[Error]) -> dict[str, Any] | None:
    """What the match would have come to with some errors gone otherwise, in a sentence with the names."""
    seen = found.review.seen
    other = otherwise_json(seen, undone(seen, members))
    return None if other is None else {**other, "because": with_names(match, other["because"])}


def causes_of(club: int) -> list[str]:
    """The causes that a coach chooses from."""
    own = Causes.objects.filter(club=club).first()
    return list(causes()) if own is None else list(own.words)


def review_json(match: Match) -> dict[str, Any]:
    """Errors, chains, marks and what was done well, for the screen."""
    found = reviewed(match)
    shown = {key for chain in chains_in_report(match, found) for key in chain.members}
    return {
        "found": [_error_json(match, found, error) for error in found.review.errors],
        "chains": [_chain_json(match, found, chain, shown) for chain in found.review.chains],
        "first": found.review.first_chains,
        "patterns": [{"said": one.said, "members": one.errors, "times": one.times} for one in found.review.patterns],
        "danger": in_danger(found.review.seen.log.ruleset),
        "causes": causes_of(match.athlete.club_id),
        "marks": _marks_json(found.review.seen),
        "well": [{**one.as_json(), "because": with_names(match, one.because)} for one in done_well(found.review.seen)],
        "stopped": [_stopped_json(one) for one in stopped_by(found.review.seen)],
        "planned": [one.as_json() for one in planned(found.review.seen, match.plan or "")],
        "decision": decision_json(found.review.seen),
        "offers": offers_json(match.athlete.club_id),
        "files": [{"name": one.name, "title": one.title} for one in EXPORTS],
    }


def _stopped_json(one: Stopped) -> dict[str, Any]:
    moments = [
        {"clock": to_seconds(each.clock), "start": to_seconds(each.start), "end": to_seconds(each.end)}
        for each in one.tries
    ]
    under = [{"grip": grip, "times": n} for grip, n in one.under.items()]
    return {"move": one.move, "stopped": len(one.tries), "tried": one.of, "moments": moments, "under": under}


def _error_json(match: Match, found: Reviewed, error: Error) -> dict[str, Any]:
    remark = found.remarks.get(error.key)
    came = found.review.came_from.get(error.key)
    swing = found.review.swings.get(error.key)
    cause = None if error.kind == OWN else cause_of(found.review.seen, error.found)
    return {
        **error.as_json(),
        "cause": None if cause is None else with_names(match, cause.because),
        "likely_causes": list(error.causes),
        "causes": remark.causes if remark else [],
        "standing": remark.standing if remark else Remark.Standing.OPEN,
        "own": bool(remark and remark.own),
        "edited": bool(remark and not remark.own and (remark.title or remark.because or remark.instead)),
        "came_from": None if came is None else _came_json(match, came),
        "suggested": [
            {"key": link.earlier, "because": with_names(match, link.because)}
            for link in found.review.likely.get(error.key, [])
        ],
        "marked": [str(mark.ref) for mark in marks_of(found.review.seen, error.found)],
        "swing": None if swing is None else swing.as_json(),
        "otherwise": otherwise_of(match, found, [error]),
    }  # fmt: skip


def _came_json(match: Match, came: Came) -> dict[str, Any]:
    return {"key": came.earlier, "because": with_names(match, came.because), "accepted": came.accepted}


def _chain_json(match: Match, found: Reviewed, chain: Chain, shown: Set[str]) -> dict[str, Any]:
    members = found.review.of(chain.members)
    links = [found.review.came_from[error.key] for error in members[1:] if error.key in found.review.came_from]
    return {
        **chain.as_json(),
        "cost": said_cost(found, members),
        "accepted": all(link.accepted for link in links) and _accepted(found.remarks.get(chain.root)),
        "in_report": [key for key in chain.members if key in shown],
        "otherwise": otherwise_of(match, found, members),
    }


def said_cost(found: Reviewed, members: list[Error], young: bool = False) -> str:
    """What errors cost together, in a sentence; empty where that is nothing. A child is shown no figures of chance."""
    sheet = members[0].said_cost if len(members) == 1 else _on_the_sheet(found, members)
    said = "" if sheet.startswith("nothing") else f"Cost: {sheet}"
    swung = [found.review.swings[error.key] for error in members if error.key in found.review.swings]
    if young or not swung:
        return f"{said}." if said else ""
    if in_danger(found.review.seen.log.ruleset):
        worst = max(swung, key=lambda swing: swing.was.lose - swing.otherwise.lose)
        after, without = (round(100 * chance.lose) for chance in (worst.was, worst.otherwise))
        return f"Chance of being finished: {after}% after it, {without}% without it." if after > without else ""
    lost = round(100 * min(1.0, sum(swing.lost for swing in swung)))
    if lost < 1:
        return f"{said}." if said else ""
    share = f"{lost} percentage point{'' if lost == 1 else 's'} of the chance to win"
    return f"{said}, and {share}." if said else f"Cost: {share}."


def _on_the_sheet(found: Reviewed, members: list[Error]) -> str:
    again = undone(found.review.seen, members)
    return "nothing" if again is None else str(regained(found.review.seen, again))


MOST, MOST_YOUNG = 3, 2
"""The most things that a report shows: more is not read on the way home."""


def accepted_chains(found: Reviewed) -> list[Chain]:
    """The chains with what the coach has accepted of each, what mattered most first: an athlete reads nothing else."""
    of = found.remarks.get
    kept = ((chain, tuple(key for key in chain.members if _accepted(of(key)))) for chain in found.review.chains)
    return [replace(chain, members=members) for chain, members in kept if members]


def chains_in_report(match: Match, found: Reviewed) -> list[Chain]:
    """The accepted chains that the athlete's report shows."""
    return accepted_chains(found)[: MOST_YOUNG if match.age < young_below() else MOST]


def _marks_json(seen: Seen) -> list[dict[str, Any]]:
    """All the coach's marks on the athlete, in order of time."""
    marks = sorted([*seen.marks(good=True), *seen.marks(good=False)], key=lambda mark: mark.t)
    return [
        {
            "id": str(mark.ref),
            "clock": to_seconds(seen.clock(mark.t)),
            "t": to_seconds(mark.t),
            "until": to_seconds(max(mark.t, mark.until)),
            "good": mark.good,
            "cause": mark.cause,
            "text": said_of(mark),
        }
        for mark in marks
    ]


class Outlook(NamedTuple):
    """How the match stood all along, and what each error swung."""

    prospects: Prospects
    swings: dict[str, Swing]
    """By the key of the error."""
    known: Taught


class _Asked:
    """What an outlook is of. It is compared by ``key``: the match, what the coach's matches teach, and own errors."""

    def __init__(self, key: tuple[object, ...], seen: Seen, found: list[Error], known: Taught) -> None:
        self.key, self.seen, self.found, self.known = key, seen, found, known

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Asked) and self.key == other.key

    def __hash__(self) -> int:
        return hash(self.key)


@lru_cache(maxsize=32)
def _outlook(of: _Asked) -> Outlook | None:
    model = model_of(of.seen, of.known.rates)
    if model is None:
        return None
    seen_all = prospects(of.seen, of.found, model, of.known.paces)
    swung = {error.key: swing for error, swing in zip(of.found, seen_all.swings, strict=True) if swing is not None}
    return Outlook(seen_all, swung, of.known)


def _outlook_of(match: Match) -> tuple[_Asked, Outlook]:
    asked = reviewed(match).asked
    outlook = _outlook(asked)
    if outlook is None:
        raise Refused("too_long", "The chance of winning is only calculated for matches of up to an hour.")
    return asked, outlook


def outlook_json(match: Match) -> dict[str, Any]:
    """The outlook for the screen: one row a second of the match clock."""
    _, outlook = _outlook_of(match)
    seen_all, rates = outlook.prospects, outlook.known.rates
    return {
        "matches": rates.matches,
        "minutes": round(rates.minutes),
        "submissions": submissions(outlook.known),
        "layers": [{**one._asdict(), "minutes": round(one.minutes)} for one in outlook.known.fitted.layers],
        "moments": [
            {
                "clock": to_seconds(moment.clock),
                "t": to_seconds(moment.t),
                "win": round(chance.win, 4),
                "lose": round(chance.lose, 4),
            }
            for moment, chance in zip(seen_all.moments, seen_all.chances, strict=True)
        ],
        "windows": [window.as_json() for window in seen_all.windows],
        "closings": [one.as_json() for one in seen_all.closings],
        "lets": [let.as_json() for let in seen_all.lets],
    }


def spread_json(match: Match) -> dict[str, Any]:
    """Between what the chance, and what each error cost of it, lies in four of five cases: how sure the rates are."""
    asked, _ = _outlook_of(match)
    found = _spread(asked)
    lost = {key: {"low": low, "high": high} for key, (low, high) in found.lost.items()}
    return {"low": found.low, "high": found.high, "lost": lost, "draws": DRAWS}


@lru_cache(maxsize=32)
def _spread(of: _Asked) -> Spread:
    outlook = _outlook(of)
    if outlook is None:
        return NO_SPREAD
    known = of.known.fitted
    return spread(of.seen, of.found, outlook.prospects, known.own, known.before)
