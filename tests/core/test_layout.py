import math
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.lathes import arrangements, curlew, measured, plover
from tests.reference import cases
from valleywind.core.lathe.machine import Lathe
from valleywind.core.teeth.geometry import pitch_radius, tip_radius
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.arrange import arrange, with_idlers
from valleywind.core.trains.layout import lay_out, solutions
from valleywind.core.trains.model import Combination, Stage, Train, lacking, parse_train
from valleywind.core.trains.placement import Placement, Reason
from valleywind.core.trains.quadrant import Quadrant, Slot

MODULE_2 = WheelFamily("m2", Pitch(PitchSystem.MODULE, Fraction(2)), *map(Fraction, (20, 20, 4, 10)))
REFERENCE = Quadrant(
    (60, 150),
    (Slot(0, 60, 190), Slot(math.radians(38), 70, 200)),
    (math.radians(30), math.radians(110)),
    (18, 14, 18),
    1.0,
    2,
)


@pytest.mark.parametrize("case", cases("layout"), ids=lambda c: str(c["meshes"]))
def test_reference_layouts(case: dict) -> None:  # type: ignore[type-arg]
    train = Train(tuple(Stage(a, b) for a, b in case["meshes"]))
    result = solutions(train, MODULE_2, REFERENCE)
    assert len(result) == len(case["solutions"])
    for placed, expected in zip(result, case["solutions"], strict=True):
        assert math.degrees(placed.swing) == pytest.approx(expected["swing_deg"], abs=1e-4)
        assert list(placed.slots) == expected["slots"]
        for stud, at in zip(placed.centres[1:-1], expected["studs"], strict=True):
            assert stud == pytest.approx(at, abs=1e-4)
        assert placed.boss_clearance == pytest.approx(expected["least_clearance_mm"], abs=1e-4)


teeth = st.integers(18, 100)
trains = st.one_of(
    st.builds(lambda a, b, c: Train((Stage(a, c, (b,)),)), teeth, teeth, teeth),
    st.builds(lambda a, b, c, d: Train((Stage(a, b), Stage(c, d))), teeth, teeth, teeth, teeth),
    st.builds(lambda a, b, c, d, i: Train((Stage(a, b, (i,)), Stage(c, d))), teeth, teeth, teeth, teeth, teeth),
    st.builds(lambda a, b, c, d, e, f: Train((Stage(a, b), Stage(c, d), Stage(e, f))), *[teeth] * 6),
)


@pytest.mark.long
@settings(max_examples=60, deadline=None)
@given(st.lists(trains, min_size=20, max_size=30), st.sampled_from([plover()[0], curlew()[0]]))
def test_what_fits_meshes_and_overlaps_nothing(tried: list[Train], lathe: Lathe) -> None:
    for laid in lay_out(tried, lathe.family, lathe.quadrant):
        assert laid.fits == laid.placement.fits
        if laid.fits:
            check_placement(laid.train, laid.placement, lathe.family, measured(lathe))


def check_placement(train: Train, placed: Placement, family: WheelFamily, quadrant: Quadrant) -> None:
    assert quadrant.cover is not None
    centres, wheels = placed.centres, train.wheels
    for a, b in train.meshing:
        apart = math.dist(centres[wheels[a].shaft], centres[wheels[b].shaft])
        assert apart == pytest.approx(pitch_radius(wheels[a].teeth + wheels[b].teeth, family), abs=1e-6)
    bosses = [quadrant.bosses[0], *[quadrant.bosses[1]] * (train.shafts - 2), quadrant.bosses[2]]
    for wheel in wheels:
        tip = tip_radius(wheel.teeth, family)
        at = centres[wheel.shaft]
        for shaft, boss in enumerate(bosses):
            assert shaft == wheel.shaft or math.dist(at, centres[shaft]) >= tip + boss + quadrant.gap - 1e-6
        (left, low), (right, high) = quadrant.cover[0], quadrant.cover[2]
        assert left + tip <= at[0] <= right - tip
        assert low + tip <= at[1] <= high - tip
    for i, one in enumerate(wheels):
        for j, other in enumerate(wheels[:i]):
            if one.plane == other.plane and one.shaft != other.shaft and (j, i) not in train.meshing:
                reach = tip_radius(one.teeth, family) + tip_radius(other.teeth, family)
                assert math.dist(centres[one.shaft], centres[other.shaft]) >= reach
    low, high = quadrant.swing
    assert low - 1e-6 <= placed.swing <= high + 1e-6
    for stud, slot in enumerate(placed.slots, 1):
        assert quadrant.slots[slot].nearest - 1e-6 <= placed.stud_radius(stud) <= quadrant.slots[slot].farthest + 1e-6


@pytest.mark.parametrize(
    ("notation", "reason"),
    [
        ("24/28*28/24", Reason.CENTRES_TOO_FAR),
        ("24/96*28/80", Reason.WHEEL_ON_BOSS),
        ("40/50*40/50*40/50*40/50", Reason.TOO_FEW_STUDS),
        ("110/110*110/110", Reason.STUD_BEYOND_SLOT),
        ("30/60*20/60", Reason.WHEEL_ON_BOSS),
    ],
)
def test_what_does_not_go_on_says_why(notation: str, reason: Reason) -> None:
    stages = tuple(Stage(int(a), int(b)) for a, b in (part.split("/") for part in notation.split("*")))
    placed = lay_out([Train(stages)], MODULE_2, REFERENCE)[0].placement
    assert reason in {o.reason for o in placed.obstacles}
    assert all(o.amount > 0 for o in placed.obstacles)


def test_without_a_stud_the_shafts_must_stand_at_the_centre_distance() -> None:
    direct = Quadrant((0, 60), (), (0, 1), (8, 8, 8), 0.5, 0)
    assert lay_out([parse_train("20/40")], MODULE_2, direct)[0].fits
    assert not lay_out([parse_train("20/41")], MODULE_2, direct)[0].fits


def test_arrangements_are_tried_and_the_roomiest_comes_first() -> None:
    combination, lathe = Combination((32, 76), (66, 78)), plover()[0]
    ways = arrange([combination], 0, {}, lathe.family, lathe.quadrant)[0]
    every = lay_out(arrangements(combination), lathe.family, lathe.quadrant)
    assert len(every) == 4
    assert len(ways) == sum(laid.fits for laid in every) == 3
    assert ways[0].room == max(laid.room for laid in every if laid.fits)


def test_idlers_come_from_what_is_left() -> None:
    stock = {40: 1, 50: 2, 60: 1}
    result = with_idlers(parse_train("40/50"), 2, stock)
    assert {t.notation for t in result} == {"40/50/60/50", "40/60/50/50"}
    assert not any(lacking(t.teeth, stock) for t in result)


@pytest.mark.parametrize(("notation", "wheel", "room"), [("50/60*30/24", 0, 45.0), ("24/60*30/50", 3, 38.0)])
def test_the_cover_is_measured_where_each_shaft_stands(notation: str, wheel: int, room: float) -> None:
    """The first shaft stands 45 mm below the cover's top, the last 38 mm above its bottom."""
    under = replace(REFERENCE, cover=((-300.0, -38.0), (300.0, -38.0), (300.0, 195.0), (-300.0, 195.0)))
    placement = lay_out([parse_train(notation)], MODULE_2, under)[0].placement
    fouls = {
        c.clearance.wheel: c.amount for c in placement.obstacles if c.reason is Reason.WHEEL_ON_COVER and c.clearance
    }
    assert fouls.get(wheel) == pytest.approx(tip_radius(50, MODULE_2) + under.gap - room)
    assert 3 - wheel not in fouls


def test_whatever_fouls_is_told_however_much_it_is() -> None:
    """Four wheels stand out of the cover: one more than there are clearances told of what goes on."""
    lathe, _ = plover()
    placement = lay_out([parse_train("120/110*125/115")], lathe.family, lathe.quadrant)[0].placement
    fouls = [one for one in placement.obstacles if one.clearance is not None]
    assert {one.reason for one in fouls} == {Reason.WHEEL_ON_COVER}
    assert sorted(one.clearance.wheel for one in fouls if one.clearance) == [0, 1, 2, 3]
    assert [one.amount for one in fouls] == sorted((one.amount for one in fouls), reverse=True)
    assert len(placement.tightest) == 3
