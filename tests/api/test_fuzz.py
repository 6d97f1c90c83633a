"""The served program, for a short while, under what is hostile, wrong or odd."""

import random

import pytest

from tests.fuzz import files, wires
from tests.fuzz.__main__ import run


def test_nothing_that_comes_from_outside_stops_it() -> None:
    lines: list[str] = []
    result = run(2, 20, lines.append)
    assert not result.wrong, "\n".join(lines)
    # Much of it was in order, so that more than the reading of it was tried.
    assert result.answers["2xx"] > 60
    assert result.answers["device"] == 30


@pytest.mark.parametrize("of", [files.photograph, files.table, wires.head, wires.lines])
def test_what_is_sent_is_drawn_anew_and_the_same_again(of: object) -> None:
    assert callable(of)
    one, again = ([of(random.Random(seed)) for seed in range(40)] for _ in range(2))
    assert one == again
    assert len({str(drawn) for drawn in one}) > 30
