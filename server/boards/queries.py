"""The board of a clip as its desk shows it: where it is, how far it was read, and what it proposes."""

from __future__ import annotations

from collections.abc import Set
from typing import Any, NamedTuple

from jurata_core.adjudication import Verdict
from jurata_core.board import Proposal, Understood, only_logged, proposals, read_understood, with_calls
from jurata_core.match_log import MatchLog
from matches.logs import all_calls_logged
from matches.models import Match
from matches.parts import Part, parts_of
from matches.standing import standing

from .models import Board


def board_json(match: Match, part: Part) -> dict[str, Any]:
    """The board of one clip of a match; where it is not marked, where that of another clip of the event is."""
    board = Board.objects.filter(match=match, clip=part.clip).select_related("job").first()
    shown = board or _of_the_event(match, part)
    found: dict[str, Any] = {
        "marked": board is not None,
        "marks": [] if shown is None else shown.marks,
        "counts": Board.Counts.EITHER if shown is None else shown.counts,
        "last_second": Board.LastSecond.ONE if shown is None else shown.last_second,
        "job": None if board is None else board.job,
        "lost": 0 if board is None else board.lost,
        "clock": None,
        "unread": [],
        "proposals": [],
        "only_logged": [],
    }
    if board is None or board.understood is None:
        return found
    restarts = match.observations.filter(deleted=False, body__kind="clock", body__has_key="restart")
    said = set(restarts.values_list("key", flat=True))
    now = standing(match)
    read = _read_from(board, part, now.log, now.verdict, said)
    understood = read.understood
    return found | {
        "clock": None if understood.course is None else understood.course.as_json(),
        "unread": [name for name, figure in understood.figures.items() if figure.first is None],
        "proposals": [one.as_json() | {"picture": picture} for one, picture in read.proposed],
        "only_logged": only_logged(understood.course, [one for one, _ in read.proposed], now.log),
    }


class _Read(NamedTuple):
    """What was read from a board, in the footage of its match, and the proposals, each with its picture's address."""

    understood: Understood
    proposed: list[tuple[Proposal, str | None]]


def _read_from(board: Board, part: Part, log: MatchLog, verdict: Verdict, said: Set[str] = frozenset()) -> _Read:
    """Hold what was read from a board against a log. ``said``: the restarts of which the coach has said how."""
    understood = read_understood(board.understood or {}).moved(part.start)
    moments = list(board.pictures.values_list("t_ms", flat=True))
    found = proposals(understood.course, understood.figures, log, verdict, said)
    return _Read(understood, [(one, _picture_of(board, one, part, moments)) for one in found])


def _picture_of(board: Board, proposal: Proposal, part: Part, moments: list[int]) -> str | None:
    """The address of the picture that a call was read from."""
    if proposal.part is None or not moments:
        return None
    seen = proposal.until - part.start
    moment = min(moments, key=lambda one: (one < seen, abs(one - seen)))
    return f"/api/matches/{board.match_id}/boards/{board.clip_id}/pictures/{moment}"


class Shown(NamedTuple):
    """What the officials showed in a match: its log with the calls of its boards that were not taken into it.

    ``pictures`` by the key of a call; ``unlogged`` are the keys of those that the log lacks.
    """

    log: MatchLog
    pictures: dict[str, str]
    unlogged: list[str]
    complete: bool
    """Whether every call is there: they were read from the board in the picture, or from the officials' table."""


def shown_by_officials(match: Match) -> Shown:
    """The officials' calls of a match: those of its log, and those that were read from its boards."""
    now = standing(match)
    log, pictures, unlogged = now.log, dict[str, str](), list[str]()
    parts = {part.clip.pk: part for part in parts_of(match)}
    complete = all_calls_logged(log)
    for board in match.boards.exclude(understood=None).filter(clip__in=parts):
        proposed = _read_from(board, parts[board.clip_id], log, now.verdict).proposed
        for one, address in proposed:
            if address is not None:
                pictures[str(one.key if one.logged is None else one.logged)] = address
        unlogged += [one.key for one, _ in proposed if one.part is not None and one.standing == "new"]
        complete = True
        log = with_calls(log, [one for one, _ in proposed])
    return Shown(log, pictures, unlogged, complete)


def _of_the_event(match: Match, part: Part) -> Board | None:
    """The board that was marked last in another clip of the same event, on the same mat where both say which."""
    if not match.event:
        return None
    others = Board.objects.filter(match__event=match.event, match__athlete__club=match.athlete.club_id)
    others = others.filter(match__deleted=None).exclude(match=match, clip=part.clip)
    if match.mat:
        others = others.filter(match__mat__in=("", match.mat))
    found = others.order_by("-changed").first()
    if found is not None:  # a moment of another clip says nothing here: it is the place that is proposed
        found.marks = [{**found.marks[0], "t": part.opens / 1000}]
    return found
