"""A lead on the mill: pair and wheels laid out, the mate's train, and the check by hand."""

import math
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.mills import FAMILY, QUADRANT, STOCK, ask_of, drive, heron
from tests.reference import cases
from valleywind.core.cutting.run_off import Mark, RunOff
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.chart import asks, chart, read_angles, worth_making
from valleywind.core.helix.check import ReadAs, WayTurned, check, given_lead, line_angle, read_measured, to_check
from valleywind.core.helix.lead import PairWay, closest_trains, pair_ways, total_ratio
from valleywind.core.helix.machine import WormPair
from valleywind.core.helix.pair import pair_check
from valleywind.core.helix.plan import (
    LeadOff,
    LeadSetUp,
    Load,
    candidate_for,
    drive_of,
    load,
    look,
    mate_ask,
    mate_plan,
    plan,
    read_set_up,
    work_turns,
)
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.advice import Advice
from valleywind.core.trains.arrange import arrange
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import lacking, parse_stock, parse_train
from valleywind.core.trains.planner import Order
from valleywind.core.trains.slips import SlipKind
from valleywind.core.trains.standing import Standing

CLOCK = "helix 24 m2 30° left face 20"
M2 = Pitch(PitchSystem.MODULE, Fraction(2))


def test_the_clock_wheel_is_planned_and_replayed() -> None:
    ask, on = ask_of(CLOCK), drive()
    assert float(ask.wanted_lead) == pytest.approx(cases("helix")[0]["lead"], abs=5e-7)
    outcome = plan(ask, on, STOCK)
    assert outcome.candidates
    for one in outcome.candidates:
        assert not lacking(one.train.teeth, STOCK)
        assert lay_out([one.train], FAMILY, QUADRANT)[0].fits
        gives = given_lead(LeadSetUp(one.train, one.setting), on)
        # Table p a turn of the screw; screw, pair, wheels, worm, work.
        assert on.screw * on.head / (one.setting.ratio * one.train.ratio) == gives
        # The tooth is set over by 30° and stands beside its line by what the work turned too far.
        off = abs(float(gives / ask.wanted_lead - 1)) * 20 * math.tan(math.radians(30)) * 1000
        assert isinstance(one.verdict, RunOff)
        assert one.verdict.um == pytest.approx(off)
        assert one.verdict.good


def test_the_most_exact_that_goes_on_is_not_farther_off_than_is_said() -> None:
    """What is listed comes from the provably closest: nothing closer that goes on is missed."""
    ask, on = ask_of(CLOCK), drive()
    listed = plan(ask, on, STOCK, order=Order.MOST_EXACT).candidates[0]
    total = total_ratio(on.screw, on.head, ask.wanted_lead)
    for near in closest_trains(total, pair_ways(on.pairs), STOCK, best=40):
        if abs(near.approximation.error) >= abs(listed.error):
            break
        plain, with_one = (arrange([near.approximation.combination], n, STOCK, FAMILY, QUADRANT)[0] for n in (0, 1))
        assert not any(one.fits for one in (*plain, *with_one))


def test_without_a_lever_the_hand_is_made_by_the_meshes() -> None:
    on = drive(lever=False)
    left, right = (plan(ask_of(f"helix 24 m2 30° {hand}"), on, STOCK) for hand in Hand)
    assert {c.train.meshes % 2 for c in right.candidates} == {1}
    assert {c.train.meshes % 2 for c in left.candidates} == {0}
    wrong = candidate_for(LeadSetUp(left.candidates[0].train, left.candidates[0].setting), ask_of(CLOCK), on, STOCK)
    assert not wrong.goes_on
    better = look(wrong, ask_of(CLOCK), on, STOCK, None).righted
    assert better is not None
    assert better.train.meshes % 2 == 1
    assert better.value == wrong.value


def test_a_pair_that_goes_in_one_way_only_is_not_turned() -> None:
    on = drive_of(heron(pairs=(WormPair(1, 2, one_way=True), WormPair(1, 10))), Fraction(60))
    names = {c.setting.name for c in plan(ask_of("lead 300 mm"), on, STOCK, best=40).candidates}
    assert names <= {"1/2", "1/10", "10/1"}


@pytest.mark.parametrize("text", ["52/28*72/56@1/2", "28/52*72/56@10/1", "24/48@2/1"])
def test_a_set_up_is_read_back(text: str) -> None:
    assert read_set_up(text, drive()).name == text


@pytest.mark.parametrize(("text", "code"), [("24/48", "no_such_pair"), ("24/48@3/1", "no_such_pair"), ("24@1/2", None)])
def test_what_is_no_set_up(text: str, code: str | None) -> None:
    with pytest.raises(Refusal) as refused:
        read_set_up(text, drive())
    assert code is None or refused.value.code == code


@pytest.mark.parametrize(
    ("off", "mark"),
    [("0", Mark.NONE), ("1/1000", Mark.GOOD), ("-1/1000", Mark.GOOD), ("1/500", Mark.RUNS), ("1/100", Mark.COARSE),
     ("1/40", Mark.NOT)],
)  # fmt: skip
def test_a_groove_is_judged_by_its_lead(off: str, mark: Mark) -> None:
    assert LeadOff(Fraction(off)).mark is mark


def test_a_stated_tolerance_decides() -> None:
    assert LeadOff(Fraction(1, 100), Fraction(1, 50)).mark is Mark.GOOD
    assert LeadOff(Fraction(1, 40), Fraction(1, 50)).mark is Mark.NOT
    for one in plan(ask_of("helix 24 m2 30° left within 0.02 %"), drive(), STOCK).candidates:
        assert isinstance(one.verdict, LeadOff)
        assert one.verdict.good == (abs(one.verdict.error) <= Fraction(2, 10_000))


def mated(ask: HelixAsk) -> HelixAsk:
    other = mate_ask(ask)
    assert other is not None
    return other


class TestMate:
    def test_of_the_same_count_needs_no_wheel_changed(self) -> None:
        ask, on = ask_of(f"{CLOCK} with 24"), drive()
        result = plan(ask, on, STOCK).candidates[0]
        mate = mate_plan(result, ask, mated(ask), on, STOCK)
        assert mate is not None
        assert mate.same_error
        assert mate.candidate.train == result.train
        # The lever alone turns the work the other way.
        assert mate.candidate.hand.lever is not result.hand.lever
        assert mate.candidate.error == result.error

    def test_of_another_count_has_the_same_error_or_is_told_apart(self) -> None:
        ask, on = ask_of("helix 24 m2 30° left face 20 with 36"), drive()
        for result in plan(ask, on, STOCK).candidates[:4]:
            mate = mate_plan(result, ask, mated(ask), on, STOCK)
            assert mate is not None
            leads = [given_lead(LeadSetUp(c.train, c.setting), on) for c in (result, mate.candidate)]
            if mate.same_error:
                assert leads[1] / leads[0] == Fraction(36, 24)
                assert mate.candidate.error == result.error
            else:
                differ = abs(leads[1] * 24 / (leads[0] * 36) - 1) * 20 * math.tan(math.radians(30)) * 1000
                assert mate.apart_um == pytest.approx(float(differ), rel=1e-3)
            assert mate.ask.hand is Hand.RIGHT

    def test_crossed_at_a_right_angle_one_train_cuts_both(self) -> None:
        """Two of 45°, one hand: not a wheel and not the lever is changed."""
        ask, on = ask_of("helix 24 m2 45° left"), drive()
        result = plan(ask, on, STOCK).candidates[0]
        other = pair_check(ask, 24, hand=Hand.LEFT).mate
        mate = mate_plan(result, ask, other, on, STOCK)
        assert mate is not None
        assert (mate.same_error, mate.same_train) == (True, True)
        assert mate.candidate.hand.lever is result.hand.lever

    def test_without_a_mate_there_is_none(self) -> None:
        assert mate_ask(ask_of(CLOCK)) is None


class TestPair:
    def test_parallel_shafts_stand_half_the_pitch_circles_apart(self) -> None:
        result = pair_check(ask_of(CLOCK), 36, measured=Fraction("69.30"))
        assert result.parallel
        assert result.mate.hand is Hand.RIGHT
        assert result.centres == pytest.approx((24 + 36) / math.cos(math.radians(30)))
        assert result.ratio == Fraction(36, 24)
        assert result.room == pytest.approx(69.30 - 69.2820, abs=1e-4)

    @pytest.mark.parametrize(
        ("helix", "hand", "shafts"), [(30, Hand.LEFT, 60), (45, Hand.LEFT, 75), (45, Hand.RIGHT, 15), (30, None, 0)]
    )
    def test_hands_alike_add_unlike_take_off(self, helix: int, hand: Hand | None, shafts: int) -> None:
        assert pair_check(ask_of(CLOCK), 24, Fraction(helix), hand).shafts == shafts

    def test_grooves_have_no_mate(self) -> None:
        with pytest.raises(Refusal) as refused:
            pair_check(ask_of("lead 300 mm"), 24)
        assert refused.value.code == "only_of_a_wheel"


@pytest.mark.parametrize("hand", list(Hand))
@pytest.mark.parametrize("to_left", [True, False])
def test_which_way_the_work_turns(hand: Hand, to_left: bool) -> None:
    """x to the right, angles anticlockwise seen from the right-hand end. A right-hand groove turns on as a right-hand
    screw does, by 2π x/L. The cutter stays; the place of the work that comes under it was farther right by what the
    table moved left, and the groove there must be turned to where it was."""
    lead, moved = 100.0, (-10.0 if to_left else 10.0)
    way = 1 if hand is Hand.RIGHT else -1

    def groove(x: float) -> float:
        return way * 2 * math.pi * x / lead

    turn = groove(0) - groove(-moved)
    assert work_turns(hand, to_left) is (Sense.ANTICLOCKWISE if turn > 0 else Sense.CLOCKWISE)


def test_short_leads_load_the_gearing() -> None:
    on = drive()
    short = plan(ask_of("lead 60 mm"), on, STOCK).candidates
    assert {load(c) for c in short} == {Load.DRIVE}
    assert all(load(c) in (None, Load.WHEELS) for c in plan(ask_of(CLOCK), on, STOCK).candidates)
    steep = candidate_for(read_set_up("72/24*60/28@1/2", on), ask_of(CLOCK), on, STOCK)
    assert load(steep) is Load.WHEELS


TRAIN = parse_train("52/28*72/56")
SET = LeadSetUp(TRAIN, PairWay(Fraction(1, 2)))


def test_the_check_of_the_clock_wheel() -> None:
    """52/28 × 72/56 behind 1 : 2 is 1.19388: in 100 mm of the table 119.39 degrees."""
    result = to_check(SET, drive())
    assert result.travel == 100
    assert float(result.degrees) == pytest.approx(119.387755, abs=1e-6)
    assert result.crank == result.degrees / 360 * 60


@settings(deadline=None)
@given(st.sampled_from([1, 10, 50, 100]), st.integers(-60, 60))
def test_a_reading_within_what_it_may_be_off_agrees(travel: int, hundredths: int) -> None:
    on = drive()
    true = Fraction(360 * travel) / given_lead(SET, on)
    value = true + Fraction(hundredths, 100)
    if value > 0:
        result = check(read_measured(ReadAs.DEGREES, str(value), f"{travel} mm"), SET, on, STOCK)
        assert result.agrees == (abs(hundredths) <= 50)
        assert result.expected == pytest.approx(float(true))


@pytest.mark.parametrize(
    ("slipped", "pair", "code"),
    [("52/28*72/56", "2/1", "pair_turned"), ("52/28*72/56", "1/10", "other_pair"), ("28/52*72/56", "1/2", None)],
)
def test_what_slipped_is_named(slipped: str, pair: str, code: str | None) -> None:
    on = drive()
    wrong = read_set_up(f"{slipped}@{pair}", on)
    crank = Fraction(100) / given_lead(wrong, on) * on.head
    result = check(read_measured(ReadAs.CRANK, str(round(crank, 3)), "100 mm", "0.02"), SET, on, STOCK)
    assert not result.agrees
    assert result.too_fast == (given_lead(wrong, on) < given_lead(SET, on))
    first = result.slips[0]
    if code is None:
        assert first.kind is SlipKind.STAGE_EXCHANGED
        assert first.train == wrong.train
    else:
        assert first.factor is not None
        assert (first.factor.code, first.factor.name) == (code, pair)


def test_the_right_amount_the_wrong_way_is_no_yes() -> None:
    on = drive()
    degrees = str(round(Fraction(360 * 100) / given_lead(SET, on), 2))
    result = check(read_measured(ReadAs.DEGREES, degrees, "100 mm", turned=WayTurned.OTHER_WAY), SET, on, STOCK)
    assert (result.agrees, result.wrong_way, result.slips) == (False, True, ())
    assert check(read_measured(ReadAs.DEGREES, degrees, "100 mm", turned=WayTurned.RIGHT_WAY), SET, on, STOCK).agrees


def test_a_scribed_line_is_a_second_check() -> None:
    on, across = drive(), Fraction(60)
    true = line_angle(across, given_lead(SET, on))
    assert math.tan(math.radians(true)) == pytest.approx(math.pi * 60 / float(given_lead(SET, on)))
    yes = check(read_measured(ReadAs.LINE, f"{true + 0.3:.2f}", "60 mm"), SET, on, STOCK)
    assert yes.agrees
    assert yes.expected == pytest.approx(true)
    turned = line_angle(across, given_lead(LeadSetUp(TRAIN, PairWay(Fraction(2))), on))
    no = check(read_measured(ReadAs.LINE, f"{turned:.2f}", "60 mm"), SET, on, STOCK)
    assert no.slips[0].factor is not None
    assert no.slips[0].factor.code == "pair_turned"


@pytest.mark.parametrize(
    ("read", "value", "over", "off", "code", "field"),
    [
        (ReadAs.DEGREES, "0", "100", "", "not_positive", "measured"),
        (ReadAs.DEGREES, "10", "100", "0", "not_positive", "off"),
        (ReadAs.DEGREES, "10", "0", "", "not_positive", "over"),
        (ReadAs.CRANK, "9999999", "100", "", "angle_too_far", "measured"),
        (ReadAs.LINE, "89.8", "100", "", "line_angle_out_of_range", "measured"),
        (ReadAs.LINE, "0.4", "100", "", "line_angle_out_of_range", "measured"),
        (ReadAs.DEGREES, "10", "9 m", "", "length_out_of_range", "over"),
    ],
)
def test_readings_that_cannot_be(read: ReadAs, value: str, over: str, off: str, code: str, field: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_measured(read, value, over, off)
    assert refused.value.field == field
    assert refused.value.code in (code, "unknown_unit", "not_a_number")


def test_a_mill_without_wheels_screw_or_head_says_so() -> None:
    with pytest.raises(Refusal, match="no_wheels"):
        plan(ask_of(CLOCK), drive(), {})
    with pytest.raises(Refusal, match="no_table_screw"):
        drive_of(heron(screw=None), Fraction(60))
    with pytest.raises(Refusal, match="no_head"):
        drive_of(heron(), None)


class TestChart:
    def test_a_cell_is_what_its_ask_is_answered(self) -> None:
        on = drive()
        cells = chart(asks(M2, range(20, 26), read_angles("20 30"), Hand.RIGHT), on, STOCK)
        assert [(c.ask.teeth, c.ask.helix) for c in cells] == [
            (z, Fraction(a)) for z in range(20, 26) for a in (20, 30)
        ]
        for cell in cells:
            best = plan(cell.ask, on, STOCK, order=Order.MOST_EXACT).candidates[0]
            assert cell.candidate is not None
            assert (cell.standing in (Standing.EXACT, Standing.GOOD)) == best.verdict.good
            assert abs(cell.candidate.error) >= abs(best.error)
            candidate = candidate_for(LeadSetUp(cell.candidate.train, cell.candidate.setting), cell.ask, on, STOCK)
            assert (candidate.fits, candidate.error) == (True, cell.candidate.error)

    def test_a_wheel_worth_making_makes_them_good(self) -> None:
        held = parse_stock("24 30 40 48")
        asked_for = asks(M2, range(18, 25), read_angles("15 30"), Hand.LEFT)
        before = {c.ask for c in chart(asked_for, drive(), held) if c.standing in (Standing.EXACT, Standing.GOOD)}
        *_, advice = worth_making(asked_for, drive(), held)
        assert isinstance(advice, Advice)
        assert set(advice.lacking) == set(asked_for) - before
        assert advice.wheels
        for teeth, brings in (advice.wheels[0], advice.wheels[-1]):
            after = {c.ask for c in chart(brings, drive(), {**held, teeth: 1})
                     if c.standing in (Standing.EXACT, Standing.GOOD)}  # fmt: skip
            assert after == set(brings)
            assert not after & before

    @pytest.mark.parametrize(("text", "code"), [("0", "helix_not_cut"), ("95", "helix_not_cut"), ("x", None)])
    def test_angles_that_cannot_be(self, text: str, code: str | None) -> None:
        with pytest.raises(Refusal) as refused:
            read_angles(text)
        assert code in (None, refused.value.code)
