from collections import Counter
from collections.abc import Collection, Sequence
from fractions import Fraction
from itertools import combinations_with_replacement
from math import prod

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.refusal import Refusal
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.model import Combination, Stock, parse_stock
from valleywind.core.trains.search import Approximation, by_merit, floor, nearest_ratios, search, search_each
from valleywind.core.trains.worth import Near, with_each_of


def with_each(
    targets: Sequence[Fraction],
    stock: Stock,
    counts: Collection[int],
    within: float,
    most: int,
    first: Collection[int] = (),
    last: Collection[int] = (),
) -> dict[int, list[tuple[int, Approximation]]]:
    """What each of some new wheels brings of one line."""
    line = Near(targets, np.array([float(t) for t in targets]), counts, within)
    return with_each_of([line], stock, most, first, last)[0]


def brute_force(target: Fraction, stock: dict[int, int], stages: list[int]) -> list[Fraction]:
    """Every |error|, ascending, by trying everything."""
    errors = []
    for size in stages:
        sides = [c for c in combinations_with_replacement(sorted(stock), size) if not Counter(c) - Counter(stock)]
        errors += [
            abs(Fraction(prod(over), prod(under)) / target - 1)
            for over in sides
            for under in sides
            if not set(over) & set(under)
        ]
    return sorted(errors)


@pytest.mark.parametrize("case", cases("trains"), ids=lambda c: f"{c['why']}, {len(c['stock'])} counts")
def test_reference_trains(case: dict) -> None:  # type: ignore[type-arg]
    stock = {int(teeth): held for teeth, held in case["stock"].items()}
    target = Fraction(case["target"])
    result = search(target, stock, case["stages"], 10)
    assert [abs(float(f.error)) for f in result] == pytest.approx(
        case["ten_smallest_relative_errors"], rel=1e-12, abs=0
    )
    best = case["best"]
    assert abs(result[0].error) == abs(Fraction(best["ratio"]) / target - 1)
    everything = search(target, stock, case["stages"], 2000)
    assert sum(abs(f.error) <= Fraction(1, 1000) for f in everything) == case["within_0_1_percent"]
    assert any(
        list(f.combination.drivers) == best["drivers"] and list(f.combination.driven) == best["driven"]
        for f in everything
    )


stocks = st.dictionaries(st.integers(12, 60), st.integers(1, 3), min_size=1, max_size=6)
targets = st.fractions(min_value=Fraction(1, 300), max_value=300, max_denominator=400).filter(bool)


@pytest.mark.long
@settings(max_examples=120, deadline=None)
@given(targets, stocks, st.sampled_from([[1], [2], [1, 2], [3], [1, 2, 3]]), st.integers(1, 30))
def test_search_equals_brute_force(target: Fraction, stock: dict[int, int], stages: list[int], best: int) -> None:
    result = search(target, stock, stages, best)
    assert [abs(f.error) for f in result] == brute_force(target, stock, stages)[:best]
    for one in result:
        drivers, driven = Counter(one.combination.drivers), Counter(one.combination.driven)
        assert not set(drivers) & set(driven)
        assert all(n <= stock[t] for t, n in (drivers + driven).items())
        assert one.error == one.combination.ratio / target - 1


@pytest.mark.long
@settings(max_examples=8, deadline=None)
@given(targets, st.sets(st.integers(20, 120), min_size=18, max_size=22), st.integers(1, 40))
def test_narrowing_down_on_a_large_stock_loses_nothing(target: Fraction, teeth: set[int], best: int) -> None:
    stock = dict.fromkeys(teeth, 1)
    assert [abs(f.error) for f in search(target, stock, [2], best)] == brute_force(target, stock, [2])[:best]


def test_fixed_wheels_stay_in_the_train() -> None:
    stock = parse_stock("20 24 30x2 36 40 45 60 80")
    free = search(Fraction(2, 5), stock, [1, 2], 5000)
    held = search(Fraction(2, 5), stock, [1, 2], 5000, first=[30], last=[80])
    assert held == [f for f in free if 30 in f.combination.drivers and 80 in f.combination.driven]
    with pytest.raises(Refusal, match="first: not_held"):
        search(Fraction(2, 5), stock, [1, 2], first=[31])


@pytest.mark.long
@settings(max_examples=25, deadline=None)
@given(targets, st.sets(st.integers(20, 60), min_size=4, max_size=7), st.sampled_from([0.001, 0.02, 0.3]))
def test_with_each_new_wheel_is_what_holding_it_would_give(target: Fraction, teeth: set[int], within: float) -> None:
    stock = dict.fromkeys(teeth, 1)
    result = with_each([target, 2 * target], stock, range(20, 61, 3), within, most=5)
    for new in set(range(20, 61, 3)) - teeth:
        held = [
            f
            for wanted in (target, 2 * target)
            for f in search(wanted, stock | {new: 1}, [1, 2], 20_000)
            if new in f.combination.drivers + f.combination.driven and abs(f.error) <= within
        ]
        errors = [abs(f.error) for _, f in result.get(new, [])]
        assert errors == sorted(abs(f.error) for f in held)[:5]
        for n, f in result.get(new, []):
            assert f.error == f.combination.ratio / (1 + n) / target - 1


def test_a_new_wheel_may_drive_first_and_the_last_one_stays() -> None:
    stock = parse_stock("20 30 40 50 60")
    result = with_each([Fraction(2, 5)], stock, [35, 45], 0.1, most=50, first=[20], last=[60])
    for new, hits in result.items():
        for _, f in hits:
            assert {20, new} & set(f.combination.drivers)
            assert 60 in f.combination.driven
    assert with_each([Fraction(2, 5)], stock, [20, 30], 0.1, most=5) == {}


def test_floor_is_no_worse_than_any_stock_below_it() -> None:
    target = Fraction(311, 1000)
    assert floor([target], 20, 60, 2) <= abs(search(target, parse_stock("20 24 30 36 45 48 60"), [2], 1)[0].error)
    assert floor([Fraction(20, 60)], 20, 60, 1) == 0
    assert floor([Fraction(1, 7), Fraction(20, 60)], 20, 60, 1) == 0


def test_floor_keeps_to_the_wheels_that_alone_may_stand_there() -> None:
    """A ratio that any wheels give exactly, but not with 24 or 36 on the first shaft and 64 on the last."""
    target, every = Fraction(25, 53), range(20, 81)
    assert floor([target], 20, 80, 2) == 0
    best = min(
        abs(Fraction(first * driver, driven * 64) / target - 1)
        for first in (24, 36)
        for driver in every
        for driven in every
        if {first, driver}.isdisjoint({driven, 64})
    )
    assert floor([target], 20, 80, 2, (24, 36), (64,)) == best > 0


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "empty"),
        ("24, 4O", "not_a_wheel"),
        ("24 12.5", "not_a_wheel"),
        ("0", "teeth_out_of_range"),
        ("24x0", "too_many_of_one"),
    ],
)
def test_a_stock_that_cannot_be_is_refused(text: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        parse_stock(text)
    assert caught.value.code == code


def test_a_stock_may_repeat_and_multiply() -> None:
    assert parse_stock("24, 28;32x2 36 32") == {24: 1, 28: 1, 32: 3, 36: 1}


@pytest.mark.long
@given(st.lists(targets, min_size=1, max_size=4, unique=True), stocks, st.integers(1, 8), st.floats(0, 0.3))
def test_within_a_bound_is_what_lies_within_it(
    wanted: list[Fraction], stock: dict[int, int], best: int, within: float
) -> None:
    if len(stock) > 1:
        every = search_each(wanted, stock, (1, 2), best)
        near = search_each(wanted, stock, (1, 2), best, within=within)
        assert [f for f in near if f[1].size <= within] == [f for f in every if f[1].size <= within]


@pytest.mark.long
@given(st.lists(targets, min_size=2, max_size=4, unique=True), stocks, st.sets(st.integers(20, 60), max_size=4))
def test_several_targets_at_once_are_each_by_itself(
    wanted: list[Fraction], stock: dict[int, int], counts: set[int]
) -> None:
    together = with_each(wanted, stock, counts, 0.2, 50)
    alone: dict[int, list[tuple[int, Approximation]]] = {}
    for n, target in enumerate(wanted):
        for teeth, near in with_each([target], stock, counts, 0.2, 50).items():
            alone.setdefault(teeth, []).extend((n, f) for _, f in near)
    assert {t: set(near) for t, near in together.items()} == {
        t: set(sorted(near, key=by_merit)[:50]) for t, near in alone.items()
    }


@given(st.fractions(Fraction(1, 4), 4, max_denominator=12), st.integers(1, 20))
def test_the_handiest_exact_trains_are_the_first_of_all(ratio: Fraction, most: int) -> None:
    stock = dict.fromkeys(range(20, 61, 4), 1)
    every = exact_trains(ratio, stock)
    assert list(every) == sorted(every, key=lambda c: (c.stages, -min(c.wheels), c.drivers))
    for stages in (1, 2):
        some = list(exact_trains(ratio, stock, (stages,), most))
        assert some == [c for c in every if c.stages == stages][:most]


@pytest.mark.long
@pytest.mark.parametrize("target", [Fraction(2), Fraction(48, 107), Fraction(1), Fraction(13, 977), Fraction(10**6)])
@pytest.mark.parametrize("stock", [parse_stock("20 24 30 40x2 45 50 60 67 80"), dict.fromkeys(range(20, 34), 1)])
def test_the_nearest_other_ratios_are_those_of_every_train(target: Fraction, stock: Stock) -> None:
    every: dict[Fraction, set[Combination]] = {}
    for result in search(target, stock, (1, 2), 10**6):
        if result.error:
            every.setdefault(result.combination.ratio, set()).add(result.combination)
    near = nearest_ratios(target, stock, (1, 2), 12, 10**6)
    assert len(near) == 12
    sizes = [abs(ratio / target - 1) for ratio, _ in near]
    assert sizes == sorted(abs(ratio / target - 1) for ratio in every)[:12]
    assert all(set(trains) == every[ratio] for ratio, trains in near)
    # The first few of each are the best of it.
    for (ratio, trains), (_, few) in zip(near, nearest_ratios(target, stock, (1, 2), 12, 3), strict=True):
        assert [(c.stages, -min(c.wheels)) for c in few] == sorted((c.stages, -min(c.wheels)) for c in trains)[:3], (
            ratio
        )
