"""Figures of a wheel with straight or helical teeth as a hob leaves it (ISO 21771). Lengths in mm, angles in degrees.

In the plane of rotation the module is m_t = m_n/cos β and the pressure angle tan α_t = tan α_n/cos β.
"""

import math
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.ratios import lead
from valleywind.core.teeth.depth import usual_depth
from valleywind.core.teeth.geometry import inverse_involute, involute
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.teeth.sizes import BACKLASH, USUAL_PIN
from valleywind.core.trains.direction import Hand

USUAL_ANGLE = Fraction(20)


@dataclass(frozen=True)
class HobbedWheel:
    """pitch_diameter, tip_diameter, root_diameter, depth; lead of the helix, None for a spur wheel; formative: the
    count of a spur wheel with teeth of the same form, z/cos³β; undercut_from: the formative count from which a hob does
    not undercut.

    over, span, span_low, span_high: span over so many teeth without thinning, and with what the usual backlash asks
    for; None where the face is too narrow for the jaws, or there are too few teeth. span_face: the least face to
    measure it. pin, pins: over two pins or balls of this diameter; pins_low, pins_high: with the usual backlash.
    """

    teeth: int
    pitch_diameter: float
    tip_diameter: float
    root_diameter: float
    depth: float
    lead: Fraction | None
    formative: float
    undercut_from: float
    over: int | None
    span: float | None
    span_low: float | None
    span_high: float | None
    span_face: float
    pin: float
    pins: float
    pins_low: float
    pins_high: float

    @property
    def undercut(self) -> bool:
        """Whether the hob cuts noticeably into the foot of the flank."""
        return self.formative < math.floor(self.undercut_from)


def family_of(ask: HobAsk) -> WheelFamily | None:
    """The teeth asked for, as a family of wheels without bore; None where no pitch is said."""
    if ask.pitch is None:
        return None
    return WheelFamily("", ask.pitch, ask.angle or USUAL_ANGLE, *[Fraction(0)] * 3)


def hobbed_wheel(ask: HobAsk, teeth: int | None = None) -> HobbedWheel | None:
    """The figures of the wheel asked for, or of one of other count with the same teeth; None where no pitch is said."""
    family, z = family_of(ask), teeth or ask.teeth
    if family is None:
        return None
    module, normal, helix = float(family.module), math.radians(family.pressure_angle), math.radians(ask.helix)
    transverse = math.atan(math.tan(normal) / math.cos(helix))
    pitch = module * z / math.cos(helix)
    tip = pitch + 2 * module * float(family.addendum)
    depth = float(ask.depth) if ask.depth is not None else usual_depth(family)
    formative = z / math.cos(helix) ** 3
    over = max(2, round(formative * float(family.pressure_angle) / 180 + 0.5))
    span = module * math.cos(normal) * (math.pi * (over - 0.5) + z * involute(transverse))
    # The jaws touch along the base helix: a narrow helical wheel has no room for them.
    needs = span * math.sin(math.asin(math.sin(helix) * math.cos(normal)))
    measured = over < z and (ask.face is None or not ask.helical or float(ask.face) > needs)
    thinner = [module * j / 2 * math.cos(normal) for j in BACKLASH]
    pin = float(USUAL_PIN) * module

    def across(thin: float = 0.0) -> float:
        """Over the pins; thin: what the usual backlash takes off a tooth, in modules."""
        seat = involute(transverse) + pin / (module * z * math.cos(normal)) - (math.pi / 2 + thin) / z
        apart = pitch * math.cos(transverse) / math.cos(inverse_involute(seat))
        return apart * (math.cos(math.pi / (2 * z)) if z % 2 else 1) + pin

    return HobbedWheel(
        z, pitch, tip, tip - 2 * depth, depth, lead(family.module, z, ask.helix) if ask.helical else None, formative,
        2 * float(family.addendum) / math.sin(normal) ** 2, over if measured else None, span if measured else None,
        span - thinner[1] if measured else None, span - thinner[0] if measured else None, needs, pin, across(),
        across(BACKLASH[1] / 2), across(BACKLASH[0] / 2),
    )  # fmt: skip


@dataclass(frozen=True)
class PairOfWheels:
    """Two hobbed wheels that run together on parallel shafts.

    centres: their distance without backlash; contact: teeth in contact on the average, in the plane of rotation;
    overlap: what the helix adds, None where the face is not said; tip_clearance: between tip and bottom; mate_hand: of
    the other's helix; digs: whether a tip reaches below the other's base circle.
    """

    wheel: HobbedWheel
    mate: HobbedWheel
    centres: float
    contact: float
    overlap: float | None
    tip_clearance: float
    mate_hand: Hand | None
    digs: bool
    backlash: tuple[float, float]


def pair_of(ask: HobAsk) -> PairOfWheels | None:
    """The wheel and its mate, both cut with this hob; None without a mate or a pitch."""
    family = family_of(ask)
    if family is None or ask.mate is None:
        return None
    wheel, mate = hobbed_wheel(ask), hobbed_wheel(ask, ask.mate)
    assert wheel is not None
    assert mate is not None
    module, helix = float(family.module), math.radians(ask.helix)
    transverse = math.atan(math.tan(math.radians(family.pressure_angle)) / math.cos(helix))
    centres = (wheel.pitch_diameter + mate.pitch_diameter) / 2
    line = centres * math.sin(transverse)
    paths = [
        math.sqrt((one.tip_diameter / 2) ** 2 - (one.pitch_diameter / 2 * math.cos(transverse)) ** 2)
        for one in (wheel, mate)
    ]
    # No tip touches beyond where the other's involute begins.
    used = min(paths[0], line) + min(paths[1], line) - line
    overlap = None if ask.face is None else float(ask.face) * math.sin(helix) / (math.pi * module)
    return PairOfWheels(
        wheel, mate, centres, used / (math.pi * module / math.cos(helix) * math.cos(transverse)), overlap,
        centres - wheel.tip_diameter / 2 - mate.root_diameter / 2, ask.hand.other if ask.hand else None,
        max(paths) > line + 1e-9, (module * BACKLASH[0], module * BACKLASH[1]),
    )  # fmt: skip


def backlash_from_spans(pair: PairOfWheels, spans: tuple[float, float], ask: HobAsk, centres: float) -> float:
    """Backlash along the pitch circle, mm, of two wheels whose spans were measured, at this distance of their shafts:
    each span is short by j cos α, and separating centres by e adds 2 e tan α.

    spans: over `over` teeth of the wheel and its mate. Only for wheels whose spans can be measured."""
    normal = math.radians(ask.angle or USUAL_ANGLE)
    short = 0.0
    for one, measured in zip((pair.wheel, pair.mate), spans, strict=True):
        assert one.span is not None
        short += (one.span - measured) / math.cos(normal)
    return short + 2 * (centres - pair.centres) * math.tan(normal)
