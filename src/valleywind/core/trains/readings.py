"""What readings taken over a time say together: each alone agrees, all of them lie to one side."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

# A reading this many of its own uncertainties from the middle of all is a wrong one.
_GONE_WRONG = 3
FEWEST = 3
"""Fewer readings say nothing together."""


@dataclass(frozen=True)
class Reading:
    """How far a reading lay from what was wanted, and by how much it may be off; both as parts of what was wanted."""

    relative: float
    off: float


@dataclass(frozen=True)
class Together:
    """relative: how far the readings lie from what was wanted, weighted by how well each was read; off: by how much
    that may be off; used: how many readings; gone_wrong: places of those that lie apart from the others and are left
    out."""

    relative: float
    off: float
    used: int
    gone_wrong: tuple[int, ...]

    @property
    def says(self) -> bool:
        """That they lie to one side is more than chance."""
        return abs(self.relative) > self.off


def together(readings: Sequence[Reading]) -> Together | None:
    """The weighted mean of readings, what lies apart left out; None for fewer than three.

    What a reading may be off is taken as two standard deviations. The mean is no surer than the readings agree among
    themselves: where they scatter more than they may be off, their scatter counts.
    """
    if len(readings) < FEWEST:
        return None
    middle = median(one.relative for one in readings)
    spread = median(abs(one.relative - middle) for one in readings)
    apart = {
        n for n, one in enumerate(readings) if abs(one.relative - middle) > _GONE_WRONG * max(one.off, 1.5 * spread)
    }
    kept = [one for n, one in enumerate(readings) if n not in apart]
    if len(kept) < FEWEST:
        return None
    weights = [1 / one.off**2 for one in kept]
    mean = sum(w * one.relative for w, one in zip(weights, kept, strict=True)) / sum(weights)
    by_reading = math.sqrt(1 / sum(weights))
    scatter = sum(w * (one.relative - mean) ** 2 for w, one in zip(weights, kept, strict=True)) / (len(kept) - 1)
    # What may be off by two standard deviations scatters by half of that on average.
    return Together(mean, by_reading * max(1.0, 2 * math.sqrt(scatter)), len(kept), tuple(sorted(apart)))
