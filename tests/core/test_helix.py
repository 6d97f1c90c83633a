"""Leads from table screw, worm pairs and change wheels, beside figures worked out apart and the chain replayed."""

import json
import math
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.commands import run
from tests.reference import cases
from valleywind.core.cutting.run_off import run_off
from valleywind.core.cutting.wheel import lead_of_wheel
from valleywind.core.helix.lead import (
    PairWay,
    closest_trains,
    crank_turns,
    formative,
    lead_of_spiral,
    pair_ways,
    total_ratio,
    work_turn,
)
from valleywind.core.helix.machine import WormPair, read_pairs, read_screw
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import lacking, parse_stock

STOCK = parse_stock("24 26 28 30 32 34 36 38 40 42 44 46 48 52 56 60 64 72")
PAIRS = pair_ways(read_pairs("2, 10, 40", "pairs"))
SCREW, HEAD = Fraction(6), Fraction(60)


@pytest.mark.parametrize("case", cases("helix"), ids=lambda c: f"{c['lead']} mm")
def test_leads_come_out_as_apart(case: dict[str, Any]) -> None:
    lead = Fraction(str(case["lead"]))
    if "teeth" in case:
        helix, face = Fraction(str(case["helix_deg"])), Fraction(str(case["face"]))
        lead = lead_of_wheel(Fraction(str(case["module"])), case["teeth"], helix)
        assert float(lead) == pytest.approx(case["lead"], abs=5e-7)
        assert formative(case["teeth"], helix) == pytest.approx(case["formative_teeth"], abs=5e-6)
        error = closest_trains(total_ratio(SCREW, HEAD, lead), PAIRS, STOCK, best=1)[0].approximation.error
        assert run_off(face, helix, error) == pytest.approx(case["run_off_um_at_best"], rel=1e-9)
    total = total_ratio(SCREW, HEAD, lead)
    assert float(total) == pytest.approx(case["total"], rel=1e-14)
    best = closest_trains(total, PAIRS, STOCK)
    assert [abs(float(f.approximation.error)) for f in best] == pytest.approx(
        case["ten_smallest_relative_errors"], rel=1e-9
    )
    alike = [
        f for f in best if abs(abs(f.approximation.error) - abs(best[0].approximation.error)) < Fraction(1, 10**15)
    ]
    expected = case["best"]
    assert (expected["pair"], tuple(expected["drivers"]), tuple(expected["driven"])) in {
        (f.pair.name, f.approximation.combination.drivers, f.approximation.combination.driven) for f in alike
    }
    assert float(work_turn(Fraction(100), lead)) == pytest.approx(case["work_turn_deg_per_100_mm"], abs=5e-7)
    # The crank turns as often as the head's ratio says.
    assert crank_turns(Fraction(100), lead, HEAD) == work_turn(Fraction(100), lead) / 360 * HEAD
    if "crank_turns_per_100_mm" in case:
        assert float(crank_turns(Fraction(100), lead, HEAD)) == pytest.approx(case["crank_turns_per_100_mm"], abs=5e-7)


@settings(deadline=None, max_examples=30)
@given(
    st.fractions(Fraction(30), Fraction(2000), max_denominator=20),
    st.lists(st.builds(WormPair, st.integers(1, 4), st.integers(1, 60)), max_size=3),
    st.sampled_from(["24 30 40 50 60", "24 28 32 36 40 44 48 56 64 72 86 100"]),
)
def test_the_chain_replayed_gives_the_lead(lead: Fraction, pairs: list[WormPair], stock: str) -> None:
    """Turn the table's screw: the pair, the wheels, the head's worm, the work."""
    held = parse_stock(stock)
    for result in closest_trains(total_ratio(SCREW, HEAD, lead), pair_ways(tuple(pairs)), held, best=5):
        assert not lacking(result.approximation.combination.wheels, held)
        worm = Fraction(1) * result.pair.ratio * result.approximation.combination.ratio
        work = worm / HEAD
        gives = SCREW / work  # table travel for one turn of the work
        assert gives / lead - 1 == result.error
        turns = {Fraction(p.one, p.other) for p in pairs} | {Fraction(p.other, p.one) for p in pairs}
        assert result.pair.ratio in (turns or {Fraction(1)})


@given(st.integers(1, 80), st.integers(5, 200))
def test_the_lead_of_an_angle_at_a_diameter(degrees: int, diameter: int) -> None:
    lead = lead_of_spiral(Fraction(diameter), Fraction(degrees))
    assert float(lead) == pytest.approx(math.pi * diameter / math.tan(math.radians(degrees)))


def test_a_pair_goes_in_either_way_round_once() -> None:
    assert pair_ways(read_pairs("1:2, 2:1, 10", "pairs")) == tuple(
        PairWay(Fraction(*r)) for r in ((1, 2), (2, 1), (1, 10), (10, 1))
    )
    assert pair_ways(()) == (PairWay(Fraction(1)),)


@pytest.mark.parametrize("angle", [0, 90, 120])
def test_no_lead_at_no_angle(angle: int) -> None:
    with pytest.raises(Refusal, match="helix_not_cut"):
        lead_of_wheel(Fraction(2), 24, Fraction(angle))
    with pytest.raises(Refusal, match="helix_not_cut"):
        lead_of_spiral(Fraction(20), Fraction(angle))


@pytest.mark.parametrize(
    ("text", "code"), [("0:2", "not_a_worm_pair"), ("1:0", "not_a_worm_pair"), ("a", "not_a_worm_pair")]
)
def test_pairs_that_cannot_be(text: str, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_pairs(text, "pairs")
    assert refused.value.code == code


def test_a_screw_in_either_system() -> None:
    assert read_screw("6 mm", "screw") == 6
    assert read_screw("4 tpi", "screw") == Fraction("6.35")
    with pytest.raises(Refusal):
        read_screw("0 tpi", "screw")


WORDS = ("--screw", "6 mm", "--ratio", "60", "--pairs", "2,10,40", "--stock",
         "24,26,28,30,32,34,36,38,40,42,44,46,48,52,56,60,64,72")  # fmt: skip


def test_the_command_meets_the_reference() -> None:
    case = cases("helix")[0]
    done = run("helix", *WORDS, "--module", str(case["module"]), "--teeth", str(case["teeth"]), "--helix",
               str(case["helix_deg"]), "--face", str(case["face"]), "--best", "10", "--json")  # fmt: skip
    answer = json.loads(done.stdout)
    for name in ("lead", "total", "formative_teeth", "work_turn_deg_per_100_mm", "crank_turns_per_100_mm"):
        assert answer[name] == pytest.approx(case[name], rel=1e-6)
    assert [abs(c["relative_error"]) for c in answer["candidates"]] == pytest.approx(
        case["ten_smallest_relative_errors"]
    )
    assert answer["candidates"][0]["run_off_um"] == pytest.approx(case["run_off_um_at_best"])


def test_the_command_takes_a_lead() -> None:
    answer = json.loads(run("helix", *WORDS, "--lead", "300 mm", "--best", "3", "--json").stdout)
    assert answer["lead"] == 300
    assert answer["total"] == pytest.approx(1.2)
    assert answer["candidates"][0]["relative_error"] == 0
    assert "formative_teeth" not in answer
    assert "run_off_um" not in answer["candidates"][0]


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("--lead", "300 mm", "--teeth", "24"), "--lead: Say one thing: a lead, or a wheel."),
        (("--teeth", "24", "--module", "2"), "--helix: Say one thing"),
        (("--teeth", "24", "--module", "2", "--helix", "90"), "--helix: A helix of 90° cannot be cut."),
        (("--lead", "0 mm"), "--lead: “0 mm” is not above zero."),
    ],
)
def test_the_command_names_what_it_cannot_use(words: tuple[str, ...], says: str) -> None:
    done = run("helix", *WORDS, *words)
    assert done.returncode == 2
    assert done.stderr.startswith(says)
