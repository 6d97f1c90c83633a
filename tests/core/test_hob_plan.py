"""Trains for every box of a hobber from one set of wheels."""

import math
from collections import Counter
from fractions import Fraction

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.hobbers import REFERENCE_STOCK, avocet, quadrant, unmeasured
from tests.reference import cases
from valleywind.core.cutting.wheel import cut_wheel, lead_of_wheel
from valleywind.core.hobbing.ask import HobAsk, read
from valleywind.core.hobbing.machine import Box, FeedSource, FeedWay, Hobber, IndexConstant
from valleywind.core.hobbing.making_up import nearest_indexed
from valleywind.core.hobbing.plan import judged, plan
from valleywind.core.hobbing.ratios import making_up, work_faster
from valleywind.core.hobbing.set_up import HobPlan, Move, OnNow, SetUp, SetUpKind, read_trains, spell_trains
from valleywind.core.hobbing.setting import table_now
from valleywind.core.refusal import Refusal
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import lacking, parse_stock, parse_train
from valleywind.core.trains.placement import RoomCheck
from valleywind.core.units import PI

AVOCET = avocet()


def ask(line: str) -> HobAsk:
    result = read(line).ask
    assert result is not None
    return result


def hob(line: str, machine: Hobber = AVOCET, stock: str | None = None, on: OnNow | None = None) -> HobPlan:
    return plan(ask(line), machine, parse_stock(stock) if stock else REFERENCE_STOCK, on)


def goes_on(result: SetUp, machine: Hobber) -> bool:
    """Every train laid out anew on its own box, and the whole out of one set."""
    laid = [lay_out([t], machine.boxes[b].family, machine.boxes[b].quadrant)[0] for b, t in result.trains.items()]
    return all(one.fits for one in laid)


def turns_per_mm(result: SetUp, z: int, starts: int) -> Fraction:
    """What the differential adds to the work, turns for a mm of the hob's travel: 1/L = train s/(K_d π z′)."""
    assert result.differential is not None
    indexed = result.indexed or Fraction(z)
    assert AVOCET.differential is not None
    return result.differential.train.ratio * starts / (AVOCET.differential * PI * indexed)


@pytest.mark.long
@settings(deadline=None, max_examples=40)
@given(st.integers(6, 200), st.integers(1, 2))
def test_an_exact_train_replayed_closes(teeth: int, starts: int) -> None:
    result = hob(f"hob {teeth} {starts}-start")
    spur = [one for one in result.set_ups if one.kind is SetUpKind.SPUR]
    assume(spur)
    for one in spur:
        constant = AVOCET.index_for(teeth)
        assert one.index.setting == constant
        # z/s turns of the hob turn the work once, tooth by tooth.
        assert Fraction(teeth, starts) * one.index.train.ratio / constant.constant == 1
        assert not lacking(one.teeth, REFERENCE_STOCK)
        assert one.goes_on
        assert goes_on(one, AVOCET)
        assert one.feed is not None
        assert one.feed.value == one.feed.train.ratio * Fraction(3, 4)
    if not result.exact:
        assert all(s.kind is SetUpKind.MADE_UP for s in result.set_ups)


@pytest.mark.long
@settings(deadline=None, max_examples=15)
@given(
    st.integers(12, 80), st.fractions(Fraction(5), Fraction(35), max_denominator=60), st.sampled_from(Hand),
    st.sampled_from(["m1", "m2", "12dp"]), st.sampled_from(["", " left hob", " feed up"]),
)  # fmt: skip
def test_a_differential_setting_replayed_gives_the_lead_within_its_run_off(
    teeth: int, helix: Fraction, hand: Hand, pitch: str, more: str
) -> None:
    wanted = ask(f"hob {teeth} {pitch} {helix}° {hand.value} face 20{more}")
    outcome = plan(wanted, AVOCET, REFERENCE_STOCK)
    assert outcome.exact or all(one.kind is SetUpKind.MADE_UP for one in outcome.set_ups)
    assume(outcome.exact)
    wheel = cut_wheel(wanted)
    assert wheel is not None
    for one in outcome.set_ups:
        assert one.run_off is not None
        turned = float(turns_per_mm(one, teeth, 1) * 20) * math.pi * wheel.pitch_diameter
        should = float(20 / lead_of_wheel(wanted.pitch.module, teeth, helix)) * math.pi * wheel.pitch_diameter  # type: ignore[union-attr]
        assert abs(turned - should) * 1000 == pytest.approx(one.run_off.um, abs=1e-6)
        assert not lacking(one.teeth, REFERENCE_STOCK)
        assert goes_on(one, AVOCET)
        table = table_now(AVOCET, wanted.hob_hand)
        assert table is not None
        assert one.adds == one.faster == work_faster(hand, table, wanted.way or FeedWay.DOWN)


@pytest.mark.long
@pytest.mark.parametrize("taken", list(FeedSource))
@pytest.mark.parametrize("teeth", [71, 101, 107, 113, 127, 139])
def test_a_count_without_train_is_made_up_without_run_off(teeth: int, taken: FeedSource) -> None:
    result = hob(f"hob {teeth} m2 face 20", avocet(taken=taken))
    assert not result.exact
    assert result.set_ups
    best = result.set_ups[0]
    assert best.kind is SetUpKind.MADE_UP
    for one in result.set_ups:
        assert one.run_off is not None
        assert one.feed is not None
        assert one.indexed is not None
        assert not lacking(one.teeth, REFERENCE_STOCK)
        assert goes_on(one, AVOCET)
        assert abs(float(one.feed.value) - 1) <= 0.4
        # Turn by turn: what the index train gives alone, and what the differential adds through the feed.
        alone = Fraction(teeth) * one.index.train.ratio / one.index.setting.constant
        per_mm = turns_per_mm(one, teeth, 1)
        sign = 1 if one.adds else -1
        feed = one.feed.value
        table = alone / (1 - sign * feed * per_mm) if taken is FeedSource.AFTER else alone * (1 + sign * feed * per_mm)
        assert (table == 1) == (one.run_off.um == 0)
    assert best.run_off is not None
    if taken is FeedSource.AFTER:
        assert best.run_off.um == 0


def test_the_counts_nearest_are_those_worked_out_apart() -> None:
    by_teeth: dict[int, list[dict[str, object]]] = {}
    for case in cases("hobbing_prime"):
        by_teeth.setdefault(int(str(case["teeth"])), []).append(case)
    for teeth, sentence in by_teeth.items():
        near = nearest_indexed(teeth, 1, Fraction(48), REFERENCE_STOCK, (2,), 8)
        assert [str(Fraction(i)) for i, _ in near] == [str(Fraction(str(c["indexed_as"]))) for c in sentence]
        assert [len(trains) for _, trains in near] == [c["index_trains"] for c in sentence]


def test_the_example_of_107_goes_on() -> None:
    """34/32 × 38/90, 24/57 × 25/100 and 50/51: no run-off whatever the feed."""
    only = parse_stock("34 38 32 90 24 25 57 100 50 51 61")  # the last one for an idler
    outcome = plan(ask("hob 107"), unmeasured(), only)
    best = outcome.set_ups[0]
    assert best.run_off is not None
    assert best.run_off.um == 0
    assert {b: t.combination.wheels for b, t in best.trains.items()} == {
        Box.INDEX: (34, 38, 32, 90), Box.DIFFERENTIAL: (24, 25, 57, 100), Box.FEED: (50, 51),
    }  # fmt: skip
    assert best.indexed == Fraction(34560, 323)
    assert best.adds is False


@pytest.mark.long
@settings(deadline=None, max_examples=8)
@given(
    st.sampled_from([43, 67, 71, 97, 107]), st.sampled_from(Hand), st.sampled_from(FeedWay),
    st.sampled_from(FeedSource), st.integers(8, 30),
)  # fmt: skip
def test_a_helix_of_a_count_without_train_replayed(
    teeth: int, hand: Hand, way: FeedWay, taken: FeedSource, helix: int
) -> None:
    """From the gears up: index alone, the differential through the index train, the hob's travel; after the face the
    teeth lie on their helix but for the run-off."""
    machine = avocet(taken=taken, feeds=tuple(FeedWay))
    wanted = ask(f"hob {teeth} m2 {helix}° {hand.value} face 20 feed {way.value}")
    outcome = plan(wanted, machine, REFERENCE_STOCK)
    assert outcome.set_ups
    wheel = cut_wheel(wanted)
    assert wheel is not None
    along = lead_of_wheel(Fraction(2), teeth, Fraction(helix))
    sign = 1 if work_faster(hand, Sense.ANTICLOCKWISE, way) else -1
    for one in outcome.set_ups:
        assert one.kind is SetUpKind.MADE_UP
        assert one.feed is not None
        assert one.run_off is not None
        assert not lacking(one.teeth, REFERENCE_STOCK)
        assert goes_on(one, machine)
        feed = one.feed.value
        added = turns_per_mm(one, teeth, 1) * (1 if one.adds else -1)
        # Turns of the work for one of the hob, alone and true; travel for one turn of the hob.
        alone = one.index.train.ratio / one.index.setting.constant
        true = alone / (1 - feed * added) if taken is FeedSource.AFTER else alone * (1 + feed * added)
        travel = feed * (true if taken is FeedSource.AFTER else alone)
        off = (true - Fraction(1, teeth)) / travel - sign / along  # turns for a mm beside the helix
        um = abs(float(off)) * 20 * math.pi * wheel.pitch_diameter * 1000
        assert um == pytest.approx(one.run_off.um, abs=0.02, rel=0.01)
    assert outcome.set_ups[0].run_off is not None
    assert outcome.set_ups[0].run_off.good


@pytest.mark.long
def test_where_nothing_is_exact_the_nearest_says_its_run_off() -> None:
    """π does not drop out of a differential constant without it."""
    result = hob("hob 107 m2 face 20", avocet(differential=Fraction(8)))
    assert result.set_ups
    for one in result.set_ups:
        assert one.run_off is not None
        assert one.feed is not None
        assert one.indexed is not None
        assert one.differential is not None
        must = making_up(107, one.indexed, 1, Fraction(3, 4), Fraction(8), FeedSource.AFTER)
        error = abs(one.differential.train.ratio * one.feed.train.ratio / must.product - 1)
        um = float(error * must.share) * math.pi * 214 * float(20 / one.feed.value) * 1000
        assert one.run_off.um == pytest.approx(um)
        assert one.run_off.um > 0
    assert result.set_ups[0].run_off is not None
    assert result.set_ups[0].run_off.good


@pytest.mark.long
@settings(deadline=None, max_examples=6)
@given(st.integers(20, 60), st.sampled_from(Hand), st.sampled_from(FeedWay), st.sampled_from(Sense))
def test_without_a_differential_the_index_train_makes_the_helix(
    teeth: int, hand: Hand, way: FeedWay, table: Sense
) -> None:
    machine = avocet(differential=None, table=table, feeds=tuple(FeedWay))
    wanted = ask(f"hob {teeth} m2 20° {hand.value} face 20 feed {way.value}")
    outcome = plan(wanted, machine, REFERENCE_STOCK)
    wheel = cut_wheel(wanted)
    assert wheel is not None
    assert outcome.set_ups
    along = lead_of_wheel(Fraction(2), teeth, Fraction(20))
    for one in outcome.set_ups:
        assert one.feed is not None
        assert one.run_off is not None
        # One turn of the hob turns the work i/K; the surplus over a spur wheel is one turn in a lead of travel.
        turn = one.index.train.ratio / 24
        per_turn = turn * teeth - 1  # turns of the work beyond, for z turns of the hob
        feed = one.feed.value  # mm a table turn
        travel = turn * teeth * feed
        should = travel / along * (1 if work_faster(hand, table, way) else -1)
        off = float(abs(per_turn - should) / travel) * 20 * math.pi * wheel.pitch_diameter * 1000
        assert off == pytest.approx(one.run_off.um, rel=0.02)
        assert goes_on(one, machine)
        assert not lacking(one.teeth, REFERENCE_STOCK)


def test_without_a_differential_a_count_without_train_says_what_would_do() -> None:
    result = hob("hob 107", avocet(differential=None))
    assert not result.set_ups
    assert result.one_more is not None
    assert result.one_more.lacking == {107: 1}
    assert result.one_more.index.train.ratio == Fraction(48, 107)
    only = hob("hob 122", avocet(differential=None), "48 61 40 50 60")
    assert not only.set_ups
    assert only.more_starts is not None
    starts, set_up = only.more_starts
    assert starts == 2
    assert set_up.index.train.ratio == Fraction(48 * 2, 122)


def test_another_reversing_pair_is_a_way_out() -> None:
    result = hob("hob 60", avocet(differential=None), "80 100 90 33 47")
    assert not result.set_ups
    assert result.other_constant is not None
    assert result.other_constant.index.setting == IndexConstant(Fraction(48), 97, (48, 24))


def test_what_is_on_stays_on() -> None:
    first = hob("hob 37").set_ups[5]
    on = OnNow(first.trains, AVOCET.index_for(37))
    again = hob("hob 37", on=on).set_ups[0]
    assert again.trains == first.trains
    assert again.is_on
    assert again.kept == len(first.teeth)
    assert again.moved == ()
    other = hob("hob 37 feed 2 mm", on=on).set_ups[0]
    assert other.index.handling.none
    assert not other.is_on


def test_a_wheel_that_is_on_in_another_box_must_move() -> None:
    """The only 37 stands in the feed box."""
    on = OnNow({Box.FEED: parse_train("37/50")})
    result = hob("hob 37", on=on)
    assert all(Move(37, Box.FEED, Box.INDEX) in s.moved for s in result.set_ups)
    two = plan(ask("hob 37"), AVOCET, REFERENCE_STOCK | {37: 2}, on)
    assert not any(s.moved and s.moved[0].teeth == 37 for s in two.set_ups)


def test_a_wheel_out_of_a_box_that_is_set_anew_is_no_more_trouble() -> None:
    """The 48 is on in the feed's box, which is set anew: its wheels come off anyway."""
    wheels = "48 60 40 80 36 30 52 38 39"
    bare = hob("hob 60", stock=wheels).set_ups[0]
    assert set(bare.index.train.teeth) == {48, 60, 40, 80}
    again = hob("hob 60", stock=wheels, on=OnNow({Box.FEED: parse_train("48/39")})).set_ups[0]
    assert again.index.train.combination == bare.index.train.combination
    assert again.moved == (Move(48, Box.FEED, Box.INDEX),)


def test_wheels_of_an_idle_differential_stay_on_it() -> None:
    idle = parse_train("42/70*40/75")
    on = OnNow({Box.DIFFERENTIAL: idle})
    result = hob("hob 37", on=on)
    assert result.set_ups
    for one in result.set_ups:
        assert not Counter(one.index.train.teeth) & Counter(idle.teeth)
        assert not one.moved


def test_a_pair_cut_alike_tracks() -> None:
    alone, pair = hob("hob 24 m2 30° left face 20"), hob("hob 24 m2 30° left face 20 with 24")
    assert pair.set_ups[0].trains == alone.set_ups[0].trains
    assert pair.set_ups[0].run_off is not None
    assert pair.set_ups[0].run_off.pair


def test_an_index_box_takes_four_wheels_at_most() -> None:
    for line in ("hob 37", "hob 107", "hob 31 m2 20° right"):
        assert all(len(s.index.train.stages) <= 2 for s in hob(line).set_ups)


def test_three_stages_serve_where_two_do_not_reach() -> None:
    result = hob("hob 37 m2 31° right face 80", stock="24 25 30 36 40 48 60 37 80 100 55")
    best = result.set_ups[0]
    assert best.differential is not None
    assert len(best.differential.train.stages) == 3


def test_an_index_hand_needs_a_mesh_more_where_nothing_reverses() -> None:
    from valleywind.core.trains.direction import Drive
    from valleywind.core.trains.gearbox import Gearbox

    drive = Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, False)
    boxes = {b: Gearbox(x.family, x.quadrant, drive=drive, most_stages=2) for b, x in AVOCET.boxes.items()}
    result = hob("hob 37", avocet(boxes=boxes))
    assert {s.index.train.meshes % 2 for s in result.set_ups} == {0}
    left = hob("hob 37 left hob", avocet(boxes=boxes))
    assert {s.index.train.meshes % 2 for s in left.set_ups} == {1}


def test_boxes_that_are_not_measured_are_not_checked() -> None:
    result = hob("hob 24 m2 30° left face 20", unmeasured())
    assert result.set_ups
    assert {part.placement.checked for s in result.set_ups for part in s.parts} == {RoomCheck.NOTHING}


@pytest.mark.long
def test_why_an_exact_train_does_not_go_on_is_shown() -> None:
    result = hob("hob 37", avocet(quadrant(300, 400)))
    assert not any(s.kind is SetUpKind.SPUR for s in result.set_ups)
    assert result.unfit is not None
    assert result.unfit.index.placement.obstacles


@pytest.mark.parametrize(
    ("line", "machine", "code"),
    [
        ("hob 24 20° left", avocet(), "needs_pitch"),
        ("hob 24 m2 20° left", avocet(differential=None, table=None), "needs_table_sense"),
        ("hob 24 m2 20° left", Hobber((IndexConstant(Fraction(24)),), None, boxes=AVOCET.boxes), "no_feed_constant"),
    ],
)
def test_what_is_needed_is_asked_for(line: str, machine: Hobber, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        plan(ask(line), machine, REFERENCE_STOCK)
    assert refused.value.code == code


def test_a_run_off_is_told_over_a_usual_face_where_none_is_said() -> None:
    assert ask("hob 24 m2 20° left").shown_face == 20
    assert ask("hob 24 m3 20° left").shown_face == 30
    assert ask("hob 24 face 12").shown_face == 12


@pytest.mark.parametrize("line", ["hob 37", "hob 107 m2 face 20", "hob 24 m2 30° left face 20", "hob 60 with 24"])
def test_a_set_up_read_back_is_judged_the_same(line: str) -> None:
    for one in hob(line).set_ups:
        name = spell_trains(one.trains, one.index.setting)
        trains, constant = read_trains(name, AVOCET)
        assert (trains, constant) == (one.trains, one.index.setting)
        again = judged(ask(line), AVOCET, REFERENCE_STOCK, OnNow(), trains, constant)
        assert (again.kind, again.run_off, again.adds, again.faster) == (one.kind, one.run_off, one.adds, one.faster)
        assert again.goes_on == one.goes_on


def test_a_wrong_set_up_is_judged_too() -> None:
    trains, constant = read_trains("48/38*40/80@24", AVOCET)
    result = judged(ask("hob 37"), AVOCET, REFERENCE_STOCK, OnNow(), trains, constant)
    assert result.kind is SetUpKind.SPUR
    assert not result.index.verdict.good
    assert result.indexed == 38


@pytest.mark.parametrize(
    ("text", "code"),
    [("48/37", "not_trains"), ("48/37@25", "no_such_constant"), ("48@24", "not_a_train"), ("@24+1+2+3", "not_trains")],
)
def test_trains_that_cannot_be_read(text: str, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_trains(text, AVOCET)
    assert refused.value.code == code


def test_of_set_ups_alike_the_roomier_comes_first() -> None:
    """By steps of 5 mm: a little more room is no reason to take smaller wheels."""
    result = hob("hob 60").set_ups
    alike: dict[tuple[int, int], list[float]] = {}
    for one in result:
        idlers = sum(len(train.idlers) for train in one.trains.values())
        alike.setdefault((one.put_on, idlers), []).append(min(part.laid.room for part in one.parts))
    longest = max(alike.values(), key=len)
    assert len(longest) > 3
    assert [round(room / 5) for room in longest] == sorted((round(room / 5) for room in longest), reverse=True)
    assert len({round(room / 5) for room in longest}) > 1
