"""Figures of hobbed wheels, and how the machine is set up for them."""

import math
from dataclasses import replace
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.cutting.wheel import backlash_from_spans, cut_wheel, family_of, pair_of
from valleywind.core.hobbing.ask import HobAsk, read
from valleywind.core.hobbing.machine import FeedWay, Hobber, IndexConstant
from valleywind.core.hobbing.setting import (
    BlankMaterial,
    approach,
    climbs,
    hob_turns,
    minutes,
    overrun,
    swivel,
    table_now,
    travel,
)
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.teeth.sizes import meeting, sizes
from valleywind.core.trains.direction import Hand, Sense


def ask(line: str) -> HobAsk:
    result = read(line).ask
    assert result is not None
    return result


def machine(**more: object) -> Hobber:
    return Hobber((IndexConstant(Fraction(24)),), Fraction(3, 4), **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("case", [c for c in cases("hobbing_setting") if "swivel_deg" in c], ids=str)
def test_the_swivel_is_as_apart(case: dict[str, object]) -> None:
    helix = f"{case['helix_deg']}° {case['helix']}" if case["helix"] else ""
    line = f"hob 30 m{case['module']} {helix} {case['starts']}-start {case['hob']} hob"
    result = swivel(ask(line), float(str(case["hob_pitch_diameter"])))
    assert result is not None
    assert result.degrees == pytest.approx(case["swivel_deg"], abs=5e-7)


@pytest.mark.parametrize("case", [c for c in cases("hobbing_setting") if "minutes" in c], ids=str)
def test_approach_and_time_are_as_apart(case: dict[str, float]) -> None:
    before = approach(case["depth"], case["hob_diameter"], 100, 0).before
    assert before == pytest.approx(case["approach"], abs=5e-6)
    whole = case["face"] + before + case["overrun"]
    result = minutes(int(case["teeth"]), whole, int(case["starts"]), case["hob_rpm"], case["feed"])
    assert result == pytest.approx(case["minutes"], abs=5e-6)


@pytest.mark.parametrize("case", cases("hob_travel", "approach"), ids=str)
def test_a_tilted_hob_cuts_sooner(case: dict[str, float]) -> None:
    result = approach(case["depth"], case["hob_diameter"], case["tip_diameter"], case["swing_deg"])
    assert result.before == pytest.approx(case["approach_mm"], abs=1e-6)


@pytest.mark.parametrize("case", cases("hob_travel", "overrun"), ids=str)
def test_the_generating_line_leaves_the_face(case: dict[str, float]) -> None:
    turned = f"{case['helix_deg']}° right" if case["helix_deg"] else ""
    wanted = ask(f"hob 30 m{case['module']} {turned}")
    result = overrun(wanted, case["module"] * (1 + case["hob_addendum"]))
    assert result == pytest.approx(max(2, case["overrun_mm"]), abs=1e-9)


def test_the_clock_wheel_travels_farther_than_a_spur_wheel() -> None:
    result = travel(ask("hob 24 m2 30° left face 20 hob 63 mm"))
    assert result is not None
    assert (result.approach, result.overrun) == pytest.approx((21.787, 3.434), abs=3e-3)
    assert result.whole == pytest.approx(45.221, abs=3e-3)


@pytest.mark.parametrize("case", cases("helical_measures"), ids=lambda c: f"{c['teeth']} m{c['module']}")
def test_a_helical_wheel_measures_as_apart(case: dict[str, Any]) -> None:
    line = f"hob {case['teeth']} m{case['module']} {case['helix_deg']}° right"
    wanted = replace(ask(line), angle=Fraction(str(case["alpha_n_deg"])))
    result = cut_wheel(wanted)
    assert result is not None
    assert result.rollers.nominal == pytest.approx(case["over_two_rollers"], abs=1e-6)
    assert result.balls.nominal == pytest.approx(case["over_two_balls"], abs=1e-6)
    by_count = {s["k"]: s for s in case["spans"]}
    if not by_count:
        assert result.span is None
        return
    assert result.span is not None
    known = by_count[result.over]
    assert result.span.nominal == pytest.approx(known["span"], abs=1e-6)
    # A face that has just room for the least span has that one; a little less has none.
    least = min(s["face_needed"] for s in case["spans"])
    assert result.span_face == pytest.approx(least, abs=1e-6)
    for face, there in ((least + 0.001, True), (least - 0.001, False)):
        narrow = cut_wheel(replace(wanted, face=Fraction(face)))
        assert narrow is not None
        assert (narrow.span is not None) == there


@given(st.floats(0, 60), st.booleans(), st.booleans(), st.integers(1, 4))
def test_the_thread_lies_along_the_teeth_once_the_head_is_turned(
    helix: float, left: bool, left_hob: bool, starts: int
) -> None:
    """Directions in space: x to the right, y away from the operator, z up; the hob's axis along x, the work beyond."""
    assume(helix == 0 or helix > 0.1)
    pitch = Pitch(PitchSystem.MODULE, Fraction(2))
    hand = None if helix == 0 else Hand.LEFT if left else Hand.RIGHT
    hob = Hand.LEFT if left_hob else Hand.RIGHT
    beta = Fraction(helix).limit_denominator(1000)
    result = swivel(HobAsk(30, pitch, helix=beta, hand=hand, starts=starts, hob_hand=hob), 60.0)
    assert result is not None
    radius = 30.0
    # A right-hand screw along x: at turn t it stands at (lead t/2π, r cos t, r sin t); it cuts at t = 0, the far side.
    lead = math.pi * 60.0 * math.tan(math.asin(starts * 2 / 60.0)) * (-1 if left_hob else 1)
    thread = (lead / (2 * math.pi), 0.0, radius)
    # A right-hand helix about z: the higher, the further round; the near side of the work is at turn −90°.
    tooth = (0.0, 0.0, 1.0)
    if helix:
        beta_rad = math.radians(beta) * (-1 if left else 1)
        tooth = (math.sin(beta_rad), 0.0, math.cos(beta_rad))
    turned = math.radians(result.degrees) * (1 if result.sense is Sense.CLOCKWISE else -1)
    # As a clock hand, seen along +y: z leans toward x.
    x = thread[0] * math.cos(turned) + thread[2] * math.sin(turned)
    z = -thread[0] * math.sin(turned) + thread[2] * math.cos(turned)
    assert x * tooth[2] - z * tooth[0] == pytest.approx(0, abs=1e-9 * radius)


@pytest.mark.parametrize("table", list(Sense))
@pytest.mark.parametrize("hob", list(Hand))
@pytest.mark.parametrize("way", list(FeedWay))
def test_climb_is_told_from_how_the_teeth_move(table: Sense, hob: Hand, way: FeedWay) -> None:
    known = machine(table=table)
    now = table_now(known, hob)
    assert now is not None
    # The near side of the work moves to the right with the table anticlockwise; so does the thread where it cuts. A
    # right-hand thread leans right: it moves right at one height when its surface goes down.
    right = 1 if now is Sense.ANTICLOCKWISE else -1
    lean = 1 if hob is Hand.RIGHT else -1
    surface = -right * lean  # +1 is up
    travelling = 1 if way is FeedWay.UP else -1
    # Climb: the cutting tooth goes the way the work is fed past the hob, which is against the hob's own travel.
    assert climbs(way, known) == (surface == -travelling)
    assert climbs(way, machine()) is None


@given(st.integers(12, 200), st.sampled_from(["m2", "12dp 14.5°", "m1 20°"]))
def test_a_spur_wheel_is_that_of_the_wheel_station(teeth: int, pitch: str) -> None:
    wanted = ask(f"hob {teeth} {pitch}")
    family, result = family_of(wanted), cut_wheel(wanted)
    assert family is not None
    assert result is not None
    known = sizes(teeth, family)
    assert result.tip_diameter == pytest.approx(known.tip_diameter)
    assert result.root_diameter == pytest.approx(known.root_diameter)
    assert result.rollers.nominal == pytest.approx(known.pins.nominal)
    assert (result.balls.low, result.balls.high) == pytest.approx((known.pins.low, known.pins.high))
    assert result.lead is None
    assert result.over == known.over
    assert result.span is not None
    assert (result.span.nominal, result.span.low, result.span.high) == pytest.approx(
        (known.span.nominal, known.span.low, known.span.high)
    )
    assert result.undercut == known.undercut or abs(teeth - known.undercut_from) < 1


@given(st.integers(10, 90), st.integers(10, 90))
def test_a_spur_pair_is_that_of_the_wheel_station(teeth: int, mate: int) -> None:
    wanted = ask(f"hob {teeth} m2 with {mate}")
    family, result = family_of(wanted), pair_of(wanted)
    assert family is not None
    assert result is not None
    known = meeting(teeth, mate, family)
    assert (result.centres, result.contact) == pytest.approx((known.centres, known.contact))
    assert result.digs == known.digs
    assert result.tip_clearance == pytest.approx(0.25 * 2)


def test_the_clock_pair() -> None:
    """By hand: d = 2 · 24/cos 30° = 55.4256, z/cos³ 30° = 36.95."""
    result = pair_of(ask("hob 24 m2 30° left face 20 with 24"))
    assert result is not None
    assert result.wheel.pitch_diameter == pytest.approx(55.42563)
    assert result.wheel.formative == pytest.approx(36.9504, abs=1e-4)
    assert result.centres == pytest.approx(55.42563)
    assert result.mate_hand is Hand.RIGHT
    assert result.overlap == pytest.approx(20 * 0.5 / (math.pi * 2))
    assert not result.wheel.undercut
    assert float(result.wheel.lead or 0) == pytest.approx(301.592895, abs=1e-6)


def test_undercut_is_said_of_the_form_not_of_the_count() -> None:
    few, turned = cut_wheel(ask("hob 13 m2")), cut_wheel(ask("hob 13 m2 30° right"))
    assert few is not None
    assert few.undercut
    assert turned is not None
    assert not turned.undercut


def test_a_narrow_helical_face_has_no_span() -> None:
    wide, narrow = cut_wheel(ask("hob 60 m2 30° left face 40")), cut_wheel(ask("hob 60 m2 30° left face 8"))
    assert wide is not None
    assert narrow is not None
    assert wide.span is not None
    assert narrow.span is None
    assert narrow.span_face is not None
    assert 8 < narrow.span_face < 40


def test_backlash_comes_of_spans_and_centres() -> None:
    wanted = ask("hob 30 m2 with 40")
    result = pair_of(wanted)
    assert result is not None
    assert result.wheel.span is not None
    assert result.mate.span is not None
    spans = (
        result.wheel.span.nominal - 0.05 * math.cos(math.radians(20)),
        result.mate.span.nominal - 0.03 * math.cos(math.radians(20)),
    )
    assert backlash_from_spans(result, spans, wanted, result.centres) == pytest.approx(0.08)
    farther = backlash_from_spans(result, spans, wanted, result.centres + 0.1)
    assert farther == pytest.approx(0.08 + 0.2 * math.tan(math.radians(20)))


def test_backlash_of_a_helix_is_longer_along_the_pitch_circle() -> None:
    wanted = ask("hob 24 m2 30° left with 24")
    result = pair_of(wanted)
    assert result is not None
    assert result.wheel.span is not None
    assert result.mate.span is not None
    thin = 0.05 * math.cos(math.radians(20))
    spans = result.wheel.span.nominal - thin, result.mate.span.nominal - thin
    assert backlash_from_spans(result, spans, wanted, result.centres) == pytest.approx(0.1 / math.cos(math.pi / 6))
    assert result.backlash == pytest.approx((0.08 / math.cos(math.pi / 6), 0.12 / math.cos(math.pi / 6)))


def test_what_the_machine_has_room_for() -> None:
    known = machine(travel=Fraction(100), between=Fraction(70))
    result = travel(ask("hob 37 m2 face 20 3 blanks hob 70 mm"), known)
    assert result is not None
    assert (result.face, result.fits, result.stack) == (60, True, 3)
    long = travel(ask("hob 37 m2 face 20 5 blanks hob 70 mm"), known)
    assert long is not None
    assert not long.fits
    assert travel(ask("hob 37 m2 hob 70 mm"), known) is None
    free = travel(ask("hob 37 m2 face 20 hob 70 mm"), machine())
    assert free is not None
    assert (free.fits, free.stack) == (None, None)


def test_the_head_turns_only_so_far() -> None:
    wanted = ask("hob 24 m2 44° left")
    assert [s.within for m in (machine(), machine(swivel=Fraction(45)), machine(swivel=Fraction(50)))
            if (s := swivel(wanted, 60, m))] == [None, False, True]  # fmt: skip


def test_speeds() -> None:
    assert hob_turns(BlankMaterial.BRASS, 63.66) == (200, 300)
