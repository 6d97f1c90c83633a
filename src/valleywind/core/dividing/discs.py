"""A disc or a strip to print and read off: as true as the eye at its edge. mm and degrees."""

import math
from dataclasses import dataclass

from valleywind.core.dividing.ways import allowed_divisions
from valleywind.core.refusal import Refusal

READING = 0.15
"""How far a line is set by eye against a pointer at the edge, mm."""
READING_MAGNIFIED = 0.03
"""The same under a microscope or a strong glass."""
MOST_DISC = 2000.0
_USUAL = 180.0


@dataclass(frozen=True)
class Disc:
    """Lines at the edge of a disc, or along a strip that goes once round a drum of this diameter. long: after
    how many lines one is longer; numbered: after how many one has its number."""

    divisions: int
    diameter: float
    long: int = 5
    numbered: int = 10

    def error(self, reading: float = READING) -> float:
        """Worst of a position, degrees."""
        return math.degrees(2 * reading / self.diameter)

    @property
    def spacing(self) -> float:
        """From line to line along the edge."""
        return math.pi * self.diameter / self.divisions

    @property
    def strip(self) -> float:
        """Length of the strip from its first line to where that comes again."""
        return math.pi * self.diameter


def usual_disc(divisions: int) -> Disc:
    """The one thought of where nobody says how large: as goes on a sheet of A4, larger where its lines ask for it."""
    return Disc(divisions, max(_USUAL, divisions * 0.2))


def disc(divisions: int, diameter: float, long: int = 5, numbered: int = 10) -> Disc:
    """Raises Refusal `divisions_out_of_range`, `disc_out_of_range` (diameter), `not_positive` (long, numbered),
    `lines_too_close` (diameter)."""
    allowed_divisions(divisions)
    if not 10 <= diameter <= MOST_DISC:
        raise Refusal("disc_out_of_range", "diameter", diameter, least=10, most=MOST_DISC)
    for field, value in (("long", long), ("numbered", numbered)):
        if value < 1:
            raise Refusal("not_positive", field, value)
    made = Disc(divisions, diameter, long, numbered)
    if made.spacing < 2 * READING:
        raise Refusal("lines_too_close", "diameter", diameter, least=math.ceil(divisions * 2 * READING / math.pi))
    return made
