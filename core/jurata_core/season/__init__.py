"""A season: what comes back, what works, and how sure each figure is.

``figures``    what one match adds, made when it is scored
``mistakes``   its errors, with what the coach made of them and what they cost of the chance of winning
``certainty``  intervals, shares moved towards the club's, and whether a rate has changed
``athlete``    the season of one athlete, each number with the moments behind it
"""

from ..review import MOVES, Move
from .athlete import AthleteSeason, Played, season_of
from .certainty import Spread, spread_of
from .figures import Figures, figures_of
from .mistakes import Counted, Mistake, costs_of, counted, mistakes_of

__all__ = [
    "MOVES", "AthleteSeason", "Counted", "Figures", "Mistake", "Move", "Played", "Spread", "costs_of", "counted",
    "figures_of", "mistakes_of", "season_of", "spread_of",
]  # fmt: skip
