"""Which wheel of a plate drives which: the few ways its columns may be read."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from itertools import product

from valleywind.core.plate.text import Order, PlateLine
from valleywind.core.trains.model import Stage, Train


class FourWheels(StrEnum):
    """Four wheels that stand apart, A B C D."""

    PAIRS = "A/B × C/D"
    HALVES = "A × B / C × D"
    OUTER = "A/B × D/C"


@dataclass(frozen=True)
class Reading:
    """One way to read a plate's columns. upward: they run from the screw to the spindle, or each pair is driven wheel
    first. four: how four wheels that stand apart belong together. driver_first: of a stud's two wheels the one that
    drives stands first. bare: the unit of a number without one."""

    upward: bool = False
    four: FourWheels = FourWheels.PAIRS
    driver_first: bool = False
    bare: str = ""

    def train(self, line: PlateLine) -> Train | None:
        """The train of a line read so; None where its wheels stand in no order that is known."""
        if line.named is not None:
            drivers, driven = line.named
            if len(drivers) != len(driven):
                return None
            return Train(_with_idlers([Stage(a, b) for a, b in zip(drivers, driven, strict=True)], line.idlers))
        stages = self._stages(line)
        if stages is None:
            return None
        if self.upward:
            stages = [Stage(s.driven, s.driver, s.idlers[::-1]) for s in reversed(stages)]
        return Train(_with_idlers(stages, line.idlers))

    def _stages(self, line: PlateLine) -> list[Stage] | None:
        groups, shape = line.groups, tuple(map(len, line.groups))
        wheels = [t for group in groups for t in group]
        if len(wheels) == 2:
            return [Stage(wheels[0], wheels[1])]
        if len(wheels) == 3 and shape in ((3,), (1, 1, 1)):
            return [Stage(wheels[0], wheels[2], (wheels[1],))]
        if shape in ((1, 2, 1), (1, 2, 2, 1)):
            studs = [g[::-1] for g in groups[1:-1]] if self.driver_first else list(groups[1:-1])
            shafts = [groups[0][0], *(t for stud in studs for t in stud), groups[-1][0]]
            return [Stage(a, b) for a, b in zip(shafts[::2], shafts[1::2], strict=True)]
        if shape in ((2, 2), (2, 2, 2)):
            return [Stage(group[0], group[1]) for group in groups]
        if (set(shape) == {1} and len(wheels) in (4, 6)) or shape == (4,):
            half = len(wheels) // 2
            if self.four is FourWheels.HALVES:
                return [Stage(a, b) for a, b in zip(wheels[:half], wheels[half:], strict=True)]
            pairs = [Stage(a, b) for a, b in zip(wheels[::2], wheels[1::2], strict=True)]
            if self.four is FourWheels.OUTER and len(pairs) == 2:
                pairs[1] = Stage(pairs[1].driven, pairs[1].driver)
            return pairs
        return None


def _with_idlers(stages: list[Stage], idlers: tuple[int, ...]) -> tuple[Stage, ...]:
    """Idlers that a line names stand in its first stage: where is not said."""
    first = stages[0]
    return (Stage(first.driver, first.driven, (*first.idlers, *idlers)), *stages[1:])


def readings(lines: Iterable[PlateLine], order: Order | None, bares: tuple[str, ...]) -> list[Reading]:
    """Every way the lines may be read that makes a difference, the usual one first."""
    shapes = {tuple(map(len, line.groups)) for line in lines if line.named is None}
    stand_apart = any((set(s) == {1} and len(s) >= 4) or s == (4,) for s in shapes)
    four = tuple(FourWheels) if stand_apart else (FourWheels.PAIRS,)
    stud = (False, True) if any(s in ((1, 2, 1), (1, 2, 2, 1)) for s in shapes) else (False,)
    # What a heading says of the order holds for wheels that stand apart.
    apart = all(1 in s for s in shapes)
    upward: tuple[bool, ...] = (False, True)
    if not shapes or (apart and order is Order.FROM_SPINDLE):
        upward = (False,)
    elif apart and order is Order.FROM_SCREW:
        upward = (True,)
    return [Reading(*way) for way in product(upward, four, stud, bares)]
