"""Photographs of wheels that are drawn for the tests: polygons, tilted, lit from a side, blurred, with grain."""

import math
import random
from dataclasses import dataclass
from io import BytesIO

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

SIZE = (1000, 750)
_FINE = 2
Point = tuple[float, float]


@dataclass(frozen=True)
class Wheel:
    """across: diameter over the tips, px; bore: px; broken: teeth that are gone but for a stump; spokes: holes in the
    web; key: width of the keyway, px; chain: a chain wheel."""

    teeth: int
    middle: Point = (500, 375)
    across: float = 600
    bore: float = 130
    broken: tuple[int, ...] = ()
    spokes: int = 0
    turned: float = 0.1
    light: int = 170
    key: float = 0
    chain: bool = False


@dataclass(frozen=True)
class Scene:
    """tilt: degrees, about an axis that lies at `about`; blur, shadow: px; grain: of 255; grease: blotches."""

    wheels: tuple[Wheel, ...]
    ground: int = 90
    tilt: float = 0
    about: float = 0.6
    blur: float = 1.2
    shadow: float = 6
    grain: float = 4
    grease: int = 0
    seed: int = 1


def outline(wheel: Wheel) -> list[Point]:
    """The rim, trapezes with their corners taken off."""
    module = wheel.across / (wheel.teeth + 2)
    tip, root = wheel.across / 2, wheel.across / 2 - 2.25 * module
    pitch = 2 * math.pi / wheel.teeth
    points = []
    for n in range(wheel.teeth):
        top = root + 0.25 * module if n in wheel.broken else tip
        for part, radius in ((-0.36, root), (-0.25, (tip + root) / 2), (-0.13, top), (0.13, top),
                             (0.25, (tip + root) / 2), (0.36, root)):  # fmt: skip
            angle = wheel.turned + (n + part) * pitch
            radius = min(radius, top)
            points.append((wheel.middle[0] + radius * math.cos(angle), wheel.middle[1] + radius * math.sin(angle)))
    return points


def chain_outline(wheel: Wheel) -> list[Point]:
    """The rim of a chain wheel: seats for rollers of two thirds of the pitch, and teeth that narrow towards a tip three
    tenths of the pitch further out."""
    turn = 2 * math.pi / wheel.teeth
    middle = wheel.across / 2 / (1 + 0.3 * turn)
    seat = [(-0.335 * math.cos(math.pi * n / 16), -0.335 * math.sin(math.pi * n / 16)) for n in range(17)]
    rises = [(0.335 + 0.02 * out + 0.1 * (out / 0.3) ** 1.5, out) for out in (0.1, 0.2, 0.3)]
    gap = [(-part, out) for part, out in reversed(rises)] + seat + rises
    points = []
    for n in range(wheel.teeth):
        for part, out in gap:
            angle, radius = wheel.turned + (n + 0.5 + part) * turn, middle * (1 + out * turn)
            points.append((wheel.middle[0] + radius * math.cos(angle), wheel.middle[1] + radius * math.sin(angle)))
    return points


def _disc(draw: ImageDraw.ImageDraw, middle: Point, radius: float, shade: int) -> None:
    x, y = (part * _FINE for part in middle)
    draw.ellipse((x - radius * _FINE, y - radius * _FINE, x + radius * _FINE, y + radius * _FINE), fill=shade)


def _texture(chance: np.random.Generator, strength: float) -> np.ndarray:
    rough = Image.fromarray(chance.normal(128, 40, (60, 80)).clip(0, 255).astype(np.uint8))
    return (np.asarray(rough.resize(SIZE, Image.Resampling.BICUBIC), dtype=np.float32) - 128) * strength


def photograph(scene: Scene) -> np.ndarray:
    """Brightness from 0 to 1, rows from the top."""
    chance = np.random.default_rng(scene.seed)
    fine = (SIZE[0] * _FINE, SIZE[1] * _FINE)
    ground, faces = Image.new("L", fine, scene.ground), Image.new("L", fine, 0)
    shadows, draw = ImageDraw.Draw(ground), ImageDraw.Draw(faces)
    for wheel in scene.wheels:
        rim = [(x * _FINE, y * _FINE) for x, y in (chain_outline if wheel.chain else outline)(wheel)]
        shift = scene.shadow * _FINE
        shadows.polygon([(x + shift, y + shift * 0.6) for x, y in rim], fill=int(scene.ground * 0.45))
        draw.polygon(rim, fill=wheel.light)
        _disc(draw, wheel.middle, wheel.bore / 2, 30)
        if wheel.key:
            x, y, half = wheel.middle[0] * _FINE, wheel.middle[1] * _FINE, wheel.key / 2 * _FINE
            draw.rectangle((x - half, y - wheel.bore * 0.64 * _FINE, x + half, y), fill=30)
        for n in range(wheel.spokes):
            angle, out = n * 2 * math.pi / wheel.spokes, wheel.across * 0.28
            hole = (wheel.middle[0] + out * math.cos(angle), wheel.middle[1] + out * math.sin(angle))
            _disc(draw, hole, wheel.across * 0.07, 35)
    ground = ground.filter(ImageFilter.GaussianBlur(3 * _FINE))
    ground.paste(faces, mask=faces.point(lambda shade: 255 if shade else 0))
    if scene.tilt:
        ground = ground.transform(fine, Image.Transform.PERSPECTIVE, _tilted(scene), Image.Resampling.BICUBIC)
    seen = ground.resize(SIZE, Image.Resampling.BOX).filter(ImageFilter.GaussianBlur(scene.blur))
    light = np.asarray(seen, dtype=np.float32) + _texture(chance, 0.10)
    across, down = np.meshgrid(np.linspace(-1, 1, SIZE[0]), np.linspace(-1, 1, SIZE[1]))
    light *= 1 + 0.18 * across - 0.1 * down
    for _ in range(scene.grease):
        x, y = chance.uniform(-0.5, 0.5, 2)
        light *= 1 - 0.8 * np.exp(-(((across - x) / 0.13) ** 2 + ((down - y) / 0.17) ** 2))
    light += chance.normal(0, scene.grain, light.shape)
    seen_light: np.ndarray = (light / 255).clip(0, 1).astype(np.float32)
    return seen_light


def _tilted(scene: Scene) -> tuple[float, ...]:
    """From a point of the picture to the point of the plane that is seen there."""
    w, h = SIZE[0] * _FINE, SIZE[1] * _FINE
    far, tilt = 2.2 * w, math.radians(scene.tilt)
    u, v = math.cos(scene.about), math.sin(scene.about)
    # x = c + (along the axis as it is, across it shorter) / depth
    across = np.array([[u * u + v * v * math.cos(tilt), u * v * (1 - math.cos(tilt))],
                       [u * v * (1 - math.cos(tilt)), v * v + u * u * math.cos(tilt)]])  # fmt: skip
    depth = np.array([-v, u]) * math.sin(tilt) / far
    there = np.eye(3)
    there[:2, :2], there[2, :2] = across, depth
    move = np.array([[1, 0, -w / 2], [0, 1, -h / 2], [0, 0, 1]])
    back = np.linalg.inv(np.linalg.inv(move) @ there @ move)
    back /= back[2, 2]
    return tuple(back.ravel()[:8])


def seen_at(scene: Scene, point: Point) -> Point:
    """Where a point of the plane is seen in the picture, px."""
    back = np.array([*_tilted(scene), 1.0]).reshape(3, 3) if scene.tilt else np.eye(3)
    x, y, depth = np.linalg.inv(back) @ np.array([point[0] * _FINE, point[1] * _FINE, 1.0])
    return x / depth / _FINE, y / depth / _FINE


def as_jpeg(light: np.ndarray, quality: int = 85) -> bytes:
    """The picture as a file."""
    made = BytesIO()
    Image.fromarray((light * 255).astype(np.uint8)).save(made, "JPEG", quality=quality)
    return made.getvalue()


def by_chance(seed: int) -> Scene:
    """A scene of one wheel, of any difficulty."""
    chance = random.Random(seed)
    teeth = chance.randint(14, 120)
    broken = tuple(chance.sample(range(teeth), chance.choice([0, 0, 0, 1, 3])))
    across = chance.uniform(420, 660)
    middle = (chance.uniform(440, 560), chance.uniform(345, 405))
    bore, spokes = across * chance.uniform(0.15, 0.35), chance.choice([0, 0, 0, 5, 6])
    turned, light = chance.uniform(0, 1), chance.choice([60, 120, 150, 180, 220])
    wheel = Wheel(teeth, middle, across, bore, broken, spokes, turned, light)
    return Scene(
        (wheel,), chance.choice([50, 90, 130, 170]), chance.choice([0, 0, 4, 10, 18, 26]), chance.uniform(0, 3.1),
        chance.choice([0.8, 1.2, 2, 3.5]), chance.uniform(0, 10), chance.choice([1, 3, 6, 10]),
        chance.choice([0, 0, 0, 3]), seed,
    )  # fmt: skip


def of_the_demo() -> dict[str, Scene]:
    """Wheels of the demo shop, with their bores as on record: what the count is tried with where no camera is."""
    plover = Wheel(57, (500, 375), 600, 600 * 22.225 / (59 * 25.4 / 12), turned=0.03, key=23)
    curlew = Wheel(33, (500, 380), 560, 560 * 8 / (35 * 0.8), broken=(12,), turned=0.2, light=150, key=60)
    avocet = Wheel(71, (480, 370), 620, 620 * 25 / (73 * 2), spokes=6, turned=0.5, light=190, key=25)
    heron = Wheel(40, (290, 330), 400, 400 * 22 / (42 * 1.5), turned=0.4, key=38)
    smaller = Wheel(28, (740, 470), 400 * 30 / 42, 400 * 22 / (42 * 1.5), turned=0.1, key=38)
    return {
        "plover-57": Scene((plover,)),
        "curlew-33": Scene((curlew,), ground=70, tilt=8, about=1.0, seed=3),
        "avocet-71": Scene((avocet,), ground=120, tilt=17, about=2.0, seed=4),
        "heron-40-28": Scene((heron, smaller), ground=80, seed=5),
        "plover-57-greasy": Scene((plover,), grease=4, grain=6, seed=9),
    }


if __name__ == "__main__":
    import sys
    from pathlib import Path

    for name, scene in of_the_demo().items():
        (Path(sys.argv[1]) / f"{name}.jpg").write_bytes(as_jpeg(photograph(scene), 72))
