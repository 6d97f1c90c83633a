"""A long write, worked out on a copy of the shop's records while others go on writing: only what came of it is written
in the file, quickly.

The copy lies in memory. What changes are not noted of (photographs, what happened at the machine) is not copied: there
it is read from the file, and cannot be written.
"""

import sqlite3
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Generic, TypeVar

from sqlalchemy import Connection, create_engine, event
from sqlalchemy.orm import Session
from sqlalchemy.pool import StaticPool

from valleywind.shop import changes, written

Value = TypeVar("Value")


@dataclass(frozen=True)
class Rehearsal(Generic[Value]):
    """What came of it. value: what the work gave; since: the newest change that the copy knew of; noted: what is to be
    written, None for nothing."""

    path: Path
    memory: sqlite3.Connection
    session: Session
    value: Value
    since: int
    change: changes.Change | None

    def perform(self, patience: int, then: Callable[[Session], object]) -> int | None:
        """Write what came of it and what `then` adds, and keep it as a change: its number; None where the shop is not
        as it was any more. patience: how long another program is waited for, ms."""
        assert self.change is not None
        self.session.commit()
        self.memory.execute("DETACH shop")
        _attach(self.memory, self.path, "rw")
        for setting in (f"busy_timeout={patience}", "shop.synchronous=FULL", "wal_autocheckpoint=0"):
            self.memory.execute(f"PRAGMA {setting}")
        with self.session.begin():
            if changes.newest(self.session) != self.since:
                return None
            connection = self.session.connection()
            connection.exec_driver_sql("PRAGMA defer_foreign_keys=ON")
            for statement in written.carried_over("shop"):
                connection.exec_driver_sql(statement)
            changes.keep(self.session, self.change)
            then(self.session)
        return changes.change_number(self.session)

    def tidy(self) -> None:
        """Bring into the file what is in the log beside it, which is much: else the next who writes would, and others
        would wait for it."""
        self.memory.execute("PRAGMA shop.wal_checkpoint(PASSIVE)")


@contextmanager
def rehearsed(path: Path, info: Mapping[Any, Any], work: Callable[[Session], Value]) -> Iterator[Rehearsal[Value]]:
    """Do the work on a copy of the shop at `path`; info: of the session that it is given. Raises what the work does."""
    # Statements take turns of their own: the file is locked by the first that writes there, which comes last.
    memory = sqlite3.connect(":memory:", isolation_level=None, check_same_thread=False, uri=True)
    engine = create_engine("sqlite://", creator=lambda: memory, poolclass=StaticPool)
    event.listen(engine, "begin", _begin)
    try:
        memory.execute("PRAGMA foreign_keys=ON")
        _attach(memory, path, "ro")
        with Session(engine, info=dict(info)) as session:
            _fill(session.connection())
            since = changes.newest(session)
            written.begin(session)
            value = work(session)
            change = changes.change_in(session)
            if change is not None:
                changes.count_versions(session, change.rows)
            yield Rehearsal(path, memory, session, value, since, change)
    finally:
        engine.dispose()
        memory.close()


def _attach(memory: sqlite3.Connection, path: Path, mode: str) -> None:
    """The shop beside the copy: a table that the copy has not is the shop's."""
    memory.execute("ATTACH ? AS shop", (f"{path.resolve().as_uri()}?mode={mode}",))


def _begin(connection: Connection) -> None:
    writes = connection.exec_driver_sql("PRAGMA wal_autocheckpoint").scalar() == 0
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")


def _fill(connection: Connection) -> None:
    connection.exec_driver_sql("PRAGMA defer_foreign_keys=ON")
    made_by = "SELECT sql FROM shop.sqlite_master WHERE tbl_name = ? AND sql IS NOT NULL ORDER BY type = 'index'"
    for table in written.NOTED:
        for (sql,) in connection.exec_driver_sql(made_by, (table.name,)).all():
            connection.exec_driver_sql(sql)
        connection.exec_driver_sql(f'INSERT INTO main."{table.name}" SELECT * FROM shop."{table.name}"')
    # The number of a record that is gone is not given again.
    connection.exec_driver_sql("DELETE FROM main.sqlite_sequence")
    connection.exec_driver_sql(
        "INSERT INTO main.sqlite_sequence SELECT * FROM shop.sqlite_sequence "
        "WHERE name IN (SELECT name FROM main.sqlite_master)"
    )
