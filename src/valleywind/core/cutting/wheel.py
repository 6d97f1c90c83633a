"""A wheel with straight or helical teeth, whatever cuts it, and its figures (ISO 21771). Lengths in mm, angles in
degrees.

In the plane of rotation the module is m_t = m_n/cos β and the pressure angle tan α_t = tan α_n/cos β.
"""

import math
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.depth import usual_depth
from valleywind.core.teeth.geometry import inverse_involute, involute
from valleywind.core.teeth.pitch import Pitch, WheelFamily
from valleywind.core.teeth.sizes import BACKLASH, USUAL_PIN, Target
from valleywind.core.trains.direction import Hand
from valleywind.core.units import PI, sine

USUAL_ANGLE = Fraction(20)
FEWEST_CUT, MOST_CUT = 4, 1000
"""Teeth of a wheel that is asked for."""
LONGEST_FACE = Fraction(1000)
USUAL_FACE = 10
"""The face where nobody says it, in modules."""
# The same where even the pitch is not said, mm.
_UNSAID_FACE = Fraction(20)


@dataclass(frozen=True)
class WheelToCut:
    """A wheel that is asked for; None where nobody said. angle: of pressure; helix: 0 for a spur wheel, with its hand;
    face: how wide it is; mate: teeth of the wheel it runs with, cut alike; depth: whole, as engraved on the tool."""

    teeth: int
    pitch: Pitch | None = None
    angle: Fraction | None = None
    helix: Fraction = Fraction(0)
    hand: Hand | None = None
    face: Fraction | None = None
    mate: int | None = None
    depth: Fraction | None = None

    @property
    def helical(self) -> bool:
        return self.helix > 0

    @property
    def shown_face(self) -> Fraction:
        """The face that a run-off is told over: the one that is asked, else a usual one."""
        if self.face is not None:
            return self.face
        return USUAL_FACE * self.pitch.module if self.pitch is not None else _UNSAID_FACE


def lead_of_wheel(module: Fraction, teeth: int, helix: Fraction) -> Fraction:
    """How far along its axis a tooth goes round once: π m_n z/sin β, mm. Raises Refusal `helix_not_cut`."""
    if not 0 < helix < 90:
        raise Refusal("helix_not_cut", "helix", helix)
    return PI * module * teeth / sine(helix)


@dataclass(frozen=True)
class CutWheel:
    """pitch_diameter, tip_diameter, root_diameter, depth; lead of the helix, None for a spur wheel; formative: the
    count of a spur wheel with teeth of the same form, z/cos³β; undercut_from: the formative count from which a hob does
    not undercut.

    over, span: span over this many teeth; None where none can be measured: the jaws must touch between root and tip,
    and the face must have room for them. span_face: the least face on which one could be, None where there is no such
    span. pin: diameter of two pins; rollers: over two that lie along their gaps, balls: over two balls, which differ
    where a helical wheel has an odd count.
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
    span: Target | None
    span_face: float | None
    pin: float
    rollers: Target
    balls: Target

    @property
    def undercut(self) -> bool:
        """Whether the hob cuts noticeably into the foot of the flank."""
        return self.formative < math.floor(self.undercut_from)


def family_of(of: WheelToCut) -> WheelFamily | None:
    """The teeth asked for, as a family of wheels without bore; None where no pitch is said."""
    if of.pitch is None:
        return None
    return WheelFamily("", of.pitch, of.angle or USUAL_ANGLE, *[Fraction(0)] * 3)


def cut_wheel(of: WheelToCut, teeth: int | None = None) -> CutWheel | None:
    """The figures of the wheel asked for, or of one of other count with the same teeth; None where no pitch is said."""
    family, z = family_of(of), teeth or of.teeth
    if family is None:
        return None
    module, normal, helix = float(family.module), math.radians(family.pressure_angle), math.radians(of.helix)
    transverse = math.atan(math.tan(normal) / math.cos(helix))
    pitch = module * z / math.cos(helix)
    tip = pitch + 2 * module * float(family.addendum)
    depth = float(of.depth) if of.depth is not None else usual_depth(family)
    formative = z / math.cos(helix) ** 3
    working = module * (4 * float(family.addendum) - 2 * _CLEAR_OF_EDGES)
    low, high = (tip - module * _CLEAR_OF_EDGES - working, tip - module * _CLEAR_OF_EDGES) if helix else (0.0, tip)
    spans = _spans(z, module, normal, helix, low, high)
    fitting = [s for s in spans if of.face is None or not of.helical or float(of.face) >= s.face]
    best = fitting[0] if fitting else None
    thinner = [module * j / 2 * math.cos(normal) for j in BACKLASH]
    pin = float(USUAL_PIN) * module

    def across(thin: float, odd: float) -> float:
        """Over the pins; thin: what the usual backlash takes off a tooth, in modules; odd: what is left of the diameter
        where they are not opposite."""
        seat = involute(transverse) + pin / (module * z * math.cos(normal)) - (math.pi / 2 + thin) / z
        return pitch * math.cos(transverse) / math.cos(inverse_involute(seat)) * odd + pin

    def pins(odd: float) -> Target:
        return Target(across(0.0, odd), across(BACKLASH[1] / 2, odd), across(BACKLASH[0] / 2, odd))

    apart = math.cos(math.pi / (2 * z)) if z % 2 else 1.0
    return CutWheel(
        z, pitch, tip, tip - 2 * depth, depth,
        lead_of_wheel(family.module, z, of.helix) if of.helical else None, formative,
        2 * float(family.addendum) / math.sin(normal) ** 2, best.over if best else None,
        Target(best.span, best.span - thinner[1], best.span - thinner[0]) if best else None,
        min((s.face for s in spans), default=None), pin, pins(1.0 if of.helical else apart), pins(apart),
    )  # fmt: skip


@dataclass(frozen=True)
class _Span:
    """Over this many teeth; face: the least that it is measured on."""

    over: int
    span: float
    face: float


def _spans(z: int, module: float, normal: float, helix: float, low: float, high: float) -> list[_Span]:
    """Every span that touches between these diameters, mm, the one that touches nearest the pitch circle first.

    W = m_n cos α_n (π (k − ½) + z inv α_t); the jaws touch at √(d_b² + (W cos β_b)²) and lean along the base helix, so
    that they need W sin β_b of face and some 1.2 + 0.018 W mm for themselves (ISO 21771).
    """
    transverse = math.atan(math.tan(normal) / math.cos(helix))
    base_helix = math.asin(math.sin(helix) * math.cos(normal))
    pitch = module * z / math.cos(helix)
    base = pitch * math.cos(transverse)
    touching = []
    for over in range(2, z):
        span = module * math.cos(normal) * (math.pi * (over - 0.5) + z * involute(transverse))
        touch = math.hypot(base, span * math.cos(base_helix))
        if touch >= high:
            break
        if touch > low:
            face = span * math.sin(base_helix) + _JAWS + _JAWS_PER_SPAN * span if helix else 0.0
            # Of a spur wheel the usual count stands first: z α/π + ½.
            away = abs(touch - pitch) if helix else abs(over - max(2, round(z * normal / math.pi + 0.5)))
            touching.append((away, _Span(over, span, face)))
    return [one for _, one in sorted(touching, key=lambda t: t[0])]


# On a diameter, in modules, jaws keep clear of the tip's edge and of where the fillet begins.
_CLEAR_OF_EDGES = 0.2
# Room that the jaws themselves need on the face of a helical wheel, mm, and per mm of the span.
_JAWS, _JAWS_PER_SPAN = 1.2, 0.018


@dataclass(frozen=True)
class PairOfWheels:
    """Two such wheels that run together on parallel shafts.

    centres: their distance without backlash; contact: teeth in contact on the average, in the plane of rotation;
    overlap: what the helix adds, None where the face is not said; tip_clearance: between tip and bottom; mate_hand: of
    the other's helix; digs: whether a tip reaches below the other's base circle; backlash: usual, along the pitch
    circle, from and to.
    """

    wheel: CutWheel
    mate: CutWheel
    centres: float
    contact: float
    overlap: float | None
    tip_clearance: float
    mate_hand: Hand | None
    digs: bool
    backlash: tuple[float, float]


def pair_of(of: WheelToCut) -> PairOfWheels | None:
    """The wheel and its mate, both cut alike; None without a mate or a pitch."""
    family = family_of(of)
    if family is None or of.mate is None:
        return None
    wheel, mate = cut_wheel(of), cut_wheel(of, of.mate)
    assert wheel is not None
    assert mate is not None
    module, helix = float(family.module), math.radians(of.helix)
    transverse = math.atan(math.tan(math.radians(family.pressure_angle)) / math.cos(helix))
    centres = (wheel.pitch_diameter + mate.pitch_diameter) / 2
    line = centres * math.sin(transverse)
    paths = [
        math.sqrt((one.tip_diameter / 2) ** 2 - (one.pitch_diameter / 2 * math.cos(transverse)) ** 2)
        for one in (wheel, mate)
    ]
    # No tip touches beyond where the other's involute begins.
    used = min(paths[0], line) + min(paths[1], line) - line
    overlap = None if of.face is None else float(of.face) * math.sin(helix) / (math.pi * module)
    return PairOfWheels(
        wheel, mate, centres, used / (math.pi * module / math.cos(helix) * math.cos(transverse)), overlap,
        centres - wheel.tip_diameter / 2 - mate.root_diameter / 2, of.hand.other if of.hand else None,
        max(paths) > line + 1e-9, (module * BACKLASH[0] / math.cos(helix), module * BACKLASH[1] / math.cos(helix)),
    )  # fmt: skip


def backlash_from_spans(pair: PairOfWheels, spans: tuple[float, float], of: WheelToCut, centres: float) -> float:
    """Backlash along the pitch circle, mm, of two wheels whose spans were measured, at this distance of their shafts:
    each span is short by j cos α, and separating centres by e adds 2 e tan α; in the plane of rotation both are longer
    by 1/cos β.

    spans: over `over` teeth of the wheel and its mate. Only for wheels whose spans can be measured."""
    normal = math.radians(of.angle or USUAL_ANGLE)
    short = 0.0
    for one, measured in zip((pair.wheel, pair.mate), spans, strict=True):
        assert one.span is not None
        short += (one.span.nominal - measured) / math.cos(normal)
    return (short + 2 * (centres - pair.centres) * math.tan(normal)) / math.cos(math.radians(of.helix))
