"""What the other side won: taken, given away by an own attempt, or long announced by a grip."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...adjudication.reasons import CloseSubmission, Held, Lost, MissReason, NearScore, claims_of
from ...adjudication.rows import Award
from ...adjudication.sentences import CLAIMS
from ...match_log.observations import Attempt, End, Pull, Submission, Technique
from ...techniques import within_sentence
from ...times import Millis, minutes
from ..seen import Found, Seen, loss_of

STILL_ON: Millis = 2_000
"""A hold that is logged to have ended so shortly before the other side finished the match is what finished it."""


def submitted(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """The match was lost by a submission."""
    result = seen.verdict.result
    if result.method != "submission" or result.winner != seen.other:
        return
    for end in seen.of(End):
        if end.how == "submission" and end.t == result.t:
            facts = {
                "technique": end.technique or "a submission", "clock": seen.clock(end.t),
                "place": seen.place_at(end.t).position, "cost": "the match",
            }  # fmt: skip
            holds = [one for one in seen.of(Submission, seen.other) if one.until >= end.t - STILL_ON]
            seen.cover(row for one in holds for row in seen.rows_at(one.until) if _of_hold(row, one))
            since = min([*(one.t for one in holds), end.t])
            yield Found("submitted", since, end.t, None, (end.ref,), facts, drop=(end.ref,), changed=since)


def _of_hold(row: Award, hold: Submission) -> bool:
    return isinstance(row.reason, CloseSubmission) and hold.ref in row.observations


def given(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Won by the other side right after an own attempt that did not come off."""
    for rows in _won(seen):
        began = seen.began(rows[0])
        attempt = _failed_attempt(seen, began, limits["within"])
        if attempt is not None:
            at, what = attempt
            yield _conceded(seen, "given", rows, {"attempt": what, "after": max(0, began - at)}, at)


def taken(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Won by the other side by its own doing."""
    for rows in _won(seen):
        yield _conceded(seen, "taken", rows, {}, seen.began(rows[0]))


def _won(seen: Seen) -> list[list[Award]]:
    """What the other side won: what came by one step and was paid at one moment together."""
    steps: dict[tuple[Millis, Millis, bool], list[Award]] = {}
    for row in seen.verdict.ledger:
        if seen.gains(row) and not seen.is_covered(row):
            steps.setdefault((row.t, seen.began(row), isinstance(row.reason, Held)), []).append(row)
    return list(steps.values())


def _conceded(seen: Seen, kind: str, rows: list[Award], facts: Mapping[str, object], since: Millis) -> Found:
    seen.cover(rows)
    loss, row = loss_of(rows, seen.side), rows[0]
    said = {
        "what": " and ".join(what(one) for one in rows),
        "called": called(rows),
        "cost": str(loss),
        "sentence": " ".join(one.because for one in rows),
        "clock": seen.clock(row.t),
        **facts,
    }
    # A hold or a near thing is of itself; a claim is of the change of place that led to it.
    refs = tuple(dict.fromkeys(ref for one in rows for ref in one.observations))
    drop = refs if isinstance(row.reason, NearScore | CloseSubmission) else ()
    # What was got out of again cost what was given for it, and not the position.
    place = seen.place_at(row.t) if isinstance(row.reason, Lost) else seen.place_before(seen.began(row))
    return Found(
        kind, since, row.t, seen.exchange_of(row), refs, said, loss, tuple(rows), drop, place=place,
        changed=seen.began(row),
    )  # fmt: skip


def called(rows: list[Award]) -> str:
    """What happened to the side that conceded some rows by one step, in words."""
    row = rows[0]
    if isinstance(row.reason, CloseSubmission):
        return f"nearly submitted by {within_sentence(row.reason.technique)}"
    if any("double_pull_top" in claims_of(one.reason) for one in rows):
        return "The other side came up first after both had sat down"
    claims = " and ".join(dict.fromkeys(CLAIMS[claim] for one in rows for claim in claims_of(one.reason)))
    return f"{claims} nearly conceded" if isinstance(row.reason, Lost | NearScore) else f"{claims} conceded"


def what(row: Award) -> str:
    """What a row was won by, in words."""
    if isinstance(row.reason, CloseSubmission):
        return f"a close {within_sentence(row.reason.technique)}"
    claims = " and ".join(CLAIMS[claim] for claim in claims_of(row.reason))
    return f"a near {claims}" if isinstance(row.reason, Lost | NearScore) else claims


def _failed_attempt(seen: Seen, began: Millis, within: Millis) -> tuple[Millis, str] | None:
    """The own attempt that ended last before ``began``, and when: a submission, a throw, a claim lost just then."""
    near = began - within
    found: list[tuple[Millis, str]] = []
    attacks: list[tuple[Millis, Submission | Technique]] = [
        *((one.until, one) for one in seen.lasting_into(Submission, near, began, seen.side)),
        *((one.t, one) for one in seen.between(Technique, near, began, seen.side)),
    ]
    for ended, one in attacks:
        if one.t < began and near <= ended:
            found.append((min(ended, began), f"{one.technique} at {_at(seen, one.t)}"))
    found += [
        (one.t, f"a {CLAIMS[one.move]} that nearly worked at {_at(seen, one.t)}")
        for one in seen.between(Attempt, near, began, seen.side)
        if one.outcome == "near"
    ]
    found += [
        (row.t, f"the {CLAIMS[row.claim]} at {_at(seen, row.since)}, not held")
        for row in seen.missed_at(began)
        if row.to == seen.side and isinstance(row.reason, MissReason) and row.reason.ending == "position"
    ]
    found += [
        (pull.t, f"a pull that was caught at {_at(seen, pull.t)}")
        for pull in seen.between(Pull, near, began, seen.side)
        if pull.caught
    ]
    return max(found, default=None)


def _at(seen: Seen, t: Millis) -> str:
    return minutes(seen.clock(t))
