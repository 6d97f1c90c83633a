"""Photographs as they come from outside: which files are read, and how they are made small."""

from io import BytesIO

from PIL import Image, ImageOps

from valleywind.core.refusal import Refused

LARGEST_FILE = 15_000_000
"""Bytes of a file that is taken."""
# The only kinds that are opened, told by what is in the file: no other program is ever asked to read one.
_KINDS = ("JPEG", "PNG", "WEBP")
# A picture is kept no wider or higher than this, px.
_LONGEST_SIDE = 1600
# What is said at the head of a file is looked at before a pixel is decoded: no side longer than this, px; no side so
# many times the other; no more px than this. A plain JPEG is decoded at a part of its size, any other file in full; a
# WebP takes longest.
_MOST_SIDE, _MOST_RATIO = 12_000, 8
_MOST_PIXELS, _MOST_PIXELS_OF_A_PLAIN_JPEG, _MOST_PIXELS_OF_A_WEBP = 13_000_000, 50_000_000, 7_000_000


def small(file: bytes) -> bytes:
    """A picture, turned upright and made small, as JPEG; nothing that its camera wrote beside it.

    Raises Refused (photo): `photo_too_large` where the file is, `photo_too_many_pixels`, `photo_too_narrow`,
    `not_a_picture`.
    """
    if len(file) > LARGEST_FILE:
        raise Refused("photo_too_large", "photo", None, most=LARGEST_FILE // 1_000_000)
    try:
        with Image.open(BytesIO(file), formats=_KINDS) as opened:
            _check(opened)
            opened.draft("RGB", (_LONGEST_SIDE, _LONGEST_SIDE))
            opened.thumbnail((_LONGEST_SIDE, _LONGEST_SIDE))
            upright = ImageOps.exif_transpose(opened).convert("RGB")
            upright.info.clear()
            made = BytesIO()
            upright.save(made, "JPEG", quality=85)
    except Refused:
        raise
    except Exception:
        # Whatever stops the decoder: the file is not what it says that it is.
        raise Refused("not_a_picture", "photo", None) from None
    return made.getvalue()


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
        raise Refused("photo_too_narrow", "photo", None, most=_MOST_RATIO)
    plain = opened.format in ("JPEG", "MPO") and not opened.info.get("progressive")
    most = _MOST_PIXELS_OF_A_WEBP if opened.format == "WEBP" else _MOST_PIXELS
    most = _MOST_PIXELS_OF_A_PLAIN_JPEG if plain else most
    if long > _MOST_SIDE or short * long > most:
        raise Refused("photo_too_many_pixels", "photo", None, side=_MOST_SIDE, most=most // 1_000_000)
