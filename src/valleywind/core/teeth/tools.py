"""Where a measuring tool sits on a wheel: its jaws upright, seen along the axis, the wheel's centre at (0, 0).

Lengths in mm, angles in radians anticlockwise from the x axis.
"""

import math
from dataclasses import dataclass

from valleywind.core.teeth.geometry import half_angle, pin_angle, pitch_radius, span, tip_radius
from valleywind.core.teeth.pitch import WheelFamily

Point = tuple[float, float]


@dataclass(frozen=True)
class Tool:
    """Jaws on a wheel. turn: where the middle of a tooth stands; left, right: the faces of the jaws; height: how high
    they touch; touching: the points at which they do; pins: the centres of pins between them, and pin their diameter.
    """

    turn: float
    left: float
    right: float
    height: float
    touching: tuple[Point, ...] = ()
    pins: tuple[Point, ...] = ()
    pin: float = 0.0

    @property
    def opening(self) -> float:
        """What is read."""
        return self.right - self.left


def over_the_tips(teeth: int, family: WheelFamily) -> Tool:
    """Flat jaws over the tips: of an odd wheel one touches a tooth, the other lies on two."""
    tip = tip_radius(teeth, family)
    off = math.pi / teeth if teeth % 2 else 0.0
    right = tip * math.cos(off)
    points = [(-tip, 0.0), (right, tip * math.sin(off)), (right, -tip * math.sin(off))]
    return Tool(math.pi, -tip, right, 0.0, tuple(dict.fromkeys(points)))


def over_a_span(teeth: int, over: int, family: WheelFamily, shift: float = 0.0) -> Tool:
    """Jaws over this many teeth. The line through both points of touch is a tangent of the base circle."""
    half = span(teeth, over, family, shift) / 2
    base = pitch_radius(teeth, family) * math.cos(math.radians(family.pressure_angle))
    # With an even count a gap stands on top.
    turn = math.pi / 2 + (math.pi / teeth if over % 2 == 0 else 0.0)
    return Tool(turn, -half, half, base, ((-half, base), (half, base)))


def over_two_pins(teeth: int, pin: float, family: WheelFamily, shift: float = 0.0) -> Tool:
    """Jaws over pins in two gaps as nearly opposite as the teeth allow; of an odd wheel both stand above the middle."""
    base = pitch_radius(teeth, family) * math.cos(math.radians(family.pressure_angle))
    radius = base / math.cos(pin_angle(teeth, pin, family, shift))
    half_apart = teeth // 2 * math.pi / teeth
    x, y = radius * math.sin(half_apart), radius * math.cos(half_apart)
    reach = x + pin / 2
    turn = math.pi / 2 + half_apart - math.pi / teeth
    return Tool(turn, -reach, reach, y, ((-reach, y), (reach, y)), ((-x, y), (x, y)), pin)


def over_a_chord(teeth: int, family: WheelFamily, shift: float = 0.0) -> Tool:
    """Jaws over one tooth, as deep as the pitch circle."""
    pitch = pitch_radius(teeth, family)
    half = half_angle(teeth, family, pitch, shift)
    x, y = pitch * math.sin(half), pitch * math.cos(half)
    return Tool(math.pi / 2, -x, x, y, ((-x, y), (x, y)))
