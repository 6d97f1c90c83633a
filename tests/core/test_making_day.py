"""Several wheels to be made: bar and spare wheels are shared out with least waste, held beside every way of sharing."""

import random
from itertools import product

import pytest

from valleywind.core.making.day import Piece, Setting, choices, share_out
from valleywind.core.trains.days_work import work_through
from valleywind.core.trains.effort import USUAL, What

Held = dict[tuple[str, int], float]


def every_way(wanted: list[list[Piece]], held: Held) -> tuple[int, float]:
    """The most jobs that can be served, and the least waste of this many."""
    best = (0, 0.0)
    for chosen in product(*[[None, *pieces] for pieces in wanted]):
        used: Held = {}
        for piece in chosen:
            if piece is not None:
                used[piece.source] = used.get(piece.source, 0.0) + piece.takes
        if all(taken <= held[source] for source, taken in used.items()):
            served = sum(piece is not None for piece in chosen)
            best = max(best, (served, -sum(piece.waste for piece in chosen if piece is not None)))
    return best[0], -best[1]


@pytest.mark.parametrize("seed", range(40))
def test_no_way_of_sharing_serves_more_or_wastes_less(seed: int) -> None:
    chance = random.Random(seed)
    held: Held = {("bar", n): float(chance.randint(5, 40)) for n in range(3)} | {("wheel", 1): 1.0}
    wanted = [
        [Piece(s, 1.0 if s[0] == "wheel" else float(chance.randint(4, 25)), float(chance.randint(1, 90)))
         for s in chance.sample(sorted(held), chance.randint(0, 4))]
        for _ in range(chance.randint(1, 5))
    ]  # fmt: skip
    shared = share_out(wanted, held)
    assert shared.proven
    served = sum(piece is not None for piece in shared.pieces)
    assert (served, shared.waste) == pytest.approx(every_way(wanted, held))
    used: Held = {}
    for pieces, piece in zip(wanted, shared.pieces, strict=True):
        if piece is not None:
            assert piece in pieces
            used[piece.source] = used.get(piece.source, 0.0) + piece.takes
    assert all(taken <= held[source] for source, taken in used.items()), "no more than there is"


@pytest.mark.long
def test_so_many_that_not_all_is_tried_is_said() -> None:
    held: Held = {("bar", n): 30.0 for n in range(8)}
    wanted = [[Piece(("bar", (n + k) % 8), 16.0, 10.0 + (n * k) % 7) for k in range(8)] for n in range(14)]
    shared = share_out(wanted, held)
    assert sum(piece is not None for piece in shared.pieces) == 8
    assert not shared.proven


def test_wheels_of_one_cutter_stand_together() -> None:
    wanted = [choices(Setting(cutter, "mandrel", plates)) for cutter, plates in (
        ("55–134", ["side 1", "side 2"]), ("135 to a rack", ["side 1"]), ("55–134", ["side 2"]),
        ("135 to a rack", ["side 1", "side 2"]),
    )]  # fmt: skip
    day = work_through(wanted, USUAL)
    put = [place.what for turn in day.turns for place in turn.change.put]
    assert put.count(What.TOOL) == 2
    assert put.count(What.PLATE) == 2
    assert put.count(What.HOLDING) == 1
    assert day.proven
