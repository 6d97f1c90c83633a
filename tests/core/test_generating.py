"""The tooth that a hob's rack leaves, beside the involute and beside the rule for undercut."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from valleywind.core.cutting.wheel import family_of
from valleywind.core.hobbing.ask import HobAsk, read
from valleywind.core.hobbing.generating import generated
from valleywind.core.teeth.geometry import half_angle


def ask(line: str) -> HobAsk:
    result = read(line).ask
    assert result is not None
    return result


@pytest.mark.long
@settings(deadline=None, max_examples=12)
@given(st.integers(20, 150), st.sampled_from(["m2", "m1 20°"]))
def test_the_rack_leaves_an_involute(teeth: int, pitch: str) -> None:
    wanted = ask(f"hob {teeth} {pitch}")
    family = family_of(wanted)
    assert family is not None
    result = generated(wanted)
    base = result.wheel.pitch_diameter / 2 * math.cos(math.radians(20))
    module = float(family.module)
    for radius, half in result.tooth:
        # Above where the rack's tip corner stops cutting: it leaves a fillet at the foot.
        if radius > max(base, result.wheel.root_diameter / 2 + 0.6 * module):
            assert half == pytest.approx(half_angle(teeth, family, radius), abs=0.004 * module / radius)


@pytest.mark.long
@pytest.mark.parametrize(
    ("line", "expected"), [("hob 8 m2", True), ("hob 10 m2", True), ("hob 30 m2", False), ("hob 60 m2", False)]
)
def test_few_teeth_are_undercut_and_many_are_not(line: str, expected: bool) -> None:
    """Undercut: the tooth is thinner at the foot than somewhere higher up."""
    result = generated(ask(line))
    widths = [2 * r * a for r, a in result.tooth]
    assert result.wheel.undercut is expected
    assert any(foot < max(widths[n:]) - 1e-3 for n, foot in enumerate(widths)) is expected


def test_the_rack_fits_between_tip_and_root() -> None:
    result = generated(ask("hob 37 m2"))
    heights = [y for _, y in result.rack]
    assert (min(heights), max(heights)) == pytest.approx((-2.5, 2))
    assert result.step == pytest.approx(2 * math.pi)
    # On the pitch line the rack's tooth is half a pitch wide.
    (left, top), (tip_left, low), *_ = result.rack
    assert left + (tip_left - left) * top / (top - low) == pytest.approx(-math.pi / 2)
    outline = result.outline
    assert outline[0][1] == pytest.approx(-math.pi / 37)
    assert outline[-1][1] == pytest.approx(math.pi / 37)


def test_without_a_pitch_the_form_is_in_proportion() -> None:
    plain, with_pitch = generated(ask("hob 12")), generated(ask("hob 12 m1"))
    assert plain.in_proportion
    assert plain.tooth == with_pitch.tooth


def test_a_helical_tooth_is_that_of_its_transverse_section() -> None:
    """m_t = 2/cos 30°, tan α_t = tan 20°/cos 30°; half the tooth at the pitch circle is a quarter of the pitch."""
    result = generated(ask("hob 24 m2 30° left"))
    radius = result.wheel.pitch_diameter / 2
    near = min(result.tooth, key=lambda p: abs(p[0] - radius))
    base = radius * math.cos(math.atan(math.tan(math.radians(20)) / math.cos(math.radians(30))))
    at, there = math.acos(base / radius), math.acos(base / near[0])
    assert near[1] == pytest.approx(math.pi / 48 + math.tan(at) - at - math.tan(there) + there, abs=2e-4)
