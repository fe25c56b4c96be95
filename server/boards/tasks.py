"""Reading the scoreboard of a clip, by the background worker."""

from __future__ import annotations

from clubs.access import Access, Right
from footage.tasks import source_of
from jobs.models import Job
from jobs.queues import MEDIA
from jobs.running import Kind, Reporter, Stopped, finishing, register
from jurata_core.board import Rule, Understood, understand
from jurata_core.times import Millis
from matches.models import Match
from matches.parts import parts_of

from .models import Board, BoardPicture
from .process import LONGEST_S, Answer, ask, seen

MOST_PICTURES = 120


def rules_of(board: Board) -> list[Rule]:
    """The ways in which its clock may count."""
    zero = board.last_second == Board.LastSecond.ZERO
    ways = {Board.Counts.DOWN: Rule("down", "zero" if zero else "one"), Board.Counts.UP: Rule("up")}
    return [rule for counts, rule in ways.items() if board.counts in (counts, Board.Counts.EITHER)]


def window_of(board: Board) -> tuple[Millis, Millis]:
    """What of the clip is the match's own: there alone the board is read."""
    part = next((one for one in parts_of(board.match) if one.clip.pk == board.clip_id), None)
    if part is None:
        raise Stopped
    return part.opens, part.end - part.start


def _run(job: Job, reporter: Reporter) -> None:
    board = Board.objects.filter(job=job).select_related("clip", "match").first()
    if board is None:
        raise Stopped
    start, end = window_of(board)
    answer = ask(source_of(board.clip), board.marks, start, end, reporter)
    readings = {name: seen(rows) for name, rows in answer.readings.items()}
    understood = understand(readings, start, end, rules_of(board))
    with finishing(job):
        board.readings, board.lost, board.understood = answer.readings, answer.lost, understood.written()
        board.save(update_fields=["readings", "lost", "understood", "changed"])
        board.pictures.all().delete()
        BoardPicture.objects.bulk_create(_evidence(board, understood, answer))


def _evidence(board: Board, understood: Understood, answer: Answer) -> list[BoardPicture]:
    """A picture of the board for each step of a figure, as it was when the new number was read first."""
    moments = sorted({step.until for figure in understood.figures.values() for step in figure.steps})
    found = dict(one for t in moments[:MOST_PICTURES] if (one := answer.picture_from(t)) is not None)
    return [BoardPicture(board=board, t_ms=t, jpeg=jpeg) for t, jpeg in found.items()]


def _allowed(job: Job) -> bool:
    """Whether who asked for it may still score the match."""
    scored = Match.objects.filter(Access(job.owner_id, Right.SCORE).matches())
    return not Board.objects.filter(job=job).exclude(match__in=scored.values("pk")).exists()


READ_BOARD = register(Kind("read a scoreboard", _run, LONGEST_S, _allowed, MEDIA))
