"""Trains laid out together as arrays are the trains that are laid out one by one."""

from fractions import Fraction
from itertools import permutations, product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.lathes import arrangements, curlew, dunlin, plover
from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.arrange import FixedWheels, Pair, arrange, with_idlers
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.merit import handling
from valleywind.core.trains.model import Combination, Stage, Train, parse_train
from valleywind.core.trains.quadrant import UnmeasuredQuadrant
from valleywind.core.trains.shape import shape_of

LATHES = [plover()[0], curlew()[0], dunlin()[0]]
teeth = st.integers(18, 100)
shapes = st.lists(st.integers(0, 2), min_size=1, max_size=3).map(tuple)


@st.composite
def combinations(draw: st.DrawFn, most: int = 3) -> Combination:
    stages = draw(st.integers(1, most))
    drivers, driven = (sorted(draw(st.lists(teeth, min_size=stages, max_size=stages))) for _ in range(2))
    return Combination(tuple(drivers), tuple(driven))


@given(shapes, st.data())
def test_a_shape_says_of_a_train_what_the_train_says(shape: tuple[int, ...], data: st.DataObject) -> None:
    every = data.draw(st.lists(teeth, min_size=sum(shape) + 2 * len(shape), max_size=sum(shape) + 2 * len(shape)))
    known = shape_of(shape)
    train = known.train(every)
    assert train.shape == shape
    assert list(train.teeth) == every
    assert known.shafts == train.shafts
    assert [w.shaft for w in train.wheels] == known.shaft_of.tolist()
    assert list(zip(*(p.tolist() for p in known.meshing), strict=True)) == list(train.meshing)
    assert dict(zip(known.places, every, strict=True)) == train.places
    pairs = list(zip(*(p.tolist() for p in known.pairs), strict=True))
    for wheel, shaft, pair in zip(*(p.tolist() for p in known.on_shaft), strict=True):
        assert set(pairs[pair]) == {train.wheels[wheel].shaft, shaft}
    for one, other, pair in zip(*(p.tolist() for p in known.beside), strict=True):
        a, b = train.wheels[one], train.wheels[other]
        assert a.plane == b.plane
        assert set(pairs[pair]) == {a.shaft, b.shaft}
        assert (one, other) not in train.meshing


@pytest.mark.long
@settings(max_examples=40, deadline=None)
@given(st.lists(combinations(), min_size=1, max_size=4), st.integers(0, 2), st.sampled_from(LATHES))
def test_arrangements_stand_as_they_do_alone_in_the_order_of_their_room(
    some: list[Combination], idlers: int, lathe: Lathe
) -> None:
    """Those that go on; where none does, all of them."""
    stock = {24: 1, 40: 2, 55: 1, 90: 1}
    for combination, ways in zip(some, arrange(some, idlers, stock, lathe.family, lathe.quadrant), strict=True):
        alone = [t for plain in arrangements(combination) for t in with_idlers(plain, idlers, stock)]
        by_name = {laid.train: laid for laid in lay_out(alone, lathe.family, lathe.quadrant)}
        going = [t for t in alone if by_name[t].fits]
        assert ways.goes_on == bool(going)
        assert len(ways) == len(list(ways))
        assert sorted(w.train.notation for w in ways) == sorted(t.notation for t in going or alone)
        for way in ways:
            assert way.fits == by_name[way.train].fits
            assert way.room == pytest.approx(by_name[way.train].room, abs=1e-8)
            assert way.placement == by_name[way.train].placement
        assert [-way.room for way in ways] == sorted(-way.room for way in ways)
        # Of equal ones those that are made first stand first.
        made = {t: n for n, t in enumerate(alone)}
        for before, after in zip(ways, list(ways)[1:], strict=False):
            if before.room == after.room:
                assert made[before.train] < made[after.train]


@pytest.mark.parametrize("quadrant", [plover()[0].quadrant, UnmeasuredQuadrant(studs=2)], ids=["measured", "not known"])
@pytest.mark.parametrize("idlers", [0, 1])
def test_what_keeps_most_is_found_among_what_goes_on(quadrant: object, idlers: int) -> None:
    lathe, stock = plover()
    mounted = parse_train("36/64*32/78")
    some = [Combination((32, 72), (64, 78)), Combination((36, 40), (64, 66)), Combination((24,), (64,))]
    kept = []
    for ways in arrange(some, idlers, stock, lathe.family, quadrant):  # type: ignore[arg-type]
        going = [way for way in ways if way.fits]
        if going:
            best = max(going, key=lambda way: (handling(way.train, mounted).kept, way.room))
            chosen = ways.keeping_most(mounted)
            assert handling(chosen.train, mounted).kept == handling(best.train, mounted).kept
            assert chosen.room == best.room
            kept.append(handling(chosen.train, mounted).kept)
    assert max(kept) >= 2


def test_fixed_wheels_and_pairs_are_kept_to() -> None:
    lathe = dunlin()[0]
    fixed = FixedWheels((32,), (64,), (Pair(127, 120),))
    (ways,) = arrange([Combination((32, 120), (64, 127))], 0, {}, lathe.family, lathe.quadrant, fixed)
    assert [way.train.notation for way in ways] == ["32/127*120/64"]
    (none,) = arrange([Combination((40, 120), (64, 127))], 0, {}, lathe.family, lathe.quadrant, fixed)
    assert len(none) == 0


@given(combinations())
def test_each_order_comes_once(combination: Combination) -> None:
    every = {
        Train(tuple(map(Stage, over, under)))
        for over, under in product(permutations(combination.drivers), permutations(combination.driven))
    }
    some = arrangements(combination)
    assert len(some) == len(every)
    assert set(some) == every
    assert all(t.ratio == Fraction(combination.ratio) for t in some)
