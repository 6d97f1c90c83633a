"""What one divides with: dividing heads, rotary tables, spin indexers, collet blocks, with plates and gears."""

import re
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.dividing.ways import direct, simple
from valleywind.core.record import or_none, read_fields, typed_field
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Stock, parse_stock
from valleywind.core.units import parse_length, parse_number, parse_ratio, spell

FEWEST_HOLES, MOST_HOLES = 2, 400
MOST_RATIO = 360
_MOST_CIRCLES = 24
_LARGEST_CIRCLE = 2000


@dataclass(frozen=True)
class Circle:
    """One circle of holes of a plate; diameter in mm, None where nobody measured it."""

    holes: int
    diameter: float | None = None


Side = tuple[Circle, ...]
"""The circles of one side of a plate: what the pin can be set to without taking the plate off."""


@dataclass(frozen=True)
class Head:
    """A worm head, a rotary table or a spin indexer.

    ratio: turns of the crank per turn of the work, None where there is no worm. sides: plate sides. direct: hole
    counts on the spindle itself. gears: the head's own wheels for differential indexing. geared: whether the plate can
    be driven from the spindle. reads: the smallest angle its graduations show, degrees, None where it has none. flats:
    `direct` are the flats of blocks that are turned over in a vice.
    """

    ratio: Fraction | None
    sides: tuple[Side, ...] = ()
    direct: tuple[int, ...] = ()
    gears: Stock | None = None
    geared: bool = False
    reads: Fraction | None = None
    flats: bool = False

    @property
    def pinned(self) -> int:
        """Holes of a plate on the spindle between which a second row of holes goes on by `reads`, as a spin indexer
        has it; 0 where there is none."""
        if self.ratio is not None or self.reads is None or len(self.direct) != 1:
            return 0
        between = Fraction(360, self.direct[0]) / self.reads
        return self.direct[0] if between > 1 and between.denominator == 1 else 0

    @property
    def circles(self) -> tuple[int, ...]:
        """The hole counts of all its plates, ascending."""
        return tuple(sorted({c.holes for side in self.sides for c in side}))

    def divides_plainly(self, divisions: int) -> bool:
        """Whether holes on the spindle or one circle of a plate give this number of divisions exactly."""
        return bool(direct(divisions, self.direct) or (self.ratio and simple(self.ratio, divisions, self.circles)))


def read_ratio(text: str, field: str = "ratio") -> Fraction:
    """The worm ratio: `40`, `60 : 1`, `90:1`. Raises Refusal `ratio_out_of_range`."""
    ratio = parse_ratio(text, field)
    if not 1 <= ratio <= MOST_RATIO:
        raise Refusal("ratio_out_of_range", field, text, most=MOST_RATIO)
    return ratio


def read_plates(text: str, field: str = "plates") -> tuple[Side, ...]:
    """Plate sides as typed, parted by `/` or `;`, circles by space or comma, a diameter in mm behind `@`.

    Raises Refusal `not_a_circle`, `circles_alike`, `too_many_circles`.
    """
    sides = []
    for part in re.split(r"[/;\n]", text):
        side = []
        for word in re.split(r"[\s,]+", part.strip()):
            if word:
                side.append(_circle(word, field))
        if len({c.holes for c in side}) < len(side):
            raise Refusal("circles_alike", field, part.strip())
        if len(side) > _MOST_CIRCLES:
            raise Refusal("too_many_circles", field, part.strip(), most=_MOST_CIRCLES)
        if side:
            sides.append(tuple(side))
    return tuple(sides)


def spell_plates(sides: tuple[Side, ...]) -> str:
    """Plate sides as `read_plates` takes them back."""
    return " / ".join(" ".join(map(_spell_circle, side)) for side in sides)


def _spell_circle(circle: Circle) -> str:
    if not circle.diameter:
        return str(circle.holes)
    return f"{circle.holes}@{spell(Fraction(circle.diameter).limit_denominator(10**6))}"


def _circle(word: str, field: str) -> Circle:
    match = re.fullmatch(r"(\d{1,4})(?:@(\d+(?:\.\d+)?|\d+/\d+))?", word, re.ASCII)
    if not match or not FEWEST_HOLES <= int(match[1]) <= MOST_HOLES:
        raise Refusal("not_a_circle", field, word, fewest=FEWEST_HOLES, most=MOST_HOLES)
    diameter = float(parse_length(match[2], field=field).mm) if match[2] else None
    if diameter is not None and not 1 <= diameter <= _LARGEST_CIRCLE:
        raise Refusal("circle_out_of_range", field, word, most=_LARGEST_CIRCLE)
    return Circle(int(match[1]), diameter)


def _direct(text: str, field: str) -> tuple[int, ...]:
    return tuple(sorted({_circle(word, field).holes for word in re.split(r"[\s,]+", text.strip()) if word}))


def _angle(text: str, field: str) -> Fraction:
    """Degrees of `1°`, `5'`, `10"`, or of a bare number."""
    typed = text.strip().replace("′", "'").replace("″", '"')
    per = {"'": 60, '"': 3600}.get(typed[-1:], 1)
    value = parse_number(typed.rstrip("°'\" "), "reads") / per
    if not 0 < value <= 90:
        raise Refusal("not_a_reading", field, text)
    return value


@dataclass(frozen=True)
class TypedHead:
    """A head's record as typed: plate sides `15 18 21 / 16 19`, a circle's diameter behind @, the smallest reading as
    `1°`, `5'` or `10"`."""

    ratio: str = typed_field(or_none(read_ratio))
    plates: str = typed_field(read_plates)
    direct: str = typed_field(_direct)
    gears: str = typed_field(or_none(parse_stock))
    geared: bool = False
    reads: str = typed_field(or_none(_angle))


def read_head(typed: TypedHead) -> Head:
    """Read every field. Raises Refusal at the field: `ratio_out_of_range`, `not_a_circle`, `circles_alike`,
    `divides_with_nothing`, and those of numbers and stocks."""
    read = read_fields(typed)
    head = Head(sides=read.pop("plates"), geared=typed.geared, **read)
    if head.ratio is None and not head.direct and head.reads is None:
        raise Refusal("divides_with_nothing", "ratio", typed.ratio)
    return head
