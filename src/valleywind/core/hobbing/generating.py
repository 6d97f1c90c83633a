"""How a hob makes a tooth: its rack rolls through the gap, and what its flanks leave is the tooth.

In the plane of rotation, where the rack has the transverse module and angle. The rack's pitch line rolls on the pitch
circle without sliding: a turn of the wheel by θ moves the rack by rθ. Lengths in mm, angles in radians.
"""

import math
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from valleywind.core.cutting.wheel import CutWheel, cut_wheel, family_of
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.teeth.pitch import Pitch, PitchSystem

Point = tuple[float, float]
# Radii at which the tooth is found, places of the rack and angles that are looked at.
_RADII, _PLACES, _ANGLES = 28, 240, 480
_UNSAID = Pitch(PitchSystem.MODULE, Fraction(1))


@dataclass(frozen=True)
class GeneratedTooth:
    """A tooth as the hob's rack leaves it. tooth: half the angle it spans at each radius, from root to tip, as
    (radius, angle); rack: one tooth of the rack, its corners with the pitch line at y = 0 and the wheel below, so that
    its tip stands at a negative y; step: from one rack tooth to the next; rolls: by this much the wheel turns either
    way while one gap is cut; in_proportion: no pitch is said, a module is drawn as a mm."""

    wheel: CutWheel
    tooth: tuple[Point, ...]
    rack: tuple[Point, ...]
    step: float
    rolls: float
    in_proportion: bool

    @property
    def outline(self) -> list[Point]:
        """One tooth from mid-gap to mid-gap as (radius, angle), centred on angle 0; repeated it is the wheel."""
        half = math.pi / self.wheel.teeth
        flank = [(r, -a) for r, a in self.tooth]
        left = [(self.tooth[0][0], -half), *flank]
        return [*left, *((r, -a) for r, a in reversed(left))]


def generated(ask: HobAsk, teeth: int | None = None) -> GeneratedTooth:
    """The tooth of the wheel asked for, or of one of other count cut with the same hob."""
    known = ask if ask.pitch is not None else HobAsk(ask.teeth, _UNSAID, ask.angle)
    family, wheel = family_of(known), cut_wheel(known, teeth)
    assert family is not None
    assert wheel is not None
    helix, normal = math.radians(known.helix), math.radians(family.pressure_angle)
    module = float(family.module) / math.cos(helix)
    slope = math.tan(normal) / math.cos(helix)
    radius, step = wheel.pitch_diameter / 2, math.pi * module
    above = (wheel.tip_diameter - wheel.pitch_diameter) / 2  # how far the rack's gap reaches beyond the pitch line
    below = radius - wheel.root_diameter / 2
    rack = tuple((side * (step / 4 + height * slope), height) for side, height in
                 ((-1, above), (-1, -below), (1, -below), (1, above)))  # fmt: skip
    # The rack's corners leave the wheel where they pass out of the tip circle.
    reach = math.sqrt((wheel.tip_diameter / 2) ** 2 - (radius - below) ** 2) + step
    rolls = reach / radius
    tooth = _left(rack, wheel, rolls)
    return GeneratedTooth(wheel, tooth, rack, step, rolls, ask.pitch is None)


def _left(rack: tuple[Point, ...], wheel: CutWheel, rolls: float) -> tuple[Point, ...]:
    """Half the angle of the tooth at each radius: at no radius more than what one rack tooth leaves of half a pitch."""
    root, tip, pitch = wheel.root_diameter / 2, wheel.tip_diameter / 2, wheel.pitch_diameter / 2
    # On the root circle itself the rack only touches: its corner is looked for a hair above.
    radii = np.linspace(root, tip, _RADII)
    looked_at = np.maximum(radii, root + (tip - root) / 100)
    half = math.pi / wheel.teeth
    angles = np.linspace(0.0, half, _ANGLES)
    turns = np.linspace(-rolls, rolls, _PLACES)
    gap = np.array([_gap_at(float(r), angles, turns, rack, pitch) for r in looked_at])
    return tuple((float(r), float(half - g)) for r, g in zip(radii, gap, strict=True))


def _gap_at(
    radius: float, angles: NDArray[np.float64], turns: NDArray[np.float64], rack: tuple[Point, ...], pitch: float
) -> float:
    """Half the angle that the rack's tooth takes out at this radius, whichever way it rolls; its middle at angle 0.

    A point of the wheel at this angle, seen where the wheel has turned by θ: it must lie in the rack tooth, which has
    gone by rθ.
    """
    at = angles[:, None] + turns[None, :]
    x = radius * np.sin(at) - pitch * turns[None, :]
    y = radius * np.cos(at) - pitch
    (left_top, top), (_, tip), (right_tip, _), _ = rack
    share = (y - tip) / (top - tip)
    edge = right_tip + share * (-left_top - right_tip)
    inside = (y >= tip) & (np.abs(x) <= edge)
    taken = inside.any(axis=1)
    if not taken.any():
        return 0.0
    last = int(np.nonzero(taken)[0][-1])
    if last + 1 >= len(angles):
        return float(angles[-1])
    return _edge(radius, float(angles[last]), float(angles[last + 1]), turns, rack, pitch)


def _edge(
    radius: float, inner: float, outer: float, turns: NDArray[np.float64], rack: tuple[Point, ...], pitch: float
) -> float:
    """The angle between two at which the rack's tooth ends, by halving, with places of the rack close together."""
    (left_top, top), (_, tip), (right_tip, _), _ = rack
    fine = np.linspace(turns[0], turns[-1], 8 * len(turns))

    def taken(angle: float) -> bool:
        x = radius * np.sin(angle + fine) - pitch * fine
        y = radius * np.cos(angle + fine) - pitch
        edge = right_tip + (y - tip) / (top - tip) * (-left_top - right_tip)
        return bool(((y >= tip) & (np.abs(x) <= edge)).any())

    for _ in range(18):
        middle = (inner + outer) / 2
        inner, outer = (middle, outer) if taken(middle) else (inner, middle)
    return (inner + outer) / 2
