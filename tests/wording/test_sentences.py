"""What is told of a train, a feed, a slide, a wheel is what is so: each against a sum of its own."""

import math
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.lathes import curlew, drive_of, measured, plover
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plan import ways
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.machine import Lathe, SetUp, read_set_up
from valleywind.core.lathe.pickup import agreement
from valleywind.core.lathe.plan import candidate_for, plan
from valleywind.core.lathe.thread import Ask, CarriageMove
from valleywind.core.lathe.verdict import Goes
from valleywind.core.teeth.depth import DepthSchool, depths
from valleywind.core.teeth.geometry import tip_radius
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Stock, parse_train
from valleywind.core.trains.placement import Reason
from valleywind.core.trains.quadrant import Quadrant, Slot, closed, usable_outline
from valleywind.core.trains.quadrant_record import read_quadrant, spell_quadrant
from valleywind.demo import harrowfold
from valleywind.shop import machines
from valleywind.wording import dividing as dividing_words
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe.sheet import sheet
from valleywind.wording.numbers import Units
from valleywind.wording.trains import LATHE_SHAFTS, foul, obstacle, room


def requirement(text: str) -> Ask:
    ask = read(text).ask
    assert ask is not None, text
    return ask


# Distances -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("train", ["76/66*32/78", "24/96*28/80", "64/66*32/78", "36/64*32/78", "80/76*24/78"])
@pytest.mark.parametrize("gap", [0.0, 1.0, 5.0, 25.0])
def test_a_distance_is_as_long_as_its_line_and_apart_from_the_gap_that_is_wanted(train: str, gap: float) -> None:
    lathe, _ = plover()
    quadrant = replace(measured(lathe), gap=gap)
    placement = lay_out([parse_train(train)], lathe.family, quadrant)[0].placement
    for clearance in placement.tightest:
        drawn = math.dist(clearance.start, clearance.end)
        assert abs(clearance.distance) == pytest.approx(drawn, abs=1e-6)
        assert (clearance.distance, clearance.gap) == pytest.approx((clearance.mm + gap, gap))
    if placement.fits:
        assert room(placement, quadrant, Units.MM) == f"{placement.tightest[0].distance:.1f} mm clear"


@pytest.mark.parametrize("gap", [0.5, 4.0, 40.0])
def test_where_there_is_air_nothing_overlaps(gap: float) -> None:
    """A gap so wide that it is not kept, between wheels and shafts that do not touch."""
    lathe, _ = plover()
    train = parse_train("76/66*32/78")
    placement = lay_out([train], lathe.family, replace(measured(lathe), gap=gap))[0].placement
    for clearance in placement.tightest:
        text = foul(clearance, train, LATHE_SHAFTS, Units.MM)
        assert ("overlaps" in text or "into" in text) is (clearance.distance < 0)
        if clearance.distance >= 0:
            assert text.endswith(f"; {gap:g} mm is wanted")
            assert f"is {clearance.distance:.{1 if clearance.distance >= 2 else 2}f} mm from the" in text
    assert (gap == 40) is not placement.fits
    for o in placement.obstacles:
        assert "overlaps" not in obstacle(o, train, placement, LATHE_SHAFTS, Units.MM)


def test_a_wheel_outside_its_cover_stands_out_by_its_far_side() -> None:
    lathe, _ = plover()
    narrow = ((-40.0, -400.0), (40.0, -400.0), (40.0, 100.0), (-40.0, 100.0))
    placement = lay_out([parse_train("76/66*32/78")], lathe.family, replace(measured(lathe), cover=narrow))[0].placement
    outside = [c for c in placement.tightest if c.reason is Reason.WHEEL_ON_COVER and c.distance < 0]
    assert outside
    for clearance in outside:
        assert math.dist(clearance.start, clearance.end) == pytest.approx(-clearance.distance)
        centre = placement.centres[parse_train("76/66*32/78").wheels[clearance.wheel].shaft]
        tip = tip_radius(parse_train("76/66*32/78").teeth[clearance.wheel], lathe.family)
        assert math.dist(clearance.start, centre) == pytest.approx(tip)


def test_a_wheel_that_may_stand_in_one_place_only_is_named_with_what_keeps_it_off() -> None:
    lathe, stock = plover()
    only = replace(lathe, last_driven=(200,))
    outcome = plan(requirement("M14x2"), only, {**stock, 200: 1})
    assert outcome.candidates == ()
    assert outcome.most_exact_unfit is not None
    assert 200 in outcome.most_exact_unfit.train.teeth
    assert words.reasons(outcome.most_exact_unfit, Units.MM)


# Outlines ------------------------------------------------------------------------------------------------------------

SQUARE = ((-150.0, -110.0), (180.0, -110.0), (180.0, 280.0), (-150.0, 280.0))


def test_an_outline_closed_by_hand_is_the_same_outline() -> None:
    row = harrowfold.plover()
    typed = spell_quadrant(replace(machines.quadrant_facts(row.quadrant), cover=SQUARE))
    again = replace(typed, cover=f"{typed.cover}, -150 -110")
    assert read_quadrant(again).cover == read_quadrant(typed).cover == SQUARE
    assert closed([*SQUARE, SQUARE[0]]) == SQUARE


@given(st.lists(st.sampled_from(SQUARE), max_size=9))
def test_whatever_outline_was_saved_no_question_fails(corners: list[tuple[float, float]]) -> None:
    lathe, _ = plover()
    outline = usable_outline(corners)
    assert outline is None or len(set(outline)) >= 2
    cramped = replace(lathe, quadrant=replace(measured(lathe), cover=outline))
    laid = lay_out([parse_train("76/66*32/78")], cramped.family, cramped.quadrant)[0]
    assert math.isfinite(laid.placement.clearance)


# Feeds, slides, gauges -----------------------------------------------------------------------------------------------


def apron(lathe: Lathe) -> Lathe:
    return replace(lathe, feeds={CarriageMove.ALONG: Fraction(1, 2), CarriageMove.ACROSS: Fraction(1, 4)})


@pytest.mark.parametrize("text", ["feed 0.1", "feed 0.1 left hand", "feed 0.05 across"])
def test_a_feed_through_the_apron_says_to_try_which_way_it_goes(text: str) -> None:
    lathe, stock = curlew()
    ask = requirement(text)
    result = plan(ask, apron(lathe), stock).candidates[0]
    assert (result.hand.known, result.hand.right, result.hand.lever) == (False, True, None)
    page = sheet(result, ask, apron(lathe), Units.MM)
    texts = [f.text for f in page.facts] + [s.text for s in page.steps]
    assert any("not on record: try it" in t for t in texts)
    assert not any("thread" in t.lower() for t in texts)


@pytest.mark.parametrize(("text", "goes"), [("feed 0.1", "toward"), ("feed 0.1 left hand", "away from")])
def test_a_feed_by_the_screw_tells_where_the_carriage_goes_with_which_lever(text: str, goes: str) -> None:
    lathe, stock = plover()
    plain = replace(lathe, feeds={})
    ask = requirement(text)
    result = plan(ask, plain, stock).candidates[0]
    forward = result.hand.lever
    sentence = words.direction_text(result.hand, ask)
    assert sentence == f"Tumbler {'forward' if forward else 'reversed'}: the carriage goes {goes} the headstock."
    # The other way is the other position of the lever, with the same wheels.
    other = replace(ask, hand=Hand.LEFT if goes == "toward" else Hand.RIGHT)
    assert candidate_for(SetUp.of(result), other, plain, stock, None).hand.lever is not forward


@pytest.mark.parametrize(("over", "goes"), [("", Goes.NOT), (" over 30 mm", Goes.FREELY), (" over 200 mm", Goes.NOT)])
def test_a_slide_is_judged_over_the_length_that_was_asked(over: str, goes: Goes) -> None:
    """52 ppm gather to 15.5 µm in 300 mm, 10.4 in 200, 1.6 in 30; ten are allowed."""
    lathe, stock = plover()
    ask = requirement(f"M14x2 lead screw{over}")
    result = candidate_for(read_set_up("76/66*32/78", lathe), ask, lathe, stock, None)
    length = {"": 300, " over 30 mm": 30, " over 200 mm": 200}[over]
    assert result.verdict.goes is goes
    assert result.verdict.gathered == pytest.approx(abs(float(result.error)) * length * 1000)


# Wheels and heads ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("engraved", [Fraction(0), Fraction(45, 10)])
@pytest.mark.parametrize("system", list(PitchSystem))
def test_a_full_depth_tooth_is_never_offered_a_stub_depth(system: PitchSystem, engraved: Fraction) -> None:
    for angle, addendum, stub in ((20, "1", False), (Fraction("14.5"), "1", False), (20, "0.8", True)):
        pitch = Pitch(system, Fraction(2) if system is PitchSystem.MODULE else Fraction(1, 4) * 48)
        nothing = Fraction(0)
        family = WheelFamily("", pitch, Fraction(angle), nothing, nothing, nothing, Fraction(addendum))
        offered = {d.school for d in depths(family, engraved)}
        assert (DepthSchool.STUB in offered) is stub
        assert sum(d.usual for d in depths(family, engraved)) == 1


@pytest.mark.parametrize(("ratio", "says"), [(None, "Pin into"), (Fraction(40), "Worm out of mesh; pin into")])
def test_a_worm_that_is_not_there_is_not_put_out_of_mesh(ratio: Fraction | None, says: str) -> None:
    head = Head(ratio, (), (24,), None, False, None)
    way = next(w for w in ways(head, 12, None) if dividing_words.way_text(w).startswith("the 24"))
    (fit,) = dividing_words.fit(way, way.settings[0], head, "", Units.MM)
    assert fit == f"{says} the 24 on the spindle."


def test_a_left_hand_lead_screw_turns_the_other_way(monkeypatch: pytest.MonkeyPatch) -> None:

    monkeypatch.undo()
    row = harrowfold.plover()
    assert row.lathe is not None
    usual, stock = machines.lathe(row), machines.stock(row)
    row.lathe.screw_hand = "left"
    turned = machines.lathe(row)
    assert drive_of(turned).right_hand is drive_of(usual).right_hand.other
    for lathe, other in ((usual, turned), (turned, usual)):
        one, two = (
            candidate_for(read_set_up("76/66*32/78", of), requirement("M14x2"), of, stock, None).hand
            for of in (lathe, other)
        )
        assert one.lever is not two.lever


def pickup_of(machine: tuple[Lathe, Stock], text: str, train: str) -> str:
    lathe, stock = machine
    ask = requirement(text)
    result = candidate_for(read_set_up(train, lathe), ask, lathe, stock, None)
    return sheet(result, ask, lathe, Units.MM).after[0].lines[0]


def test_half_nuts_are_kept_closed_where_the_way_back_is_long() -> None:
    """76/66 × 32/78 agrees with Plover's screw every 2574 mm, 64/78 × 40/80 every 338.7; 40/68 × 64/80 every 71.97."""
    assert "2574 mm" in pickup_of(plover(), "M14x2", "76/66*32/78")
    assert pickup_of(plover(), "M14x2", "76/66*32/78").startswith("Keep the half-nuts closed")
    for train in ("76/66*32/78", "64/78*40/80", "40/68*64/80", "48/72"):
        lathe, _ = plover()
        back = agreement(lathe.lead_of(parse_train(train).ratio), lathe.screw_lead)
        pick_up = pickup_of(plover(), "M14x2", train)
        if back > lathe.screw_lead and "mark" not in pick_up:
            assert pick_up.startswith("Keep the half-nuts closed") is (back > 320), (train, float(back))


def test_quadrants_of_one_slot_have_a_place_for_each_stud() -> None:
    quadrant = Quadrant((60.0, 160.0), (Slot(0.0, 60.0, 200.0),), (0.2, 2.2), (12.0, 12.0, 12.0), 1.0, 1)
    lathe = replace(plover()[0], quadrant=quadrant)
    placement = lay_out([parse_train("48/60/96")], lathe.family, quadrant)[0].placement
    assert placement.least_distance == pytest.approx(placement.clearance + 1)
