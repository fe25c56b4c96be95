"""What is done with a board: mark it and have it read, look at what it shows at one moment, find its figures."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from config.refusals import Refused
from footage.models import Clip
from footage.tasks import source_of
from jobs.actions import discard, enqueue, new_job
from jurata_core.board import BOARD_PARTS
from jurata_core.faults import Fault, FaultyInput, quoted
from jurata_core.times import Millis
from matches.models import Match

from .models import Board
from .tasks import READ_BOARD

MOST_MOMENTS = 20
SMALLEST = 0.004
"""Shares of the picture: a box that is smaller shows no digit."""


@transaction.atomic
def mark(match: Match, clip: Clip, values: dict[str, Any], user: AbstractBaseUser) -> Board:
    """Keep where the board is, and have it read. Raises FaultyInput."""
    check_marks(values["marks"], clip.duration_ms or 0)
    if clip.state != Clip.State.READY:
        raise Refused("not_ready", "This clip is still being prepared. Mark the scoreboard once it can be played.")
    board, _ = Board.objects.select_for_update(of=("self",)).get_or_create(
        match=match, clip=clip, defaults={"marks": values["marks"]}
    )
    for name in ("marks", "counts", "last_second"):
        if name in values:
            setattr(board, name, values[name])
    discard(board.job_id)
    board.job = new_job(user.pk, READ_BOARD.name)
    board.save()
    enqueue(board.job)
    return board


def check_marks(marks: list[Any], length: Millis) -> None:
    """Whether marks say where a board is. Raises FaultyInput with every fault."""
    faults: list[Fault] = []
    if not marks:
        faults.append(Fault("marks", "need a box around the clock or a figure", "missing"))
    names = set(marks[0]["boxes"]) if marks else set()
    for number, one in enumerate(marks[:MOST_MOMENTS]):
        path = f"marks[{number}]"
        if not 0 <= one["t"] * 1000 <= length:
            faults.append(Fault(f"{path}.t", "is not in the clip", "out_of_range"))
        if set(one["boxes"]) != names or not names:
            faults.append(Fault(f"{path}.boxes", "should have the same boxes at each moment, at least one", "missing"))
        for name, box in one["boxes"].items():
            faults += _box_faults(f"{path}.boxes.{name}", name, box)
    if faults:
        raise FaultyInput(faults)


def _box_faults(path: str, name: str, box: list[list[float]]) -> list[Fault]:
    if name not in BOARD_PARTS:
        return [Fault(path, f"{quoted(name)} is not one of {', '.join(BOARD_PARTS)}", "unknown")]
    if len(box) != 4 or any(len(corner) != 2 for corner in box):
        return [Fault(path, "should have four corners of x and y", "wrong_type")]
    if any(not -0.5 <= number <= 1.5 for corner in box for number in corner):
        return [Fault(path, "lies far outside the picture", "out_of_range")]
    wide, high = (max(corner[axis] for corner in box) - min(corner[axis] for corner in box) for axis in (0, 1))
    if min(wide, high) < SMALLEST:
        return [Fault(path, "is too small to hold a digit", "out_of_range")]
    return []


def look(clip: Clip, t: Millis, boxes: dict[str, Any]) -> dict[str, dict[str, Any]]:
    """What each box shows at a moment of the clip. Raises FaultyInput, or NotMade where the clip can't be read."""
    check_marks([{"t": t / 1000, "boxes": boxes}], clip.duration_ms or 0)
    from .reading import read_moment

    return {name: found._asdict() for name, found in read_moment(source_of(clip), t, boxes).items()}


def find(clip: Clip, t: Millis, box: Any) -> list[dict[str, Any]]:
    """The lines of digits within the box around a whole board, each with its own box."""
    check_marks([{"t": t / 1000, "boxes": {"clock": box}}], clip.duration_ms or 0)
    from .reading import find_lines

    return find_lines(source_of(clip), t, box)
