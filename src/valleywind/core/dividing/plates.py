"""A new plate: which circle would serve, whether it fits, how it is drilled, what error is left. mm and degrees."""

import math
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.dividing.heads import MOST_HOLES
from valleywind.core.dividing.ways import serving_circle
from valleywind.core.refusal import Refusal

# Metal left between two holes, and outside the outermost ones, in diameters of a hole.
_LEAST_WALL, _LEAST_RIM = 0.5, 1.0
# A circle is made no smaller than this where nobody says, and in such steps, mm.
_USUAL, _ROUND = 100.0, 5.0
# Error at the pitch circle that a plate may leave, mm: less than a good head's own.
_ENOUGH = 0.005


def enough_at(diameter: float) -> float:
    """The error, degrees, that a plate may leave at work of this diameter."""
    return math.degrees(2 * _ENOUGH / diameter)


@dataclass(frozen=True)
class NewCircle:
    """A circle of holes to be drilled. wall: metal between two holes; least_diameter: of the circle, below which that
    is too little; blank: least diameter of the plate."""

    holes: int
    diameter: float
    hole: float
    wall: float
    least_diameter: float
    blank: float

    @property
    def fits(self) -> bool:
        return self.diameter >= self.least_diameter

    def positions(self) -> list[tuple[float, float]]:
        """Centres of the holes, x to the right and y up, the first on top, on round clockwise."""
        turn = 2 * math.pi / self.holes
        radius = self.diameter / 2
        return [(radius * math.sin(k * turn), radius * math.cos(k * turn)) for k in range(self.holes)]


def new_circle(holes: int, diameter: float | None, hole: float) -> NewCircle:
    """A circle of `holes` holes, with what it takes; without a diameter one that fits, a round figure.

    Raises Refusal `not_a_circle`, `not_positive`.
    """
    if not 2 <= holes <= MOST_HOLES:
        raise Refusal("not_a_circle", "holes", holes, fewest=2, most=MOST_HOLES)
    for field, value in (("diameter", diameter), ("hole", hole)):
        if value is not None and value <= 0:
            raise Refusal("not_positive", field, value)
    chord = math.sin(math.pi / holes)
    least = (1 + _LEAST_WALL) * hole / chord
    across = diameter or max(_USUAL, math.ceil(least / _ROUND) * _ROUND)
    return NewCircle(holes, across, hole, across * chord - hole, least, across + (1 + 2 * _LEAST_RIM) * hole)


def would_serve(ratio: Fraction, divisions: int, most: int = MOST_HOLES) -> list[int]:
    """The hole counts that give the divisions simply, the fewest first."""
    fewest = serving_circle(ratio, divisions)
    return [n for n in range(fewest, most + 1, fewest) if n > 1] if fewest <= most else []


@dataclass(frozen=True)
class Generation:
    """A plate drilled with the one before it. error: worst of its holes seen from its centre, degrees; at_work: what
    that leaves at work divided with it through the worm."""

    number: int
    error: float
    at_work: float


def generations(first_error: float, ratio: Fraction, enough: float, most: int = 4) -> list[Generation]:
    """Plates drilled one with the other, until the error at the work is no more than `enough` degrees.

    Every hole of a later plate is drilled through the worm, which cuts the error of the plate before it by the ratio.
    """
    generations: list[Generation] = []
    error = first_error
    while len(generations) < most:
        generations.append(Generation(len(generations) + 1, error, error / float(ratio)))
        if error / float(ratio) <= enough:
            break
        error /= float(ratio)
    return generations
