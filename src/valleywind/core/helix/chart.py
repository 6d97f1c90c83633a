"""Counts against angles: how each stands with a mill's wheels and pairs; and which wheels are worth making for them."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cache

from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.lead import PairWay
from valleywind.core.helix.plan import LeadCandidate, LeadDrive, LeadSetUp, Verdict, requirement
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch
from valleywind.core.trains.advice import Advice, advise
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.model import Stock
from valleywind.core.trains.new_wheels import new_wheels
from valleywind.core.trains.standing import LineStanding, Standing, bringing_wheels, good_ones, standings
from valleywind.core.units import parse_degrees

USUAL_ANGLES = tuple(map(Fraction, (15, 20, 30, 45)))
MOST_ANGLES = 12
# How many of the likeliest wheels are tried in a chart of their own.
_TRIED = 12


@dataclass(frozen=True)
class Cell:
    """A count at an angle. candidate: the train that comes closest and goes on, or with NEEDS_WHEEL the one with the
    wheel `new`."""

    ask: HelixAsk
    standing: Standing
    candidate: LeadCandidate | None
    new: int | None = None


def read_angles(text: str, field: str = "angles") -> tuple[Fraction, ...]:
    """Angles with spaces between, the usual ones where there are none: `15 20 30`.

    Raises Refusal: `helix_not_cut`, `too_many_angles`, those of numbers."""
    angles = [parse_degrees(part, field) for part in text.replace(",", " ").split()]
    if len(angles) > MOST_ANGLES:
        raise Refusal("too_many_angles", field, len(angles), most=MOST_ANGLES)
    for angle in angles:
        if not 0 < angle < 90:
            raise Refusal("helix_not_cut", field, str(angle))
    return tuple(dict.fromkeys(angles)) or USUAL_ANGLES


def asks(pitch: Pitch, counts: Sequence[int], angles: Sequence[Fraction], hand: Hand) -> list[HelixAsk]:
    """Every count at every angle, count by count."""
    return [HelixAsk(teeth, pitch, helix=angle, hand=hand) for teeth in counts for angle in angles]


def chart(leads: Sequence[HelixAsk], drive: LeadDrive, stock: Stock, on: LeadSetUp | None = None) -> list[Cell]:
    """How each stands. Raises Refusal `no_wheels` (stock)."""
    if not any(n > 0 for n in stock.values()):
        raise Refusal("no_wheels", "stock", "")
    stands: list[LineStanding[PairWay, Verdict]] = standings(
        [requirement(ask, drive, on) for ask in leads], drive.box, stock
    )
    return [Cell(ask, s.standing, s.candidate, s.new) for ask, s in zip(leads, stands, strict=True)]


def worth_making(leads: Sequence[HelixAsk], drive: LeadDrive, stock: Stock) -> Iterator[float | Advice[HelixAsk]]:
    """For each of the likeliest wheels not held those that are neither exact nor good now and become so with it in
    hand; before that the share of the work done. Raises Refusal `no_wheels` (stock)."""
    if not any(n > 0 for n in stock.values()):
        raise Refusal("no_wheels", "stock", "")
    counts = new_wheels(drive.box, stock)
    need = cache(lambda ask: requirement(ask, drive))

    def good(some: Sequence[HelixAsk], held: Stock) -> list[bool]:
        return [stood is not None for stood in good_ones([need(ask) for ask in some], drive.box, held)]

    return advise(
        leads,
        lambda some: [ask for ask, is_good in zip(some, good(some, stock), strict=True) if not is_good],
        lambda some: bringing_wheels([need(ask) for ask in some], drive.box, stock, counts),
        lambda teeth, some: [
            ask for ask, is_good in zip(some, good(some, {**stock, teeth: 1}), strict=True) if is_good
        ],
        _TRIED,
    )
