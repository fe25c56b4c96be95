"""What the clock asked for: attempts when behind, safety when ahead; and long stretches without a way out."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...adjudication.rows import Award
from ...adjudication.sentences import WHO
from ...match_log.observations import Attempt, Submission
from ...techniques import within_sentence
from ...times import Millis
from ..seen import Found, Seen, loss_of
from .control import TRIED

MOST_AHEAD = 8
"""Points: more than so many are not caught up with by losing the top once. Common practice, no source."""


def no_attempt(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Behind in the last minute, and from then on nothing tried."""
    if not seen.full_time:
        return
    ended = seen.clock(seen.over)
    start = seen.after_clock(0, max(0, ended - limits["last"]))
    moments = [start, *(row.t for row in seen.verdict.ledger if start < row.t < seen.over)]
    behind = None
    for t in moments:
        if seen.standing(t) >= 0:
            behind = None
        elif behind is None:
            behind = t
    left = 0 if behind is None else ended - seen.clock(behind)
    if behind is None or left < limits["least"] or _tried(seen, behind):
        return
    if not seen.watched(behind, seen.over):
        return
    facts = {"by": seen.lead_in(behind)[1], "left": left}
    yield Found("no_attempt", behind, seen.over, None, (), facts)


def _tried(seen: Seen, since: Millis) -> bool:
    attempts = [one for kind in TRIED for one in seen.of(kind, seen.side)]
    if any(one.t >= since or getattr(one, "until", one.t) > since for one in attempts):
        return True
    return seen.progressed(since, seen.over)


def risk_ahead(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Ahead late and on top, and the top was lost without its being needed: after an own attack, or by letting go."""
    for change in seen.changes:
        left = seen.left(change.t)
        if change.before.top != seen.side or change.after.top != seen.other or not 0 < left <= limits["last"]:
            continue
        ahead, by = seen.lead_in(change.t - 1)
        if ahead <= 0 or seen.lead(change.t - 1)["points"] > MOST_AHEAD:
            continue
        began = max(seen.since(change.t - 1), change.t - limits["attack"])
        attacks = [*seen.between(Submission, began, change.t, seen.side)]
        tries = [*seen.between(Attempt, began, change.t, seen.side)]
        if not attacks and not tries:
            continue  # the other side's doing
        how = f"went for {within_sentence(attacks[-1].technique)} and lost the top" if attacks else "lost the top"
        after = _paid_after(seen, change.t)
        how += f"; from there {WHO[seen.other]} got {loss_of(after, seen.side)}" if after else ""
        facts = {"by": by, "left": left, "how": how}
        refs = tuple(one.ref for one in attacks[-1:])
        # What was won by that change itself is covered by this; what came later has its own error.
        rows = [row for row in after if seen.began(row) == change.t and not seen.is_covered(row)]
        seen.cover(rows)
        seen.reported.add(change.t)
        yield Found(
            "risk_ahead",
            change.t,
            change.t,
            seen.exchange_at(change.t),
            refs,
            facts,
            loss_of(rows, seen.side),
            tuple(rows),
            place=change.before,
            changed=change.t,
        )


def _paid_after(seen: Seen, t: Millis) -> list[Award]:
    """What the other won before the athlete was on top or on the feet again."""
    back = [one.t for one in seen.changes if one.t > t and one.after.top != seen.other]
    until = min(back, default=seen.over)
    return [row for row in seen.verdict.ledger if seen.gains(row) and t <= seen.began(row) < until]
