"""Photographs as they come from outside: which files are read, and how they are made small."""

from dataclasses import dataclass, field
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps

from valleywind.core.refusal import Refusal

LARGEST_FILE = 15_000_000
"""Bytes of a file that is taken."""
# The only kinds that are opened, told by what is in the file: no other program is ever asked to read one.
_KINDS = ("JPEG", "PNG", "WEBP")
# A picture is kept no wider or higher than this, px.
_LONGEST_SIDE = 1600
# Teeth are counted in one that is no wider or higher than this, px; a part of one may be cut out of one as large as
# this, with this much about the wheel.
_LOOKED_AT, _CUT_FROM, _ABOUT = 1000, 4000, 1.5
# px; nothing smaller is cut out.
_LEAST = 60.0
# What is said at the head of a file is looked at before a pixel is decoded: no side longer than this, px; no side so
# many times the other; no more px than this. A plain JPEG is decoded at a part of its size, any other file in full; a
# WebP takes longest.
_MOST_SIDE, _MOST_RATIO = 12_000, 8
_MOST_PIXELS, _MOST_PIXELS_OF_A_PLAIN_JPEG, _MOST_PIXELS_OF_A_WEBP = 13_000_000, 50_000_000, 7_000_000


def small(file: bytes) -> bytes:
    """A picture, turned upright and made small, as JPEG; nothing that its camera wrote beside it.

    Raises Refusal (photo): `photo_too_large` where the file is, `photo_too_many_pixels`, `photo_too_narrow`,
    `not_a_picture`.
    """
    upright, _ = _upright(file, _LONGEST_SIDE)
    upright.info.clear()
    made = BytesIO()
    upright.save(made, "JPEG", quality=85)
    return made.getvalue()


@dataclass(frozen=True)
class Light:
    """A picture, or a part of one, as it is looked at. brightness: rows from the top, 0 to 1; scale: pixels of the
    file, turned upright, for one of these; size: of that, wide and high; corner: where it begins there."""

    brightness: NDArray[np.float32] = field(repr=False)
    scale: float
    size: tuple[int, int]
    corner: tuple[float, float] = (0.0, 0.0)

    def part(self, x: float, y: float) -> tuple[float, float]:
        """A point of what is looked at as parts of the file's width and height."""
        return (x * self.scale + self.corner[0]) / self.size[0], (y * self.scale + self.corner[1]) / self.size[1]

    def point(self, x: float, y: float) -> tuple[float, float]:
        """The other way round."""
        return (x * self.size[0] - self.corner[0]) / self.scale, (y * self.size[1] - self.corner[1]) / self.scale


@dataclass(frozen=True)
class Circle:
    """Where a wheel is in a picture, as parts of its width and height: its middle, and a point of its tips."""

    middle: tuple[float, float]
    rim: tuple[float, float]


def light(file: bytes, about: Circle | None = None) -> Light:
    """A picture to be looked at, or of it what is about a wheel: its longest side no longer than 1000 pixels. Raises
    Refusal as `small` does."""
    upright, size = _upright(file, _LOOKED_AT if about is None else _CUT_FROM)
    turned = (size[1], size[0]) if (size[0] > size[1]) != (upright.width > upright.height) else size
    scale, corner = turned[0] / upright.width, (0.0, 0.0)
    if about is not None:
        wide, high = upright.size
        x, y = about.middle[0] * wide, about.middle[1] * high
        reach = max(_ABOUT * float(np.hypot(about.rim[0] * wide - x, about.rim[1] * high - y)), _LEAST)
        box = (max(0, int(x - reach)), max(0, int(y - reach)), min(wide, int(x + reach)), min(high, int(y + reach)))
        corner = (box[0] * scale, box[1] * scale)
        cut = upright.crop(box)
        upright = cut.copy()
        upright.thumbnail((_LOOKED_AT, _LOOKED_AT))
        scale *= cut.width / upright.width
    grey = (np.asarray(upright.convert("L"), dtype=np.float32) / 255).astype(np.float32)
    return Light(grey, scale, turned, corner)


def _upright(file: bytes, longest: int) -> tuple[Image.Image, tuple[int, int]]:
    """A picture turned upright, no side longer than that; and the size of the file."""
    if len(file) > LARGEST_FILE:
        raise Refusal("photo_too_large", "photo", None, most=LARGEST_FILE // 1_000_000)
    try:
        with Image.open(BytesIO(file), formats=_KINDS) as opened:
            _check(opened)
            size = opened.size
            opened.draft("RGB", (longest, longest))
            opened.thumbnail((longest, longest))
            return ImageOps.exif_transpose(opened).convert("RGB"), size
    except Refusal:
        raise
    except Exception:
        # Whatever stops the decoder: the file is not what it says that it is.
        raise Refusal("not_a_picture", "photo", None) from None


def is_kept_so(file: bytes) -> bool:
    """Whether a file is a picture as `small` makes them."""
    try:
        with Image.open(BytesIO(file), formats=("JPEG",)) as opened:
            if max(opened.size) > _LONGEST_SIDE:
                return False
            opened.load()
    except Exception:
        # Whatever stops the decoder.
        return False
    return True


def _check(opened: Image.Image) -> None:
    """Refuse by its head what would take too long or too much room to decode."""
    short, long = sorted(opened.size)
    if short * _MOST_RATIO < long:
        raise Refusal("photo_too_narrow", "photo", None, most=_MOST_RATIO)
    plain = opened.format in ("JPEG", "MPO") and not opened.info.get("progressive")
    most = _MOST_PIXELS_OF_A_WEBP if opened.format == "WEBP" else _MOST_PIXELS
    most = _MOST_PIXELS_OF_A_PLAIN_JPEG if plain else most
    if long > _MOST_SIDE or short * long > most:
        raise Refusal("photo_too_many_pixels", "photo", None, side=_MOST_SIDE, most=most // 1_000_000)
