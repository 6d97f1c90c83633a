from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition, Entry, parse_pile


def test_a_pile_as_it_is_counted() -> None:
    assert parse_pile("40 40 45 50 worn 20") == [
        Entry(20, Condition.GOOD, 1),
        Entry(40, Condition.GOOD, 2),
        Entry(45, Condition.GOOD, 1),
        Entry(50, Condition.WORN, 1),
    ]
    assert parse_pile("32x2 worn, 32") == [Entry(32, Condition.GOOD, 2), Entry(32, Condition.WORN, 1)]


piles = st.lists(st.tuples(st.integers(6, 400), st.sampled_from(Condition)), min_size=1, max_size=40)


@given(piles, st.sampled_from([" ", ", ", " ; "]))
def test_every_wheel_of_a_pile_is_counted_once(pile: list[tuple[int, Condition]], between: str) -> None:
    typed = between.join(f"{t}" if c is Condition.GOOD else f"{t} {c}" for t, c in pile)
    assert {(e.teeth, e.condition): e.count for e in parse_pile(typed)} == Counter(pile)


@pytest.mark.parametrize(
    ("typed", "code"),
    [("0", "teeth_out_of_range"), ("401", "teeth_out_of_range"), ("12.5", "not_a_wheel"), ("4O", "not_a_wheel"),
     ("worn 40", "condition_of_nothing"), ("", "empty"), ("40x0", "too_many_of_one"), ("40x100", "too_many_of_one"),
     ("40 broken", "not_a_wheel")],
)  # fmt: skip
def test_what_is_no_pile_is_refused(typed: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        parse_pile(typed)
    assert (caught.value.code, caught.value.field) == (code, "wheels")


def test_a_range_is_one_of_each() -> None:
    assert [(e.teeth, e.count) for e in parse_pile("24-27 26 30x2")] == [(24, 1), (25, 1), (26, 2), (27, 1), (30, 2)]
    for text, code in (("27-24", "range_backwards"), ("24-2000", "teeth_out_of_range"), ("2-30", "teeth_out_of_range"),
                       ("24-27 worn", "condition_of_nothing")):  # fmt: skip
        with pytest.raises(Refusal) as refused:
            parse_pile(text)
        assert refused.value.code == code
