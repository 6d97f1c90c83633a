"""Setting up the hobber: hob head, depth, travel, speed and time. Lengths in mm, angles in degrees."""

import math
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.cutting.wheel import cut_wheel, family_of
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import FeedWay, Hobber
from valleywind.core.trains.direction import Hand, Sense

USUAL_OVERRUN = Fraction(2)
"""What a hob is let run past the face, mm; farther where a helix asks for it."""
# Height of a hob's teeth above its pitch circle, modules.
_HOB_ADDENDUM = Fraction(5, 4)


@dataclass(frozen=True)
class Swivel:
    """How the hob head is turned. lead_angle: of the hob; degrees: how far; sense: seen with the hob between oneself
    and the work, None for not at all; within: whether the head turns so far, None where that is not on record."""

    lead_angle: float
    degrees: float
    sense: Sense | None
    within: bool | None


def hob_lead_angle(starts: int, module: float, pitch_diameter: float) -> float:
    """λ = asin(s m_n/d) of a hob with this pitch diameter, degrees."""
    return math.degrees(math.asin(min(1.0, starts * module / pitch_diameter)))


def swivel(ask: HobAsk, pitch_diameter: float, machine: Hobber | None = None) -> Swivel | None:
    """How far to turn the head: λ for a spur wheel, β − λ where the hands agree, β + λ where they differ; None where no
    pitch is said.

    The thread of a right-hand hob leans to the right where it cuts, seen with the hob between oneself and the work, and
    so do the teeth of a right-hand wheel: the head turns by the one lean less the other, to the right as a clock hand.
    """
    if ask.pitch is None:
        return None
    angle = hob_lead_angle(ask.starts, float(ask.pitch.module), pitch_diameter)
    teeth = float(ask.helix) * (-1 if ask.hand is Hand.LEFT else 1)
    turned = teeth - angle * (-1 if ask.hob_hand is Hand.LEFT else 1)
    sense = None if not turned else Sense.CLOCKWISE if turned > 0 else Sense.ANTICLOCKWISE
    limit = machine.swivel if machine else None
    return Swivel(angle, abs(turned), sense, None if limit is None else abs(turned) <= float(limit))


def hob_pitch_diameter(ask: HobAsk) -> float | None:
    """Of a hob with this diameter over its teeth, mm; None where hob or pitch are not said, or there is no such hob."""
    if ask.hob_diameter is None or ask.pitch is None:
        return None
    across = float(ask.hob_diameter - 2 * _HOB_ADDENDUM * ask.pitch.module)
    return across if across > 0 else None


@dataclass(frozen=True)
class Approach:
    """How far before the face the hob begins to cut, mm. along: how far along its own axis from its middle it does."""

    before: float
    along: float


def approach(depth: float, hob_diameter: float, tip_diameter: float, swing: float) -> Approach:
    """Two cylinders whose axes are tilted against each other by 90° − `swing` (degrees): the greatest of
    tan η √(r_a² − (a − R cos φ)²) + R sin φ/cos η over φ, with R of the hob and a = R + r_a − h between the axes.

    With nothing of a swing it is √(h (D − h)). Found by halving: the figure rises to one greatest value and falls.
    """
    hob, work, tilt = hob_diameter / 2, tip_diameter / 2, math.radians(swing)
    apart = hob + work - depth
    if depth <= 0 or apart <= 0 or tilt >= math.pi / 2:
        return Approach(0.0, 0.0)

    def across(turn: float) -> float:
        """Half the width of the blank that this line of the hob passes over."""
        return math.sqrt(max(0.0, work**2 - (apart - hob * math.cos(turn)) ** 2))

    def reach(turn: float) -> float:
        return math.tan(tilt) * across(turn) + hob * math.sin(turn) / math.cos(tilt)

    low, high = 0.0, math.acos(max(-1.0, min(1.0, (hob - depth) / hob)))
    for _ in range(80):
        one, other = low + (high - low) / 3, high - (high - low) / 3
        low, high = (one, high) if reach(one) < reach(other) else (low, other)
    turn = (low + high) / 2
    return Approach(reach(turn), across(turn) / math.cos(tilt))


def overrun(ask: HobAsk, depth: float) -> float:
    """How far past the face the hob must run, mm: h_aP m tan β/tan α_t of a helix with h_aP the hob's addendum, so that
    the far end of the generating line leaves the face; else the usual."""
    family = family_of(ask)
    if family is None or not ask.helical:
        return float(USUAL_OVERRUN)
    helix = math.radians(ask.helix)
    transverse = math.tan(math.radians(family.pressure_angle)) / math.cos(helix)
    below = depth - float(family.addendum * family.module)
    return max(float(USUAL_OVERRUN), below * math.tan(helix) / transverse)


def minutes(teeth: int, travel: float, starts: int, turns: float, feed: float) -> float:
    """Cutting time: z (b + approach + overrun)/(s n f); turns: of the hob in a minute."""
    return teeth * travel / (starts * turns * feed)


@dataclass(frozen=True)
class Travel:
    """Of the hob along the work, mm. face: all that is cut at once; fits: whether the machine travels so far, None
    where that is not on record; stack: how many blanks go between centres, None likewise; along: how far from its
    middle, along its own axis, the hob cuts first; swing: how far the hob stands from square to the work, degrees."""

    face: float
    approach: float
    overrun: float
    fits: bool | None
    stack: int | None
    along: float = 0.0
    swing: float = 0.0

    @property
    def whole(self) -> float:
        return self.approach + self.face + self.overrun


def travel(ask: HobAsk, machine: Hobber | None = None) -> Travel | None:
    """What the hob travels; None where the face, the hob's diameter or the pitch is not said."""
    wheel, across = cut_wheel(ask), hob_pitch_diameter(ask)
    if ask.face is None or ask.stack is None or wheel is None or across is None or ask.hob_diameter is None:
        return None
    swivelled = swivel(ask, across)
    assert swivelled is not None
    first = approach(wheel.depth, float(ask.hob_diameter), wheel.tip_diameter, swivelled.degrees)
    before, past = first.before, overrun(ask, wheel.depth)
    if machine is None:
        return Travel(float(ask.stack), before, past, None, None, first.along, swivelled.degrees)
    whole = before + float(ask.stack) + past
    rooms = [float(machine.between)] if machine.between is not None else []
    if machine.travel is not None:
        rooms.append(float(machine.travel) - before - past)
    stack = max(0, int(min(rooms) // float(ask.face))) if rooms else None
    fits = None if machine.travel is None else whole <= float(machine.travel)
    return Travel(float(ask.stack), before, past, fits, stack, first.along, swivelled.degrees)


class BlankMaterial(StrEnum):
    """What the blank is of."""

    MILD_STEEL = "mild_steel"
    STEEL = "steel"
    CAST_IRON = "cast_iron"
    BRASS = "brass"
    BRONZE = "bronze"
    ALUMINIUM = "aluminium"
    ACETAL = "acetal"


SPEEDS = {
    BlankMaterial.MILD_STEEL: (25, 35),
    BlankMaterial.STEEL: (15, 22),
    BlankMaterial.CAST_IRON: (15, 25),
    BlankMaterial.BRASS: (40, 60),
    BlankMaterial.BRONZE: (20, 30),
    BlankMaterial.ALUMINIUM: (60, 90),
    BlankMaterial.ACETAL: (60, 100),
}
"""Usual cutting speeds of a hob of high-speed steel, from and to, in m/min."""


def hob_turns(material: BlankMaterial, hob_diameter: float) -> tuple[int, int]:
    """Turns of the hob in a minute that give the usual speeds, from and to."""
    low, high = (round(1000 * v / (math.pi * hob_diameter)) for v in SPEEDS[material])
    return low, high


def table_now(machine: Hobber, hob: Hand) -> Sense | None:
    """How the table turns for this hob, seen from above; None where that is not on record."""
    if machine.table is None:
        return None
    return machine.table if hob is Hand.RIGHT else machine.table.other


def climbs(way: FeedWay, machine: Hobber) -> bool | None:
    """Whether the hob climbs (its teeth cut the way it travels against), None where the table's sense is not on record.

    With the table anticlockwise seen from above the teeth of the work pass the hob to the right, seen with the hob
    between oneself and the work. The thread of a right-hand hob leans to the right there and carries to the right only
    when it moves down: so it cuts downward, and travelling down is conventional. A left-hand hob turns the table the
    other way and cuts downward too.
    """
    if machine.table is None:
        return None
    cuts_down = machine.table is Sense.ANTICLOCKWISE
    return cuts_down == (way is FeedWay.UP)
