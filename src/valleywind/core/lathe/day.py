"""Threads and feeds of a day on one lathe: which trains do for each, and in which order least is changed."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import permutations

from valleywind.core import interrupt
from valleywind.core.lathe.machine import Lathe, LeverSetting, SetUp
from valleywind.core.lathe.plan import Candidate, planner_for
from valleywind.core.lathe.thread import Ask
from valleywind.core.refusal import Refused
from valleywind.core.trains.day import MOST_WAYS, Step, Way, as_typed, order_of
from valleywind.core.trains.merit import Handling, handling
from valleywind.core.trains.model import Combination, Stage, Stock, Train
from valleywind.core.trains.search import search_each

_STAGES = (1, 2)
PLACES = 2 * max(_STAGES)
"""Driver and driven of each stage."""


@dataclass(frozen=True)
class Wanted:
    """One thing to be done. ratio: of the train, exact; within: how large its relative error may be."""

    ratio: Fraction
    within: Fraction


@dataclass(frozen=True)
class Done:
    """One of the day, in its order. ask: its place among what was wanted; put_on: wheels that did not stand in that
    very place before."""

    ask: int
    train: Train
    error: Fraction
    put_on: int


@dataclass(frozen=True)
class Planned:
    """The day. put_on: in all; at_least: no order puts on fewer; as_typed: in the order of what was wanted, with the
    best trains for that."""

    order: tuple[Done, ...]
    put_on: int
    at_least: int
    as_typed: int

    @property
    def proven(self) -> bool:
        return self.put_on == self.at_least


def plan_day(
    wanted: Sequence[Wanted],
    stock: Stock,
    on: Train | None = None,
    end: Train | None = None,
    before: Sequence[tuple[int, int]] = (),
) -> Planned:
    """Trains of one and two stages and an order for them, so that the fewest wheels are put on in all.

    on: what is on the machine, None for nothing; end: what has to be on it at the end; before: pairs of places in
    `wanted`, the first of which is done before the second. Raises Refused: those of `order_of`, with `no_way` for
    something that no train is near enough to; `not_two_stages` (on, end) for a train that has idlers or a third stage.
    """
    trains = [_trains(one, stock) for one in wanted]
    ways = [[way_of(train) for train, _ in each] for each in trains]
    stands, ends = (None if train is None else _checked(train, field) for train, field in ((on, "on"), (end, "end")))
    weights = [1.0] * PLACES
    best = order_of(ways, weights, stands, ends, before)
    typed = as_typed(ways, weights, stands, ends)
    return Planned(
        tuple(Done(s.ask, *trains[s.ask][s.way], round(s.cost)) for s in best.steps),
        round(best.cost), round(best.at_least), round(typed.cost),
    )  # fmt: skip


def way_of(train: Train) -> Way:
    """What stands at each place: driver and driven of the first stage, then of the second."""
    wheels = [teeth for stage in train.stages for teeth in (stage.driver, stage.driven)]
    return (*wheels, *[None] * (PLACES - len(wheels)))


def _checked(train: Train, field: str) -> Way:
    if train.idlers or len(train.stages) > max(_STAGES):
        raise Refused("not_two_stages", field, train.notation)
    return way_of(train)


def _trains(wanted: Wanted, stock: Stock) -> list[tuple[Train, Fraction]]:
    """Every train near enough with its error, the closest first; every order of its wheels is a train of its own."""
    found = search_each([wanted.ratio], stock, _STAGES, MOST_WAYS, within=float(wanted.within))
    return [
        (train, one.error)
        for _, one in found
        if abs(one.error) <= wanted.within
        for train in _arranged(one.combination)
    ]


def _arranged(combination: Combination) -> list[Train]:
    orders = (sorted(set(permutations(side))) for side in (combination.drivers, combination.driven))
    over, under = orders
    return [Train(tuple(map(Stage, drivers, driven))) for drivers in over for driven in under]


MOST_ON_A_LATHE = 12
"""So many asks are planned together on a lathe."""
# Trains of each that are chosen from, and what a lever weighs beside a wheel.
_TRAINS, _LEVER = 100, 0.5


@dataclass(frozen=True)
class Turn:
    """One of the day on a lathe. ask: its place among what was asked; handling: beside what was on before."""

    ask: int
    candidate: Candidate
    handling: Handling


@dataclass(frozen=True)
class LatheDay:
    """The day on a lathe. turns: in their order; back: putting back what was on at the beginning, None where that was
    not wished; as_typed: wheels put on in the order of what was asked; proven: no order of trains that fit is less
    trouble; left_out: places of what nothing does that fits and is near enough, each with the best there is."""

    turns: tuple[Turn, ...]
    back: Handling | None
    as_typed: int
    proven: bool
    left_out: tuple[tuple[int, Candidate | None], ...]

    @property
    def put_on(self) -> int:
        """Wheels put on in all."""
        return sum(turn.handling.put_on for turn in self.turns) + (self.back.put_on if self.back else 0)


def day_on(
    asks: Sequence[Ask], lathe: Lathe, stock: Stock, mounted: SetUp | None = None, put_back: bool = False
) -> LatheDay:
    """Trains that fit and an order for them, so that least is changed: wheels place by place, then levers. Of each the
    trains are chosen from that do best for the job: those that run free, where there are any.

    put_back: what is on at the beginning is to be on at the end. Raises Refused `too_many_asks`, `no_wheels`, and as
    `plan` does.
    """
    if len(asks) > MOST_ON_A_LATHE:
        raise Refused("too_many_asks", "asks", len(asks), most=MOST_ON_A_LATHE)
    if not any(n > 0 for n in stock.values()):
        raise Refused("no_wheels", "stock", lathe.name)
    chosen: list[tuple[int, list[Candidate]]] = []
    left_out = []
    every = True
    for n, ask in enumerate(asks):
        interrupt.checkpoint()
        found = planner_for(ask, lathe, stock, mounted).plan(best=_TRAINS).candidates
        every &= len(found) < _TRAINS
        # What runs free is not given up for a wheel less.
        rank = min((c.verdict.rank for c in found if c.good), default=0)
        good = [c for c in found if c.good and c.verdict.rank == rank]
        if good:
            chosen.append((n, good))
        else:
            left_out.append((n, next(iter(found), None)))
    ways = _Places([c for _, some in chosen for c in some], mounted)
    each = [[ways.of(c.train, c.setting) for c in some] for _, some in chosen]
    on = None if mounted is None else ways.of(mounted.train, mounted.setting)
    end = on if put_back else None
    best = order_of(each, ways.weights, on, end)
    typed = as_typed(each, ways.weights, on, end)
    turns, before = _turns(best.steps, chosen, mounted)
    typed_turns, typed_last = _turns(typed.steps, chosen, mounted)
    back, typed_back = (_back(last, mounted) if put_back else None for last in (before, typed_last))
    put_on = sum(turn.handling.put_on for turn in typed_turns) + (typed_back.put_on if typed_back else 0)
    return LatheDay(turns, back, put_on, best.proven and every, tuple(left_out))


class _Places:
    """Every place that a train of these takes, and the levers, in one row."""

    def __init__(self, candidates: Sequence[Candidate], mounted: SetUp | None) -> None:
        trains = [c.train for c in candidates] + ([mounted.train] if mounted else [])
        self.places = sorted({place for train in trains for place in train.places})
        self.weights = [1.0] * len(self.places) + [_LEVER] * 2

    def of(self, train: Train, setting: LeverSetting) -> Way:
        return (*[train.places.get(place) for place in self.places], ("first", setting.first), ("box", setting.box))


def _turns(
    steps: Sequence[Step], chosen: Sequence[tuple[int, list[Candidate]]], mounted: SetUp | None
) -> tuple[tuple[Turn, ...], SetUp | None]:
    """The turns of an order, and what is on after the last."""
    turns, before = [], mounted
    for step in steps:
        n, some = chosen[step.ask]
        candidate = some[step.way]
        turns.append(Turn(n, candidate, _handled(SetUp.of(candidate), before)))
        before = SetUp.of(candidate)
    return tuple(turns), before


def _back(last: SetUp | None, mounted: SetUp | None) -> Handling | None:
    return _handled(mounted, last) if mounted else None


def _handled(now: SetUp, before: SetUp | None) -> Handling:
    levers = 0
    if before is not None:
        levers = (now.setting.first != before.setting.first) + (now.setting.box != before.setting.box)
    return handling(now.train, before.train if before else None, levers)
