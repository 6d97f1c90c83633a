"""Thread series as data: sizes, pitches and flank angles."""

from fractions import Fraction
from types import MappingProxyType

# ISO 261:1998, coarse pitches, first, second and third choice diameters; mm.
_COARSE = """
1 0.25   1.1 0.25  1.2 0.25  1.4 0.3   1.6 0.35  1.8 0.35  2 0.4     2.2 0.45  2.5 0.45  3 0.5
3.5 0.6  4 0.7     4.5 0.75  5 0.8     6 1       7 1       8 1.25    9 1.25    10 1.5    11 1.5
12 1.75  14 2      16 2      18 2.5    20 2.5    22 2.5    24 3      27 3      30 3.5    33 3.5
36 4     39 4      42 4.5    45 4.5    48 5      52 5      56 5.5    60 5.5    64 6      68 6
"""

ISO_COARSE = MappingProxyType(
    {Fraction(d): Fraction(p) for d, p in zip(_COARSE.split()[::2], _COARSE.split()[1::2], strict=True)}
)
"""Coarse pitch by nominal diameter, mm (ISO 261)."""


def nearest_coarse(diameter: Fraction, count: int = 2) -> list[Fraction]:
    """The coarse sizes nearest to a diameter, nearest first."""
    return sorted(ISO_COARSE, key=lambda d: (abs(d - diameter), d))[:count]
