from collections.abc import Callable
from fractions import Fraction

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.lathes import curlew, dunlin, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.machine import Lathe, read_set_up
from valleywind.core.lathe.measured import UNCERTAINTY, Measured, Method
from valleywind.core.lathe.proof import ProofResult, check
from valleywind.core.refusal import Refused
from valleywind.core.trains.model import Stage, Stock, Train, parse_stock, parse_train
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


def checked(ask: str, train: str, measured: Measured, machine: tuple[Lathe, Stock]) -> ProofResult:
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
    told = {method: set[str]() for method in Method}
    for length in ("18.7", "19.3", "21.3", "22.1", "25.6"):
        for method in Method:
            found = checked("M14x2", "76/66*32/78", reading(length, method=method), plover()).slips
            told[method] |= {f"{length} {s.kind} {s.train.notation}" for s in found}
    assert told[Method.MICROMETER] <= told[Method.CALIPER] < told[Method.RULE]


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
    found = checked(ask, train, Measured(Fraction(measured), turns, uncertainty), machine())
    factors = [s.factor for s in found.slips if s.factor]
    assert (code, name) in [(f.code, f.name) for f in factors]


@pytest.mark.parametrize(
    ("length", "turns", "field"), [("0", 10, "measured"), ("9999", 10, "measured"), ("20", 0, "turns")]
)
def test_a_reading_that_cannot_be_is_refused(length: str, turns: int, field: str) -> None:
    with pytest.raises(Refused) as caught:
        reading(length, turns)
    assert caught.value.field == field
