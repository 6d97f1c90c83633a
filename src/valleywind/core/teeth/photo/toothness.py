"""How the teeth of a ring stand: a wave with a crest for each tooth, whose phase tells their places.

Flanks are seen as edges on every side, whatever the light does to tooth and gap. Near the tips the edges of a tooth
crowd about its middle, near the roots about the middle of the gap.
"""

from dataclasses import dataclass

import numpy as np

from valleywind.core.teeth.photo.plane import Plane, unrolled
from valleywind.core.teeth.photo.rings import even_edges, even_light
from valleywind.core.teeth.photo.smooth import Array, Picture

_RINGS, _INWARD, _OUTWARD = 28, 1.7, 1.5
# A wave as strong as this is a tooth beyond doubt.
_FULL = 0.30
_ANGLES = 8
"""At how many angles for each tooth a wave is told at least."""


@dataclass(frozen=True)
class Band:
    """The rings about the middle of the teeth. radii: px; half: half the depth of a tooth, px; edges, light: the wave
    at each ring and angle."""

    radii: Array
    half: float
    edges: Array
    light: Array

    @property
    def strength(self) -> Array:
        """How much of a wave is seen at each ring and angle."""
        return np.abs(self.light) ** 2 + 0.5 * np.abs(self.edges) ** 2


def half_depth(radius: float, teeth: int) -> float:
    """Half the depth of a tooth, px: the whole depth is 2.25 modules."""
    return 2.25 * radius / (teeth + 2)


def band(picture: Picture, plane: Plane, radius: float, teeth: int, around: int) -> Band:
    """The teeth about this radius, px, if there are this many."""
    half = half_depth(radius, teeth)
    radii = np.linspace(radius - _INWARD * half, radius + _OUTWARD * half, _RINGS)
    rows, there = unrolled(picture, plane, radii, around)
    period = around / teeth
    edges = even_edges(rows, there, 2.5 * period, max(1, int(period / 12)))
    light = even_light(rows, there, 1.6 * period, 3 * period)
    return Band(radii, half, _wave(edges, teeth), _wave(light, teeth))


def _wave(rows: Picture, teeth: int) -> Array:
    """At each ring, and at as many angles as it takes, the wave of that many crests: its mean over a little more
    than a pitch, taken twice. Worked out on the waves of the ring, where a mean is a factor."""
    around = rows.shape[1]
    long, few = int(1.2 * around / teeth) | 1, min(around, 1 << (_ANGLES * teeth).bit_length())
    away = np.arange(-few // 2, few // 2)
    away = away[(away + teeth >= 0) & (away + teeth <= around // 2)]
    half = np.pi * away / around
    with np.errstate(invalid="ignore"):
        mean = np.where(away == 0, 1.0, np.sin(half * long) / (long * np.sin(half)))
    waves = np.zeros((len(rows), few), np.complex64)
    waves[:, away] = np.fft.rfft(rows, axis=1)[:, away + teeth] * (mean * mean * few / around).astype(np.float32)
    slow: Array = np.fft.ifft(waves, axis=1)
    return slow


@dataclass(frozen=True)
class Toothness:
    """At each angle a number of the length of how surely there are teeth, and of the phase of where they stand; sure:
    the lengths alone."""

    wave: Array
    sure: Array

    @property
    def cover(self) -> float:
        """The share of the ring in which there are teeth."""
        return float(self.sure.mean())

    @property
    def agreement(self) -> float:
        """How well all of them stand as this many to the ring; 1 for all."""
        return float(abs(self.wave.sum()) / max(self.sure.sum(), 1e-9))


def toothness(of: Band, radius: float) -> Toothness:
    """Of the rings near the tips less those near the roots."""
    away = (of.radii - radius) / of.half
    near_tip = np.where((away > 0.1) & (away < 1), np.sin(np.clip(away, 0, 1) * np.pi), 0.0)
    near_root = np.where((away < -0.1) & (away > -1), np.sin(np.clip(-away, 0, 1) * np.pi), 0.0)
    wave = near_tip @ of.edges / near_tip.sum() - near_root @ of.edges / near_root.sum()
    size = np.abs(wave)
    sure = np.minimum(size / _FULL, 1) ** 2
    return Toothness(np.where(size > 0, wave / np.maximum(size, 1e-9), 0) * sure, sure)


def centred(picture: Picture, plane: Plane, radius: float, teeth: int, around: int) -> float:
    """The radius about which the teeth lie, px."""
    for _ in range(2):
        of = band(picture, plane, radius, teeth, around)
        strength = of.strength.mean(1)
        lies = float((strength * of.radii).sum() / max(strength.sum(), 1e-12))
        radius += float(np.clip(0.9 * (lies - of.radii.mean()), -of.half, of.half))
    return radius
