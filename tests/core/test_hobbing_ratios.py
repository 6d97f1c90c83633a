"""What the trains of a hobber must come to, beside figures worked out apart and the motion itself."""

import math
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.cutting.run_off import Mark, RunOff, grade_of, run_off, slope_tolerance
from valleywind.core.cutting.wheel import lead_of_wheel
from valleywind.core.hobbing.machine import FeedSource, FeedWay
from valleywind.core.hobbing.ratios import (
    differential_ratio,
    index_ratio,
    indexed_as,
    making_up,
    ratio_without,
    run_off_without,
    work_faster,
)
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.exact import count_exact, exact_trains
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.search import search
from valleywind.core.units import PI, sine

AVOCET = parse_stock(
    "24 25 26 27 28 29 30 32 33 34 35 36 37 38 39 40 41 42 44 45 46 47 48 50 51 52 53 54 55 56 57 58 59 60 61 62 63 64"
    " 65 70 75 80 90 100"
)
TWENTY = parse_stock("24 25 27 30 32 34 37 40 41 45 47 48 51 53 57 60 64 71 75 80")
K_D = 25 / PI


@pytest.mark.parametrize("case", cases("hobbing_index"), ids=lambda c: f"{c['teeth']}x{c['starts']}")
def test_exact_index_trains_are_counted_as_apart(case: dict[str, int]) -> None:
    ratio = index_ratio(Fraction(case["constant"]), case["starts"], case["teeth"])
    assert str(ratio) == str(Fraction(case["ratio"]))
    assert count_exact(ratio, AVOCET, 1) == case["two_wheels"]
    assert count_exact(ratio, AVOCET, 2) == case["four_wheels"]
    some = exact_trains(ratio, AVOCET)
    assert len(some) == case["two_wheels"] + case["four_wheels"]
    assert all(c.ratio == ratio for c in some)


@pytest.mark.parametrize("case", cases("hobbing_helical"), ids=lambda c: str(c["teeth"]))
def test_helical_wheels_come_out_as_apart(case: dict[str, float]) -> None:
    module, helix = Fraction(str(case["module"])), Fraction(str(case["helix_deg"]))
    teeth, starts, feed = int(case["teeth"]), int(case["starts"]), Fraction(str(case["feed"]))
    face = Fraction(str(case["face"]))
    along = lead_of_wheel(module, teeth, helix)
    assert float(along) == pytest.approx(case["lead"], abs=5e-7)
    ratio = differential_ratio(K_D, module, helix, starts)
    assert float(ratio) == pytest.approx(case["differential_ratio"], rel=1e-14)
    best = search(ratio, TWENTY, (2,), 10)
    errors = [abs(float(f.error)) for f in best]
    assert errors == pytest.approx(case["ten_smallest_relative_errors"], rel=1e-9)
    assert run_off(face, helix, best[0].error) == pytest.approx(case["run_off_um_at_best"], rel=1e-9)
    for way, faster in (("faster", True), ("slower", False)):
        wanted = ratio_without(Fraction(24), starts, teeth, along, feed, faster)
        expected = case["index_without_differential"][way]  # type: ignore[index]
        assert float(wanted) == pytest.approx(expected, rel=1e-14)
        result = search(wanted, TWENTY, (2,), 5)
        expected = case["five_smallest_relative_errors_without"][way]  # type: ignore[index]
        assert [abs(float(f.error)) for f in result] == pytest.approx(expected, rel=1e-9)
        off = run_off_without(face, case["pitch_diameter"], feed, result[0].error)
        assert off == pytest.approx(case["run_off_um_without_at_best"][way], rel=1e-6)  # type: ignore[index]


@pytest.mark.parametrize("case", [c for c in cases("hobbing_setting") if "work" in c], ids=str)
def test_whether_the_work_turns_faster(case: dict[str, str]) -> None:
    table = Sense.ANTICLOCKWISE if case["table"] == "counter_clockwise" else Sense.CLOCKWISE
    assert work_faster(Hand(case["hand"]), table, FeedWay(case["feed"])) == (case["work"] == "faster")


@pytest.mark.parametrize("case", cases("hobbing_prime"), ids=lambda c: f"{c['teeth']} as {c['indexed_as']}")
def test_what_the_differential_makes_up(case: dict[str, object]) -> None:
    indexed, expected = Fraction(str(case["indexed_as"])), Fraction(str(case["differential_times_feed"]))
    result = making_up(int(str(case["teeth"])), indexed, 1, Fraction(3, 4), K_D, FeedSource.AFTER)
    assert (result.product if result.adds else -result.product) == expected
    assert count_exact(48 / indexed, AVOCET, 2) == case["index_trains"]


@given(
    st.integers(6, 200),
    st.fractions(Fraction(1, 100), Fraction(1, 2), max_denominator=500),
    st.booleans(),
    st.integers(1, 3),
    st.fractions(Fraction(1, 4), Fraction(3), max_denominator=40),
    st.sampled_from(FeedSource),
)  # fmt: skip
def test_the_making_up_replayed_turn_by_turn_divides_the_true_count(
    teeth: int, off: Fraction, more: bool, starts: int, feed_train: Fraction, taken: FeedSource
) -> None:
    """The machine from its gears up: the differential turns the way into the index train, so what it adds at the table
    is divided by the index train's own count."""
    k_i, k_f = Fraction(48), Fraction(3, 4)
    indexed = teeth + off if more else teeth - off
    train = k_i * starts / indexed
    assert indexed_as(k_i, starts, train) == indexed
    result = making_up(teeth, indexed, starts, k_f, K_D, taken)
    differential = result.product / feed_train
    hob_turns = Fraction(teeth, starts)  # that must turn the table once
    # Table turns that come of the hob alone, and per mm of feed by way of the differential: K_d is such that a train of
    # K_d sin β/(m_n s) adds 1 turn over the lead π m_n z′/sin β, whatever β: one turn in K_d π z′/(train s) mm.
    alone = hob_turns * train / k_i
    per_mm = differential * starts / (K_D * PI * indexed)
    sign = 1 if result.adds else -1
    feed = k_f * feed_train
    table = alone / (1 - sign * feed * per_mm) if taken is FeedSource.AFTER else alone * (1 + sign * feed * per_mm)
    assert table == 1
    assert result.share == abs(table - alone)


@pytest.mark.long
@given(st.fractions(Fraction(1, 10), Fraction(80), max_denominator=1000))
def test_sine_is_good_to_many_digits(degrees: Fraction) -> None:
    assert float(sine(degrees)) == pytest.approx(math.sin(math.radians(degrees)), rel=1e-14)
    assert abs(sine(degrees) ** 2 + sine(90 - degrees) ** 2 - 1) < Fraction(1, 10**38)
    assert sine(180 + degrees) == -sine(degrees) == -sine(180 - degrees)


def test_sine_is_exact_where_it_is_simple() -> None:
    assert [sine(Fraction(a)) for a in (0, 30, 90, 150, 270)] == [0, Fraction(1, 2), 1, Fraction(1, 2), -1]


def test_a_run_off_is_judged_by_grade() -> None:
    # By hand: (0.05 √64 + 0.35 √25 + 4) = 6.15 µm at grade 5, doubled every two grades.
    assert slope_tolerance(5, 64, 25) == pytest.approx(6.15)
    assert slope_tolerance(9, 64, 25) == pytest.approx(24.6)
    assert [grade_of(um, 64, 25) for um in (0.5, 6.1, 6.2, 17.3, 24.6, 69, 70)] == [0, 5, 6, 8, 9, 12, None]
    marks = {um: RunOff(um, grade_of(um, 64, 25)).mark for um in (0.0, 5.0, 20.0, 40.0, 90.0)}
    assert list(marks.values()) == [Mark.NONE, Mark.GOOD, Mark.RUNS, Mark.COARSE, Mark.NOT]
    assert RunOff(40.0, 11, pair=True).good
    assert not RunOff(40.0, 11).good
