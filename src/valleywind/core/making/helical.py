"""A helical wheel's figures in the form in which those of a straight one are told. Lengths in mm."""

import math
from dataclasses import dataclass, replace
from fractions import Fraction

from valleywind.core.cutting.wheel import CutWheel, WheelToCut, cut_wheel
from valleywind.core.teeth.pitch import MOST_TEETH, WheelFamily
from valleywind.core.teeth.sizes import Sizes, sizes
from valleywind.core.trains.direction import Hand


@dataclass(frozen=True)
class Helix:
    """Teeth that run round the wheel like a screw; angle: in degrees, at the pitch circle."""

    angle: Fraction
    hand: Hand


def wheel_of(teeth: int, family: WheelFamily, helix: Helix, face: float) -> CutWheel:
    """The wheel; whether its span can be measured depends on its face, mm."""
    wide = Fraction(face)
    wheel = cut_wheel(WheelToCut(teeth, family.pitch, family.pressure_angle, helix.angle, helix.hand, wide))
    assert wheel is not None
    return wheel


def helical_sizes(teeth: int, family: WheelFamily, helix: Helix, depth: float | None, face: float) -> Sizes:
    """The figures of a helical wheel: diameters and measures its own, the tooth's form that of its formative count.

    Where no span can be measured its figures are those of the formative wheel; see `wheel_of`. Raises Refusal as
    `sizes` does.
    """
    wheel = wheel_of(teeth, family, helix, face)
    formative = sizes(min(MOST_TEETH, int(wheel.formative)), family, depth=depth)
    transverse = math.atan(math.tan(math.radians(family.pressure_angle)) / math.cos(math.radians(helix.angle)))
    return replace(
        formative, teeth=teeth, tip_diameter=wheel.tip_diameter, pitch_diameter=wheel.pitch_diameter,
        base_diameter=wheel.pitch_diameter * math.cos(transverse),
        root_diameter=wheel.tip_diameter - 2 * formative.depth, over=wheel.over or formative.over,
        span=wheel.span or formative.span, pin=wheel.pin, pins=wheel.rollers,
        balls=wheel.balls if wheel.balls != wheel.rollers else None,
    )  # fmt: skip
