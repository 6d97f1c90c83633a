"""Chain wheels, told from gear wheels by their teeth.

At half its depth a gear's tooth is as wide as the gap beside it. A chain wheel's gap takes a roller of about five
eighths of the pitch (ISO 606, 06B to 16B: 0.62 to 0.67), so that its teeth are much narrower than its gaps.
"""

import numpy as np

from valleywind.core.teeth.photo.fit import Fit
from valleywind.core.teeth.photo.plane import unrolled
from valleywind.core.teeth.photo.rings import even_edges
from valleywind.core.teeth.photo.smooth import Picture

_FOR_A_TOOTH, _RINGS, _DEPTH = 24, 19, 0.9
# Edges that crowd about the middle of the tooth, for those that lie evenly about tooth and gap: about nought for a
# gear, about one for a chain wheel. And how strong they are where anything can be said.
_CROWDED, _LEAST = 0.5, 0.06


def is_chain_wheel(picture: Picture, fit: Fit) -> bool:
    """Whether its teeth are as narrow as those of a chain wheel; False where that is not seen."""
    around = _FOR_A_TOOTH * fit.teeth
    radii = fit.radius + fit.half * np.linspace(-_DEPTH, _DEPTH, _RINGS)
    rows, there = unrolled(picture, fit.plane, radii, around)
    edges = even_edges(rows, there, 2.5 * _FOR_A_TOOTH, 2).mean(0)
    angles = np.arange(around) * (2 * np.pi / around)

    def to_the_ring(many: int) -> complex:
        return complex((edges * np.exp(1j * many * angles)).mean())

    # From the middle of each tooth on.
    turn = complex(np.exp(1j * np.angle(fit.shown.wave.sum())))
    once, twice = (to_the_ring(fit.teeth) * turn).real, (to_the_ring(2 * fit.teeth) * turn * turn).real
    narrow = once > _LEAST and once > _CROWDED * -twice
    # Counted twice over, where tooth and gap are as pale as each other: the edges crowd at every second one.
    half = abs(to_the_ring(fit.teeth // 2)) if fit.teeth % 2 == 0 else 0.0
    return narrow or half > max(_LEAST, abs(once), abs(twice))
