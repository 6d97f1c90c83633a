"""The one file a shop lives in: where it is, opening it, bringing it up to date, reading and writing it."""

import os
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass, field
from json import JSONDecodeError
from pathlib import Path
from threading import Lock
from typing import IO, Any, TypeVar

from platformdirs import user_data_path
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.shop import changes
from valleywind.shop.cutting import REMEMBERED, SessionCache
from valleywind.shop.file_trouble import ShopFileError, Trouble, trouble_of
from valleywind.shop.models import Base, Unreadable
from valleywind.shop.rehearsal import rehearsed
from valleywind.shop.soundness import is_sound
from valleywind.shop.table_use import TABLES, TableUse, changed_by, watch

MIGRATIONS = Path(__file__).parent / "migrations"
FILE_NAME = "shop.sqlite"
PLACE_VARIABLE = "VALLEYWIND_DATA"
_MAGIC = b"SQLite format 3\0"
_VERSION_TABLE = "alembic_version"
_WRITING = "valleywind_writing"
# How long another program that writes the file is waited for, ms.
_PATIENCE = 5000
# How often a long write is worked out, where others save meanwhile, before it makes them wait.
_REHEARSALS = 3
Value = TypeVar("Value")


def usual_place() -> Path:
    """A person's own shop: $VALLEYWIND_DATA, a folder or a .sqlite file, else the platform's data folder."""
    named = os.environ.get(PLACE_VARIABLE)
    place = Path(named).expanduser() if named else user_data_path("valleywind", appauthor=False)
    return place if place.suffix == ".sqlite" else place / FILE_NAME


def place_of(data: Path | None) -> Path:
    """The file that is meant by a folder or a .sqlite file; a person's own shop where none is named."""
    if data is None:
        return usual_place()
    return data if data.suffix == ".sqlite" else data / FILE_NAME


@dataclass(frozen=True)
class Store:
    """An open shop file. Any number may read it; one at a time writes, `turn` held by whoever does."""

    path: Path
    engine: Engine
    there: "_There | None" = None
    turn: Lock = field(default_factory=Lock)
    remembered: SessionCache = field(default_factory=SessionCache)
    touched: TableUse = field(default_factory=TableUse)

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session that sees the shop as it is now and changes nothing. Raises ShopFileError."""
        with self._reporting_trouble():
            self._still_there()
            with self._open(self.engine) as session:
                yield session

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A session that writes: alone from its beginning on, committed and noted among the changes when the block
        ends well, rolled back when it does not. Raises ShopFileError."""
        with self._writing() as session, changes.note_changes(session):
            yield session

    @contextmanager
    def adding(self) -> Iterator[Session]:
        """A session that only adds to what happened: alone from its beginning on, on disk when the block ends well.
        Nothing of it is noted to be undone. Raises ShopFileError."""
        with self._writing() as session:
            yield session

    @contextmanager
    def _writing(self) -> Iterator[Session]:
        with self.turn, self._reporting_trouble():
            self._still_there()
            with self._open(self.engine.execution_options(**{_WRITING: True})) as session, session.begin():
                yield session
                changed = changed_by(session)
                self._still_there()
            self.touched.changed(changed)

    def at_length(
        self, work: Callable[[Session], Value], then: Callable[[Session], object] = lambda _: None
    ) -> tuple[Value, int | None]:
        """Do what takes long, while others go on writing: what the work gives, and the number of its change, None
        where it changed nothing. The work is done on a copy, anew where somebody else changed something meanwhile, and
        writes only what changes are noted of; `then` adds to what happened. Raises ShopFileError and what the work
        does."""
        for _ in range(_REHEARSALS):
            with self._reporting_trouble():
                self._still_there()
                with rehearsed(self.path, {REMEMBERED: self.remembered}, work) as done:
                    if done.change is None:
                        return done.value, None
                    with self.turn:
                        self._still_there()
                        number = done.perform(_PATIENCE, then)
                        self._still_there()
                    if number is not None:
                        self.touched.changed(TABLES)
                        done.tidy()
                        return done.value, number
        with self.session() as session:
            value = work(session)
            then(session)
        return value, changes.change_number(session)

    def replaced(self, size: int) -> None:
        """What the file held is another now, by this program itself: nothing of it is remembered. size: bytes of what
        it holds now, to which the file may shrink."""
        self.remembered.by_number.clear()
        self.touched.changed(TABLES)
        if self.there is not None:
            self.there.may_shrink(size)

    def _open(self, engine: Engine) -> Session:
        return Session(engine, info={REMEMBERED: self.remembered})

    def is_there(self) -> bool:
        """Whether the file on disk is still the one that was opened."""
        return self.there is None or self.there.still(self.path)

    def _still_there(self) -> None:
        """A file that was deleted, replaced or cut short goes on taking writes that nobody will ever read; so it does
        where the log beside it, in which the newest are, is gone."""
        if not self.is_there():
            raise ShopFileError(Trouble.GONE, self.path)

    @contextmanager
    def _reporting_trouble(self) -> Iterator[None]:
        try:
            yield
        except (DBAPIError, sqlite3.Error) as error:
            trouble = trouble_of(error.orig if isinstance(error, DBAPIError) else error)
            if trouble is None:
                raise
            raise ShopFileError(trouble, self.path) from error
        except Refusal:
            raise
        except (JSONDecodeError, Unreadable) as error:
            raise ShopFileError(Trouble.DAMAGED, self.path) from error
        except (ValueError, TypeError, LookupError, AttributeError, ArithmeticError) as error:
            # What made no sense may have been read so.
            with self._open(self.engine) as session:
                if is_sound(session):
                    raise
            raise ShopFileError(Trouble.DAMAGED, self.path) from error


class _There:
    """The file as it is on disk, by what cannot change while it is served: its number there and that of its log, and
    that it never becomes shorter. One connection stays open, so that the log stays what it is."""

    def __init__(self, path: Path, engine: Engine) -> None:
        self._held = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
        self._held.execute("SELECT count(*) FROM sqlite_master").fetchone()
        self._log = path.with_name(f"{path.name}-wal")
        self._open = self._grows = True
        self._numbers, self._size = self._numbers_now(path), path.stat().st_size
        event.listen(engine, "engine_disposed", self._close)

    def still(self, path: Path) -> bool:
        if not self._open:
            return True
        least = self._size  # read first: others look at the same time, and may see it longer than this one does
        try:
            size = path.stat().st_size
            same = self._numbers_now(path) == self._numbers and size >= least
        except OSError:
            return False
        if self._grows:
            self._size = size
        return same

    def may_shrink(self, size: int) -> None:
        """From now on it may be as short as this. When it becomes so is for the database to say, once nobody reads."""
        self._size, self._grows = size, False

    def _numbers_now(self, path: Path) -> tuple[int, int]:
        return path.stat().st_ino, self._log.stat().st_ino

    def _close(self, _engine: Engine) -> None:
        self._open = False
        self._held.close()


def open_store(path: Path) -> Store:
    """Open the shop at `path`, making the file or bringing it up to date as needed.

    Raises ShopFileError, and leaves the file as it is, where it is no shop's file, is damaged or lacks something, is
    one of a newer Valleywind, or cannot be written.
    """
    engine: Engine | None = None
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.exists() and path.stat().st_size:
            _examine(path)
        engine = create_engine(f"sqlite:///{path}", pool_size=8, max_overflow=-1)
        event.listen(engine, "connect", _set_up)
        event.listen(engine, "begin", _begin)
        watch(engine)
        migrate(engine, path)
        _complete(path)
    except OSError as error:
        raise ShopFileError(Trouble.NO_FOLDER, path, str(error.strerror or error)) from error
    except (sqlite3.Error, DBAPIError) as error:
        if engine is not None:
            engine.dispose()
        cause = error.orig if isinstance(error, DBAPIError) else error
        raise ShopFileError(trouble_of(cause) or Trouble.DAMAGED, path) from error
    return Store(path, engine, _There(path, engine))


@contextmanager
def claimed(path: Path) -> Iterator[None]:
    """Hold the shop for this program alone, by a lock on the file, whatever name leads to it, and on one beside it,
    which stays where the file itself is made anew. Raises ShopFileError `IN_USE`.

    Where the system has no such locks nothing is held.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.with_name(f"{path.name}.lock").open("w") as lock, path.open("ab") as file:
        _lock(lock, path)
        _lock(file, path)
        yield


def _lock(file: IO[Any], path: Path) -> None:
    try:
        import fcntl
    except ImportError:  # not on Windows
        return
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as error:
        raise ShopFileError(Trouble.IN_USE, path) from error


def _examine(path: Path) -> None:
    """Whether a file may be brought up to date: a shop's, whole, and not of another program."""
    with path.open("rb") as file:
        if file.read(len(_MAGIC)) != _MAGIC:
            raise ShopFileError(Trouble.NOT_A_SHOP, path)
    with closing(sqlite3.connect(path, timeout=_PATIENCE / 1000)) as connection:
        if connection.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
            raise ShopFileError(Trouble.DAMAGED, path)
        tables = _tables(connection)
        known = {_VERSION_TABLE, *Base.metadata.tables}
        if tables and not tables & set(Base.metadata.tables):
            if tables <= known and not connection.execute(f"SELECT * FROM {_VERSION_TABLE}").fetchall():
                return
            raise ShopFileError(Trouble.FOREIGN, path)
        if _VERSION_TABLE in tables and connection.execute(f"SELECT * FROM {_VERSION_TABLE}").fetchall():
            return
        if tables - known:
            raise ShopFileError(Trouble.FOREIGN, path)
        # A first start of an older Valleywind that was interrupted left tables and no revision: empty, they may go.
        if any(connection.execute(f'SELECT 1 FROM "{table}" LIMIT 1').fetchone() for table in tables):
            raise ShopFileError(Trouble.INCOMPLETE, path)
        for table in tables:
            connection.execute(f'DROP TABLE "{table}"')


def _tables(connection: sqlite3.Connection) -> set[str]:
    names = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'")
    return {name for (name,) in names}


def _complete(path: Path) -> None:
    """Every table with every column of the models."""
    with closing(sqlite3.connect(path)) as connection:
        for table in Base.metadata.sorted_tables:
            there = {row[1] for row in connection.execute(f'PRAGMA table_info("{table.name}")')}
            if not {column.name for column in table.columns} <= there:
                raise ShopFileError(Trouble.INCOMPLETE, path, table.name)


def _set_up(connection: sqlite3.Connection, _record: Any) -> None:
    connection.isolation_level = None  # transactions begin where `_begin` says so, not where the driver guesses
    cursor = connection.cursor()
    cursor.execute("PRAGMA journal_mode=WAL")
    # FULL: what was answered with 200 is on disk before the answer goes out, and stays through a power cut. NORMAL is
    # quicker, but after a power cut the last commits may be gone; a shop writes seldom, and a write takes milliseconds.
    cursor.execute("PRAGMA synchronous=FULL")
    cursor.execute("PRAGMA foreign_keys=ON")
    cursor.execute(f"PRAGMA busy_timeout={_PATIENCE}")
    cursor.close()


def _begin(connection: Any) -> None:
    """A writer takes the file at once, so that nothing it has read can change before it writes."""
    writing = connection.get_execution_options().get(_WRITING)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writing else "BEGIN")


def migrate(engine: Engine, path: Path) -> None:
    """Bring the tables up to the newest revision: in one transaction, with a copy of an older file laid beside it."""
    with engine.execution_options(**{_WRITING: True}).connect() as connection:
        # A table that others point to can only be rebuilt while nothing watches them; no transaction may be open then.
        cursor = connection.connection.cursor()
        cursor.execute("PRAGMA foreign_keys=OFF")
        revision = _revision(cursor)
        if revision != _newest():
            from valleywind.shop.upgrade import check_known, upgrade  # takes long to load, and is seldom needed

            if revision is not None:
                check_known(revision, path)
                _copy_beside(path, revision)
            with connection.begin():
                upgrade(connection)
                if connection.exec_driver_sql("PRAGMA foreign_key_check").first() is not None:
                    raise ShopFileError(Trouble.INCOMPLETE, path)
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.close()


def _newest() -> str:
    """The newest revision, by the files of all of them, which begin with their numbers."""
    return max(file.name[:4] for file in (MIGRATIONS / "versions").glob("[0-9]*.py"))


def _revision(cursor: Any) -> str | None:
    with suppress(sqlite3.OperationalError):
        row = cursor.execute(f"SELECT version_num FROM {_VERSION_TABLE}").fetchone()
        return str(row[0]) if row else None
    return None


def _copy_beside(path: Path, revision: str) -> None:
    """The shop as it was before an upgrade, under a name of its own. What is under that name is a whole copy."""
    copy = path.with_name(f"{path.stem}.before-upgrade-{revision}{path.suffix}")
    making = copy.with_name(f"{copy.name}.new")
    making.unlink(missing_ok=True)
    with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(making)) as target:
        source.backup(target)
    making.replace(copy)
