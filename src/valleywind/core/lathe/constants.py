"""The constants of an unknown lathe: from turns and travel, the screws and first-shaft ratios that may be in it."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.lathe.length_reading import LengthReading
from valleywind.core.lathe.thread import PitchUnit
from valleywind.core.units import MM_PER_INCH

FIRST_RATIOS = tuple(Fraction(r) for r in ("1", "1/2", "1/4", "2", "1/3", "2/3", "3/4", "3/2", "1/5", "1/6"))
"""Turns of the first shaft per spindle turn that lathes are built with, the usual ones first."""
_METRIC_SCREWS = tuple(
    Fraction(p) for p in ("2", "3", "4", "1.5", "6", "5", "2.5", "1", "8", "10", "12", "1.25", "0.75")
)
_INCH_SCREWS = tuple(Fraction(t) for t in ("8", "4", "6", "10", "5", "2", "12", "16", "20", "7", "9", "14", "24", "3"))
# Beyond this the measurement says too little to tell screws apart.
_MOST = 24


@dataclass(frozen=True)
class Constant:
    """A lathe that the measurement fits. constant: R p, travel per turn of train and spindle, mm; off: how far the
    measurement lies from it, in measuring uncertainties."""

    first_ratio: Fraction
    screw_lead: Fraction
    stated: PitchUnit
    off: float

    @property
    def constant(self) -> Fraction:
        return self.first_ratio * self.screw_lead


@dataclass(frozen=True)
class Constants:
    """What was measured as a constant, R B p in mm, how far it may be off, and the simple lathes inside that, the most
    usual first."""

    measured: Fraction
    uncertainty: Fraction
    lathes: tuple[Constant, ...]


def constants(measured: LengthReading, train_ratio: Fraction = Fraction(1)) -> Constants:
    """The lathes that explain a carriage travel over this many spindle turns with this train on.

    `train_ratio` 1 stands for equal wheels. Ranked by how usual a screw and a ratio are, then by closeness.
    """
    per_turn = measured.length / measured.turns / train_ratio
    uncertainty = measured.uncertainty / measured.turns / train_ratio
    every = [
        (rank, Constant(ratio, lead, stated, float(abs(ratio * lead - per_turn) / uncertainty)))
        for rank, ratio, lead, stated in usual_lathes()
        if abs(ratio * lead - per_turn) <= uncertainty
    ]
    ranked = [c for _, c in sorted(every, key=lambda f: (f[0], f[1].off))]
    return Constants(per_turn, uncertainty, tuple(ranked[:_MOST]))


def usual_lathes() -> Iterator[tuple[int, Fraction, Fraction, PitchUnit]]:
    """Every usual first-shaft ratio with every usual screw, and how unusual the two are together."""
    for r, ratio in enumerate(FIRST_RATIOS):
        for m, lead in enumerate(_METRIC_SCREWS):
            yield 3 * r + m, ratio, lead, PitchUnit.MM
        for t, per_inch in enumerate(_INCH_SCREWS):
            yield 3 * r + t, ratio, MM_PER_INCH / per_inch, PitchUnit.TPI
