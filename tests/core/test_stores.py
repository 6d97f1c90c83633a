"""Sets compared, donors, bars, bought wheels, cutters."""

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.dividing.heads import TypedHead, read_head, spell_plates
from valleywind.core.hobbing.machine import TypedHobber, read_hobber
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import (
    Cutter,
    School,
    numbering,
    range_of_eight,
    range_of_fifteen,
    read_range,
    school,
    serving,
    sets,
    substitute,
)
from valleywind.core.teeth.donors import Bar, WheelToCutDown, Work, adapting, donors, from_bar
from valleywind.core.teeth.geometry import root_radius, tip_radius
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.sets import compare
from valleywind.core.units import PI

STOCKS = st.dictionaries(st.integers(12, 130), st.integers(1, 4), max_size=8)
FAMILY = WheelFamily("f", Pitch(PitchSystem.MODULE, Fraction(2)), Fraction(20), Fraction(25), Fraction(6), Fraction(16))


@given(listed=STOCKS, there=STOCKS)
def test_nothing_is_lost_between_list_and_box(listed: dict[int, int], there: dict[int, int]) -> None:
    result = compare(listed, there)
    for teeth in {*listed, *there}:
        held = result.held.get(teeth, 0)
        assert held + result.missing.get(teeth, 0) == listed.get(teeth, 0)
        assert held + result.double.get(teeth, 0) + result.foreign.get(teeth, 0) == there.get(teeth, 0)
    assert not set(result.foreign) & set(listed)


@pytest.mark.parametrize(
    ("lowest", "inch", "metric"),
    [(12, "8", "1"), (23, "9/2", "9/2"), (26, "4", "5"), (80, "3/2", "15/2"), (135, "1", "8")],
)
def test_both_schools_number_a_cutter(lowest: int, inch: str, metric: str) -> None:
    numbers = numbering(lowest)
    assert numbers is not None
    assert (numbers.inch, numbers.metric) == (Fraction(inch), Fraction(metric))


@pytest.mark.parametrize(
    ("engraved", "lowest", "result"),
    [
        ("4", 26, School.INCH), ("No 5", 26, School.METRIC), ("4½", 23, None), ("3", 26, None), ("", 26, None),
        ("1½", 80, School.INCH), ("7 1/2", 80, School.METRIC),
    ],
)  # fmt: skip
def test_the_school_is_found_from_the_number(engraved: str, lowest: int, result: School | None) -> None:
    assert school(engraved, lowest) is result


@given(teeth=st.integers(12, 400))
def test_every_count_has_one_cutter_of_either_set(teeth: int) -> None:
    usual, half = range_of_eight(teeth), range_of_fifteen(teeth)
    assert usual
    assert half
    (low, high), (half_low, half_high) = usual, half
    assert low <= half_low <= teeth
    assert high is None or teeth <= (half_high or 0) <= high


@given(teeth=st.integers(6, 11))
def test_no_cutter_of_a_set_is_named_for_a_count_that_none_cuts(teeth: int) -> None:
    assert range_of_eight(teeth) is None
    assert range_of_fifteen(teeth) is None


def cutter(low: int, high: int | None, **more: object) -> Cutter:
    return Cutter(FAMILY.pitch, FAMILY.pressure_angle, low, high, **more)  # type: ignore[arg-type]


def test_the_truest_held_cutter_serves() -> None:
    held = [cutter(55, 134), cutter(80, 134), cutter(21, 25, condition=Condition.CHIPPED), cutter(12, 13, count=0)]
    assert [c.lowest for c in serving(held, FAMILY, 100)] == [80, 55]
    assert [c.lowest for c in serving(held, FAMILY, 60)] == [55]
    assert serving(held, FAMILY, 22) == []
    (result,) = sets(held)
    assert (12, 13) in result.gaps
    assert (21, 25) in result.gaps
    assert result.counts == ((55, 134),)


def test_instead_of_a_lacking_cutter_the_next_for_fewer_teeth() -> None:
    held = [cutter(21, 25), cutter(26, 34), cutter(80, 134), cutter(35, 54, condition=Condition.CHIPPED)]
    assert substitute(held, FAMILY, 40) == held[1]
    assert substitute(held, FAMILY, 20) is None
    assert substitute(held, replace(FAMILY, pressure_angle=Fraction(14)), 40) is None


@pytest.mark.parametrize(
    ("text", "result"), [("26-34", (26, 34)), ("135–rack", (135, None)), ("135+", (135, None)), ("12", (12, 12))]
)
def test_a_range_is_read_as_engraved(text: str, result: tuple[int, int | None]) -> None:
    assert read_range(text) == result


@given(teeth=st.integers(12, 120), donor=st.integers(12, 140))
def test_a_donor_keeps_metal_for_every_new_tooth(teeth: int, donor: int) -> None:
    result = donors(teeth, FAMILY, [WheelToCutDown(1, donor, Condition.GOOD, False, 0)])
    assert bool(result) == (root_radius(donor, FAMILY) >= tip_radius(teeth, FAMILY))


def test_the_donor_that_is_missed_least_comes_first() -> None:
    held = [
        WheelToCutDown(1, 40, Condition.GOOD, spare=False, used=5),
        WheelToCutDown(2, 60, Condition.GOOD, spare=False, used=0),
        WheelToCutDown(3, 70, Condition.CHIPPED, spare=True, used=3),
        WheelToCutDown(4, 33, Condition.GOOD, spare=True, used=0),
    ]  # fmt: skip
    assert [d.held.record for d in donors(30, FAMILY, held)] == [3, 2, 1]


def test_a_bar_must_give_every_blank_and_the_chucks_grip() -> None:
    stock = [Bar(1, "steel", 70, 100), Bar(2, "steel", 66, 54), Bar(3, "steel", 66, 56), Bar(4, "brass", 60, 900)]
    # A 30: 64 mm over the tips; two blanks of 16 + 1 + 3 mm and 15 in the chuck.
    result = from_bar(30, FAMILY, Fraction(0), stock, blanks=2)
    assert [(f.bar.record, f.left) for f in result] == [(3, 16.0), (1, 60.0)]


def test_bought_wheels_tell_their_work() -> None:
    steps = adapting(FAMILY, Fraction(4), Fraction(26), Fraction(8), Fraction(14), Fraction(0))
    assert [(s.work, s.size, s.to) for s in steps] == [
        (Work.SLEEVE_BORE, 26, 25), (Work.NEW_KEY, 8, 6), (Work.THIN_FACE, 14, 16), (Work.WASHER, 0, 6),
    ]  # fmt: skip


def test_records_are_read_as_typed() -> None:
    head = read_head(TypedHead("72 : 1", "15 18@60 / 16", "24", reads="5'"))
    assert (head.ratio, head.circles, head.reads) == (Fraction(72), (15, 16, 18), Fraction(1, 12))
    assert spell_plates(head.sides) == "15 18@60 / 16"
    hobber = read_hobber(TypedHobber("24, 48 from 97", "0.03 in", "25/π mm"))
    assert [hobber.index_for(teeth).constant for teeth in (96, 97)] == [24, 48]
    assert hobber.differential == 25 / PI
    for ratio in ("0", "1/2", "1e3", "-4"):
        with pytest.raises(Refusal) as refused:
            read_head(TypedHead(ratio))
        assert refused.value.field == "ratio"


@given(st.integers(2, 400))
def test_plain_indexing_is_a_whole_number_of_holes(divisions: int) -> None:
    head = read_head(TypedHead(ratio="72", plates="15 18 21 29 37 43 / 16 19 23", direct="24"))
    direct = any(divisions * k == 24 for k in range(1, 25))
    crank = any(divisions * k == 72 * c for c in head.circles for k in range(1, 72 * c // 2 + 1))
    assert head.divides_plainly(divisions) == (direct or crank)
