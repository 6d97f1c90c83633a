"""Thread series as data: sizes, pitches and flank angles, with their sources. Lengths in mm, exact."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from functools import cache

from valleywind.core.units import MM_PER_INCH, spell, spell_inch


class Series(StrEnum):
    """A thread series, by the letters it goes by."""

    METRIC = "M"
    UNC = "UNC"
    UNF = "UNF"
    UNEF = "UNEF"
    BSW = "BSW"
    BSF = "BSF"
    BSP = "BSP"
    BSPT = "BSPT"
    NPT = "NPT"
    ME = "ME"
    BA = "BA"
    TRAPEZOIDAL = "Tr"
    ACME = "Acme"
    BUTTRESS = "S"
    BUTTRESS_INCH = "Butt"
    ROUND = "Rd"


INCLUDED_ANGLE: dict[Series, Fraction] = {
    Series.METRIC: Fraction(60),
    Series.UNC: Fraction(60),
    Series.UNF: Fraction(60),
    Series.UNEF: Fraction(60),
    Series.BSW: Fraction(55),
    Series.BSF: Fraction(55),
    Series.BSP: Fraction(55),
    Series.BSPT: Fraction(55),
    Series.NPT: Fraction(60),
    Series.ME: Fraction(55),
    Series.BA: Fraction(95, 2),
    Series.TRAPEZOIDAL: Fraction(30),
    Series.ACME: Fraction(29),
    Series.BUTTRESS: Fraction(33),
    Series.BUTTRESS_INCH: Fraction(52),
    Series.ROUND: Fraction(30),
}
"""Included flank angle, degrees."""

UNEQUAL_FLANKS: dict[Series, tuple[Fraction, Fraction]] = {
    Series.BUTTRESS: (Fraction(3), Fraction(30)),
    Series.BUTTRESS_INCH: (Fraction(7), Fraction(45)),
}
"""Angles of the flank that bears the load and of the other against the plane across the axis, degrees: DIN 513-1 and
ASME B1.9. In every other series either is half the included angle."""

TAPER: dict[Series, Fraction] = {Series.BSPT: Fraction(1, 16), Series.NPT: Fraction(1, 16)}
"""Change of diameter by length, of series that are cut on a taper; the pitch is along the axis."""

# ISO 261:1998, coarse pitches, first to third choice; mm.
_COARSE = """
1 0.25   1.1 0.25  1.2 0.25  1.4 0.3   1.6 0.35  1.8 0.35  2 0.4     2.2 0.45  2.5 0.45  3 0.5
3.5 0.6  4 0.7     4.5 0.75  5 0.8     6 1       7 1       8 1.25    9 1.25    10 1.5    11 1.5
12 1.75  14 2      16 2      18 2.5    20 2.5    22 2.5    24 3      27 3      30 3.5    33 3.5
36 4     39 4      42 4.5    45 4.5    48 5      52 5      56 5.5    60 5.5    64 6      68 6
"""
# ISO 261:1998, fine pitches up to 68 mm: diameters, then their pitches; mm.
_FINE = """
1 1.1 1.2 1.4 1.6 1.8: 0.2; 2 2.2: 0.25; 2.5 3 3.5: 0.35; 4 4.5 5 5.5: 0.5; 6 7: 0.75; 8 9 11: 1 0.75;
10: 1.25 1 0.75; 12 14: 1.5 1.25 1; 15 16 17: 1.5 1; 18 20 22 24 25 27 28: 2 1.5 1; 26 35 38: 1.5; 30: 3 2 1.5 1;
32: 2 1.5; 33 36 39 40 50: 3 2 1.5; 42 45 48 52 55 56 58 60 62 64 65 68: 4 3 2 1.5
"""
# ASME B1.1: size and threads per inch; `#` numbers have a diameter of 0.060 + 0.013 n inch.
_UNC = """
#1-64 #2-56 #3-48 #4-40 #5-40 #6-32 #8-32 #10-24 #12-24 1/4-20 5/16-18 3/8-16 7/16-14 1/2-13 9/16-12 5/8-11 3/4-10
7/8-9 1-8 1_1/8-7 1_1/4-7 1_3/8-6 1_1/2-6 1_3/4-5 2-4.5 2_1/4-4.5 2_1/2-4 2_3/4-4 3-4 3_1/4-4 3_1/2-4 3_3/4-4 4-4
"""
_UNF = """
#0-80 #1-72 #2-64 #3-56 #4-48 #5-44 #6-40 #8-36 #10-32 #12-28 1/4-28 5/16-24 3/8-24 7/16-20 1/2-20 9/16-18 5/8-18
3/4-16 7/8-14 1-12 1_1/8-12 1_1/4-12 1_3/8-12 1_1/2-12
"""
_UNEF = """
#12-32 1/4-32 5/16-32 3/8-32 7/16-28 1/2-28 9/16-24 5/8-24 11/16-24 3/4-20 13/16-20 7/8-20 15/16-20 1-20 1_1/16-18
1_1/8-18 1_3/16-18 1_1/4-18 1_5/16-18 1_3/8-18 1_7/16-18 1_1/2-18 1_9/16-18 1_5/8-18 1_11/16-18
"""
# BS 84: Whitworth and fine; 7/32 and 11/16 Whitworth, 1 3/8 and 1 5/8 from older practice.
_BSW = """
1/16-60 3/32-48 1/8-40 5/32-32 3/16-24 7/32-24 1/4-20 5/16-18 3/8-16 7/16-14 1/2-12 9/16-12 5/8-11 11/16-11 3/4-10
7/8-9 1-8 1_1/8-7 1_1/4-7 1_3/8-6 1_1/2-6 1_5/8-5 1_3/4-5 2-4.5 2_1/4-4 2_1/2-4 2_3/4-3.5 3-3.5
"""
_BSF = """
3/16-32 7/32-28 1/4-26 9/32-26 5/16-22 3/8-20 7/16-18 1/2-16 9/16-16 5/8-14 11/16-14 3/4-12 13/16-12 7/8-11 1-10
1_1/8-9 1_1/4-9 1_3/8-8 1_1/2-8 1_5/8-8 1_3/4-7 2-7 2_1/4-6 2_1/2-6 2_3/4-6 3-5
"""
# ISO 228-1: size, threads per inch, major diameter in mm.
_BSP = """
1/16-28=7.723 1/8-28=9.728 1/4-19=13.157 3/8-19=16.662 1/2-14=20.955 5/8-14=22.911 3/4-14=26.441 7/8-14=30.201
1-11=33.249 1_1/8-11=37.897 1_1/4-11=41.910 1_1/2-11=47.803 1_3/4-11=53.746 2-11=59.614 2_1/4-11=65.710
2_1/2-11=75.184 2_3/4-11=81.534 3-11=87.884 3_1/2-11=100.330 4-11=113.030
"""
# ISO 7-1: size, threads per inch, major diameter at the gauge plane in mm.
_BSPT = """
1/16-28=7.723 1/8-28=9.728 1/4-19=13.157 3/8-19=16.662 1/2-14=20.955 3/4-14=26.441 1-11=33.249 1_1/4-11=41.910
1_1/2-11=47.803 2-11=59.614 2_1/2-11=75.184 3-11=87.884 4-11=113.030
"""
# ASME B1.20.1: size, threads per inch, outside diameter of the pipe in mm.
_NPT = """
1/16-27=7.9375 1/8-27=10.287 1/4-18=13.716 3/8-18=17.145 1/2-14=21.336 3/4-14=26.67 1-11.5=33.401 1_1/4-11.5=42.164
1_1/2-11.5=48.26 2-11.5=60.325 2_1/2-8=73.025 3-8=88.9 4-8=114.3
"""
# Model engineers' 55° threads of constant pitch.
_ME = """
1/8-40 5/32-40 3/16-40 7/32-40 1/4-40 9/32-40 5/16-40 3/8-40 7/16-40 1/2-40 3/16-32 7/32-32 1/4-32 9/32-32 5/16-32
3/8-32 7/16-32 1/2-32 3/8-26 7/16-26 1/2-26
"""
# ISO 2904, preferred pitch for each diameter; mm. DIN 513-2 has the same for buttress threads, from 10 mm on.
_TRAPEZOIDAL = """
8 1.5  10 2  12 3  14 3  16 4  18 4  20 4  22 5  24 5  26 5  28 5  30 6  32 6  34 6  36 6  38 7  40 7  42 7  44 7
46 8   48 8  50 8  52 8  55 9  60 9  65 10  70 10  75 10  80 10  85 12  90 12  95 12  100 12
"""
# DIN 405-1: diameters in mm, then the threads per inch that all of them have.
_ROUND = """
8 9 10 11 12: 10; 14 16 18 20 22 24 26 28 30 32 34 36 38: 8;
40 42 44 46 48 50 52 55 58 60 62 65 68 70 72 75 78 80 82 85 88 90 92 95 98 100: 6
"""
# ASME B1.5, general purpose Acme.
_ACME = """
1/4-16 5/16-14 3/8-12 7/16-12 1/2-10 5/8-8 3/4-6 7/8-6 1-5 1_1/8-5 1_1/4-5 1_3/8-4 1_1/2-4 1_3/4-4 2-4 2_1/4-3
2_1/2-3 2_3/4-3 3-2 3_1/2-2 4-2 4_1/2-2 5-2
"""
# BS 93: pitch 0.9^n mm to two decimals, diameter 6 p^1.2 mm to two figures, with p not yet rounded.
_BA_SIZES = range(17)
_LEAST_BUTTRESS = 10


@dataclass(frozen=True)
class Size:
    """One thread of a series. name: as it is said without the series; usual: meant when only the name is said."""

    series: Series
    name: str
    diameter: Fraction
    pitch: Fraction
    usual: bool

    @property
    def per_inch(self) -> Fraction:
        return MM_PER_INCH / self.pitch

    @property
    def designation(self) -> str:
        """The thread in one line: `M14`, `M14x1.5`, `1/2-13 UNC`, `3/8 BSW`, `4 BA`, `Tr20x4`."""
        match self.series:
            case Series.METRIC:
                return f"M{self.name}" if self.usual else f"M{self.name}x{spell(self.pitch)}"
            case Series.TRAPEZOIDAL | Series.BUTTRESS:
                return f"{self.series}{self.name}x{spell(self.pitch)}"
            case Series.ROUND:
                return f"{self.series}{self.name}x1/{spell(self.per_inch)}"
            case Series.BSW | Series.BSF | Series.BSP | Series.BSPT | Series.NPT | Series.BA:
                return f"{self.name} {self.series}"
            case _:
                return f"{self.name}-{spell(self.per_inch)} {self.series}"


@cache
def sizes(series: Series) -> tuple[Size, ...]:
    """Every thread of a series, by diameter."""
    match series:
        case Series.METRIC:
            every = [*_pairs(series, _COARSE), *_fine()]
        case Series.BUTTRESS:
            every = [size for size in _pairs(series, _TRAPEZOIDAL) if size.diameter >= _LEAST_BUTTRESS]
        case Series.ROUND:
            every = list(_round())
        case Series.BUTTRESS_INCH:
            every = []  # ASME B1.9 has no preferred pitch for a diameter.
        case Series.TRAPEZOIDAL:
            every = _pairs(series, _TRAPEZOIDAL)
        case Series.BA:
            every = [_ba(n) for n in _BA_SIZES]
        case _:
            every = list(_inch(series, _INCH_TABLES[series]))
    return tuple(sorted(every, key=lambda s: (s.diameter, -s.pitch)))


_INCH_TABLES = {
    Series.UNC: _UNC,
    Series.UNF: _UNF,
    Series.UNEF: _UNEF,
    Series.BSW: _BSW,
    Series.BSF: _BSF,
    Series.BSP: _BSP,
    Series.BSPT: _BSPT,
    Series.NPT: _NPT,
    Series.ME: _ME,
    Series.ACME: _ACME,
}


def _pairs(series: Series, table: str) -> list[Size]:
    words = table.split()
    pairs = zip(words[::2], words[1::2], strict=True)
    return [Size(series, d, Fraction(d), Fraction(p), True) for d, p in pairs]


def _fine() -> Iterable[Size]:
    for part in _FINE.split(";"):
        diameters, pitches = part.split(":")
        for d in diameters.split():
            for p in pitches.split():
                yield Size(Series.METRIC, d, Fraction(d), Fraction(p), False)


def _round() -> Iterable[Size]:
    for part in _ROUND.split(";"):
        diameters, per_inch = part.split(":")
        for d in diameters.split():
            yield Size(Series.ROUND, d, Fraction(d), MM_PER_INCH / int(per_inch), True)


def _ba(number: int) -> Size:
    exact = 0.9**number
    diameter = 6 * exact**1.2
    return Size(Series.BA, str(number), Fraction(f"{diameter:.2g}"), Fraction(f"{exact:.2f}"), True)


def _inch(series: Series, table: str) -> Iterable[Size]:
    once: set[str] = set()
    for word in table.split():
        name, rest = word.replace("_", " ").split("-")
        per_inch, _, diameter = rest.partition("=")
        yield Size(
            series,
            name,
            Fraction(diameter) if diameter else _inches(name) * MM_PER_INCH,
            MM_PER_INCH / Fraction(per_inch),
            name not in once,
        )
        once.add(name)


def _inches(name: str) -> Fraction:
    """`#6` or `1 1/2` in inches."""
    if name.startswith("#"):
        return Fraction(60 + 13 * int(name[1:]), 1000)
    return sum((Fraction(part) for part in name.split()), Fraction(0))


def inch_name(inches: Fraction) -> str:
    """The name of an inch size: `1 1/2`."""
    return spell_inch(inches)


def every_size() -> Iterable[Size]:
    """All threads of all series."""
    for series in Series:
        yield from sizes(series)


def find(series: Series, name: str, pitch: Fraction | None = None) -> Size | None:
    """The thread of this name, with this pitch (mm) if one is given, else the usual one."""
    for size in sizes(series):
        if size.name == name and (size.pitch == pitch if pitch is not None else size.usual):
            return size
    return None


def numbered(number: int, pitch: Fraction) -> Size | None:
    """The size of the unified series that is called by this number, where there is one with that pitch, mm."""
    sizes = (find(series, f"#{number}", pitch) for series in (Series.UNC, Series.UNF, Series.UNEF))
    return next((size for size in sizes if size), None)


def nearest(series: Series, diameter: Fraction, count: int = 2) -> list[Size]:
    """The usual sizes of a series nearest to a diameter, nearest first."""
    usual = [s for s in sizes(series) if s.usual]
    return sorted(usual, key=lambda s: (abs(s.diameter - diameter), s.diameter))[:count]
