"""Quantities as text, in the units the reader chose."""

import math
from enum import StrEnum
from fractions import Fraction

from valleywind.core.units import MM_PER_INCH, Unit

MINUS = "−"
# From here on a length is no longer said in µm or thou, µm.
_LARGE = 1000


class Units(StrEnum):
    """What the reader wants lengths in."""

    MM = "mm"
    INCH = "inch"

    @property
    def bare(self) -> Unit:
        """What a length typed without a unit is taken in."""
        return Unit(self.value)


def fixed(value: Fraction | float, digits: int) -> str:
    """A decimal with this many digits and a true minus sign; never a negative zero."""
    text = f"{float(value):.{digits}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", MINUS)


def trimmed(value: Fraction | float, digits: int) -> str:
    """At most this many digits, without zeros at the end."""
    text = fixed(value, digits)
    return text.rstrip("0").rstrip(".") if "." in text else text


def length(mm: Fraction | float, units: Units, digits: int = 1) -> str:
    """A length with its unit: `16.7 mm`, `0.657 in`. `digits` are for mm; inches get two more."""
    if units is Units.MM:
        return f"{fixed(mm, digits)} mm"
    return f"{fixed(float(mm) / float(MM_PER_INCH), digits + 2)} in"


def short_length(mm: Fraction | float, units: Units) -> str:
    """A length that somebody chose, without zeros at the end: `11.2 mm`, `0.441 in`."""
    if units is Units.MM:
        return f"{trimmed(mm, 2)} mm"
    return f"{trimmed(float(mm) / float(MM_PER_INCH), 4)} in"


def rough_length(mm: float, units: Units) -> str:
    """A length to about three figures, where more would pretend."""
    value, unit = (mm, "mm") if units is Units.MM else (mm / float(MM_PER_INCH), "in")
    return f"{trimmed(value, 0 if value >= 100 else 1 if value >= 10 else 2)} {unit}"


def most_length(mm: float, units: Units) -> str:
    """A length that is a limit, to about three figures: never more than it is."""
    value, unit = (mm, "mm") if units is Units.MM else (mm / float(MM_PER_INCH), "in")
    digits = 0 if value >= 100 else 1 if value >= 10 else 2
    return f"{trimmed(math.floor(value * 10**digits + 1e-9) / 10**digits, digits)} {unit}"


def small(micrometres: float, units: Units) -> str:
    """A very small length: `0.6 µm`, `0.02 thou`; in mm or inches where it is not that small."""
    if micrometres >= _LARGE:
        return rough_length(micrometres / 1000, units)
    if units is Units.MM:
        return f"{_two_figures(micrometres)} µm"
    return f"{_two_figures(micrometres / 25.4)} thou"


def _two_figures(value: float) -> str:
    magnitude = abs(value)
    if magnitude == 0:
        return "0"
    return fixed(value, 0 if magnitude >= 10 else 1 if magnitude >= 0.1 else 2 if magnitude >= 0.01 else 3)


def percent(share: float) -> str:
    """A proportion to two figures: `3 %`, `0.052 %`."""
    return f"{float(f'{share * 100:.2g}'):.10f}".rstrip("0").rstrip(".") + " %"


def error(relative: Fraction) -> str:
    """A signed relative error, in percent however small, so that a list has one unit: `exact`, `+0.0456 %`, `−0.26 %`,
    `×48`."""
    if relative == 0:
        return "exact"
    size = abs(float(relative))
    sign = "+" if relative > 0 else MINUS
    if size < 0.001:
        # Three figures, as many as two decimals give of larger ones.
        digits = 2 - math.floor(math.log10(size * 100))
        return f"{sign}{size * 100:.{digits}f}".rstrip("0") + " %"
    if size < 1:
        return f"{sign}{size * 100:.2f} %" if size < 0.1 else f"{sign}{size * 100:.0f} %"
    return f"{float(relative) + 1:.3g} times"


def off(relative: Fraction) -> str:
    """The same in words: `exact`, `0.0456 % long`, `0.26 % short`."""
    if relative == 0:
        return "exact"
    if abs(relative) >= 1:
        return f"{float(relative) + 1:.3g} times what is wanted"
    return f"{error(relative)[1:]} {'long' if relative > 0 else 'short'}"


_WORDS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight")


def off_feed(relative: Fraction) -> str:
    """How a feed differs from what was asked: `exact`, `1.5 % fast`, `17 % slow`."""
    return off(relative).replace(" long", " fast").replace(" short", " slow")


def in_words(number: int) -> str:
    """A small number as a word: `three`."""
    return _WORDS[number] if 0 <= number < len(_WORDS) else str(number)


def count(number: int, one: str, many: str | None = None) -> str:
    """`1 wheel`, `3 wheels`."""
    return f"{number} {one if number == 1 else many or one + 's'}"


def listed(words: list[str], last: str = "and") -> str:
    """`a`, `a and b`, `a, b and c`."""
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} {last} {words[-1]}" if words else ""


def a(teeth: int) -> str:
    """A tooth number with its article: `a 57`, `an 80`."""
    return f"{'an' if teeth in (8, 11, 18) or 80 <= teeth <= 89 else 'a'} {teeth}"
