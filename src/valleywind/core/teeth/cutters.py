"""Form cutters: which of a set cuts a wheel, how they are numbered, what a set lacks."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import MOST_TEETH, Pitch, WheelFamily
from valleywind.core.units import parse_number

FEWEST_CUT = 12
"""Teeth at which the usual sets of form cutters begin."""

RACK = None
"""Highest count of a cutter whose range goes on to the rack."""

Range = tuple[int, int | None]

# The set of eight in order of its ranges; the set of fifteen puts a half between most of them.
_EIGHT: tuple[Range, ...] = ((12, 13), (14, 16), (17, 20), (21, 25), (26, 34), (35, 54), (55, 134), (135, RACK))
_HALVES: tuple[Range, ...] = ((13, 13), (15, 16), (19, 20), (23, 25), (30, 34), (42, 54), (80, 134))


class School(StrEnum):
    """Which way a set is numbered: 8 to 1 from pinion to rack, or 1 to 8."""

    INCH = "inch"
    METRIC = "metric"


@dataclass(frozen=True)
class Numbering:
    """The number of a cutter in either school, a half for the cutters in between."""

    inch: Fraction
    metric: Fraction


@dataclass(frozen=True)
class Cutter:
    """A form cutter. lowest, highest: its engraved range, highest None for up to a rack; engraved: its number as it
    stands there, empty where there is none; bore and depth in mm, 0 where unknown, the depth as engraved."""

    pitch: Pitch
    pressure_angle: Fraction
    lowest: int
    highest: int | None
    engraved: str = ""
    condition: Condition = Condition.GOOD
    bore: Fraction = Fraction(0)
    depth: Fraction = Fraction(0)
    count: int = 1

    def cuts(self, teeth: int) -> bool:
        return self.lowest <= teeth and (self.highest is None or teeth <= self.highest)


@dataclass(frozen=True)
class CutterSet:
    """The cutters of one pitch and angle. gaps: ranges of the set of eight, or what is left of them, that none of them
    cuts; doubles: ranges held more than once; counts: tooth numbers that can be cut, as runs."""

    pitch: Pitch
    pressure_angle: Fraction
    cutters: tuple[Cutter, ...]
    gaps: tuple[Range, ...]
    doubles: tuple[Range, ...]
    counts: tuple[Range, ...]

    def lacks(self, place: Range) -> bool:
        """Whether some count of this range of a set of eight is cut by none of them."""
        low, high = place
        return any(low <= gap[0] <= (high or MOST_TEETH) for gap in self.gaps)

    @property
    def places(self) -> tuple[tuple[Range, int], ...]:
        """The ranges of a set of eight, each with how many usable cutters cut some of it."""
        usable = [c for c in self.cutters if c.condition.usable]
        return tuple(
            (
                r,
                sum(
                    c.count
                    for c in usable
                    if c.lowest <= (r[1] or MOST_TEETH) and (c.highest is None or c.highest >= r[0])
                ),
            )
            for r in _EIGHT
        )


def range_of_eight(teeth: int) -> Range | None:
    """The range of the cutter of the set of eight that cuts this count; None below twelve, which no set cuts."""
    return next((r for r in reversed(_EIGHT) if r[0] <= teeth), None)


def range_of_fifteen(teeth: int) -> Range | None:
    """The range of the cutter of the set of fifteen that cuts this count; None below twelve."""
    if (usual := range_of_eight(teeth)) is None:
        return None
    low, high = usual
    half = _HALVES[_EIGHT.index((low, high))] if high is not None else None
    if half is None:
        return low, high
    return half if half[0] <= teeth else (low, half[0] - 1)


def numbering(lowest: int) -> Numbering | None:
    """The number of the cutter whose range begins so; None where no set has such a one."""
    for place, (low, _) in enumerate(_EIGHT):
        if low == lowest:
            return Numbering(Fraction(8 - place), Fraction(1 + place))
    for place, (low, _) in enumerate(_HALVES):
        if low == lowest:
            return Numbering(Fraction(15 - 2 * place, 2), Fraction(3 + 2 * place, 2))
    return None


def school(engraved: str, lowest: int) -> School | None:
    """In which school this number stands for this range; None where it does in neither, or in both alike."""
    numbers, number = numbering(lowest), engraved_number(engraved)
    if numbers is None or number is None or numbers.inch == numbers.metric:
        return None
    if number == numbers.inch:
        return School.INCH
    return School.METRIC if number == numbers.metric else None


def engraved_number(engraved: str) -> Fraction | None:
    """`7½`, `No 3`, `4 1/2` as a number; None where there is none."""
    match = re.search(r"\d.*", engraved)
    try:
        return parse_number(match[0], "engraved") if match else None
    except Refusal:
        return None


def read_range(text: str, field: str = "range") -> Range:
    """A range as engraved: `26-34`, `135-rack`, `135 up`, `12`. Raises Refusal `not_a_range`, `teeth_out_of_range`."""
    match = re.fullmatch(r"(\d{1,4})\s*(?:(?:-|–|to|\.\.)\s*(\d{1,4}|rack|r|up)|\+|(up|rack))?", text.strip().lower())
    if not match:
        raise Refusal("not_a_range", field, text)
    lowest = int(match[1])
    open_ended = text.strip().endswith("+") or match[3] is not None or match[2] in ("rack", "r", "up")
    highest = RACK if open_ended else int(match[2] or lowest)
    if lowest < 6 or lowest > MOST_TEETH or (highest is not None and highest < lowest):
        raise Refusal("not_a_range", field, text)
    return lowest, highest


def serving(cutters: Sequence[Cutter], family: WheelFamily, teeth: int) -> list[Cutter]:
    """The held cutters that cut this wheel, the truest first: the one whose range begins nearest below the count."""
    cutting = [c for c in _of(cutters, family) if c.cuts(teeth)]
    return sorted(cutting, key=lambda c: (teeth - c.lowest, c.condition is not Condition.GOOD))


def substitute(cutters: Sequence[Cutter], family: WheelFamily, teeth: int) -> Cutter | None:
    """Where none is made for the count: the held cutter for fewer teeth that is nearest, whose form is too round; a
    cutter for more teeth would leave tips that foul. None where there is none."""
    smaller = [c for c in _of(cutters, family) if c.lowest <= teeth]
    return max(smaller, key=lambda c: (c.lowest, c.condition is Condition.GOOD), default=None)


def _of(cutters: Sequence[Cutter], family: WheelFamily) -> list[Cutter]:
    """The usable ones of this pitch and pressure angle."""
    return [
        c for c in cutters
        if c.count and c.condition.usable and c.pitch.module == family.module
        and c.pressure_angle == family.pressure_angle
    ]  # fmt: skip


def sets(cutters: Sequence[Cutter]) -> list[CutterSet]:
    """The cutters by pitch and angle, each set with its gaps and doubles."""
    keys = dict.fromkeys((c.pitch, c.pressure_angle) for c in cutters)
    return [_set(pitch, angle, [c for c in cutters if (c.pitch, c.pressure_angle) == (pitch, angle)])
            for pitch, angle in sorted(keys, key=lambda k: (k[0].module, k[1]))]  # fmt: skip


def _set(pitch: Pitch, angle: Fraction, cutters: list[Cutter]) -> CutterSet:
    usable = [c for c in cutters if c.count and c.condition.usable]
    last = MOST_TEETH  # stands for the rack
    cut = [any(c.cuts(teeth) for c in usable) for teeth in range(last + 1)]
    uncut = [teeth >= FEWEST_CUT and not cut[teeth] for teeth in range(last + 1)]
    counts = [(a, RACK if b == last else b) for a, b in _runs(cut)]
    gaps = [
        (a, RACK if b == last else b)
        for low, high in _EIGHT
        for a, b in _runs([low <= t <= (high or last) and uncut[t] for t in range(last + 1)])
    ]
    ranges = [(c.lowest, c.highest) for c in usable for _ in range(c.count)]
    doubles = sorted({r for r in ranges if ranges.count(r) > 1}, key=lambda r: r[0])
    ordered = sorted(cutters, key=lambda c: (c.lowest, c.highest or MOST_TEETH, c.engraved))
    return CutterSet(pitch, angle, tuple(ordered), tuple(gaps), tuple(doubles), tuple(counts))


def _runs(flags: Sequence[bool]) -> list[tuple[int, int]]:
    """Stretches of True, first and last place."""
    starts = [i for i, flag in enumerate(flags) if flag and (i == 0 or not flags[i - 1])]
    ends = [i for i, flag in enumerate(flags) if flag and (i + 1 == len(flags) or not flags[i + 1])]
    return list(zip(starts, ends, strict=True))
