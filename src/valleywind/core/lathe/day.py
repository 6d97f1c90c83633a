"""Threads and feeds of a day on one lathe: which trains do for each, and in which order least is changed."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import permutations

from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.lathe.plan import Candidate, planner_for
from valleywind.core.lathe.thread import Ask
from valleywind.core.refusal import Refusal
from valleywind.core.trains.day import MOST_WAYS, Way, as_typed, order_of
from valleywind.core.trains.days_work import Choices, WayOfMaking
from valleywind.core.trains.effort import Place, What, stands_of
from valleywind.core.trains.model import Combination, Stage, Stock, Train
from valleywind.core.trains.search import search_each

_STAGES = (1, 2)
PLACES = 2 * max(_STAGES)
"""Driver and driven of each stage."""


@dataclass(frozen=True)
class DayAsk:
    """One thing to be done. ratio: of the train, exact; within: how large its relative error may be."""

    ratio: Fraction
    within: Fraction


@dataclass(frozen=True)
class DayStep:
    """One of the day, in its order. ask: its place among what was wanted; put_on: wheels that did not stand in that
    very place before."""

    ask: int
    train: Train
    error: Fraction
    put_on: int


@dataclass(frozen=True)
class DayOrder:
    """The day. put_on: in all; at_least: no order puts on fewer; as_typed: in the order of what was wanted, with the
    best trains for that."""

    order: tuple[DayStep, ...]
    put_on: int
    at_least: int
    as_typed: int

    @property
    def proven(self) -> bool:
        return self.put_on == self.at_least


def plan_day(
    wanted: Sequence[DayAsk],
    stock: Stock,
    on: Train | None = None,
    end: Train | None = None,
    before: Sequence[tuple[int, int]] = (),
) -> DayOrder:
    """Trains of one and two stages and an order for them, so that the fewest wheels are put on in all.

    on: what is on the machine, None for nothing; end: what has to be on it at the end; before: pairs of places in
    `wanted`, the first of which is done before the second. Raises Refusal: those of `order_of`, with `no_way` for
    something that no train is near enough to; `not_two_stages` (on, end) for a train that has idlers or a third stage.
    """
    trains = [_trains(one, stock) for one in wanted]
    ways = [[way_of(train) for train, _ in each] for each in trains]
    stands, ends = (None if train is None else _checked(train, field) for train, field in ((on, "on"), (end, "end")))
    weights = [1.0] * PLACES
    best = order_of(ways, weights, stands, ends, before)
    typed = as_typed(ways, weights, stands, ends)
    return DayOrder(
        tuple(DayStep(s.ask, *trains[s.ask][s.way], round(s.cost)) for s in best.steps),
        round(best.cost), round(best.at_least), round(typed.cost),
    )  # fmt: skip


def way_of(train: Train) -> Way:
    """What stands at each place: driver and driven of the first stage, then of the second."""
    wheels = [teeth for stage in train.stages for teeth in (stage.driver, stage.driven)]
    return (*wheels, *[None] * (PLACES - len(wheels)))


def _checked(train: Train, field: str) -> Way:
    if train.idlers or len(train.stages) > max(_STAGES):
        raise Refusal("not_two_stages", field, train.notation)
    return way_of(train)


def _trains(wanted: DayAsk, stock: Stock) -> list[tuple[Train, Fraction]]:
    """Every train near enough with its error, the closest first; every order of its wheels is a train of its own."""
    near = search_each([wanted.ratio], stock, _STAGES, MOST_WAYS, within=float(wanted.within))
    return [
        (train, one.error) for _, one in near if abs(one.error) <= wanted.within for train in _arranged(one.combination)
    ]


def _arranged(combination: Combination) -> list[Train]:
    orders = (sorted(set(permutations(side))) for side in (combination.drivers, combination.driven))
    over, under = orders
    return [Train(tuple(map(Stage, drivers, driven))) for drivers in over for driven in under]


# Trains of each that are chosen from.
_TRAINS = 100


def choices(ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Choices[Candidate]:
    """The trains for one thread or feed that do best for the job: those that run free, where there are any, so that
    this is not given up for a wheel less. Raises Refusal as `plan` does."""
    candidates = planner_for(ask, lathe, stock, mounted).plan(best=_TRAINS).candidates
    good = [c for c in candidates if c.good]
    rank = min((c.verdict.rank for c in good), default=0)
    ways = [WayOfMaking(c, stands(SetUp.of(c))) for c in good if c.verdict.rank == rank]
    return Choices(ways, next(iter(candidates), None), len(candidates) < _TRAINS)


def stands(set_up: SetUp) -> dict[Place, Hashable]:
    """What stands where on a lathe with this set-up."""
    levers = {Place(What.LEVER, name=FIRST): set_up.setting.first, Place(What.LEVER, name=BOX): set_up.setting.box}
    return stands_of(set_up.train) | levers


FIRST, BOX = "first", "box"
"""The levers' names."""
