"""Which rows a session writes, as they were before: what a write costs follows from what it writes, not from how much
the shop holds.

Triggers of the connection, which the file never sees, lay each row aside the first time it is written.
"""

import json
from collections.abc import Iterable, Iterator
from typing import Any

from sqlalchemy import Connection, Table
from sqlalchemy.orm import Session

from valleywind.shop.models import Base

Row = dict[str, Any]
Key = tuple[Any, ...]

# A photograph stays when its wheel goes, for the way back. What happened at the machine is never taken back, nor is who
# may come in.
OF_THE_DOOR = {"passphrase", "guest", "device_key"}
"""Who may come in is nobody's change of the shop: not undone, and not replaced by the demo shop."""
_NOT_NOTED = {"change", "photo", "job_event", "cutting", "cutting_event", "log", "log_aside"} | OF_THE_DOOR
NOTED = tuple(table for table in Base.metadata.sorted_tables if table.name not in _NOT_NOTED)
"""The tables whose changes are noted; those that others point to come first."""


def begin(session: Session) -> None:
    """From here on it is known what this session writes."""
    connection = session.connection()
    there = connection.exec_driver_sql("SELECT 1 FROM temp.sqlite_master WHERE name = ?", (_aside(NOTED[-1]),)).first()
    for table in NOTED:
        if there is None:
            _watch(connection, table)
        else:
            connection.exec_driver_sql(f'DELETE FROM temp."{_aside(table)}"')


def written(session: Session) -> Iterator[tuple[str, Key, Row | None, Row | None]]:
    """Table, key, and the row as it was before and as it is now, of each row that is not as it was; None for a row
    that is not there."""
    connection = session.connection()
    for table in NOTED:
        keys = [column.name for column in table.primary_key]
        aside = f'temp."{_aside(table)}" was'
        before = list(_rows(connection, f"SELECT * FROM {aside} ORDER BY rowid"))
        if not before:
            continue
        now = {
            tuple(row[k] for k in keys): row
            for row in _rows(
                connection, f'SELECT now.* FROM {aside} JOIN main."{table.name}" now ON {_same(table, "now", "was")}'
            )
        }
        for row in before:
            was = row if row.pop("valleywind_there") else None
            key = tuple(row[k] for k in keys)
            if was != (is_now := now.get(key)):
                yield table.name, key, was, is_now


def carried_over(other: str) -> Iterator[str]:
    """The statements that make what was written so in another file of the connection, which is as this one was."""
    for table in reversed(NOTED):
        yield (
            f'DELETE FROM {other}."{table.name}" AS held WHERE EXISTS (SELECT 1 FROM temp."{_aside(table)}" was '
            f'WHERE {_same(table, "was", "held")}) AND NOT EXISTS (SELECT 1 FROM main."{table.name}" now '
            f"WHERE {_same(table, 'now', 'held')})"
        )
    for table in NOTED:
        columns = [f'"{column.name}"' for column in table.columns]
        keys = ", ".join(f'"{column.name}"' for column in table.primary_key)
        setting = ", ".join(f"{column} = excluded.{column}" for column in columns)
        taken = ", ".join(f"now.{column}" for column in columns)
        yield (
            f'INSERT INTO {other}."{table.name}" ({", ".join(columns)}) SELECT {taken} '
            f'FROM temp."{_aside(table)}" was JOIN main."{table.name}" now ON {_same(table, "now", "was")} '
            f"WHERE true ON CONFLICT ({keys}) DO UPDATE SET {setting}"
        )


def rows_of(session: Session, table: str, keys: Iterable[Key] | None = None) -> dict[Key, Row]:
    """Rows of a table as they are now, by their keys: those with these keys, or all."""
    names = [column.name for column in Base.metadata.tables[table].primary_key]
    connection = session.connection()
    chosen = f'SELECT * FROM main."{table}"'
    if keys is None:
        read = list(_rows(connection, chosen))
    else:
        where = " AND ".join(f"held.\"{name}\" = json_extract(wanted.value, '$[{n}]')" for n, name in enumerate(names))
        columns = f'SELECT held.* FROM json_each(?) wanted CROSS JOIN main."{table}" held ON {where}'
        read = list(_rows(connection, columns, (json.dumps(list(keys)),)))
    return {tuple(row[name] for name in names): row for row in read}


def _rows(connection: Connection, query: str, values: Key = ()) -> Iterator[Row]:
    result = connection.exec_driver_sql(query, values)
    names = list(result.keys())
    return (dict(zip(names, row, strict=True)) for row in result)


def _same(table: Table, one: str, other: str) -> str:
    """That two rows have the same key; + : compared as it is, which the index can."""
    return " AND ".join(f'{one}."{column.name}" = +{other}."{column.name}"' for column in table.primary_key)


def _aside(table: Table) -> str:
    return f"valleywind_was_{table.name}"


def _watch(connection: Connection, table: Table) -> None:
    aside, keys = _aside(table), [column.name for column in table.primary_key]
    columns = [row[1] for row in connection.exec_driver_sql(f'PRAGMA main.table_info("{table.name}")')]
    # Columns without a type keep each value as it is.
    spelled = ", ".join(f'"{c}"' for c in columns)
    key = ", ".join(f'"{k}"' for k in keys)
    connection.exec_driver_sql(f'CREATE TEMP TABLE "{aside}" ({spelled}, valleywind_there, PRIMARY KEY ({key}))')
    for event, side in (("INSERT", "NEW"), ("UPDATE", "OLD"), ("DELETE", "OLD")):
        values = ", ".join(f'{side}."{c}"' for c in columns)
        connection.exec_driver_sql(
            f'CREATE TEMP TRIGGER "{aside}_{event}" AFTER {event} ON main."{table.name}" '
            f'WHEN NOT EXISTS (SELECT 1 FROM "{aside}" was WHERE {_same(table, "was", side)}) BEGIN '
            f'INSERT INTO "{aside}" VALUES ({values}, {int(side == "OLD")}); END'
        )
