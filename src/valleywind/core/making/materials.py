"""What a wheel may be made of: how fast it is cut, how strong a tooth of it is, what the chips do.

Speeds are of form cutters of high-speed steel, a starting point; the cutter's maker comes first. Strengths are for
guidance only.
"""

import math
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction


class Stuff(StrEnum):
    """What a blank is of."""

    STEEL = "steel"
    ALLOY_STEEL = "alloy steel"
    CAST_IRON = "cast iron"
    BRASS = "brass"
    BRONZE = "bronze"
    ALUMINIUM = "aluminium"
    ACETAL = "acetal"
    LAMINATE = "laminate"


class Wet(StrEnum):
    """What the cut wants."""

    OIL = "oil"
    DRY = "dry"
    DRY_EXTRACTED = "dry, extraction on"
    PARAFFIN = "paraffin"


@dataclass(frozen=True)
class Material:
    """speeds: from and to, m/min. stress: what a tooth bears slowly, N/mm²; None where nobody has a figure here.
    wet: what the cut wants. soft: small pitches go to depth in one pass."""

    speeds: tuple[int, int]
    stress: int | None
    wet: Wet
    soft: bool


MATERIALS = {
    Stuff.STEEL: Material((20, 25), 130, Wet.OIL, False),
    Stuff.ALLOY_STEEL: Material((12, 18), 130, Wet.OIL, False),
    Stuff.CAST_IRON: Material((15, 22), 55, Wet.DRY_EXTRACTED, False),
    Stuff.BRASS: Material((40, 60), None, Wet.DRY, True),
    Stuff.BRONZE: Material((25, 35), 90, Wet.OIL, False),
    Stuff.ALUMINIUM: Material((60, 90), None, Wet.PARAFFIN, True),
    Stuff.ACETAL: Material((60, 90), 20, Wet.DRY, True),
    Stuff.LAMINATE: Material((60, 90), 25, Wet.DRY_EXTRACTED, True),
}


def turns(speed: float, cutter: float) -> float:
    """Turns a minute of a cutter of this many mm at this many m/min: 1000 v/(π D)."""
    return 1000 * speed / (math.pi * cutter)


class Strength(StrEnum):
    """How a tooth bears the force while threading: for guidance, never more digits."""

    WEAK = "weak"
    FAIR = "fair"
    STRONG = "strong"


# How hard the cut pushes the carriage while a coarse thread is cut, N; the screw gives back a quarter of the
# work; a tooth that bears twice that is fair, five times that strong.
_CUT, _SCREW_GIVES = 1000.0, 0.25
_FAIR, _STRONG = 2.0, 5.0


def bears(stuff: Stuff, teeth: int, module: float, face: float, angle: Fraction) -> float | None:
    """What a tooth bears slowly, N, by Lewis: σ b m Y. None where the material has no figure."""
    stress = MATERIALS[stuff].stress
    if stress is None:
        return None
    form = math.pi * (0.154 - 0.912 / teeth if angle >= 20 else 0.124 - 0.684 / teeth)
    return max(0.0, stress * face * module * form)


def strength(
    stuff: Stuff, teeth: int, module: float, face: float, angle: Fraction, screw_lead: float
) -> Strength | None:
    """Against the force at a wheel of this count on a lead screw of this lead, mm."""
    force = bears(stuff, teeth, module, face, angle)
    if force is None:
        return None
    at_tooth = _CUT * screw_lead / (2 * math.pi * _SCREW_GIVES) / (module * teeth / 2)
    times = force / at_tooth
    return Strength.STRONG if times >= _STRONG else Strength.FAIR if times >= _FAIR else Strength.WEAK
