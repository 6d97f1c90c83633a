"""From a lead to worm pair and change wheels that give it, in order of merit; and which way everything goes."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.helix.lead import HEAVY, PairWay, lead_of_wheel, pair_ways, run_off, total_ratio
from valleywind.core.helix.machine import WormPair
from valleywind.core.hobbing.ratios import RunOff, grade_of
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import Pitch
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.gearbox import Gearbox, Target, Wanted
from valleywind.core.trains.model import Stock, Train
from valleywind.core.trains.planner import Candidate, Order, Outcome, Planner

LeadCandidate = Candidate[PairWay, RunOff]
"""Its `value` is turns of the head's worm for one of the table's screw."""


@dataclass(frozen=True)
class LeadDrive:
    """What turns the work while the table moves. screw: lead of the table's screw, mm; head: crank turns for one of the
    work; pairs: worm pairs of an attachment, either way round; box: where the change wheels go; swing: how far the
    table turns either way, degrees, 0 for a plain one, None where that is not on record."""

    screw: Fraction
    head: Fraction
    box: Gearbox
    pairs: tuple[WormPair, ...] = ()
    swing: Fraction | None = None


@dataclass(frozen=True)
class Helix:
    """What is to be cut. lead: mm; helix: degrees at `diameter`, mm; face: of the work, mm; hand: of the helix; mate:
    its mate is cut with the same train."""

    lead: Fraction
    hand: Hand
    helix: Fraction
    diameter: float
    face: Fraction
    mate: bool = False


def wheel_helix(pitch: Pitch, teeth: int, helix: Fraction, hand: Hand, face: Fraction, mate: bool = False) -> Helix:
    """The helix of a wheel. Raises Refused `helix_out_of_range`."""
    lead = lead_of_wheel(pitch.module, teeth, helix)
    diameter = float(pitch.module) * teeth / math.cos(math.radians(helix))
    return Helix(lead, hand, helix, diameter, face, mate)


def wanted(
    job: Helix, drive: LeadDrive, hand: Hand | None = None, mounted: Train | None = None, now: PairWay | None = None
) -> Wanted[PairWay, RunOff]:
    """What a helix wants of the drive: the total, with any pair either way round."""
    targets = tuple(Target(way, way.ratio) for way in pair_ways(drive.pairs))
    return Wanted(
        total_ratio(drive.screw, drive.head, job.lead), targets, hand, _judge(job), mounted,
        Target(now, now.ratio) if now else None, lambda one, other: int(one != other),
    )  # fmt: skip


def plan(
    job: Helix,
    drive: LeadDrive,
    stock: Stock,
    order: Order = Order.LEAST_TROUBLE,
    best: int = 12,
    mounted: Train | None = None,
    now: PairWay | None = None,
) -> Outcome[PairWay, RunOff]:
    """Pairs, both ways round, and wheels together, laid out and judged by how far a tooth runs off.

    Raises Refused `no_wheels` (stock).
    """
    if not any(n > 0 for n in stock.values()):
        raise Refused("no_wheels", "stock", "mill")
    return Planner(wanted(job, drive, job.hand, mounted, now), drive.box, stock).plan(order, best)


def _judge(job: Helix) -> Callable[[Fraction], RunOff]:
    def judged(error: Fraction) -> RunOff:
        um = run_off(job.face, job.helix, error)
        return RunOff(um, grade_of(um, job.diameter, float(job.face)), job.mate)

    return judged


def heavy(total: Fraction) -> bool:
    """Whether the screw drives the worm so fast that the load on the gearing is heavy."""
    return total > HEAVY


@dataclass(frozen=True)
class Swing:
    """How the table is swung. degrees: how far; sense: seen from above; within: whether it swings so far, None where
    that is not on record; where it does not, a swivelling head has to be set over instead, the table square."""

    degrees: Fraction
    sense: Sense
    within: bool | None


def swing(job: Helix, drive: LeadDrive) -> Swing:
    """The table is set over by the helix angle. For a right-hand helix its right-hand end goes away from the operator,
    toward the column: anticlockwise seen from above."""
    sense = Sense.ANTICLOCKWISE if job.hand is Hand.RIGHT else Sense.CLOCKWISE
    return Swing(job.helix, sense, None if drive.swing is None else job.helix <= drive.swing)


def work_turns(hand: Hand, table_to_left: bool) -> Sense:
    """How the work must turn, seen from the right-hand end of the table: clockwise for a right-hand helix with the
    table moving left; the other way for the other hand, or the table moving right."""
    return Sense.CLOCKWISE if (hand is Hand.RIGHT) == table_to_left else Sense.ANTICLOCKWISE
