"""What is asked of a mill, read and said back."""

import math
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.mills import ask_of
from valleywind.core.cutting.wheel import cut_wheel
from valleywind.core.helix.ask import HelixAsk, HelixMeaning, complete, is_helix_ask, read, say
from valleywind.core.helix.fields import Fields, ask_from
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand

M2 = Pitch(PitchSystem.MODULE, Fraction(2))
DP12 = Pitch(PitchSystem.DIAMETRAL, Fraction(12))


@pytest.mark.parametrize(
    ("text", "ask"),
    [
        ("helix 24 m2 30° left", HelixAsk(24, M2, helix=Fraction(30), hand=Hand.LEFT)),
        ("helix 24 dp12 45° right face 1 in",
         HelixAsk(24, DP12, helix=Fraction(45), hand=Hand.RIGHT, face=Fraction("25.4"))),
        ("lead 300 mm", HelixAsk(lead=Fraction(300))),
        ("flute 6 lead 12 in", HelixAsk(6, lead=Fraction("304.8"))),
        ("spiral 15° on 20 mm", HelixAsk(helix=Fraction(15), diameter=Fraction(20))),
        # A wheel that is to be made is the same wheel.
        ("make 24 m2 30° left", HelixAsk(24, M2, helix=Fraction(30), hand=Hand.LEFT)),
        ("cut 24 m2 helix 30° LH", HelixAsk(24, M2, helix=Fraction(30), hand=Hand.LEFT)),
        ("helix 24 m2 30 left", HelixAsk(24, M2, helix=Fraction(30), hand=Hand.LEFT)),
        ("helix m2 24 teeth left 30°", HelixAsk(24, M2, helix=Fraction(30), hand=Hand.LEFT)),
        ("/helix lead 300 LH on 40", HelixAsk(lead=Fraction(300), hand=Hand.LEFT, diameter=Fraction(40))),
        ("helix 24 m2 14.5° 30° left on Heron",
         HelixAsk(24, M2, Fraction(29, 2), Fraction(30), hand=Hand.LEFT, machine="Heron")),
        ("flute 4 20° left on 12 mm 60 mm long cutter 50 mm within 0.5 % on Heron",
         HelixAsk(4, helix=Fraction(20), hand=Hand.LEFT, diameter=Fraction(12), face=Fraction(60), cutter=Fraction(50),
                  within=Fraction(1, 200), machine="Heron")),
        ("helix 37 m1.25 22 1/2° RH with 60",
         HelixAsk(37, Pitch(PitchSystem.MODULE, Fraction(5, 4)), helix=Fraction(45, 2), hand=Hand.RIGHT, mate=60)),
        ("helix 24 m2, 23°7' left, pressure angle 14°30'",
         HelixAsk(24, M2, Fraction(29, 2), 23 + Fraction(7, 60), hand=Hand.LEFT)),
        ("helix 24 m2 30° left on Heron, the small one",
         HelixAsk(24, M2, helix=Fraction(30), hand=Hand.LEFT, machine="Heron, the small one")),
    ],
)  # fmt: skip
def test_read_as_people_say_it(text: str, ask: HelixAsk) -> None:
    assert read(text).ask == ask


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("helix 24 m2 30°", "needs_hand"),
        ("helix 24 m2 left", "needs_helix"),
        ("helix m2 30° left", "needs_teeth"),
        ("helix 24", "needs_pitch_or_lead"),
        ("spiral 15°", "needs_diameter"),
        ("helix 0° 24 m2 left", "helix_not_cut"),
        ("helix 24 m2 90° left", "helix_not_cut"),
        ("helix 24 m2 lead 300 left", "lead_or_wheel"),
        ("spiral 15° lead 300 mm on 20", "lead_or_angle"),
        ("lead 300 mm with 24", "only_of_a_wheel"),
        ("lead 0.2 mm", "length_out_of_range"),
        ("flute 900 lead 300", "whole_out_of_range"),
        ("lead 300 mm purple", "words_left"),
        ("lead 300 mm lead 200 mm", "said_twice"),
        ("helix 24 m2 30° left 20° 25°", "said_twice"),
        ("lead", "not_a_helix_ask"),
        ("helix 24 m2 30° left " + "x" * 300, "too_long"),
        ("lead 300 mm within 40 %", "tolerance_out_of_range"),
    ],
)
def test_what_is_no_ask_says_why_and_what_is_near(text: str, code: str) -> None:
    result = read(text)
    assert result.ask is None
    assert result.refusal is not None
    assert (result.refusal.code, result.refusal.field) == (code, "ask")
    assert all(read(near).ask for near in result.nearest)


NUMBERS = st.fractions(Fraction(1), Fraction(80), max_denominator=8)


@pytest.mark.long
@settings(max_examples=150)
@given(
    st.one_of(
        st.builds(
            HelixAsk, st.integers(4, 200), st.sampled_from([M2, DP12]), st.sampled_from([None, Fraction(20)]), NUMBERS,
            hand=st.sampled_from(Hand), face=st.none() | NUMBERS, mate=st.none() | st.integers(4, 200),
            machine=st.sampled_from(["", "Heron"]),
        ),
        st.builds(
            HelixAsk, st.none() | st.integers(1, 40), lead=NUMBERS.map(lambda n: n * 10),
            hand=st.none() | st.sampled_from(Hand), diameter=st.none() | NUMBERS,
            cutter=st.none() | NUMBERS.map(lambda n: n + 5),
        ),
        st.builds(
            HelixAsk, st.none() | st.integers(1, 40), helix=NUMBERS, diameter=NUMBERS,
            hand=st.none() | st.sampled_from(Hand),
        ),
    )
)  # fmt: skip
def test_said_and_read_back(ask: HelixAsk) -> None:
    if 1 <= ask.wanted_lead <= 100_000:
        assert read(say(ask)).ask == ask


def test_what_was_understood_is_told() -> None:
    meanings = {meant: text for text, meant in read("flute 6 lead 12 in left on 20 mm").understood}
    assert meanings == {
        HelixMeaning.FLUTES: "6", HelixMeaning.LEAD: "lead 12 in", HelixMeaning.HAND: "left",
        HelixMeaning.DIAMETER: "on 20 mm",
    }  # fmt: skip


@pytest.mark.parametrize("text", ["helix", "helix 24", "helix 24 m2 30° left", "lead 300 mm", "spiral 15° on 20 mm"])
def test_every_completion_is_an_ask(text: str) -> None:
    result = complete(text)
    assert result
    assert all(read(line).ask for line in result)


def test_a_bare_lead_is_the_lathes_as_well() -> None:
    assert not is_helix_ask("lead 300 mm")
    assert all(map(is_helix_ask, ("helix lead 300 mm", " /flute 6", "spiral 15°", "Helix 24")))


def test_leads_and_angles_agree() -> None:
    wheel = ask_of("helix 24 m2 30° left")
    assert float(wheel.wanted_lead) == pytest.approx(math.pi * wheel.across / math.tan(math.radians(30)))  # type: ignore[operator]
    groove = ask_of("lead 300 mm on 40 mm")
    assert groove.degrees is not None
    back = ask_of("spiral 15° on 40 mm")
    assert replace(back, helix=None, lead=back.wanted_lead).degrees == pytest.approx(15)
    assert ask_of("lead 300 mm").degrees is None


def test_its_sizes_are_those_of_the_wheel_whoever_cuts_it() -> None:
    hobbed = ask_of("helix 24 m2 30° left face 20 with 36").to_cut
    assert hobbed is not None
    sizes = cut_wheel(hobbed)
    assert sizes is not None
    assert sizes.pitch_diameter == pytest.approx(48 / math.cos(math.radians(30)))
    assert ask_of("lead 300 mm").to_cut is None


class TestFields:
    def test_make_the_same_ask_as_the_line(self) -> None:
        typed = Fields("24", "m2", "", "30°", "", "left", "", "20 mm", "36")
        assert ask_from(typed) == ask_of("helix 24 m2 30° left face 20 with 36")
        assert ask_from(Fields("6", lead="12 in", within="0.5 %")) == ask_of("flute 6 lead 12 in within 0.5 %")

    @pytest.mark.parametrize(
        ("fields", "code", "field"),
        [
            (Fields("24.5", "m2", helix="30", hand="left"), "not_a_whole_number", "teeth"),
            (Fields("24", "m2", helix="30"), "needs_hand", "hand"),
            (Fields("24", "m2", hand="left"), "needs_helix", "helix"),
            (Fields("24", "", helix="30", hand="left"), "needs_diameter", "diameter"),
            (Fields("", "m2", helix="30", hand="left"), "needs_teeth", "teeth"),
            (Fields(lead="300", helix="20"), "lead_or_angle", "helix"),
            (Fields(lead="300", cutter="1"), "length_out_of_range", "cutter"),
            (Fields(lead="300", mate="24"), "only_of_a_wheel", "mate"),
            (Fields(), "needs_pitch_or_lead", "pitch"),
        ],
    )
    def test_a_fault_is_told_at_its_field(self, fields: Fields, code: str, field: str) -> None:
        with pytest.raises(Refusal) as refused:
            ask_from(fields)
        assert (refused.value.code, refused.value.field) == (code, field)
