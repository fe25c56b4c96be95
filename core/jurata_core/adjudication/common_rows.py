"""How far two lists of rows are the same from their beginnings and from their ends."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any


def common_ends(rows: Sequence[Any], others: Sequence[Any]) -> tuple[int, int]:
    """How many rows two lists have in common from their beginnings, and beyond those from their ends."""
    head = common_head(rows, others)
    return head, common_tail(rows, others, min(len(rows), len(others)) - head)


def common_head(rows: Sequence[Any], others: Sequence[Any]) -> int:
    """How many rows two lists have in common from their beginnings."""
    return _alike(lambda low, high: rows[low:high] == others[low:high], min(len(rows), len(others)))


def common_tail(rows: Sequence[Any], others: Sequence[Any], most: int | None = None) -> int:
    """How many rows two lists have in common from their ends, at most so many."""
    n, m = len(rows), len(others)
    most = min(n, m) if most is None else most
    return _alike(lambda low, high: rows[n - high : n - low] == others[m - high : m - low], most)


def _alike(same: Callable[[int, int], bool], most: int) -> int:
    """How far it is the same from 0 on, by halves: whole slices are compared faster than rows one by one."""
    low, high = 0, most
    if same(0, most):
        return most
    while low < high:
        middle = (low + high + 1) // 2
        if same(low, middle):
            low = middle
        else:
            high = middle - 1
    return low
