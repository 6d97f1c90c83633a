"""A length measured on the lathe: over scratches, along a thread, or how far the carriage went."""

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.units import MM_PER_INCH, NUMBER, Unit, parse_length, parse_number


class Method(StrEnum):
    """With what a length was measured."""

    RULE = "rule"
    CALIPER = "caliper"
    MICROMETER = "micrometer"
    GAUGE = "gauge"


UNCERTAINTY: dict[Method, Fraction] = {
    Method.RULE: Fraction(1, 4),
    Method.CALIPER: Fraction(1, 20),
    Method.MICROMETER: Fraction(1, 50),
    Method.GAUGE: Fraction(1, 50),
}
"""What a careful reading over scratches or a thread may be off, mm: rule, caliper over points, dial or micrometer; a
leaf of a pitch gauge tells pitches apart that differ by more than this."""

MOST_TURNS = 1000
# A length beyond which a reading is a slip of the keyboard, mm.
_LONGEST = Fraction(5000)


@dataclass(frozen=True)
class LengthReading:
    """A measured length over this many turns, and by how much the reading may be off; mm.

    Raises Refusal `turns_out_of_range`, `measured_out_of_range`, `uncertainty_out_of_range`.
    """

    length: Fraction
    turns: int
    uncertainty: Fraction

    def __post_init__(self) -> None:
        if not 1 <= self.turns <= MOST_TURNS:
            raise Refusal("turns_out_of_range", "turns", self.turns, most=MOST_TURNS)
        if not 0 < self.length <= _LONGEST:
            raise Refusal("measured_out_of_range", "measured", self.length, longest=_LONGEST)
        if not 0 < self.uncertainty < self.length:
            raise Refusal("uncertainty_out_of_range", "off", self.uncertainty)


def read_measured(text: str, turns: int, method: Method, off: str, bare: Unit) -> LengthReading:
    """What was typed: a length, or a pitch as `26 tpi`; off: as typed, empty for the method's own. A bare number is in
    `bare`. A pitch gauge reads one turn, whatever the turns were.

    Raises Refusal: those of `LengthReading` and of lengths (measured, off).
    """
    if method is Method.GAUGE:
        turns = 1
    if per_inch := re.fullmatch(rf"({NUMBER})\s*tpi", text.strip(), re.IGNORECASE):
        number = parse_number(per_inch[1], "measured")
        length = turns * MM_PER_INCH / number if number else Fraction(0)
    else:
        length = parse_length(text, bare, "measured").mm
    return LengthReading(length, turns, parse_length(off, bare, "off").mm if off.strip() else UNCERTAINTY[method])
