"""How far the form that a form cutter leaves is from the true one. Lengths in mm."""

from dataclasses import dataclass
from math import cos, radians

from valleywind.core.teeth.geometry import half_angle, pitch_radius
from valleywind.core.teeth.pitch import WheelFamily


@dataclass(frozen=True)
class FormError:
    """heights: above the pitch line, from the foot to the tip; errors: half the tooth thickness left there less the
    true one, so that above nought there is metal too much; half_true: that true half thickness. teeth: of the wheel;
    true_for: of the cutter."""

    teeth: int
    true_for: int
    heights: tuple[float, ...]
    half_true: tuple[float, ...]
    errors: tuple[float, ...]

    @property
    def at_tip(self) -> float:
        return self.errors[-1]

    @property
    def relieves(self) -> bool:
        """Whether the tip is left thin, which is harmless, and not thick, which fouls."""
        return self.at_tip <= 0


def form_error(teeth: int, true_for: int, family: WheelFamily, depth: float, steps: int = 24) -> FormError:
    """The error of half a tooth's thickness, both forms thick alike at the pitch line.

    Down to where the wheel's own involute begins at the base circle, and no deeper than the gap.
    """
    module = float(family.module)
    top = module * float(family.addendum)
    foot = max(top - depth, *(_base_height(z, family) for z in (teeth, true_for)))
    heights = tuple(foot + (top - foot) * n / steps for n in range(steps + 1))
    true = tuple(_half(teeth, family, h) for h in heights)
    left = tuple(_half(true_for, family, h) for h in heights)
    return FormError(teeth, true_for, heights, true, tuple(a - b for a, b in zip(left, true, strict=True)))


def _half(teeth: int, family: WheelFamily, height: float) -> float:
    """Half the tooth thickness at this height above the pitch line."""
    radius = pitch_radius(teeth, family) + height
    return radius * half_angle(teeth, family, radius)


def _base_height(teeth: int, family: WheelFamily) -> float:
    """Where the involute begins, from the pitch line."""
    return pitch_radius(teeth, family) * (cos(radians(family.pressure_angle)) - 1)
