"""The plane and the count in which the teeth of a ring come evenly.

A middle that is off shifts the teeth once to and fro round the ring, a wrong tilt twice; a count that is off by one
shifts them by a whole tooth. So the count in which all of them agree is the right one, and by how much the next one
agrees less is how sure it is.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from valleywind.core.interrupt import checkpoint
from valleywind.core.teeth.photo.plane import Plane
from valleywind.core.teeth.photo.rings import Ring
from valleywind.core.teeth.photo.smooth import Array, Picture
from valleywind.core.teeth.photo.toothness import Band, Toothness, band, centred, toothness

_COARSE = 64
_SECTORS = 16
_SPAN = 3
"""Counts to either side of a ring's that are tried."""
FEWEST = 8
# What a shift takes off the worth of a count, for each radian of it; and for each px beyond the first few that the
# middle moves.
_SHIFTED, _FREE, _MOVED = 0.02, 4.0, 0.008
# A count that is worth this is the best one; only the next is tried beside it.
_CLEAR = 0.92
# Few teeth agree by chance, so that all of them have to be seen; of many a part is enough.
_ALL_OF, _LEAST_COVER = 30.0, 0.35
# Teeth that are fitted to the last agree as well as this; else the plane that was found is a better one to begin with.
_AGAIN, _FITTED = 0.7, 0.985
# What agrees no better than this when it is fitted half will not come to anything.
_BY_THEN, _HOPELESS = 2, 0.45
# Parts of the pitch by which a finger may miss a tooth.
_NEAR_TOOTH = 0.3
Point = tuple[float, float]
_ANGLES = np.arange(_COARSE) * (2 * np.pi / _COARSE)


def _waves(angles: Array) -> Array:
    return np.stack([np.cos(angles), np.sin(angles), np.cos(2 * angles), np.sin(2 * angles)])


def _grid() -> tuple[Array, Array, Array]:
    """Shifts once and twice to and fro (rows), what each undoes, and what it takes off."""
    once, twice = np.linspace(-3.2, 3.2, 13), np.linspace(-2.1, 2.1, 7)
    shifts = np.stack([g.ravel() for g in np.meshgrid(once, once, twice, twice, indexing="ij")], axis=1)
    large_once, large_twice = np.hypot(shifts[:, 0], shifts[:, 1]), np.hypot(shifts[:, 2], shifts[:, 3])
    kept = (large_once <= 3.3) & (large_twice <= 2.2)
    undo = np.exp(-1j * (shifts[kept] @ _waves(_ANGLES))).astype(np.complex64)
    return shifts[kept], undo, _SHIFTED * (large_once + large_twice)[kept]


_SHIFTS, _UNDO, _TAKEN = _grid()


@dataclass(frozen=True)
class Guess:
    """A count with the shifts that its teeth show. worth: how well they agree then, less what the shifts take off."""

    worth: float
    teeth: int
    shifts: Array


@dataclass(frozen=True)
class Fit:
    """teeth; radius of their middle, px; half: half their depth, px. agreement: of all teeth that are seen; cover: in
    what share of the ring teeth are seen. worth: how good it is; next_worth: of the best other count; shown: how the
    teeth stand."""

    teeth: int
    plane: Plane
    radius: float
    half: float
    agreement: float
    cover: float
    worth: float
    shown: Toothness = field(repr=False)
    next_worth: float = 0.0
    next_teeth: int = 0


def guesses(picture: Picture, ring: Ring) -> list[Guess]:
    """The counts that a ring may have, the best first."""
    around = _around(ring.teeth)
    shown = toothness(band(picture, ring.plane, ring.radius, ring.teeth, around), ring.radius)
    wave = shown.wave.reshape(_COARSE, -1).mean(1).astype(np.complex64)
    sure = max(float(shown.sure.mean()) * _COARSE, 1e-6)
    tries = []
    spans = [more for more in range(-_SPAN, _SPAN + 1) if ring.teeth + more >= FEWEST]
    turned = wave[:, None] * np.exp(-1j * np.outer(_ANGLES, spans)).astype(np.complex64)
    worths = np.abs(_UNDO @ turned) / sure - _TAKEN[:, None]
    for more, worth in zip(spans, worths.T, strict=True):
        for _ in range(2):
            best = int(np.argmax(worth))
            tries.append(Guess(float(worth[best]), ring.teeth + more, _SHIFTS[best]))
            worth = np.where(((_SHIFTS - _SHIFTS[best]) ** 2).sum(1) < 1.5, -1, worth)
    return sorted(tries, key=lambda guess: -guess.worth)


def _around(teeth: int) -> int:
    return 512 if teeth <= 40 else 1024 if teeth <= 80 else 2048


def evened(picture: Picture, ring: Ring) -> Ring:
    """The ring with the radius about which its teeth lie."""
    return replace(ring, radius=centred(picture, ring.plane, ring.radius, ring.teeth, min(1024, _around(ring.teeth))))


def fitted(picture: Picture, ring: Ring, some: Sequence[Guess], tooth: Point | None = None) -> Fit:
    """The best of these guesses, fitted, with the best of another count beside it. tooth: where one is seen to be, px;
    what has none there is worth nothing."""
    return _with_the_next([_at_tooth(fit, tooth) for fit in _every(picture, ring, some)])


def _at_tooth(fit: Fit, tooth: Point | None) -> Fit:
    if tooth is None:
        return fit
    right, down = fit.plane.flat(*tooth)
    # In parts of the pitch, how far the nearest tooth stands from there.
    turned = fit.teeth * np.arctan2(down, right) + np.angle(fit.shown.wave.sum())
    away = abs(float(np.angle(np.exp(1j * turned)))) / (2 * np.pi)
    return fit if away < _NEAR_TOOTH else replace(fit, worth=0.0)


def _with_the_next(fits: Sequence[Fit]) -> Fit:
    best = max(fits, key=lambda fit: fit.worth)
    other = max((fit for fit in fits if fit.teeth != best.teeth), key=lambda fit: fit.worth, default=None)
    return replace(best, next_worth=other.worth, next_teeth=other.teeth) if other else best


def _every(picture: Picture, ring: Ring, some: Sequence[Guess]) -> list[Fit]:
    """These guesses, fitted, as far as that is worth while, and what is beside the best of them."""
    fits = [_fit(picture, ring, some[0])]
    others = [guess for guess in some if guess.teeth != some[0].teeth]
    fits += [_fit(picture, ring, guess) for guess in others[:1]]
    if _HOPELESS < max(fit.worth for fit in fits) < _CLEAR:
        done = (some[0], *others[:1])
        fits += [_fit(picture, ring, guess) for guess in some if not any(guess is one for one in done)]
    best = max(fits, key=lambda fit: fit.worth)
    for _ in range(2):
        if not (best.worth > _AGAIN and best.agreement < _FITTED):
            break
        before, fits = best, fits + _beside(picture, best)
        best = max(fits, key=lambda fit: fit.worth)
        if best is before:
            break
    return fits


def _beside(picture: Picture, fit: Fit) -> list[Fit]:
    """The counts next to this one, and this one anew, fitted from its plane on: so a tooth comes back that was lost
    where few are seen."""
    ring = Ring(fit.plane, fit.radius, fit.teeth, fit.worth)
    best: dict[int, Guess] = {}
    for guess in guesses(picture, ring):
        best.setdefault(guess.teeth, guess)
    return [_fit(picture, ring, best[n]) for n in range(fit.teeth - 2, fit.teeth + 3) if n in best]


def _fit(picture: Picture, ring: Ring, guess: Guess) -> Fit:
    teeth, radius, around = guess.teeth, ring.radius, _around(guess.teeth)
    error = -guess.shifts / teeth
    plane = ring.plane.moved(np.array([-error[1], error[0]]) * radius, np.array([-2 * error[3], 2 * error[2]]))
    for turn in range(5):
        checkpoint()
        of = band(picture, plane, radius, teeth, around)
        shown = toothness(of, radius)
        if turn == _BY_THEN and _agree(shown, teeth) < _HOPELESS:
            break
        plane, radius = _better(of, shown, plane, radius, teeth, 0.5 if turn < 3 else 0.8)
    else:
        of = band(picture, plane, radius, teeth, 2048)
        shown = toothness(of, radius)
    away = float(np.hypot(*(plane.centre - ring.plane.centre)))
    worth = _agree(shown, teeth) - _MOVED * max(0.0, away - _FREE)
    return Fit(teeth, plane, radius, of.half, shown.agreement, shown.cover, worth, shown)


def _agree(shown: Toothness, teeth: int) -> float:
    """How well the teeth agree, less where few of them are seen."""
    enough = float(np.clip(_ALL_OF / teeth, _LEAST_COVER, 1))
    return float(shown.agreement * np.sqrt(min(shown.cover / enough, 1)))


def _better(of: Band, shown: Toothness, plane: Plane, radius: float, teeth: int, trust: float) -> tuple[Plane, float]:
    """Plane and radius in which the teeth come more evenly. trust: in what the angles say of the tilt, against what
    the radii say."""
    error = -_phases(shown) / teeth
    mean, once_x, once_y, twice_x, twice_y = _radii(of)
    shift = np.array([-error[1], error[0]]) * radius
    by_angle = np.array([-2 * error[3], 2 * error[2]])
    by_radius = np.array([twice_x, twice_y]) * (2.8 / radius)
    # What is off once to and fro in the radius alone is perspective.
    perspective = (shift - 1.4 * np.array([once_x, once_y])) / radius**2
    moved = plane.moved(shift, trust * by_angle + (1 - trust) * by_radius, 0.7 * perspective)
    bound = 0.25 / radius
    moved = Plane(moved.centre, moved.stretch, np.clip(moved.perspective, -bound, bound))
    return moved, radius + 0.8 * float(np.clip(mean - of.radii.mean(), -of.half, of.half))


def _phases(shown: Toothness) -> Array:
    """How the phase goes to and fro round the ring, once and twice, radians: what lies far off counts less."""
    angles = np.arange(len(shown.wave)) * (2 * np.pi / len(shown.wave))
    base = np.concatenate([np.ones((1, len(angles))), _waves(angles)]).T
    terms = np.zeros(5)
    terms[0] = np.angle(shown.wave.sum())
    hold = np.diag([1e-6, 1.0, 1, 1, 1]) * len(angles) * 0.004
    for _ in range(15):
        rest = np.angle(shown.wave * np.exp(-1j * (base @ terms)) + 1e-15)
        weight = shown.sure * np.exp(-((rest / 1.3) ** 2))
        step = np.linalg.solve(base.T @ (base * weight[:, None]) + hold, base.T @ (weight * rest))
        terms = terms + step
        if np.abs(step).max() < 1e-3:
            break
    return terms[1:]


def _radii(of: Band) -> Array:
    """Where the teeth lie, px: their mean radius, and how it goes to and fro round the ring, once and twice."""
    strength = of.strength.reshape(len(of.radii), _SECTORS, -1).mean(-1)
    lies = (strength * of.radii[:, None]).sum(0) / np.maximum(strength.sum(0), 1e-9)
    most = strength.max(0)
    weight = np.minimum(most / (np.median(most) + 1e-9), 1)
    angles = (np.arange(_SECTORS) + 0.5) * (2 * np.pi / _SECTORS)
    base = np.concatenate([np.ones((1, _SECTORS)), _waves(angles)]).T
    counts, terms = weight.copy(), np.zeros(5)
    for _ in range(4):
        terms = np.linalg.solve(base.T @ (base * counts[:, None]) + 1e-6 * np.eye(5), base.T @ (counts * lies))
        rest = lies - base @ terms
        usual = np.median(np.abs(rest)) + 0.3
        counts = weight * np.exp(-((rest / (3 * usual)) ** 2))
    return terms
