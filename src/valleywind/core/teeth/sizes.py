"""Every figure of a wheel that is needed before metal is cut. Lengths in mm, angles in degrees unless said."""

import math
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.depth import usual_depth
from valleywind.core.teeth.geometry import (
    half_angle,
    inverse_involute,
    involute,
    over_pins,
    pin_angle,
    pitch_radius,
    span,
    span_teeth,
    thickness,
    tip_radius,
    tooth_outline,
)
from valleywind.core.teeth.pitch import MOST_TEETH, WheelFamily
from valleywind.core.units import parse_number

FEWEST_SIZED = 4
"""Teeth from which a wheel is sized at all."""
MOST_SHIFT = 1.2
USUAL_PIN = Fraction(1728, 1000)
"""Diameter of the pins in modules, unless told."""
BACKLASH = (0.04, 0.06)
"""Between two ordinary change wheels, least and most, in modules; each wheel gives half of it."""
# A tip thinner than this, in modules, is soft and soon bruised.
_THIN_TIP = 0.2
# Metal that is usually left round bore and keyway, in modules.
_USUAL_WALL = 2.0


def read_shift(text: str, field: str = "shift") -> float:
    """A profile shift in modules as typed, with its sign; none where nothing stands. Raises those of numbers."""
    typed = text.strip()
    size = float(parse_number(typed.lstrip("+-−"), field)) if typed else 0.0
    return -size if typed[:1] in ("-", "−") else size


@dataclass(frozen=True)
class Target:
    """A measure to come to. nominal: without any thinning; low, high: what the usual backlash asks for."""

    nominal: float
    low: float
    high: float


@dataclass(frozen=True)
class Sizes:
    """A wheel's figures. over: teeth between the jaws for the span; pin: diameter of the pins; undercut_from: fewest
    teeth that a generating cutter does not undercut with this shift; tip_thickness: along the tip circle; balls: over
    two balls, where that is not the same as over pins that lie along their gaps, None where it is."""

    teeth: int
    family: WheelFamily
    shift: float
    depth: float
    tip_diameter: float
    pitch_diameter: float
    base_diameter: float
    root_diameter: float
    over: int
    span: Target
    pin: float
    pins: Target
    chordal: Target
    chordal_addendum: float
    tip_thickness: float
    undercut_from: float
    balls: Target | None = None

    @property
    def undercut(self) -> bool:
        """Whether a rack or hob would cut noticeably into the foot of the flank."""
        return self.teeth < round(self.undercut_from)

    @property
    def wall(self) -> float | None:
        """Metal between the root and the keyway's corner, or the bore where there is no key, on the radius; None where
        the bore is not known. A keyway is half as deep in the wheel as it is wide."""
        if not self.family.bore:
            return None
        return (self.root_diameter - float(self.family.bore + self.family.key)) / 2

    @property
    def usual_wall(self) -> float:
        """The least wall that is usual: two modules."""
        return _USUAL_WALL * float(self.family.module)

    @property
    def thin_tip(self) -> bool:
        return self.tip_thickness < _THIN_TIP * float(self.family.module)


def sizes(
    teeth: int,
    family: WheelFamily,
    shift: float = 0.0,
    depth: float | None = None,
    over: int | None = None,
    pin: float | None = None,
) -> Sizes:
    """The figures of one wheel. depth: whole depth, else the usual one; over, pin: else the usual ones.

    Raises Refusal: `teeth_out_of_range`, `shift_too_far`, `tip_pointed` (shift), `too_deep` (depth),
    `span_of_too_many`, `pin_does_not_fit`.
    """
    if not FEWEST_SIZED <= teeth <= MOST_TEETH:
        raise Refusal("teeth_out_of_range", "teeth", teeth, fewest=FEWEST_SIZED, most=MOST_TEETH)
    if abs(shift) > MOST_SHIFT:
        raise Refusal("shift_too_far", "shift", shift, most=MOST_SHIFT)
    module, pressure = float(family.module), math.radians(family.pressure_angle)
    tip, pitch = tip_radius(teeth, family, shift), pitch_radius(teeth, family)
    whole = usual_depth(family) if depth is None else depth
    at_tip = thickness(teeth, family, tip, shift)
    if at_tip <= 0 or tip <= 0:
        raise Refusal("tip_pointed", "shift", shift, most=_sharpest(teeth, family))
    if not 0 < whole < tip:
        raise Refusal("too_deep", "depth", whole, most=tip)
    k = over if over is not None else min(span_teeth(teeth, family), teeth - 1)
    if not 1 < k < teeth:
        raise Refusal("span_of_too_many", "over", k, most=teeth - 1)
    ball = pin if pin is not None else float(USUAL_PIN) * module
    phi = pin_angle(teeth, ball, family, shift)
    if not phi or phi > 1.3:
        raise Refusal("pin_does_not_fit", "pin", ball)
    half = half_angle(teeth, family, pitch, shift)
    thinner = [module * j / 2 for j in BACKLASH]  # along the pitch circle, of one wheel
    measured = span(teeth, k, family, shift)

    def pins(thin: float) -> float:
        return over_pins(teeth, ball, family, shift, thin)

    def chord(thin: float) -> float:
        return 2 * pitch * math.sin(half - thin / (2 * pitch))

    return Sizes(
        teeth, family, shift, whole, 2 * tip, 2 * pitch, 2 * pitch * math.cos(pressure), 2 * (tip - whole), k,
        Target(measured, measured - thinner[1] * math.cos(pressure), measured - thinner[0] * math.cos(pressure)),
        ball, Target(pins(0.0), pins(thinner[1]), pins(thinner[0])),
        Target(chord(0.0), chord(thinner[1]), chord(thinner[0])),
        tip - pitch * math.cos(half), at_tip, 2 * (float(family.addendum) - shift) / math.sin(pressure) ** 2,
    )  # fmt: skip


def check_bore(sizes: Sizes, field: str = "ask") -> None:
    """Raises Refusal `bore_through_root` where the bore of its family is larger than the root of the wheel."""
    bore = float(sizes.family.bore)
    if bore and sizes.root_diameter <= bore:
        more = (bore - sizes.root_diameter) / float(sizes.family.module)
        raise Refusal(
            "bore_through_root", field, sizes.teeth, root=round(sizes.root_diameter, 2), bore=round(bore, 2),
            fewest=sizes.teeth + math.floor(more) + 1,
        )  # fmt: skip


def helping_shift(teeth: int, family: WheelFamily) -> float:
    """The least profile shift with which a generated wheel of so few teeth is not undercut; 0 where none is wanted."""
    sine = math.sin(math.radians(family.pressure_angle)) ** 2
    return max(0.0, float(family.addendum) - teeth * sine / 2)


def _sharpest(teeth: int, family: WheelFamily) -> float:
    """The shift at which the tip is a point, by halving."""
    low, high = -MOST_SHIFT, MOST_SHIFT
    for _ in range(40):
        middle = (low + high) / 2
        tip = tip_radius(teeth, family, middle)
        low, high = (middle, high) if tip > 0 and thickness(teeth, family, tip, middle) > 0 else (low, middle)
    return low


@dataclass(frozen=True)
class Meeting:
    """How two wheels run together. centres: distance at which they mesh without backlash; contact: teeth in contact on
    the average; digs: whether the tip of one reaches below the other's base circle, where there is no involute."""

    mate: int
    centres: float
    contact: float
    digs: bool


def meeting(teeth: int, mate: int, family: WheelFamily, shift: float = 0.0, mate_shift: float = 0.0) -> Meeting:
    """How a wheel runs with a mate of the same family. Raises Refusal `teeth_out_of_range` (mate)."""
    if not FEWEST_SIZED <= mate <= MOST_TEETH:
        raise Refusal("teeth_out_of_range", "mate", mate, fewest=FEWEST_SIZED, most=MOST_TEETH)
    module, pressure = float(family.module), math.radians(family.pressure_angle)
    working = _working_angle(teeth + mate, shift + mate_shift, pressure)
    centres = module * (teeth + mate) / 2 * math.cos(pressure) / math.cos(working)
    paths = []
    for count, x in ((teeth, shift), (mate, mate_shift)):
        base = pitch_radius(count, family) * math.cos(pressure)
        paths.append(math.sqrt(max(0.0, tip_radius(count, family, x) ** 2 - base**2)))
    line = centres * math.sin(working)
    # No tip touches beyond where the other's involute begins.
    used = min(paths[0], line) + min(paths[1], line) - line
    return Meeting(mate, centres, used / (math.pi * module * math.cos(pressure)), max(paths) > line + 1e-9)


def _working_angle(both: int, shifts: float, pressure: float) -> float:
    """Pressure angle at the working pitch point: inv α_w = inv α + 2 tan α (x₁ + x₂)/(z₁ + z₂)."""
    return inverse_involute(involute(pressure) + 2 * math.tan(pressure) * shifts / both) if shifts else pressure


def weight(sizes: Sizes, density: float) -> float:
    """Grams of a plain disc of the family's face with these teeth, bored and keyed; density in g/cm³."""
    points = tooth_outline(sizes.teeth, sizes.family, 12, sizes.shift, sizes.depth)
    area = 0.0
    for (r1, a1), (r2, a2) in pairwise(points):
        area += r1 * r2 * math.sin(a2 - a1) / 2
    area *= sizes.teeth
    bore = float(sizes.family.bore)
    area -= math.pi * bore**2 / 4 + float(sizes.family.key) ** 2 / 2
    return area * float(sizes.family.face) / 1000 * density
