"""A helical wheel's figures in the form in which those of a straight one are told. Lengths in mm."""

import math
from dataclasses import dataclass, replace
from fractions import Fraction

from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.wheel import HobbedWheel, hobbed_wheel
from valleywind.core.teeth.pitch import MOST_TEETH, WheelFamily
from valleywind.core.teeth.sizes import Sizes, Target, sizes
from valleywind.core.trains.direction import Hand


@dataclass(frozen=True)
class Helix:
    """Teeth that run round the wheel like a screw; angle: in degrees, at the pitch circle."""

    angle: Fraction
    hand: Hand


def wheel_of(teeth: int, family: WheelFamily, helix: Helix) -> HobbedWheel:
    """The wheel; whether its span can be measured depends on the family's face."""
    face = family.face or None
    wheel = hobbed_wheel(HobAsk(teeth, family.pitch, family.pressure_angle, helix.angle, helix.hand, face))
    assert wheel is not None
    return wheel


def helical_sizes(teeth: int, family: WheelFamily, helix: Helix, depth: float | None) -> Sizes:
    """The figures of a helical wheel: diameters and measures its own, the tooth's form that of its formative count.

    Where the face is too narrow for a span its figures are those that it would have; see `wheel_of`. Raises Refused as
    `sizes` does.
    """
    wheel = wheel_of(teeth, replace(family, face=Fraction(0)), helix)
    formative = sizes(min(MOST_TEETH, int(wheel.formative)), family, depth=depth)
    span = formative.span
    if wheel.span is not None and wheel.span_low is not None and wheel.span_high is not None:
        span = Target(wheel.span, wheel.span_low, wheel.span_high)
    transverse = math.atan(math.tan(math.radians(family.pressure_angle)) / math.cos(math.radians(helix.angle)))
    return replace(
        formative, teeth=teeth, tip_diameter=wheel.tip_diameter, pitch_diameter=wheel.pitch_diameter,
        base_diameter=wheel.pitch_diameter * math.cos(transverse),
        root_diameter=wheel.tip_diameter - 2 * formative.depth, over=wheel.over or formative.over, span=span,
        pin=wheel.pin, pins=Target(wheel.pins, wheel.pins_low, wheel.pins_high),
    )  # fmt: skip
