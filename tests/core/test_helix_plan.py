"""A lead on the mill: pair and wheels laid out, which way everything goes, and the proof by hand."""

import math
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.helix.lead import PairWay, closest_trains, pair_ways, total_ratio
from valleywind.core.helix.machine import read_pairs
from valleywind.core.helix.plan import Helix, LeadDrive, heavy, plan, swing, wheel_helix, work_turns
from valleywind.core.helix.proof import Read, check, given_lead, proof
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.direction import Drive, Hand, Sense
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import lacking, parse_stock, parse_train
from valleywind.core.trains.quadrant import Quadrant, Slot
from valleywind.core.trains.slips import SlipKind

STOCK = parse_stock("24 26 28 30 32 34 36 38 40 42 44 46 48 52 56 60 64 72")
FAMILY = WheelFamily(
    "", Pitch(PitchSystem.MODULE, Fraction(3, 2)), Fraction(20), Fraction(22), Fraction(6), Fraction(12)
)
QUADRANT = Quadrant(
    (40, 130), (Slot(0, 45, 160), Slot(-0.7, 45, 150)), (math.radians(5), math.radians(150)), (14, 12, 14), 0.5, 2
)
M2 = Pitch(PitchSystem.MODULE, Fraction(2))


def heron(lever: bool = True) -> LeadDrive:
    box = Gearbox(FAMILY, QUADRANT, drive=Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, lever))
    return LeadDrive(Fraction(6), Fraction(60), box, read_pairs("2, 10, 40", "pairs"), Fraction(45))


def clock_wheel(hand: Hand = Hand.LEFT) -> Helix:
    return wheel_helix(M2, 24, Fraction(30), hand, Fraction(20))


def test_the_clock_wheel_is_planned_and_replayed() -> None:
    job, drive = clock_wheel(), heron()
    assert float(job.lead) == pytest.approx(cases("helix")[0]["lead"], abs=5e-7)
    found = plan(job, drive, STOCK)
    assert found.candidates
    for one in found.candidates:
        assert not lacking(one.train.teeth, STOCK)
        assert lay_out([one.train], FAMILY, QUADRANT)[0].fits
        gives = given_lead(one.train, one.setting, drive)
        # Table p a turn of the screw; screw, pair, wheels, worm, work.
        assert drive.screw * drive.head / (one.setting.ratio * one.train.ratio) == gives
        off = abs(float(job.lead / gives - 1)) * 20 * math.tan(math.radians(30)) * 1000
        assert one.verdict.um == pytest.approx(off)
        assert one.verdict.good


def test_the_most_exact_that_goes_on_is_not_farther_off_than_is_said() -> None:
    """What is listed comes from the provably closest: nothing closer that goes on is missed."""
    from valleywind.core.trains.arrange import arrange
    from valleywind.core.trains.planner import Order

    job, drive = clock_wheel(), heron()
    listed = plan(job, drive, STOCK, Order.MOST_EXACT).candidates[0]
    total = total_ratio(drive.screw, drive.head, job.lead)
    for near in closest_trains(total, pair_ways(drive.pairs), STOCK, best=40):
        if abs(near.found.error) >= abs(listed.error):
            break
        laid = arrange([near.found.combination], 0, STOCK, FAMILY, QUADRANT)[0]
        laid += arrange([near.found.combination], 1, STOCK, FAMILY, QUADRANT)[0]
        assert not any(one.fits for one in laid)


def test_a_mate_is_cut_with_the_same_train() -> None:
    drive = heron()
    one, other = plan(clock_wheel(), drive, STOCK), plan(clock_wheel(Hand.RIGHT), drive, STOCK)
    assert one.candidates[0].train == other.candidates[0].train
    assert one.candidates[0].hand.lever is not other.candidates[0].hand.lever


def test_without_a_lever_the_hand_is_made_by_the_meshes() -> None:
    drive = heron(lever=False)
    left, right = plan(clock_wheel(), drive, STOCK), plan(clock_wheel(Hand.RIGHT), drive, STOCK)
    assert {c.train.meshes % 2 for c in left.candidates} == {1}
    assert {c.train.meshes % 2 for c in right.candidates} == {0}


@pytest.mark.parametrize("hand", list(Hand))
def test_the_table_swings_so_that_the_cutter_lies_along_the_teeth(hand: Hand) -> None:
    """Seen from above, x to the right, y toward the column. The cutter's plane lies along x. A right-hand thread rises
    to the right with its axis upright: with the axis along +x it runs on top by the helix angle clockwise of it."""
    found = swing(wheel_helix(M2, 24, Fraction(30), hand, Fraction(20)), heron())
    assert found.degrees == 30
    assert found.within is True
    turned = math.radians(30) * (1 if found.sense is Sense.ANTICLOCKWISE else -1)
    along = -math.radians(30) * (1 if hand is Hand.RIGHT else -1)
    assert turned + along == pytest.approx(0)


def test_a_table_swings_only_so_far() -> None:
    steep = wheel_helix(M2, 24, Fraction(50), Hand.RIGHT, Fraction(20))
    assert swing(steep, heron()).within is False
    plain = LeadDrive(Fraction(6), Fraction(60), heron().box)
    assert swing(steep, plain).within is None


def test_which_way_the_work_turns() -> None:
    assert work_turns(Hand.RIGHT, table_to_left=True) is Sense.CLOCKWISE
    assert work_turns(Hand.RIGHT, table_to_left=False) is Sense.ANTICLOCKWISE
    assert work_turns(Hand.LEFT, table_to_left=True) is Sense.ANTICLOCKWISE
    assert work_turns(Hand.LEFT, table_to_left=False) is Sense.CLOCKWISE


def test_short_leads_load_the_gearing() -> None:
    drive = heron()
    assert heavy(total_ratio(drive.screw, drive.head, Fraction(60)))
    assert not heavy(total_ratio(drive.screw, drive.head, clock_wheel().lead))


TRAIN, PAIR = parse_train("52/28*72/56"), PairWay(Fraction(1, 2))


def test_the_proof_of_the_clock_wheel() -> None:
    """52/28 × 72/56 behind 1 : 2 is 1.19388: in 100 mm of the table 119.39 degrees."""
    found = proof(TRAIN, PAIR, heron())
    assert found.travel == 100
    assert float(found.degrees) == pytest.approx(119.387755, abs=1e-6)
    assert found.crank == found.degrees / 360 * 60


@settings(deadline=None)
@given(st.sampled_from([1, 10, 50, 100]), st.integers(-60, 60))
def test_a_reading_within_what_it_may_be_off_agrees(travel: int, hundredths: int) -> None:
    drive = heron()
    true = Fraction(360 * travel) / given_lead(TRAIN, PAIR, drive)
    read, off = true + Fraction(hundredths, 100), Fraction(1, 2)
    if read > 0:
        found = check(Read.DEGREES, read, off, Fraction(travel), TRAIN, PAIR, drive, STOCK)
        assert found.agrees == (abs(hundredths) <= 50)
        assert found.expected == true


@pytest.mark.parametrize(
    ("slipped", "pair", "code"),
    [
        (TRAIN, PairWay(Fraction(2)), "pair_turned"),
        (TRAIN, PairWay(Fraction(1, 10)), "other_pair"),
        (parse_train("28/52*72/56"), PAIR, None),
    ],
)
def test_what_slipped_is_named(slipped: object, pair: PairWay, code: str | None) -> None:
    drive = heron()
    assert isinstance(slipped, type(TRAIN))
    crank = Fraction(100) / given_lead(slipped, pair, drive) * drive.head
    found = check(Read.CRANK, crank, Fraction(1, 50), Fraction(100), TRAIN, PAIR, drive, STOCK)
    assert not found.agrees
    assert found.too_fast == (given_lead(slipped, pair, drive) < given_lead(TRAIN, PAIR, drive))
    first = found.slips[0]
    if code is None:
        assert first.kind is SlipKind.STAGE_EXCHANGED
        assert first.train == slipped
    else:
        assert first.factor is not None
        assert (first.factor.code, first.factor.name) == (code, pair.name)


@pytest.mark.parametrize("figures", [(0, 1, 1), (1, 0, 1), (1, 1, 0)])
def test_readings_that_cannot_be(figures: tuple[int, int, int]) -> None:
    value, off, travel = map(Fraction, figures)
    with pytest.raises(Refused, match="not_positive"):
        check(Read.DEGREES, value, off, travel, TRAIN, PAIR, heron(), STOCK)


def test_a_mill_without_wheels_says_so() -> None:
    with pytest.raises(Refused, match="no_wheels"):
        plan(clock_wheel(), heron(), {})
