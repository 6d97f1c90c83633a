"""Where tooth numbers stand on a drawing so that they can be read: on the wheel, off the shafts, off each other."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from valleywind.core.trains.model import Train

Point = tuple[float, float]
_DIRECTIONS = 36
_SHARES = (0.5, 0.6, 0.7, 0.78)
_MOST = 0.36
_LEAST = 0.16


@dataclass(frozen=True)
class Label:
    """Middle of a tooth number and the height of its digits, mm on the machine."""

    at: Point
    size: float


def place(train: Train, centres: Sequence[Point], tips: Sequence[float], bosses: Sequence[float]) -> list[Label]:
    """One label a wheel, in the order of `train.wheels`. tips: tip radii a wheel; bosses: radii a shaft; mm."""
    found: dict[int, Label] = {}
    # Small wheels have least choice: they go first.
    for n in sorted(range(len(train.wheels)), key=lambda n: tips[n]):
        ring = tips[n] - bosses[train.wheels[n].shaft]
        size = max(_LEAST * tips[n], min(_MOST * tips[n], 0.75 * ring))
        spots = [
            _along(centres[train.wheels[n].shaft], 2 * math.pi * d / _DIRECTIONS, share * tips[n])
            for share in _SHARES
            for d in range(_DIRECTIONS)
        ]
        others = [label for k, label in found.items() if k != n]
        best = max(spots, key=lambda spot: _space(train, n, spot, size, centres, tips, bosses, others))
        found[n] = Label(best, size)
    return [found[n] for n in range(len(train.wheels))]


def _along(centre: Point, angle: float, distance: float) -> Point:
    return centre[0] + distance * math.cos(angle), centre[1] + distance * math.sin(angle)


def _space(
    train: Train, n: int, spot: Point, size: float, centres: Sequence[Point], tips: Sequence[float],
    bosses: Sequence[float], others: Sequence[Label],
) -> float:  # fmt: skip
    """Free space round a spot: to rims, bosses, other wheels and other labels; the least of them."""
    own = train.wheels[n].shaft
    away = math.dist(spot, centres[own])
    space = [tips[n] * 0.95 - away - size * 0.6, away - bosses[own] - size * 0.6]
    space += [math.dist(spot, c) - b - size for s, (c, b) in enumerate(zip(centres, bosses, strict=True)) if s != own]
    space += [math.dist(spot, other.at) - (size + other.size) for other in others]
    for k, wheel in enumerate(train.wheels):
        if k != n and (wheel.shaft != own or tips[k] < tips[n]):
            space.append(math.dist(spot, centres[wheel.shaft]) - tips[k] - size * 0.7)
    return min(min(space), size)
