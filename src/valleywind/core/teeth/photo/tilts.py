"""Rings of a wheel that is seen at a tilt: looked for in one unrolled picture, whatever the tilt.

Seen at a tilt a ring is an ellipse, nearer on one side than on the other. Along it the teeth come closer together
where it is nearer to the middle: as the square of that distance, since equal parts of it have equal areas.
"""

from collections.abc import Iterator

import numpy as np

from valleywind.core.interrupt import checkpoint
from valleywind.core.teeth.photo.plane import Plane, tilted, unrolled
from valleywind.core.teeth.photo.rings import FEWEST_PIXELS, Ring, even_edges, even_light
from valleywind.core.teeth.photo.smooth import Array, Picture

_AROUND, _PARTS, _APART = 1024, 16, 6
_LONG = _AROUND // _APART
_STEP, _FIRST = 3.0, 60.0
_FEWEST = 4
# How wide the wheel is seen in the direction in which it is tilted, and by how much one side is nearer.
_ACROSS, _WAYS = (0.97, 0.94, 0.91, 0.88), 8
_NEARER = (-0.18, 0.0, 0.18)
"""Of the sine of the tilt: at a distance of some five radii."""
_MOST = 3
"""Rings of each tilt."""


def tilted_rings(picture: Picture, centre: Array) -> Iterator[Ring]:
    """Rings of wheels about this middle that are seen at a tilt, those of each tilt that stand out most."""
    high, wide = picture.shape
    x, y = centre
    most = min(0.6 * max(high, wide), max(x, wide - x, y, high - y))
    radii = np.arange(_FIRST, most, _STEP)
    if len(radii) < 8:
        return
    rows, there = unrolled(picture, Plane(np.asarray(centre, dtype=np.float64)), radii, _AROUND)
    beside = _AROUND / 10
    shares = _shares(even_light(rows, there, beside, beside), there)
    shares = shares + 1.3 * _shares(even_edges(rows, there, beside), there)
    teeth = np.arange(_FEWEST, shares.shape[2] - 8)
    room = 2 * np.pi * radii[:, None] / (_APART * teeth)[None, :]
    distance = float(radii[-1])
    for plane, worth in _worths(shares, radii, teeth, centre):
        checkpoint()
        worth[room < FEWEST_PIXELS] = 0
        for _ in range(_MOST):
            row, column = np.unravel_index(int(np.argmax(worth)), worth.shape)
            if worth[row, column] <= 0.03:
                break
            nearer = plane.perspective * (distance / radii[row])
            lies = Plane(plane.centre, plane.stretch, nearer)
            yield Ring(lies, float(radii[row]), _APART * int(teeth[column]), float(worth[row, column]))
            worth[max(0, int(row) - 8) : int(row) + 9, max(0, int(column) - 2) : int(column) + 3] = 0


def _worths(shares: Picture, radii: Array, teeth: Array, centre: Array) -> Iterator[tuple[Plane, Array]]:
    """Each tilt that is tried, and by radius and teeth how much of the pattern stands along its ellipse. Perspective
    is as it is at the largest radius from the middle."""
    angles = (np.arange(_PARTS) + 0.5 * _PARTS / _APART) * (2 * np.pi / _PARTS)
    distance = float(radii[-1])
    for across in _ACROSS:
        sine = np.sqrt(1 - across * across)
        for n in range(_WAYS):
            along = n * np.pi / _WAYS
            flat = tilted(centre, across, along)
            # The angle in the plane of what is seen at each of these angles, and how far it lies for each px.
            back = np.linalg.inv(flat.stretch) @ np.stack([np.cos(angles), np.sin(angles)])
            longer = 1 / np.hypot(back[0], back[1])
            column = np.clip(np.round(teeth * (longer**2)[:, None]).astype(int), 0, shares.shape[2] - 1)
            of_part = [shares[:, part, :].take(column[part], axis=1) for part in range(_PARTS)]
            for nearer in _NEARER:
                side = np.array([np.cos(along), np.sin(along)]) * (nearer * sine / distance)
                scale = longer / (1 + distance * (side @ (back * longer)))
                yield Plane(flat.centre, flat.stretch, side), _along(of_part, radii, scale)


def _along(of_part: list[Picture], radii: Array, scale: Array) -> Array:
    """The mean of what each part shows at its own scale of the radius."""
    worth = np.zeros_like(of_part[0])
    for shown, larger in zip(of_part, scale, strict=True):
        row = np.round((radii * larger - radii[0]) / _STEP).astype(int)
        inside = (row >= 0) & (row < len(radii))
        worth[inside] += shown[row[inside]]
    return worth / len(of_part)


def _shares(rows: Picture, there: Array) -> Picture:
    """By ring, part and pattern: the share of what is seen that is of this pattern, beside those about it."""
    step = _AROUND // _PARTS
    at = (np.arange(0, _AROUND, step)[:, None] + np.arange(_LONG)[None, :]) % _AROUND
    power = np.abs(np.fft.rfft(rows[:, at] * np.hanning(_LONG).astype(np.float32), axis=-1)).astype(np.float32) ** 2
    share = power / (power[:, :, 2:].sum(-1, keepdims=True) + 1e-9)
    three = share.copy()
    three[:, :, 1:-1] = share[:, :, :-2] + share[:, :, 1:-1] + share[:, :, 2:]
    beside = (np.roll(three, 4, 2) + np.roll(three, -4, 2)) / 2
    out: Picture = (three - beside) * (there.reshape(len(rows), _PARTS, -1).mean(-1) > 0.8)[:, :, None]
    return out
