"""What is made of an ask for a hobbed wheel."""

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.hobbing.ask import (
    HobAsk,
    complete,
    is_hob_ask,
    read,
    say,
)
from valleywind.core.hobbing.machine import FeedWay
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand

M2 = Pitch(PitchSystem.MODULE, Fraction(2))
DP12 = Pitch(PitchSystem.DIAMETRAL, Fraction(12))
_READ = {
    "hob 37": HobAsk(37),
    "/hob 37 teeth": HobAsk(37),
    "hob 24 m2": HobAsk(24, M2),
    "hob 31 dp12 14.5°": HobAsk(31, DP12, Fraction("14.5")),
    "hob 31 12 dp 14,5 deg": HobAsk(31, DP12, Fraction("14.5")),
    "hob 24 m2 30° left face 20": HobAsk(24, M2, None, Fraction(30), Hand.LEFT, Fraction(20)),
    "hob 24 m2 left 20° face 3/4 in": HobAsk(24, M2, None, Fraction(20), Hand.LEFT, Fraction("19.05")),
    "hob 24 m2 20° face 20 right": HobAsk(24, M2, None, Fraction(20), Hand.RIGHT, Fraction(20)),
    "hob 24 m2 20° pressure 20° LH": HobAsk(24, M2, Fraction(20), Fraction(20), Hand.LEFT),
    "hob 24 m2 14.5° 20° left": HobAsk(24, M2, Fraction("14.5"), Fraction(20), Hand.LEFT),
    "hob 24 m2 22°30' right, face 20 mm": HobAsk(24, M2, None, Fraction(45, 2), Hand.RIGHT, Fraction(20)),
    "hob 24 m2 helix 23°7' left": HobAsk(24, M2, None, 23 + Fraction(7, 60), Hand.LEFT),
    "hob 24 m2 14° 30' pressure": HobAsk(24, M2, Fraction("14.5")),
    "hob 37 two-start": HobAsk(37, starts=2),
    "hob 24 m 2 starts 3": HobAsk(24, M2, starts=3),
    "hob 37 3 starts left-hand hob": HobAsk(37, starts=3, hob_hand=Hand.LEFT),
    "hob 60 with 24": HobAsk(60, mate=24),
    "hob 60 with 24 on Avocet": HobAsk(60, mate=24, machine="Avocet"),
    "hob 60 m2 depth 4.4": HobAsk(60, M2, depth=Fraction("4.4")),
    "hob 60 feed 0.75 feed up 4 blanks hob dia 63 120 rpm": HobAsk(
        60, hob_diameter=Fraction(63), turns=120, feed=Fraction("0.75"), way=FeedWay.UP, blanks=4
    ),
}


@pytest.mark.parametrize(("text", "ask"), _READ.items())
def test_an_ask_is_read(text: str, ask: HobAsk) -> None:
    reading = read(text)
    assert reading.refusal is None
    assert reading.ask == ask
    assert read(say(ask)).ask == ask


@pytest.mark.parametrize(
    ("text", "code"),
    {
        "hob": "not_a_hob_ask",
        "hob m2": "not_a_hob_ask",
        "hob 37 fast": "words_left",
        "hob 37.5": "words_left",
        "hob -37": "not_a_hob_ask",
        "hob 3": "whole_out_of_range",
        "hob 24 m2 30°": "whose_angle",
        "hob 24 m2 0° left": "helix_out_of_range",
        "hob 24 m2 90° left": "helix_out_of_range",
        "hob 24 m2 helix 30°": "needs_hand",
        "hob 24 m2 left": "hand_without_helix",
        "hob 24 m2 dp12": "said_twice",
        "hob 24 m2 m3": "said_twice",
        "hob 24 face 20 face 30": "said_twice",
        "hob 24 feed 0": "not_positive",
        "hob 24 face 0": "not_positive",
        "hob 24 feed 100": "length_out_of_range",
        "hob 24 0-start": "starts_out_of_range",
        "hob 24 m0": "not_positive",
        "hob 24 40° pressure": "angle_out_of_range",
        "hob 24 m2 depth 9": "length_out_of_range",
        "hob 24 0 blanks": "whole_out_of_range",
        "hob " + "2" * 300: "too_long",
    }.items(),
)
def test_what_cannot_be_used_is_said(text: str, code: str) -> None:
    reading = read(text)
    assert reading.ask is None
    assert reading.refusal is not None
    assert (reading.refusal.code, reading.refusal.field) == (code, "ask")
    assert reading.nearest
    assert all(read(near).ask for near in reading.nearest)


@given(
    st.builds(
        HobAsk,
        st.integers(4, 1000),
        st.sampled_from([None, M2, DP12, Pitch(PitchSystem.CIRCULAR, Fraction(3, 16))]),
        st.sampled_from([None, Fraction(20), Fraction("14.5")]),
        face=st.none() | st.fractions(Fraction(1, 2), Fraction(100), max_denominator=100),
        starts=st.integers(1, 12),
        hob_hand=st.sampled_from(Hand),
        hob_diameter=st.none() | st.integers(20, 200).map(Fraction),
        turns=st.none() | st.integers(1, 900),
        mate=st.none() | st.integers(4, 400),
        feed=st.none() | st.fractions(Fraction(1, 10), Fraction(5), max_denominator=40),
        way=st.none() | st.sampled_from(FeedWay),
        blanks=st.integers(1, 40),
        machine=st.sampled_from(["", "Avocet"]),
        depth=st.none() | st.fractions(Fraction(1, 2), Fraction(4), max_denominator=20),
    ),
    st.none() | st.tuples(st.fractions(Fraction(1, 10), Fraction(80), max_denominator=600), st.sampled_from(Hand)),
)
def test_what_is_said_is_read_back(ask: HobAsk, turned: tuple[Fraction, Hand] | None) -> None:
    if turned:
        ask = replace(ask, helix=turned[0], hand=turned[1])
    reading = read(say(ask))
    assert reading.refusal is None, say(ask)
    assert reading.ask == ask


@pytest.mark.parametrize("text", ["hob", "hob 37", "hob 24 m2", "hob 24 m2 30", "hob 24 m2 30° left face 20 two-start"])
def test_completions_would_be_read(text: str) -> None:
    assert is_hob_ask(text)
    result = complete(text)
    assert result
    assert all(read(line).ask for line in result)
