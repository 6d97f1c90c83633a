"""What is said of a way is what is meant by it: figures read back out of the sentences."""

import re
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.dividing.ask import is_divide_ask, read_divide
from valleywind.core.dividing.heads import Circle, Head, TypedHead, read_head, read_plates, spell_plates
from valleywind.core.dividing.plan import WayKind, ways
from valleywind.core.dividing.ways import Compound, Differential, Simple
from valleywind.core.refusal import Refusal
from valleywind.wording import dividing as words
from valleywind.wording.numbers import Units

HEAD = read_head(
    TypedHead("40", "15 18 21 29 37 43 / 16 19 23 31 39 47 / 17 20 27 33 41 49", "24 36",
              "24x2 28 32 40 44 48 56 64 72 86 100", geared=True, reads="5'")
)  # fmt: skip
ANY_HEAD = st.builds(
    lambda ratio, sides: Head(Fraction(ratio), tuple(tuple(Circle(c) for c in sorted(side)) for side in sides)),
    st.sampled_from([5, 40, 60, 72, 90]),
    st.lists(st.sets(st.integers(15, 60), min_size=1, max_size=4), min_size=1, max_size=2),
)


def crank_said(text: str, circle: int) -> Fraction:
    turns = re.search(r"(\d+) turns?", text)
    spaces = re.search(r"(\d+) spaces?", text)
    return (int(turns[1]) if turns else 0) + Fraction(int(spaces[1]) if spaces else 0, circle)


@given(st.integers(2, 400))
def test_every_way_says_what_it_does(divisions: int) -> None:
    for way in ways(HEAD, divisions):
        setting = way.settings[0]
        texts = [words.way_text(way), *words.fit(way, setting, HEAD, "spacer", Units.MM)]
        texts += [*words.moves(setting, divisions), *words.against(way, Units.MM)]
        assert all(text and "None" not in text and len(text) < 240 for text in texts)
        move = words.moves(setting, divisions)[0]
        match setting:
            case Simple():
                assert crank_said(move, setting.circle) == setting.crank == Fraction(40, divisions)
            case Differential():
                simple = setting.simple[-1]
                assert crank_said(move, simple.circle) == Fraction(40, setting.indexed_as)
                train = words.train_text(setting.trains[0]).replace(" × ", "*")
                ratio = Fraction(1)
                for stage in train.split("*"):
                    ratio *= Fraction(stage)
                assert ratio == abs(setting.gear_ratio)
            case Compound():
                on, back = move.split("; then")
                total = crank_said(on, setting.circle_1)
                second = crank_said(back, setting.circle_2)
                assert total + (second if back.endswith("on.") else -second) == Fraction(40, divisions)


@given(ANY_HEAD, st.integers(2, 200))
def test_painted_holes_are_the_ones_that_are_used(head: Head, divisions: int) -> None:
    for way in ways(head, divisions):
        if way.kind is not WayKind.SIMPLE:
            continue
        for setting in way.settings:
            assert isinstance(setting, Simple)
            used = {k * (setting.turns * setting.circle + setting.holes) % setting.circle for k in range(divisions)}
            assert used <= set(setting.repeats())


@given(st.lists(st.lists(st.integers(2, 99), min_size=1, max_size=6, unique=True), min_size=1, max_size=4))
def test_plates_are_spelt_as_they_are_read(sides: list[list[int]]) -> None:
    result = read_plates(" / ".join(" ".join(map(str, side)) for side in sides))
    assert read_plates(spell_plates(result)) == result
    assert [[c.holes for c in side] for side in result] == sides


@pytest.mark.parametrize(
    ("degrees", "says"),
    [(0.001, "3.6″"), (1 / 60, "1′"), (0.02, "72″"), (0.05, "3′"), (0.051, "3′ 4″"), (1.5, "1.5°")],
)
def test_angles_are_said_as_people_say_them(degrees: float, says: str) -> None:
    assert words.angle(degrees) == says


def test_an_error_is_told_at_the_pitch_circle() -> None:
    assert words.accuracy(0, 100, Units.MM) == "exact"
    # A degree on 114.6 mm across is a millimetre.
    assert words.accuracy(Fraction(1, 60), 114.59, Units.MM) == "error up to 1′, 17 µm on 114.59 mm across"
    assert words.accuracy(Fraction(1, 60), 114.59, Units.INCH).endswith("0.7 thou on 4.5114 in across")


@pytest.mark.parametrize(
    ("text", "divisions", "machine"),
    [
        ("divide 57", 57, ""),
        ("Divide by 127 on Grebe", 127, "Grebe"),
        ("index 36 holes", 36, ""),
        ("divide 12 parts", 12, ""),
    ],
)
def test_asks_for_divisions(text: str, divisions: int, machine: str) -> None:
    result = read_divide(text)
    assert is_divide_ask(text)
    assert (result.divisions, result.machine) == (divisions, machine)


@pytest.mark.parametrize("text", ["divide", "divide 5 7", "divide 57.5", "divide 1", "divide 99999", "divide fifty"])
def test_asks_that_name_no_count(text: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_divide(text)
    assert refused.value.field == "ask"
