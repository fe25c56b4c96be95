"""The athlete's errors, what they cost, and where they began.

``kinds``   the kinds of errors as data
``rules``   one small rule a kind, on a match as ``seen`` from one side
``errors``  what the rules found, with its sentences
``cost``    the match scored again without an error, and the swing in the chance of winning
``roots``   links from an error to the one it came from
``order``   what mattered most, and how much of it is shown first
``patterns``  what came back in one match
``habits``  what a coach dismisses again and again, and the setting that would turn it down
``gathered``  all of it: the errors that stand, with their links and chains
``well``    what was done well
``tries``   what either side tried, and what was stopped
``planned``  what of a plan was tried
``weighed``  what referees are asked to weigh
``why``     what brought an error about, where the log shows it
"""

from .cost import Swing, in_danger, model_of, otherwise_json, regained, swings, undone, without_it
from .errors import OWN, Error, errors, marks_of, own_error
from .gathered import Came, Decision, Review, gathered
from .habits import Decided, Offer, measured, offers
from .kinds import Setting, causes, kinds, young_below
from .order import Lesson, ordered
from .patterns import Pattern, patterns
from .planned import planned
from .roots import Chain, Link, chains, suggested
from .seen import Loss, Seen
from .tries import LEAD, MOVES, Move, Stopped, Try, stopped_by, stopped_said, tries_of
from .weighed import decision_ahead, decision_json
from .well import WELL_NAMES, done_well, found_well
from .why import Cause, cause_of

__all__ = [
    "LEAD", "MOVES", "OWN", "WELL_NAMES", "Came", "Cause", "Chain", "Decided", "Decision", "Error", "Lesson", "Link",
    "Loss", "Move", "Offer", "Pattern", "Review", "Seen", "Setting", "Stopped", "Swing", "Try", "cause_of", "causes",
    "chains", "decision_ahead", "decision_json", "done_well", "errors", "found_well", "gathered", "in_danger",
    "kinds", "marks_of", "measured", "model_of", "offers", "ordered", "otherwise_json", "own_error", "patterns",
    "planned", "regained", "stopped_by", "stopped_said", "suggested", "swings", "tries_of", "undone", "without_it",
    "young_below",
]  # fmt: skip
