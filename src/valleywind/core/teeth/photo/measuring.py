"""Diameters of a wheel in a picture, in pixels of its plane; in mm where one of them is known."""

from dataclasses import dataclass

import numpy as np

from valleywind.core.teeth.photo.counting import ToothCount
from valleywind.core.teeth.photo.plane import unrolled
from valleywind.core.teeth.photo.smooth import Array, Picture

_STEP = 0.5
"""px between two rings that are looked at."""
# By how much an edge may be off, px: blur moves it alike at both sides, grain and shadow do not.
_EDGE_OFF = 0.7
# The bore's edge is looked for up to this part of the root.
_BORE_MOST = 0.8
_CLEAR = 0.006
"""Brightness for a px: what steps less is no bore's edge."""
# Where a finger shows an end of a length; and the shortest length that says anything, px.
_SHOWN_OFF, _SHORTEST = 2.0, 20.0
FEWEST_OPENINGS, MOST_OPENINGS = 3, 12
# How many degrees of the bore a keyway takes, least and most; and the least bore in which one is looked for, px.
_KEYWAY, _LEAST_BORE = (10, 60), 40.0
# Points round a ring of the web; what share of the light and dark there goes with
# the openings; and how strong it is.
_ROUND, _OF_THE_WEB, _CONTRAST = 256, 0.6, 0.12


@dataclass(frozen=True)
class InPixels:
    """Diameters in pixels of the wheel's plane; None where no edge is seen."""

    tip: float | None
    root: float | None
    bore: float | None


@dataclass(frozen=True)
class Diameters:
    """mm, each with how far it may be off. bore: None where none is seen."""

    tip: float
    tip_off: float
    root: float
    root_off: float
    bore: float | None
    bore_off: float | None


def in_pixels(picture: Picture, wheel: ToothCount) -> InPixels:
    """The diameters over the tips and the roots of its teeth, and of its bore."""
    fit = wheel.fit
    whole = np.setdiff1d(np.arange(wheel.teeth), np.array(wheel.doubtful, dtype=int) - 1)
    pitch = 2 * np.pi / wheel.teeth
    places = wheel.places[whole]
    tip = _edge(picture, wheel, places, fit.radius + 0.45 * fit.half, fit.radius + 1.7 * fit.half)
    root = _edge(picture, wheel, places + pitch / 2, fit.radius - 1.7 * fit.half, fit.radius - 0.45 * fit.half)
    return InPixels(tip, root, _bore(picture, wheel))


@dataclass(frozen=True)
class KnownLength:
    """A length of the wheel's plane that is known. mm, and pixels, None where it is not seen; off: px by which its ends
    may be off."""

    mm: float
    pixels: float | None
    off: float = _EDGE_OFF


def between(wheel: ToothCount, one: tuple[float, float], other: tuple[float, float], mm: float) -> KnownLength:
    """A known length between two points of the picture, px, which lies in the wheel's plane: of a ruler, a coin or
    another wheel beside it."""
    far = float(np.hypot(*(wheel.fit.plane.flat(*one) - wheel.fit.plane.flat(*other))))
    return KnownLength(mm, far if np.isfinite(far) and far >= _SHORTEST else None, _SHOWN_OFF)


def diameters(seen: InPixels, known: KnownLength) -> Diameters | None:
    """In mm, by a length that is known; None where that is not seen."""
    if known.pixels is None or seen.tip is None or seen.root is None:
        return None
    scale, share = known.mm / known.pixels, known.off / known.pixels

    def off(pixels: float) -> float:
        return float(scale * np.hypot(_EDGE_OFF, pixels * share))

    of_bore = seen.bore
    return Diameters(
        seen.tip * scale, off(seen.tip), seen.root * scale, off(seen.root),
        of_bore * scale if of_bore is not None else None, off(of_bore) if of_bore is not None else None,
    )  # fmt: skip


def openings(picture: Picture, wheel: ToothCount, seen: InPixels) -> int:
    """How many holes are in its web, or openings between spokes, all alike; 0 where none are seen."""
    inner = 0.6 * (seen.bore if seen.bore is not None else 0.3 * wheel.fit.radius) + 4
    radii = np.arange(inner, wheel.fit.radius - 2.2 * wheel.fit.half, 3.0)
    if len(radii) < 6:
        return 0
    rows, _ = unrolled(picture, wheel.fit.plane, radii, _ROUND)
    power = np.abs(np.fft.rfft(rows - rows.mean(1, keepdims=True), axis=1)) ** 2 / _ROUND**2
    # Where the most of it goes to and fro: a shadow does so once or twice only.
    best = power[np.argsort(-power[:, FEWEST_OPENINGS : _ROUND // 4].sum(1))[: max(3, len(radii) // 4)]].mean(0)
    whole = float(best[1 : _ROUND // 4].sum())
    n = FEWEST_OPENINGS + int(np.argmax(best[FEWEST_OPENINGS : MOST_OPENINGS + 1]))
    share = float(best[n : _ROUND // 4 : n].sum())
    return n if share > _OF_THE_WEB * whole and 4 * np.sqrt(share) > _CONTRAST else 0


def has_keyway(picture: Picture, wheel: ToothCount, seen: InPixels) -> bool:
    """Whether one keyway is seen in its bore: a part of the ring just outside of it that looks as the bore does."""
    if seen.bore is None or seen.bore < _LEAST_BORE:
        return False
    radius = seen.bore / 2
    parts = (np.linspace(0.6, 0.85, 8), np.linspace(1.07, 1.15, 6), np.linspace(1.25, 1.4, 8))
    inside, beside, outside = (unrolled(picture, wheel.fit.plane, radius * part, 360)[0].mean(0) for part in parts)
    empty, web = float(np.median(inside)), float(np.median(outside))
    if abs(empty - web) < _CONTRAST / 2:
        return False
    cut = np.abs(beside - empty) < 0.4 * abs(empty - web)
    begins = np.flatnonzero(cut & ~np.roll(cut, 1))
    runs = [int(np.argmin(np.roll(cut, -int(begin)))) for begin in begins if not cut.all()]
    return len(runs) == 1 and _KEYWAY[0] <= runs[0] <= _KEYWAY[1]


def _edge(picture: Picture, wheel: ToothCount, places: Array, first: float, last: float) -> float | None:
    """Twice the radius at which the brightness steps along the middles of teeth or gaps, px."""
    if len(places) < 6 or last - first < 4 * _STEP:
        return None
    radii = np.arange(max(first, 1.0), last, _STEP)
    around = 64 * wheel.teeth
    rows, _ = unrolled(picture, wheel.fit.plane, radii, around)
    cells = np.round(places * (around / (2 * np.pi))).astype(int)[:, None] + np.arange(-3, 4)[None, :]
    steep = np.abs(np.gradient(rows[:, cells % around].mean(2), axis=0))
    return 2 * _round(places, *_steps(radii, steep))


def _bore(picture: Picture, wheel: ToothCount) -> float | None:
    most = _BORE_MOST * (wheel.fit.radius - wheel.fit.half)
    radii = np.arange(4.0, most, _STEP)
    if len(radii) < 8:
        return None
    rows, _ = unrolled(picture, wheel.fit.plane, radii, 360)
    step = np.gradient(rows, axis=0)
    steep = np.abs(np.median(step, axis=1)) / _STEP
    if steep.max() < _CLEAR:
        return None
    # Where most of it steps; then, about there, at each angle by itself: its middle may be off a little.
    about = _peak(radii, steep)
    near = np.abs(radii - about) < max(4.0, 0.09 * about)
    way = np.sign(float(np.median(step[int(np.argmax(steep))])))
    angles = np.arange(360) * (2 * np.pi / 360)
    return 2 * _round(angles, *_steps(radii[near], np.maximum(way * step[near], 0)))


def _steps(radii: Array, steep: Array) -> tuple[Array, Array]:
    """At each angle (column) the radius at which it is steepest, and how steep."""
    return np.array([_peak(radii, column) for column in steep.T]), steep.max(0)


def _round(angles: Array, radii: Array, steep: Array) -> float:
    """The mean radius of an edge that goes to and fro round the ring, once and twice; what lies apart counts less."""
    base = np.stack([np.ones_like(angles), np.cos(angles), np.sin(angles), np.cos(2 * angles), np.sin(2 * angles)], 1)
    weight = np.minimum(steep / (np.median(steep) + 1e-9), 1)
    counts, terms = weight.copy(), np.zeros(5)
    hold = np.diag([1e-9, 1.0, 1, 1, 1]) * 0.02 * max(float(weight.sum()), 1e-9)
    terms[0] = float(np.median(radii))
    for _ in range(8):
        rest = radii - base @ terms
        usual = np.median(np.abs(rest)) + 0.2
        counts = weight * np.exp(-((rest / (2.5 * usual)) ** 2))
        terms = terms + np.linalg.solve(base.T @ (base * counts[:, None]) + hold, base.T @ (counts * rest))
    return float(terms[0])


def _peak(at: Array, height: Array) -> float:
    """Where the height is greatest, between the points that it is known at."""
    best = int(np.argmax(height))
    if not 0 < best < len(at) - 1:
        return float(at[best])
    before, here, behind = (float(h) for h in height[best - 1 : best + 2])
    bend = before - 2 * here + behind
    return float(at[best] + (0.5 * (before - behind) / bend if bend < 0 else 0.0) * (at[1] - at[0]))
