"""The drive from the table's screw to the head's worm: what it must come to for a lead, and what an error does.

The table moves p for a turn of its screw; the head's worm must turn R p/L meanwhile, for the work to turn once in a
lead L. A worm pair of an attachment gives a part of that, either way round, the change wheels the rest; only their
product counts. Lengths in mm, angles in degrees, ratios exact.
"""

import math
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.helix.machine import WormPair
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Stock
from valleywind.core.trains.search import Approximation, search_each
from valleywind.core.units import PI, sine

HEAVY = 4
"""Where the screw must drive the worm faster than this, the load on the gearing is heavy."""


def lead_of_spiral(diameter: Fraction, helix: Fraction) -> Fraction:
    """π d/tan β of an angle at a diameter. Raises Refusal `helix_not_cut`."""
    if not 0 < helix < 90:
        raise Refusal("helix_not_cut", "helix", helix)
    return PI * diameter * sine(90 - helix) / sine(helix)


def total_ratio(screw: Fraction, head: Fraction, lead: Fraction) -> Fraction:
    """Turns of the head's worm for one of the table's screw: R p/L."""
    return head * screw / lead


@dataclass(frozen=True)
class PairWay:
    """A worm pair put in one way round: turns out for one turn in; 1 where there is none."""

    ratio: Fraction

    @property
    def name(self) -> str:
        return f"{self.ratio.numerator}/{self.ratio.denominator}"


def pair_ways(pairs: tuple[WormPair, ...]) -> tuple[PairWay, ...]:
    """Every pair both ways round where that can be; without pairs the shafts as they are."""
    ratios = [Fraction(*turns) for p in pairs for turns in ((p.one, p.other), (p.other, p.one))[: 2 - p.one_way]]
    return tuple(map(PairWay, dict.fromkeys(ratios))) or (PairWay(Fraction(1)),)


@dataclass(frozen=True)
class LeadTrain:
    """A pair and wheels that come near a lead. error: of the lead they give, relative: what it is to the wanted one,
    less 1."""

    pair: PairWay
    approximation: Approximation

    @property
    def total(self) -> Fraction:
        return self.pair.ratio * self.approximation.combination.ratio

    @property
    def error(self) -> Fraction:
        return 1 / (1 + self.approximation.error) - 1


def closest_trains(
    total: Fraction, ways: tuple[PairWay, ...], stock: Stock, stages: tuple[int, ...] = (1, 2), best: int = 10
) -> list[LeadTrain]:
    """The `best` over all pairs, both ways round, and all wheels together, provably, closest first by their ratio."""
    targets = [total / way.ratio for way in ways]
    return [LeadTrain(ways[n], near) for n, near in search_each(targets, stock, stages, best)]


def work_turn(travel: Fraction, lead: Fraction) -> Fraction:
    """Degrees that the work turns while the table moves so far."""
    return 360 * travel / lead


def crank_turns(travel: Fraction, lead: Fraction, head: Fraction) -> Fraction:
    """Turns of the head's crank meanwhile: R X/L."""
    return head * travel / lead


def formative(teeth: int, helix: Fraction) -> float:
    """The count of a spur wheel with teeth of the same form: z/cos³β."""
    return teeth / math.cos(math.radians(helix)) ** 3
