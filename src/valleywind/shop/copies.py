"""Copies of a shop's file: made while it is served, looked into, and put back.

A copy is a shop's file like any other. Who may come in (passphrase, guests, keys of devices) is not in it: that belongs
to the place, not to the shop.
"""

import errno
import os
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path

from sqlalchemy import func, select

from valleywind.shop.file_trouble import ShopFileError, Trouble, trouble_of
from valleywind.shop.models import ChangeRow, JobRow, MachineRow, WheelRow
from valleywind.shop.store import Store, open_store
from valleywind.shop.written import OF_THE_DOOR

# The size of a page tells how much is copied at a time; -1 is all at once, which in a shop takes a moment.
_ALL = -1


@dataclass(frozen=True)
class Holds:
    """What a copy holds. changed: when it was last changed, as its change says; empty where it never was."""

    machines: int
    wheels: int
    jobs: int
    changed: str


def copy_to(shop: Path, target: Path) -> None:
    """Write a whole, checked copy of the shop to `target`, which is replaced only once that is on disk.

    Raises ShopFileError `FULL` and others, the path being the one that is wrong; then nothing is left of the try.
    """
    making = target.with_name(f"{target.name}.new")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        making.unlink(missing_ok=True)
        with closing(_opened(shop, "ro")) as source, closing(sqlite3.connect(making)) as copy:
            source.backup(copy, pages=_ALL)
            copy.execute("PRAGMA journal_mode=DELETE")
            _leave_out_the_door(copy)
            _check(copy, making)
        _to_disk(making)
        making.replace(target)
        _to_disk(target.parent)
    except (OSError, sqlite3.Error) as error:
        _take_away(making)
        raise _trouble(error, target) from error
    except ShopFileError:
        _take_away(making)
        raise


def _leave_out_the_door(copy: sqlite3.Connection) -> None:
    tables = {name for (name,) in copy.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    for table in sorted(OF_THE_DOOR & tables):
        copy.execute(f'DELETE FROM "{table}"')
    copy.commit()
    copy.execute("VACUUM")  # else it could still be read in the free pages


def _opened(path: Path, mode: str) -> sqlite3.Connection:
    return sqlite3.connect(f"{path.absolute().as_uri()}?mode={mode}", uri=True)


def _check(connection: sqlite3.Connection, path: Path) -> None:
    if connection.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
        raise ShopFileError(Trouble.DAMAGED, path)


def _to_disk(path: Path) -> None:
    with suppress(PermissionError):  # a folder cannot be opened everywhere
        number = os.open(path, os.O_RDONLY)
        try:
            os.fsync(number)
        finally:
            os.close(number)


def _take_away(path: Path) -> None:
    for end in ("", "-wal", "-shm", "-journal"):
        with suppress(OSError):
            path.with_name(path.name + end).unlink(missing_ok=True)


def _trouble(error: OSError | sqlite3.Error, path: Path) -> ShopFileError:
    if isinstance(error, sqlite3.Error):
        return ShopFileError(trouble_of(error) or Trouble.DAMAGED, path)
    if error.errno in (errno.ENOSPC, errno.EDQUOT):
        return ShopFileError(Trouble.FULL, path)
    return ShopFileError(Trouble.NO_FOLDER, path, str(error.strerror or error))


def is_good(path: Path) -> bool:
    """Whether a copy is whole and a shop's."""
    try:
        with _brought_up_to_date(path):
            return True
    except ShopFileError:
        return False


def holds(path: Path) -> Holds:
    """What a copy holds. Raises ShopFileError where it is damaged, no shop's, or of a newer Valleywind."""
    with _brought_up_to_date(path) as store, store.reading() as session:
        latest = session.scalar(select(ChangeRow.at).order_by(ChangeRow.id.desc()).limit(1))
        return Holds(
            machines=session.scalar(select(func.count()).select_from(MachineRow)) or 0,
            wheels=session.scalar(select(func.coalesce(func.sum(WheelRow.count), 0))) or 0,
            jobs=session.scalar(select(func.count()).select_from(JobRow)) or 0,
            changed="" if latest is None else str(latest),
        )


@contextmanager
def _brought_up_to_date(path: Path) -> Iterator[Store]:
    """A copy of the copy, opened as a shop of this Valleywind; the copy itself stays as it is."""
    if not path.is_file():
        raise ShopFileError(Trouble.NO_FOLDER, path, "there is no such file")
    with tempfile.TemporaryDirectory() as folder:
        opened = Path(folder) / "copy.sqlite"
        try:
            opened.write_bytes(path.read_bytes())
            store = open_store(opened)
        except ShopFileError as error:
            raise ShopFileError(error.trouble, path, error.detail) from error
        except OSError as error:
            raise _trouble(error, path) from error
        try:
            yield store
        finally:
            store.engine.dispose()


def put_back(copy: Path, shop: Path, aside: Path) -> bool:
    """Put a copy in the place of a shop that nobody serves. What was there is kept at `aside`; whether anything was.

    Raises ShopFileError where the copy cannot be used; then the shop is as it was.
    """
    with _brought_up_to_date(copy) as store:
        there = shop.exists() and shop.stat().st_size > 0
        if there:
            _keep(shop, aside)
        making = shop.with_name(f"{shop.name}.new")
        try:
            shop.parent.mkdir(parents=True, exist_ok=True)
            with closing(_opened(store.path, "ro")) as source, closing(sqlite3.connect(making)) as target:
                source.backup(target, pages=_ALL)
                target.execute("PRAGMA journal_mode=DELETE")
                if there:
                    _carry_over_the_door(shop, target)
                _check(target, making)
            _to_disk(making)
            for end in ("-wal", "-shm"):
                shop.with_name(shop.name + end).unlink(missing_ok=True)
            making.replace(shop)
            _to_disk(shop.parent)
        except (OSError, sqlite3.Error) as error:
            _take_away(making)
            raise _trouble(error, shop) from error
    return there


def _keep(shop: Path, aside: Path) -> None:
    """What is there, as a copy; where it is damaged, as it is."""
    try:
        copy_to(shop, aside)
    except ShopFileError as error:
        if error.trouble is Trouble.FULL:
            raise
        try:
            for end in ("", "-wal"):
                if (part := shop.with_name(shop.name + end)).exists():
                    aside.with_name(aside.name + end).write_bytes(part.read_bytes())
        except OSError as failed:
            raise _trouble(failed, aside) from failed


def _carry_over_the_door(shop: Path, target: sqlite3.Connection) -> None:
    """Who may come in stays as it is where the copy is put, as far as that can be read."""
    with suppress(sqlite3.Error), closing(_opened(shop, "ro")) as source:
        rows = {table: source.execute(f'SELECT * FROM "{table}"').fetchall() for table in sorted(OF_THE_DOOR)}
        for table, held in rows.items():
            target.execute(f'DELETE FROM "{table}"')
            if held:
                marks = ", ".join("?" * len(held[0]))
                target.executemany(f'INSERT INTO "{table}" VALUES ({marks})', held)
    target.commit()


def take_over(store: Store, copy: Path, aside: Path) -> None:
    """Put a copy in the place of the shop that is open. Nobody writes meanwhile; what was there is kept at `aside`.

    Raises ShopFileError where the copy cannot be used; then the shop is as it was.
    """
    with _brought_up_to_date(copy) as fresh, store.turn:
        copy_to(store.path, aside)
        try:
            with closing(sqlite3.connect(fresh.path)) as source:
                _carry_over_the_door(store.path, source)
                with closing(_opened(store.path, "rw")) as live:
                    live.execute("PRAGMA synchronous=FULL")
                    source.backup(live, pages=_ALL)
        except (OSError, sqlite3.Error) as error:
            raise _trouble(error, store.path) from error
        store.replaced(fresh.path.stat().st_size)
