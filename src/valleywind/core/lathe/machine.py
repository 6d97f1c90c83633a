"""A lathe as the planner needs it."""

from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.direction import Drive
from valleywind.core.trains.quadrant import Quadrant


@dataclass(frozen=True)
class Lathe:
    """What turns what. screw_lead: mm of carriage travel per turn of the lead screw; first_ratio: turns of the first
    shaft per turn of the spindle."""

    name: str
    screw_lead: Fraction
    first_ratio: Fraction
    drive: Drive
    family: WheelFamily
    quadrant: Quadrant

    def ratio_for(self, lead: Fraction) -> Fraction:
        """The train ratio that cuts this lead (mm per spindle turn): T = lead / (R p)."""
        return lead / (self.first_ratio * self.screw_lead)

    def lead_of(self, ratio: Fraction) -> Fraction:
        """mm of travel per spindle turn with a train of this ratio."""
        return ratio * self.first_ratio * self.screw_lead
