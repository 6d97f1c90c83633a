"""Proof before metal is lost: a scratch pass, and what it must measure."""

from dataclasses import dataclass
from fractions import Fraction

_LONGEST_SCRATCH = Fraction(32)
_TRAVEL_TURNS = 10


@dataclass(frozen=True)
class Proof:
    """Scratch `turns` turns: they must measure `length` mm. `travel` is the carriage travel in `travel_turns` spindle
    turns, mm. `wanted_length` is what the wanted lead would give over the same scratch."""

    turns: int
    length: Fraction
    wanted_length: Fraction
    travel_turns: int
    travel: Fraction


def proof(lead: Fraction, wanted: Fraction) -> Proof:
    """As many turns as make a length that a caliper or rule reads well: at most 32 mm, of 1, 2, 5, 10 or 20 turns."""
    turns = max((n for n in (1, 2, 5, 10, 20) if n * wanted <= _LONGEST_SCRATCH), default=1)
    return Proof(turns, turns * lead, turns * wanted, _TRAVEL_TURNS, _TRAVEL_TURNS * lead)
