"""The words of the core as choices for serializers and models."""

from jurata_core.divisions import BELTS as _BELTS
from jurata_core.match_log.observations import POSITIONS as _POSITIONS
from jurata_core.match_log.observations import SIDES as _SIDES
from jurata_core.match_log.observations import TALLIES as _TALLIES


def _pairs(words: tuple[str, ...]) -> list[tuple[str, str]]:
    return [(word, word) for word in words]


BELTS = _pairs(_BELTS)
ATTIRES = _pairs(("gi", "nogi"))
SIDES = _pairs(_SIDES)
POSITIONS = _pairs(_POSITIONS)
TALLIES = _pairs(_TALLIES)
STATUSES = _pairs(("legal", "illegal", "stop"))
