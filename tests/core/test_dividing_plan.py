"""Ways in order, charts, new plates, discs."""

import math
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.dividing.ask import read_divide
from valleywind.core.dividing.discs import READING_MAGNIFIED, disc
from valleywind.core.dividing.heads import Head, TypedHead, read_head
from valleywind.core.dividing.plan import WayKind, best, merit, pin_places, ways
from valleywind.core.dividing.plates import generations, new_circle, would_serve
from valleywind.core.dividing.ways import Compound, Differential, Simple, simple
from valleywind.core.refusal import Refusal

PLATES = "15 18 21 29 37 43 / 16 19 23 31 39 47 / 17 20 27 33 41 49"
GEARS = "24x2 28 32 40 44 48 56 64 72 86 100"


def head(**typed: object) -> Head:
    return read_head(TypedHead(**{"ratio": "40", "plates": PLATES, **typed}))  # type: ignore[arg-type]


FULL = head(direct="24 36", gears=GEARS, geared=True, reads="1°")


@pytest.mark.parametrize(
    ("divisions", "kinds"),
    [
        (12, [WayKind.DIRECT, WayKind.SIMPLE, WayKind.DEGREES]),
        (40, [WayKind.SIMPLE, WayKind.DEGREES]),
        (360, [WayKind.SIMPLE, WayKind.DEGREES]),
        (57, [WayKind.DIFFERENTIAL, WayKind.COMPOUND, WayKind.NEAREST, WayKind.DEGREES]),
        (127, [WayKind.DIFFERENTIAL, WayKind.NEAREST, WayKind.DEGREES]),
    ],
)
def test_ways_stand_in_the_order_of_their_trouble(divisions: int, kinds: list[WayKind]) -> None:
    result = [w.kind for w in ways(FULL, divisions)]
    assert [k for k in result if k in kinds] == kinds
    merits = [merit(w.kind, w.error) for w in ways(FULL, divisions)]
    assert merits == sorted(merits)


@pytest.mark.long
@given(st.integers(2, 400))
def test_pins_counted_division_by_division_stand_where_the_work_does(divisions: int) -> None:
    for way in ways(FULL, divisions):
        for setting in way.settings:
            places = pin_places(setting, Fraction(40), divisions, divisions)
            if places is None:
                assert way.kind in (WayKind.DIRECT, WayKind.DEGREES)
                continue
            assert (places.lock is not None) == isinstance(setting, Compound)
            worm = [places.turned(n) for n in range(divisions + 1)]
            if isinstance(setting, Differential):  # the rest comes from the gears: so much for a turn of the work
                worm = [turned + setting.gear_ratio * n / divisions for n, turned in enumerate(worm)]
            off = max(abs(turned - Fraction(40) * n / divisions) for n, turned in enumerate(worm))
            assert worm[-1] == 40
            assert off * 360 / 40 == way.error


def test_without_gears_there_is_no_differential() -> None:
    assert WayKind.DIFFERENTIAL not in [w.kind for w in ways(head(geared=True), 57)]
    assert WayKind.DIFFERENTIAL not in [w.kind for w in ways(head(gears=GEARS), 57)]
    assert WayKind.DIFFERENTIAL in [
        w.kind for w in ways(head(geared=True), 57, gears={24: 2, 40: 1, 56: 1, 72: 1, 48: 1})
    ]


def test_the_mounted_circle_comes_before_the_largest() -> None:
    def circles(mounted: int | None) -> list[int]:
        [way] = [w for w in ways(FULL, 24, mounted=mounted) if w.kind is WayKind.SIMPLE]
        return [s.circle for s in way.settings if isinstance(s, Simple)]

    assert circles(None)[0] == 39
    assert circles(21)[:2] == [21, 39]


def test_the_differential_with_the_fewest_wheels_comes_first() -> None:
    [way] = [w for w in ways(FULL, 127) if w.kind is WayKind.DIFFERENTIAL]
    counts = [s.trains[0].stages * 2 + s.idlers(s.trains[0]) for s in way.settings if isinstance(s, Differential)]
    assert counts == sorted(counts)


def test_a_chart_is_the_best_way_of_every_count() -> None:
    best_ways = [(n, best(FULL, n)) for n in range(2, 161)]
    assert [n for n, _ in best_ways] == list(range(2, 161))
    assert all(way == ways(FULL, n)[0] for n, way in best_ways[::7])


def test_what_cannot_be_is_refused() -> None:
    for call, code in (
        (lambda: ways(FULL, 1), "divisions_out_of_range"), (lambda: best(FULL, 5000), "divisions_out_of_range"),
        (lambda: new_circle(1, 100, 3), "not_a_circle"), (lambda: new_circle(30, 100, 0), "not_positive"),
        (lambda: disc(57, 5), "disc_out_of_range"), (lambda: disc(400, 30), "lines_too_close"),
        (lambda: disc(57, 100, long=0), "not_positive"),
    ):  # fmt: skip
        with pytest.raises(Refusal, match=code):
            call()


@given(st.sampled_from([Fraction(40), Fraction(60), Fraction(72)]), st.integers(2, 400))
def test_every_circle_said_to_serve_serves(ratio: Fraction, divisions: int) -> None:
    for holes in would_serve(ratio, divisions, 120):
        assert simple(ratio, divisions, [holes])


@given(st.integers(3, 400), st.floats(0.5, 12))
def test_a_circle_for_which_nobody_says_a_size_fits(holes: int, hole: float) -> None:
    made = new_circle(holes, None, hole)
    assert made.fits
    assert made.diameter % 5 == 0
    assert made.diameter == 100 or not new_circle(holes, made.diameter - 5, hole).fits


@given(st.integers(3, 120), st.floats(20, 300), st.floats(1, 8))
def test_holes_of_a_new_circle_stand_apart_as_said(holes: int, diameter: float, hole: float) -> None:
    made = new_circle(holes, diameter, hole)
    spots = made.positions()
    apart = [math.dist(a, b) for a, b in zip(spots, spots[1:] + spots[:1], strict=True)]
    assert min(apart) - hole == pytest.approx(made.wall)
    assert all(math.hypot(x, y) == pytest.approx(diameter / 2) for x, y in spots)
    at_least = new_circle(holes, made.least_diameter, hole)
    assert at_least.wall == pytest.approx(hole / 2)


def test_drilling_through_the_worm_cuts_the_error() -> None:
    result = generations(0.1, Fraction(40), 0.0001)
    assert [g.at_work for g in result] == pytest.approx([0.1 / 40, 0.1 / 1600])


def test_a_bigger_disc_is_read_better() -> None:
    small, big = disc(57, 100), disc(57, 300)
    assert small.error() == pytest.approx(3 * big.error())
    assert big.error(READING_MAGNIFIED) < big.error()
    assert small.strip == pytest.approx(57 * small.spacing)


@pytest.mark.parametrize(
    ("line", "divisions"),
    [
        ("divide 22.5°", 16), ("divide 17° 30' on Grebe", None), ("divide by 7° 30′", 48), ("divide 1° 12'", 300),
        ("divide 7 deg 30'", 48), ("divide 90 degrees", 4), ("divide 0° 54'", 400), ("divide 57", 57),
    ],
)  # fmt: skip
def test_divisions_may_be_said_by_their_angle(line: str, divisions: int | None) -> None:
    if divisions is None:
        with pytest.raises(Refusal) as refused:
            read_divide(line)
        assert (refused.value.code, refused.value.quantities["near"]) == ("angle_leaves_a_rest", 21)
    else:
        assert read_divide(line).divisions == divisions


@pytest.mark.parametrize("line", ["divide 0°", "divide 22.5° 12", "divide °"])
def test_an_angle_that_says_no_divisions_is_refused(line: str) -> None:
    with pytest.raises(Refusal):
        read_divide(line)
