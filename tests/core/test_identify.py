"""Spans and pins against independent figures; wheels found out from readings with realistic spread and wear."""

import math
import random
from dataclasses import replace
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.geometry import (
    inverse_involute,
    involute,
    over_pins,
    pitch_radius,
    span,
    span_teeth,
    tip_radius,
)
from valleywind.core.teeth.identify import (
    Next,
    TipMethod,
    WheelMeasures,
    could_be_of,
    identify,
    measure_next,
    tip_reading,
)
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily

UNSHIFTED = [case for case in cases("tooth") if not case["profile_shift"]]


def bare(pitch: Pitch, angle: str | int) -> WheelFamily:
    return WheelFamily("", pitch, Fraction(str(angle)), *map(Fraction, (0, 0, 0)))


def family(system: PitchSystem, value: str, angle: str | int = 20) -> WheelFamily:
    return bare(Pitch(system, Fraction(value)), angle)


def named(text: str) -> WheelFamily:
    """`m1.5/20`, `P12/14.5`."""
    value, angle = text[1:].split("/")
    return family(PitchSystem.MODULE if text[0] == "m" else PitchSystem.DIAMETRAL, value, angle)


@pytest.mark.parametrize("case", UNSHIFTED, ids=lambda c: f"{c['pitch']} {c['teeth']}")
def test_reference_teeth(case: dict[str, Any]) -> None:
    ((system, value),) = case["pitch"].items()
    system = PitchSystem.MODULE if system == "module" else PitchSystem.DIAMETRAL
    result = family(system, value, case["pressure_angle_deg"])
    z = case["teeth"]
    assert 2 * pitch_radius(z, result) == pytest.approx(case["pitch_diameter"], abs=5e-4)
    assert 2 * tip_radius(z, result) == pytest.approx(case["tip_diameter"], abs=5e-4)
    assert span_teeth(z, result) == case["span_teeth"]
    assert span(z, case["span_teeth"], result) == pytest.approx(case["span"], abs=5e-4)
    assert over_pins(z, case["pin_diameter"], result) == pytest.approx(case["over_pins"], abs=5e-4)


@given(st.floats(1e-4, 1.3))
def test_the_involute_is_turned_round(angle: float) -> None:
    assert inverse_involute(involute(angle)) == pytest.approx(angle, rel=1e-9)


@pytest.mark.long
@pytest.mark.parametrize(
    ("true", "trap"),
    [("P20/20", "m1.25"), ("m1.25/20", "P20"), ("P16/14.5", "m1.5"), ("m1.5/20", "P16"), ("P12/14.5", "m2"),
     ("m2/20", "P12")],
)  # fmt: skip
@pytest.mark.parametrize("teeth", [24, 37, 60, 85])
def test_inch_and_metric_are_told_apart_near_the_traps(true: str, trap: str, teeth: int) -> None:
    wheel = named(true)
    read = tip_reading(teeth, wheel, TipMethod.CALIPER) - 0.06
    first, *others = identify([WheelMeasures(teeth, tip_diameter=read)])
    assert first.pitch == wheel.pitch
    assert first.pressure_angle is None
    trapped = [i.probability for i in others if i.pitch == named(f"{trap}/20").pitch]
    assert trapped
    assert max(trapped) < first.probability / 2


def test_an_odd_wheel_across_flat_jaws_is_read_rightly() -> None:
    wheel = named("m1/20")
    assert (
        tip_reading(21, wheel, TipMethod.CALIPER)
        < tip_reading(21, wheel, TipMethod.MICROMETER)
        < tip_reading(21, wheel, TipMethod.TRUE)
    )
    assert tip_reading(21, wheel, TipMethod.CALIPER) == pytest.approx(11.5 * (1 + math.cos(math.pi / 21)))
    for method in TipMethod:
        read = WheelMeasures(21, tip_diameter=tip_reading(21, wheel, method) - 0.02, tip_method=method)
        assert identify([read])[0].pitch == wheel.pitch


def test_two_spans_tell_the_angle_through_wear() -> None:
    for true in ("P20/14.5", "P20/20", "m1.25/20", "m1.25/14.5"):
        wheel, z = named(true), 46
        k = span_teeth(z, wheel)
        thin = 0.2 * math.cos(math.radians(wheel.pressure_angle))
        spans = tuple((n, span(z, n, wheel) - thin) for n in (k, k + 1))
        first = identify([WheelMeasures(z, spans=spans, worn=True)])[0]
        assert (first.pitch, first.pressure_angle) == (wheel.pitch, float(wheel.pressure_angle))


def test_several_wheels_of_a_set_are_one_question() -> None:
    # Each alone leaves doubt between P 16 and module 1.6 with tips this low; together they leave less.
    wheel = named("P16/20")
    small = [
        WheelMeasures(z, tip_diameter=tip_reading(z, wheel, TipMethod.CALIPER) - low)
        for z, low in ((14, 0.12), (17, 0.1), (20, 0.1))
    ]
    alone = [identify([one])[0] for one in small]
    together = identify(small)[0]
    assert together.pitch == wheel.pitch
    assert together.probability > max(one.probability for one in alone)


def test_what_to_measure_next_settles_it() -> None:
    wheel, z = named("P20/14.5"), 46
    k = span_teeth(z, wheel)
    seen = WheelMeasures(z, tip_diameter=tip_reading(z, wheel, TipMethod.CALIPER) - 0.03)
    for _ in range(3):
        result = identify([seen])
        advice = measure_next(seen, result)
        if advice is None or advice.tells < 3:
            break
        assert advice.what in (Next.SPAN, Next.NEXT_SPAN, Next.PINS)
        over = advice.over or k
        seen = WheelMeasures(
            z, tip_diameter=seen.tip_diameter, spans=(*seen.spans, (over, span(z, over, wheel) - 0.05))
        )
    result = identify([seen])
    assert result[0].pitch == wheel.pitch
    assert sum(i.probability for i in identify([seen], most=500)) == pytest.approx(1)


def shifted(case: dict[str, Any]) -> WheelMeasures:
    spans = ((case["k"], round(case["span"], 2)), (case["k"] + 1, round(case["span_next"], 2)))
    return WheelMeasures(case["teeth"], round(case["tip_diameter"], 2), TipMethod.TRUE, spans)


@pytest.mark.long
@pytest.mark.parametrize("case", cases("shifted_wheels"), ids=lambda c: f"{c['system']} {c['value']} x{c['x']}")
def test_shifted_wheels_are_named_with_their_shift(case: dict[str, Any]) -> None:
    first = identify([shifted(case)])[0]
    assert (first.pitch.system, first.pitch.value) == (case["system"], Fraction(str(case["value"])))
    assert first.pressure_angle == case["alpha_deg"]
    assert first.shift == pytest.approx(case["x"], abs=0.04)
    assert first.fits


def test_a_base_pitch_is_the_same_whatever_the_shift() -> None:
    wheel = named("m2/20")
    one, other = (span(20, 4, wheel, x) - span(20, 3, wheel, x) for x in (0.0, 0.5))
    assert one == pytest.approx(other) == pytest.approx(2 * math.pi * math.cos(math.radians(20)))


def test_a_tip_that_no_standard_wheel_has_is_called_so() -> None:
    seen = WheelMeasures(60, tip_diameter=127.0)
    result = identify([seen])
    assert not result[0].fits
    advice = measure_next(seen, result)
    assert advice is not None
    assert advice.what is Next.SPAN
    again = replace(seen, spans=((advice.over, 40.0),))
    further = measure_next(again, identify([again]))
    assert further is not None
    assert further.what is Next.NEXT_SPAN


def test_one_reading_is_never_sure() -> None:
    heron = named("m1.5/20")
    seen = WheelMeasures(45, tip_diameter=tip_reading(45, heron, TipMethod.CALIPER) - 0.03)
    result = identify([seen])
    assert result[0].pitch == heron.pitch
    assert result[0].fits
    assert not result[0].sure
    assert not could_be_of(result[0], seen, heron)
    assert measure_next(seen, result) is not None
    k = span_teeth(45, heron)
    more = replace(seen, spans=tuple((n, span(45, n, heron) - 0.05) for n in (k, k + 1)))
    assert could_be_of(identify([more])[0], more, heron)


@pytest.mark.long
def test_wheels_without_shift_stay_first_with_all_readings() -> None:
    draw = random.Random(7)
    population = ["m1/20", "m1.25/20", "m1.5/20", "m2/20", "P12/14.5", "P12/20", "P16/14.5", "P20/20", "P20/14.5"]
    right = shifts = wrong = 0
    for _ in range(150):
        wheel, z = named(draw.choice(population)), draw.randint(16, 90)
        module, k = wheel.module_mm, span_teeth(z, wheel)
        thin = draw.gauss(0.04, 0.015) * module * math.cos(math.radians(wheel.pressure_angle))
        spans = tuple((n, span(z, n, wheel) - thin + draw.gauss(0, 0.015)) for n in (k, k + 1))
        tip = tip_reading(z, wheel, TipMethod.CALIPER) - draw.expovariate(1 / 0.04) + draw.gauss(0, 0.02)
        first = identify([WheelMeasures(z, tip_diameter=tip, spans=spans)])[0]
        named_right = (first.pitch, first.pressure_angle) == (wheel.pitch, float(wheel.pressure_angle))
        right += named_right
        wrong += first.sure and not named_right
        shifts += named_right and first.shift != 0
    assert right >= 0.97 * 150
    assert shifts <= 3
    assert wrong == 0


@pytest.mark.long
def test_wheels_drawn_with_realistic_spread_and_wear_are_found_out() -> None:
    draw = random.Random(20)
    population = [
        named(t)
        for t in ("m0.8/20", "m1/20", "m1.25/20", "m1.5/20", "m2/20", "P12/14.5", "P16/14.5", "P20/20", "P24/20")
    ]
    first = second = 0
    for _ in range(60):
        wheel, z, worn = draw.choice(population), draw.randint(20, 90), draw.random() < 0.15
        low = draw.expovariate(1 / (0.2 if worn else 0.04)) - draw.gauss(0, 0.03)
        result = identify([WheelMeasures(z, tip_diameter=tip_reading(z, wheel, TipMethod.CALIPER) - low, worn=worn)])
        first += result[0].pitch == wheel.pitch
        second += wheel.pitch in [i.pitch for i in result[:2]]
    assert first >= 57
    assert second >= 59


def test_bore_and_face_tell_families_of_one_pitch_apart() -> None:
    pitch = Pitch(PitchSystem.DIAMETRAL, Fraction(20))
    narrow = WheelFamily("narrow", pitch, Fraction("14.5"), Fraction(14), Fraction(3), Fraction(8))
    wide = WheelFamily("wide", pitch, Fraction("14.5"), Fraction(16), Fraction(4), Fraction(12))
    for bore, face, could in ((14.05, 8.0, "narrow"), (15.9, 11.8, "wide"), (None, 11.8, "wide")):
        seen = WheelMeasures(46, tip_diameter=60.9, centres=(30, 48.3), bore=bore, face=face)
        result = identify([seen])[0]
        assert [f.name for f in (narrow, wide) if could_be_of(replace(result, pressure_angle=14.5), seen, f)] == [could]


def test_centres_with_a_mate_tell_the_pitch() -> None:
    seen = WheelMeasures(46, tip_diameter=60.9, centres=(30, 48.3))
    assert identify([seen])[0].pitch == Pitch(PitchSystem.DIAMETRAL, Fraction(20))


@pytest.mark.parametrize(
    ("wheel", "code"),
    [({"teeth": 0}, "teeth_out_of_range"), ({"teeth": 401}, "teeth_out_of_range"),
     ({"teeth": 40, "tip_diameter": -1.0}, "not_positive"), ({"teeth": 40, "spans": ((40, 9.0),)}, "span_of_too_many"),
     ({"teeth": 40}, "nothing_measured")],
)  # fmt: skip
def test_what_cannot_be_is_refused(wheel: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal, match=code):
        identify([WheelMeasures(**wheel)])
