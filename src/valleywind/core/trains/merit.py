"""Which train is the least trouble: what has to be handled, and the order people would choose in.

Not the smallest error but the least trouble that is good enough: it fits; it is good enough for the job; then wheels
already mounted kept, fewest wheels to put on, fewest levers to move, no idler; with that equal the smaller error, then
the larger smallest wheel, then the shorter train.
"""

from fractions import Fraction
from typing import NamedTuple

from valleywind.core.trains.model import Train, size_of


class Handling(NamedTuple):
    """What a change from the mounted train means: wheels that stay in their places, go on, come off; levers to move."""

    kept: int
    put_on: int
    taken_off: int
    levers: int = 0

    @property
    def none(self) -> bool:
        """The train is on the machine already, with the levers where they must stand."""
        return self.no_wheel and not self.levers

    @property
    def no_wheel(self) -> bool:
        """The wheels can stay as they are."""
        return not self.put_on and not self.taken_off


def handling(train: Train, mounted: Train | None, levers: int = 0) -> Handling:
    """Compare place by place: first shaft, last shaft, studs counted from the first; inner and outer apart.

    `levers`: how many stand elsewhere now.
    """
    if mounted is None:
        return Handling(0, len(train.teeth), 0, levers)
    wanted, present = train.places, mounted.places
    kept = len(wanted.items() & present.items())
    return Handling(kept, len(wanted) - kept, len(present) - kept, levers)


def least_trouble(
    fits: bool, job_rank: tuple[int, float], work: Handling, train: Train, error: Fraction
) -> tuple[object, ...]:
    """Sort key, best first. `job_rank`: 0, 0 for good enough without condition, larger for less good; its second part
    orders those that are not good enough."""
    begins = least_trouble_begins(fits, job_rank, work, len(train.idlers), error)
    return (*begins, abs(error), -min(train.teeth), len(train.stages), train)


def least_trouble_begins(
    fits: bool, job_rank: tuple[int, float], work: Handling, idlers: int, error: Fraction
) -> tuple[object, ...]:
    """What that key begins with: as much of it as is known before the wheels have their places."""
    return not fits, job_rank, -work.kept, work.put_on, work.levers, idlers, size_of(error)


def most_exact(fits: bool, work: Handling, train: Train, error: Fraction) -> tuple[object, ...]:
    """Sort key for those who want the smallest error first, among trains that fit."""
    return (*most_exact_begins(fits, work, len(train.idlers), error), len(train.stages), train)


def most_exact_begins(fits: bool, work: Handling, idlers: int, error: Fraction) -> tuple[object, ...]:
    """What that key begins with."""
    return not fits, size_of(error), abs(error), work.put_on, work.levers, idlers
