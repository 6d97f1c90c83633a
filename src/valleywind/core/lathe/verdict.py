"""What an error of pitch does to the thread: does the nut go on, how far, and is it good enough for a slide.

A pitch error gathers along the engagement: δ = |e| L. On the flanks it takes up δ cot(half flank angle) of the
clearance on the pitch diameter. Clearances from the formulas of ISO 965-1 with the nominal diameter.
"""

import math
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refused

_GRADE_FACTOR = {4: 0.63, 5: 0.8, 6: 1.0, 7: 1.25, 8: 1.6}
_SCREW_LENGTH = 300.0
_SCREW_ERROR = 0.01
# A nut that holds fewer turns than this before it binds does not start at all.
_FEWEST_TURNS = 1.5
# Nominal diameter taken when only a pitch is asked for, in pitches; M6 to M30 coarse lie between 6 and 8.6.
USUAL_DIAMETER = 7
ENGAGEMENT = Fraction(4, 5)
"""Usual engagement of a nut, in diameters."""


class Goes(StrEnum):
    """How a nut goes on, best first."""

    FREELY = "freely"
    MID_TOLERANCE = "mid_tolerance"
    PARTLY = "partly"
    NOT = "not"

    @property
    def rank(self) -> int:
        return list(Goes).index(self)


@dataclass(frozen=True)
class Fit:
    """Guaranteed clearance on the pitch diameter and the tolerances of screw and nut there, µm."""

    allowance: float
    screw_tolerance: float
    nut_tolerance: float

    @property
    def mid_tolerance(self) -> float:
        """Clearance of a screw cut to the middle of its tolerance, µm."""
        return self.allowance + self.screw_tolerance / 2


def fit_6g(pitch: float, diameter: float, grade: int = 6) -> Fit:
    """Position g, screw of `grade`, nut of grade 6; pitch and diameter in mm (ISO 965-1).

    es_g = 15 + 11 P, T_d2(6) = 90 P^0.4 d^0.1, T_D2(6) = 1.32 T_d2(6), all µm.
    """
    if grade not in _GRADE_FACTOR:
        raise Refused("unknown_grade", "grade", grade, grades=sorted(_GRADE_FACTOR))
    six = 90 * pitch**0.4 * diameter**0.1
    return Fit(15 + 11 * pitch, six * _GRADE_FACTOR[grade], 1.32 * six)


@dataclass(frozen=True)
class Verdict:
    """What the error does over `engagement` mm. Gathered errors in µm, lengths in mm.

    binds_after: turns of engagement after which a screw at mid tolerance binds, None when that is never.
    longest: engagement that still goes at mid tolerance, None when unlimited.
    """

    goes: Goes
    engagement: float
    gathered: float
    taken_up: float
    fit: Fit
    binds_after: float | None
    longest: float | None
    longest_freely: float | None
    per_10_mm: float
    per_inch: float
    per_300_mm: float

    @property
    def serves_a_slide(self) -> bool:
        """Good enough for a screw that measures or moves a slide: at most 0.01 mm in 300 mm."""
        return self.per_300_mm <= _SCREW_ERROR * 1000


def judge(
    relative_error: Fraction | float,
    pitch: float,
    diameter: float,
    engagement: float,
    included_angle: float = 60.0,
) -> Verdict:
    """The verdict on a relative pitch error over an engagement; lengths in mm, flank angle included, degrees.

    Raises Refused `not_positive` for a pitch, diameter or engagement that is not above zero.
    """
    for field, value in (("pitch", pitch), ("diameter", diameter), ("engagement", engagement)):
        if not value > 0:
            raise Refused("not_positive", field, value)
    error = abs(float(relative_error))
    cotangent = 1 / math.tan(math.radians(included_angle / 2))
    fit = fit_6g(pitch, diameter)
    gathered = error * engagement * 1000
    taken_up = gathered * cotangent
    longest = fit.mid_tolerance / (cotangent * error * 1000) if error else None
    freely = fit.allowance / (cotangent * error * 1000) if error else None
    turns = longest / pitch if longest is not None else None
    if taken_up <= fit.allowance:
        goes = Goes.FREELY
    elif taken_up <= fit.mid_tolerance:
        goes = Goes.MID_TOLERANCE
    else:
        goes = Goes.PARTLY if turns is not None and turns >= _FEWEST_TURNS else Goes.NOT
    return Verdict(
        goes, engagement, gathered, taken_up, fit, turns, longest, freely,
        per_10_mm=error * 10_000, per_inch=error * 25_400, per_300_mm=error * _SCREW_LENGTH * 1000,
    )  # fmt: skip
