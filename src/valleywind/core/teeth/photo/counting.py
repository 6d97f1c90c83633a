"""The wheels of a picture, counted: how many teeth, how sure that is, and which teeth are doubtful."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from valleywind.core.interrupt import checkpoint
from valleywind.core.teeth.photo.chain import is_chain_wheel
from valleywind.core.teeth.photo.fit import FEWEST, Fit, Point, evened, fitted, guesses
from valleywind.core.teeth.photo.middles import Middle, middles
from valleywind.core.teeth.photo.plane import Plane, unrolled
from valleywind.core.teeth.photo.rings import FEWEST_PIXELS, Ring, rings
from valleywind.core.teeth.photo.smooth import Array, Picture, blurred
from valleywind.core.teeth.photo.tilts import tilted_rings

MOST_WHEELS = 6
_MIDDLES = 7
# Tilts are tried about the second middle too where it has this share of the votes of the first.
_AS_MANY = 0.95
# How many tilts are tried under which a ring has nearly the same radius, px, and count.
_ALIKE, _OF_A_KIND = 10, 3
# Rings of a wheel that is tilted stand out by more than this, whatever else is in a picture by less.
_STANDS_OUT = 0.4
# What is worth this is a wheel; what is worth that is one without a doubt, this much before the next count.
_WHEEL, _SURE, _BEFORE = 0.72, 0.86, 0.045
# Fewer teeth than this agree by chance now and then.
_MANY = 40
# Teeth of the right count agree so well.
_AGREED = 0.92
_SURE_BY_ITSELF = 0.95
# Brightness for a px by which the outer edge of an internal gear steps, all the way round.
_RIM_OUTSIDE = 0.012
# Parts of the distance at which a person shows the rim; the teeth's middle lies between.
_NEAR_RIM = (0.72, 1.08)
# px of the rim for a tooth, below which teeth are small; in what share of the ring teeth stand out that are clear; how
# steep the sharpest edges of a sharp picture are, for a px, beside all of its contrast.
_FINE, _FAINT, _SHARP = 8.0, 0.6, 0.07
# What is seen of a half or a third of the count, beside the whole count and beside what is about it.
_PART, _ABOVE = 0.6, 4.0
# A middle with fewer votes than this part of the best one's is no wheel's.
_FEW_VOTES = 0.42
# By chance few teeth agree sooner than many.
_CHANCE, _RINGS_CHANCE = 2.2, 2.8
# Teeth that agree no better than this before they are fitted are none.
_LIKELY = 0.32
# How many rings about a middle are tried.
_TRIED = 4
_SEEN = 0.6


class Why(StrEnum):
    """Why nothing can be said, or nothing for sure."""

    NO_WHEEL = "no_wheel"
    DRAWN = "drawn"
    PLAIN = "plain"
    SMALL = "small"
    OVERLAP = "overlap"
    INTERNAL = "internal"
    CHAIN = "chain"
    BLURRED = "blurred"
    HIDDEN = "hidden"
    FINE = "fine"
    FAINT = "faint"
    UNSURE = "unsure"


@dataclass(frozen=True)
class ToothCount:
    """A wheel of a picture. certainty: from 0 to 1; sure: whether the count may be relied on; seen: the share of teeth
    that are seen; places: the angle of each tooth in its plane, radians, clockwise from the first right of the top;
    doubtful: numbers of teeth, from 1, that are worn, broken, hidden or not there."""

    teeth: int
    sure: bool
    certainty: float
    fit: Fit = field(repr=False)
    places: Array = field(repr=False)
    doubtful: tuple[int, ...]
    seen: float

    @property
    def centre(self) -> tuple[float, float]:
        """px, right and down."""
        return float(self.fit.plane.centre[0]), float(self.fit.plane.centre[1])


@dataclass(frozen=True)
class Count:
    """wheels: those that are counted, from left to right; why: where there is none, or none for sure."""

    wheels: tuple[ToothCount, ...]
    why: Why | None = None


@dataclass(frozen=True)
class WheelPoints:
    """What a person shows of a wheel, px. middle; rim: how far from there its teeth end, and tooth: where one of them
    is, None where that is not shown."""

    middle: Point
    rim: float | None = None
    tooth: Point | None = None


def count(picture: Picture, shown: WheelPoints | None = None) -> Count:
    """Count the wheels of a picture; the one that a person shows, if any."""
    if min(picture.shape) < 80:
        return Count((), Why.SMALL)
    if _flat(picture):
        return Count((), Why.DRAWN)
    if float(np.quantile(picture, 0.99) - np.quantile(picture, 0.01)) < 0.02:
        return Count((), Why.PLAIN)
    soft = blurred(picture, 3)
    fits = _fits(soft, [Middle(*shown.middle, 99.0)] if shown else middles(soft, _MIDDLES), shown)
    right = [one for fit in fits if (one := _righted(soft, fit)) is not None]
    kept = [fit for fit in right if _is_wheel(fit)]
    if not kept:
        return Count((), Why.BLURRED if _blurred(picture) else Why.NO_WHEEL)
    if _overlapping(right):
        return Count((), Why.OVERLAP)
    if any(_inside_out(soft, fit) for fit in kept):
        return Count((), Why.INTERNAL)
    chain = [is_chain_wheel(soft, fit) for fit in kept]
    # One that a person shows is counted all the same, but never for sure.
    counted = [_counted(soft, fit, not narrow) for fit, narrow in zip(kept, chain, strict=True) if shown or not narrow]
    wheels = sorted(counted, key=lambda wheel: wheel.centre)
    if any(chain):
        return Count(tuple(wheels), Why.CHAIN)
    return Count(tuple(wheels), next((_why_not(wheel) for wheel in wheels if not wheel.sure), None))


def _why_not(wheel: ToothCount) -> Why:
    """What keeps a count from being sure."""
    if wheel.seen < _SEEN:
        return Why.HIDDEN
    if 2 * np.pi * wheel.fit.radius / wheel.teeth < _FINE:
        return Why.FINE
    return Why.FAINT if wheel.fit.cover < _FAINT else Why.UNSURE


def _blurred(picture: Picture) -> bool:
    """Whether even its sharpest edges are wide."""
    steep = np.hypot(*np.gradient(blurred(picture, 3)))
    spread = float(np.quantile(picture, 0.98) - np.quantile(picture, 0.02))
    return float(np.quantile(steep, 0.998)) < _SHARP * spread


def _flat(picture: Picture) -> bool:
    """Drawn: most of it has just the brightness of what is beside it, which no camera sees."""
    return float((np.abs(np.diff(picture, axis=1)) < 1e-4).mean()) > 0.75


def _fits(picture: Picture, some: list[Middle], shown: WheelPoints | None) -> list[Fit]:
    """The wheels about these middles: square to them first; where no wheel is clear, at a tilt about the first ones."""
    rim, tooth = (shown.rim, shown.tooth) if shown else (None, None)
    fits: list[Fit] = []
    for middle in some:
        checkpoint()
        if fits and middle.votes < _FEW_VOTES * some[0].votes:
            break
        if any(_within(middle, fit) for fit in fits):
            continue
        square = _within_rim(rings(picture, Plane(np.array([middle.x, middle.y]))), rim)
        fit = _best_of(picture, square, _TRIED, 2, tooth)
        if fit is not None and fit.worth >= _WHEEL and len(fits) < MOST_WHEELS:
            fits.append(fit)
    if any(_clear(fit) for fit in fits):
        return fits
    tilted = [_about(picture, middle, rim, tooth) for middle in some[:2] if middle.votes >= _AS_MANY * some[0].votes]
    for other in tilted:
        if other is None or not _is_wheel(other):
            continue
        there = [fit for fit in fits if np.hypot(*(fit.plane.centre - other.plane.centre)) < fit.radius]
        if all(other.worth > fit.worth for fit in there):
            fits = [fit for fit in fits if not any(fit is one for one in there)] + [other]
    return fits


def _within(middle: Middle, fit: Fit) -> bool:
    return float(np.hypot(*(fit.plane.centre - (middle.x, middle.y)))) < fit.radius + fit.half


def _within_rim(some: Iterable[Ring], rim: float | None) -> list[Ring]:
    return [ring for ring in some if rim is None or _NEAR_RIM[0] * rim < ring.radius < _NEAR_RIM[1] * rim]


def _about(picture: Picture, middle: Middle, rim: float | None, tooth: Point | None) -> Fit | None:
    """The best wheel about this middle that is seen at a tilt."""
    likely: list[Ring] = []
    for ring in sorted(_within_rim(tilted_rings(picture, np.array([middle.x, middle.y])), rim), key=_chance):
        if -_chance(ring) < _STANDS_OUT:
            break
        alike = sum(abs(ring.radius - one.radius) < _ALIKE and abs(ring.teeth - one.teeth) < _ALIKE for one in likely)
        if alike < _OF_A_KIND:
            likely.append(ring)
        if len(likely) == 2 * _TRIED:
            break
    return _best_of(picture, likely, 2 * _TRIED, 3, tooth)


def _chance(ring: Ring) -> float:
    """Least for the ring that is least likely to stand out by chance."""
    return float(_RINGS_CHANCE / np.sqrt(ring.teeth)) - ring.worth


def _best_of(picture: Picture, some: Sequence[Ring], tried: int, most: int, tooth: Point | None) -> Fit | None:
    """The best fit of the rings whose teeth agree best. tried: how many rings are looked at; most: how many are
    fitted; tooth: where one is."""
    likely = []
    for ring in sorted(some, key=_chance)[:tried]:
        checkpoint()
        even = evened(picture, ring)
        if even.radius > 0 and 2 * np.pi * even.radius / even.teeth >= FEWEST_PIXELS:
            near = guesses(picture, even)
            worth = near[0].worth - _CHANCE / np.sqrt(even.teeth)
            if worth >= _LIKELY:
                likely.append((worth, even, near))
    fits: list[Fit] = []
    for _, ring, near in sorted(likely, key=lambda one: -one[0])[:most]:
        fits.append(fitted(picture, ring, near[:5], tooth))
        if fits[-1].worth >= _SURE:
            break
    return max(fits, key=lambda fit: fit.worth - _CHANCE / np.sqrt(fit.teeth), default=None)


def _clear(fit: Fit) -> bool:
    """Whether its teeth agree as those of the right count do."""
    return fit.worth >= _SURE and fit.agreement >= _AGREED


def _is_wheel(fit: Fit) -> bool:
    return fit.worth >= (_WHEEL if fit.teeth >= _MANY else _SURE)


def _overlapping(fits: list[Fit]) -> bool:
    """Whether the rims of two cross; one within another is a ring of the same wheel."""
    return any(
        abs(one.radius - other.radius)
        < np.hypot(*(one.plane.centre - other.plane.centre))
        < one.radius + other.radius - one.half - other.half
        for n, one in enumerate(fits)
        for other in fits[:n]
    )


def _righted(picture: Picture, fit: Fit) -> Fit | None:
    """The fit; where a half or a third of what is counted is really there, the fit of that, and None where those are no
    teeth, such as holes in a circle, each seen by several edges."""
    rows, _ = unrolled(picture, fit.plane, fit.radius + fit.half * np.linspace(-0.6, 0.6, 7), 2048)
    waves = np.abs(np.fft.rfft(rows - rows.mean(1, keepdims=True), axis=1)).mean(0)
    for part in (2, 3):
        n = fit.teeth // part
        if fit.teeth % part or n < FEWEST:
            continue
        beside = np.median(np.concatenate([waves[n - 4 : n - 1], waves[n + 2 : n + 5]]))
        if waves[n] > _PART * waves[fit.teeth] and waves[n] > _ABOVE * beside:
            ring = evened(picture, Ring(fit.plane, fit.radius, n, fit.worth))
            fewer = fitted(picture, ring, guesses(picture, ring)[:5])
            return fewer if _clear(fewer) else None
    return fit


def _inside_out(picture: Picture, fit: Fit) -> bool:
    """An internal gear: a ring, with nothing inside of its teeth, whose outer edge goes round them."""
    inner = np.arange(6.0, fit.radius - 2 * fit.half, 1.0)
    outer = np.arange(fit.radius + 2 * fit.half, 1.6 * fit.radius, 1.0)
    if len(inner) < 20 or len(outer) < 10:
        return False

    def steps(radii: Array) -> float:
        rows, there = unrolled(picture, fit.plane, radii, 180)
        if there.mean() < 0.8:
            return 0.0
        return float(np.abs(np.median(np.gradient(rows, axis=0), axis=1)).max())

    return steps(outer) > max(_RIM_OUTSIDE, 5 * steps(inner))


def _counted(picture: Picture, fit: Fit, may_be_sure: bool) -> ToothCount:
    angles = np.arange(len(fit.shown.wave)) * (2 * np.pi / len(fit.shown.wave))
    phase = float(np.angle(fit.shown.wave.sum()))
    first = -phase / fit.teeth
    pitch = 2 * np.pi / fit.teeth
    # From the top on, clockwise as it is seen.
    top = -np.pi / 2
    first += np.ceil((top - first) / pitch) * pitch
    places = first + pitch * np.arange(fit.teeth)
    doubtful = _doubtful(picture, fit, places, angles)
    seen = 1 - len(doubtful) / fit.teeth
    quarters = [np.mean([n + 1 not in doubtful for n in part]) for part in np.array_split(np.arange(fit.teeth), 4)]
    margin = fit.worth - fit.next_worth
    enough = seen >= _SEEN and min(quarters) > 0.15
    sure = may_be_sure and enough and _clear(fit) and (margin >= _BEFORE or fit.worth >= _SURE_BY_ITSELF)
    certainty = min(fit.worth, 0.5 + 2.5 * margin) * min(1.0, seen / _SEEN)
    certainty = float(np.clip(certainty, _SURE_BY_ITSELF, 0.99) if sure else np.clip(certainty, 0, 0.9))
    return ToothCount(fit.teeth, bool(sure), round(certainty, 2), fit, places, doubtful, float(seen))


def _doubtful(picture: Picture, fit: Fit, places: Array, angles: Array) -> tuple[int, ...]:
    """Teeth where none is seen, or one that does not stand out as those beside it do."""
    at = np.round(places / (angles[1] - angles[0])).astype(int) % len(angles)
    rest = np.angle(fit.shown.wave[at] * np.exp(-1j * np.angle(fit.shown.wave.sum())))
    lost = (fit.shown.sure[at] < 0.2) | (np.abs(rest) > np.pi / 2)
    around = 16 * fit.teeth
    upper, _ = unrolled(picture, fit.plane, fit.radius + fit.half * np.array([0.1, 0.3, 0.5, 0.7]), around)
    light = upper.mean(0)

    def level(angle: Array) -> Array:
        cells = np.round(angle[:, None] * (around / (2 * np.pi))).astype(int) + np.arange(-2, 3)[None, :]
        mean: Array = light[cells % around].mean(1)
        return mean

    pitch = 2 * np.pi / fit.teeth
    teeth, gaps = level(places), level(places + pitch / 2)
    out = teeth - (gaps + np.roll(gaps, 1)) / 2
    usual = np.array([np.median(np.take(out, range(n - 4, n + 5), mode="wrap")) for n in range(fit.teeth)])
    weak = (np.abs(usual) > 0.025) & (out * np.sign(usual) < 0.3 * np.abs(usual))
    return tuple(int(n) + 1 for n in np.flatnonzero(lost | weak))
