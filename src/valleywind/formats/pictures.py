"""A wheel, a disc, a strip and a plate as drawings at true size. mm, y upward."""

import math
from itertools import pairwise

from valleywind.core.dividing.discs import Disc
from valleywind.core.dividing.plates import NewCircle
from valleywind.core.teeth.geometry import tooth_outline
from valleywind.core.teeth.sizes import Sizes
from valleywind.formats.vector import BOLD, FINE, PLAIN, Item, Label, Path, Picture, Point, Ring

# Points along one flank: the chords stay within a fifth of a micrometre of the involute on the usual wheels.
_FLANK_STEPS = 24
_ARC_STEPS = 4
_CROSS = 4.0
_LONG, _SHORT = 9.0, 5.0
_STRIP_HEIGHT = 16.0


def wheel_picture(sizes: Sizes, title: str) -> Picture:
    """The wheel from the side: flanks as one closed line, bore and keyway, pitch and base circle on layers beside."""
    tooth = tooth_outline(sizes.teeth, sizes.family, _FLANK_STEPS, sizes.shift, sizes.depth, _ARC_STEPS)
    step = 2 * math.pi / sizes.teeth
    points = tuple(_polar(r, math.pi / 2 + a + n * step) for n in range(sizes.teeth) for r, a in tooth[:-1])
    items: list[Item] = [Path(points, "TEETH", closed=True)]
    bore = float(sizes.family.bore) / 2
    if bore:
        items.append(Path(_bore(bore, float(sizes.family.key)), "BORE", closed=True))
    items += [
        Ring((0, 0), sizes.pitch_diameter / 2, "PITCH", FINE),
        Ring((0, 0), sizes.base_diameter / 2, "BASE", FINE),
        *_cross(),
    ]
    return Picture(title, tuple(items))


def _bore(radius: float, key: float) -> tuple[Point, ...]:
    """The bore with its keyway on top, half as deep as it is wide."""
    steps = 180
    if not key or key >= 2 * radius:
        return tuple(_polar(radius, 2 * math.pi * n / steps) for n in range(steps))
    half = math.asin(key / 2 / radius)
    start, end = math.pi / 2 + half, math.pi / 2 - half + 2 * math.pi
    round_it = [_polar(radius, start + (end - start) * n / steps) for n in range(steps + 1)]
    top = radius + key / 2
    return (*round_it, (key / 2, top), (-key / 2, top))


def disc_picture(disc: Disc, title: str) -> Picture:
    """Lines at the edge of a disc, numbered from the top clockwise, with its centre marked."""
    radius = disc.diameter / 2
    items: list[Item] = [Ring((0, 0), radius, "EDGE", FINE), *_cross(_CROSS * 2)]
    number_height = min(3.0, max(1.2, disc.spacing * disc.numbered / 4))
    for n in range(disc.divisions):
        angle = math.pi / 2 - 2 * math.pi * n / disc.divisions
        length = _length(disc, n)
        items.append(Path((_polar(radius, angle), _polar(radius - length, angle)), "LINES", width=_line(disc, n)))
        if n % disc.numbered == 0:
            at = _polar(radius - _LONG - 1 - number_height, angle)
            items.append(Label(at, str(n), number_height, "NUMBERS", angle=math.degrees(angle) - 90))
    return Picture(title, tuple(items))


def strip_picture(disc: Disc, title: str) -> Picture:
    """A strip that goes once round the drum: the last line falls on the first."""
    items: list[Item] = [
        Path(
            ((0, 0), (disc.strip, 0), (disc.strip, _STRIP_HEIGHT), (0, _STRIP_HEIGHT)), "EDGE", closed=True, width=FINE
        )
    ]
    for n in range(disc.divisions + 1):
        x = disc.strip * n / disc.divisions
        items.append(Path(((x, 0), (x, _length(disc, n))), "LINES", width=_line(disc, n)))
        if n % disc.numbered == 0 and n < disc.divisions:
            items.append(Label((x + 0.8, _LONG + 3), str(n), 2.5, "NUMBERS", "start"))
    return Picture(title, tuple(items))


def plate_picture(circle: NewCircle, title: str) -> Picture:
    """A circle of holes to be drilled, the rim of its plate, the first hole marked."""
    spots = circle.positions()
    items: list[Item] = [Ring(spot, circle.hole / 2, "HOLES") for spot in spots]
    x, y = spots[0]
    items += [
        Label((x, y + circle.hole), "1", 2.5, "TEXT"), Ring((0, 0), circle.diameter / 2, "CIRCLE", FINE),
        Ring((0, 0), circle.blank / 2, "RIM"), *_cross(),
    ]  # fmt: skip
    return Picture(title, tuple(items))


def area(points: tuple[Point, ...]) -> float:
    """Of a closed line, mm²."""
    return abs(sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in pairwise((*points, points[0])))) / 2


def _length(disc: Disc, n: int) -> float:
    return _LONG if n % disc.numbered == 0 else (_LONG + _SHORT) / 2 if n % disc.long == 0 else _SHORT


def _line(disc: Disc, n: int) -> float:
    wide = BOLD if n % disc.numbered == 0 else PLAIN
    return min(wide, disc.spacing / 3)


def _cross(size: float = _CROSS) -> tuple[Path, Path]:
    return (Path(((-size, 0), (size, 0)), "CENTRE", width=FINE), Path(((0, -size), (0, size)), "CENTRE", width=FINE))


def _polar(radius: float, angle: float) -> Point:
    return radius * math.cos(angle), radius * math.sin(angle)
