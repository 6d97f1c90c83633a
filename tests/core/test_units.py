from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.refusal import Refusal
from valleywind.core.units import (
    Unit,
    parse_degrees,
    parse_length,
    parse_number,
    parse_ratio,
    spell,
    spell_degrees,
    spell_inch,
)


@pytest.mark.parametrize(
    ("typed", "mm", "unit"),
    [
        ('1 1/2"', Fraction("38.1"), Unit.INCH),
        ("0.75", Fraction(3, 4), Unit.MM),
        ("3/8 in", Fraction("9.525"), Unit.INCH),
        ("1,5", Fraction(3, 2), Unit.MM),
        ("1½ inch", Fraction("38.1"), Unit.INCH),
        ("30 thou", Fraction("0.762"), Unit.THOU),
        ("1-1/2 in.", Fraction("38.1"), Unit.INCH),
        ("⅜″", Fraction("9.525"), Unit.INCH),
        (".5 cm", Fraction(5), Unit.CM),
        ("250 μm", Fraction(1, 4), Unit.MICROMETRE),
    ],
)
def test_lengths_are_read_as_people_write_them(typed: str, mm: Fraction, unit: Unit) -> None:
    assert (parse_length(typed).mm, parse_length(typed).unit) == (mm, unit)


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ("", "empty"),
        ("four", "not_a_number"),
        ("1/0", "divided_by_zero"),
        ("0 mm", "not_positive"),
        ("-2 mm", "not_positive"),
        ("3 furlongs", "unknown_unit"),
        ("1.2.3", "not_a_number"),
        ("9" * 40, "too_long"),
    ],
)
def test_what_cannot_be_read_is_refused_at_its_field(typed: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        parse_length(typed, field="engagement")
    assert (caught.value.code, caught.value.field) == (code, "engagement")


def test_a_bare_number_is_refused_where_the_unit_matters() -> None:
    with pytest.raises(Refusal, match="needs_unit"):
        parse_length("2", bare=None)


@given(st.fractions(min_value=0, max_value=10**6, max_denominator=10**5))
def test_what_is_spelt_is_read_back_exactly(value: Fraction) -> None:
    assert parse_number(spell(value)) == value
    assert parse_number(spell_inch(value)) == value


@pytest.mark.parametrize(
    ("typed", "degrees"),
    [
        ("23.1", Fraction(231, 10)),
        ("23,1°", Fraction(231, 10)),
        ("22 1/2 deg", Fraction(45, 2)),
        ("23° 6'", Fraction(231, 10)),
        ("23°6′", Fraction(231, 10)),
        ("23 deg 6 min", Fraction(231, 10)),
        ("0°0'36\"", Fraction(1, 100)),
        ("23°6’ 18″", Fraction(23105, 1000)),
        ("23°6.5'", 23 + Fraction(13, 120)),
    ],
)
def test_angles_are_read_as_drawings_have_them(typed: str, degrees: Fraction) -> None:
    assert parse_degrees(typed, "helix") == degrees


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ("23°60'", "not_an_angle"),
        ("23°6'60\"", "not_an_angle"),
        ("22.5°30'", "not_an_angle"),
        ("23°6.5'30\"", "not_an_angle"),
        ("236'", "not_a_number"),
        ("23 6'", "not_a_number"),
        ("°", "empty"),
        ("23°left", "not_a_number"),
    ],
)
def test_what_is_no_angle_is_refused(typed: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        parse_degrees(typed, "helix")
    assert (caught.value.code, caught.value.field) == (code, "helix")


@given(
    st.one_of(
        st.fractions(min_value=0, max_value=360, max_denominator=10**4),
        st.integers(0, 360 * 3600).map(lambda seconds: Fraction(seconds, 3600)),
    )
)
def test_an_angle_that_is_spelt_is_read_back_exactly(degrees: Fraction) -> None:
    assert parse_degrees(spell_degrees(degrees), "helix") == degrees


def test_minutes_are_spelt_where_decimals_do_not_end() -> None:
    angles = (Fraction(231, 10), 23 + Fraction(7, 60), 23 + Fraction(1, 3600), Fraction(1, 7))
    assert [spell_degrees(angle) for angle in angles] == ["23.1°", "23°7'", "23°0'1\"", "1/7°"]


@pytest.mark.parametrize(
    ("text", "ratio"),
    [
        ("1:1", 1),
        ("2 : 1", 2),
        ("1/1", 1),
        ("40:60", Fraction(2, 3)),
        ("1/2", Fraction(1, 2)),
        ("1 1/2 : 3", Fraction(1, 2)),
    ],
)
def test_a_ratio_is_read_with_a_colon_or_a_stroke(text: str, ratio: Fraction) -> None:
    assert parse_ratio(text, "first") == ratio


def test_a_ratio_to_nothing_is_refused_at_its_field() -> None:
    with pytest.raises(Refusal) as refused:
        parse_ratio("1:0", "first")
    assert (refused.value.field, refused.value.code) == ("first", "divided_by_zero")
