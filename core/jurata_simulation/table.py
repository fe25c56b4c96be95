"""A simulated scoreboard table: the officials' calls of a match, late and not all of them right.

It stands in for an event's table. It knows a match's log, lets it run, and gives each
call as a line of JSON when the table would show it: ``{"clock": 34.5, "to": "a",
"points": 2}``, with the match clock in seconds. Over HTTP, ``/matches`` lists the matches it
has and ``/calls/NAME?speed=20`` runs one, twenty times as fast (0: all at once).
"""

from __future__ import annotations

import json
import random
import time
from collections.abc import Iterator, Mapping
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs, unquote, urlsplit

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.reasons import CarriedIn, CoachRuling
from jurata_core.match_log import MatchLog
from jurata_core.match_log.observations import OTHER
from jurata_core.times import Millis, to_seconds

EARLIEST, LATEST = 600, 2_800
"""How late a call comes after its award, in milliseconds."""
OVERLOOKED, MISTAKEN = 0.1, 0.08
"""Shares of awards that the table does not give, and gives wrongly."""


def calls(log: MatchLog, seed: int = 1) -> list[tuple[Millis, dict[str, Any]]]:
    """The calls of a match, as (match clock, call), in order. The same seed gives the same calls."""
    rng = random.Random(seed)
    given: list[tuple[Millis, dict[str, Any]]] = []
    for row in adjudicate(log).ledger:
        if isinstance(row.reason, CoachRuling | CarriedIn) or rng.random() < OVERLOOKED:
            continue
        clock = row.clock + rng.randrange(EARLIEST, LATEST, 100)
        to, n = row.to, row.n
        if rng.random() < MISTAKEN:
            to, n = (OTHER[to], n) if rng.random() < 0.5 else (to, 2 if n != 2 else 3)
        given.append((clock, {"clock": to_seconds(clock), "to": to, row.kind: n}))
    return sorted(given, key=lambda call: call[0])


def running(log: MatchLog, speed: float, seed: int = 1) -> Iterator[str]:
    """The calls as lines of JSON, each when it falls due at ``speed`` times real time; at once with 0."""
    begun = time.monotonic()
    for clock, call in calls(log, seed):
        if speed > 0:
            time.sleep(max(0.0, begun + clock / 1000 / speed - time.monotonic()))
        yield json.dumps(call)


def serve(logs: Mapping[str, MatchLog], port: int) -> ThreadingHTTPServer:
    """A server on loopback for the matches given; the caller runs it with ``serve_forever``."""

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            asked = urlsplit(self.path)
            name = unquote(asked.path.removeprefix("/calls/"))
            if asked.path == "/matches":
                self._begin("application/json")
                self.wfile.write(json.dumps(sorted(logs)).encode())
            elif asked.path.startswith("/calls/") and name in logs:
                self._begin("application/jsonl")
                for line in running(logs[name], _speed(parse_qs(asked.query).get("speed", ["1"])[0])):
                    self.wfile.write(f"{line}\n".encode())
                    self.wfile.flush()
            else:
                self.send_error(404)

        def _begin(self, content_type: str) -> None:
            self.send_response(200)
            self.send_header("Content-Type", content_type)
            self.end_headers()

        def log_message(self, format: str, *args: Any) -> None:
            """A table says nothing on the console."""

    return ThreadingHTTPServer(("127.0.0.1", port), Handler)


def _speed(text: str) -> float:
    try:
        return min(1000.0, max(0.0, float(text)))
    except ValueError:
        return 1.0
