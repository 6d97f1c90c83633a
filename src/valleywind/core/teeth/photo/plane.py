"""The plane of a wheel's face in a picture: where a point of it, by radius and angle, is seen.

A circle that is seen at a tilt is an ellipse, and with perspective its middle is not the middle that is seen:
x = c + r A u/(1 + r p·u), with u towards the angle. A has determinant 1, so that r is in pixels.
"""

from dataclasses import dataclass, field

import numpy as np

from valleywind.core.teeth.photo.smooth import Array, Picture


@dataclass(frozen=True)
class Plane:
    """centre: px, right and down; stretch: A, two by two; perspective: p, 1/px. Angles run clockwise as they are seen,
    from the right."""

    centre: Array
    stretch: Array = field(default_factory=lambda: np.eye(2))
    perspective: Array = field(default_factory=lambda: np.zeros(2))

    def seen(self, radius: Array, angle: Array) -> tuple[Array, Array]:
        """Where points of the plane are seen, px; radius and angle of one shape, or such that they go together."""
        u, v = np.cos(angle), np.sin(angle)
        depth = 1 + radius * (self.perspective[0] * u + self.perspective[1] * v)
        along = radius / depth
        x = self.centre[0] + along * (self.stretch[0, 0] * u + self.stretch[0, 1] * v)
        y = self.centre[1] + along * (self.stretch[1, 0] * u + self.stretch[1, 1] * v)
        return x, y

    def flat(self, x: float, y: float) -> Array:
        """The point of the plane that is seen there: right and down of the middle, px of the plane."""
        way = np.linalg.inv(self.stretch) @ (np.array([x, y]) - self.centre)
        point: Array = way / (1 - float(self.perspective @ way))
        return point

    def moved(self, shift: Array, squeeze: Array, perspective: Array | None = None) -> "Plane":
        """The plane with its middle elsewhere, px; stretched by `squeeze`: q cos 2φ and q sin 2φ of a stretch of q
        along φ; and with more perspective."""
        c, s = squeeze[0] / 2, squeeze[1] / 2
        stretch = self.stretch @ (np.eye(2) + np.array([[c, s], [s, -c]]))
        more = np.zeros(2) if perspective is None else perspective
        size = np.sqrt(abs(np.linalg.det(stretch)))
        return Plane(self.centre + shift, stretch / size, self.perspective + more)


def tilted(centre: Array, across: float, along: float) -> Plane:
    """A plane that is seen `across` times as wide in the direction `along`, radians, as square to it."""
    c, s = np.cos(along), np.sin(along)
    turn = np.array([[c, -s], [s, c]])
    stretch = turn @ np.diag([across, 1.0]) @ turn.T
    return Plane(np.array(centre, dtype=np.float64), stretch / np.sqrt(across))


def unrolled(picture: Picture, plane: Plane, radii: Array, around: int) -> tuple[Picture, Array]:
    """The rings of these radii as rows of this many points; and which points lie in the picture."""
    angle = np.arange(around) * (2 * np.pi / around)
    x, y = plane.seen(np.asarray(radii, dtype=np.float64)[:, None], angle[None, :])
    high, wide = picture.shape
    x, y = x.astype(np.float32), y.astype(np.float32)
    there = (x >= 0) & (y >= 0) & (x < wide - 1) & (y < high - 1)
    if not there.all():
        x, y = np.clip(x, 0, wide - 1.001), np.clip(y, 0, high - 1.001)
    left, top = x.astype(np.int32), y.astype(np.int32)
    x -= left
    y -= top
    flat, at = picture.ravel(), top * np.int32(wide) + left
    upper = _between(flat.take(at), flat[1:].take(at), x)
    lower = _between(flat[wide:].take(at), flat[wide + 1 :].take(at), x)
    return _between(upper, lower, y), there


def _between(one: Picture, other: Picture, part: Picture) -> Picture:
    """So far from one to the other, which is overwritten: that is quicker."""
    other -= one
    other *= part
    other += one
    return other
