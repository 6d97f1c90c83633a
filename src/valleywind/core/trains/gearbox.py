"""What the planner is told of a machine: where change wheels go, and what is wanted of them.

It knows nothing of threads, hobs or tables: a target is a ratio with the name of the setting that it counts on, such as
the position of a lever, a worm pair or a constant of the machine.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import Generic, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.arrange import FixedWheels
from valleywind.core.trains.direction import Drive, Hand, HandAdvice, advise
from valleywind.core.trains.model import Stock, Train, lacking
from valleywind.core.trains.quadrant import Carrier
from valleywind.core.trains.search import MOST_STAGES

S = TypeVar("S")


@dataclass(frozen=True)
class Gearbox:
    """One place for change wheels: what wheels go on it, what carries the studs, what is laid down about first and last
    wheels and locked pairs, and how its shafts turn, None where that is not known. most_stages: trains have no more."""

    family: WheelFamily
    quadrant: Carrier
    fixed: FixedWheels = field(default_factory=FixedWheels)
    drive: Drive | None = None
    most_stages: int = MOST_STAGES

    def free(self, stock: Stock) -> Stock:
        """The wheels that can stand anywhere: the stock without the locked pairs. A double of a locked wheel is loose,
        and so is what is left of a pair that is not whole."""
        loose = dict(stock)
        for pair in self.fixed.pairs:
            if not lacking((pair.one, pair.other), loose):
                for teeth in (pair.one, pair.other):
                    loose[teeth] -= 1
        return {t: n for t, n in loose.items() if n > 0}

    def hand(self, meshes: int, wanted: Hand | None) -> HandAdvice:
        """What gives the wanted hand with this many meshes."""
        return advise(meshes, wanted, self.drive)


class Judgement(Protocol):
    """What an error means for a job. rank: 0 for good enough without condition, larger for less good."""

    @property
    def good(self) -> bool: ...

    @property
    def hopeless(self) -> bool: ...

    @property
    def rank(self) -> int: ...


V = TypeVar("V", bound=Judgement)


@dataclass(frozen=True)
class Target(Generic[S]):
    """A setting, and what a train of ratio 1 gives with it, in the measure in which something is wanted."""

    setting: S
    gives: Fraction


@dataclass(frozen=True)
class Requirement(Generic[S, V]):
    """What is wanted of a gearbox.

    value: how much, such as a lead in mm; targets: the settings that may be used, the usual one first; hand: that the
    train must give, None where any will do; judge: what a relative error means; mounted, now: the train on the machine
    and the setting that stands there; moves: how many levers differ between two settings.
    """

    value: Fraction
    targets: tuple[Target[S], ...]
    hand: Hand | None
    judge: Callable[[Fraction], V]
    mounted: Train | None = None
    now: Target[S] | None = None
    moves: Callable[[S, S], int] = lambda _one, _other: 0

    def ratio(self, target: Target[S]) -> Fraction:
        """The ratio of a train that gives the value with this setting."""
        return self.value / target.gives

    @cached_property
    def ratios(self) -> tuple[Fraction, ...]:
        """The ratios wanted, one a target."""
        return tuple(self.ratio(target) for target in self.targets)

    @cached_property
    def rounded_ratios(self) -> NDArray[np.float64]:
        """The same, rounded."""
        return np.array([float(ratio) for ratio in self.ratios])

    @cached_property
    def good_within(self) -> float:
        """The largest relative error with which it still does for the job, by halving."""
        low, high = 0.0, 1.0
        for _ in range(40):
            middle = (low + high) / 2
            low, high = (middle, high) if self.judge(Fraction(middle)).good else (low, middle)
        return high
