"""A hobber to try things on: Avocet of the demo shop, as the core knows it."""

import math
from fractions import Fraction

from valleywind.core.hobbing.machine import Box, Hobber, IndexConstant
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.direction import Drive, Sense
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.quadrant import Carrier, Quadrant, Slot, UnmeasuredQuadrant
from valleywind.core.units import PI

REFERENCE_STOCK = parse_stock(
    "24 25 26 27 28 29 30 32 33 34 35 36 37 38 39 40 41 42 44 45 46 47 48 50 51 52 53 54 55 56 57 58 59 60 61 62 63 64"
    " 65 70 75 80 90 100"
)
FAMILY = WheelFamily("", Pitch(PitchSystem.MODULE, Fraction(2)), Fraction(20), Fraction(25), Fraction(6), Fraction(16))
CONSTANTS = (IndexConstant(Fraction(24), 0, (40, 40)), IndexConstant(Fraction(48), 97, (48, 24)))


def quadrant(x: float, y: float, farthest: float = 230, studs: int = 2) -> Quadrant:
    slots = (Slot(0, 70, farthest), Slot(math.radians(-42), 70, farthest - 20))
    return Quadrant((x, y), slots, (math.radians(5), math.radians(150)), (18, 15, 18), 1, studs)


def avocet(index: Carrier | None = None, **more: object) -> Hobber:
    """Three boxes of one set; the lever of the index box reverses, an even number of meshes adds for a right hand."""
    lever = Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, True)
    boxes = {
        Box.INDEX: Gearbox(FAMILY, index or quadrant(70, 175), drive=lever, most_stages=2),
        Box.FEED: Gearbox(FAMILY, quadrant(40, 110, 170, 1), drive=lever, most_stages=2),
        Box.DIFFERENTIAL: Gearbox(FAMILY, quadrant(70, 175), drive=lever),
    }
    facts: dict[str, object] = {
        "differential": 25 / PI, "swivel": Fraction(45), "table": Sense.ANTICLOCKWISE, "boxes": boxes,
    }  # fmt: skip
    return Hobber(CONSTANTS, Fraction(3, 4), **(facts | more))  # type: ignore[arg-type]


def unmeasured() -> Hobber:
    """The same of which no quadrant is known."""
    boxes = {box: Gearbox(FAMILY, UnmeasuredQuadrant(2)) for box in Box}
    return avocet(boxes=boxes)
