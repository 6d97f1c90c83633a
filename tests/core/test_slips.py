from collections.abc import Callable
from fractions import Fraction

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.lathes import curlew, dunlin, plover
from tests.slip_trials import named
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.check import CheckResult, check
from valleywind.core.lathe.length_reading import UNCERTAINTY, LengthReading, Method
from valleywind.core.lathe.machine import Lathe, read_set_up
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Stage, Stock, Train, parse_stock, parse_train
from valleywind.core.trains.slips import Apart, Slip, SlipKind, apart, explain
from valleywind.wording.lathe import slips as words

PLANNED = parse_train("48/72*40/80")
RACK = parse_stock("24 28 32 36 40x2 44 48x2 52 56 64 66 68 72 76 78 80 96")


def kinds(observed: Fraction, uncertainty: Fraction = Fraction(1, 10_000)) -> list[tuple[SlipKind, tuple[int, ...]]]:
    return [(s.kind, s.wheels) for s in explain(PLANNED, observed, uncertainty, RACK)]


def every_replacement() -> list[Slip]:
    wide = explain(PLANNED, Fraction(1), Fraction(10), RACK)
    return [s for s in wide if s.kind is SlipKind.REPLACED]


def test_a_stage_exchanged() -> None:
    assert kinds(Fraction(72 * 40, 48 * 80))[0] == (SlipKind.STAGE_EXCHANGED, (48, 72))


def test_the_wheels_of_a_stud_exchanged() -> None:
    assert kinds(Fraction(48 * 72, 40 * 80))[0] == (SlipKind.STUD_EXCHANGED, (40, 72))


def test_a_compound_run_as_an_idler() -> None:
    result = explain(PLANNED, Fraction(48, 80), Fraction(1, 10_000), RACK)
    idled = [s for s in result if s.kind is SlipKind.RUN_AS_IDLER]
    assert [(s.train.notation, s.wheels) for s in idled] == [("48/72/80", (72, 40))]


def test_an_idler_in_the_place_of_another_wheel() -> None:
    for slipped, wheels in (("50/40/80", (50, 40)), ("40/80/50", (50, 80))):
        train = parse_train(slipped)
        result = explain(parse_train("40/50/80"), train.ratio, Fraction(1, 10_000), RACK | {50: 1})
        assert (result[0].kind, result[0].wheels, result[0].train) == (SlipKind.IDLER_EXCHANGED, wheels, train)


def test_a_reading_a_little_outside_is_explained_less_surely() -> None:
    stud, uncertainty = Fraction(48 * 72, 40 * 80), Fraction(1, 1000)
    for off, sure in ((0, True), (1, True), (2, False), (3, False)):
        result = explain(PLANNED, stud + off * uncertainty, uncertainty, RACK)
        named = next(s for s in result if s.kind is SlipKind.STUD_EXCHANGED)
        assert named.sure is sure
    assert SlipKind.STUD_EXCHANGED not in {k for k, _ in kinds(stud + 4 * uncertainty, uncertainty)}


def test_two_slips_are_told_apart_by_turns_or_by_counting() -> None:
    one, other = (Slip(SlipKind.REPLACED, (), parse_train(t), parse_train(t).ratio, 0, 1) for t in ("40/80", "41/80"))
    result = apart(one, other, Fraction(1, 100), 100)
    assert (result.times, result.count) == (4, (0, 40, 41))
    # Four uncertainties between them after four times the turns, and no sooner.
    assert abs(one.ratio - other.ratio) * 4 >= 4 * Fraction(1, 100) > abs(one.ratio - other.ratio) * 3
    assert apart(one, other, Fraction(1, 100), 3).times is None
    same = Slip(SlipKind.STAGE_EXCHANGED, (), parse_train("20/40"), Fraction(1, 2), 0, 1)
    assert apart(one, same, Fraction(1, 100), 1000) == Apart(None, (0, 40, 20))


@pytest.mark.long
def test_planted_slips_are_named() -> None:
    """Nineteen of twenty first, 99 of 100 among the first three, with the scatter of a caliper."""
    count, first, three = named(300, seed=11)
    assert count > 250
    assert first >= 0.95 * count
    assert three >= 0.99 * count


def test_what_to_do_next_is_said() -> None:
    result = checked("M14x2", "76/66*32/78", reading("19.3", method=Method.RULE), plover())
    assert len(result.slips) > 1
    text = words.tell_apart(result)
    assert text
    assert text.startswith("To tell the first two apart, ")
    assert "turns" in text or "count the wheel" in text
    lathe = plover()[0]
    unsure = [s for s in result.slips if not s.sure]
    assert all(words.slip(s, lathe).startswith("Less sure: ") for s in unsure)


def test_a_neighbour_taken_for_a_wheel_comes_before_one_far_off() -> None:
    result = [
        s
        for s in explain(PLANNED, Fraction(44 * 40, 72 * 80), Fraction(1, 10_000), RACK)
        if s.kind is SlipKind.REPLACED
    ]
    assert result[0].wheels == (48, 44)
    far = Slip(SlipKind.REPLACED, (48, 24), PLANNED, PLANNED.ratio, 0, 1)
    assert far.wheels not in [s.wheels for s in result]
    near, other = (next(s.likelihood for s in every_replacement() if s.wheels == (48, t)) for t in (44, 96))
    assert near > 10 * other


def test_nothing_explains_the_impossible() -> None:
    assert kinds(Fraction(97, 10)) == []
    with pytest.raises(Refusal, match="measured: not_positive"):
        explain(PLANNED, Fraction(0), Fraction(1, 100), RACK)


wheels = st.sampled_from(sorted(RACK))


@settings(max_examples=60, deadline=None)
@given(st.lists(wheels, min_size=4, max_size=4, unique=True), st.integers(0, 3), wheels)
def test_whatever_wheel_is_taken_for_another_is_among_the_explanations(four: list[int], place: int, other: int) -> None:
    assume(other not in four)
    train = Train((Stage(four[0], four[1]), Stage(four[2], four[3])))
    slipped = [*four]
    slipped[place] = other
    observed = Fraction(slipped[0] * slipped[2], slipped[1] * slipped[3])
    result = explain(train, observed, Fraction(1, 10**6), RACK)
    assert (SlipKind.REPLACED, (four[place], other)) in {(s.kind, s.wheels) for s in result}
    assert all(abs(s.ratio - observed) <= Fraction(3, 10**6) for s in result)
    assert all(s.sure == (abs(s.ratio - observed) <= Fraction(1, 10**6)) for s in result)


def reading(length: str, turns: int = 10, method: Method = Method.CALIPER) -> LengthReading:
    return LengthReading(Fraction(length), turns, UNCERTAINTY[method])


def checked(ask: str, train: str, measured: LengthReading, machine: tuple[Lathe, Stock]) -> CheckResult:
    lathe, stock = machine
    wanted = read(ask).ask
    assert wanted is not None
    return check(measured, wanted, read_set_up(train, lathe), lathe, stock)


def test_the_scratch_pass_of_the_sluice_pin() -> None:
    pin = ("M14x2", "76/66*32/78")
    assert checked(*pin, reading("20.03"), plover()).agrees
    # 66 and 32 exchanged on the stud: 76 × 66 over 32 × 78.
    wrong = checked(*pin, reading("85.05"), plover())
    assert not wrong.agrees
    assert wrong.expected == Fraction(608, 1287) * Fraction(254, 60) * 10
    assert (wrong.slips[0].kind, wrong.slips[0].wheels) == (SlipKind.STUD_EXCHANGED, (32, 66))
    nine = checked(*pin, reading("18.00"), plover())
    assert nine.slips[0].factor is not None
    assert (nine.slips[0].factor.code, nine.slips[0].factor.name) == ("miscounted", "9")


def test_a_rule_says_less_than_a_caliper() -> None:
    by_method = {method: set[str]() for method in Method}
    for length in ("18.7", "19.3", "21.3", "22.1", "25.6"):
        for method in Method:
            result = checked("M14x2", "76/66*32/78", reading(length, method=method), plover()).slips
            by_method[method] |= {f"{length} {s.kind} {s.train.notation}" for s in result}
    assert by_method[Method.MICROMETER] <= by_method[Method.CALIPER] < by_method[Method.RULE]


@pytest.mark.parametrize(
    ("machine", "ask", "train", "measured", "turns", "code", "name"),
    [
        # The box one step out: 9 to the inch where 10 was meant.
        (dunlin, "10 tpi", "32/80/64@10", "28.22", 10, "box_step", "9"),
        (dunlin, "20 tpi", "32/80/64@10 ×2", "25.4", 10, "box_step", "10"),
        # Read off the inch side of a caliper.
        (plover, "M14x2", "76/66*32/78", "0.787", 10, "read_in_inch", ""),
        # 8 threads to the inch set up as 8 mm, and the other way round.
        (plover, "8 tpi", "48/64", "80", 10, "set_as_mm", "8"),
        (curlew, "M14x2", "80/45/30", "127", 10, "set_as_tpi", "2"),
        (curlew, "0.5 mm", "40/50/60", "10", 10, "first_ratio", "1"),
        (curlew, "feed 0.05", "20/75*20/80", "5", 99, "miscounted", "100"),
    ],
)
def test_slips_that_are_not_of_wheels(
    machine: Callable[[], tuple[Lathe, Stock]], ask: str, train: str, measured: str, turns: int, code: str, name: str
) -> None:
    uncertainty = Fraction(1, 100) if Fraction(measured) > 1 else Fraction(1, 1000)
    result = checked(ask, train, LengthReading(Fraction(measured), turns, uncertainty), machine())
    factors = [s.factor for s in result.slips if s.factor]
    assert (code, name) in [(f.code, f.name) for f in factors]


@pytest.mark.parametrize(
    ("length", "turns", "field"), [("0", 10, "measured"), ("9999", 10, "measured"), ("20", 0, "turns")]
)
def test_a_reading_that_cannot_be_is_refused(length: str, turns: int, field: str) -> None:
    with pytest.raises(Refusal) as caught:
        reading(length, turns)
    assert caught.value.field == field
