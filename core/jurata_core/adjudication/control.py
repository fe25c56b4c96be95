"""Who is where, and how it came about: all of the past that the next change of position depends on."""

from __future__ import annotations

from collections.abc import Iterable

from ..match_log.observations import OTHER, Side
from ..records import record
from ..times import Millis
from .places import OWN_POSITION, STANDING, ClaimKind, Place


@record
class Spell:
    """A spell of control of one side: the claims that were paid in it, and those whose loss gave an advantage."""

    paid: frozenset[ClaimKind] = frozenset()
    consoled: frozenset[ClaimKind] = frozenset()


Spells = tuple[Spell | None, Spell | None]
"""The spells of the athlete and of the opponent; both only while one of them has just lost the top, not for good."""
NO_SPELLS: Spells = (None, None)


@record
class Control:
    """``last`` is the last position that was not passed through, ``origin`` where the next one comes from.

    The two differ only after a pull, and where the top of ``last`` is not ``established``: then the other side's next
    position comes from ``base``, the last established one. ``top_from`` is since when the top is there without a
    break, as footage time; None while it is broken off or where it does not matter.
    """

    place: Place = STANDING
    last: Place = STANDING
    origin: Place = STANDING
    pullers: tuple[Side, ...] = ()
    spells: Spells = NO_SPELLS
    established: bool = True
    base: Place = STANDING
    top_from: Millis | None = None

    def spell(self, side: Side | None) -> Spell | None:
        """The spell of control of a side."""
        return None if side is None else self.spells[0] if side == "a" else self.spells[1]

    def with_spell(self, side: Side, spell: Spell | None) -> Control:
        """The same with another spell of one side."""
        a, b = self.spells
        spells = (spell, b) if side == "a" else (a, spell)
        return Control(
            self.place, self.last, self.origin, self.pullers, spells, self.established, self.base, self.top_from
        )

    def with_paid(self, side: Side, kinds: Iterable[ClaimKind]) -> Control:
        """The same once claims were paid: the side's spell of control, where there is one, remembers its positions."""
        spell = self.spell(side)
        own = OWN_POSITION.intersection(kinds)
        return self if spell is None or not own else self.with_spell(side, Spell(spell.paid | own, spell.consoled))

    def with_consoled(self, side: Side, kinds: Iterable[ClaimKind]) -> Control:
        """The same once the loss of claims gave an advantage, which the spell remembers in the same way."""
        spell = self.spell(side)
        own = OWN_POSITION.intersection(kinds)
        return self if spell is None or not own else self.with_spell(side, Spell(spell.paid, spell.consoled | own))

    def origin_for(self, side: Side | None) -> Place:
        """Where a position with ``side`` on top comes from."""
        if self.established or side is None or self.last.top != OTHER[side]:
            return self.origin
        return self.base


def control_at(place: Place, spell: Spell | None = None) -> Control:
    """In a place, with nothing known of how it came about but a spell of the side on top."""
    spells = (spell, None) if place.top == "a" else (None, spell) if place.top == "b" else NO_SPELLS
    return Control(place, place, place, (), spells)
