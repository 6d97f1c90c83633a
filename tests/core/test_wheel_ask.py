"""Asks for a wheel; what a set of cutters cuts and lacks; drawings that agree in every format."""

from fractions import Fraction
from io import StringIO
from xml.etree import ElementTree

import pytest
from ezdxf.filemanagement import read
from hypothesis import given, settings
from hypothesis import strategies as st

from valleywind.core.dividing.discs import disc
from valleywind.core.helix.ask import read as read_helix
from valleywind.core.hobbing.ask import read as read_hob
from valleywind.core.lathe.ask import read as read_thread
from valleywind.core.lathe.thread import ThreadAsk
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask import WheelAsk, is_wheel_ask, read_wheel
from valleywind.core.teeth.cutters import FEWEST_CUT, Cutter, range_of_eight, sets
from valleywind.core.teeth.depth import read_depth
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.sizes import sizes
from valleywind.formats.pictures import disc_picture
from valleywind.formats.vector import to_dxf, to_svg
from valleywind.wording import wheels as words
from valleywind.wording.numbers import Units

DP12 = Pitch(PitchSystem.DIAMETRAL, Fraction(12))
DP20, M2 = Pitch(PitchSystem.DIAMETRAL, Fraction(20)), Pitch(PitchSystem.MODULE, Fraction(2))
PLOVER = WheelFamily("", DP12, Fraction("14.5"), Fraction("22.225"), Fraction("4.7625"), Fraction("15.875"))


@pytest.mark.parametrize(
    ("text", "result"),
    [
        ("wheel 57", WheelAsk(57)),
        # Whichever way round pitch and count are said.
        ("wheel 57 dp 20", WheelAsk(57, DP20)),
        ("wheel 57 20 dp", WheelAsk(57, DP20)),
        ("wheel 20 dp 57", WheelAsk(57, DP20)),
        ("wheel dp 20 57", WheelAsk(57, DP20)),
        ("wheel 24 dp 12", WheelAsk(24, DP12)),
        ("wheel 24 m 2", WheelAsk(24, M2)),
        ("wheel 24 module 2", WheelAsk(24, M2)),
        ("wheel 24 2 module", WheelAsk(24, M2)),
        ("wheel M1,25 41", WheelAsk(41, Pitch(PitchSystem.MODULE, Fraction("1.25")))),
        ("wheel 20 dp8/10", WheelAsk(20, Pitch(PitchSystem.DIAMETRAL, Fraction(8)), addendum=Fraction(4, 5))),
        ("wheel 20 7/9 dp", WheelAsk(20, Pitch(PitchSystem.DIAMETRAL, Fraction(7)), addendum=Fraction(7, 9))),
        ("wheel 20 dp12 stub", WheelAsk(20, DP12, addendum=Fraction(4, 5))),
        ("Wheel 57 for Plover", WheelAsk(57, machine="Plover")),
        ("gear 41 teeth m1.25", WheelAsk(41, Pitch(PitchSystem.MODULE, Fraction("1.25")))),
        ("wheel 57 12 DP 14.5°", WheelAsk(57, DP12, Fraction("14.5"))),
        ("wheel dp 12 57t", WheelAsk(57, DP12)),
        ("wheel 30 3/16 cp", WheelAsk(30, Pitch(PitchSystem.CIRCULAR, Fraction(3, 16)))),
        ("wheel z=24, module 2, 20 deg", WheelAsk(24, Pitch(PitchSystem.MODULE, Fraction(2)), Fraction(20))),
    ],
)
def test_asks_for_a_wheel(text: str, result: WheelAsk) -> None:
    assert is_wheel_ask(text)
    assert read_wheel(text) == result


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("wheel", "not_a_wheel_ask"), ("wheel 4O", "not_a_wheel_ask"), ("wheel 12.5", "words_left"),
        ("wheel 57 58", "words_left"), ("wheel 57 blue", "words_left"), ("wheel 57 stub", "stub_without_pitch"),
        ("wheel 20 dp 10/8", "not_a_stub_pair"), ("wheel 0", "teeth_out_of_range"), ("wheel 3", "teeth_out_of_range"),
        ("wheel 401", "teeth_out_of_range"), ("wheel 57 m0", "not_positive"), ("wheel 57 m1 45°", "angle_out_of_range"),
    ],
)  # fmt: skip
def test_asks_that_name_no_wheel(text: str, code: str) -> None:
    with pytest.raises(Refusal, match=code):
        read_wheel(text)


def test_stub_pairs_are_as_deep_as_their_second_pitch() -> None:
    """8/10 DP: 2.25 tenths of an inch deep, on circles of 8 DP."""
    wheel = read_wheel("wheel 20 dp8/10")
    assert wheel.pitch is not None
    family = WheelFamily("", wheel.pitch, Fraction(20), Fraction(0), Fraction(0), Fraction(0), wheel.addendum)
    result = sizes(20, family)
    assert result.pitch_diameter == pytest.approx(20 * 25.4 / 8)
    assert result.tip_diameter == pytest.approx(20 * 25.4 / 8 + 2 * 25.4 / 10)
    assert result.depth == pytest.approx(2.25 * 25.4 / 10)


@pytest.mark.parametrize("words", ["dp 12", "12 dp", "12dp", "d.p. 12", "DP12"])
@pytest.mark.parametrize("ask", ["wheel 24 {}", "hob 24 {}", "helix 24 {} 30° left"])
def test_every_ask_reads_a_pitch_alike(ask: str, words: str) -> None:
    line = ask.format(words)
    if line.startswith("wheel"):
        wheel = read_wheel(line)
        assert (wheel.teeth, wheel.pitch) == (24, DP12)
        return
    result = (read_hob if line.startswith("hob") else read_helix)(line).ask
    assert result is not None, line
    assert (result.teeth, result.pitch) == (24, DP12)


@pytest.mark.parametrize("words", ["two-start", "2 starts", "double start", "2-start", "twin starts"])
def test_every_ask_reads_starts_alike(words: str) -> None:
    hobbed, thread = read_hob(f"hob 24 m2 {words}").ask, read_thread(f"M14x2 {words}").ask
    assert hobbed is not None
    assert isinstance(thread, ThreadAsk)
    assert (hobbed.starts, thread.starts) == (2, 2)


CUTTERS = st.lists(
    st.tuples(st.sampled_from([12, 14, 17, 21, 26, 35, 55, 135]), st.integers(0, 2), st.booleans()), max_size=8
)


@given(CUTTERS)
def test_a_set_cuts_or_lacks_every_count(chosen: list[tuple[int, int, bool]]) -> None:
    cutters = []
    for lowest, count, narrow in chosen:
        low, high = range_of_eight(lowest) or (12, 13)
        cutters.append(Cutter(DP12, Fraction(20), low, low if narrow else high, count=count))
    for result in sets(cutters):
        for teeth in range(FEWEST_CUT, 140):
            within = [low <= teeth and (high is None or teeth <= high) for low, high in result.counts]
            lacking = [low <= teeth and (high is None or teeth <= high) for low, high in result.gaps]
            assert sum(within) + sum(lacking) == 1
            assert any(within) == any(c.cuts(teeth) for c in cutters if c.count)
        for (low, high), held in result.places:
            assert (held == 0) == (
                not any(c.cuts(t) for c in cutters if c.count for t in range(low, (high or low) + 1))
            )


@given(st.integers(12, 300))
def test_the_wording_of_a_span_holds_its_figures(teeth: int) -> None:
    result = sizes(teeth, PLOVER)
    low, high = (float(part) for part in words.target_text(result.span, Units.MM).removesuffix(" mm").split(" to "))
    assert low < high < result.span.nominal
    assert low == pytest.approx(result.span.low, abs=0.0006)
    assert f"{result.over} teeth" in words.measure_lines(result, Units.MM)[0].label


@pytest.mark.parametrize(
    ("text", "mm"), [("2.157/P", 4.56565), ("2.25 m", 4.7625), ("2.25*m", 4.7625), ("4.5", 4.5), ("0.18 in", 4.572)]
)
def test_a_depth_is_read_as_people_write_it(text: str, mm: float) -> None:
    assert read_depth(text, PLOVER) == pytest.approx(mm, abs=1e-5)


@pytest.mark.long
@given(st.integers(4, 120), st.floats(60, 400))
@settings(max_examples=15, deadline=None)
def test_a_disc_is_the_same_in_every_format(divisions: int, diameter: float) -> None:
    picture = disc_picture(disc(divisions, diameter), "disc")
    drawn = ElementTree.fromstring(to_svg(picture))
    lines = [p.attrib["d"] for g in drawn if g.attrib.get("id") == "LINES" for p in g]
    starts = [tuple(map(float, d[1:].split("L")[0].split())) for d in lines]
    document = read(StringIO(to_dxf(picture).decode()))
    polylines = document.modelspace().query('LWPOLYLINE[layer=="LINES"]')
    others = [p.get_points("xy")[0] for p in polylines]  # type: ignore[attr-defined]
    assert len(starts) == divisions
    for (x, y), (other_x, other_y) in zip(starts, others, strict=True):
        assert (x, y) == pytest.approx((other_x, -other_y), abs=1e-3)
