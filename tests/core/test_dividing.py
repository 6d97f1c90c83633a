"""Every way of dividing against independent figures; exact ways close on a full turn, the others say how far off."""

from fractions import Fraction
from itertools import combinations_with_replacement
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.dividing.ways import (
    best_nearest,
    compound,
    degrees,
    differential,
    direct,
    nearest,
    rounded,
    serving_circle,
    simple,
)
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.model import Combination

SIDES = ((15, 18, 21, 29, 37, 43), (16, 19, 23, 31, 39, 47), (17, 20, 27, 33, 41, 49))
CIRCLES = tuple(sorted(c for side in SIDES for c in side))
GEARS = {24: 2, 28: 1, 32: 1, 40: 1, 44: 1, 48: 1, 56: 1, 64: 1, 72: 1, 86: 1, 100: 1}
RATIOS = st.sampled_from([Fraction(n) for n in (5, 40, 60, 72, 90)])


def name(case: dict[str, Any]) -> str:
    return f"{case['divisions']} at {case['worm_ratio']}"


@pytest.mark.parametrize("case", cases("dividing_simple"), ids=name)
def test_reference_simple(case: dict[str, Any]) -> None:
    result = simple(Fraction(case["worm_ratio"]), case["divisions"], case["circles"])
    assert [vars(s) for s in result] == case["simple"]


@pytest.mark.parametrize("case", cases("dividing_compound"), ids=name)
def test_reference_compound(case: dict[str, Any]) -> None:
    result = compound(Fraction(case["worm_ratio"]), case["divisions"], case["plates"])
    assert [vars(c) for c in result] == case["some"]


@pytest.mark.parametrize("case", cases("dividing_differential"), ids=name)
def test_reference_differential(case: dict[str, Any]) -> None:
    stock = {int(t): n for t, n in case["stock"].items()}
    result = differential(Fraction(case["worm_ratio"]), case["divisions"], case["circles"], stock)
    rows = [
        {
            "indexed_as": d.indexed_as, "gear_ratio": "{}/{}".format(*d.gear_ratio.as_integer_ratio()),
            "simple": [vars(s) for s in d.simple],
            "trains": len(d.trains),
        }
        for d in sorted(result, key=lambda d: d.indexed_as)
    ]  # fmt: skip
    assert rows == case["settings"]
    for setting in result:
        assert all(t.ratio == abs(setting.gear_ratio) for t in setting.trains)


@given(RATIOS, st.integers(2, 400))
def test_exact_ways_replayed_move_by_move_close_on_a_full_turn(ratio: Fraction, divisions: int) -> None:
    for setting in simple(ratio, divisions, CIRCLES):
        pin = turns = 0
        for _ in range(divisions):
            turns += setting.turns + (pin + setting.holes) // setting.circle
            pin = (pin + setting.holes) % setting.circle
        assert turns == ratio
        assert pin == 0
        assert len(setting.repeats()) == setting.circle // max(1, _common(setting.holes, setting.circle))
    for both in compound(ratio, divisions, SIDES):
        assert both.crank * divisions == ratio
        assert next(side for side in SIDES if both.circle_1 in side) == next(s for s in SIDES if both.circle_2 in s)
    for geared in differential(ratio, divisions, CIRCLES, GEARS):
        for setting in geared.simple:
            # The crank is counted against the plate; in the work's one turn the plate has turned as geared.
            assert setting.crank * divisions + geared.gear_ratio == ratio


def _common(a: int, b: int) -> int:
    while b:
        a, b = b, a % b
    return a


@given(RATIOS, st.integers(2, 400), st.sampled_from(CIRCLES))
def test_rounding_by_itself_never_gathers(ratio: Fraction, divisions: int, circle: int) -> None:
    step = ratio * circle / divisions
    off = [abs(rounded(step, k) - k * step) for k in range(divisions + 1)]
    result = nearest(ratio, divisions, circle)
    assert max(off) == result.worst <= Fraction(1, 2)
    assert off[-1] == 0
    assert result.error == result.worst * 360 / (ratio * circle)


@given(RATIOS, st.integers(2, 400))
def test_the_circle_that_serves_serves(ratio: Fraction, divisions: int) -> None:
    holes = serving_circle(ratio, divisions)
    assert simple(ratio, divisions, [holes, 2 * holes])
    assert not any(simple(ratio, divisions, [h]) for h in range(1, holes))


def test_nearest_of_all_circles_is_the_least_off() -> None:
    best = best_nearest(Fraction(40), 127, CIRCLES)
    assert best is not None
    assert best.error == min(nearest(Fraction(40), 127, c).error for c in CIRCLES)
    assert best_nearest(Fraction(40), 127, []) is None


@pytest.mark.parametrize(("divisions", "arc_seconds"), [(36, 0), (7, 1542), (360, 0), (127, 1785)])
def test_by_degrees(divisions: int, arc_seconds: int) -> None:
    result = degrees(divisions, Fraction(1))
    assert int(result.error * 3600) == arc_seconds
    off = [abs(rounded(Fraction(360, divisions), k) - Fraction(360 * k, divisions)) for k in range(divisions)]
    assert result.error == max(off)


def test_a_plate_on_the_spindle() -> None:
    assert [(d.holes, d.spaces) for d in direct(12, [24, 30, 36])] == [(24, 2), (36, 3)]


def test_idlers_turn_the_plate_the_right_way() -> None:
    for setting in differential(Fraction(40), 127, CIRCLES, GEARS):
        for train in setting.trains:
            axes = train.stages + setting.idlers(train)
            assert axes % 2 == (0 if setting.gear_ratio > 0 else 1)


@pytest.mark.long
@given(st.sets(st.integers(20, 60), min_size=4, max_size=8), st.data())
def test_exact_trains_are_all_there_are(teeth: set[int], data: st.DataObject) -> None:
    stock = {t: 1 + t % 2 for t in teeth}
    sides = [c for size in (1, 2) for c in combinations_with_replacement(sorted(teeth), size)
             if all(c.count(t) <= stock[t] for t in c)]  # fmt: skip
    every = {Combination(a, b) for a in sides for b in sides if len(a) == len(b) and not set(a) & set(b)}
    ratio = data.draw(st.sampled_from(sorted({c.ratio for c in every})))
    result = exact_trains(ratio, stock)
    assert set(result) == {c for c in every if c.ratio == ratio}
    handy = [(c.stages, -min(c.drivers + c.driven)) for c in result]
    assert handy == sorted(handy)


def test_a_set_of_every_wheel_has_its_handiest_trains() -> None:
    full = dict.fromkeys(range(20, 128), 2)
    result = exact_trains(Fraction(1, 2), full)
    assert result[0] == Combination((63,), (126,))
    assert all(c.ratio == Fraction(1, 2) for c in result)
    assert 500 < len(result) <= 2000
    assert differential(Fraction(60), 127, CIRCLES, full)
