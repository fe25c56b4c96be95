"""The chance of winning: how fast a match is evaluated, the recursion against simulated play, and its calibration.

.venv/bin/python -m bench.chance
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from pathlib import Path
from typing import Any

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "core"))

from jurata_core.adjudication import adjudicate
from jurata_core.chance import Model, Question, count, fit, prior, solve, timeline
from jurata_core.chance.play import play
from jurata_core.match_log import read_log
from jurata_core.rulesets import read_ruleset
from jurata_simulation.matches import made_log

STATES, MATCHES = 50, 200_000
SECONDS = 60
"""Of match clock in the states that are played out."""
MADE, LENGTH = 1_500, 300
"""Matches made for the calibration, and their length in seconds."""


def ruleset(name: str) -> Any:
    return read_ruleset(name, "ruleset", [])


def speed() -> None:
    """A match of 300 observations in six minutes, evaluated at every second."""
    rng = random.Random(1)
    busy = made_log(prior(), "full-points", 360, rng)
    rows = [row for row in busy["observations"][:-1] if row["kind"] in ("clock", "position")][:1]
    places = ("guard", "side", "turtle", "mount", "side", "back", "guard", "half")
    for number in range(298):
        position = places[rng.randrange(7)]
        rows.append({"t": 2 + number * 1.19, "kind": "position", "position": position, "top": rng.choice("ab")})
    log = read_log({**busy, "observations": [*rows, {"t": 360, "kind": "end", "how": "time"}]})
    verdict = adjudicate(log)
    rates = fit(count([(log, verdict)]))
    took = []
    for _ in range(7):
        begun = time.process_time()
        model = Model(log.ruleset, 360, rates)
        moments = timeline(verdict)
        solve(model, [moment.question(model) for moment in moments])
        took.append(time.process_time() - begun)
    said = f"{statistics.median(took):.2f} s median, {min(took):.2f} s at best, of one core"
    print(f"{len(log.observations)} observations, {len(moments)} seconds of clock, {len(model.spots)} spots: {said}")


def against_play() -> None:
    """Each state's chance against the share won in simulated matches, in standard errors."""
    model = Model(ruleset("full-points"), SECONDS, prior())
    rng, random_states = np.random.default_rng(2026), random.Random(2026)
    questions = [
        Question(
            random_states.randrange(SECONDS - 10), random_states.choice(model.spots), random_states.randrange(-4, 5),
            random_states.randrange(-1, 2), random_states.randrange(-1, 2),
        )
        for _ in range(STATES)
    ]  # fmt: skip
    off = []
    for question, chance in zip(questions, solve(model, questions), strict=True):
        given, _ = play(model, question, MATCHES, rng)
        error = max(float(given.std()), 1e-3) / MATCHES**0.5
        off.append((float(given.mean()) - chance.win) / error)
    beyond = sum(abs(one) > 3 for one in off)
    said = f"largest {max(map(abs, off)):.2f} standard errors, mean {statistics.mean(off):+.2f}, beyond three: {beyond}"
    print(f"{STATES} states, {MATCHES:,} simulated matches each: {said}")


def calibration() -> None:
    """What was said at random seconds of matches made from known rates, and how often it came true."""
    rates, model = prior(), Model(ruleset("full-points"), LENGTH, prior())
    rng = random.Random(7)
    questions, came = [], []
    for _ in range(MADE):
        verdict = adjudicate(read_log(made_log(rates, "full-points", LENGTH, rng)))
        moments = timeline(verdict)
        moment = moments[rng.randrange(len(moments))]
        questions.append(moment.question(model))
        winner = verdict.result.winner
        came.append(0.5 if winner is None else float(winner == "a"))
    said = np.array([chance.win for chance in solve(model, questions)])
    won = np.array(came)
    print(f"calibration on {MADE} matches made from known rates, one moment each:")
    print("  said        moments   said on average   won   standard error")
    for low in np.arange(0, 1, 0.1):
        inside = (said >= low) & (said < low + 0.1)
        if inside.any():
            error = float(won[inside].std()) / inside.sum() ** 0.5
            row = f"{said[inside].mean():15.3f} {won[inside].mean():9.3f} {error:12.3f}"
            print(f"  {low:.1f} to {low + 0.1:.1f} {inside.sum():9} {row}")
    print(f"  Brier score {((said - won) ** 2).mean():.3f}; of saying one half always: {((0.5 - won) ** 2).mean():.3f}")


if __name__ == "__main__":
    speed()
    against_play()
    calibration()
