"""A wheel that runs in a lead screw: of a thread dial, or a carriage pinion.

Its teeth are straight and set over by the screw's lead angle. Lengths in mm, angles in degrees.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import MOST_TEETH, Pitch
from valleywind.core.teeth.sizes import FEWEST_SIZED
from valleywind.core.trains.direction import Hand


@dataclass(frozen=True)
class ScrewWheel:
    """teeth: threads of the screw that one turn covers. tilt: of the head; module: that would be just right, normal to
    the teeth; pitch: the standard one nearest to it; off: what a tooth of that is out over the teeth in contact, mm;
    across: the pitch diameter N p/π; blank: over the tips, two of the cutter's addenda more; hand: of the screw, to
    whose side the gaps lean; raised: how far the cutter's middle stands from the height of the axis where it enters and
    leaves the tilted face, the one above and the other below."""

    teeth: int
    tilt: float
    module: float
    pitch: Pitch
    off: float
    across: float
    raised: float
    blank: float
    hand: Hand


# Teeth of such a wheel that are in the screw at once.
_IN_CONTACT = 3


def screw_wheel(
    thread: float, starts: int, diameter: float, threads: int, face: float, pitches: Sequence[Pitch],
    hand: Hand = Hand.RIGHT,
) -> ScrewWheel:  # fmt: skip
    """thread: pitch of the screw from one thread to the next; diameter: its pitch diameter; threads: that one turn of
    the wheel covers; face: of the wheel; pitches: of cutters that may be had; hand: of the screw.

    Circular pitch is the screw's; λ = atan(lead/(π d)); m = p cos λ/π. Raises Refusal: `not_positive` (thread,
    diameter), `teeth_out_of_range` (threads).
    """
    for name, value in (("thread", thread), ("diameter", diameter), ("face", face)):
        if value <= 0:
            raise Refusal("not_positive", name, value)
    if not FEWEST_SIZED <= threads <= MOST_TEETH:
        raise Refusal("teeth_out_of_range", "threads", threads, fewest=FEWEST_SIZED, most=MOST_TEETH)
    tilt = math.atan(thread * starts / (math.pi * diameter))
    module = thread * math.cos(tilt) / math.pi
    nearest = min(pitches, key=lambda p: abs(float(p.module) - module))
    off = abs(float(nearest.module) - module) * math.pi * _IN_CONTACT
    across = threads * thread / math.pi
    blank = across + 2 * float(nearest.module)
    return ScrewWheel(threads, math.degrees(tilt), module, nearest, off, across, face / 2 * math.tan(tilt), blank, hand)
