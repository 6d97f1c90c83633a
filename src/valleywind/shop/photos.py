"""Photographs of wheels, kept small enough for the one file of the shop."""

from hashlib import sha256
from io import BytesIO

from PIL import Image, ImageOps, UnidentifiedImageError
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refused
from valleywind.shop.models import PhotoRow

LARGEST_FILE = 15_000_000
"""Bytes of a file that is taken."""
# A picture is kept no wider or higher than this, px, and none of more px is opened.
_LONGEST_SIDE = 1600
_MOST_PIXELS = 40_000_000


def keep(session: Session, file: bytes) -> str:
    """Keep a picture, turned upright and made small; its name. Raises Refused `photo_too_large`, `not_a_picture`."""
    if len(file) > LARGEST_FILE:
        raise Refused("photo_too_large", "photo", None, most=LARGEST_FILE // 1_000_000)
    picture = _small(file)
    name = sha256(picture).hexdigest()[:32]
    if session.get(PhotoRow, name) is None:
        session.add(PhotoRow(name=name, picture=picture))
        session.flush()
    return name


def _small(file: bytes) -> bytes:
    try:
        with Image.open(BytesIO(file)) as opened:
            if opened.width * opened.height > _MOST_PIXELS:
                raise Refused("photo_too_large", "photo", None, most=LARGEST_FILE // 1_000_000)
            # A JPEG is read no larger than is wanted, which takes a part of the time and memory.
            opened.draft("RGB", (_LONGEST_SIDE, _LONGEST_SIDE))
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, Refused):
            raise
        raise Refused("not_a_picture", "photo", None) from None
    upright.thumbnail((_LONGEST_SIDE, _LONGEST_SIDE))
    made = BytesIO()
    upright.save(made, "JPEG", quality=85)
    return made.getvalue()


def picture(session: Session, name: str) -> bytes:
    """A picture by its name, as JPEG. Raises Refused `no_such_photo`."""
    row = session.get(PhotoRow, name)
    if row is None:
        raise Refused("no_such_photo", "photo", name)
    return row.picture
