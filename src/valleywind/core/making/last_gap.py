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
    TWO_SHORT_ONCE = "two_spaces_short_once"
    TWO_FAR_ONCE = "two_spaces_far_once"
    SHORT_ALWAYS = "one_space_short_every_time"
    FAR_ALWAYS = "one_space_far_every_time"
    LEFT_OUT = "one_move_left_out"
    TWICE = "one_move_made_twice"
    OTHER_CIRCLE = "other_circle"


class Unit(StrEnum):
    """What is counted or read when the work is turned."""

    SPACE = "space"
    GRADUATION = "graduation"
    DEGREE = "degree"
    PIN = "pin"


@dataclass(frozen=True)
class Spaces:
    """What may be miscounted. circle: the holes it is counted in, 0 for none; turn: turns of the work for one of them;
    each: how many go to a move, None where that differs; ratio: of the worm between, 0 without one."""

    unit: Unit
    turn: Fraction
    circle: int = 0
    each: int | None = None
    ratio: Fraction = Fraction(0)


@dataclass(frozen=True)
class DivisionDone:
    """How the work was divided: into how many, by counting one or two kinds of spaces.

    others: circles that the pin might have been in; diameter: of the pitch circle, mm; planned: turns of the work by
    which the last move is larger than its neighbours as it was planned.
    """

    divisions: int
    diameter: float
    spaces: tuple[Spaces, ...] = ()
    others: tuple[int, ...] = ()
    planned: Fraction = Fraction(0)

    @property
    def planned_gap(self) -> float:
        """By how much the last tooth is thicker than its neighbours as planned, µm."""
        return float(self.planned) * self.around

    @property
    def around(self) -> float:
        """Length of the pitch circle, µm."""
        return math.pi * self.diameter * 1000


@dataclass(frozen=True)
class GapExplanation:
    """A slip that leaves such a gap. gap: µm; of: what was miscounted, None for a whole move; circle: of holes that
    was used, for OTHER_CIRCLE."""

    slip: Slip
    gap: float
    of: Spaces | None = None
    circle: int | None = None


def divided(places: Places, others: tuple[int, ...], diameter: float) -> DivisionDone:
    """How these places divide; others: circles of the head; diameter: of the pitch circle, mm."""
    return DivisionDone(
        len(places.each), diameter, tuple(_spaces(places)), others if places.ratio else (), _planned(places)
    )


def _spaces(places: Places) -> Iterator[Spaces]:
    divisions, circle, fine = len(places.each), places.circle, places.fine
    moves = (*places.each[1:], places.again)
    match places.by:
        case By.CRANK | By.CRANK_AND_PLATE:
            crank = [move.turns * circle + move.spaces for move in moves]
            plate = [move.plate for move in moves]
            # Once round the work the pin goes through this many turns of the crank as against the plate: the ratio of
            # the worm, less the turns that gears give the plate meanwhile.
            through = Fraction(sum(crank), circle)
            if places.lock:
                through += Fraction(sum(plate), places.lock)
            yield Spaces(Unit.SPACE, 1 / (through * circle), circle, _every(crank), through)
            if places.lock:
                yield Spaces(Unit.SPACE, 1 / (through * places.lock), places.lock, _every(plate), through)
        case By.SPINDLE | By.FLATS | By.WHEEL:
            yield Spaces(Unit.SPACE, Fraction(1, circle), circle, circle // divisions)
        case By.PINNED:
            yield Spaces(Unit.SPACE, Fraction(1, circle), circle)
            yield Spaces(Unit.PIN, fine)
        case By.DEGREES:
            degree = Fraction(1, 360)
            yield Spaces(Unit.GRADUATION if fine != degree else Unit.DEGREE, fine)
            if fine < degree:
                yield Spaces(Unit.DEGREE, degree)
        case By.DISC:
            return


def _every(moves: Sequence[int]) -> int | None:
    return moves[0] if len(set(moves)) == 1 else None


def _planned(places: Places) -> Fraction:
    """By how much more the work turns to the first tooth again than to the two beside it."""
    last = len(places.each) - 1
    if last < 1:
        return Fraction(0)
    turned = [places.turned(*pair) for pair in ((last, 0), (0, 1), (last - 1, last))]
    if None in turned:
        return Fraction(0)
    closing, first, before = (turn or Fraction(0) for turn in turned)
    return closing - (first + before) / 2


def slips(of: DivisionDone) -> list[GapExplanation]:
    """What every single slip adds to the gap as planned, as far as it leaves a wheel at all."""
    pitch, moves = of.around / of.divisions, of.divisions - 1
    explained = []
    for spaces in of.spaces:
        one = float(spaces.turn) * of.around
        explained += [
            GapExplanation(Slip.SHORT_ONCE, one, spaces), GapExplanation(Slip.FAR_ONCE, -one, spaces),
            GapExplanation(Slip.SHORT_ALWAYS, moves * one, spaces),
            GapExplanation(Slip.FAR_ALWAYS, -moves * one, spaces),
            GapExplanation(Slip.TWO_SHORT_ONCE, 2 * one, spaces), GapExplanation(Slip.TWO_FAR_ONCE, -2 * one, spaces),
        ]  # fmt: skip
    whole = [GapExplanation(Slip.LEFT_OUT, pitch), GapExplanation(Slip.TWICE, -pitch)]
    return [*explained, *whole, *_other_circles(of, moves)]


def _other_circles(of: DivisionDone, moves: int) -> Iterator[GapExplanation]:
    """The same turns and holes counted in another circle."""
    for spaces in of.spaces:
        if not spaces.ratio or spaces.each is None:
            continue
        back = -1 if spaces.each < 0 else 1
        turns, holes = divmod(abs(spaces.each), spaces.circle)
        for circle in of.others:
            if circle != spaces.circle and holes and holes < circle:
                turned = back * (turns + Fraction(holes, circle))
                wrong = (Fraction(spaces.each, spaces.circle) - turned) / spaces.ratio
                yield GapExplanation(Slip.OTHER_CIRCLE, moves * float(wrong) * of.around, spaces, circle)


_EVERY_MOVE = (Slip.SHORT_ALWAYS, Slip.FAR_ALWAYS, Slip.OTHER_CIRCLE)


def explained(measured: float, off: float, of: DivisionDone) -> Sequence[GapExplanation]:
    """The slips whose gap lies within what the reading may be off, the nearest first; none where the gap is as planned.

    measured: against its neighbours. Where every move is wrong the neighbours are too, so that the last one may differ
    from them by one move's slip more than from what was wanted.
    """
    beside = measured - of.planned_gap
    if abs(beside) <= off:
        return ()

    def away(slip: GapExplanation) -> float:
        if slip.slip not in _EVERY_MOVE:
            return abs(slip.gap - beside)
        beside_wrong = slip.gap * of.divisions / (of.divisions - 1)
        return min(abs(slip.gap - beside), abs(beside_wrong - beside))

    return sorted((s for s in slips(of) if away(s) <= off), key=away)
