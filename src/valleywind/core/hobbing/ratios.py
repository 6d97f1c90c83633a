"""What the trains of a hobber must come to, and what an error in one does to the teeth.

Index: turns of the work per turn of an s-start hob are s/z, so the train is K s/z. Differential: the hob's travel
through one lead L of the helix must add one turn to the work or take it away, which comes to K_d sin β/(m_n s). Lengths
in mm, angles in degrees, ratios exact.
"""

import math
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.hobbing.machine import FeedSource, FeedWay
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.units import PI, sine


def index_ratio(constant: Fraction, starts: int, teeth: int) -> Fraction:
    """The index train for a spur wheel: K s/z."""
    return constant * starts / teeth


def differential_ratio(constant: Fraction, module: Fraction, helix: Fraction, starts: int) -> Fraction:
    """The differential train for a helix: K_d sin β/(m_n s); the number of teeth drops out."""
    return constant * sine(helix) / (module * starts)


def ratio_without(
    constant: Fraction, starts: int, teeth: int, helix_lead: Fraction, feed: Fraction, faster: bool
) -> Fraction:
    """The index train that makes a helix without a differential: K s/(z (1 ∓ f/L)), − where the work must turn
    faster; `feed` is what the feed train really gives, mm per table turn."""
    along = feed / helix_lead
    return constant * starts / (teeth * (1 - along if faster else 1 + along))


def work_faster(hand: Hand, table: Sense, way: FeedWay) -> bool:
    """Whether the work must turn faster than for a spur wheel; `table`: how it turns now, seen from above.

    Teeth of a right-hand helix stand further round, anticlockwise seen from above, the higher one looks: with the table
    anticlockwise and the hob going down the work must turn faster. Change any one of hand, table, way and it is slower.
    """
    turned = (hand is Hand.LEFT, table is Sense.CLOCKWISE, way is FeedWay.UP)
    return sum(turned) % 2 == 0


def indexed_as(constant: Fraction, starts: int, train: Fraction) -> Fraction:
    """The count that an index train divides into, which need not be whole: z′ = K s/i."""
    return constant * starts / train


@dataclass(frozen=True)
class MakingUp:
    """What the differential must do where z′ teeth are indexed in place of z.

    adds: it must add to the work's turning; product: what differential train times feed train must be, exactly; share:
    the part of the work's turning that comes from the differential.
    """

    adds: bool
    product: Fraction
    share: Fraction


def making_up(
    teeth: int, indexed: Fraction, starts: int, feed: Fraction, differential: Fraction, taken: FeedSource
) -> MakingUp:
    """How the differential makes up the difference; `feed` and `differential` are the machine's constants.

    The fictitious lead is f z′/(z′ − z), the differential train K_d π z′/(L s), and with feed f = K_f times its train
    their product K_d π (z′ − z)/(K_f s); where the feed is taken before the differential, z′/z times that.
    """
    off = indexed - teeth
    product = differential * PI * abs(off) / (feed * starts)
    if taken is FeedSource.BEFORE:
        product *= indexed / teeth
    return MakingUp(off > 0, product, abs(off) / indexed)


@dataclass(frozen=True)
class Addition:
    """What the differential must add to the work's turning for a mm of the hob's travel, turns, negative to take away;
    and the train that does it."""

    per_mm: Fraction
    train: Fraction


def addition(
    teeth: int,
    indexed: Fraction,
    starts: int,
    feed: Fraction,
    differential: Fraction,
    taken: FeedSource,
    turn_per_mm: Fraction = Fraction(0),
) -> Addition:
    """What the differential must do where z′ teeth are indexed and the wheel is a helix besides. feed: that the feed
    train really gives; turn_per_mm: 1/L of the helix, positive where the work must turn faster.

    The work makes T turns, the hob travels fT; the index alone gives what is left of T without the helix, times z/z′:
    so it is (z′ − z)/(z′f) + z/(z′L), with the feed taken before the differential (z′ − z)/(zf) + 1/L. The train is
    K_d π z′/s times that.
    """
    if taken is FeedSource.AFTER:
        per_mm = (indexed - teeth) / (indexed * feed) + teeth / indexed * turn_per_mm
    else:
        per_mm = (indexed - teeth) / (teeth * feed) + turn_per_mm
    return Addition(per_mm, differential * PI * indexed * abs(per_mm) / starts)


def run_off_without(face: Fraction, diameter: float, feed: Fraction, error: Fraction) -> float:
    """The same where the work's turning errs by this much, all along the feed: ε π d b/f, in µm."""
    return abs(float(error)) * math.pi * diameter * float(face / feed) * 1000


@dataclass(frozen=True)
class Closes:
    """Verdict on an index train: exact, or it does not close."""

    exact: bool

    @property
    def good(self) -> bool:
        return self.exact

    @property
    def hopeless(self) -> bool:
        return not self.exact

    @property
    def rank(self) -> int:
        return 0 if self.exact else 9


FEED_NEAR, FEED_ABOUT = Fraction(1, 10), Fraction(2, 5)
"""A feed is as wished within the first, and serves within the second."""


@dataclass(frozen=True)
class FeedVerdict:
    """Verdict on a feed train, by how far it is from the wish; relative, signed."""

    off: Fraction

    @property
    def good(self) -> bool:
        return abs(self.off) <= FEED_ABOUT

    @property
    def hopeless(self) -> bool:
        return abs(self.off) > 3

    @property
    def rank(self) -> int:
        return 0 if abs(self.off) <= FEED_NEAR else 1 if self.good else 2
