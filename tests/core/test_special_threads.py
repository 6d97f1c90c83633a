"""Buttress threads, whose flanks differ, and round ones, which have hardly any."""

import math
from fractions import Fraction

import pytest

from valleywind.core.lathe.ask import read, with_diameter, with_flanks
from valleywind.core.lathe.nut_view import nut_view, round_radius
from valleywind.core.lathe.series import Series, sizes
from valleywind.core.lathe.thread import ThreadAsk, say
from valleywind.core.refusal import Refusal


def ask_of(text: str) -> ThreadAsk:
    result = read(text)
    assert isinstance(result.ask, ThreadAsk), (text, result.refusal)
    return result.ask


@pytest.mark.parametrize(
    ("typed", "series", "diameter", "pitch", "words"),
    [
        ("S40x7", "S", "40", "7", "S40x7"),
        ("s 40 x 7 left hand", "S", "40", "7", "S40x7 left hand"),
        ("S40", "S", "40", "7", "S40x7"),
        ("S40x14(P7)", "S", "40", "7", "S40x7 2 starts"),
        ("S23 x 3.5", "S", "23", "3.5", "S23x3.5"),
        ("2-8 Butt", "Butt", "50.8", "3.175", "2-8 Butt"),
        ("1 1/2-10 buttress", "Butt", "38.1", "2.54", "1 1/2-10 Butt"),
        ("Rd40x1/6", "Rd", "40", "127/30", "Rd40x1/6"),
        ("rd 40", "Rd", "40", "127/30", "Rd40x1/6"),
        ('Rd 41 x 1/6"', "Rd", "41", "127/30", "Rd41x1/6"),
        ("Rd40x5", "Rd", "40", "5", "Rd40x5"),
    ],
)
def test_they_are_read_as_they_are_said(typed: str, series: str, diameter: str, pitch: str, words: str) -> None:
    ask = ask_of(typed)
    assert (ask.series, ask.diameter, ask.pitch) == (series, Fraction(diameter), Fraction(pitch))
    assert say(ask) == words
    again = ask_of(words)
    assert (say(again), again.pitch, again.diameter, again.series) == (words, ask.pitch, ask.diameter, ask.series)


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ("2 Butt", "buttress_without_pitch"),
        ("40-7 Butt", "not_in_series"),
        ("S41", "not_in_series"),
        ("S40x7 30°", "flanks_of_its_own"),
        ("S40x50", "pitch_against_diameter"),
    ],
)
def test_what_no_such_thread_has_is_refused(typed: str, code: str) -> None:
    refusal = read(typed).refusal
    assert refusal is not None
    assert refusal.code == code
    assert read(typed).nearest


def test_the_flanks_stay_with_the_series() -> None:
    other = with_diameter(ask_of("2-8 Butt"), Fraction(60))
    assert other.series is Series.BUTTRESS_INCH
    assert other.flank_angles == (Fraction(7), Fraction(45))
    assert with_flanks(ask_of("S40x7"), Fraction(33)) == ask_of("S40x7")
    with pytest.raises(Refusal, match="flanks_of_its_own"):
        with_flanks(ask_of("S40x7"), Fraction(60))
    assert with_flanks(ask_of("Rd40x1/6"), Fraction(29)).flank_angles == (Fraction(29, 2), Fraction(29, 2))


def _play_by_sliding(load: float, other: float, clearance: float) -> float:
    """Axial play of a screw in its nut, by moving one until it touches: the flanks are lines through the pitch points,
    and the screw's, of a diameter less by `clearance`, lie half of it deeper."""
    deep = clearance / 2
    low, high = 0.0, 10 * clearance
    for _ in range(80):
        middle = (low + high) / 2
        # Along each flank, the gap across is what the depth leaves, less what was moved toward it.
        touches = middle > deep * math.tan(math.radians(load))
        low, high = (low, middle) if touches else (middle, high)
    toward_load = low
    low, high = 0.0, 10 * clearance
    for _ in range(80):
        middle = (low + high) / 2
        touches = middle > deep * math.tan(math.radians(other))
        low, high = (low, middle) if touches else (middle, high)
    return toward_load + low


@pytest.mark.parametrize(("typed", "load", "other"), [("S40x7", 3, 30), ("2-8 Butt", 7, 45), ("Rd40x1/6", 15, 15)])
def test_the_error_takes_up_the_play_that_the_two_flanks_leave(typed: str, load: float, other: float) -> None:
    ask = ask_of(typed)
    verdict = ask.judged(Fraction(1, 1000))
    play = _play_by_sliding(load, other, verdict.at_most)
    # It binds where the gathered error is as large as the whole play.
    assert verdict.longest == pytest.approx(play / 1000 / (1 / 1000), rel=1e-9)
    view = nut_view(ask, 0.001, verdict)
    assert view is not None
    assert view.play == pytest.approx(play / 1000, rel=1e-9)


def test_a_buttress_thread_takes_less_error_than_a_trapezoidal_one() -> None:
    allowed = {t: ask_of(t).judged(Fraction(1, 1000)).longest or 0 for t in ("S40x7", "Tr40x7", "Rd40x1/6")}
    assert allowed["S40x7"] / allowed["Tr40x7"] == pytest.approx(
        (math.tan(math.radians(3)) + math.tan(math.radians(30))) / (2 * math.tan(math.radians(15)))
    )


def test_the_drawing_has_a_steep_flank_and_a_flat_one() -> None:
    ask = ask_of("S40x7")
    view = nut_view(ask, 0.0, ask.judged(Fraction(0)))
    assert view is not None
    (x0, y0), (x1, y1), (x2, _), (x3, _) = view.groove
    assert math.degrees(math.atan((x1 - x0) / (y1 - y0))) == pytest.approx(3)
    assert math.degrees(math.atan((x3 - x2) / (y1 - y0))) == pytest.approx(30)
    # DIN 513-1: the crest is 0.26384 P wide, and three quarters of the pitch are in contact.
    assert (x2 - x1) / 7 == pytest.approx(0.26384, abs=1e-5)
    assert (y1 - y0) / 7 == pytest.approx(0.75)


def test_a_round_thread_has_the_radii_of_its_standard() -> None:
    """DIN 405-1: R1 of the screw, R2 of the nut's crest, R3 of its root; in pitches."""
    assert [round_radius(h) for h in (0.25, 0.2, 0.3)] == pytest.approx([0.23851, 0.25597, 0.22105], abs=6e-6)
    ask = ask_of("Rd40x1/6")
    view = nut_view(ask, 0.0, ask.judged(Fraction(0)))
    assert view is not None
    pitch = view.pitch
    for (x0, y0), (x1, y1) in zip(view.groove, view.groove[1:], strict=False):
        assert math.hypot(x1 - x0, y1 - y0) < pitch / 12, "the line has no jump"
    assert view.groove[0] == pytest.approx((-pitch / 2, -0.2 * pitch))
    assert max(y for _, y in view.groove) == pytest.approx(0.3 * pitch)

    # The nut's line lies nowhere inside the screw's, and is nowhere farther than the clearance that both leave.
    def half(line: tuple[tuple[float, float], ...], y: float) -> float:
        side = sorted((b, a) for a, b in line if a >= 0)
        below, above = max(p for p in side if p[0] <= y), min(p for p in side if p[0] >= y)
        share = 0.0 if below == above else (y - below[0]) / (above[0] - below[0])
        return below[1] + share * (above[1] - below[1])

    for tenths in range(-19, 20, 2):
        y = tenths / 100 * pitch
        assert half(view.screw, y) < half(view.groove, y) + 1e-3 * pitch


def test_the_lists_of_both() -> None:
    assert {(s.name, s.pitch) for s in sizes(Series.BUTTRESS)} >= {("40", 7), ("20", 4), ("100", 12)}
    assert min(s.diameter for s in sizes(Series.BUTTRESS)) == 10
    assert {s.per_inch for s in sizes(Series.ROUND)} == {10, 8, 6}
