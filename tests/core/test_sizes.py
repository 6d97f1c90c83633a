"""A wheel's figures against independent ones; the form that a cutter leaves; how deep now."""

import math
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given, reject
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.correction import Running, plunge, runout, true_enough
from valleywind.core.teeth.depth import DepthSchool, depths
from valleywind.core.teeth.form import form_error
from valleywind.core.teeth.geometry import involute, thickness, tooth_outline
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.sizes import Sizes, helping_shift, meeting, sizes, weight

MICROMETRE = 0.001
SCHOOLS = {"2.157/P": DepthSchool.OLD_INCH, "2.25": DepthSchool.ISO, "2.167": DepthSchool.OLD_METRIC}


def family(system: PitchSystem, value: str, angle: str, addendum: str = "1") -> WheelFamily:
    pitch = Pitch(system, Fraction(value))
    return WheelFamily("", pitch, Fraction(angle), Fraction(20), Fraction(5), Fraction(16), Fraction(addendum))


def of(case: dict[str, Any]) -> WheelFamily:
    [(system, value)] = case["pitch"].items()
    return family(PitchSystem(system), value, str(case["pressure_angle_deg"]))


PLOVER = family(PitchSystem.DIAMETRAL, "12", "14.5")
METRIC = family(PitchSystem.MODULE, "1", "20")
WHEELS = st.builds(
    lambda teeth, module, angle, shift: (teeth, family(PitchSystem.MODULE, str(module), str(angle)), shift),
    st.integers(10, 200), st.sampled_from([0.5, 1, 1.25, 2.5]), st.sampled_from(["14.5", "20", "25"]),
    st.floats(-0.2, 0.3),
)  # fmt: skip


@pytest.mark.parametrize("case", cases("tooth"), ids=lambda c: f"{c['teeth']}")
def test_reference_teeth(case: dict[str, Any]) -> None:
    known = of(case)
    result = sizes(case["teeth"], known, case["profile_shift"], over=case["span_teeth"], pin=case["pin_diameter"])
    assert result.over == sizes(case["teeth"], known, case["profile_shift"]).over
    for mine, name in (
        (result.tip_diameter, "tip_diameter"), (result.pitch_diameter, "pitch_diameter"), (result.span.nominal, "span"),
        (result.pins.nominal, "over_pins"), (result.pin, "pin_diameter"),
        (result.chordal.nominal, "chordal_thickness"), (result.chordal_addendum, "chordal_addendum"),
    ):  # fmt: skip
        if case[name] is not None:
            assert mine == pytest.approx(case[name], abs=MICROMETRE / 2), name
    by_school = {d.school: d.depth for d in depths(known)}
    for name, school in SCHOOLS.items():
        assert by_school[school] == pytest.approx(case["whole_depth"][name], abs=MICROMETRE / 2)
    middle = [(t.low + t.high) / 2 for t in (result.span, result.pins)]
    assert plunge(result, span=middle[0] + 1).more == pytest.approx(case["plunge_per_mm_of_excess_span"], abs=2e-5)
    assert plunge(result, pins=middle[1] + 1).more == pytest.approx(case["plunge_per_mm_of_excess_over_pins"], abs=2e-5)


@pytest.mark.parametrize("case", cases("cutter_form_error"), ids=lambda c: f"{c['teeth']} by {c['cutter_true_for']}")
def test_reference_form_errors(case: dict[str, Any]) -> None:
    known = family(PitchSystem.MODULE, str(case["module"]), str(case["pressure_angle_deg"]))
    result = form_error(case["teeth"], case["cutter_true_for"], known, 2.25)
    assert result.at_tip * 1000 == pytest.approx(case["half_thickness_error_at_tip_um"], abs=0.5)
    assert result.relieves


def test_a_cutter_for_more_teeth_thickens_the_tip() -> None:
    assert not form_error(30, 35, METRIC, 2.25).relieves
    assert set(form_error(55, 55, METRIC, 2.25).errors) == {0.0}


@given(WHEELS)
def test_the_drawn_flank_is_as_thick_as_it_should_be_everywhere(wheel: tuple[int, WheelFamily, float]) -> None:
    teeth, known, shift = wheel
    result = sizes(teeth, known, shift)
    points = tooth_outline(teeth, known, 12, shift, result.depth)
    assert points[0][0] == pytest.approx(result.root_diameter / 2)
    assert max(r for r, _ in points) == pytest.approx(result.tip_diameter / 2)
    base = result.base_diameter / 2
    for radius, angle in points[1:-1]:
        if radius > base:
            # By the definition of the involute, without the angle functions of the core.
            rolled = math.sqrt((radius / base) ** 2 - 1)
            half = math.pi / (2 * teeth) + 2 * shift * math.tan(math.radians(known.pressure_angle)) / teeth
            half += involute(math.radians(known.pressure_angle)) - (rolled - math.atan(rolled))
            assert abs(angle) == pytest.approx(half, abs=1e-9)
            assert thickness(teeth, known, radius, shift) == pytest.approx(2 * radius * half, abs=1e-9)


def cut_shallow(wheel: tuple[int, WheelFamily, float], shallow: float) -> tuple[Sizes, Sizes]:
    """A wheel as wanted, and as it is when cut too shallow: of the form of one shifted outward by as much."""
    teeth, known, shift = wheel
    wanted = sizes(teeth, known, shift)
    try:
        return wanted, sizes(teeth, known, shift + shallow / float(known.module), over=wanted.over, pin=wanted.pin)
    except Refusal as refused:
        if refused.code not in ("tip_pointed", "shift_too_far"):
            raise
        reject()


@given(WHEELS, st.floats(0.01, 0.2))
def test_going_deeper_by_what_is_told_brings_the_span_to_its_place(
    wheel: tuple[int, WheelFamily, float], shallow: float
) -> None:
    wanted, as_cut = cut_shallow(wheel, shallow)
    still = plunge(wanted, span=as_cut.span.nominal).more
    deeper = plunge(wanted, span=wanted.span.nominal).more
    assert still is not None
    assert deeper is not None
    assert still - deeper == pytest.approx(shallow, abs=1e-9)


def test_the_usual_depth_is_the_familys() -> None:
    fine = family(PitchSystem.DIAMETRAL, "32", "20")
    stub = family(PitchSystem.MODULE, "2", "20", "0.8")
    usual = {f: next(d.school for d in depths(f) if d.usual) for f in (PLOVER, METRIC, fine, stub)}
    assert list(usual.values()) == [DepthSchool.OLD_INCH, DepthSchool.ISO, DepthSchool.FINE_INCH, DepthSchool.STUB]
    engraved = next(d for d in depths(PLOVER, Fraction("4.5")) if d.usual)
    assert (engraved.school, engraved.depth) == (DepthSchool.ENGRAVED, 4.5)
    assert [d.depth for d in depths(fine) if d.usual] == [pytest.approx(2.2 * 25.4 / 32 + 0.0508)]


def test_undercut_begins_where_the_books_have_it() -> None:
    assert [teeth for teeth in range(10, 40) if sizes(teeth, METRIC).undercut][-1] == 16
    assert [teeth for teeth in range(10, 40) if sizes(teeth, PLOVER).undercut][-1] == 31
    helped = sizes(12, METRIC, helping_shift(12, METRIC))
    assert not helped.undercut


def test_a_pair_runs_as_it_should() -> None:
    result = meeting(20, 40, METRIC)
    assert (result.centres, result.digs) == (30, False)
    assert result.contact == pytest.approx(1.635, abs=0.002)
    assert meeting(12, 60, PLOVER).digs
    assert meeting(20, 40, METRIC, 0.3).centres > 30.25


@given(st.integers(14, 90), st.integers(14, 90), st.floats(0, 0.4), st.floats(0, 0.4))
def test_shifted_wheels_mesh_without_play_at_their_centres(one: int, other: int, x: float, y: float) -> None:
    result = meeting(one, other, METRIC, x, y)
    # At the pitch circles they roll on, a tooth of one and one of the other fill a pitch.
    rolling = [result.centres * z / (one + other) for z in (one, other)]
    filled = thickness(one, METRIC, rolling[0], x) + thickness(other, METRIC, rolling[1], y)
    assert filled == pytest.approx(2 * math.pi * rolling[0] / one, abs=1e-6)
    assert result.contact > 1


@given(WHEELS, st.floats(0.002, 0.05))
def test_pins_tell_the_same_plunge_as_a_span(wheel: tuple[int, WheelFamily, float], shallow: float) -> None:
    wanted, as_cut = cut_shallow(wheel, shallow)
    by_span, by_pins = plunge(wanted, span=as_cut.span.nominal).more, plunge(wanted, pins=as_cut.pins.nominal).more
    assert by_span is not None
    assert by_pins is not None
    # The span's rule is straight; that of the pins bends a little on the way.
    assert by_pins == pytest.approx(by_span, abs=0.03 * shallow + 0.004)


def test_a_small_blank_is_plunged_less() -> None:
    result = sizes(57, PLOVER)
    assert plunge(result, blank=result.tip_diameter - 0.2).depth == pytest.approx(result.depth - 0.1)
    assert plunge(result, span=result.span.low - 0.01).too_thin == pytest.approx(0.01)


def test_runout_is_judged_by_the_backlash() -> None:
    judged = [runout(t, 2.1167, 14.5).running for t in (0.05, 0.3, 0.5)]
    assert judged == [Running.GOOD, Running.TIGHT_AND_SLACK, Running.RESEAT]
    # Half of the backlash of 0.05 m may go: 0.025 · 2.1167/tan 14.5° = 0.2046 mm of reading.
    assert [runout(t, 2.1167, 14.5).running for t in (0.2045, 0.2047)] == [Running.GOOD, Running.TIGHT_AND_SLACK]
    assert true_enough(2.1167, 14.5) == pytest.approx(0.2046, abs=1e-4)
    # All of it: 0.4092 mm.
    assert [runout(t, 2.1167, 14.5).running for t in (0.409, 0.41)] == [Running.TIGHT_AND_SLACK, Running.RESEAT]


def test_a_disc_weighs_what_a_disc_weighs() -> None:
    result = sizes(120, METRIC)
    plain = math.pi / 4 * (120**2 - 20**2) * 16 / 1000 * 7.2
    assert weight(result, 7.2) == pytest.approx(plain, rel=0.02)


@pytest.mark.parametrize(
    ("query", "code"),
    [
        ({"teeth": 3}, "teeth_out_of_range"),
        ({"teeth": 8, "shift": 1.1}, "tip_pointed"),
        ({"teeth": 20, "shift": 2}, "shift_too_far"),
        ({"teeth": 20, "depth": 40}, "too_deep"),
        ({"teeth": 20, "over": 20}, "span_of_too_many"),
        ({"teeth": 20, "pin": 0.1}, "pin_does_not_fit"),
    ],
)
def test_what_cannot_be_is_refused(query: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal, match=code):
        sizes(query.pop("teeth"), METRIC, **query)
