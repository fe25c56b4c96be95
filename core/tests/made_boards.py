"""Made series of a board's clock: a known course, seen through readings of which many are missing or wrong."""

import random
from dataclasses import dataclass

from jurata_core.board import Rule, Seen


@dataclass(frozen=True)
class Made:
    """Starts and stops in ms of footage, in turn, and what was read."""

    changes: tuple[int, ...]
    length: int
    full: int
    rule: Rule
    readings: tuple[Seen, ...]

    def value(self, t: int) -> int:
        """What the clock stood at, in ms."""
        ran = 0
        for start, stop in zip(self.changes[::2], [*self.changes[1::2], self.length], strict=False):
            ran += max(0, min(t, stop) - start)
        return max(0, self.full - ran) if self.rule.counts == "down" else ran


def made_series(rng: random.Random, missing: float = 0.3, wrong: float = 0.1, every: int = 200) -> Made:
    """A minute and a half with up to two stops, read every so many milliseconds."""
    rule, length, full = Rule(rng.choice(("down", "up"))), 90_000, rng.choice((240_000, 300_000, 360_000))
    changes = [rng.randrange(2_000, 8_000)]
    for _ in range(rng.randrange(3)):
        stop = changes[-1] + rng.randrange(8_000, 25_000)
        changes += [stop, stop + rng.randrange(2_000, 12_000)]
    bare = Made(tuple(changes), length, full, rule, ())
    readings = []
    for t in range(0, length, every):
        if rng.random() < missing:
            continue
        shown, sure = rule.shown(bare.value(t)), rng.uniform(0.8, 1)
        if rng.random() < wrong:
            near = shown + rng.choice((-60, -10, -6, -1, 1, 3, 6, 60))
            shown, sure = rng.choice((max(0, near), rng.randrange(600))), rng.uniform(0.3, 0.95)
        readings.append(Seen(t, t, text(shown), sure))
    return Made(bare.changes, length, full, rule, tuple(readings))


def text(seconds: int) -> str:
    """A clock's text."""
    return f"{seconds // 60}:{seconds % 60:02d}"
