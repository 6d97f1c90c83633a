"""From a lead to worm pair and change wheels that give it, in order of merit; and the train for the mate."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from valleywind.core.cutting.run_off import Mark, MarkedVerdict, RunOff, grade_of, run_off
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.lead import HEAVY, PairWay, pair_ways, total_ratio
from valleywind.core.helix.machine import Mill, WormPair
from valleywind.core.refusal import Refusal
from valleywind.core.trains import planner
from valleywind.core.trains.closest import Hit
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.gearbox import Gearbox, Requirement, Target
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.merit import least_trouble
from valleywind.core.trains.model import Stock, Train, parse_train
from valleywind.core.trains.planner import Order, Outcome, Planner
from valleywind.core.trains.search import Approximation
from valleywind.core.units import parse_number

GOOD_LEAD, FAIR_LEAD, COARSE_LEAD = Fraction(1, 1000), Fraction(1, 200), Fraction(1, 50)
"""How far off the lead of a groove may be, as a part of it: nobody would find it; a fit piece would show it; coarse."""


@dataclass(frozen=True)
class LeadOff(MarkedVerdict):
    """Verdict on a groove's lead. error: of the lead, relative, signed; within: what is allowed, None for the usual
    steps; um: how far the groove runs off over its length, None where its angle is not known."""

    error: Fraction
    within: Fraction | None = None
    um: float | None = None

    @property
    def mark(self) -> Mark:
        off = abs(self.error)
        if off == 0:
            return Mark.NONE
        if self.within is not None:
            return Mark.GOOD if off <= self.within else Mark.NOT
        steps = ((GOOD_LEAD, Mark.GOOD), (FAIR_LEAD, Mark.RUNS), (COARSE_LEAD, Mark.COARSE))
        return next((mark for most, mark in steps if off <= most), Mark.NOT)


Verdict = RunOff | LeadOff
LeadCandidate = planner.Candidate[PairWay, Verdict]
"""Its `value` is turns of the head's worm for one of the table's screw."""


@dataclass(frozen=True)
class LeadDrive:
    """What turns the work while the table moves. screw: lead of the table's screw, mm; head: crank turns for one of the
    work; box: where the change wheels go; pairs: worm pairs of an attachment."""

    screw: Fraction
    head: Fraction
    box: Gearbox
    pairs: tuple[WormPair, ...] = ()


def drive_of(mill: Mill, head: Fraction | None) -> LeadDrive:
    """The drive of a mill whose head has this ratio. Raises Refusal `no_table_screw` (screw), `no_head` (ratio)."""
    if mill.screw is None:
        raise Refusal("no_table_screw", "screw", "")
    if head is None:
        raise Refusal("no_head", "ratio", "")
    assert mill.box is not None
    return LeadDrive(mill.screw, head, mill.box, mill.pairs)


@dataclass(frozen=True)
class LeadSetUp:
    """Change wheels and a worm pair, as they are on the machine or asked for."""

    train: Train
    pair: PairWay

    @property
    def name(self) -> str:
        """`52/28*72/56@1/2`; without a pair the wheels alone."""
        return self.train.notation if self.pair.ratio == 1 else f"{self.train.notation}@{self.pair.name}"


def read_set_up(text: str, drive: LeadDrive, field: str = "train") -> LeadSetUp:
    """Read it back. Raises Refusal `no_such_pair`, `not_a_train`."""
    wheels, at, pair = text.strip().partition("@")
    ways = pair_ways(drive.pairs)
    ratio = parse_number(pair, field) if at else Fraction(1)
    known = next((w for w in ways if w.ratio == ratio), None)
    if known is None:
        raise Refusal("no_such_pair", field, pair, known=[w.name for w in ways])
    return LeadSetUp(parse_train(wheels, field), known)


def lead_error(ratio_error: Fraction) -> Fraction:
    """What the lead is off where the ratio is: L goes as 1/total."""
    return 1 / (1 + ratio_error) - 1


def requirement(ask: HelixAsk, drive: LeadDrive, on: LeadSetUp | None = None) -> Requirement[PairWay, Verdict]:
    """What an ask wants of the drive: the total, with any pair in any way it goes in."""
    targets = tuple(Target(way, way.ratio) for way in pair_ways(drive.pairs))
    return Requirement(
        total_ratio(drive.screw, drive.head, ask.wanted_lead), targets, ask.wanted_hand, judge(ask),
        on.train if on else None, Target(on.pair, on.pair.ratio) if on else None, lambda one, other: int(one != other),
    )  # fmt: skip


def plan(
    ask: HelixAsk,
    drive: LeadDrive,
    stock: Stock,
    on: LeadSetUp | None = None,
    order: Order = Order.LEAST_TROUBLE,
    best: int = 12,
) -> Outcome[PairWay, Verdict]:
    """Pairs, every way in, and wheels together, laid out and judged.

    Raises Refusal `no_wheels` (stock).
    """
    if not any(n > 0 for n in stock.values()):
        raise Refusal("no_wheels", "stock", "")
    return Planner(requirement(ask, drive, on), drive.box, stock).plan(order, best)


def candidate_for(
    set_up: LeadSetUp, ask: HelixAsk, drive: LeadDrive, stock: Stock, on: LeadSetUp | None = None
) -> LeadCandidate:
    """One set-up judged for this ask, whether or not it is a good one."""
    laid = lay_out([set_up.train], drive.box.family, drive.box.quadrant)[0]
    target = Target(set_up.pair, set_up.pair.ratio)
    return Planner(requirement(ask, drive, on), drive.box, stock).candidate(laid, target)


def judge(ask: HelixAsk) -> Callable[[Fraction], Verdict]:
    """What an error of the ratio means: for a wheel by how far a tooth runs off over its face, for a groove by its
    lead. A wheel whose tolerance is said is judged by its lead as well."""
    degrees, face = ask.degrees, ask.shown_length

    def run_off_um(error: Fraction) -> float | None:
        return None if degrees is None else run_off(face, Fraction(degrees), error)

    if ask.wheel and ask.within is None:
        across = ask.across
        assert across is not None

        def of_wheel(error: Fraction) -> Verdict:
            um = run_off_um(lead_error(error))
            assert um is not None
            # Whether its mate's train has the same error is seen when that is looked for.
            return RunOff(um, grade_of(um, across, float(face)))

        return of_wheel
    return lambda error: LeadOff(lead_error(error), ask.within, run_off_um(lead_error(error)))


class Load(StrEnum):
    """What is heavily loaded by a short lead."""

    DRIVE = "drive"
    WHEELS = "wheels"


def load(candidate: LeadCandidate) -> Load | None:
    """Where something is driven so fast that the load is heavy: the head's worm by the table's screw, or with a pair
    that turns slower again, only the change wheels."""
    if candidate.value > HEAVY:
        return Load.DRIVE
    return Load.WHEELS if candidate.train.ratio > HEAVY else None


def work_turns(hand: Hand, table_to_left: bool) -> Sense:
    """How the work must turn, seen from the right-hand end of the table: clockwise for a right-hand helix with the
    table moving left; the other way for the other hand, or the table moving right."""
    return Sense.CLOCKWISE if (hand is Hand.RIGHT) == table_to_left else Sense.ANTICLOCKWISE


@dataclass(frozen=True)
class MatePlan:
    """The train for the wheel that runs with the one planned. same_error: it is off by just as much as
    the wheel, so that the pair tracks; same_train: not a wheel has to be changed. apart_um: by how much the two run off
    differently over the face."""

    ask: HelixAsk
    candidate: LeadCandidate
    same_error: bool
    same_train: bool
    apart_um: float


def mate_ask(ask: HelixAsk) -> HelixAsk | None:
    """The mate as an ask of its own; None where none is said."""
    if ask.mate is None or ask.hand is None:
        return None
    return HelixAsk(
        ask.mate, ask.pitch, ask.angle, ask.helix, hand=ask.hand.other, face=ask.face, mate=ask.teeth,
        cutter=ask.cutter, within=ask.within, machine=ask.machine,
    )  # fmt: skip


def mate_plan(
    candidate: LeadCandidate, ask: HelixAsk, other: HelixAsk, drive: LeadDrive, stock: Stock
) -> MatePlan | None:
    """The train for the wheel `other` that runs with this one: one whose error is just the same, with as little to
    change as can be; else the closest. None where nothing goes on."""
    on = LeadSetUp(candidate.train, candidate.setting)
    need = requirement(other, drive, on)
    alike = candidate.value * ask.wanted_lead / other.wanted_lead
    # The list is of trains that are exact for the wheel's own error.
    exact = Planner(replace(need, value=alike), drive.box, stock)
    hits = [
        Hit(Approximation.of(combination, Fraction(0)), target)
        for target in need.targets
        for combination in exact_trains(alike / target.gives, stock)[:_SAME_TRIED]
    ]
    going = [c for c in exact.candidates(hits, whatever=True) if c.fits]
    if going:
        best = min(going, key=lambda c: least_trouble(c.fits, (0, 0.0), c.handling, c.train, c.error))
        same = candidate_for(LeadSetUp(best.train, best.setting), other, drive, stock, on)
        return MatePlan(other, same, True, same.handling.none, 0.0)
    outcome = plan(other, drive, stock, on, best=1)
    if not outcome.candidates:
        return None
    same = outcome.candidates[0]
    degrees = ask.degrees
    assert degrees is not None
    differ = lead_error(same.error) - lead_error(candidate.error)
    return MatePlan(other, same, False, same.handling.none, run_off(ask.shown_length, Fraction(degrees), differ))


@dataclass(frozen=True)
class SetUpDetail:
    """A set-up that is looked at. righted: the same with an idler less or more, where the work turns the wrong way and
    that helps; has_mate: a mate is said; mate: how it is cut, None where nothing goes on."""

    righted: LeadCandidate | None
    has_mate: bool
    mate: MatePlan | None


def look(candidate: LeadCandidate, ask: HelixAsk, drive: LeadDrive, stock: Stock, on: LeadSetUp | None) -> SetUpDetail:
    """What is to be said of one set-up beside its verdict."""
    target = Target(candidate.setting, candidate.setting.ratio)
    right = Planner(requirement(ask, drive, on), drive.box, stock).righted(candidate, target)
    other = mate_ask(ask)
    return SetUpDetail(right, other is not None, mate_plan(candidate, ask, other, drive, stock) if other else None)


# How many trains with just the same error are tried with each pair.
_SAME_TRIED = 12
