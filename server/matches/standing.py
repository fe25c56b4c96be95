"""Where a match stands: its log and verdict, kept in memory from one question to the next.

Every change of a log or of its setting gets a revision under a lock of its match, so what is kept here is
brought up to date with only the rows that have changed since: those that were just
written, or, where another process wrote too, by reading them. Never asked for inside a
transaction that has written to the log: what is rolled back would stay here.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from itertools import takewhile
from operator import attrgetter
from threading import Lock
from typing import Any, NamedTuple

from prometheus_client import Counter

from jurata_core.adjudication import Adjudicator, Outlook, Verdict
from jurata_core.adjudication.common_rows import common_ends
from jurata_core.adjudication.rendering import numbered
from jurata_core.faults import Fault, FaultyInput
from jurata_core.match_log import MatchLog, read_log
from jurata_core.match_log.kinds import read_observation
from jurata_core.match_log.observations import Observation
from jurata_core.review import Seen, decision_ahead
from jurata_core.times import Millis

from .logs import log_of
from .models import Match
from .models import Observation as Row

ASKED = Counter("jurata_verdicts", "Verdicts that were asked for: kept in memory, or read from the database.", ["from"])
MOST_KEPT = 100
UNREAD = -1
"""The revision before anything was read."""


class Standing(NamedTuple):
    """A match at a revision: what is logged, as stored and as read, and the verdict on it."""

    revision: int
    observations: list[dict[str, Any]]
    revisions: dict[str, int]
    """Of each observation by its key, deleted ones too; those that changed last at the end."""
    log: MatchLog
    verdict: Verdict
    sent: Mapping[str, Any]
    """The verdict as it is sent in a change: each exchange numbers its rows from its own first one."""

    @property
    def json(self) -> Mapping[str, Any]:
        """The verdict as JSON."""
        return numbered(self.sent)


class _Row(NamedTuple):
    body: dict[str, Any]
    seen: Observation | None
    """None where it was taken back."""


class _Kept:
    """One match as it was last read, to be used with its lock held."""

    def __init__(self) -> None:
        self.lock = Lock()
        self.standing: Standing | None = None
        self.adjudicator: Adjudicator | None = None
        self.rows: dict[str, _Row] = {}
        """What is logged, in the order in which it was first made."""
        self.revisions: dict[str, int] = {}
        """Of every key, those that changed last at the end."""

    def catch_up(self, match: Match, written: Sequence[Row] = ()) -> Standing:
        if self.standing is None or match.revision > self.standing.revision:
            changed = written if self._goes_on_with(written) else self._changed(match)
            revision = max([match.revision, *(row.revision for row in changed)])
            if revision > match.revision:  # somebody wrote meanwhile, and may have changed the setting before
                match = Match.objects.get(pk=match.pk)
            self._take(changed)
            self.standing = self._adjudicated(match, revision)
        return self.standing

    def _goes_on_with(self, written: Sequence[Row]) -> bool:
        """Whether what was written is all that has happened since."""
        return self.standing is not None and bool(written) and written[0].revision == self.standing.revision + 1

    def _changed(self, match: Match) -> Sequence[Any]:
        """What has changed since, in the order in which it was first made: rows with what is asked of them."""
        revision = UNREAD if self.standing is None else self.standing.revision
        rows = match.observations.filter(revision__gt=revision)
        return list(rows.values_list("key", "sequence", "body", "deleted", "revision", named=True))

    def _take(self, changed: Iterable[Any]) -> None:
        faults: list[Fault] = []
        for row in changed:
            path = f"observations[{row.sequence}]."
            seen = None if row.deleted else read_observation(row.body, row.sequence, path, faults)
            self.rows[row.key] = _Row(row.body, seen)
            self.revisions.pop(row.key, None)
            self.revisions[row.key] = row.revision
        if faults:
            raise FaultyInput(faults)

    def _adjudicated(self, match: Match, revision: int) -> Standing:
        live = [row for row in self.rows.values() if row.seen is not None]
        bodies = [row.body for row in live]
        seen = sorted([row.seen for row in live if row.seen is not None], key=attrgetter("t"))
        raw = log_of(match, bodies)
        log = replace(read_log({**raw, "observations": []}), observations=tuple(seen), raw=raw)
        if self.adjudicator is None:
            self.adjudicator = Adjudicator(log)
        else:
            self.adjudicator.take(log)
        verdict = self.adjudicator.verdict
        return Standing(revision, bodies, dict(self.revisions), log, verdict, self.adjudicator.json)


@lru_cache(maxsize=MOST_KEPT)
def _kept(match: uuid.UUID) -> _Kept:
    return _Kept()


def standing(match: Match, written: Sequence[Row] = ()) -> Standing:
    """Where a match stands, at its revision or a later one; ``written`` is what led to its revision last."""
    kept = _kept(match.pk)
    with kept.lock:
        ASKED.labels("read" if kept.standing is None else "kept").inc()
        return kept.catch_up(match, written)


def outlook_at(match: Match, t: Millis) -> Outlook:
    """What can follow from where the match stands at ``t``."""
    kept = _kept(match.pk)
    with kept.lock:
        kept.catch_up(match)
        assert kept.adjudicator is not None  # it has caught up
        return kept.adjudicator.outlook(t)


def decision_at(match: Match, t: Millis) -> dict[str, Any] | None:
    """What referees would be asked to weigh, in the last minute of a level match; None at other times."""
    now = standing(match)
    return decision_ahead(Seen(now.log, now.verdict), t)


def changed(before: Standing | None, now: Standing) -> dict[str, Any]:
    """What has changed from one standing to another: lists as splices. From None, all of it."""
    revisions = now.revisions
    if before is not None:
        latest = reversed(now.revisions.items())
        revisions = dict(takewhile(lambda one: one[1] > before.revision, latest))
    sent = {} if before is None else before.sent
    verdict = {
        name: splice(sent.get(name, []), value) if isinstance(value, list) else value
        for name, value in now.sent.items()
    }
    return {
        "base": None if before is None else before.revision,
        "revision": now.revision,
        "observations": splice([] if before is None else before.observations, now.observations),
        "revisions": revisions,
        "verdict": verdict,
    }


def splice(before: list[Any], now: list[Any]) -> dict[str, Any]:
    """How to make a list into another: remove so many from a place on, and put others there."""
    head, tail = common_ends(before, now)
    return {"start": head, "remove": len(before) - head - tail, "add": now[head : len(now) - tail]}
