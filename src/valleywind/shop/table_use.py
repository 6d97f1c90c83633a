"""Which tables of the file a session reads and which it has changed: whether an answer would still be the same."""

import re
from collections import Counter
from functools import lru_cache
from hashlib import blake2s
from secrets import token_hex
from threading import Lock
from typing import Any

from sqlalchemy import Engine, event
from sqlalchemy.orm import Session

from valleywind.shop.models import Base

TABLES = frozenset(Base.metadata.tables)
_NAME = r'(?:main\.)?"?(\w+)"?(?:\s+(?:AS\s+)?(?!WHERE|JOIN|LEFT|ON|ORDER|GROUP|LIMIT|SET|USING|CROSS)\w+)?'
_READ = re.compile(rf"\b(?:FROM|JOIN)\s+{_NAME}((?:\s*,\s*{_NAME})*)", re.IGNORECASE)
_MORE = re.compile(rf",\s*{_NAME}", re.IGNORECASE)
_CHANGED = re.compile(
    r"\s*(?:INSERT\s+(?:OR\s+\w+\s+)?INTO|REPLACE\s+INTO|UPDATE|DELETE\s+FROM)\s+(temp\.)?(?:main\.)?\"?(\w+)",
    re.IGNORECASE,
)
_CHANGES_NO_ROW = re.compile(
    r"\s*(?:SELECT|PRAGMA|BEGIN|COMMIT|ROLLBACK|SAVEPOINT|RELEASE|CREATE\s+TEMP)\b", re.IGNORECASE
)
# Where a connection keeps what its transaction touched.
_READ_HERE, _CHANGED_HERE = "valleywind_read", "valleywind_changed"


class TableUse:
    """How often each table of an open file was changed since it was opened."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._times: Counter[str] = Counter()
        self._opened = token_hex(8)

    def now(self) -> Counter[str]:
        """The count of each table as it is now."""
        with self._lock:
            return self._times.copy()

    def changed(self, tables: frozenset[str]) -> None:
        """These were changed, and it is on disk."""
        with self._lock:
            self._times.update(tables)

    def mark(self, tables: frozenset[str], times: Counter[str]) -> str:
        """What is alike only where none of these tables was changed between."""
        text = ",".join(f"{table}={times[table]}" for table in sorted(tables))
        return blake2s(f"{self._opened} {text}".encode(), digest_size=16).hexdigest()


def watch(engine: Engine) -> None:
    """Note from now on what the connections of this engine read and change."""
    event.listen(engine, "begin", _forget)
    event.listen(engine, "before_cursor_execute", _note)


def read_by(session: Session) -> frozenset[str]:
    """The tables that were read by this session so far."""
    return frozenset(session.connection().info.get(_READ_HERE, ()))


def changed_by(session: Session) -> frozenset[str]:
    """The tables of which rows were changed by this session so far."""
    session.flush()
    return frozenset(session.connection().info.get(_CHANGED_HERE, ()))


def _forget(connection: Any) -> None:
    connection.info[_READ_HERE], connection.info[_CHANGED_HERE] = set(), set()


def _note(connection: Any, _cursor: Any, statement: str, *_: Any) -> None:
    read, changed = _touched(statement)
    for key, tables in ((_READ_HERE, read), (_CHANGED_HERE, changed)):
        connection.info.setdefault(key, set()).update(tables)


@lru_cache(maxsize=1024)
def _touched(statement: str) -> tuple[frozenset[str], frozenset[str]]:
    """The tables that a statement reads, and those of which it changes rows: all where that is not clear. No row of
    this file goes because another does."""
    read: set[str] = set()
    for first, more, *_ in _READ.findall(statement):
        read.update((first, *_MORE.findall(more)))
    if _CHANGES_NO_ROW.match(statement):
        return frozenset(read & TABLES), frozenset()
    match = _CHANGED.match(statement)
    if match is None:
        return frozenset(read & TABLES), TABLES
    temporary, table = match.groups()
    return frozenset(read & TABLES), frozenset({table} & TABLES) if not temporary else frozenset()
