"""Files that are sent: photographs and tables, whole ones and spoiled ones."""

import io
import random
import struct
import zlib
from functools import cache

from PIL import Image

_KINDS = ("JPEG", "PNG", "WEBP", "GIF", "TIFF", "BMP", "PPM", "ICO", "TGA", "PCX", "EPS")
_ENDLESS = b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 10 10\n{} loop\n"


@cache
def _huge_png(wide: int, high: int, rows: int = 0) -> bytes:
    """One whose head says that it is so large; this many rows of it are there."""

    def piece(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", wide, high, 8, 6, 0, 0, 0)
    packed = zlib.compressobj(1)
    data = b"".join(packed.compress(bytes(5000 * (1 + 4 * wide))) for _ in range(rows // 5000)) + packed.flush()
    return b"\x89PNG\r\n\x1a\n" + piece(b"IHDR", head) + piece(b"IDAT", data) + piece(b"IEND", b"")


def pretending() -> list[bytes]:
    """What is no picture, or is one that nobody should decode."""
    heads = (_ENDLESS, b"", b"\xff\xd8\xff", b"RIFF\x00\x00\x00\x00WEBP", b"GIF89a")
    sizes = ((1, 40_000_000, 40_000_000), (60_000, 60_000), (2**31 - 1, 1))
    return [*heads, *(_huge_png(*size) for size in sizes)]


def photograph(draw: random.Random) -> bytes:
    """A picture of any kind, whole or spoiled."""
    if draw.random() < 0.1:
        return draw.randbytes(draw.randint(1, 4000))
    kind, mode = draw.choice(_KINDS), draw.choice(("RGB", "L", "P", "CMYK", "RGBA", "1"))
    picture = Image.new(mode, (draw.randint(1, 300), draw.randint(1, 300)))
    written = io.BytesIO()
    try:
        picture.save(written, kind)
    except (OSError, ValueError):
        picture.convert("RGB").save(written, "PNG")
    return spoiled(draw, written.getvalue()) if draw.random() < 0.6 else written.getvalue()


def spoiled(draw: random.Random, data: bytes) -> bytes:
    """With bytes changed, cut out or put in."""
    spoilt = bytearray(data)
    for _ in range(draw.randint(1, 8)):
        at = draw.randrange(len(spoilt) + 1)
        match draw.randrange(4):
            case 0:
                spoilt[at : at + 1] = draw.randbytes(1)
            case 1:
                del spoilt[at : at + draw.randint(1, 64)]
            case 2:
                spoilt[at:at] = draw.randbytes(draw.randint(1, 16))
            case 3:
                del spoilt[at:]
    return bytes(spoilt)


_CELLS = (
    "40", "40x2", "40x999999999", "9" * 400, "", "-1", "0", "1e9", "½", "=1+1", "＝1", '"', '""', '"a\nb"', "worn",
    "rusty", "Plover", "Plover's wheels", "\u202e", "x" * 300, "\x00", "'=1",
)  # fmt: skip
_HEADS = ("teeth", "count", "family", "machine", "condition", "material", "place", "note", "shift", "Zähne", "Foo", "")


def table(draw: random.Random) -> bytes:
    """A table of wheels as some program may have written it, whole or spoiled."""
    between = draw.choice(",;\t|")
    heads = ["teeth", *draw.sample(_HEADS, draw.randint(0, 5))]
    lines = [heads, *([draw.choice(_CELLS) for _ in heads] for _ in range(draw.randint(0, 40)))]
    text = draw.choice(("\n", "\r\n", "\r")).join(between.join(line) for line in lines)
    data = text.encode(draw.choice(("utf-8", "utf-8-sig", "utf-16", "cp1252")), "replace")
    return spoiled(draw, data) if draw.random() < 0.3 else data
