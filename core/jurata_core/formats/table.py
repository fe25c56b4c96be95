"""A verdict's ledger as CSV: one row per entry, with the score after it."""

from __future__ import annotations

import csv
import io

from ..adjudication import Verdict
from ..match_log.observations import SIDES, TALLIES
from ..times import minutes, to_seconds

HEAD = ("t", "clock", "period", "to", "kind", "n", "reason", "because", "observations")
AFTER = tuple(f"{tally}_{side}" for side in SIDES for tally in TALLIES)
"""The columns of the score after a row."""


def ledger_csv(verdict: Verdict) -> str:
    """CSV as RFC 4180 has it; ``t`` in seconds of footage, ``clock`` as m:ss of the match clock.

    ``period`` is that of overtime, 0 in regular time.
    """
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow((*HEAD, *AFTER))
    score = {side: dict.fromkeys(TALLIES, 0) for side in SIDES}
    for row in verdict.ledger:
        score[row.to][row.kind] += row.n
        cited = " ".join(str(ref) for ref in row.observations)
        because = row.because
        after = [score[side][tally] for side in SIDES for tally in TALLIES]
        writer.writerow(
            [
                to_seconds(row.t),
                minutes(row.clock),
                verdict.timeline.period_at(row.t),
                row.to,
                row.kind,
                row.n,
                row.reason.code,
                csv_text(because),
                csv_text(cited),
                *after,
            ]
        )
    return out.getvalue()


def csv_text(words: str) -> str:
    """Words that came with the log, so that no spreadsheet takes them for a formula."""
    return f"'{words}" if words.startswith(("=", "+", "-", "@", "\t", "\r")) else words
