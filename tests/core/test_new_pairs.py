"""Which two new wheels come near a ratio, beside trying every one of them."""

import random
from fractions import Fraction
from itertools import combinations

import numpy as np
import pytest

from valleywind.core.lathe.worth_making import _NewPairs


def by_trying(one: int, other: int, held: list[int], ratios: list[float], within: float) -> bool:
    """Up to two of the wheels held beside these two: one of each drives, or both of one kind do."""
    beside = {Fraction(a, b) for a in held for b in held if a != b} | {Fraction(1)}
    drive = [float(Fraction(a, b) * f) for a, b in ((one, other), (other, one)) for f in beside]
    both = [one * other / (a * b) for a, b in combinations(held, 2)]
    return any(
        abs(came - 1) <= within
        for ratio in ratios
        for came in [*(x * ratio for x in drive), *(x * ratio for x in both), *(x / ratio for x in both)]
    )


@pytest.mark.long
@pytest.mark.parametrize("seed", range(6))
def test_pairs_are_those_that_trying_finds(seed: int) -> None:
    draw = random.Random(seed)
    stock = {t: draw.choice((0, 1, 1, 2)) for t in draw.sample(range(18, 100), 6)}
    held = [t for t, n in stock.items() for _ in range(n)]
    new = sorted(set(draw.sample(range(12, 130), 45)) - set(stock))
    # A wide measure takes in two neighbouring wheels, a narrow one hardly any.
    ratios, within = [draw.uniform(0.1, 3) for _ in range(2)], draw.choice((1e-4, 2e-3, 0.02))
    pairs = _NewPairs(np.array(new), stock)
    made = pairs.make(np.array(ratios), within)
    wanted = [by_trying(int(a), int(b), held, ratios, within) for a, b in zip(pairs.smaller, pairs.larger, strict=True)]
    assert made.tolist() == wanted
    assert within < 1e-3 or any(wanted)


def test_with_nothing_held_two_wheels_drive_each_other() -> None:
    pairs = _NewPairs(np.array([30, 40, 60]), {})
    made = pairs.make(np.array([0.5]), 1e-6)
    assert [(int(a), int(b)) for a, b in zip(pairs.smaller[made], pairs.larger[made], strict=True)] == [(30, 60)]
