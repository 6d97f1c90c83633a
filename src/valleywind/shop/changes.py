"""Every change of the shop, noted with what takes it back.

A change is noted as the rows it made different, whole, as they were before and after. So whatever a write does, however
many tables it touches, can be undone; and an undo takes back its own change only: what others did to the same rows
since then stays, and is told.
"""

import json
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import groupby
from operator import itemgetter
from typing import Any

from sqlalchemy import delete, func, select, text, update
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition
from valleywind.core.trains.model import parse_train
from valleywind.shop import log, written
from valleywind.shop.models import Base, ChangeRow
from valleywind.shop.written import Key, Row

Rows = dict[tuple[str, Key], Row]
"""Rows by table and key, their values as the file has them."""

_VERSIONED = {"machine", "wheel", "cutter", "bar", "job"}
# What belongs to a machine's record beside its own row, and is undone together or not at all.
_PARTS = {"lathe", "quadrant", "slot", "record", "gearbox"}
# Where it is kept what is on a machine.
_ON = ("mounted", "box_mounted")
# What of its kind there is only one of.
_NAMED_BY = {"wheel_family": "name", "machine": "slug"}
# How many changes are kept.
_MOST_KEPT = 500
# The length of a change from which on it is much: of some 50 wheels.
_MUCH = 20_000
_DID, _CHANGE, _UNDOES, _ANYWAY = "valleywind_did", "valleywind_change", "valleywind_undoes", "valleywind_anyway"


def name(session: Session, code: str, **about: object) -> None:
    """Say what this session does, for its sentence in `wording.changes`."""
    session.info[_DID] = (code, about)


def note_anyway(session: Session) -> None:
    """Note this session's change though none of its rows is noted: what it added to the log can be undone."""
    session.info[_ANYWAY] = True


def change_number(session: Session) -> int | None:
    """The number of the change that this session made; None where it made none, or is not at its end yet."""
    number: int | None = session.info.get(_CHANGE)
    return number


@dataclass(frozen=True)
class Change:
    """What a session changed, to be kept. rows: `[table, key, before, after]`; spelled: the same as it is kept."""

    code: str
    about: Mapping[str, Any]
    rows: Sequence[tuple[str, Key, Row | None, Row | None]]
    spelled: str
    undoes: int | None


@contextmanager
def note_changes(session: Session) -> Iterator[None]:
    """Note what the block changes, if it ends well."""
    written.begin(session)
    yield
    if (what := change_in(session)) is not None:
        count_versions(session, what.rows)
        keep(session, what)


def change_in(session: Session) -> Change | None:
    """What a session changed since `written.begin`; None where it changed nothing that is noted."""
    session.flush()
    rows = list(written.written(session))
    code, about = session.info.get(_DID, ("changed", {}))
    # Row by row: others go on while many are spelled.
    spelled = f"[{', '.join(map(json.dumps, rows))}]"
    return Change(code, about, rows, spelled, session.info.get(_UNDOES)) if rows or _ANYWAY in session.info else None


def keep(session: Session, what: Change) -> None:
    """Keep a change that this session has written, so that it can be undone."""
    row = {
        "at": datetime.now(UTC).isoformat(timespec="seconds"), "code": what.code, "about": json.dumps(what.about),
        "rows": what.spelled, "undone_by": None, "undoes": what.undoes,
    }  # fmt: skip
    number = int(session.execute(text(_insertion(ChangeRow.__tablename__, row) + " RETURNING id"), row).scalar_one())
    session.execute(update(ChangeRow).where(ChangeRow.id == what.undoes).values(undone_by=number))
    session.execute(delete(ChangeRow).where(ChangeRow.id <= number - _MOST_KEPT))
    log.note_change(session, number, what.undoes, what.code, what.about, str(row["at"]))
    session.info[_CHANGE] = number


def newest(session: Session) -> int:
    """The number of the newest change; 0 where there is none."""
    return session.scalar(select(func.max(ChangeRow.id))) or 0


def is_much(session: Session, number: int) -> bool:
    """Whether a change is of more rows than can be undone without taking longer than others should wait."""
    return (session.scalar(select(func.length(ChangeRow.rows)).where(ChangeRow.id == number)) or 0) > _MUCH


def latest(session: Session, most: int = 30) -> list[ChangeRow]:
    """The latest changes, the newest first."""
    return list(session.scalars(select(ChangeRow).order_by(ChangeRow.id.desc()).limit(most)))


@dataclass(frozen=True)
class Left:
    """What an undo left as it is, and why, as a code. `about` names the record: its table, teeth or name, the machine
    that it is on."""

    code: str
    about: Mapping[str, Any]


@dataclass(frozen=True)
class Undone:
    """What was taken back, and what of it could not be."""

    change: ChangeRow
    left: tuple[Left, ...]


def undo(session: Session, number: int) -> Undone:
    """Take back one change, as far as it still stands. Raises Refusal `no_such_change`, `undone_already`."""
    change = session.get(ChangeRow, number)
    if change is None:
        raise Refusal("no_such_change", "change", number)
    if change.undone_by is not None:
        raise Refusal("undone_already", "change", number)
    session.info[_UNDOES] = number
    name(session, "undone", what=change.code, of=change.about)
    if not change.rows:
        note_anyway(session)
    lacking_before = shortages(session)
    back = _Back(session, [(table, tuple(key), before, after) for table, key, before, after in change.rows])
    back.run()
    back.keep_mounted(lacking_before)
    back.keep_references()
    session.expire_all()
    return Undone(change, tuple(back.left))


class _Back:
    """The rows of one change put back to what they were."""

    def __init__(self, session: Session, rows: list[tuple[str, Key, Row | None, Row | None]]) -> None:
        self.session, self.rows = session, rows
        session.flush()
        # Foreign keys are looked at when everything has its place again.
        session.execute(text("PRAGMA defer_foreign_keys=ON"))
        self.left: list[Left] = []
        self.now = self._as_it_is()
        self.stuck = self._changed_parts()
        self.removed: Rows = {}

    def _as_it_is(self) -> Rows:
        """What may be written or asked about, as it is before anything is taken back."""
        wanted: dict[str, set[Key] | None] = {}
        for table, key, _, _ in self.rows:
            wanted.setdefault(table, set()).add(key)  # type: ignore[union-attr]
        wanted |= dict.fromkeys(("machine", *_ON))
        return {
            (table, key): row
            for table, keys in wanted.items()
            for key, row in written.rows_of(self.session, table, keys).items()
        }

    def run(self) -> None:
        order = {table.name: n for n, table in enumerate(Base.metadata.sorted_tables)}
        rows = sorted(self.rows, key=lambda r: order[r[0]])
        gone = [(table, key) for table, key, before, after in reversed(rows)
                if before is None and after is not None and self._goes(table, key, after)]  # fmt: skip
        for table, some in groupby(gone, key=itemgetter(0)):
            self._delete(table, [key for _, key in some])
        for table, key, before, after in rows:
            if before is not None and after is not None:
                self._put_back(table, key, before, after)
        back = [(table, before) for table, key, before, after in rows
                if before is not None and after is None and self._comes_back(table, key, before)]  # fmt: skip
        for table, rows_back in groupby(back, key=itemgetter(0)):
            self._insert_all(table, [row for _, row in rows_back])

    def _changed_parts(self) -> set[int]:
        """Machines whose record was typed over since: it stays as it is now."""
        parts = set()
        for table, key, _, after in self.rows:
            if table in _PARTS and self.now.get((table, key)) != after:
                parts.add((after or self.now.get((table, key)) or {}).get("machine_id"))
        for machine in parts - {None}:
            self._leave("record_changed_since", "machine", self.now.get(("machine", (machine,)), {}))
        return {m for m in parts if m is not None}

    def _is_stuck(self, table: str, row: Row) -> bool:
        return table in _PARTS and row["machine_id"] in self.stuck

    def _goes(self, table: str, key: Key, after: Row) -> bool:
        """Whether a row that came with the change goes as a whole; where it does not, what is to be done is done."""
        row = self.now.get((table, key))
        if row is None or self._is_stuck(table, after):
            return False
        differs = _differs(row, after)
        if table in ("wheel", "cutter") and differs == {"count"}:
            self._recount(table, key, row["count"] - after["count"])
        elif differs:
            self._leave("changed_since", table, row)
        else:
            return True
        return False

    def _put_back(self, table: str, key: Key, before: Row, after: Row) -> None:
        row = self.now.get((table, key))
        if self._is_stuck(table, after):
            return
        if row is None:
            self._leave("gone_since", table, after)
            return
        changes: Row = {}
        for column in _differs(before, after):
            if column == "count":
                count = row[column] + before[column] - after[column]
                if count < 0:
                    self._leave("fewer_since", table, row)
                changes[column] = max(0, count)
            elif row[column] == after[column]:
                changes[column] = before[column]
            else:
                self._leave("changed_since", table, row)
        self._update(table, key, changes)

    def _comes_back(self, table: str, key: Key, before: Row) -> bool:
        if self._is_stuck(table, before):
            return False
        if (table, key) in self.now:
            self._leave("changed_since", table, before)
            return False
        return True

    def _recount(self, table: str, key: Key, count: int) -> None:
        """Of wheels alike only as many go as came; of fewer than came, all of them, which is told."""
        if count < 0:
            self._leave("fewer_since", table, self.now[table, key])
        if count > 0:
            self._update(table, key, {"count": count})
        else:
            self._delete(table, [key])

    def keep_mounted(self, lacking_before: Mapping[int, Counter[int]]) -> None:
        """What is on a machine stays in the rack; a train whose wheels are gone is not put back."""
        for machine, lacking in shortages(self.session).items():
            new = lacking - lacking_before.get(machine, Counter())
            family = self.now.get(("machine", (machine,)), {}).get("family_id")
            for teeth, count in new.items():
                if not self._give_back(family, machine, teeth, count):
                    self._remount(machine)
                    break

    def _give_back(self, family: int | None, machine: int, teeth: int, count: int) -> bool:
        """Let this many wheels of a tooth number stand that this undo has taken out of the rack."""
        for (table, key), row in self.now.items():
            if table != "wheel" or row["teeth"] != teeth or row["family_id"] != family:
                continue
            if row["machine_id"] not in (machine, None) or not Condition(row["condition"]).usable:
                continue
            there = written.rows_of(self.session, table, [key]).get(key)
            taken = row["count"] - (there["count"] if there else 0)
            back = min(taken, count)
            if back <= 0:
                continue
            if there is None:
                self._insert(table, row | {"count": back})
            else:
                self._update(table, key, {"count": there["count"] + back})
            count -= back
            self._leave("on_machine", "wheel", row, on=machine)
        return count <= 0

    def _remount(self, machine: int) -> None:
        """Leave on the machine what is on it now."""
        present = {key: row for key, row in self.now.items() if key[0] in _ON and row["machine_id"] == machine}
        there = {
            (table, key): row
            for table in _ON
            for key, row in written.rows_of(self.session, table).items()
            if row["machine_id"] == machine
        }
        self._leave("wheels_gone", "mounted", next(iter(there.values()), {"machine_id": machine}))
        for table, key in there:
            self._delete(table, [key])
        for (table, _), row in present.items():
            self._insert(table, row)

    def keep_references(self) -> None:
        """What others came to need since then stays, or what came back under its name serves in its place; what needs
        something that is gone does not come back."""
        # Every round ends one of them for good: what was removed comes back once, what needs it goes, or is pointed to
        # its namesake.
        while broken := self.session.execute(text("PRAGMA foreign_key_check")).first():
            table, rowid, parent, which = broken
            at = {"n": rowid}
            row = dict(self.session.execute(text(f'SELECT * FROM "{table}" WHERE rowid = :n'), at).mappings().one())
            keys = self.session.execute(text(f'PRAGMA foreign_key_list("{table}")')).mappings()
            column = next(key["from"] for key in keys if key["id"] == which)
            missing = self.removed.pop((parent, (row[column],)), None)
            namesake = self._namesake(parent, missing)
            led_on = f'UPDATE "{table}" SET "{column}" = :it WHERE rowid = :n'
            if missing is not None and namesake is not None:
                self.removed[parent, (row[column],)] = missing  # others may need it too
            if namesake is not None and self._done(led_on, at | {"it": namesake}):
                continue
            if namesake is None and missing is not None and self._insert(parent, missing):
                self._leave("needed_since", parent, missing)
            else:
                self.session.execute(text(f'DELETE FROM "{table}" WHERE rowid = :n'), at)
                self._leave("reference_gone", table, row)

    def _namesake(self, table: str, row: Row | None) -> int | None:
        """What stands now under the name of a row that is gone."""
        column = _NAMED_BY.get(table)
        if row is None or column is None:
            return None
        namesake = self.session.execute(
            text(f'SELECT id FROM "{table}" WHERE "{column}" = :it'), {"it": row.get(column)}
        )
        number: int | None = namesake.scalar()
        return number

    def _delete(self, table: str, keys: Sequence[Key]) -> None:
        for key in keys:
            self.removed[table, key] = self.now.get((table, key), {})
        where, _ = _where(table, keys[0])
        self.session.execute(text(f'DELETE FROM "{table}" WHERE {where}'), [_where(table, key)[1] for key in keys])

    def _insert_all(self, table: str, rows: Sequence[Row]) -> None:
        """All at once, which is much quicker; one by one only where the file does not take all of them."""
        alike = all(row.keys() == rows[0].keys() for row in rows)
        if not (alike and self._done(_insertion(table, rows[0]), rows)):
            for row in rows:
                self._insert(table, row)

    def _insert(self, table: str, row: Row) -> bool:
        return self._try(table, row, _insertion(table, row), row)

    def _update(self, table: str, key: Key, changes: Row) -> None:
        if not changes:
            return
        where, values = _where(table, key)
        setting = ", ".join(f'"{c}" = :set_{c}' for c in changes)
        parameters = values | {f"set_{c}": v for c, v in changes.items()}
        self._try(table, self.now.get((table, key), {}), f'UPDATE "{table}" SET {setting} WHERE {where}', parameters)

    def _try(self, table: str, row: Row, statement: str, values: Row) -> bool:
        """Whether it could be done: a name or place that another took since then is theirs."""
        done = self._done(statement, values)
        if not done:
            self._leave("taken_since", table, row)
        return done

    def _done(self, statement: str, values: Row | Sequence[Row]) -> bool:
        """Whether the file took it."""
        try:
            with self.session.begin_nested():
                self.session.execute(text(statement), values)
        except IntegrityError:
            return False
        return True

    def _leave(self, code: str, table: str, row: Row, on: int | None = None) -> None:
        machine = on if on is not None else row.get("machine_id") if table in {*_PARTS, *_ON} else None
        about = {
            "table": table, "teeth": row.get("teeth"), "name": row.get("name") or row.get("material") or "",
            "machine": self.now.get(("machine", (machine,)), {}).get("name", ""),
        }  # fmt: skip
        if (left := Left(code, about)) not in self.left:
            self.left.append(left)


def shortages(session: Session) -> dict[int, Counter[int]]:
    """By machine the wheels that are on it and not in the rack: none, unless an older shop has such."""
    session.flush()
    on: dict[int, Counter[int]] = {}
    for row in (row for table in _ON for row in written.rows_of(session, table).values()):
        on.setdefault(row["machine_id"], Counter()).update(parse_train(row["train"]).teeth)
    return {machine: lacking for machine, wheels in on.items() if (lacking := wheels - _at_hand(session, machine))}


# A machine's own wheels, and those of no machine of its family.
_FOR_MACHINE = text(
    "SELECT wheel.teeth, wheel.count, wheel.condition FROM wheel JOIN machine ON machine.id = :machine WHERE "
    "(wheel.family_id IS machine.family_id AND wheel.machine_id = :machine) OR "
    "(wheel.family_id = machine.family_id AND wheel.machine_id IS NULL)"
)


def _at_hand(session: Session, machine: int) -> Counter[int]:
    held: Counter[int] = Counter()
    for teeth, count, condition in session.execute(_FOR_MACHINE, {"machine": machine}):
        if Condition(condition).usable:
            held[teeth] += count
    return held


def _insertion(table: str, row: Row) -> str:
    columns = ", ".join(f'"{c}"' for c in row)
    held = ", ".join(f":{c}" for c in row)
    return f'INSERT INTO "{table}" ({columns}) VALUES ({held})'


def _where(table: str, key: Key) -> tuple[str, Row]:
    columns = [c.name for c in Base.metadata.tables[table].primary_key]
    return " AND ".join(f'"{c}" = :key_{c}' for c in columns), {
        f"key_{c}": v for c, v in zip(columns, key, strict=True)
    }


def _differs(one: Row, other: Row) -> set[str]:
    return {c for c in one.keys() | other.keys() if c != "version" and one.get(c) != other.get(c)}


def count_versions(session: Session, rows: Sequence[tuple[str, Key, Row | None, Row | None]]) -> None:
    """Records that are not as they were get the next version; a machine's record has its parts."""
    touched: set[tuple[str, Any]] = set()
    new = {(table, key[0]) for table, key, before, _ in rows if before is None}
    for table, key, before, after in rows:
        if table in _VERSIONED and before is not None and after is not None:
            touched.add((table, key[0]))
        elif table in _PARTS:
            touched.add(("machine", (after or before or {})["machine_id"]))
    for table, numbers in groupby(sorted(touched - new), key=itemgetter(0)):
        counting = text(f'UPDATE "{table}" SET version = version + 1 WHERE id = :n')
        session.execute(counting, [{"n": number} for _, number in numbers])
    if touched:
        session.expire_all()
