"""How far the teeth of a wheel run off over its face where the train that made them errs, and what that means.

Lengths in mm, run-off in µm, angles in degrees, errors relative."""

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

FINEST_GRADE, COARSEST_GRADE = 0, 12
"""Grades of ISO 1328-1, the finest first."""
HAPPY_GRADE, WORKING_GRADE = 8, 9
"""Change-wheel work is content with the first, and runs with the second."""


def run_off(face: Fraction, helix: Fraction, error: Fraction) -> float:
    """How far a tooth runs off over the face where its lead errs by this much, as a part of it: b tan β ε, in µm."""
    return abs(float(error)) * float(face) * math.tan(math.radians(helix)) * 1000


def slope_tolerance(grade: int, diameter: float, face: float) -> float:
    """What a helix may run off by ISO 1328-1:2013: (0.05 √d + 0.35 √b + 4) 2^((A − 5)/2), in µm."""
    return (0.05 * math.sqrt(diameter) + 0.35 * math.sqrt(face) + 4) * 2 ** ((grade - 5) / 2)


def grade_of(run_off: float, diameter: float, face: float) -> int | None:
    """The finest grade that a run-off keeps; None where it is coarser than all."""
    grades = range(FINEST_GRADE, COARSEST_GRADE + 1)
    return next((g for g in grades if run_off <= slope_tolerance(g, diameter, face)), None)


class Mark(StrEnum):
    """What a run-off means for the wheel, best first."""

    NONE = "none"
    GOOD = "good"
    RUNS = "runs"
    COARSE = "coarse"
    NOT = "not"


class MarkedVerdict(ABC):
    """A verdict that is one of these marks."""

    @property
    @abstractmethod
    def mark(self) -> Mark:
        """What it means for the work."""

    @property
    def good(self) -> bool:
        return self.mark in (Mark.NONE, Mark.GOOD, Mark.RUNS)

    @property
    def hopeless(self) -> bool:
        return self.mark is Mark.NOT

    @property
    def rank(self) -> int:
        return {Mark.NONE: 0, Mark.GOOD: 0, Mark.RUNS: 1, Mark.COARSE: 2, Mark.NOT: 3}[self.mark]


@dataclass(frozen=True)
class RunOff(MarkedVerdict):
    """Verdict on a train whose error makes the teeth run off. um: over the face; grade: of ISO 1328-1, None beyond all;
    pair: its mate is cut with the same train, so that both run off alike."""

    um: float
    grade: int | None
    pair: bool = False

    @property
    def mark(self) -> Mark:
        if self.um == 0:
            return Mark.NONE
        if self.grade is None:
            return Mark.NOT
        if self.grade <= HAPPY_GRADE:
            return Mark.GOOD
        return Mark.RUNS if self.grade <= WORKING_GRADE or self.pair else Mark.COARSE
