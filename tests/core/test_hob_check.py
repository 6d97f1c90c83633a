"""Check before cutting on a hobber, constants of one without papers, and the chart of counts."""

from fractions import Fraction

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.hobbers import CONSTANTS, REFERENCE_STOCK, avocet, quadrant
from tests.reference import cases
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.chart import CountStanding, chart, worth_making
from valleywind.core.hobbing.check import MeasuredBy, TableReading, check, constants_of, read_measured, to_check
from valleywind.core.refusal import Refusal
from valleywind.core.trains.advice import Advice
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import parse_stock, parse_train
from valleywind.core.trains.slips import SlipKind

AVOCET = avocet()
TRAIN = parse_train("48/37*40/80")
SMALL, LARGE = CONSTANTS


def angle(degrees: float, turns: int = 9, off: str = "") -> TableReading:
    return read_measured(MeasuredBy.ANGLE, str(degrees), str(turns), off)


def test_the_check_of_37() -> None:
    result = to_check(TRAIN, SMALL, HobAsk(37))
    assert (result.turns, result.marks, result.around) == (9, 37, 37)
    assert result.degrees == Fraction(9 * 360, 37)
    two = to_check(parse_train("48/37"), SMALL, HobAsk(37, starts=2))
    assert (two.marks, two.around) == (37, None)
    made_up = to_check(parse_train("34/32*38/90"), LARGE, HobAsk(107))
    assert made_up.marks is None


@given(st.integers(1, 200), st.integers(-400, 400))
def test_a_reading_within_what_it_may_be_off_is_a_yes(turns: int, hundredths: int) -> None:
    true = Fraction(360 * turns, 37)
    read = TableReading(MeasuredBy.ANGLE, true + Fraction(hundredths, 1000), Fraction(1, 2), turns)
    result = check(read, TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert result.agrees == (abs(hundredths) <= 500)
    assert result.expected == true


def test_an_exchanged_pair_is_named() -> None:
    slipped = parse_train("37/48*40/80")
    degrees = float(360 * 9 * slipped.ratio / 24)
    result = check(angle(degrees), TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert not result.agrees
    assert result.slips[0].kind is SlipKind.STAGE_EXCHANGED
    assert set(result.slips[0].wheels) == {37, 48}


def test_the_other_reversing_pair_is_named() -> None:
    degrees = float(360 * 9 * TRAIN.ratio / 48)
    result = check(angle(degrees), TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert result.slips[0].factor is not None
    assert (result.slips[0].factor.code, result.slips[0].factor.name) == ("reversing_pair", "48/24")


@pytest.mark.parametrize(
    ("marks", "code", "name"),
    [(74, "reversing_pair", "48/24"), (36, "marks_miscounted", "37"), (111, None, None)],
)
def test_marks_counted_are_explained(marks: int, code: str | None, name: str | None) -> None:
    """Twice as many marks: the table turns at half speed, as with the other pair; 36 may be a slip of counting."""
    read = read_measured(MeasuredBy.MARKS, f"{marks} marks")
    result = check(read, TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert not result.agrees
    factors = {(s.factor.code, s.factor.name) for s in result.slips if s.factor}
    assert code is None or (code, name) in factors
    assert check(read_measured(MeasuredBy.MARKS, "37"), TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK).agrees


def test_a_hob_of_other_starts_shows_in_the_marks_only() -> None:
    """With a two-start hob the same wheels divide into twice as many."""
    read = read_measured(MeasuredBy.MARKS, "74")
    result = check(read, TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert ("hob_starts", "2") in {(s.factor.code, s.factor.name) for s in result.slips if s.factor}
    turned = check(angle(float(360 * 9 * TRAIN.ratio / 48)), TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert "hob_starts" not in {s.factor.code for s in turned.slips if s.factor}


@given(st.sampled_from(sorted(REFERENCE_STOCK)), st.integers(0, 3))
def test_a_neighbours_wheel_is_among_the_slips(other: int, place: int) -> None:
    from valleywind.core.trains.model import lacking

    slipped = TRAIN.with_wheel(place, other)
    assume(other not in TRAIN.teeth and not lacking(slipped.teeth, REFERENCE_STOCK))
    turns = 100
    read = TableReading(MeasuredBy.ANGLE, 360 * turns * slipped.ratio / 24, Fraction(1, 10), turns)
    result = check(read, TRAIN, SMALL, HobAsk(37), AVOCET, REFERENCE_STOCK)
    assert result.agrees == (slipped.ratio == TRAIN.ratio)
    assert result.agrees or any(s.train == slipped for s in result.slips)


@pytest.mark.parametrize(
    ("kind", "value", "turns", "off", "code"),
    [
        (MeasuredBy.ANGLE, "", "1", "", "empty"),
        (MeasuredBy.ANGLE, "0", "1", "", "not_positive"),
        (MeasuredBy.ANGLE, "90", "0", "", "whole_out_of_range"),
        (MeasuredBy.ANGLE, "90", "1.5", "", "not_a_whole_number"),
        (MeasuredBy.ANGLE, "90", "1", "0", "not_positive"),
        (MeasuredBy.ANGLE, "999999", "1", "", "angle_too_far"),
        (MeasuredBy.MARKS, "36.5", "1", "", "not_a_whole_number"),
        (MeasuredBy.MARKS, "0", "1", "", "whole_out_of_range"),
    ],
)
def test_readings_that_cannot_be(kind: MeasuredBy, value: str, turns: str, off: str, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_measured(kind, value, turns, off)
    assert refused.value.code == code


def test_a_constant_from_counted_turns() -> None:
    """48/37 × 40/80 on; 37 turns of the hob turned the table once, within a fiftieth."""
    result, simple = constants_of(TRAIN, Fraction(37), Fraction(1), Fraction(1, 50))
    assert result == 24
    assert simple[0].constant == 24
    rough, near = constants_of(TRAIN, Fraction(37), Fraction("1.012"), Fraction(1, 50))
    assert rough != 24
    assert near[0].constant == 24
    assert all(c.off <= 1 for c in near)
    with pytest.raises(Refusal):
        constants_of(TRAIN, Fraction(37), Fraction(0), Fraction(1, 50))


@pytest.mark.long
def test_the_chart_agrees_with_what_was_counted_apart() -> None:
    numbers = {c["teeth"]: c["two_wheels"] + c["four_wheels"] for c in cases("hobbing_index") if c["starts"] == 1}
    machine = avocet(differential=None)
    rows = {row.teeth: row for row in chart(machine, REFERENCE_STOCK, range(6, 201))}
    assert set(rows) == set(numbers)
    for teeth, row in rows.items():
        if numbers[teeth]:
            assert row.standing in (CountStanding.EXACT, CountStanding.NO_ROOM)
        else:
            assert row.standing in (CountStanding.NEEDS_WHEEL, CountStanding.NOTHING, CountStanding.OTHER_PAIR)
        if row.standing is CountStanding.EXACT:
            assert row.laid is not None
            assert row.constant is not None
            assert row.laid.train.ratio == row.constant.constant / teeth
            box = machine.boxes[next(iter(machine.boxes))]
            assert lay_out([row.laid.train], box.family, box.quadrant)[0].fits
        if row.standing is CountStanding.NEEDS_WHEEL:
            assert row.laid is not None
            assert row.new in row.laid.train.teeth
            assert row.constant is not None
            assert row.laid.train.ratio == row.constant.constant / teeth
    assert sum(r.standing is CountStanding.EXACT for r in rows.values()) > 150


def test_the_chart_makes_primes_up() -> None:
    for row in chart(AVOCET, REFERENCE_STOCK, [71, 101, 107, 199]):
        assert row.standing is CountStanding.MADE_UP
        assert row.way is not None
        assert row.way.error == 0


def test_the_chart_says_what_has_no_room() -> None:
    rows = chart(avocet(quadrant(300, 400), differential=None), REFERENCE_STOCK, [37, 179])
    assert [r.standing for r in rows] == [CountStanding.NO_ROOM, CountStanding.NOTHING]


def test_the_other_pair_serves() -> None:
    rows = chart(avocet(differential=None), parse_stock("80 100 90 33 47"), [60])
    assert rows[0].standing is CountStanding.OTHER_PAIR
    assert rows[0].constant == LARGE


@pytest.mark.long
def test_which_wheels_are_worth_making() -> None:
    *steps, advice = worth_making(AVOCET, REFERENCE_STOCK, range(6, 201))
    assert isinstance(advice, Advice)
    shares = [step for step in steps if isinstance(step, float)]
    assert shares == sorted(shares)
    assert shares[-1] == 1
    result = dict(advice.wheels)
    assert result[43] == (43, 86, 129, 172)
    assert next(iter(result)) == 43
    assert result[107] == (107,)
    assert 37 not in result
    for teeth in (31, 67, 71, 73, 134):
        held = {**REFERENCE_STOCK, teeth: 1}
        brings = [
            n for n in range(6, 201)
            if not exact_trains(AVOCET.index_for(n).constant / n, REFERENCE_STOCK)
            and exact_trains(AVOCET.index_for(n).constant / n, held)
        ]  # fmt: skip
        assert result.get(teeth, ()) == tuple(brings)
