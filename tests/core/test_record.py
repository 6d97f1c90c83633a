import math
from dataclasses import replace
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.lathe.machine import Dial, LeverPosition
from valleywind.core.lathe.record import TypedLathe, read_record
from valleywind.core.lathe.thread import PitchUnit
from valleywind.core.refusal import Refusal
from valleywind.core.trains.arrange import Pair
from valleywind.core.trains.quadrant import Slot
from valleywind.core.trains.quadrant_record import (
    QuadrantFacts,
    QuadrantFigures,
    Readings,
    TypedSlot,
    from_calipers,
    read_quadrant,
    spell_quadrant,
)
from valleywind.core.units import MM_PER_INCH

WREN = TypedLathe(
    name="Wren", screw="8 tpi", first_x="60", first_y="120 mm", swing_low="20°", swing_high="120", collar_first="24",
    collar_stud="20", collar_last="24", gap="", studs="2",
    slots=(TypedSlot("0", "50", "180"), TypedSlot("−35", "60", "170")),
    cover="-150 -110, 180 -110\n180 280, -150 280", first="low=1/2, high=2", box="A=1, B=8/9", first_drivers="24 32",
    last_driven="64", pairs="127/120", dials="24/8, 15/3", feed_across="0.022 in",
)  # fmt: skip


def test_a_record_is_read_field_by_field() -> None:
    result = read_record(WREN)
    assert (result.screw_lead, result.screw_stated) == (MM_PER_INCH / 8, PitchUnit.TPI)
    assert result.first == (LeverPosition("low", Fraction(1, 2)), LeverPosition("high", Fraction(2)))
    assert result.box[1] == LeverPosition("B", Fraction(8, 9))
    assert (result.first_drivers, result.last_driven, result.pairs) == ((24, 32), (64,), (Pair(127, 120),))
    assert result.dials == (Dial(24, 8), Dial(15, 3))
    assert (result.feed_along, result.feed_across) == (None, Fraction(22, 1000) * MM_PER_INCH)
    quadrant = result.quadrant
    assert quadrant.first_shaft == (60, 120)
    assert quadrant.slots[1].offset == pytest.approx(math.radians(-35))
    assert (quadrant.gap, quadrant.studs) == (0, 2)
    assert quadrant.cover is not None
    assert len(quadrant.cover) == 4


@pytest.mark.parametrize(
    ("changes", "field", "code"),
    [
        ({"name": " "}, "name", "empty"), ({"screw": "steel"}, "screw", "not_a_screw"),
        ({"screw": ""}, "screw", "empty"),
        ({"screw": "feed 0.1"}, "screw", "not_a_screw"), ({"first": "0"}, "first", "not_positive"),
        ({"box": "A=1, A=2"}, "box", "steps_alike"), ({"first_drivers": "4O"}, "first_drivers", "not_a_wheel"),
        ({"pairs": "127-120"}, "pairs", "not_two_numbers"), ({"dials": "24/0"}, "dials", "not_two_numbers"),
        ({"feed_along": "slow"}, "feed_along", "not_a_number"),
        ({"first_x": "0", "first_y": "0"}, "first_x", "shafts_in_one_place"),
        ({"first_x": "9999"}, "first_x", "too_far"), ({"swing_high": "10"}, "swing_high", "swing_backwards"),
        ({"swing_low": "720"}, "swing_low", "angle_too_large"), ({"studs": "7"}, "studs", "studs_out_of_range"),
        ({"slots": (TypedSlot("0", "90", "50"),)}, "slots.0", "slot_backwards"),
        ({"collar_stud": "-3"}, "collar_stud", "not_positive"), ({"cover": "1 2, 3"}, "cover", "not_a_corner"),
        ({"cover": "1 2, 3 4"}, "cover", "too_few_corners"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_at_its_field(changes: dict[str, Any], field: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        read_record(replace(WREN, **changes))
    assert (caught.value.field, caught.value.code) == (field, code)


@given(st.floats(20, 300), st.floats(-0.99, 0.99), st.floats(5, 60), st.floats(5, 60), st.floats(5, 60))
def test_calipers_find_shaft_and_slot_where_they_are(
    apart: float, share: float, first: float, last: float, stud: float
) -> None:
    height, near, far = apart * share, apart / 3, apart / 2
    over = [d + (a + last) / 2 for d, a in ((apart, first), (near, stud), (far, stud))]
    taken = from_calipers(Readings(first, last, over[0], stud, over[1], over[2], height))
    assert (taken.apart, taken.nearest, taken.farthest) == pytest.approx((apart, near, far))
    assert taken.first_shaft is not None
    assert math.hypot(*taken.first_shaft) == pytest.approx(apart)
    assert taken.first_shaft[1] == height
    assert from_calipers(Readings(first, last, over[0])) == QuadrantFigures(taken.apart, None, None, None)


@pytest.mark.parametrize(
    ("readings", "field", "code"),
    [
        (Readings(32, 32, 100, height=90), "over", "calipers_do_not_close"),
        (Readings(32, 32, 30), "over", "calipers_do_not_close"),
        (Readings(32, 32, 100, 20, 25), "inner", "calipers_do_not_close"),
        (Readings(32, 32, 100, inner=60), "stud", "empty"),
        (Readings(32, 32, 100, 20, 90, 60), "outer", "slot_backwards"),
    ],
)
def test_readings_that_cannot_be_are_refused(readings: Readings, field: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        from_calipers(readings)
    assert (caught.value.field, caught.value.code) == (field, code)


COORDINATES = st.integers(-150_000, 300_000).map(lambda n: n / 1000)
SIZES = st.integers(1, 200_000).map(lambda n: n / 1000)


def _tenth(corner: tuple[float, float]) -> tuple[float, float]:
    """Corners that are the same to a tenth of a mm are one."""
    return round(corner[0], 1), round(corner[1], 1)


@given(
    st.tuples(COORDINATES, COORDINATES).filter(lambda p: math.hypot(*p) > 1),
    st.lists(st.tuples(st.integers(-180, 180), SIZES, SIZES), min_size=1, max_size=4),
    st.lists(st.integers(-360, 360), min_size=2, max_size=2, unique=True).map(sorted),
    st.tuples(SIZES, SIZES, SIZES), SIZES, st.integers(0, 3),
    st.none() | st.lists(st.tuples(COORDINATES, COORDINATES), min_size=3, max_size=6, unique_by=(_tenth,)).map(tuple),
)  # fmt: skip
def test_a_quadrant_is_spelt_as_it_is_read(
    first: tuple[float, float], slots: list[tuple[int, float, float]], swing: list[int],
    bosses: tuple[float, float, float], gap: float, studs: int, cover: tuple[tuple[float, float], ...] | None,
) -> None:  # fmt: skip
    low, high = map(math.radians, swing)
    known = QuadrantFacts(
        first, None, tuple(Slot(math.radians(o), near, near + more) for o, near, more in slots), (low, high), bosses,
        gap, studs, cover,
    )  # fmt: skip
    back = read_quadrant(spell_quadrant(known))
    assert spell_quadrant(back) == spell_quadrant(known)
    assert back.first_shaft == pytest.approx(known.first_shaft, abs=1e-4)
    assert back.swing == pytest.approx(known.swing, abs=1e-6)
    assert (back.studs, back.cover) == (studs, cover)
    assert [s.farthest for s in back.slots] == pytest.approx([s.farthest for s in known.slots], abs=1e-4)
