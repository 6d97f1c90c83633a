from fractions import Fraction

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.lathes import plover
from valleywind.core.lathe.proof import UNCERTAINTY, Measured, Method, check
from valleywind.core.refusal import Refused
from valleywind.core.trains.model import Stage, Train, parse_stock, parse_train
from valleywind.core.trains.slips import SlipKind, explain

PLANNED = parse_train("48/72*40/80")
RACK = parse_stock("24 28 32 36 40x2 44 48x2 52 56 64 66 68 72 76 78 80 96")


def kinds(observed: Fraction, uncertainty: Fraction = Fraction(1, 10_000)) -> list[tuple[SlipKind, tuple[int, ...]]]:
    return [(s.kind, s.wheels) for s in explain(PLANNED, observed, uncertainty, RACK)]


def test_a_stage_exchanged() -> None:
    assert kinds(Fraction(72 * 40, 48 * 80))[0] == (SlipKind.STAGE_EXCHANGED, (48, 72))


def test_the_wheels_of_a_stud_exchanged() -> None:
    assert kinds(Fraction(48 * 72, 40 * 80))[0] == (SlipKind.STUD_EXCHANGED, (40, 72))


def test_a_compound_run_as_an_idler() -> None:
    found = explain(PLANNED, Fraction(48, 80), Fraction(1, 10_000), RACK)
    idled = [s for s in found if s.kind is SlipKind.RUN_AS_IDLER]
    assert {s.train.notation for s in idled} == {"48/72/80", "48/40/80"}


def test_a_neighbour_taken_for_a_wheel_comes_before_one_far_off() -> None:
    found = [
        s
        for s in explain(PLANNED, Fraction(44 * 40, 72 * 80), Fraction(1, 10_000), RACK)
        if s.kind is SlipKind.REPLACED
    ]
    assert found[0].wheels == (48, 44)
    assert found[0].likelihood > 2 * min(s.likelihood for s in found) or len(found) == 1


def test_nothing_explains_the_impossible() -> None:
    assert kinds(Fraction(97, 10)) == []
    with pytest.raises(Refused, match="measured: not_positive"):
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
    found = explain(train, observed, Fraction(1, 10**6), RACK)
    assert (SlipKind.REPLACED, (four[place], other)) in {(s.kind, s.wheels) for s in found}
    assert all(abs(s.ratio - observed) <= Fraction(1, 10**6) for s in found)
    assert all(s.off <= 1 for s in found)


def reading(length: str, turns: int = 10, method: Method = Method.CALIPER) -> Measured:
    return Measured(Fraction(length), turns, UNCERTAINTY[method])


def test_the_scratch_pass_of_the_sluice_pin() -> None:
    lathe, stock = plover()
    train = parse_train("76/66*32/78")
    assert check(reading("20.03"), train, lathe, stock).agrees
    # 66 and 32 exchanged on the stud: 76 × 66 over 32 × 78.
    wrong = check(reading("85.05"), train, lathe, stock)
    assert not wrong.agrees
    assert wrong.expected == Fraction(608, 1287) * Fraction(254, 60) * 10
    assert (wrong.slips[0].kind, wrong.slips[0].wheels) == (SlipKind.STUD_EXCHANGED, (32, 66))
    nine = check(reading("18.00"), train, lathe, stock)
    assert nine.slips[0].factor is not None
    assert (nine.slips[0].factor.code, nine.slips[0].factor.number) == ("miscounted", 9)


def test_a_rule_says_less_than_a_caliper() -> None:
    lathe, stock = plover()
    train = parse_train("76/66*32/78")
    told = {method: set[str]() for method in Method}
    for length in ("18.7", "19.3", "21.3", "22.1", "25.6"):
        for method in Method:
            found = check(reading(length, method=method), train, lathe, stock).slips
            told[method] |= {f"{length} {s.kind} {s.train.notation}" for s in found}
    assert told[Method.MICROMETER] <= told[Method.CALIPER] < told[Method.RULE]


@pytest.mark.parametrize(
    ("length", "turns", "field"), [("0", 10, "measured"), ("9999", 10, "measured"), ("20", 0, "turns")]
)
def test_a_reading_that_cannot_be_is_refused(length: str, turns: int, field: str) -> None:
    with pytest.raises(Refused) as caught:
        reading(length, turns)
    assert caught.value.field == field
