"""The chance of winning: an estimate from the coach's own scored matches and a stated prior.

``rates``      how often what follows from a place, counted in matches and shrunk towards the prior
``spots``      where a match can be for the model, and what each second can bring
``recursion``  the chances of all states, solved exactly, backward over the clock
``play``       the same model played out at random: the check on the recursion
``moments``    where a scored match stood at each second of its clock
"""

from .moments import Moment, Moments, timeline
from .rates import LONGEST_S, Rates, count, draw, fit, prior
from .recursion import Asking, Chance, Question, solve, solve_together
from .spots import Model

__all__ = [
    "LONGEST_S",
    "Asking",
    "Chance",
    "Model",
    "Moment",
    "Moments",
    "Question",
    "Rates",
    "count",
    "draw",
    "fit",
    "prior",
    "solve",
    "solve_together",
    "timeline",
]
