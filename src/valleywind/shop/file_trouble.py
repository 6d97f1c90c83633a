"""What can be wrong with the shop's file, before or while it is served."""

import sqlite3
from enum import StrEnum
from pathlib import Path


class Trouble(StrEnum):
    """`wording.shop_file` has a sentence for each."""

    NOT_A_SHOP = "not_a_shop"
    FOREIGN = "foreign"
    NEWER = "newer"
    DAMAGED = "damaged"
    INCOMPLETE = "incomplete"
    READ_ONLY = "read_only"
    FULL = "full"
    LOCKED = "locked"
    GONE = "gone"
    IN_USE = "in_use"
    NO_FOLDER = "no_folder"
    UNREADABLE = "unreadable"


class ShopFileError(Exception):
    """The shop's file cannot be used. `detail` is what the system said, where that helps."""

    def __init__(self, trouble: Trouble, path: Path, detail: str = "") -> None:
        super().__init__(f"{trouble.value}: {path} {detail}".strip())
        self.trouble, self.path, self.detail = trouble, path, detail


# By SQLite's primary result codes.
_BY_CODE = {
    sqlite3.SQLITE_READONLY: Trouble.READ_ONLY,
    sqlite3.SQLITE_FULL: Trouble.FULL,
    sqlite3.SQLITE_BUSY: Trouble.LOCKED,
    sqlite3.SQLITE_LOCKED: Trouble.LOCKED,
    sqlite3.SQLITE_CORRUPT: Trouble.DAMAGED,
    sqlite3.SQLITE_NOTADB: Trouble.DAMAGED,
    sqlite3.SQLITE_IOERR: Trouble.UNREADABLE,
    sqlite3.SQLITE_CANTOPEN: Trouble.UNREADABLE,
}


def trouble_of(error: object) -> Trouble | None:
    """What an error of the database says of its file; None where it is about something else."""
    if not isinstance(error, sqlite3.Error):
        return None
    code = getattr(error, "sqlite_errorcode", None)
    if code is None:
        return Trouble.DAMAGED if type(error) is sqlite3.DatabaseError else None
    if "no such table" in str(error) or "no such column" in str(error):
        return Trouble.INCOMPLETE
    return _BY_CODE.get(code & 0xFF)
