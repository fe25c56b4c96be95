"""Figures of agreement between scorers: Cohen's kappa, Krippendorff's alpha, Wilson's interval.

Sources: J. Cohen, "A coefficient of agreement for nominal scales", 1960;
K. Krippendorff, "Content Analysis", the nominal case; E. B. Wilson, "Probable
inference, the law of succession, and statistical inference", 1927.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Sequence
from math import sqrt

Z_95 = 1.959963984540054
"""The 97.5 % point of the normal distribution: 95 % lie within it on both sides."""


def kappa(first: Sequence[Hashable], second: Sequence[Hashable]) -> float | None:
    """Cohen's kappa of two scorers over the same units, in order.

    1 is full agreement, 0 what chance would give. None where there is nothing to
    tell apart: no units, or both gave every unit the same one label.
    Raises ValueError for sequences of different length.
    """
    together = list(zip(first, second, strict=True))
    n = len(together)
    left, right = Counter(first), Counter(second)
    expected = sum(left[label] * right[label] for label in left)
    if n == 0 or expected == n * n:
        return None
    observed = sum(one == other for one, other in together)
    return (observed * n - expected) / (n * n - expected)


def alpha(labels: Sequence[Sequence[Hashable | None]]) -> float | None:
    """Krippendorff's alpha for nominal labels: one row a scorer, one column a unit, None where not scored.

    None where fewer than two labels meet in any unit, or only one label is used.
    """
    totals: Counter[Hashable] = Counter()
    weighted = 0.0
    for unit in zip(*labels, strict=True):
        given = Counter(label for label in unit if label is not None)
        m = given.total()
        if m < 2:
            continue
        totals += given
        for n in given.values():
            weighted += n * (m - n) / (m - 1)
    n = totals.total()
    expected = n * n - sum(count * count for count in totals.values())
    if expected == 0:
        return None
    return 1 - (n - 1) * weighted / expected


def share(agreed: int, n: int) -> tuple[float, float, float] | None:
    """The share agreed of ``n``, with the bounds of Wilson's 95 % interval; None of nothing."""
    if n == 0:
        return None
    part, z2 = agreed / n, Z_95 * Z_95
    middle = part + z2 / (2 * n)
    reach = Z_95 * sqrt(part * (1 - part) / n + z2 / (4 * n * n))
    low, high = (middle - reach) / (1 + z2 / n), (middle + reach) / (1 + z2 / n)
    return part, (0.0 if agreed == 0 else low), (1.0 if agreed == n else high)
