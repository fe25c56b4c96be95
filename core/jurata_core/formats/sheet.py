"""A verdict as a score sheet in plain text, to print or to send."""

from __future__ import annotations

from collections.abc import Sequence

from ..adjudication import Verdict
from ..adjudication.places import Place
from ..adjudication.reasons import Lost
from ..adjudication.rows import Award, UnpaidClaim
from ..adjudication.sentences import PLACES, WHO, amount
from ..match_log import MatchLog
from ..match_log.observations import SIDES, TALLIES
from ..times import minutes
from .captions import NAMES, Names, called

DEFERENCE = "The event's own rulebook, its referees and its licensed medical staff overrule this sheet."


def score_sheet(
    log: MatchLog, verdict: Verdict, deciding: Sequence[str] = (), names: Names = NAMES, event: str = ""
) -> str:
    """Head, score, one block per exchange with what it gave and what was missed, then warnings.

    ``deciding`` are sentences on the judgements that decide the match by themselves; ``event`` is where and when.
    """
    length = "no set length" if log.duration is None else f"{minutes(log.duration)} min"
    head = f"{log.ruleset.title} · {log.division} · {length}"
    lines = ["SCORE SHEET", *([event] if event else []), head, ""]
    wide = max(14, *(len(name) + 2 for name in names.values()))
    lines += [f"{'':{wide}}{''.join(f'{tally:>12}' for tally in TALLIES)}"]
    for side in SIDES:
        numbers = "".join(f"{verdict.score[side][tally]:>12}" for tally in TALLIES)
        lines.append(f"{names[side]:{wide}}{numbers}")
    lines += ["", *(called(text, names) for text in (verdict.result.because, *deciding)), ""]
    for number, (exchange, awards, missed) in enumerate(verdict.by_exchange(), 1):
        overtime = " · overtime" if verdict.timeline.period_at(exchange.end) else ""
        title = f" · {exchange.title}" if exchange.title else ""
        span = f"{minutes(exchange.clock_start)} to {minutes(exchange.clock_end)}"
        lines.append(
            f"{number}. {span} · {_place(exchange.first, names)} to {_place(exchange.last, names)}{overtime}{title}"
        )
        for row in _in_order(awards, missed):
            given = amount(row.n, row.kind) if isinstance(row, Award) else "missed"
            lines += [
                f"   {minutes(row.clock):>5}  {names[row.to]}, {given}",
                f"          {called(row.because, names)}",
            ]
    doubtful = [row.because for row in verdict.illegal] + [row.because for row in verdict.warnings]
    if doubtful:
        lines += ["", "Worth checking:", *(f"- {called(because, names)}" for because in doubtful)]
    return "\n".join([*lines, "", DEFERENCE]) + "\n"


def _in_order(awards: Sequence[Award], missed: Sequence[UnpaidClaim]) -> list[Award | UnpaidClaim]:
    """Awards and misses of one exchange in order of time; a miss that gave an advantage is said by that."""
    consoled = {(row.t, row.to) for row in awards if isinstance(row.reason, Lost)}
    rows: list[Award | UnpaidClaim] = [*awards, *(miss for miss in missed if (miss.t, miss.to) not in consoled)]
    return sorted(rows, key=lambda row: row.t)


def _place(place: Place, names: Names) -> str:
    held = f" ({called(WHO[place.top], names).removeprefix('the ')} on top)" if place.top else ""
    return f"{PLACES[place.position].removeprefix('the ')}{held}"
