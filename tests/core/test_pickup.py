"""Picking up, against counting along the screw turn by turn."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.lathe.machine import Dial
from valleywind.core.lathe.pickup import Close, NextStart, agreement, next_start, pick_up, serving_marks
from valleywind.core.units import MM_PER_INCH
from valleywind.wording.lathe.pickup import next_start_text
from valleywind.wording.numbers import Units

SIX = MM_PER_INCH / 6


@pytest.mark.parametrize(
    ("lead", "screw", "dials", "how", "marks"),
    [
        (MM_PER_INCH / 12, SIX, (), Close.ANYWHERE, ()),
        (MM_PER_INCH / 26, SIX, (Dial(24, 8),), Close.MARKS, (1, 2, 3, 4, 5, 6, 7, 8)),
        (MM_PER_INCH / 13, SIX, (Dial(24, 8),), Close.MARKS, (1, 3, 5, 7)),
        (MM_PER_INCH / Fraction(23, 2), SIX, (Dial(24, 8),), Close.MARKS, (1, 5)),
        (MM_PER_INCH / 13, SIX, (), Close.EVERY, ()),
        (Fraction(2), SIX, (Dial(24, 8),), Close.EVERY, ()),
        (Fraction(608, 1287) * SIX, SIX, (Dial(24, 8),), Close.KEEP_CLOSED, ()),
        (Fraction(1), Fraction(3), (), Close.ANYWHERE, ()),
        (Fraction(320, 63), Fraction(5), (), Close.EVERY, ()),
        (Fraction(325, 64), Fraction(5), (), Close.KEEP_CLOSED, ()),
        (Fraction(5, 4), Fraction(3, 2), (Dial(20, 10), Dial(15, 3)), Close.MARKS, (1, 2, 3)),
    ],
)
def test_where_the_half_nuts_may_close(
    lead: Fraction, screw: Fraction, dials: tuple[Dial, ...], how: Close, marks: tuple[int, ...]
) -> None:
    result = pick_up(lead, screw, dials)
    assert (result.how, result.marks) == (how, marks)
    assert result.travel == result.spindle_turns * lead == result.screw_turns * screw


leads = st.fractions(min_value=Fraction(1, 8), max_value=8, max_denominator=30)


@pytest.mark.long
@given(leads, leads)
def test_the_agreement_is_the_least(lead: Fraction, screw: Fraction) -> None:
    travel = agreement(lead, screw)
    first = next(n for n in range(1, 10**6) if (n * screw / lead).denominator == 1)
    assert travel == first * screw


@given(leads, leads, st.integers(8, 40), st.integers(1, 12))
def test_serving_marks_hold_on_every_turn_of_the_dial(lead: Fraction, screw: Fraction, teeth: int, marks: int) -> None:
    dial = Dial(teeth, marks)
    serving = serving_marks(dial, agreement(lead, screw), screw)
    for turn in range(3):
        for mark in range(marks):
            travel = (turn + Fraction(mark, marks)) * teeth * screw
            agrees = (travel / lead).denominator == 1 and (travel / screw).denominator == 1
            if mark + 1 in serving:
                assert agrees
            elif serving:
                assert not agrees


def test_the_next_start_by_teeth_or_by_the_top_slide() -> None:
    assert next_start(1, Fraction(4), 40, Fraction(1)) is None
    by_teeth = next_start(3, Fraction(4), 48, Fraction(1))
    assert by_teeth is not None
    assert by_teeth.teeth == 16
    halved = next_start(2, Fraction(1), 30, Fraction(1, 2))
    assert halved is not None
    assert halved.teeth is None
    assert halved.pitch == 1


def test_the_top_slide_moves_by_the_lead_that_is_cut() -> None:
    """A worm of module 1.5 with three starts on 76/28 x 80/64 of a 6 tpi screw: 4.788 mm, not π · 1.5 = 4.712."""
    text = next_start_text(NextStart(3, 76, None, Fraction(76 * 80 * 254, 28 * 64 * 60 * 3)), Units.MM)
    assert "**4.788 mm**" in text
