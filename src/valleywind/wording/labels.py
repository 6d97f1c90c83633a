"""Where tooth numbers stand on a drawing so that they can be read: on the wheel, off the shafts, off each other."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from valleywind.core.trains.model import Train

Point = tuple[float, float]
Floats = NDArray[np.float64]
# Where on a wheel of radius 1 a number may stand: (spots, 2), nearest to the shaft first.
_ROUND = np.array(
    [(share * math.cos(turn), share * math.sin(turn)) for share in (0.5, 0.6, 0.7, 0.78)
     for turn in np.linspace(0, 2 * math.pi, 36, endpoint=False)]
)  # fmt: skip
_RIM = np.array([(math.cos(turn), math.sin(turn)) for turn in np.linspace(0, 2 * math.pi, 48, endpoint=False)])
_MOST = 0.36
_LEAST = 0.16


@dataclass(frozen=True)
class Label:
    """Middle of a tooth number and the height of its digits, mm on the machine."""

    at: Point
    size: float


def place(train: Train, centres: Sequence[Point], tips: Sequence[float], bosses: Sequence[float]) -> list[Label]:
    """One label a wheel, in the order of `train.wheels`. tips: tip radii a wheel; bosses: radii a shaft; mm."""
    shafts = np.array(centres)
    placed: dict[int, Label] = {}
    # Small wheels have least choice: they go first.
    for n in sorted(range(len(train.wheels)), key=lambda n: tips[n]):
        own = train.wheels[n].shaft
        size = max(_LEAST * tips[n], min(_MOST * tips[n], 0.75 * (tips[n] - bosses[own])))
        before = [
            tips[k] for k, wheel in enumerate(train.wheels) if k != n and wheel.shaft == own and tips[k] < tips[n]
        ]
        if before and tips[n] - max(before) < size:  # the ring that shows is too thin: the number goes outside it
            spots = shafts[own] + _RIM * (tips[n] + 0.9 * size)
            space = [np.full(len(spots), np.inf)]
        else:
            spots = shafts[own] + _ROUND * tips[n]
            space = [_to_rim_and_boss(spots, shafts[own], tips[n], bosses[own], size)]
        space += [
            _apart(spots, at) - b - size for s, (at, b) in enumerate(zip(shafts, bosses, strict=True)) if s != own
        ]
        space += [_apart(spots, np.array(other.at)) - (size + other.size) for other in placed.values()]
        space += [
            _apart(spots, shafts[wheel.shaft]) - tips[k] - size * 0.7
            for k, wheel in enumerate(train.wheels)
            if k != n and (wheel.shaft != own or tips[k] < tips[n])
        ]
        # Of the spots with room enough the first, nearest to the shaft, is taken.
        best = spots[np.minimum(np.minimum.reduce(space), size).argmax()]
        placed[n] = Label((float(best[0]), float(best[1])), size)
    return [placed[n] for n in range(len(train.wheels))]


def _apart(spots: Floats, point: Floats) -> Floats:
    apart: Floats = np.hypot(spots[:, 0] - point[0], spots[:, 1] - point[1])
    return apart


def _to_rim_and_boss(spots: Floats, centre: Floats, tip: float, boss: float, size: float) -> Floats:
    away = _apart(spots, centre)
    return np.minimum(tip * 0.95 - away, away - boss) - size * 0.6
