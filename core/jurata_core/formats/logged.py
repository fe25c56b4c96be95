"""What was logged, apart from what it is worth: as CSV, one row per observation, and as WebVTT, one cue each.

The part of a body that a mark names as injured is in neither: few may read it.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from typing import Any

from ..adjudication import Verdict
from ..match_log import MatchLog
from ..match_log.kinds import COMMON, KINDS
from ..match_log.observations import SIDES, TALLIES, Observation, Side
from ..times import Millis, minutes, to_seconds
from .captions import NAMES, Names, written
from .table import csv_text

SHOWN: Millis = 2_000
"""How long a cue stays on for what has no end of its own."""
NOT_SHOWN = ("hurt",)
_ACTORS = ("by", "on", "to", "won", "top")
"""The fields that say whose it is, the first of them that is there."""
_FIELDS = tuple(
    dict.fromkeys(
        name
        for _, spec in KINDS.values()
        for name, _, _ in spec
        if name not in (*_ACTORS, *NOT_SHOWN, "until", "score", "votes", "clock")
    )
)
HEAD = ("t", "clock", "until", "kind", "id", "side", *_FIELDS, "score", "votes", "sure", "note")


def logged_csv(log: MatchLog, verdict: Verdict) -> str:
    """CSV as RFC 4180 has it; times in seconds of footage, ``clock`` as m:ss, ``score`` as points-advantages-penalties
    of either side."""
    out = io.StringIO()
    writer = csv.DictWriter(out, HEAD, restval="", extrasaction="ignore")
    writer.writeheader()
    for seen, raw in _with_raw(log):
        row: dict[str, Any] = {name: _cell(raw[name]) for name in _FIELDS if raw.get(name) is not None}
        row |= {"t": to_seconds(seen.t), "clock": minutes(verdict.clock_at(seen.t)), "kind": raw["kind"]}
        row |= {"until": raw.get("until", ""), "id": _cell(raw.get("id", "")), "side": _side(raw) or ""}
        row |= {"score": _figures(raw.get("score")), "votes": _votes(raw.get("votes"))}
        writer.writerow(row | {"sure": _cell(seen.sure), "note": _cell(seen.note or "")})
    return out.getvalue()


def logged_captions(log: MatchLog, verdict: Verdict, names: Names = NAMES) -> str:
    """WebVTT text with times of the footage; cues may be on at once."""
    cues = []
    for seen, raw in _with_raw(log):
        until = max(getattr(seen, "until", seen.t), seen.t + SHOWN)
        cues.append((seen.t, until, _text(raw, names)))
    return written(cues)


def _with_raw(log: MatchLog) -> list[tuple[Observation, Mapping[str, Any]]]:
    """The observations in order of time, each with its object in the file; one with an id is found by that."""
    raws = log.raw["observations"]
    by_id = {raw["id"]: raw for raw in raws if raw.get("id") is not None}
    return [(seen, raws[seen.index] if seen.id is None else by_id[seen.id]) for seen in log.observations]


def _side(raw: Mapping[str, Any]) -> str | None:
    return next((str(raw[name]) for name in _ACTORS if raw.get(name) is not None), None)


def _text(raw: Mapping[str, Any], names: Names) -> str:
    """One line: whose, which kind, and what is said of it."""
    side = _side(raw)
    who = [names[one] for one in SIDES if side in (one, "both")]
    common = {name for name, _, _ in COMMON}
    said = [_said(name, raw[name]) for name in _FIELDS if name not in common and raw.get(name) not in (None, False, "")]
    score = [_figures(raw["score"])] if raw.get("score") else []
    return " · ".join([*who, str(raw["kind"]), *said, *score])


def _said(name: str, value: Any) -> str:
    shown = str(value).replace("_", " ")
    if value is True:
        return name
    return f"{name} {shown}" if name in ("own", "target", "knee", "heel", "for", *TALLIES) else shown


def _figures(score: Any) -> str:
    if not isinstance(score, dict):
        return ""

    def of(side: Side) -> str:
        return "-".join(str((score.get(side) or {}).get(tally, 0)) for tally in TALLIES)

    return f"{of('a')} {of('b')}"


def _votes(votes: Any) -> str:
    return f"{votes.get('a', 0)}-{votes.get('b', 0)}" if isinstance(votes, dict) else ""


def _cell(value: Any) -> str:
    """A value in a cell of a table, which no spreadsheet takes for a formula."""
    return str(value).lower() if isinstance(value, bool) else csv_text(str(value))
