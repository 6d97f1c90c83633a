"""The planner knows nothing of threads: worm pairs, boxes with one set of wheels, an index that must be exact."""

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from itertools import combinations, product
from math import prod
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.lathes import curlew, dunlin, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.machine import Lathe, LeverSetting, SetUp
from valleywind.core.lathe.plan import planner_for
from valleywind.core.lathe.verdict import Verdict
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY
from valleywind.core.trains import planner
from valleywind.core.trains.arrange import Arrangements, arrange
from valleywind.core.trains.direction import Drive, Hand, Sense
from valleywind.core.trains.gearbox import Gearbox, Requirement, Target
from valleywind.core.trains.model import Combination, Stock, lacking, parse_train
from valleywind.core.trains.planner import Order, Planner, ShortfallCause
from valleywind.core.trains.quadrant import UnmeasuredQuadrant

BOX = Gearbox(UNKNOWN_FAMILY, UnmeasuredQuadrant(studs=3))
PAIRS = (Target("1:2", Fraction(1, 2)), Target("2:1", Fraction(2)), Target("1:10", Fraction(1, 10)))


@dataclass(frozen=True)
class Exact:
    """An index train does or does not."""

    error: Fraction

    @property
    def good(self) -> bool:
        return self.error == 0

    @property
    def hopeless(self) -> bool:
        return self.error != 0

    @property
    def rank(self) -> int:
        return 0 if self.good else 1


def wanted(
    value: Fraction, targets: tuple[Target[str], ...] = PAIRS, hand: Hand | None = None
) -> Requirement[str, Exact]:
    return Requirement(value, targets, hand, Exact)


def by_brute_force(value: Fraction, stock: Stock) -> set[tuple[tuple[int, ...], tuple[int, ...], str]]:
    """Every exact combination of one or two stages with every pair, no wheel twice."""
    wheels = [t for t, n in sorted(stock.items()) for _ in range(min(n, 2))]
    results = set()
    for stages in (1, 2):
        for drivers in set(combinations(wheels, stages)):
            for driven in set(combinations(wheels, stages)):
                if lacking((*drivers, *driven), stock) or set(drivers) & set(driven):
                    continue
                for target in PAIRS:
                    if Fraction(prod(drivers), prod(driven)) * target.gives == value:
                        results.add((drivers, driven, target.setting))
    return results


STOCKS = st.dictionaries(st.integers(20, 60), st.integers(1, 2), min_size=5, max_size=7)


@settings(max_examples=30, deadline=None)
@given(STOCKS, st.data())
def test_every_exact_way_is_found_over_wheels_and_pairs_together(stock: Stock, data: st.DataObject) -> None:
    """Wanted is what four of the wheels give with one of the pairs, so that there is always a way."""
    a, b, c, d = data.draw(st.permutations(sorted(stock)).map(lambda teeth: teeth[:4]))
    value = Fraction(a * b, c * d) * data.draw(st.sampled_from(PAIRS)).gives
    outcome = Planner(wanted(value), BOX, stock).plan(Order.MOST_EXACT, best=500)
    shown = {(c.train.combination.drivers, c.train.combination.driven, c.setting) for c in outcome.candidates if c.good}
    every = by_brute_force(value, stock)
    # One that has no room for certain is not shown; all others are.
    assert shown == {way for way in every if _can_go(*way[:2])}
    for one in outcome.candidates:
        assert one.value == one.train.ratio * next(t.gives for t in PAIRS if t.setting == one.setting)
        assert one.error == one.value / value - 1


def _can_go(drivers: tuple[int, ...], driven: tuple[int, ...]) -> bool:
    """Whether some order of the wheels keeps clear of the shafts; a single stage takes an idler."""
    if len(drivers) == 1:
        return True
    (a, c), (b, d) = drivers, driven
    ways = [(p, q, r, s) for p, r in ((a, c), (c, a)) for q, s in ((b, d), (d, b))]
    return any(q + 2 < r + s and r + 2 < p + q for p, q, r, s in ways)


def test_boxes_that_share_one_set_use_no_wheel_twice() -> None:
    """An index train of 24/37 and a feed train of 2/3 from one set: what is on in one box is not free for the other."""
    stock = dict.fromkeys([24, 30, 36, 37, 40, 45, 48, 60], 1)
    one = (Target("24", Fraction(1)),)
    index = Planner(wanted(Fraction(24, 37), one), BOX, stock).plan().candidates[0]
    assert index.error == 0
    left = dict(Counter(stock) - Counter(index.train.teeth))
    feed = Planner(wanted(Fraction(2, 3), one), BOX, left).plan().candidates[0]
    assert feed.error == 0
    assert not set(index.train.teeth) & set(feed.train.teeth)


@pytest.mark.parametrize("hand", [Hand.RIGHT, Hand.LEFT])
def test_an_idler_gives_the_hand_where_there_is_no_lever(hand: Hand) -> None:
    drive = Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, reverse_lever=False)
    box = Gearbox(UNKNOWN_FAMILY, UnmeasuredQuadrant(studs=3), drive=drive)
    stock = dict.fromkeys([20, 30, 40, 50, 60], 1)
    result = Planner(wanted(Fraction(1, 2), PAIRS[1:2], hand), box, stock).plan().candidates
    assert result
    assert {c.train.meshes % 2 for c in result} == ({0} if hand is Hand.RIGHT else {1})


def test_beyond_the_range_and_nothing_near_are_told_apart() -> None:
    stock = dict.fromkeys([20, 30, 40, 50, 60], 1)
    causes = [
        Planner(wanted(value, PAIRS[:1]), BOX, stock).plan().shortfall
        for value in (Fraction(1, 100), Fraction(100), Fraction(1, 2) * Fraction(37, 41))
    ]
    assert [c.cause for c in causes if c] == [
        ShortfallCause.LESS_THAN_LEAST, ShortfallCause.MORE_THAN_MOST, ShortfallCause.NOTHING_NEAR,
    ]  # fmt: skip


def test_a_measured_gearbox_is_the_lathes() -> None:
    """The lathe tells the planner what a gearbox tells it, and nothing else decides."""
    lathe, stock = plover()
    box = lathe.gearbox
    assert (box.family, box.quadrant, box.drive) == (lathe.family, lathe.quadrant, lathe.drive)
    plain = Planner(wanted(Fraction(60, 127), (Target("", Fraction(1)),), Hand.RIGHT), box, stock).plan()
    assert plain.shortfall is not None
    assert plain.candidates[0].train.ratio != Fraction(60, 127)


@pytest.mark.parametrize("idler", range(36, 40))
def test_an_idler_that_is_on_stays_though_others_have_more_room(idler: int) -> None:
    """Of a large set only some idlers are tried; the one that is on is always among them."""
    on = parse_train(f"40/{idler}/60")
    need = Requirement(Fraction(2, 3), (Target("", Fraction(1)),), None, Exact, on)
    result = Planner(need, BOX, dict.fromkeys(range(20, 100), 1)).plan(best=40)
    kept = [c for c in result.candidates if c.train.combination == on.combination]
    assert [c.train for c in kept] == [on]
    assert kept[0].handling.none


ASKS = ("M14x2", "26 tpi", "0.35 mm", "lead 40 mm", "module 1.5 worm", "feed 0.1", "M6 left", "M10 within 0.001%")
ON = {
    plover: ("36/64*32/78", "66/56*32/80"),
    curlew: ("30/120", "20/40*50/80"),
    dunlin: ("20/80*50/60", "24/57/120"),
}


@pytest.mark.long
@pytest.mark.parametrize("order", Order)
@pytest.mark.parametrize("lathe_of", ON, ids=lambda of: of.__name__)
def test_what_is_not_laid_out_would_not_be_shown(
    lathe_of: Callable[[], tuple[Lathe, Stock]], order: Order, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A few at a time, until nothing else can come among those shown, gives the plan of all of them laid out."""
    lathe, stock = lathe_of()
    # More wheels than are held: many trains are good, and most of them are left out.
    more: Stock = {**stock, **dict.fromkeys(range(20, 70), 1)}
    on_now = [None, *(SetUp(parse_train(train), lathe.settings[-1]) for train in ON[lathe_of])]
    laid_out: list[int] = []

    def counting(some: list[Combination], *rest: Any) -> list[Arrangements]:
        laid_out.append(len(some))
        return arrange(some, *rest)

    monkeypatch.setattr(planner, "arrange", counting)
    spared = 0
    cases = [(text, on, more, (1, 12, 40)[n % 3]) for n, (text, on) in enumerate(product(ASKS, on_now))]
    cases += [("M14x2", on, stock, 1) for on in on_now]
    for text, mounted, held, best in cases:
        ask = read(text).ask
        assert ask is not None
        looked_at = []
        for stretch in (10_000, 3):
            monkeypatch.setattr(planner, "_STRETCH", stretch)
            laid_out.clear()
            plan = planner_for(ask, lathe, held, mounted).plan(order, best)
            looked_at.append((listed(plan), sum(laid_out)))
        (every, cost), (few, less) = looked_at
        assert few == every, (text, mounted)
        spared += less < 0.7 * cost
    assert spared >= 3


def listed(plan: planner.Outcome[LeverSetting, Verdict]) -> tuple[object, ...]:
    """What is shown of a plan, with the place of every wheel."""
    trains = [(c.train, c.setting, c.handling, c.placement) for c in plan.candidates]
    beside = [c and (c.train, c.setting) for c in (plan.most_exact_unfit, plan.one_more)]
    return trains, beside, plan.shortfall, plan.cut_short
