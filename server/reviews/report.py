"""The athlete's report: result, what was done well, what mattered and where it began, what to drill, and the time line.

Of errors it has those alone that the coach has accepted.

A child reads less, in shorter sentences, and no figures of chance.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.db.models import QuerySet
from django.template.loader import render_to_string

from config.printing import pdf
from jobs.models import Job
from jurata_core.adjudication.sentences import amount
from jurata_core.match_log.observations import SIDES, TALLIES, Mark
from jurata_core.review import Chain, Error, done_well, stopped_by, stopped_said, undone, without_it, young_below
from jurata_core.times import minutes, to_seconds
from matches.logs import ruleset_title, with_names
from matches.models import Match

from .models import Answer
from .queries import Reviewed, accepted_chains, chains_in_report, reviewed, said_cost

MOST_WELL = 3
STYLE = Path(__file__).parent / "static" / "reviews" / "report.css"
DEFERENCE = (
    "Scored from footage by your coach. The event's own rulebook and its referees come first. "
    "Have any injury seen by licensed medical staff. Tap early in training, and let go at the tap."
)


def report_json(match: Match, answers: QuerySet[Answer]) -> dict[str, Any]:
    """All that the report shows, with some of what was answered; nothing of any other match, and no names of files."""
    found = reviewed(match)
    young = match.age < young_below()
    verdict = found.review.seen.verdict
    written = getattr(match, "report", None)
    ticked = set(match.ticks.values_list("key", flat=True))
    cuts = {cut.key: cut for cut in match.cuts.filter(job__state=Job.State.DONE)}
    accepted = accepted_chains(found)
    drills = [_drill(error, ticked) for error in _drilled(found, accepted)]
    return {
        "athlete": match.athlete.name,
        "opponent": match.opponent,
        "event": match.event,
        "date": match.date,
        "ruleset": ruleset_title(match.ruleset),
        "young": young,
        "score": {side: dict(tally) for side, tally in verdict.score.items()},
        "result": {"winner": verdict.result.winner, "method": verdict.result.method},
        "because": with_names(match, verdict.summary()["because"]),
        "greeting": written.greeting if written else "",
        "well": _well(match, found, written.well if written else ""),
        "mattered": [_thing(match, found, chain, cuts, young) for chain in chains_in_report(match, found)],
        "drills": drills,
        "line": _line(found, accepted),
        "notes": [
            {"clock": to_seconds(verdict.clock_at(note.t_ms)), "text": note.text}
            for note in match.notes.all()
            if note.text
        ],
        "answers": [
            {"id": one.pk, "key": one.key, "text": one.text, "at": one.at, "reply": one.reply} for one in answers
        ],
        "injuries": [],
        "deference": DEFERENCE,
    }


def injuries_in(match: Match) -> list[dict[str, Any]]:
    """What the log says of injuries of the athlete; for those alone who may see it."""
    seen = reviewed(match).review.seen
    marks = [one for one in seen.log.observations if isinstance(one, Mark) and one.hurt and one.on == seen.side]
    return [{"clock": to_seconds(seen.clock(one.t)), "part": one.hurt} for one in marks]


def _well(match: Match, found: Reviewed, written: str) -> list[str]:
    """What was done well: what the coach writes, then what the log shows, and what was stopped in one sentence."""
    seen = found.review.seen
    shown = [with_names(match, one.because) for one in done_well(seen) if one.kind != "stopped"]
    stopped = stopped_said(stopped_by(seen))
    return [*[*([written] if written else []), *shown][:MOST_WELL], *([stopped] if stopped else [])]


def _thing(match: Match, found: Reviewed, chain: Chain, cuts: dict[str, Any], young: bool) -> dict[str, Any]:
    members = found.review.of(chain.members)
    first = members[0]
    other = without_it(found.review.seen, undone(found.review.seen, members))
    remark = found.remarks.get(first.key)
    shown = [
        {"cut": cuts[error.key].pk, "captions": cuts[error.key].style == "captions", "title": error.title}
        for error in members
        if error.key in cuts
    ]
    return {
        "key": first.key,
        "title": first.title,
        "clock": to_seconds(first.since_clock),
        "because": first.young.because if young else first.because,
        "instead": first.young.instead if young else first.instead,
        "led_to": [{"clock": to_seconds(error.since_clock), "title": error.title} for error in members[1:]],
        "cost": said_cost(found, members, young),
        "otherwise": None if other is None else with_names(match, other),
        "causes": remark.causes if remark else [],
        "clips": shown,
    }


def _drilled(found: Reviewed, accepted: list[Chain]) -> list[Error]:
    """Where each chain of what was accepted begins; one drill once."""
    by_key = {error.key: error for error in found.review.errors}
    said: dict[str, Error] = {}
    for chain in accepted:
        first = by_key[chain.members[0]]
        if first.drill:
            said.setdefault(first.drill, first)
    return list(said.values())


def _drill(error: Error, ticked: set[str]) -> dict[str, Any]:
    return {"key": error.key, "text": error.drill, "done": error.key in ticked}


def _line(found: Reviewed, accepted: list[Chain]) -> list[dict[str, Any]]:
    """One row an exchange that gave something: who gained what, and the accepted errors that began in it."""
    verdict = found.review.seen.verdict
    accepted_keys = {key for chain in accepted for key in chain.members}
    rows = []
    began_in: dict[int | None, list[str]] = {}
    for error in found.review.errors:
        if error.key in accepted_keys:
            began_in.setdefault(verdict.timeline.exchange_at(error.found.since), []).append(error.title)
    for number, (exchange, awards, _) in enumerate(verdict.by_exchange()):
        began = began_in.get(number, [])
        if awards or began:
            gained = [{"to": row.to, "kind": row.kind, "n": row.n} for row in awards]
            rows.append({"clock": to_seconds(exchange.clock_start), "gained": gained, "began": began})
    return rows


def report_pdf(match: Match, answers: QuerySet[Answer]) -> bytes:
    shown = report_json(match, answers)
    return pdf(render_to_string("reviews/report.html", {"report": _printed(shown)}), STYLE)


def _printed(shown: dict[str, Any]) -> dict[str, Any]:
    """Times as m:ss, and amounts in words, for a page without a browser."""

    def walk(value: Any) -> Any:
        if isinstance(value, dict):
            return {name: _clock(one) if name == "clock" else walk(one) for name, one in value.items()}
        return [walk(one) for one in value] if isinstance(value, list) else value

    printed: dict[str, Any] = walk(shown)
    for row in printed["line"]:
        for gain in row["gained"]:
            gain["said"] = amount(gain["n"], gain["kind"])
    for side in SIDES:
        score = printed["score"][side]
        score["said"] = ", ".join(amount(score[tally], tally) for tally in TALLIES)
    return printed


def _clock(seconds: float) -> str:
    return minutes(round(seconds * 1000))
