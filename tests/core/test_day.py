"""The order of a day's set-ups: least is changed, held beside every order that there is."""

import random
from fractions import Fraction
from itertools import permutations, product

import pytest

from valleywind.core.lathe.day import DayAsk, plan_day, way_of
from valleywind.core.refusal import Refusal
from valleywind.core.trains import day
from valleywind.core.trains.day import Way, as_typed, order_of, total
from valleywind.core.trains.model import parse_train


def least(asks: list[list[Way]], weights: list[float], on: Way | None, end: Way | None) -> float:
    """By every order and every choice."""
    return min(
        total(weights, [ways[n] for ways, n in zip(order, chosen, strict=True)], on, end)
        for order in permutations(asks)
        for chosen in product(*[range(len(ways)) for ways in order])
    )


def random_ways(chance: random.Random, places: int, most: int) -> list[Way]:
    return [tuple(chance.choice([None, 20, 30, 40, 50]) for _ in range(places)) for _ in range(chance.randint(1, most))]


@pytest.mark.long
@pytest.mark.parametrize("seed", range(60))
def test_no_order_changes_less(seed: int) -> None:
    chance = random.Random(seed)
    places = chance.randint(1, 4)
    asks = [random_ways(chance, places, 3) for _ in range(chance.randint(1, 5))]
    weights = [float(chance.randint(1, 5)) for _ in range(places)]
    on, end = (chance.choice([None, random_ways(chance, places, 1)[0]]) for _ in range(2))
    result = order_of(asks, weights, on, end)
    assert result.proven
    assert result.cost == pytest.approx(least(asks, weights, on, end))
    chosen = [asks[step.ask][step.way] for step in result.steps]
    assert sorted(step.ask for step in result.steps) == list(range(len(asks)))
    assert total(weights, chosen, on, end) == pytest.approx(result.cost), "it costs what it says"
    without_end = total(weights, chosen, on, None)
    assert sum(step.cost for step in result.steps) == pytest.approx(without_end), "step by step as well"
    typed = as_typed(asks, weights, on, end)
    assert [step.ask for step in typed.steps] == list(range(len(asks)))
    assert typed.cost >= result.cost


@pytest.mark.parametrize("seed", range(20))
def test_with_more_than_can_all_be_looked_at_the_bound_holds(seed: int, monkeypatch: pytest.MonkeyPatch) -> None:
    chance = random.Random(seed)
    asks = [random_ways(chance, 4, 4) for _ in range(7)]
    weights = [1.0, 2.0, 1.0, 3.0]
    best = order_of(asks, weights).cost
    monkeypatch.setattr(day, "_MOST_COSTS", 0)
    monkeypatch.setattr(day, "_BEGINNINGS", 3)
    result = order_of(asks, weights)
    assert result.at_least <= best <= result.cost
    assert total(weights, [asks[s.ask][s.way] for s in result.steps], None, None) == pytest.approx(result.cost)


def test_what_comes_before_what_is_kept() -> None:
    chance = random.Random(3)
    asks = [random_ways(chance, 3, 3) for _ in range(6)]
    result = order_of(asks, [1.0] * 3, before=[(5, 0), (4, 5), (0, 2)])
    order = [step.ask for step in result.steps]
    assert order.index(4) < order.index(5) < order.index(0) < order.index(2)
    with pytest.raises(Refusal, match="order_impossible"):
        order_of(asks, [1.0] * 3, before=[(0, 1), (1, 0)])


def test_no_more_than_can_be_told() -> None:
    assert order_of([], [1.0]).cost == 0
    for asks, code in (([[(1,)]] * 41, "too_many_asks"), ([[(1,)] * 20_001], "too_many_ways"), ([[]], "no_way")):
        with pytest.raises(Refusal, match=code):
            order_of(asks, [1.0])


STOCK = dict.fromkeys((24, 28, 32, 36, 38, 40, 44, 46, 48, 52, 56, 60, 64, 66, 72, 76, 78, 80), 1) | {32: 2}
ON = parse_train("36/64*32/78")
TPI = Fraction(254, 60)


def wanted(*leads_mm: str, within: Fraction = Fraction(2, 10_000)) -> list[DayAsk]:
    return [DayAsk(Fraction(lead) / TPI, within) for lead in leads_mm]


def test_every_train_is_near_enough_and_held_and_counted() -> None:
    asks = wanted("2", "1.25", "1.5", "0.75", "1", "1.75")
    planned = plan_day(asks, STOCK, ON)
    assert planned.proven
    stands = way_of(ON)
    put_on = 0
    for done in planned.order:
        assert abs(done.train.ratio / asks[done.ask].ratio - 1) <= asks[done.ask].within
        assert done.error == done.train.ratio / asks[done.ask].ratio - 1
        wheels = [t for stage in done.train.stages for t in (stage.driver, stage.driven)]
        assert all(wheels.count(t) <= STOCK.get(t, 0) for t in wheels)
        now = way_of(done.train)
        assert done.put_on == sum(a != b for a, b in zip(stands, now, strict=True) if b is not None)
        stands, put_on = now, put_on + done.put_on
    assert planned.put_on == put_on < planned.as_typed


def test_exact_whatever_it_costs() -> None:
    ratio = Fraction(40 * 32, 60 * 64)
    planned = plan_day([DayAsk(ratio, Fraction(0)), *wanted("2")], STOCK)
    assert next(done for done in planned.order if done.ask == 0).train.ratio == ratio
    with pytest.raises(Refusal, match="no_way") as refused:
        plan_day([*wanted("2"), DayAsk(Fraction(2) / TPI, Fraction(0))], STOCK)
    assert refused.value.value == 2


def test_it_ends_as_wished() -> None:
    asks = wanted("1.5", "2", "1.25")
    planned = plan_day(asks, STOCK, ON, ON)
    last = way_of(planned.order[-1].train)
    back = sum(a != b for a, b in zip(last, way_of(ON), strict=True))
    assert planned.put_on == sum(done.put_on for done in planned.order) + back
    with pytest.raises(Refusal, match="not_two_stages"):
        plan_day(asks, STOCK, parse_train("40/50/80"))
