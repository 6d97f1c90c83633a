"""Every way of coming to a number of divisions, exact where it is exact, with its worst error where it is not.

A worm of ratio R turns the work once in R turns of the crank; one division of z is R/z of them. Angles in degrees.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from itertools import permutations

from valleywind.core.refusal import Refusal
from valleywind.core.trains.exact import exact_trains_each
from valleywind.core.trains.model import Combination, Stock

FEWEST_DIVISIONS, MOST_DIVISIONS = 2, 1000
WITHIN = 8
"""How far from the wanted count the one may be that a differential train makes up for."""
MOST_TRAINS = 400
"""How many trains that make up for it are looked at, the handiest."""


def allowed_divisions(divisions: int, field: str = "divisions") -> int:
    """Raises Refusal `divisions_out_of_range`."""
    if not FEWEST_DIVISIONS <= divisions <= MOST_DIVISIONS:
        raise Refusal("divisions_out_of_range", field, divisions, fewest=FEWEST_DIVISIONS, most=MOST_DIVISIONS)
    return divisions


@dataclass(frozen=True)
class Direct:
    """A plate on the spindle itself. spaces: from one hole that is used to the next. flats: it is a block, its
    holes are flats."""

    holes: int
    spaces: int
    flats: bool = False


@dataclass(frozen=True)
class Simple:
    """Whole turns and holes on one circle."""

    circle: int
    turns: int
    holes: int

    @property
    def crank(self) -> Fraction:
        """Turns of the crank for one division."""
        return self.turns + Fraction(self.holes, self.circle)

    def repeats(self) -> tuple[int, ...]:
        """The holes that the pin ever enters, counted from the first, 0."""
        step = (self.turns * self.circle + self.holes) % self.circle
        return tuple(sorted({k * step % self.circle for k in range(self.circle)}))


@dataclass(frozen=True)
class Compound:
    """Holes on one circle of a plate side, then on another; below nought the second move goes back."""

    circle_1: int
    holes_1: int
    circle_2: int
    holes_2: int

    @property
    def crank(self) -> Fraction:
        return Fraction(self.holes_1, self.circle_1) + Fraction(self.holes_2, self.circle_2)


@dataclass(frozen=True)
class Differential:
    """Indexed as another count while a train from the spindle turns the plate. gear_ratio: turns of the plate per turn
    of the spindle, above nought where the plate turns with the crank; simple: how to index; trains: every exact one,
    the handiest first."""

    indexed_as: int
    gear_ratio: Fraction
    simple: tuple[Simple, ...]
    trains: tuple[Combination, ...]

    def idlers(self, train: Combination) -> int:
        """Idlers for the direction, as heads are usually built: with the crank an odd count of wheels between."""
        with_crank = self.gear_ratio > 0
        if train.stages % 2:
            return 1 if with_crank else 2
        return 0 if with_crank else 1


@dataclass(frozen=True)
class Nearest:
    """Each position counted from the start and rounded to the nearest hole of a circle. worst: of the rounding, in
    holes; error: the same at the work, degrees."""

    circle: int
    worst: Fraction
    error: Fraction


@dataclass(frozen=True)
class Degrees:
    """Each position counted from the start and rounded to what the graduations show. error: worst, degrees. holes: of
    the plate on the spindle whose second pin goes on by `reads`; 0 where graduations are read."""

    reads: Fraction
    error: Fraction
    holes: int = 0


def direct(divisions: int, holes: Iterable[int], flats: bool = False) -> list[Direct]:
    """The plates on the spindle, or the blocks, that give it."""
    return [Direct(h, h // divisions, flats) for h in sorted(holes) if h % divisions == 0]


def simple(ratio: Fraction, divisions: int, circles: Iterable[int]) -> list[Simple]:
    """Every exact setting by whole turns and holes on one circle, the circles ascending."""
    top, bottom = ratio.numerator, ratio.denominator * divisions
    every = [(circle, *divmod(top * circle, bottom)) for circle in sorted(set(circles))]
    return [Simple(circle, *divmod(spaces, circle)) for circle, spaces, rest in every if not rest]


def compound(ratio: Fraction, divisions: int, sides: Sequence[Sequence[int]]) -> list[Compound]:
    """Every exact pair of moves on two circles of one plate side, the second less than a turn either way."""
    ways = []
    top, bottom = (ratio / divisions).as_integer_ratio()
    for side in sides:
        for one, other in permutations(side, 2):
            for back in range(other - 1, -other, -1):
                holes, rest = divmod((top * other - back * bottom) * one, bottom * other)
                if back and not rest and holes > 0:
                    ways.append(Compound(one, holes, other, back))
    return ways


def differential(
    ratio: Fraction,
    divisions: int,
    circles: Sequence[int],
    stock: Stock,
    within: int = WITHIN,
    trains: int = MOST_TRAINS,
) -> list[Differential]:
    """Every count z′ near the wanted one that can be indexed simply and made up for by a train from this stock.

    The train is R (z′ − z)/z′ from spindle to plate, in one or two stages; up to `trains` of each, the handiest
    first. The nearest counts come first.
    """
    return differential_each(ratio, [divisions], circles, stock, within, trains)[0]


def differential_each(
    ratio: Fraction,
    counts: Sequence[int],
    circles: Sequence[int],
    stock: Stock,
    within: int = WITHIN,
    trains: int = MOST_TRAINS,
) -> list[list[Differential]]:
    """The same for many counts together, which is much quicker than one by one."""
    simply = cache(lambda n: tuple(simple(ratio, n, circles)))
    near = [
        (place, n, ratio * (n - divisions) / n)
        for place, divisions in enumerate(counts)
        for n in sorted(range(max(2, divisions - within), divisions + within + 1), key=lambda n: abs(n - divisions))
        if n != divisions and simply(n)
    ]
    exact = exact_trains_each([abs(gear) for _, _, gear in near], stock, most=trains)
    each: list[list[Differential]] = [[] for _ in counts]
    for (place, n, gear), some in zip(near, exact, strict=True):
        if some:
            each[place].append(Differential(n, gear, simply(n), some))
    return each


def nearest(ratio: Fraction, divisions: int, circle: int) -> Nearest:
    """The circle used for any count, every position rounded by itself; never more than half a hole off."""
    worst = _worst_rounding(ratio * circle / divisions)
    return Nearest(circle, worst, worst * 360 / (ratio * circle))


def best_nearest(ratio: Fraction, divisions: int, circles: Sequence[int]) -> Nearest | None:
    """The circle with which the rounding is least at the work."""
    return min((nearest(ratio, divisions, c) for c in circles), key=lambda n: (n.error, n.circle), default=None)


def degrees(divisions: int, reads: Fraction, holes: int = 0) -> Degrees:
    """By graduations or a second pin: 360/z degrees counted from the start, rounded to what can be read."""
    return Degrees(reads, _worst_rounding(Fraction(360, divisions) / reads) * reads, holes)


def _worst_rounding(step: Fraction) -> Fraction:
    """How far multiples of a step lie at worst from whole numbers: of a fraction with the denominator d they come to
    every d-th, so to ⌊d/2⌋/d."""
    return Fraction(step.denominator // 2, step.denominator)


def rounded(step: Fraction, n: int) -> int:
    """The whole position nearest to n steps from the start; a half goes up."""
    return (step * n + Fraction(1, 2)) // 1


def serving_circle(ratio: Fraction, divisions: int) -> int:
    """The fewest holes of a circle that gives the count simply; every multiple of it does too."""
    return (ratio / divisions).denominator
