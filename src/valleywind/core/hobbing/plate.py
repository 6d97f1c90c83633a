"""A hobber's table from its manual: counts of teeth and their index wheels, feeds, and leads of the differential.

Index: K = ratio × teeth / starts. Feed: mm per table turn by the ratio. Differential: K = ratio × module / sin β; sines
are no fractions, so its lines are approximations.
"""

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.hobbing.machine import Box
from valleywind.core.plate.consensus import APPROXIMATE, Point, Step, Target
from valleywind.core.plate.plate import Plate, PlateCraft, find_plate
from valleywind.core.plate.text import TargetGrammar
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.units import PI, parse_length, parse_number, sine

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_FEED = rf"feed\s+{_NUMBER}\s*(?:mm|inch|in|\"|thou)?(?:\s*/\s*(?:rev|turn)\b)?"
_DIFFERENTIAL = rf"diff(?:erential)?\.?\s+(?:(?:module|mod\.?|m)\s*)?{_NUMBER}\s+{_NUMBER}\s*(?:°|deg(?:rees?)?\b)?"
_COUNT = r"(?:z\s*=?\s*)?\d{1,4}(?:\s*(?:teeth|t)\b)?(?:\s+\d\s+starts?\b)?\s*(?![\d.,]*\s*[/+])"
_GRAMMAR = TargetGrammar(
    re.compile(rf"{_FEED}|{_DIFFERENTIAL}|{_COUNT}", re.IGNORECASE),
    re.compile(rf"{_FEED}|{_DIFFERENTIAL}", re.IGNORECASE),
    {"teeth": "", "count": "", "counts": "", "z": "", "divisions": "", "index": "", "feed": "feed", "feeds": "feed"},
)
_USUAL = (24, 12, 30, 36, 48, 20, 40, 60, 15, 16, 18, 32, 72, 45, 10, 25)
# Any other whole number up to this is less usual.
_OTHER, _LARGEST = 40, 200
_MOST_SPLITS = 2
_MOST_COUNT = 1000


def read_plate(text: str, held: Iterable[int] = ()) -> Plate:
    """A hobber's table. Raises Refusal: those of `find_plate`."""
    return find_plate(text, _CRAFT, held)


@dataclass(frozen=True)
class HobberConstants:
    """The constants that a table gives, as a record takes them; None where it has no such lines. index: each with the
    count it holds from. pi: whether the differential's is this many mm by π."""

    index: tuple[tuple[Fraction, int], ...]
    feed: Fraction | None
    differential: Fraction | None
    pi: bool


def constants_of(plate: Plate) -> HobberConstants:
    """What a table says of its hobber."""
    index: list[tuple[Fraction, int]] = []
    base = plate.constants.get(Box.INDEX)
    if base is not None:
        for step, factor in (plate.steps or {(): Fraction(1)}).items():
            match = re.fullmatch(r"from (\d+)", step[0]) if step else None
            index.append((1 / (base * factor), int(match[1]) if match else 0))
    differential = plate.constants.get(Box.DIFFERENTIAL)
    with_pi = differential is not None and (_simple(1 / differential * PI) == 1 / differential * PI)
    return HobberConstants(
        tuple(sorted(index, key=lambda c: c[1])), plate.constants.get(Box.FEED),
        1 / differential if differential is not None else None, with_pi,
    )  # fmt: skip


def teeth_of(target: Target) -> int:
    """The count of an index line."""
    return _teeth(target.text)


def _simple(value: Fraction) -> Fraction:
    """The nearest number that a constant would be."""
    return value.limit_denominator(8)


def _teeth(text: str) -> int:
    match = re.search(r"\d+", text)
    return int(match[0]) if match else 0


def _target(typed: str, unit: str) -> Target:
    text = typed.strip().rstrip(":")
    if unit == "feed" and re.fullmatch(rf"{_NUMBER}.*", text):
        text = f"feed {text}"
    lowered = text.lower()
    if lowered.startswith("feed"):
        length = re.sub(r"\s*/\s*(?:rev|turn)$", "", lowered.removeprefix("feed").strip())
        return Target(typed, Box.FEED, parse_length(length, field="lines").mm, "feed")
    if lowered.startswith("diff"):
        module, angle = re.findall(_NUMBER, lowered)[:2]
        degrees, size = parse_number(angle, "lines"), parse_number(module, "lines")
        if not 0 < degrees < 90 or not size:
            raise Refusal("not_positive", "lines", typed)
        return Target(typed, Box.DIFFERENTIAL, sine(degrees) / size, "differential")
    match = re.fullmatch(r"(?:z\s*=?\s*)?(\d{1,4})(?:\s*(?:teeth|t))?(?:\s+(\d)\s+starts?)?", lowered.strip())
    if not match or not 0 < int(match[1]) <= _MOST_COUNT or match[2] == "0":
        raise Refusal("not_a_number", "lines", typed)
    return Target(typed, Box.INDEX, Fraction(int(match[2] or 1), int(match[1])), "teeth")


def _unusual(kind: str, constant: Fraction) -> int | None:
    """The constant of an index line is told the other way up: 1/K."""
    if kind != Box.INDEX:
        return None
    index = 1 / constant
    if index in _USUAL:
        return _USUAL.index(int(index))
    return _OTHER if index.denominator == 1 and index <= _LARGEST else None


def _near(kind: str, constant: Fraction) -> Iterable[Fraction]:
    if kind != Box.DIFFERENTIAL:
        return []
    differential = 1 / constant
    simple = [_simple(differential * PI) / PI, _simple(differential), _simple(differential / PI) * PI]
    return [1 / one for one in simple if one and abs(one / differential - 1) <= APPROXIMATE]


def _others(target: Target) -> Iterable[Target]:
    """Other counts, for an index line."""
    if target.kind != Box.INDEX:
        return []
    starts = target.per * _teeth(target.text)
    return [Target(str(z), target.kind, starts / z) for z in range(FEWEST_TEETH, MOST_TEETH + 1)]


def _steppings(points: Sequence[Point]) -> list[list[Step]]:
    """The reversing pair may be changed at some count: below it most lines agree on one constant, from it on most agree
    on another. The places where the most lines do so, the highest first."""
    index = sorted({_teeth(p.target.text): p.constant for p in points if p.target.kind == Box.INDEX}.items())
    below = _agreeing([constant for _, constant in index])
    above = _agreeing([constant for _, constant in reversed(index)])[::-1]
    splits = [n for n in range(1, len(index)) if index[n - 1][1] != index[n][1]]
    most = max((below[n - 1] + above[n] for n in splits), default=0)
    best = [index[n][0] for n in splits if below[n - 1] + above[n] == most][-_MOST_SPLITS:]
    return [
        [
            (f"from {at}",) if p.target.kind == Box.INDEX and _teeth(p.target.text) >= at else ("",)
            for p in points
        ]
        for at in reversed(best)
    ]  # fmt: skip


def _agreeing(constants: Sequence[Fraction]) -> list[int]:
    """How many of the first 1, 2, 3 … constants are the same one, at most."""
    counted: Counter[Fraction] = Counter()
    most, alike = 0, []
    for constant in constants:
        counted[constant] += 1
        most = max(most, counted[constant])
        alike.append(most)
    return alike


_CRAFT = PlateCraft(
    _GRAMMAR, Box.INDEX.value, ("",), lambda line, _bare: _target(line.target, line.unit), _unusual, _others, _near,
    steppings=_steppings,
)  # fmt: skip
