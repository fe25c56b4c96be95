"""The verdict as JSON, in a form that can be brought up to date: what is the same as before is not made again."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import islice
from typing import TYPE_CHECKING, Any, NamedTuple

from ..match_log.observations import SIDES, TALLIES, Side
from ..times import to_seconds
from .common_rows import common_ends, common_head, common_tail
from .rows import Award, Count, Exchange, IllegalMove, UnpaidClaim, Warned
from .timeline import ClockChange

if TYPE_CHECKING:
    from .verdict import Verdict


class Rendered(NamedTuple):
    """A verdict with its JSON."""

    verdict: Verdict
    json: Mapping[str, Any]


ROWS: dict[str, Callable[[Any], Any]] = {
    "ledger": Award.as_json,
    "open": UnpaidClaim.as_json,
    "missed": UnpaidClaim.as_json,
    "unpaid": UnpaidClaim.as_json,
    "counts": Count.as_json,
    "illegal": IllegalMove.as_json,
    "positions": lambda row: {"t": to_seconds(row[0]), "position": row[1].position, "top": row[1].top},
    "clock": ClockChange.as_json,
    "warnings": Warned.as_json,
}
"""The lists of a verdict in which each row is rendered by itself, and how."""


def rendered(verdict: Verdict, before: Rendered | None = None) -> dict[str, Any]:
    """The verdict as JSON, in which each exchange numbers its rows from its own first one.

    Rows that are the same as in the verdict ``before`` are the same objects as in its JSON.
    """
    rows = {name: _rows(name, verdict, before) for name in ROWS}
    rows["exchanges"] = _exchanges(verdict, before)
    ended = None if verdict.result.t is None else to_seconds(verdict.result.t)
    return {**verdict.summary(), "ended": ended, **rows}


def numbered(json: Mapping[str, Any]) -> dict[str, Any]:
    """What :func:`rendered` gives, with the rows of the exchanges numbered as in the verdict's lists."""
    exchanges = []
    award = miss = 0
    for one in json["exchanges"]:
        awards, misses = award + len(one["ledger_rows"]), miss + len(one["missed_rows"])
        exchanges.append({**one, "ledger_rows": list(range(award, awards)), "missed_rows": list(range(miss, misses))})
        award, miss = awards, misses
    return {**json, "exchanges": exchanges}


def _rows(name: str, verdict: Verdict, before: Rendered | None) -> list[Any]:
    rows, render = getattr(verdict, name), ROWS[name]
    if before is None:
        return [render(row) for row in rows]
    known, json = getattr(before.verdict, name), before.json[name]
    head, tail = common_ends(rows, known)
    middle = [render(row) for row in rows[head : len(rows) - tail]]
    return [*json[:head], *middle, *json[len(known) - tail :]]


def _exchanges(verdict: Verdict, before: Rendered | None) -> list[dict[str, Any]]:
    if before is None:
        return [_exchange(*filed) for filed in verdict.by_exchange()]
    known = before.verdict
    lists = ((verdict.exchanges, known.exchanges), (verdict.ledger, known.ledger), (verdict.missed, known.missed))
    # An exchange is rendered alike where its rows are alike too.
    begun, *rows = [common_head(*one) for one in lists]
    head = _holding(verdict.exchanges[:begun], *rows)
    ended, *rows = [common_tail(*one) for one in lists]
    shorter = min(len(verdict.exchanges), len(known.exchanges))
    tail = _holding(verdict.exchanges[::-1][: min(ended, shorter - head)], *rows)
    json = before.json["exchanges"]
    changed = islice(verdict.by_exchange(head), len(verdict.exchanges) - tail - head)
    return [*json[:head], *(_exchange(*filed) for filed in changed), *json[len(json) - tail :]]


def _holding(exchanges: Sequence[Exchange], awards: int, missed: int) -> int:
    """How many of the first exchanges hold no more than so many rows."""
    most = len(exchanges)
    held = sum(one.awards for one in exchanges), sum(one.missed for one in exchanges)
    while most and (held[0] > awards or held[1] > missed):
        most -= 1
        held = held[0] - exchanges[most].awards, held[1] - exchanges[most].missed
    return most


def _exchange(exchange: Exchange, awards: Sequence[Award], misses: Sequence[UnpaidClaim]) -> dict[str, Any]:
    awarded = {side: dict.fromkeys(TALLIES, 0) for side in SIDES}
    missed: dict[Side, list[str]] = {side: [] for side in SIDES}
    for award in awards:
        awarded[award.to][award.kind] += award.n
    for miss in misses:
        missed[miss.to].append(miss.claim)
    return {
        "start": to_seconds(exchange.start),
        "end": to_seconds(exchange.end),
        "clock_start": to_seconds(exchange.clock_start),
        "clock_end": to_seconds(exchange.clock_end),
        "title": exchange.title,
        "by_hand": exchange.by_hand,
        "first": exchange.first._asdict(),
        "last": exchange.last._asdict(),
        "awarded": awarded,
        "missed": missed,
        "ledger_rows": list(range(exchange.awards)),
        "missed_rows": list(range(exchange.missed)),
    }
