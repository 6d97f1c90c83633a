"""How the wheels of a train stand and turn: phases that put tooth against gap, and turns per turn."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.trains.model import Role, Train

Point = tuple[float, float]


@dataclass(frozen=True)
class Motion:
    """A wheel at rest and in motion, anticlockwise positive.

    phase: angle (radians) at which a tooth stands; turns: turns per turn of the first shaft, signed and exact.
    """

    phase: float
    turns: Fraction


def motions(train: Train, centres: Sequence[Point]) -> tuple[Motion, ...]:
    """One motion a wheel, in the order of `train.wheels`; `centres` are the shafts' places, first to last."""
    motions: list[Motion] = []
    for n, wheel in enumerate(train.wheels):
        if n == 0:
            motions.append(Motion(math.pi / 2, Fraction(1)))
        elif wheel.role is Role.DRIVER:  # keyed to the driven wheel of its stud
            motions.append(Motion(math.pi / 2, motions[-1].turns))
        else:
            before = train.wheels[n - 1]
            (xa, ya), (xb, yb) = centres[before.shaft], centres[wheel.shaft]
            line = math.atan2(yb - ya, xb - xa)
            step = before.teeth / wheel.teeth
            phase = line + math.pi + math.pi / wheel.teeth - (motions[-1].phase - line) * step
            motions.append(Motion(phase, -motions[-1].turns * Fraction(before.teeth, wheel.teeth)))
    return tuple(motions)
