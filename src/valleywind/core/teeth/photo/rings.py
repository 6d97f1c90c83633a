"""Rings about a middle that may be teeth: the same pattern again and again, in most parts of the ring.

Each part of the ring is looked at by itself, so that neither grease nor a middle that is a few pixels off spoils it.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from valleywind.core.teeth.photo.plane import Plane, unrolled
from valleywind.core.teeth.photo.smooth import Array, Picture, round_mean

_AROUND, _PARTS = 1024, 8
_STEP, _FIRST = 3.0, 24.0
"""px between two rings, and the smallest ring."""
FEWEST_PIXELS = 4
"""px of the rim that a tooth takes at least."""
# A part is a quarter of the ring, so that its patterns are told apart by four to the ring.
_APART = 4
_FEWEST, _MOST_RINGS = 3, 6


@dataclass(frozen=True)
class Ring:
    """plane; radius, px; teeth: as many as the pattern comes to, give or take three; worth: by how much it stands
    out."""

    plane: Plane
    radius: float
    teeth: int
    worth: float


def rings(picture: Picture, plane: Plane) -> list[Ring]:
    """The rings that stand out most."""
    return sorted(_rings(picture, plane), key=lambda ring: -ring.worth)


def even_edges(rows: Picture, there: Array, beside: float, step: int = 1) -> Picture:
    """How steep the brightness is along each row, whichever way; even where the picture is pale, about nought."""
    steep = np.abs(np.roll(rows, -step, 1) - np.roll(rows, step, 1))
    steep[~there] = 0
    even = np.minimum(steep / (round_mean(steep, beside) + 0.002), 4)
    about: Picture = even - round_mean(even, beside)
    return about


def even_light(rows: Picture, there: Array, within: float, beside: float) -> Picture:
    """The brightness beside its mean `within` this many points, as even where the picture is pale."""
    light: Array = rows - round_mean(rows, within)
    light[~there] = 0
    spread: Array = np.sqrt(np.maximum(round_mean(light * light, beside), 0)) + 0.0045
    even: Picture = (light / spread).astype(np.float32)
    return even


def _rings(picture: Picture, plane: Plane) -> Iterator[Ring]:
    high, wide = picture.shape
    x, y = plane.centre
    most = min(0.6 * max(high, wide), max(x, wide - x, y, high - y))
    radii = np.arange(_FIRST, most, _STEP)
    if len(radii) < 4:
        return
    rows, there = unrolled(picture, plane, radii, _AROUND)
    beside = _AROUND / 10
    light = _stands_out(even_light(rows, there, beside, beside), there)
    edges: Array = _stands_out(even_edges(rows, there, beside), there)
    patterns = np.arange(_FEWEST, light.shape[1] - 4)
    teeth, at = _APART * patterns[None, :], np.arange(len(radii))[:, None]
    deep = np.maximum(1, np.round(4.5 * radii[:, None] / (teeth + 2) / _STEP * 0.7)).astype(int)
    first = np.clip(at - deep // 2, 0, None)
    last = np.clip(at - deep // 2 + deep, None, len(radii))
    worth = np.zeros_like(light)
    for shares, weight in ((light, 1.0), (edges, 1.3)):
        total = np.zeros((len(radii) + 1, len(patterns)))
        np.cumsum(np.maximum(shares[:, patterns], 0), axis=0, dtype=np.float64, out=total[1:])
        within = np.take_along_axis(total, last, 0) - np.take_along_axis(total, first, 0)
        worth[:, patterns] += weight * within / deep
    none = (2 * np.pi * radii[:, None] / teeth < FEWEST_PIXELS) | (deep > 0.35 * (at + _FIRST / _STEP))
    worth[:, patterns] *= ~none
    for _ in range(_MOST_RINGS):
        row, column = np.unravel_index(int(np.argmax(worth)), worth.shape)
        if worth[row, column] <= 0.05:
            break
        yield Ring(plane, float(radii[row]), _APART * int(column), float(worth[row, column]))
        worth[max(0, int(row) - 8) : int(row) + 9, max(0, int(column) - 2) : int(column) + 3] = 0


def _stands_out(rows: Picture, there: Array) -> Picture:
    """Of each ring (row) and each pattern (column, in fours to the ring) the share of what is seen that is of this
    pattern, more than of those beside; in the six parts of eight in which it is most."""
    long, step = _AROUND // 4, _AROUND // _PARTS
    at = (np.arange(0, _AROUND, step)[:, None] + np.arange(long)[None, :]) % _AROUND
    power = np.abs(np.fft.rfft(rows[:, at] * np.hanning(long).astype(np.float32), axis=-1)).astype(np.float32) ** 2
    share = power / (power[:, :, 2:].sum(-1, keepdims=True) + 1e-9)
    three = share.copy()
    three[:, :, 1:-1] = share[:, :, :-2] + share[:, :, 1:-1] + share[:, :, 2:]
    three *= (there.reshape(len(rows), _PARTS, -1).mean(-1) > 0.8)[:, :, None]
    most = np.sort(three, axis=1)[:, 2:, :].mean(1)
    beside: Array = np.maximum(np.roll(most, 3, 1), np.roll(most, -3, 1))
    beside = np.maximum(beside, (np.roll(most, 4, 1) + np.roll(most, -4, 1)) / 2)
    out: Picture = (most - beside).astype(np.float32)
    return out
