"""Which wheel not held gives a ratio exactly: found at once, beside what trying every wheel finds."""

from fractions import Fraction

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from valleywind.core.trains.exact import bringing, exact_trains

RATIOS = st.builds(Fraction, st.integers(1, 60), st.integers(1, 200))
STOCKS = st.dictionaries(st.integers(12, 90), st.sampled_from((0, 1, 1, 2)), min_size=1, max_size=9)


@pytest.mark.long
@settings(max_examples=60)
@given(RATIOS, STOCKS)
@example(Fraction(3), {20: 2, 30: 1})  # 40/20 × 30/20 takes both of the 20
@example(Fraction(3), {20: 1, 30: 1})
def test_the_wheels_that_bring_a_ratio_are_those_with_a_train(ratio: Fraction, stock: dict[int, int]) -> None:
    new = [teeth for teeth in range(12, 100) if not stock.get(teeth)]
    tried = {t for t in new if any(t in train.wheels for train in exact_trains(ratio, {**stock, t: 1}))}
    assert bringing(ratio, stock, new) == tried
