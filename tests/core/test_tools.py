"""Tools sit where they touch: on the flanks, on the tips, on the pins, and read what the formulas say."""

import math
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.teeth.geometry import half_angle, over_pins, span, tip_radius
from valleywind.core.teeth.identify import TipMethod, tip_reading
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.sizes import sizes
from valleywind.core.teeth.tools import Tool, over_a_chord, over_a_span, over_the_tips, over_two_pins

ZERO = Fraction(0)
FAMILIES = st.builds(
    lambda value, angle: WheelFamily("", Pitch(PitchSystem.MODULE, Fraction(value)), Fraction(angle), ZERO, ZERO, ZERO),
    st.sampled_from(["0.8", "1", "1.25", "2", "3"]),
    st.sampled_from(["14.5", "20"]),
)
TEETH = st.integers(12, 130)


def from_flank(tool: Tool, point: tuple[float, float], teeth: int, family: WheelFamily, shift: float) -> float:
    """How far a point lies from the nearest flank, along its circle."""
    x, y = point
    radius, step = math.hypot(x, y), 2 * math.pi / teeth
    from_tooth = (math.atan2(y, x) - tool.turn + step / 2) % step - step / 2
    half = half_angle(teeth, family, radius, shift)
    return min(abs(from_tooth - half), abs(from_tooth + half)) * radius


@given(TEETH, FAMILIES, st.floats(-0.2, 0.5), st.integers(0, 3))
def test_a_span_touches_flanks_on_either_side(teeth: int, family: WheelFamily, shift: float, more: int) -> None:
    over = sizes(teeth, family, shift).over + more
    tool = over_a_span(teeth, over, family, shift)
    assert tool.opening == pytest.approx(span(teeth, over, family, shift))
    for point in tool.touching:
        assert from_flank(tool, point, teeth, family, shift) < 1e-9 * teeth


@given(TEETH, FAMILIES, st.floats(-0.2, 0.5))
def test_a_chord_touches_one_tooth(teeth: int, family: WheelFamily, shift: float) -> None:
    tool, result = over_a_chord(teeth, family, shift), sizes(teeth, family, shift)
    assert tool.opening == pytest.approx(result.chordal.nominal)
    assert result.tip_diameter / 2 - tool.height == pytest.approx(result.chordal_addendum)
    for point in tool.touching:
        assert from_flank(tool, point, teeth, family, shift) < 1e-9 * teeth


@given(st.integers(20, 130), FAMILIES, st.floats(0, 0.5))
def test_pins_lie_in_gaps_and_touch_both_flanks(teeth: int, family: WheelFamily, shift: float) -> None:
    pin = 1.728 * float(family.module)
    tool = over_two_pins(teeth, pin, family, shift)
    assert tool.opening == pytest.approx(over_pins(teeth, pin, family, shift))
    step = 2 * math.pi / teeth
    for x, y in tool.pins:
        from_gap = (math.atan2(y, x) - tool.turn) % step - step / 2
        assert from_gap == pytest.approx(0, abs=1e-9)
        # The flank comes as near to the pin's centre as half the pin, and no nearer.
        centre, base = math.hypot(x, y), sizes(teeth, family, shift).base_diameter / 2
        near = [
            math.dist((centre, 0), (r * math.cos(off), r * math.sin(off)))
            for r in (base + (tip_radius(teeth, family, shift) - base) * n / 300 for n in range(301))
            for off in [step / 2 - half_angle(teeth, family, r, shift)]
        ]
        assert min(near) == pytest.approx(pin / 2, rel=2e-3)


@given(TEETH, FAMILIES)
def test_jaws_over_the_tips_read_what_flat_jaws_read(teeth: int, family: WheelFamily) -> None:
    tool = over_the_tips(teeth, family)
    assert tool.opening == pytest.approx(tip_reading(teeth, family, TipMethod.CALIPER))
    assert len(tool.touching) == 2 + teeth % 2
    step = 2 * math.pi / teeth
    for x, y in tool.touching:
        assert math.hypot(x, y) == pytest.approx(tip_radius(teeth, family))
        assert (math.atan2(y, x) - tool.turn + 1e-9) % step == pytest.approx(0, abs=1e-8)
        assert x in (pytest.approx(tool.left), pytest.approx(tool.right))
