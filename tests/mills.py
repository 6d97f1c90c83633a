"""A mill to try things on: Heron of the demo shop, as the core knows it."""

import math
from dataclasses import replace
from fractions import Fraction

from valleywind.core.helix.ask import HelixAsk, read
from valleywind.core.helix.machine import Mill, read_pairs
from valleywind.core.helix.plan import LeadDrive, drive_of
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.direction import Drive, Sense
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.quadrant import Quadrant, Slot

STOCK = parse_stock("24 26 28 30 32 34 36 38 40 42 44 46 48 52 56 60 64 72")
FAMILY = WheelFamily(
    "", Pitch(PitchSystem.MODULE, Fraction(3, 2)), Fraction(20), Fraction(22), Fraction(6), Fraction(12)
)
QUADRANT = Quadrant(
    (40, 130), (Slot(0, 45, 160), Slot(-0.7, 45, 150)), (math.radians(5), math.radians(150)), (14, 12, 14), 0.5, 2
)


def heron(lever: bool = True, **more: object) -> Mill:
    """Table 900 by 220 mm that swings 45°, two arbors; the lever reverses, an even number of meshes cuts right-hand."""
    box = Gearbox(FAMILY, QUADRANT, drive=Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, lever), most_stages=2)
    mill = Mill(
        Fraction(6), Fraction(45), read_pairs("2, 10, 40", "pairs"), box=box, table=(Fraction(900), Fraction(220)),
        travel=Fraction(500), saddle=(Fraction(140), Fraction(420)), arbors=(Fraction(250), Fraction(450)),
    )  # fmt: skip
    return replace(mill, **more)  # type: ignore[arg-type]


def drive(lever: bool = True) -> LeadDrive:
    return drive_of(heron(lever), Fraction(60))


def ask_of(text: str) -> HelixAsk:
    """The ask of a line that is one."""
    result = read(text).ask
    assert result is not None, read(text).refusal
    return result
