"""The pitch of a wheel and the family of wheels that share it.

m = module in mm; P = diametral pitch in 1/inch; p = circular pitch. m = 25.4/P = p/π.
"""

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from functools import cached_property

from valleywind.core.refusal import Refusal
from valleywind.core.units import MM_PER_INCH, PI

FEWEST_TEETH, MOST_TEETH = 6, 400
"""Tooth numbers that are taken for change wheels."""


FINEST_MODULE, COARSEST_MODULE = Fraction(1, 20), Fraction(100)
"""Modules that are taken, mm."""
STEEPEST, SHALLOWEST = Fraction(30), Fraction(10)
"""Pressure angles that wheels are cut to, degrees."""


def allowed_angle(angle: Fraction) -> Fraction:
    """A pressure angle in degrees that a wheel may have. Raises Refusal `angle_out_of_range`."""
    if not SHALLOWEST <= angle <= STEEPEST:
        raise Refusal("angle_out_of_range", "angle", angle)
    return angle


class PitchSystem(StrEnum):
    MODULE = "module"
    DIAMETRAL = "dp"
    CIRCULAR = "cp"


@dataclass(frozen=True)
class Pitch:
    """How coarse a wheel is cut, in the system it was cut to; circular pitch in inches.

    Raises Refusal `not_positive`, `pitch_out_of_range`.
    """

    system: PitchSystem
    value: Fraction

    def __post_init__(self) -> None:
        if self.value <= 0:
            raise Refusal("not_positive", "pitch", self.value)
        if not FINEST_MODULE <= self.module <= COARSEST_MODULE:
            raise Refusal("pitch_out_of_range", "pitch", self.value, finest=FINEST_MODULE, coarsest=COARSEST_MODULE)

    @cached_property
    def module(self) -> Fraction:
        """Module in mm; exact but for circular pitch, which holds π to forty places."""
        match self.system:
            case PitchSystem.MODULE:
                return self.value
            case PitchSystem.DIAMETRAL:
                return MM_PER_INCH / self.value
            case PitchSystem.CIRCULAR:
                return self.value * MM_PER_INCH / PI

    @property
    def circular(self) -> Fraction:
        """From one tooth to the next along the pitch line, mm: π m; exact where that is how it is stated."""
        return self.value * MM_PER_INCH if self.system is PitchSystem.CIRCULAR else PI * self.module


@dataclass(frozen=True)
class WheelFamily:
    """Wheels that mesh with each other and go on the same shafts. Lengths in mm, angle in degrees."""

    name: str
    pitch: Pitch
    pressure_angle: Fraction
    bore: Fraction
    key: Fraction
    face: Fraction
    addendum: Fraction = Fraction(1)
    """Height of the tooth above the pitch circle, in modules: 1, or 0.8 for stub teeth."""

    @property
    def module(self) -> Fraction:
        return self.pitch.module

    @cached_property
    def module_mm(self) -> float:
        """The module as it is reckoned with, rounded to a float."""
        return float(self.module)


UNKNOWN_FAMILY = WheelFamily("", Pitch(PitchSystem.MODULE, Fraction(1)), Fraction(20), *[Fraction(0)] * 3)
"""Stands for wheels whose pitch is not known. They are drawn in proportion, a module as a mm."""
