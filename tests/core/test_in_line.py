"""A quadrant that is not known: what is told all the same, against quadrants that are."""

import math
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.lathes import measured, plover
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY
from valleywind.core.trains.arrange import arrange
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Combination, Stage, Train, parse_train
from valleywind.core.trains.placement import Reason, RoomCheck
from valleywind.core.trains.quadrant import Quadrant, Slot, UnmeasuredQuadrant
from valleywind.core.trains.quadrant_record import QuadrantFacts

TEETH = st.integers(16, 130)
STAGES = st.builds(Stage, TEETH, TEETH, st.lists(TEETH, max_size=1).map(tuple))
TRAINS = st.lists(STAGES, min_size=1, max_size=3).map(lambda s: Train(tuple(s))).filter(lambda t: t.shafts > 2)


def one(train: str, quadrant: UnmeasuredQuadrant = UnmeasuredQuadrant()) -> tuple[bool, RoomCheck, list[Reason]]:
    laid = lay_out([parse_train(train)], UNKNOWN_FAMILY, quadrant)[0]
    return laid.fits, laid.placement.checked, [o.reason for o in laid.placement.obstacles]


@pytest.mark.long
@settings(max_examples=150, deadline=None)
@given(st.lists(TRAINS, min_size=10, max_size=20))
def test_what_surely_fouls_goes_on_no_measured_quadrant(trains: list[Train]) -> None:
    """Even with the widest slots, no cover and thin shafts: a train refused without measures goes on nowhere."""
    known, _ = plover()
    wide = replace(
        measured(known), slots=(Slot(0.0, 1.0, 900.0), Slot(0.4, 1.0, 900.0)), swing=(-math.pi, math.pi),
        cover=None, bosses=(0.1, 0.1, 0.1), gap=0.0, studs=3,
    )  # fmt: skip
    for free, placed in zip(
        lay_out(trains, known.family, UnmeasuredQuadrant(studs=3)), lay_out(trains, known.family, wide), strict=True
    ):
        if not free.fits and free.placement.obstacles[0].reason is not Reason.TOO_FEW_STUDS:
            assert not placed.fits, free.train


@given(TRAINS)
def test_wheels_mesh_and_the_margin_is_the_wheel_that_would_just_touch(train: Train) -> None:
    placement = lay_out([train], UNKNOWN_FAMILY, UnmeasuredQuadrant(studs=9))[0].placement
    for a, b in train.meshing:
        one, other = train.wheels[a], train.wheels[b]
        apart = math.dist(placement.centres[one.shaft], placement.centres[other.shaft])
        assert apart == pytest.approx((one.teeth + other.teeth) / 2)
    for margin in placement.margins:
        wheel = train.wheels[margin.wheel]
        apart = math.dist(placement.centres[wheel.shaft], placement.centres[margin.shaft])
        assert (wheel.teeth + margin.teeth + 2) / 2 == pytest.approx(apart)
    assert list(placement.margins) == sorted(placement.margins, key=lambda m: m.teeth)


def test_the_old_rule_in_numbers_of_teeth() -> None:
    assert one("20/65*40/50") == (True, RoomCheck.NOTHING, [])
    assert one("20/90*40/50")[2] == [Reason.REACHES_SHAFT]  # 90 + 2 > 40 + 50
    assert one("20/89*40/50")[2] == [Reason.REACHES_SHAFT]
    assert one("20/87*40/50")[0]
    assert one("40/50")[2] == [Reason.NO_IDLER]
    assert one("40/50", UnmeasuredQuadrant(apart=45.0))[0]
    assert one("20/65*40/50*30/60", UnmeasuredQuadrant(studs=1))[2] == [Reason.TOO_FEW_STUDS]


@pytest.mark.long
@settings(max_examples=300, deadline=None)
@given(
    st.lists(st.builds(lambda a, b, c, d: Train((Stage(a, b), Stage(c, d))), TEETH, TEETH, TEETH, TEETH), min_size=12),
    st.floats(60, 160), st.floats(0.2, 1.2), st.floats(20, 60), st.floats(40, 90),
)  # fmt: skip
def test_what_trains_tell_is_true_of_the_quadrant_they_went_on(
    trains: list[Train], apart: float, turn: float, nearest: float, long: float
) -> None:
    """Reach is only said to be known, or not to be, where the real quadrant agrees; distances in modules."""
    swing = (turn, turn + 0.9)
    bare = Quadrant((apart, 0.0), (Slot(0.0, nearest, nearest + long),), swing, (0.0, 0.0, 0.0), -500.0, 1)
    goes = {t: laid.fits for t, laid in zip(trains, lay_out(trains, UNKNOWN_FAMILY, bare), strict=True)}
    on = [t for t in trains if goes[t]][:3]
    assume(len(on) >= 2)
    learnt = QuadrantFacts(goes_on=tuple(on)).carrier(None)
    assert isinstance(learnt, UnmeasuredQuadrant)
    for train, laid in zip(trains, lay_out(trains, UNKNOWN_FAMILY, learnt), strict=True):
        if laid.placement.checked is RoomCheck.REACH:
            assert goes[train]
        if any(o.reason is Reason.BEYOND_KNOWN for o in laid.placement.obstacles):
            assert not goes[train]


def test_two_trains_that_go_on_and_one_that_does_not() -> None:
    """Stud 45 and 60 modules from the screw go on; 80 does not: what reaches farther does not either."""
    quadrant = QuadrantFacts(
        None, 70.0, goes_on=(parse_train("20/65*40/50"), parse_train("30/60*50/70")),
        not_on=(parse_train("20/40*70/90"),),
    ).carrier(1.0)  # fmt: skip
    assert isinstance(quadrant, UnmeasuredQuadrant)
    assert one("24/62*44/54", quadrant)[1] is RoomCheck.REACH
    assert one("50/50*70/110", quadrant)[2] == [Reason.BEYOND_KNOWN]
    assert one("50/50*60/90", quadrant) == (True, RoomCheck.NOTHING, [])  # between what went on and what did not
    assert one("127/130*20/60", quadrant)[2] == [Reason.REACHES_SHAFT]


def test_of_many_idlers_that_would_do_one_of_a_usual_size_is_named() -> None:
    """Not the largest, though it leaves most room; and one that is too small for its neighbours never."""
    stock = dict.fromkeys((20, 24, 37, 48, 55, 90, 127), 1)
    (ways,) = arrange([Combination((24,), (37,))], 1, stock, UNKNOWN_FAMILY, UnmeasuredQuadrant())
    assert ways[0].train == parse_train("24/48/37")
    (large,) = arrange([Combination((90,), (127,))], 1, stock, UNKNOWN_FAMILY, UnmeasuredQuadrant())
    assert large[0].train.idlers in {(48,), (55,)}
    assert all(laid.fits for laid in large)
