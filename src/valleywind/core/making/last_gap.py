"""When all gaps are cut: the last one against its neighbours, and which single slip it speaks of.

Micrometres along the pitch circle, above 0 where too little was turned and the last tooth is thick.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.making.places import By, Places


class Slip(StrEnum):
    """One mistake in turning the crank."""

    SHORT_ONCE = "one_space_short_once"
    FAR_ONCE = "one_space_far_once"
    SHORT_ALWAYS = "one_space_short_every_time"
    FAR_ALWAYS = "one_space_far_every_time"
    LEFT_OUT = "one_move_left_out"
    TWICE = "one_move_made_twice"
    OTHER_CIRCLE = "other_circle"


@dataclass(frozen=True)
class Explained:
    """A slip that leaves such a gap. gap: µm; circle: of holes that was used, for OTHER_CIRCLE."""

    slip: Slip
    gap: float
    circle: int | None = None


@dataclass(frozen=True)
class Divided:
    """How the work was divided: on a head of this ratio so many spaces of a circle for each of the divisions; other
    circles are those the pin might have been in. diameter: of the pitch circle, mm."""

    ratio: Fraction
    circle: int
    spaces: int
    divisions: int
    diameter: float
    others: tuple[int, ...] = ()


# What is counted from hole to hole, gap to gap or flat to flat on the work's own axis.
_COUNTED = (By.SPINDLE, By.FLATS, By.WHEEL)


def divided(places: Places, others: tuple[int, ...], diameter: float) -> Divided | None:
    """How these places divide; others: circles of the head; diameter: of the pitch circle, mm. None where no spaces are
    counted, as by degrees or on a disc."""
    divisions, circle = len(places.each), places.circle
    if places.ratio and places.by is By.CRANK:
        first = places.each[1]
        return Divided(places.ratio, circle, first.turns * circle + first.spaces, divisions, diameter, others)
    if places.by in _COUNTED:
        return Divided(Fraction(1), circle, circle // divisions, divisions, diameter)
    return None


def slips(of: Divided) -> list[Explained]:
    """What every single slip leaves, as far as it leaves a wheel at all."""
    around = math.pi * of.diameter * 1000
    space = around / float(of.ratio * of.circle)
    pitch = around / of.divisions
    moves = of.divisions - 1
    return [
        Explained(Slip.SHORT_ONCE, space),
        Explained(Slip.FAR_ONCE, -space),
        Explained(Slip.SHORT_ALWAYS, moves * space),
        Explained(Slip.FAR_ALWAYS, -moves * space),
        Explained(Slip.LEFT_OUT, pitch),
        Explained(Slip.TWICE, -pitch),
        *_other_circles(of, around, moves),
    ]


def _other_circles(of: Divided, around: float, moves: int) -> Iterator[Explained]:
    """The same turns and holes counted in another circle."""
    turns, holes = divmod(of.spaces, of.circle)
    for circle in of.others:
        if circle != of.circle and holes and holes < circle:
            turned = turns + Fraction(holes, circle)
            wrong = float((Fraction(of.spaces, of.circle) - turned) / of.ratio)
            yield Explained(Slip.OTHER_CIRCLE, moves * wrong * around, circle)


def explained(measured: float, off: float, of: Divided) -> Sequence[Explained]:
    """The slips whose gap lies within what the reading may be off, the nearest first; none where the gap is right."""
    if abs(measured) <= off:
        return ()
    fitting = [s for s in slips(of) if abs(s.gap - measured) <= off]
    return sorted(fitting, key=lambda s: abs(s.gap - measured))
