"""What is still winnable with the time left: which scores are enough, how long each takes, and when it closes.

``paces``  how long a quick move takes, from data and from what was seen
``standpoint``  from where a side looks ahead
``way``    one way: its steps and what it scores
``ways``   the cheapest sequences of scores that win or level, found by the shortest path
``turns``  who has the last one of a see-saw of sweeps, and when letting go beats holding on
"""

from .paces import Paces, guessed, learned, moves_of
from .standpoint import Standpoint, standpoint
from .turns import Letting, last_turn, letting_go
from .way import Way
from .ways import ways

__all__ = [
    "Letting",
    "Paces",
    "Standpoint",
    "Way",
    "guessed",
    "last_turn",
    "learned",
    "letting_go",
    "moves_of",
    "standpoint",
    "ways",
]
