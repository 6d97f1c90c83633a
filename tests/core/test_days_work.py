"""A day on one machine: what is changed from one to the next is counted as it is, and no order is less work."""

import random
from collections.abc import Hashable
from fractions import Fraction
from itertools import permutations, product

import pytest

from valleywind.core.refusal import Refusal
from valleywind.core.trains.days_work import MOST_ON_A_MACHINE, Change, Choices, WayOfMaking, work_through
from valleywind.core.trains.effort import USUAL, Place, TypedEffort, What, read_effort, stands_of
from valleywind.core.trains.model import parse_train

PLACES = (Place(What.WHEEL, "", 0, 0), Place(What.WHEEL, "", 1, 0), Place(What.WHEEL, "", -1, 0), Place(What.QUADRANT))


def stands(*what: Hashable) -> dict[Place, Hashable]:
    return {place: one for place, one in zip(PLACES, what, strict=True) if one is not None}


def some(chance: random.Random, most: int) -> Choices[int]:
    ways = [
        WayOfMaking(n, stands(*(chance.choice([20, 30, 40]) for _ in range(3)), chance.choice(["a", "b"])))
        for n in range(chance.randint(1, most))
    ]
    return Choices(ways)


def taken(order: list[WayOfMaking[int]], on: dict[Place, Hashable] | None) -> Fraction:
    total, stood = Fraction(0), on
    for made in order:
        total += Change(stood, made.stands).weighs(EFFORT)
        stood = dict(made.stands)
    return total


EFFORT = read_effort(TypedEffort(stud="3", quadrant="0.5", last="1.25"))


@pytest.mark.long
@pytest.mark.parametrize("seed", range(30))
def test_no_order_and_no_other_choice_weighs_less(seed: int) -> None:
    chance = random.Random(seed)
    wanted = [some(chance, 3) for _ in range(chance.randint(2, 5))]
    on = chance.choice([None, stands(20, 30, 40, "a")])
    day = work_through(wanted, EFFORT, on)
    assert day.proven
    least = min(
        taken([choices.ways[n] for choices, n in zip(order, chosen, strict=True)], on)
        for order in permutations(wanted)
        for chosen in product(*[range(len(choices.ways)) for choices in order])
    )
    assert float(day.weighs) == pytest.approx(float(least))
    assert day.weighs == taken([wanted[t.ask].ways[t.candidate] for t in day.turns], on), "as it says turn by turn"
    assert day.typed_weighs >= day.weighs
    assert [t.ask for t in day.typed_turns] == sorted(t.ask for t in day.turns)


def test_a_change_tells_what_is_put_what_stays_and_what_comes_off() -> None:
    before, after = stands_of(parse_train("36/64*32/78")), stands_of(parse_train("36/64"))
    change = Change(before, after)
    assert change.put == (Place(What.QUADRANT), Place(What.WHEEL, "", -1, 0))
    assert change.handling.kept == 1
    assert change.handling.put_on == 1
    assert change.handling.taken_off == 3
    assert Change(before, before).put == ()
    assert Change(None, before).handling.put_on == 4


def test_the_quadrant_moves_where_a_centre_distance_does() -> None:
    exchanged = Change(stands_of(parse_train("36/64*32/78")), stands_of(parse_train("38/62*30/80")))
    assert Place(What.QUADRANT) not in exchanged.put
    moved = Change(stands_of(parse_train("36/64*32/78")), stands_of(parse_train("38/64*32/78")))
    assert Place(What.QUADRANT) in moved.put


def test_a_plate_that_nobody_asks_for_stays_and_nothing_is_claimed_for_that() -> None:
    plate, pin = Place(What.PLATE), Place(What.PIN, name="spindle")
    wanted = [
        Choices([WayOfMaking(0, {plate: 1})]),
        Choices([WayOfMaking(1, {pin: 24})]),
        Choices([WayOfMaking(2, {plate: 1})]),
    ]
    day = work_through(wanted, USUAL, None, before=[(0, 1), (1, 2)])
    assert [turn.change.put for turn in day.turns] == [(plate,), (pin,), ()]
    assert not day.proven
    assert day.at_least is None


def test_what_is_left_out_is_told_and_what_it_comes_before_is_free() -> None:
    wanted = [
        Choices([WayOfMaking(0, stands(20, 30, 40, "a"))]),
        Choices((), best=7),
        Choices([WayOfMaking(1, stands(1, 2, 3, "b"))]),
    ]
    day = work_through(wanted, USUAL, None, before=[(1, 0)])
    assert day.left_out == ((1, 7),)
    assert {turn.ask for turn in day.turns} == {0, 2}
    assert work_through([], USUAL).turns == ()
    with pytest.raises(Refusal, match="too_many_asks"):
        work_through([wanted[0]] * (MOST_ON_A_MACHINE + 1), USUAL)


def test_what_was_not_thought_of_in_full_is_not_proved() -> None:
    day = work_through([Choices([WayOfMaking(0, stands(20, 30, 40, "a"))], every=False)], USUAL)
    assert not day.proven
    assert day.at_least == day.weighs


def test_it_is_put_back() -> None:
    on = stands(20, 30, 40, "a")
    day = work_through([Choices([WayOfMaking(0, stands(20, 31, 40, "a"))])], USUAL, on, put_back=True)
    assert day.back is not None
    assert day.back.put == (PLACES[1],)
    assert day.put_on == 2
    assert day.weighs == 2


@pytest.mark.parametrize("text", ["-1", "101", "x", "1/0"])
def test_a_weight_out_of_range_is_refused_at_its_field(text: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_effort(TypedEffort(stud=text))
    assert refused.value.field == "stud"


def test_a_box_counts_as_often_as_it_is_said() -> None:
    effort = read_effort(TypedEffort(index="2", stud="3"))
    assert effort.of(Place(What.WHEEL, "index", 1, 0)) == 6
    assert effort.of(Place(What.WHEEL, "feed", 0, 0)) == 1
    assert effort.of(Place(What.QUADRANT, "index")) == 1
