"""The practice match: what its clip shows, and how close somebody's first score came to it."""

from .looking_back import LookingBack, Moment, look_back, practice_log

__all__ = ["LookingBack", "Moment", "look_back", "practice_log"]
