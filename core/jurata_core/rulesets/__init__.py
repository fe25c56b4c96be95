"""Rulesets: the four presets and a coach's changes to them."""

from .loader import DEFAULT, preset, preset_ids, preset_settings, read_ruleset
from .model import AlsoLegal, Ruleset

__all__ = ["DEFAULT", "AlsoLegal", "Ruleset", "preset", "preset_ids", "preset_settings", "read_ruleset"]
