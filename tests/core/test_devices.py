"""Devices: a move that is complete counts once, bounce and drop-outs never; the high point of a blank."""

import math
from collections.abc import Sequence
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.making.devices import Came, Follow, On, Presses, Sort, Watch, once_round, read_hello, read_line
from valleywind.core.refusal import Refusal
from valleywind.wording.making import devices as words

MOVE = 20 / 19
NEAR = 1 / 57


def heard(follow: Follow, readings: Sequence[float | None]) -> tuple[Follow, list[Came]]:
    came = []
    for reading in readings:
        follow, one = follow.heard(reading)
        if one is not None:
            came.append(one)
    return follow, came


def turned(start: float, end: float, rest: int = 8) -> list[float | None]:
    steps = math.ceil(abs(end - start) / 0.1)
    way: list[float | None] = [start + (end - start) * n / steps for n in range(1, steps + 1)]
    return [*way, *[end] * rest]


def test_a_move_that_is_complete_counts_once() -> None:
    follow, came = heard(Follow(MOVE, NEAR, 0.0), [*turned(0, MOVE), *[MOVE + 0.002, MOVE - 0.002] * 20])
    assert came == [Came.ARRIVED]
    # On to the next tooth: only its own arrival counts.
    _, came = heard(follow.onward(MOVE, NEAR, 0.0), [*[MOVE] * 10, *turned(MOVE, 2 * MOVE)])
    assert came == [Came.ARRIVED]


@pytest.mark.parametrize("step", [0.001, 0.003, 0.006, 0.02])
def test_a_crank_turned_slowly_past_its_hole_does_not_arrive(step: float) -> None:
    """It was within reach of the hole for many readings, but it never stood still there."""
    way = [MOVE - 0.06 + n * step for n in range(round((1.10 - MOVE + 0.06) / step))]
    _, came = heard(Follow(MOVE, NEAR, 0.0), [*turned(0, MOVE - 0.06, 0), *way, *[1.10] * 10])
    assert came == [Came.PAST]


def test_an_encoder_starts_from_its_first_reading() -> None:
    follow, came = heard(Follow(MOVE, NEAR), [*[7.5] * 10])
    assert not came
    assert follow.target == pytest.approx(7.5 + MOVE)
    assert heard(follow, turned(7.5, 7.5 + MOVE))[1] == [Came.ARRIVED]


def test_compound_indexing_comes_back_from_beyond() -> None:
    """A turn and a quarter on, then crank and plate a quarter back."""
    follow, came = heard(Follow(1.0, NEAR, 0.0, 0.25), turned(0, 1.25))
    assert came == []
    assert heard(follow, turned(1.25, 1.0))[1] == [Came.ARRIVED]
    assert heard(Follow(1.0, NEAR, 0.0, 0.25), turned(0, 1.4))[1] == [Came.PAST]


def test_a_move_turned_the_wrong_way_is_told() -> None:
    assert heard(Follow(MOVE, NEAR, 0.0), turned(0, -MOVE))[1] == [Came.BACKWARDS]


def test_what_was_refused_is_told_anew_while_it_stands_there() -> None:
    follow, came = heard(Follow(MOVE, NEAR, 0.0), [*turned(0, MOVE), *[MOVE] * 10])
    assert came == [Came.ARRIVED]
    assert heard(follow.again(), [MOVE] * 6)[1] == [Came.ARRIVED]


def test_passing_the_hole_is_no_arrival_and_stopping_past_it_is_told() -> None:
    _, came = heard(Follow(MOVE, NEAR, 0.0), turned(0, MOVE + 0.06))
    assert came == [Came.PAST]
    follow, came = heard(Follow(MOVE, NEAR, 0.0), [*turned(0, MOVE + 0.06), *turned(MOVE + 0.06, MOVE - 1, 0)])
    assert came == [Came.PAST]
    assert heard(follow, turned(MOVE - 1, MOVE))[1] == [Came.ARRIVED]


@pytest.mark.parametrize("gap", [[None], [MOVE]])
def test_a_drop_out_never_advances(gap: list[float | None]) -> None:
    """A reading that is lost, or a leap to the very hole: from then on nothing counts."""
    follow, came = heard(Follow(MOVE, NEAR, 0.0), [0.1, 0.2, *gap, *[MOVE] * 50])
    assert came == [Came.LOST]
    assert heard(follow, [*turned(MOVE, 2 * MOVE)])[1] == []


@given(st.lists(st.floats(-0.2, 1.2), max_size=60))
def test_nothing_that_stays_away_from_the_hole_arrives(readings: list[float]) -> None:
    away = [r * 0.9 for r in readings]
    _, came = heard(Follow(MOVE + 1, NEAR, 0.0), [*away])
    assert Came.ARRIVED not in came


def watched(watch: Watch, marks: Sequence[float | None]) -> tuple[Watch, list[Came]]:
    came = []
    for mark in marks:
        watch, one = watch.heard(mark)
        if one is not None:
            came.append(one)
    return watch, came


def test_a_camera_counts_a_mark_that_stands_under_the_pointer() -> None:
    on_the_way = [5.0, 5.3, 5.6, 5.9]
    assert watched(Watch(57, 6), [*on_the_way, *[6.02, 5.98] * 8])[1] == [Came.ARRIVED]
    # Passed over, or seen too seldom in a row, it does not count.
    assert watched(Watch(57, 6), [*on_the_way, 6.0, 6.0, 6.4, 6.8, 7.3])[1] == []
    assert watched(Watch(57, 6), [6.0, 6.0, 6.0, 6.0, None] * 20)[1] == []
    # Beyond it it warns, and counts when it has come back.
    watch, came = watched(Watch(57, 6), [*on_the_way, *[6.4] * 6])
    assert came == [Came.PAST]
    assert watched(watch, [6.0] * 6)[1] == [Came.ARRIVED]


@pytest.mark.parametrize("hertz", [20, 30, 60, 100])
def test_a_camera_sees_a_mark_go_by(hertz: int) -> None:
    """At 1.2 marks a second, stopping half a mark on."""
    way = [5.0 + 1.2 * n / hertz for n in range(round(1.5 / 1.2 * hertz))]
    assert watched(Watch(57, 6), [*way, *[6.5] * 10])[1] == [Came.PAST]


def test_the_first_mark_comes_after_the_last() -> None:
    assert watched(Watch(57, 1), [56.5, 57.0, 57.4, *[57.99, 1.01] * 4])[1] == [Came.ARRIVED]
    assert watched(Watch(57, 57), [56.0, 56.5, *[1.3] * 8])[1] == [Came.PAST]


@given(st.integers(2, 400), st.data())
def test_no_other_mark_ever_counts(marks: int, data: st.DataObject) -> None:
    target = data.draw(st.integers(1, marks))
    other = data.draw(st.integers(1, marks).filter(lambda n: n != target))
    _, came = watched(Watch(marks, target), [other + 0.1] * 20)
    assert Came.ARRIVED not in came


def test_a_bouncing_pedal_counts_once_a_press() -> None:
    presses, counted = Presses(), 0
    for second in range(10):
        for n, down in enumerate((True, False, True, False, True, True, False)):
            presses, counts = presses.heard(down, second + n * 0.004)
            counted += counts
    assert counted == 10


@given(st.floats(0, 359), st.floats(0.01, 0.2), st.integers(12, 200))
def test_the_high_point_of_a_blank_out_of_centre(high: float, total: float, n: int) -> None:
    readings = [1 + total / 2 * math.cos(2 * math.pi * k / n - math.radians(high)) for k in range(n)]
    result = once_round(readings)
    assert math.cos(math.radians(result.high - high)) == pytest.approx(1, abs=1e-6)
    assert result.offset == pytest.approx(total / 2)
    assert result.rest == pytest.approx(0, abs=1e-9)
    assert result.total <= total + 1e-9


def test_out_of_round_is_told_apart() -> None:
    result = once_round([0.02 * math.cos(2 * 2 * math.pi * k / 72) for k in range(72)])
    assert result.offset == pytest.approx(0, abs=1e-9)
    assert result.rest == pytest.approx(0.04, abs=1e-4)
    with pytest.raises(Refusal):
        once_round([0.0] * 7)


@pytest.mark.parametrize(
    ("sort", "line", "value"),
    [(Sort.ENCODER, {"turned": 1.5}, 1.5), (Sort.PEDAL, {"pressed": True}, True),
     (Sort.ENCODER, {"turned": None}, None), (Sort.CALIPER, {"figure": "29.56mm"}, "29.56mm"),
     (Sort.CAMERA, {"mark": 3}, 3)],
)  # fmt: skip
def test_lines_are_read(sort: Sort, line: Any, value: Any) -> None:
    assert read_line(sort, line) == value


@pytest.mark.parametrize(
    ("sort", "line"),
    [(Sort.ENCODER, {"turned": "1"}), (Sort.ENCODER, {"turned": True}), (Sort.ENCODER, {"turned": math.inf}),
     (Sort.ENCODER, {}), (Sort.ENCODER, []), (Sort.PEDAL, {"pressed": 1}), (Sort.CALIPER, {"figure": 29.56})],
)  # fmt: skip
def test_nonsense_is_refused(sort: Sort, line: Any) -> None:
    with pytest.raises(Refusal) as refused:
        read_line(sort, line)
    there = isinstance(line, dict) and bool(line)
    assert refused.value.code == ("no_device_reading" if there else "no_device_field")


@pytest.mark.parametrize(
    "line",
    [{}, 7, {"hello": "kettle"}, {"hello": "pedal", "name": 5}, {"hello": "pedal", "name": "x" * 41},
     {"hello": "encoder", "on": "lid"}],
)  # fmt: skip
def test_a_device_says_what_it_is(line: Any) -> None:
    with pytest.raises(Refusal):
        read_hello(line)
    assert read_hello({"hello": "pedal"}).name == "pedal"
    assert read_hello({"hello": "encoder"}).on is On.CRANK
    assert read_hello({"hello": "encoder", "on": "work"}).on is On.WORK


def test_going_past_is_told_as_it_is_put_right() -> None:
    """Only a crank goes back a full turn: there is a worm whose slack is taken up."""
    crank, work, camera = (
        read_hello(line) for line in ({"hello": "encoder"}, {"hello": "encoder", "on": "work"}, {"hello": "camera"})
    )
    assert "back a full turn" in words.came(crank, Came.PAST)
    assert "full turn" not in words.came(work, Came.PAST) + words.came(camera, Came.PAST)
    assert words.came(camera, Came.PAST).startswith("Past the mark")
