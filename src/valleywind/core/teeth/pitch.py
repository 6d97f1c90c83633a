"""The pitch of a wheel and the family of wheels that share it.

m = module in mm; P = diametral pitch in 1/inch; m = 25.4/P exactly.
"""

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.units import MM_PER_INCH


class PitchSystem(StrEnum):
    MODULE = "module"
    DIAMETRAL = "dp"


@dataclass(frozen=True)
class Pitch:
    """How coarse a wheel is cut, in the system it was cut to. Raises Refused unless value > 0."""

    system: PitchSystem
    value: Fraction

    def __post_init__(self) -> None:
        if self.value <= 0:
            raise Refused("not_positive", "pitch", self.value)

    @property
    def module(self) -> Fraction:
        """Module in mm, exact."""
        return self.value if self.system is PitchSystem.MODULE else MM_PER_INCH / self.value


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
