"""A lathe with a wheel of every count: the closest thousand trains may be too large to go on; all the same it finds."""

from collections.abc import Callable
from fractions import Fraction
from itertools import combinations, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.lathes import curlew, dunlin, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.chart import List, chart, pitches
from valleywind.core.lathe.machine import Lathe, read_set_up
from valleywind.core.lathe.plan import plan, requirement
from valleywind.core.lathe.slower import slower
from valleywind.core.lathe.thread import Ask
from valleywind.core.teeth.geometry import tip_radius
from valleywind.core.trains.arrange import arrange
from valleywind.core.trains.closest import least
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.layout import largest, lay_out
from valleywind.core.trains.model import Combination, Stage, Stock, Train
from valleywind.core.trains.places import may_take
from valleywind.core.trains.search import keeping
from valleywind.core.trains.standing import Standing

Machine = Callable[[], tuple[Lathe, Stock]]
EVERY = dict.fromkeys(range(20, 128), 1)


def ask_of(text: str) -> Ask:
    ask = read(text).ask
    assert ask is not None
    return ask


def full(machine: Machine) -> tuple[Lathe, Stock]:
    lathe, own = machine()
    return lathe, {**EVERY, **own}


@pytest.mark.long
@pytest.mark.parametrize("machine", [plover, curlew, dunlin])
@pytest.mark.parametrize("text", ["M14x2", "26 tpi", "0.5 mm", "M6", "19 tpi", "4 mm", "11.5 tpi"])
def test_more_wheels_never_leave_less(machine: Machine, text: str) -> None:
    lathe, stock = full(machine)
    outcome = plan(ask_of(text), lathe, stock)
    assert outcome.shortfall is None
    assert len(outcome.candidates) >= 8
    assert all(c.good for c in outcome.candidates)
    few = plan(ask_of(text), *machine())
    assert sum(c.good for c in few.candidates) <= len(outcome.candidates)


def test_a_hopeless_ask_still_shows_the_nearest_that_goes_on() -> None:
    for text in ("0.04 mm", "feed 0.01"):
        outcome = plan(ask_of(text), *full(plover))
        assert outcome.shortfall is not None
        assert outcome.candidates
        assert all(c.fits for c in outcome.candidates)


@pytest.mark.long
@pytest.mark.parametrize("machine", [plover, curlew, dunlin])
def test_a_chart_of_a_full_set_lacks_nothing(machine: Machine) -> None:
    rows = chart(pitches(List.METRIC) + pitches(List.PER_INCH)[::3], *full(machine))
    assert {r.standing for r in rows} <= {Standing.EXACT, Standing.GOOD}
    assert all(r.candidate and r.candidate.fits for r in rows)


def kept_at_most(ask: Ask, lathe: Lathe, stock: Stock, mounted: Train) -> int:
    """By trying every exchange of one or two wheels of a compound train in their places, one after the other."""
    present = [wheel.teeth for wheel in mounted.wheels]
    sizes = sorted(stock)
    for changed in range(3):
        trains = []
        for places in combinations(range(4), changed):
            for new in product(sizes, repeat=changed):
                four = list(present)
                for place, teeth in zip(places, new, strict=True):
                    four[place] = teeth
                a, b, c, d = four
                error = lathe.lead_of(Fraction(a * c, b * d), lathe.usual) / ask.lead - 1
                uses = {t: four.count(t) for t in four}
                held = all(n <= stock.get(t, 0) for t, n in uses.items())
                if held and not {a, c} & {b, d} and abs(error) < Fraction(1, 400) and ask.judged(error).goes.rank == 0:
                    trains.append(Train((Stage(a, b), Stage(c, d))))
        if trains and any(laid.fits for laid in lay_out(trains, lathe.family, lathe.quadrant)):
            return 4 - changed
    return 0


@pytest.mark.long
@pytest.mark.parametrize("text", ["M14x2", "M6", "19 tpi", "24 tpi", "1.75 mm"])
@pytest.mark.parametrize("most", [80, 100])
def test_what_can_stay_on_stays_on(text: str, most: int) -> None:
    lathe, own = plover()
    stock = {**dict.fromkeys(range(20, most + 1), 1), **own}
    mounted = read_set_up("36/64*32/78", lathe)
    best = plan(ask_of(text), lathe, stock, mounted).candidates[0]
    assert best.verdict.goes.rank == 0
    assert best.handling.kept >= kept_at_most(ask_of(text), lathe, stock, mounted.train)


@pytest.mark.long
@settings(max_examples=60)
@given(
    st.lists(st.integers(20, 40), min_size=6, max_size=9, unique=True), st.integers(50, 200), st.integers(0, 2),
)  # fmt: skip
def test_keeping_is_the_best_of_those_that_keep(sizes: list[int], percent: int, kept: int) -> None:
    stock = dict.fromkeys(sizes, 1)
    present = Combination(tuple(sorted(sizes[:2])), tuple(sorted(sizes[2:4])))
    target = Fraction(percent, 100)
    result = keeping([target], stock, present, 2, kept, best=2000)
    every = set()
    for four in combinations(sizes, 4):
        for drivers in combinations(four, 2):
            made = Combination(tuple(sorted(drivers)), tuple(sorted(set(four) - set(drivers))))
            common = len({*made.drivers} & {*present.drivers}) + len({*made.driven} & {*present.driven})
            if common >= kept:
                every.add(made)
    assert {f.combination for _, f in result} == every
    assert [abs(f.error) for _, f in result] == sorted(abs(c.ratio / target - 1) for c in every)


@pytest.mark.long
@settings(max_examples=40)
@given(st.sampled_from([plover, curlew, dunlin]), st.integers(0, 2**31))
def test_whatever_goes_on_is_no_larger_than_allowed(machine: Machine, seed: int) -> None:
    lathe, _ = machine()
    draw = np.random.default_rng(seed)
    room = largest(lathe.quadrant)
    fours = draw.integers(18, 128, (300, 4)).tolist()
    trains = [Train((Stage(a, b), Stage(c, d))) for a, b, c, d in fours]
    for laid in lay_out(trains, lathe.family, lathe.quadrant):
        if laid.fits:
            (a, b), (c, d) = ((s.driver, s.driven) for s in laid.train.stages)
            assert tip_radius(a, lathe.family) <= room.first + 1e-6
            assert tip_radius(max(b, c), lathe.family) <= room.stud
            assert tip_radius(d, lathe.family) <= room.last + 1e-6


@pytest.mark.long
@pytest.mark.parametrize("machine", [plover, curlew, dunlin])
@pytest.mark.parametrize("every", [False, True])
def test_nothing_slower_goes_on_without_idlers(machine: Machine, every: bool) -> None:
    lathe, own = machine()
    stock = {**dict.fromkeys(range(20, 91), 1), **own} if every else own
    result = slower(ask_of("feed 0.01"), lathe, stock)
    assert result.now is not None
    assert result.now.fits
    assert all(w.candidate.value < result.now.value and w.candidate.goes_on for w in (*result.smaller, *result.bigger))
    assert all(w.new in w.candidate.train.combination.wheels for w in (*result.smaller, *result.bigger))
    slow = min(s.ratio for s in lathe.settings) * lathe.screw_lead
    beyond = [
        h.approximation.combination for h in least(requirement(ask_of("feed 0.01"), lathe), lathe.gearbox, stock, 3000)
    ]
    quicker = [c for c in beyond if c.ratio * slow < result.now.value and may_take(c, 0, Hand.RIGHT, lathe.gearbox)]
    places = arrange(quicker, 0, lathe.gearbox.free(stock), lathe.family, lathe.quadrant, lathe.gearbox.fixed)
    assert not any(laid and laid[0].fits for laid in places)
