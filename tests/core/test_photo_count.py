"""Wheels counted and measured in a picture: held beside pictures with their truth, and beside pictures of one's own."""

import json
from io import BytesIO
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter

from tests.photos import Scene, Wheel, as_jpeg, by_chance, outline, photograph, seen_at
from valleywind.core.teeth.photo.counting import Count, ToothCount, WheelPoints, Why, count
from valleywind.core.teeth.photo.measuring import (
    Diameters,
    KnownLength,
    between,
    diameters,
    has_keyway,
    in_pixels,
    openings,
)
from valleywind.core.teeth.photo.plane import Plane, tilted, unrolled
from valleywind.core.teeth.photo.smooth import Picture

pytestmark = pytest.mark.long

GIVEN = Path(__file__).parent.parent / "reference" / "photos"
TRUTH: list[dict[str, Any]] = json.loads((GIVEN / "truth.json").read_text())["pictures"]


def looked_at(file: bytes) -> Picture:
    grey: Picture = (np.asarray(Image.open(BytesIO(file)).convert("L"), dtype=np.float32) / 255).astype(np.float32)
    return grey


def by_bore(light: Picture, wheel: ToothCount, bore: float) -> Diameters:
    seen = in_pixels(light, wheel)
    sizes = diameters(seen, KnownLength(bore, seen.bore))
    assert sizes is not None
    return sizes


def counted(result: Count) -> list[int]:
    return [wheel.teeth for wheel in result.wheels]


@pytest.mark.parametrize("picture", TRUTH, ids=[p["file"] for p in TRUTH])
def test_the_given_pictures_are_counted_and_measured(picture: dict[str, Any]) -> None:
    light = looked_at((GIVEN / picture["file"]).read_bytes())
    result = count(light)
    assert counted(result) == [wheel["teeth"] for wheel in picture["wheels"]]
    for one, true in zip(result.wheels, picture["wheels"], strict=True):
        assert one.centre == pytest.approx(true["centre_px"], abs=8)
        assert len(one.places) == one.teeth
        assert len(one.doubtful) >= true["broken"], "a broken tooth is told"
        if one.sure:
            sizes = by_bore(light, one, true["bore_mm"])
            assert sizes.tip == pytest.approx(true["tip_diameter_mm"], rel=0.01)


def test_most_of_the_given_pictures_are_sure() -> None:
    sure = [all(w.sure for w in count(looked_at((GIVEN / p["file"]).read_bytes())).wheels) for p in TRUTH[:12]]
    assert sum(sure) >= 11


PLAIN = Wheel(57, turned=0.03)


@pytest.mark.parametrize(
    "scene",
    [
        Scene((PLAIN,)),
        Scene((PLAIN,), tilt=15, about=1.0),
        Scene((Wheel(23, turned=0.2),), tilt=25, about=2.0),
        Scene((PLAIN,), blur=3, grain=10),
        Scene((Wheel(96, spokes=5, across=640),), ground=150),
        Scene((PLAIN,), grease=3, seed=8),
        Scene((Wheel(92, (480, 367), 575, turned=0.3, light=200),), ground=110, tilt=23, about=2.2),
        Scene((Wheel(98, (472, 360), 535, turned=0.6, light=200),), tilt=29, about=0.4),
        Scene((Wheel(33, (508, 374), 591, light=92),), ground=110, seed=13),
        Scene(
            (Wheel(96, (522, 374), 632, 110, turned=0.0995, light=200),), tilt=27.57, about=0.2576, shadow=5.7, seed=3
        ),
    ],
    ids=[
        "plain",
        "tilted",
        "tilted more",
        "blurred",
        "spokes",
        "grease",
        "many tilted",
        "many tilted more",
        "pale",
        "one off at first",
    ],
)
def test_pictures_of_ones_own_are_counted(scene: Scene) -> None:
    light = photograph(scene)
    result = count(light)
    (wheel,) = scene.wheels
    assert counted(result) == [wheel.teeth]
    sizes = by_bore(light, result.wheels[0], wheel.bore)
    assert sizes.tip == pytest.approx(wheel.across, rel=0.015)


def test_few_teeth_at_a_tilt_are_measured_as_if_seen_square() -> None:
    """Where their middles are seen too far out on one side, they are too far in on another."""
    wheel = Wheel(23, (539, 376), 593, 117, turned=0.323)
    light = photograph(Scene((wheel,), ground=110, tilt=24.7, about=1.44, shadow=7.3, seed=15))
    (one,) = count(light).wheels
    assert by_bore(light, one, 117).tip == pytest.approx(593, rel=0.005)


def test_broken_teeth_are_counted_and_told_by_their_numbers() -> None:
    wheel = Wheel(31, broken=(4, 5, 17), turned=0.0)
    result = count(photograph(Scene((wheel,))))
    assert counted(result) == [31]
    (one,) = result.wheels
    pitch = 2 * np.pi / 31
    where = {round(float(one.places[n - 1] / pitch)) % 31 for n in one.doubtful}
    assert where == {4, 5, 17}
    assert one.sure


def test_several_that_lie_apart_are_counted_each() -> None:
    wheels = (Wheel(40, (260, 300), 380, 90), Wheel(63, (730, 440), 400, 100))
    assert counted(count(photograph(Scene(wheels)))) == [40, 63]


@pytest.mark.parametrize("seed", range(0, 24, 4))
def test_no_wrong_count_is_called_sure(seed: int) -> None:
    scene = by_chance(seed)
    for wheel in count(photograph(scene)).wheels:
        assert not wheel.sure or wheel.teeth == scene.wheels[0].teeth


def drawn(paint: str) -> Picture:
    image = Image.new("L", (800, 600), 120)
    draw = ImageDraw.Draw(image)
    if paint == "text":
        for n in range(18):
            draw.text((20, 30 * n), "Nothing but words and more words stands here " * 3, fill=20)
    if paint == "disc":
        draw.ellipse((200, 100, 600, 500), fill=200)
    if paint == "square":
        draw.rectangle((200, 100, 600, 500), fill=200)
    grain = np.random.default_rng(5).normal(0, 3, (600, 800))
    light: Picture = ((np.asarray(image) + grain).clip(0, 255) / 255).astype(np.float32)
    return light


def shaded(image: Image.Image) -> Picture:
    """A drawing at twice the size as a camera would see it."""
    grain = np.random.default_rng(3).normal(0, 4, (750, 1000))
    seen = np.asarray(image.resize((1000, 750), Image.Resampling.BOX).filter(ImageFilter.GaussianBlur(1.2)))
    light: Picture = ((seen + grain).clip(0, 255) / 255).astype(np.float32)
    return light


def ring_of_holes(holes: int, size: int) -> Picture:
    image = Image.new("L", (2000, 1500), 90)
    draw = ImageDraw.Draw(image)
    draw.ellipse((500, 250, 1500, 1250), fill=180)
    draw.ellipse((900, 650, 1100, 850), fill=30)
    for angle in np.arange(holes) * (2 * np.pi / holes):
        x, y = 1000 + 380 * np.cos(angle), 750 + 380 * np.sin(angle)
        draw.ellipse((x - size, y - size, x + size, y + size), fill=30)
    return shaded(image)


def face() -> Picture:
    image = Image.new("L", (2000, 1500), 90)
    draw = ImageDraw.Draw(image)
    draw.ellipse((600, 200, 1400, 1300), fill=190)
    for x in (830, 1170):
        draw.ellipse((x - 70, 560, x + 70, 640), fill=240)
        draw.ellipse((x - 30, 570, x + 30, 630), fill=30)
    draw.arc((820, 900, 1180, 1120), 10, 170, fill=90, width=24)
    draw.polygon([(1000, 650), (950, 860), (1050, 860)], fill=165)
    for x in range(600, 1400, 9):
        draw.line((x, 180 + x % 70, x + x % 31, 380), fill=60, width=8)
    return shaded(image)


def spoked_ring() -> Picture:
    image = Image.new("L", (2000, 1500), 60)
    draw = ImageDraw.Draw(image)
    for angle in np.arange(36) * (2 * np.pi / 36):
        draw.line((1000, 750, 1000 + 560 * np.cos(angle), 750 + 560 * np.sin(angle)), fill=190, width=10)
    draw.ellipse((400, 150, 1600, 1350), outline=190, width=30)
    return shaded(image)


def internal_gear() -> Picture:
    image = Image.new("L", (2000, 1500), 60)
    draw = ImageDraw.Draw(image)
    draw.ellipse((330, 80, 1670, 1420), fill=180)
    draw.polygon([(2 * x, 2 * y) for x, y in outline(Wheel(60, (500, 375), 500))], fill=60)
    return shaded(image)


@pytest.mark.parametrize(
    ("light", "why"),
    [
        (ring_of_holes(24, 28), Why.NO_WHEEL),
        (ring_of_holes(8, 40), Why.NO_WHEEL),
        (internal_gear(), Why.INTERNAL),
        (photograph(Scene((Wheel(40, (400, 375), 420, 90), Wheel(40, (700, 375), 420, 90)))), Why.OVERLAP),
        (photograph(Scene((Wheel(19, chain=True),))), Why.CHAIN),
        (photograph(Scene((Wheel(53, chain=True),), tilt=20, grease=2)), Why.CHAIN),
        (
            photograph(Scene((Wheel(26, (481, 386), 570, 90, turned=0.424, light=108, chain=True),), shadow=7, seed=2)),
            Why.CHAIN,
        ),
        (face(), Why.NO_WHEEL),
        (spoked_ring(), Why.NO_WHEEL),
    ],
    ids=["24 holes", "8 holes", "internal", "overlapping", "chain", "chain tilted", "chain pale", "face", "spokes"],
)
def test_what_is_no_single_outer_wheel_is_told(light: Picture, why: Why) -> None:
    result = count(light)
    assert result.wheels == ()
    assert result.why is why


@pytest.mark.parametrize(("key", "tilt", "grease"), [(0, 0, 0), (32, 0, 0), (32, 20, 0), (0, 20, 0), (0, 0, 3)])
def test_a_keyway_is_told(key: float, tilt: float, grease: int) -> None:
    light = photograph(Scene((Wheel(57, key=key),), tilt=tilt, grease=grease, seed=8))
    (one,) = count(light).wheels
    assert has_keyway(light, one, in_pixels(light, one)) == bool(key)


def half_hidden() -> Picture:
    light = photograph(Scene((PLAIN,))).copy()
    light[:, :480] = 0.3 + np.random.default_rng(2).normal(0, 0.02, (750, 480))
    return light


@pytest.mark.parametrize(
    ("light", "why"),
    [
        (photograph(Scene((PLAIN,), blur=9)), {Why.BLURRED}),
        (half_hidden(), {Why.HIDDEN, Why.NO_WHEEL}),
        (photograph(Scene((Wheel(110, across=210, bore=60),), blur=1.6, grain=9)), {Why.FINE, Why.NO_WHEEL}),
    ],
    ids=["blurred", "half hidden", "small"],
)
def test_what_is_wrong_with_a_picture_is_told(light: Picture, why: set[Why]) -> None:
    result = count(light)
    assert result.why in why
    assert not any(wheel.sure for wheel in result.wheels)


@pytest.mark.parametrize("paint", ["nothing", "text", "disc", "square"])
def test_where_there_is_no_wheel_none_is_counted(paint: str) -> None:
    result = count(drawn(paint))
    assert result.wheels == ()
    assert result.why in (Why.NO_WHEEL, Why.PLAIN)


def test_a_drawing_and_a_tiny_picture_are_told() -> None:
    flat = np.full((400, 400), 0.5, dtype=np.float32)
    flat[100:300, 100:300] = 0.9
    assert count(flat).why is Why.DRAWN
    assert count(np.zeros((60, 60), dtype=np.float32)).why is Why.SMALL


def test_the_same_picture_as_a_file_is_counted_alike() -> None:
    assert counted(count(looked_at(as_jpeg(photograph(Scene((PLAIN,))), quality=40)))) == [57]


def test_a_person_may_show_the_middle_and_the_rim() -> None:
    light = photograph(Scene((PLAIN,)))
    assert counted(count(light, WheelPoints((503, 372)))) == [57]
    assert counted(count(light, WheelPoints((503, 372), rim=296))) == [57]
    assert counted(count(light, WheelPoints((503, 372), rim=140))) == [], "no teeth end there"


def test_a_chain_wheel_that_is_shown_is_counted_but_not_for_sure() -> None:
    result = count(photograph(Scene((Wheel(38, chain=True),))), WheelPoints((500, 375), 300))
    assert [(wheel.teeth, wheel.sure) for wheel in result.wheels] == [(38, False)]
    assert result.why is Why.CHAIN


def test_a_wheel_beside_a_chain_wheel_is_counted_alone() -> None:
    both = Scene((Wheel(40, (260, 300), 380, 90), Wheel(34, (730, 440), 400, 100, chain=True)))
    result = count(photograph(both))
    assert [(wheel.teeth, wheel.sure) for wheel in result.wheels] == [(40, True)]
    assert result.why is Why.CHAIN


@pytest.mark.parametrize(("turn", "fits"), [(0.0, True), (0.2, True), (0.5, False)])
def test_a_count_that_has_no_tooth_where_one_is_shown_is_not_it(turn: float, fits: bool) -> None:
    """A finger on a tooth, a fifth of the pitch beside it, and on a gap."""
    light = photograph(Scene((PLAIN,)))
    angle = PLAIN.turned + (9 + turn) * 2 * np.pi / 57
    tooth = (500 + 295 * np.cos(angle), 375 + 295 * np.sin(angle))
    result = count(light, WheelPoints((500, 375), 300, tooth))
    assert (counted(result) == [57]) == fits


@pytest.mark.parametrize("tilt", [0, 25])
def test_a_length_beside_the_wheel_gives_its_size(tilt: float) -> None:
    """A ruler at the side of it, as long as 150 px of the plane: the same line is as long at every tilt."""
    wheel = Wheel(57, (430, 375), 560)
    scene = Scene((wheel,), tilt=tilt, about=0.5)
    light = photograph(scene)
    (one,) = count(light).wheels
    ends = [seen_at(scene, (800, 300 + along)) for along in (0, 150)]
    known = between(one, ends[0], ends[1], 15.0)
    sizes = diameters(in_pixels(light, one), known)
    assert sizes is not None
    assert sizes.tip == pytest.approx(56.0, rel=0.015)
    assert abs(sizes.tip - 56.0) < 2 * sizes.tip_off
    assert between(one, (10, 10), (12, 12), 15.0).pixels is None, "too short to say anything"


@pytest.mark.parametrize(("spokes", "grease"), [(0, 0), (5, 0), (6, 0), (0, 3)])
def test_holes_in_the_web_are_told(spokes: int, grease: int) -> None:
    light = photograph(Scene((Wheel(64, spokes=spokes),), grease=grease, seed=8))
    (one,) = count(light).wheels
    assert openings(light, one, in_pixels(light, one)) == spokes


def test_a_plane_is_seen_and_unrolled_as_it_lies() -> None:
    plane = tilted(np.array([100.0, 80.0]), 0.8, 0.0)
    x, y = plane.seen(np.array([10.0, 10.0]), np.array([0.0, np.pi / 2]))
    assert x[0] - 100 == pytest.approx(0.8 * (y[1] - 80))
    assert abs(np.linalg.det(plane.stretch)) == pytest.approx(1)
    ramp: Picture = np.tile((np.arange(200) / 200).astype(np.float32), (160, 1))
    rows, there = unrolled(ramp, Plane(np.array([100.0, 80.0])), np.array([20.0, 500.0]), 4)
    assert rows[0] == pytest.approx([0.6, 0.5, 0.4, 0.5], abs=0.01)
    assert there[0].all()
    assert not there[1].any()
