"""From a wanted thread or feed to trains and levers that give it on this lathe with these wheels, in order of merit."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.lathe.machine import Lathe, LeverSetting, SetUp
from valleywind.core.lathe.thread import Ask, CarriageMove, PitchUnit, ThreadAsk
from valleywind.core.lathe.verdict import Verdict
from valleywind.core.refusal import Refusal
from valleywind.core.trains import planner
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.gearbox import Requirement, Target
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Stock
from valleywind.core.trains.planner import Order, Planner, Shortfall
from valleywind.core.units import MM_PER_INCH

Candidate = planner.Candidate[LeverSetting, Verdict]
"""A train with the levers set; its `value` is the lead or feed it gives, mm per spindle turn."""


@dataclass(frozen=True)
class Plan:
    """What came of an ask: see `planner.Outcome`. `target` is the ratio with the levers as usual."""

    ask: Ask
    lathe: Lathe
    target: Fraction
    order: Order
    candidates: tuple[Candidate, ...]
    most_exact_unfit: Candidate | None = None
    one_more: Candidate | None = None
    shortfall: Shortfall | None = None
    cut_short: bool = False

    @property
    def one_more_teeth(self) -> int | None:
        """The wheel that `one_more` takes and that is not held."""
        return next(iter(self.one_more.lacking)) if self.one_more else None


def requirement(ask: Ask, lathe: Lathe, mounted: SetUp | None = None) -> Requirement[LeverSetting, Verdict]:
    """What an ask wants of the lathe's gear train: the lead, with any position of the levers.

    Raises Refusal: `no_cross_feed` (ask), `class_not_of_series` (class).
    """
    return requirements([ask], lathe, mounted)[0]


def requirements(
    asks: Sequence[Ask], lathe: Lathe, mounted: SetUp | None = None
) -> list[Requirement[LeverSetting, Verdict]]:
    """The same of many asks; what the levers give is worked out once."""
    ways = {ask.way for ask in asks}
    targets = {way: lathe.targets(way) for way in ways}
    return [
        Requirement(
            ask.lead,
            targets[ask.way],
            lathe.hand_of(ask.way, ask.hand),
            ask.judged,
            mounted.train if mounted else None,
            _target(mounted.setting, ask.way, lathe) if mounted else None,
            lambda one, other: (one.first != other.first) + (one.box != other.box),
        )
        for ask in asks
    ]


def plan(
    ask: Ask,
    lathe: Lathe,
    stock: Stock,
    mounted: SetUp | None = None,
    order: Order = Order.LEAST_TROUBLE,
    best: int = 12,
) -> Plan:
    """The `best` trains for `ask`, laid out and judged, and what stands next to them.

    Raises Refusal: `no_wheels` (stock), `no_cross_feed` (ask), `class_not_of_series` (class).
    """
    if not any(n > 0 for n in stock.values()):
        raise Refusal("no_wheels", "stock", lathe.name)
    outcome = planner_for(ask, lathe, stock, mounted).plan(order, best)
    return Plan(
        ask, lathe, lathe.ratio_for(ask.lead, way=ask.way), order, outcome.candidates, outcome.most_exact_unfit,
        outcome.one_more, outcome.shortfall, outcome.cut_short,
    )  # fmt: skip


def candidate_for(set_up: SetUp, ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Candidate:
    """One particular train judged for this ask, whether or not it is a good one."""
    laid = lay_out([set_up.train], lathe.family, lathe.quadrant)[0]
    return planner_for(ask, lathe, stock, mounted).candidate(laid, _target(set_up.setting, ask.way, lathe))


def right_handed(candidate: Candidate, ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Candidate | None:
    """For a train that turns the screw the wrong way: the same with an idler less or more; see `Planner.righted`."""
    if candidate.hand.right:
        return None
    return planner_for(ask, lathe, stock, mounted).righted(candidate, _target(candidate.setting, ask.way, lathe))


def plan_of(mounted: SetUp, lathe: Lathe, stock: Stock) -> Plan:
    """What a train cuts: the plan whose ask is the lead it gives, in threads per inch where that comes out even."""
    lead = lathe.lead_of(mounted.train.ratio, mounted.setting)
    per_inch = MM_PER_INCH / lead
    stated = PitchUnit.TPI if per_inch.denominator in (1, 2, 4) else PitchUnit.MM
    hand = Hand.RIGHT if lathe.gearbox.hand(mounted.train.meshes, Hand.RIGHT).right else Hand.LEFT
    ask = ThreadAsk(lead, stated, hand=hand)
    candidate = candidate_for(mounted, ask, lathe, stock, mounted)
    return Plan(ask, lathe, mounted.train.ratio, Order.LEAST_TROUBLE, (candidate,))


def planner_for(ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Planner[LeverSetting, Verdict]:
    """The planner, told of this ask on this lathe."""
    return Planner(requirement(ask, lathe, mounted), lathe.gearbox, stock)


def _target(setting: LeverSetting, way: CarriageMove, lathe: Lathe) -> Target[LeverSetting]:
    return Target(setting, lathe.lead_of(Fraction(1), setting, way))
