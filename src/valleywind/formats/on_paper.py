"""What is drawn on a sheet, without anything of paper."""

from dataclasses import dataclass

from valleywind.core.helix.table import View
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Placement
from valleywind.core.trains.quadrant import Carrier


@dataclass(frozen=True)
class OnPaper:
    """A train in its place, to be drawn. title: what stands under it before the scale; pitch_known: whether lengths
    mean anything."""

    train: Train
    placement: Placement
    family: WheelFamily
    quadrant: Carrier
    title: str
    pitch_known: bool = True


Drawn = OnPaper | View
"""A train in its place, or a mill's table from above."""
