"""Charts, slower feeds and unknown constants."""

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from itertools import combinations
from math import prod

import pytest

from tests.lathes import curlew, dunlin, measured, plover
from valleywind.core.interrupt import can_stop
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.chart import ChartAsk, List, chart, pitches
from valleywind.core.lathe.constants import constants
from valleywind.core.lathe.length_reading import LengthReading
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import plan
from valleywind.core.lathe.plan import requirement as need
from valleywind.core.lathe.slower import slower
from valleywind.core.lathe.thread import PitchUnit, ThreadAsk, say
from valleywind.core.lathe.worth_making import Advice, Limits, in_two_stages, worth_making
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import range_of_eight
from valleywind.core.teeth.geometry import root_radius, tip_radius
from valleywind.core.trains.closest import Hit
from valleywind.core.trains.gearbox import Target
from valleywind.core.trains.layout import largest
from valleywind.core.trains.model import Combination, Stock, lacking, parse_train
from valleywind.core.trains.new_wheels import SMALLEST_CUT, new_wheels, smallest_on_shaft
from valleywind.core.trains.places import place_all
from valleywind.core.trains.quadrant import Slot
from valleywind.core.trains.search import Approximation
from valleywind.core.trains.standing import Standing, bringing_wheels, good_ones, good_with_each
from valleywind.core.units import MM_PER_INCH


def standings(of: List, machine: tuple[Lathe, Stock]) -> dict[str, Standing]:
    return {say(row.pitched.ask): row.standing for row in chart(pitches(of), *machine)}


def lines(*asks: str) -> list[ChartAsk]:
    result = [read(text).ask for text in asks]
    return [ChartAsk(ask) for ask in result if ask is not None]


def test_plovers_threads_per_inch() -> None:
    stands = standings(List.PER_INCH, plover())
    # 6 TPI screw: these have exact trains from wheels by fours that go on.
    assert {stands[f"{n} tpi"] for n in (6, 8, 9, 10, 11, 12, 13, 14, 16, 18, 20, 24, 28, 32, 36, 40)} == {
        Standing.EXACT
    }
    assert stands["80 tpi"] is Standing.GOOD  # through three stages


@pytest.mark.long
def test_the_chart_agrees_with_the_plan() -> None:
    lathe, stock = plover()
    for row in chart(pitches(List.METRIC), lathe, stock):
        outcome = plan(row.pitched.ask, lathe, stock, best=200)
        good = [c for c in outcome.candidates if c.good]
        assert bool(good) == (row.standing in (Standing.EXACT, Standing.GOOD)), say(row.pitched.ask)
        if good and row.candidate:
            assert abs(row.candidate.error) == min(abs(c.error) for c in good)
        if row.standing is Standing.NEEDS_WHEEL:
            assert row.candidate is not None
            assert row.candidate.lacking == {row.new: 1}
            assert row.candidate.goes_on


def test_each_standing_has_its_case() -> None:
    lathe, stock = curlew()
    exact, far = chart(lines("1 mm", "0.01 mm"), lathe, stock)
    assert (exact.standing, far.standing) == (Standing.EXACT, Standing.OUT_OF_REACH)
    (needs,) = chart(lines("26 tpi over 200 mm"), lathe, stock)
    assert (needs.standing, needs.new) == (Standing.NEEDS_WHEEL, 57)
    cramped = replace(lathe, quadrant=replace(measured(lathe), first_shaft=(90.0, 160.0)))
    (no_room,) = chart(lines("1 mm"), cramped, stock)
    assert no_room.standing is Standing.NO_ROOM
    (good,) = chart(lines("M14x2"), *plover())
    assert good.standing is Standing.GOOD
    # Nothing larger or smaller has room: what is held is all there is, and it gives 0.7 mm only nearly.
    held = dict.fromkeys((32, 36, 41, 44, 55, 64), 1)
    full = {teeth: held.get(teeth, 0) or 1 for teeth in new_wheels(lathe.gearbox, held)} | held
    few = replace(lathe, first_drivers=(41,), last_driven=(64,))
    (poor,) = chart(lines("0.7 mm over 900 mm"), few, full)
    assert (poor.standing, poor.new) == (Standing.POOR, None)


def test_lists_hold_every_pitch_once_with_its_sizes() -> None:
    for of in List:
        asks = [p.ask for p in pitches(of)]
        assert len({a.lead for a in asks}) == len(asks)
        assert [a.lead for a in asks] == sorted((a.lead for a in asks), reverse=True)
    coarse = {say(p.ask): p.sizes for p in pitches(List.METRIC)}
    assert coarse["M16"] == ("14", "16")
    assert sum(len(p) for p in map(pitches, List)) > 200


def test_a_chart_without_wheels_is_refused() -> None:
    with pytest.raises(Refusal, match="no_wheels"):
        list(chart(lines("M14x2"), plover()[0], {}))


def test_curlews_tiny_boring_tool() -> None:
    ask = read("feed 0.04").ask
    assert ask is not None
    lathe, stock = curlew()
    result = slower(ask, lathe, stock)
    assert result.now is not None
    assert (result.now.train.notation, result.now.value) == ("20/80*20/80", Fraction(3, 64))
    best = result.smaller[0]
    assert best.new >= max(SMALLEST_CUT, smallest_on_shaft(lathe.family))
    assert best.candidate.goes_on
    assert best.candidate.value < result.now.value
    assert best.instead == 20
    # A 17 does not go on between two 80s: 0.8 (17 + 80)/2 = 38.8 < 32.8 tip + 6 boss + 0.2 gap.
    assert {w.new for w in result.smaller} == {18, 19}
    assert all(w.candidate.value < result.now.value for w in result.bigger)


def test_the_slowest_is_really_the_slowest_that_goes_on() -> None:
    lathe, _ = curlew()
    ask = read("feed 0.04").ask
    assert ask is not None
    few = {20: 2, 25: 1, 50: 1, 75: 1, 80: 2}
    result = slower(ask, lathe, few).now
    assert result is not None
    slower_still = [c for c in plan(ask, lathe, few, best=200).candidates if c.fits and c.value < result.value]
    assert slower_still == []


def test_the_smallest_wheel_leaves_metal_over_its_keyway() -> None:
    family = curlew()[0].family
    least = smallest_on_shaft(family)
    wall = [root_radius(z, family) - float(family.bore + family.key) / 2 for z in (least, least - 1)]
    assert wall[0] >= 0.4 > wall[1]


@pytest.mark.parametrize(
    ("travel", "turns", "train", "off", "first", "lead", "stated"),
    [
        ("42.3", 10, "1/1", "0.25", Fraction(1), MM_PER_INCH / 6, PitchUnit.TPI),
        ("15", 20, "40/40", "0.1", Fraction(1, 2), Fraction(3, 2), PitchUnit.MM),
        ("63.5", 10, "1/1", "0.2", Fraction(1), MM_PER_INCH / 4, PitchUnit.TPI),
        ("39.998", 40, "20/40", "0.05", Fraction(1), Fraction(2), PitchUnit.MM),
    ],
)
def test_an_unknown_lathe_is_recognised(
    travel: str, turns: int, train: str, off: str, first: Fraction, lead: Fraction, stated: PitchUnit
) -> None:
    driver, driven = map(int, train.split("/"))
    result = constants(LengthReading(Fraction(travel), turns, Fraction(off)), Fraction(driver, driven))
    best = result.lathes[0]
    assert (best.first_ratio, best.screw_lead, best.stated) == (first, lead, stated)
    assert all(c.off <= 1 for c in result.lathes)


def test_a_rough_measurement_leaves_more_lathes_than_a_careful_one() -> None:
    rough, careful = (constants(LengthReading(Fraction(423, 10), 10, Fraction(off))) for off in ("6", "0.05"))
    assert len(rough.lathes) > len(careful.lathes) >= 1
    assert {c.constant for c in careful.lathes} <= {c.constant for c in rough.lathes}
    assert constants(LengthReading(Fraction(1234567, 10**5), 1, Fraction(1, 1000))).lathes == ()


def test_dunlins_chart_uses_its_levers() -> None:
    rows = list(chart(pitches(List.PER_INCH), *dunlin()))
    exact = [r for r in rows if r.standing is Standing.EXACT]
    assert len({r.candidate.setting for r in exact if r.candidate}) > 8
    assert parse_train("32/80/64").ratio == Fraction(1, 2)


def advised(asks: list[ChartAsk], machine: tuple[Lathe, Stock], together: int = 1) -> tuple[list[float], Advice]:
    *shares, advice = worth_making(asks, *machine, together)
    assert isinstance(advice, Advice)
    return [s for s in shares if isinstance(s, float)], advice


@pytest.mark.long
def test_the_wheel_worth_making_brings_what_is_said() -> None:
    lathe, stock = plover()
    asks = [*pitches(List.METRIC), *pitches(List.BA)]
    shares, advice = advised(asks, (lathe, stock), 2)
    assert shares == sorted(shares)
    assert shares[-1] == 1
    assert [b.merit for b in advice.single] == sorted(b.merit for b in advice.single)
    best = advice.single[0]
    assert best.teeth not in stock
    assert best.teeth >= max(SMALLEST_CUT, smallest_on_shaft(lathe.family))
    # Made, it really brings them: the chart with the wheel held says so.
    before = {say(r.pitched.ask): r.standing for r in chart(asks, lathe, stock)}
    after = {say(r.pitched.ask): r.standing for r in chart(asks, lathe, {**stock, best.teeth: 1})}
    good = {text for text, standing in after.items() if standing in (Standing.EXACT, Standing.GOOD)}
    good -= {text for text, standing in before.items() if standing in (Standing.EXACT, Standing.GOOD)}
    assert {say(p.ask) for p in (*best.exact, *best.good)} == good
    assert advice.together[0] == best
    brought = [p for b in advice.together for p in (*b.exact, *b.good)]
    assert len(brought) == len(set(brought)) <= len(advice.lacking)


@pytest.mark.long
@pytest.mark.parametrize(
    ("machine", "every", "counts"),
    [(plover, 3, (12, 21, 46, 102)), (curlew, 3, (13, 49, 86, 94)), (dunlin, 1, (12, 28, 84, 127))],
    ids=["plover", "curlew", "dunlin"],
)
def test_with_each_wheel_stands_what_would_stand_if_it_were_held(
    machine: Callable[[], tuple[Lathe, Stock]], every: int, counts: tuple[int, ...]
) -> None:
    """Wheels too large to go first or last, small ones; and with Dunlin, where only some wheels may go first and last,
    the half of the locked pair that is not held. every: one in how many of the wheels is held."""
    lathe, stock = machine()
    held = {teeth: n for teeth, n in list(stock.items())[::every] if teeth != 127}
    needs = [need(p.ask, lathe) for p in pitches(List.METRIC)]
    each = dict(good_with_each(needs, lathe.gearbox, held, counts))
    assert each == {t: good_ones(needs, lathe.gearbox, {**held, t: 1}) for t in counts}
    assert len({tuple(stands) for stands in each.values()}) > 1


@pytest.mark.long
def test_what_is_good_is_what_the_chart_says_is_good() -> None:
    for lathe, stock in (plover(), curlew(), dunlin()):
        asks = [*pitches(List.METRIC), *pitches(List.PER_INCH)[::2]]
        stands = good_ones([need(p.ask, lathe) for p in asks], lathe.gearbox, stock)
        stand = [row.standing for row in chart(asks, lathe, stock)]
        assert stands == [one if one in (Standing.EXACT, Standing.GOOD) else None for one in stand]


def test_what_many_lines_are_brought_by_together_is_what_each_is_brought_by() -> None:
    exact = set()
    for lathe, stock in (curlew(), dunlin()):
        needs = [need(p.ask, lathe) for p in lines("M5", "19 tpi", "M14x2 left", "3.5 mm", "feed 0.07 mm/rev")]
        counts = range(20, 130)
        together = list(bringing_wheels(needs, lathe.gearbox, stock, counts))
        assert together == [one for each in needs for one in bringing_wheels([each], lathe.gearbox, stock, counts)]
        exact |= {is_exact for one in together for is_exact in one.values()}
    assert exact == {True, False}


@pytest.mark.long
def test_a_wheel_held_with_another_machine_comes_before_one_that_has_to_be_cut() -> None:
    (lathe, stock), asks = plover(), [*pitches(List.METRIC), *pitches(List.BA)]
    _, plain = advised(asks, (lathe, stock))
    last = plain.single[-1]
    assert last.merit > plain.single[0].merit
    # Nothing is made of it, so no limit on what can be cut keeps it away.
    *_, advice = worth_making(asks, lathe, stock, 1, Limits(12, 130, (lambda _: False,), frozenset({last.teeth})))
    assert isinstance(advice, Advice)
    assert advice.single == (replace(last, held=True),)
    *_, advice = worth_making(asks, lathe, stock, 1, Limits(elsewhere=frozenset({last.teeth})))
    assert isinstance(advice, Advice)
    assert [b.teeth for b in advice.single[:2]] == [last.teeth, plain.single[0].teeth]


def test_a_held_wheel_that_brings_less_is_no_part_of_the_set_where_one_wheel_brings_all() -> None:
    (lathe, stock), asks = dunlin(), [*pitches(List.METRIC), *pitches(List.BA)]
    limits = Limits(can=({84}.__contains__,), elsewhere=frozenset({106}))
    *_, advice = worth_making(asks, lathe, stock, 2, limits)
    assert isinstance(advice, Advice)
    assert [b.teeth for b in advice.single] == [106, 84]
    assert [b.teeth for b in advice.together] == [84]


def test_two_wheels_that_bring_something_only_together_are_found() -> None:
    """31 and 37 make this pitch by each other alone, so no wheel is worth making first."""
    lathe, stock = by_fives()
    asks = [ChartAsk(ThreadAsk(lathe.screw_lead * Fraction(31, 37), within=Fraction(1, 10**7)))]
    *_, advice = worth_making(asks, lathe, stock, 2, Limits(can=({31, 37, 46, 52}.__contains__,)))
    assert isinstance(advice, Advice)
    assert advice.single == ()
    assert [(b.teeth, len(b.exact)) for b in advice.together] == [(31, 0), (37, 1)]


def test_nothing_is_advised_where_nothing_is_lacking() -> None:
    _, advice = advised(lines("26 tpi", "13 tpi"), plover())
    assert (advice.lacking, advice.single, advice.together) == ((), (), ())


@pytest.mark.parametrize(
    ("teeth", "expected"), [(12, (12, 13)), (13, (12, 13)), (34, (26, 34)), (57, (55, 134)), (200, (135, None))]
)
def test_the_cutter_of_a_wheel(teeth: int, expected: tuple[int, int | None]) -> None:
    assert range_of_eight(teeth) == expected


@pytest.mark.long
def test_limits_leave_only_what_can_be_made() -> None:
    lathe, stock = plover()
    asks = [*pitches(List.METRIC), *pitches(List.BA)]
    even = Limits(20, 60, (lambda teeth: teeth % 2 == 0,))
    steps = list(worth_making(asks, lathe, stock, 1, even))
    advice = steps[-1]
    assert isinstance(advice, Advice)
    assert advice.single
    assert all(20 <= b.teeth <= 60 and b.teeth % 2 == 0 for b in advice.single)
    with pytest.raises(Refusal, match="no_wheel_allowed"):
        list(worth_making(asks, lathe, stock, 1, Limits(61, 60)))


def brought_by(teeth: int, pitched: ChartAsk, lathe: Lathe, stock: Stock) -> bool | None:
    """Whether a wheel makes this pitch exact (True) or good (False), or neither, by trying every train with it."""
    first = (*lathe.first_drivers, teeth) if lathe.first_drivers else ()
    lathe, ask = replace(lathe, first_drivers=first), pitched.ask
    sizes = [t for t, n in lathe.gearbox.free(stock).items() for _ in range(min(n, 2))]
    pairs = list(combinations(sizes, 2))
    trains: list[tuple[tuple[int, ...], tuple[int, ...]]] = [((teeth,), (t,)) for t in sizes]
    trains += [((t,), (teeth,)) for t in sizes]
    trains += [way for x in sizes for pair in pairs for way in (((teeth, x), pair), (pair, (teeth, x)))]
    every = {Combination(tuple(sorted(d)), tuple(sorted(n))) for d, n in trains if not set(d) & set(n)}
    every = {c for c in every if not lacking((*c.drivers, *c.driven), {**stock, teeth: 1})}
    for driven, driver in (way for pair in lathe.pairs for way in pair.ways):
        every |= {Combination(tuple(sorted((*c.drivers, driver))), tuple(sorted((*c.driven, driven))))
                  for c in list(every) if c.stages == 1}  # fmt: skip
    near = [
        Hit(Approximation.of(c, error), Target(s, lathe.lead_of(Fraction(1), s, ask.way)))
        for s in lathe.settings
        for wanted in [float(lathe.ratio_for(ask.lead, s, ask.way))]
        for c in every
        if abs(prod(c.drivers) / prod(c.driven) / wanted - 1) < 0.05
        for error in [lathe.lead_of(c.ratio, s, ask.way) / ask.lead - 1]
        if ask.judged(error).good
    ]
    places = place_all([near], ask.hand, lathe.gearbox, {**stock, teeth: 1}, compound_with_idler=0)
    return any(h.error == 0 for h in near if h.combination in places) if places else None


@pytest.mark.long
@pytest.mark.parametrize(
    ("machine", "counts"), [(plover, [17, 46, 57, 92]), (curlew, [18, 42, 82]), (dunlin, [51, 85, 102])]
)
def test_no_wheel_worth_making_is_overlooked(machine: Callable[[], tuple[Lathe, Stock]], counts: list[int]) -> None:
    lathe, stock = machine()
    asks = [*pitches(List.METRIC)[::2], *pitches(List.BA), *pitches(List.PER_INCH)[::3]]
    wanting = [r.pitched for r in chart(asks, lathe, stock) if r.standing not in (Standing.EXACT, Standing.GOOD)]
    *_, result = in_two_stages(wanting, lathe, stock, range(12, 131))
    assert isinstance(result, list)
    by_teeth = {b.teeth: b for b in result}
    for teeth in counts:
        for pitched in wanting:
            brings = teeth in by_teeth and pitched in (*by_teeth[teeth].exact, *by_teeth[teeth].good)
            exact = brings and pitched in by_teeth[teeth].exact
            assert (exact if brings else None) == brought_by(teeth, pitched, lathe, stock)


@pytest.mark.long
@pytest.mark.parametrize(("machine", "lists"), [
    (plover, (List.METRIC, List.BA, List.BSF)), (curlew, (List.PER_INCH, List.BA)), (dunlin, (List.METRIC, List.BA)),
])  # fmt: skip
def test_a_wheel_brings_what_the_chart_says_with_it_in_hand(
    machine: Callable[[], tuple[Lathe, Stock]], lists: tuple[List, ...]
) -> None:
    """Room and three stages included, for every wheel that is told; a 17 brings Plover all eight by itself."""
    lathe, stock = machine()
    _, advice = advised([p for of in lists for p in pitches(of)], (lathe, stock))
    assert advice.single
    for wheel in advice.single:
        rows = chart(list(advice.lacking), lathe, {**stock, wheel.teeth: 1})
        assert [r.pitched for r in rows if r.standing is Standing.EXACT] == list(wheel.exact)
        assert [r.pitched for r in rows if r.standing is Standing.GOOD] == list(wheel.good)


@pytest.mark.long
@pytest.mark.parametrize("machine", [plover, curlew, dunlin])
@pytest.mark.parametrize("wheels", [{40: 1}, {40: 2}, {64: 1, 32: 1}, {300: 2, 320: 2}])
def test_wheels_that_make_no_train_are_no_error(
    machine: Callable[[], tuple[Lathe, Stock]], wheels: dict[int, int]
) -> None:
    lathe, _ = machine()
    rows = chart(lines("M14x2", "26 tpi", "0.05 mm", "90 mm"), lathe, wheels)
    for row in rows:
        outcome = plan(row.pitched.ask, lathe, wheels)
        assert all(c.fits for c in outcome.candidates)
        if row.standing not in (Standing.EXACT, Standing.GOOD):
            assert outcome.shortfall is not None
    slow = slower(rows[2].pitched.ask, lathe, wheels)
    assert slow.now is None or (slow.now.fits and not slow.now.lacking)
    assert all(w.new not in wheels for w in (*slow.smaller, *slow.bigger))
    list(worth_making(lines("M14x2", "26 tpi"), lathe, wheels))


def by_fives(*more: int) -> tuple[Lathe, Stock]:
    """Plover with a screw of 8 to the inch and a wheel of every fifth count, where there is much room."""
    lathe, _ = plover()
    wide = replace(measured(lathe), cover=None, first_shaft=(300.0, 0.0), slots=(Slot(0.0, 60.0, 500.0),) * 2)
    return replace(lathe, screw_lead=Fraction(127, 40), quadrant=wide), dict.fromkeys([*range(20, 81, 5), *more], 1)


def test_plan_chart_and_advice_think_of_the_same_wheels() -> None:
    lathe, stock = by_fives()
    pitch = ChartAsk(ThreadAsk(Fraction(1), within=Fraction(1, 10**6)))
    planned = plan(pitch.ask, lathe, stock).one_more_teeth
    (row,) = chart([pitch], lathe, stock)
    *_, advice = worth_making([pitch], lathe, stock)
    assert isinstance(advice, Advice)
    assert {127, 86} <= set(new_wheels(lathe.gearbox, stock))
    assert (planned, row.standing, row.new) == (127, Standing.NEEDS_WHEEL, 127)
    assert 127 in [b.teeth for b in advice.single if b.exact]
    lathe, stock = by_fives(127)
    assert plan(pitch.ask, lathe, stock).candidates[0].error == 0
    assert chart([pitch], lathe, stock)[0].standing is Standing.EXACT


def test_the_smallest_new_wheel_is_the_smallest_that_the_usual_cutters_cut() -> None:
    lathe, _ = plover()
    thin = replace(lathe, family=replace(lathe.family, bore=Fraction(4), key=Fraction(0)))
    assert new_wheels(thin.gearbox, {})[0] == 12


def test_a_plan_that_was_cut_short_says_so() -> None:
    lathe, stock = plover()
    need = lines("0.3 mm")[0].ask
    assert not plan(need, lathe, stock).cut_short
    with can_stop(400):
        assert plan(need, lathe, stock).cut_short


@pytest.mark.parametrize("machine", [plover, curlew, dunlin])
def test_only_room_limits_how_large_a_new_wheel_may_be(machine: Callable[[], tuple[Lathe, Stock]]) -> None:
    lathe, stock = machine()
    room, new = largest(lathe.quadrant).anywhere, new_wheels(lathe.gearbox, stock)
    assert tip_radius(max(new), lathe.family) <= room < tip_radius(max(new) + max(stock), lathe.family)
    assert all((t in new) is not bool(stock.get(t)) for t in range(min(new), max(new) + 1))
    least = max(SMALLEST_CUT, smallest_on_shaft(lathe.family))
    assert min(new) == next(t for t in range(least, 400) if not stock.get(t))


def test_a_loose_double_of_a_locked_wheel_counts() -> None:
    lathe, stock = dunlin()
    assert lathe.pairs[0].ways
    assert 127 not in lathe.gearbox.free(stock)
    assert lathe.gearbox.free({**stock, 127: 2})[127] == 1
    assert lathe.gearbox.free({127: 1, 40: 1}) == {127: 1, 40: 1}
