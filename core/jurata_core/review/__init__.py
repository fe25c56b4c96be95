"""The athlete's errors, what they cost, and where they began.

``kinds``   the kinds of errors as data
``rules``   one small rule a kind, on a match as ``seen`` from one side
``errors``  what the rules found, with its sentences
``cost``    the match scored again without an error, and the swing in the chance of winning
``roots``   links from an error to the one it came from
``good``    what was done well
"""

from .cost import Swing, otherwise_json, regained, swings, undone
from .errors import OWN, Error, errors, own_error
from .good import done_well
from .kinds import causes, kinds
from .roots import Chain, Link, chains, suggested
from .seen import Loss, Seen

__all__ = [
    "OWN", "Chain", "Error", "Link", "Loss", "Seen", "Swing", "causes", "chains", "done_well", "errors", "kinds",
    "otherwise_json", "own_error", "regained", "suggested", "swings", "undone",
]  # fmt: skip
