"""Photographs of wheels, kept small enough for the one file of the shop."""

import re
from hashlib import sha256

from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.shop.models import PhotoRow


def name_of(picture: bytes) -> str:
    """What a picture is called: by what is in it."""
    return sha256(picture).hexdigest()[:32]


def is_name(text: str) -> bool:
    """Whether a picture may be called so."""
    return re.fullmatch(r"[0-9a-f]{32}", text) is not None


def keep(session: Session, picture: bytes) -> str:
    """Keep a small picture; its name."""
    name = name_of(picture)
    if session.get(PhotoRow, name) is None:
        session.add(PhotoRow(name=name, picture=picture))
        session.flush()
    return name


def picture(session: Session, name: str) -> bytes:
    """A picture by its name, as JPEG. Raises Refusal `no_such_photo`."""
    row = session.get(PhotoRow, name)
    if row is None:
        raise Refusal("no_such_photo", "photo", name)
    return row.picture
