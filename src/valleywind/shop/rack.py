"""The rack: every wheel of the shop with its family, and changes to it that can be taken back."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refused
from valleywind.core.teeth.pile import MOST_OF_ONE_COUNT, Condition, Entry
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, WheelFamily
from valleywind.core.trains.model import parse_train
from valleywind.shop.models import MachineRow, WheelFamilyRow, WheelRow

FIELDS = ("family_id", "machine_id", "teeth", "count", "condition", "material", "place", "note", "measured", "photo")
Record = dict[str, Any]
_BARE: Record = {
    "family_id": None, "machine_id": None, "material": "", "place": "", "note": "", "measured": {}, "photo": "",
}  # fmt: skip
# What wheels share that are counted together where they lie in one place.
_LIKE = ("family_id", "machine_id", "teeth", "condition", "material")


def families(session: Session) -> list[WheelFamilyRow]:
    """All wheel families, in the order in which they were entered."""
    return list(session.scalars(select(WheelFamilyRow).order_by(WheelFamilyRow.id)))


def wheels(session: Session) -> list[WheelRow]:
    """All wheels, by family and tooth number; those not recognised last."""
    found = session.scalars(select(WheelRow)).all()
    return sorted(found, key=lambda w: (w.family_id is None, w.family_id or 0, w.teeth, w.id))


def family(session: Session, number: int | None) -> WheelFamilyRow | None:
    """One family by its number; None for None. Raises Refused `no_such_family`."""
    if number is None:
        return None
    row = session.get(WheelFamilyRow, number)
    if row is None:
        raise Refused("no_such_family", "family", number)
    return row


def add_family(session: Session, wanted: WheelFamily, hub: Any, system: str) -> WheelFamilyRow:
    """Enter a family. Raises Refused `family_known` where one of the same pitch, angle, bore, key and face is there."""
    if not wanted.name.strip():
        raise Refused("empty", "name", wanted.name)
    for row in families(session):
        same = (row.pitch_system, row.pitch_value, row.pressure_angle_deg, row.addendum, row.bore_mm, row.key_mm)
        if same == (
            system, wanted.pitch.value, wanted.pressure_angle, wanted.addendum, wanted.bore, wanted.key
        ) and row.face_mm == wanted.face:  # fmt: skip
            raise Refused("family_known", "pitch", row.name)
        if row.name == wanted.name:
            raise Refused("name_taken", "name", wanted.name)
    row = WheelFamilyRow(
        name=wanted.name, pitch_system=system, pitch_value=wanted.pitch.value,
        pressure_angle_deg=wanted.pressure_angle, bore_mm=wanted.bore, key_mm=wanted.key, face_mm=wanted.face,
        addendum=wanted.addendum, hub_mm=hub,
    )  # fmt: skip
    session.add(row)
    session.flush()
    return row


@dataclass(frozen=True)
class RackChange:
    """What a change replaced by what: whole records with their numbers, enough to take it back."""

    before: tuple[Record, ...]
    after: tuple[Record, ...]


def record(row: WheelRow) -> Record:
    return {"id": row.id} | {name: getattr(row, name) for name in FIELDS}


def add(session: Session, entries: Sequence[Entry], shared: Mapping[str, Any]) -> RackChange:
    """Put wheels into the rack. `shared`: what they have in common, by the names of FIELDS.

    Wheels alike in everything are one record with a count.
    """
    before, after = [], []
    for entry in entries:
        wanted = _BARE | dict(shared) | {"teeth": entry.teeth, "condition": entry.condition.value}
        alike = None if wanted["family_id"] is None else _alike(session, wanted)
        if alike is not None:
            before.append(record(alike))
            if alike.count + entry.count > MOST_OF_ONE_COUNT:
                raise Refused("too_many_of_one", "wheels", entry.teeth, most=MOST_OF_ONE_COUNT)
            alike.count += entry.count
        else:
            alike = WheelRow(**wanted, count=entry.count)
            session.add(alike)
        session.flush()
        after.append(record(alike))
    return RackChange(tuple(before), tuple(after))


def put_records(session: Session, records: Sequence[Record]) -> RackChange:
    """Put whole records in as they are, beside what is there."""
    rows = [WheelRow(**found) for found in records]
    session.add_all(rows)
    session.flush()
    return RackChange((), tuple(record(row) for row in rows))


def merge(session: Session, place: str, into: str) -> RackChange:
    """Empty one box into another: every wheel at `place` goes to the place `into`, like ones counted together.

    A wheel that belongs to a machine keeps it. Raises Refused `nothing_there`, `same_place`, `too_many_of_one`.
    """
    if place == into:
        raise Refused("same_place", "into", into)
    moved = [row for row in wheels(session) if row.place == place]
    if not moved:
        raise Refused("nothing_there", "place", place)
    before, after = [], []
    for row in moved:
        before.append(record(row))
        like = next((w for w in wheels(session) if w.place == into and _like(w, row)), None)
        if like is None:
            row.place = into
            after.append(record(row))
            continue
        if like.count + row.count > MOST_OF_ONE_COUNT:
            raise Refused("too_many_of_one", "place", row.teeth, most=MOST_OF_ONE_COUNT)
        before = [*before, record(like)] if like.id not in {r["id"] for r in before} else before
        like.count += row.count
        after = [r for r in after if r["id"] != like.id] + [record(like)]
        session.delete(row)
        session.flush()
    session.flush()
    return RackChange(tuple(before), tuple(after))


def _like(one: WheelRow, other: WheelRow) -> bool:
    """Whether two records are of wheels alike but for where they lie; unrecognised ones never are."""
    same = all(getattr(one, name) == getattr(other, name) for name in (*_LIKE, "note", "photo"))
    return same and one.family_id is not None


def places(session: Session) -> dict[str, int]:
    """The boxes, drawers and boards where wheels lie, and how many records lie there."""
    return dict(sorted(Counter(row.place for row in wheels(session) if row.place).items()))


def plan_for(session: Session, entries: Sequence[Entry], shared: Mapping[str, Any]) -> RackChange:
    """Note wheels that are to be made or bought: missing ones, with what is to be said of them.

    A wheel that is held, or known to be missing already, keeps its record and takes the note.
    """
    before, after = [], []
    for entry in entries:
        same = {"family_id": shared.get("family_id"), "machine_id": shared.get("machine_id"), "teeth": entry.teeth}
        row = session.scalars(select(WheelRow).filter_by(**same)).first()
        if row is None:
            row = WheelRow(**(_BARE | {"condition": entry.condition.value} | dict(shared) | same), count=0)
            session.add(row)
        else:
            before.append(record(row))
            row.note = shared.get("note") or row.note
        session.flush()
        after.append(record(row))
    return RackChange(tuple(before), tuple(after))


def _alike(session: Session, wanted: Mapping[str, Any]) -> WheelRow | None:
    found = session.scalars(select(WheelRow).where(*(getattr(WheelRow, name) == wanted[name] for name in _LIKE))).all()
    # A wheel known to be missing is the place where it goes when it comes.
    return next((w for w in found if w.count == 0 or (w.place, w.note) == (wanted["place"], wanted["note"])), None)


def change(session: Session, numbers: Sequence[int], changes: Mapping[str, Any]) -> RackChange:
    """Change the same things of several wheels.

    Raises Refused: `no_such_wheel`, `teeth_out_of_range`, `too_many_of_one`, `unknown_condition`, and
    `mounted_not_held` where a wheel that is on a machine would be gone.
    """
    rows = [_row(session, number) for number in numbers]
    before = tuple(record(row) for row in rows)
    _check(changes)
    for row in rows:
        for name, value in changes.items():
            setattr(row, name, value)
    session.flush()
    session.expire_all()
    _keep_mounted(session)
    return RackChange(before, tuple(record(row) for row in rows))


def _check(changes: Mapping[str, Any]) -> None:
    teeth, count = changes.get("teeth"), changes.get("count")
    if teeth is not None and not FEWEST_TEETH <= teeth <= MOST_TEETH:
        raise Refused("teeth_out_of_range", "teeth", teeth, fewest=FEWEST_TEETH, most=MOST_TEETH)
    if count is not None and not 0 <= count <= MOST_OF_ONE_COUNT:
        raise Refused("too_many_of_one", "count", count, most=MOST_OF_ONE_COUNT)
    if (condition := changes.get("condition")) is not None and condition not in set(Condition):
        raise Refused("unknown_condition", "condition", condition)


def remove(session: Session, numbers: Sequence[int]) -> RackChange:
    """Take wheels out of the rack. Raises Refused `no_such_wheel`, `mounted_not_held`."""
    rows = [_row(session, number) for number in numbers]
    before = tuple(record(row) for row in rows)
    for row in rows:
        session.delete(row)
    session.flush()
    session.expire_all()
    _keep_mounted(session)
    return RackChange(before, ())


def undo(session: Session, done: RackChange) -> RackChange:
    """Take a change back: what came goes, what was there stands again as it was."""
    kept = {found["id"] for found in done.before}
    for found in done.after:
        row = session.get(WheelRow, found["id"])
        if row is not None and found["id"] not in kept:
            session.delete(row)
    session.flush()
    for found in done.before:
        row = session.get(WheelRow, found["id"])
        if row is None:
            session.add(WheelRow(**found))
        else:
            for name in FIELDS:
                setattr(row, name, found[name])
    session.flush()
    return RackChange(done.after, done.before)


def _row(session: Session, number: int) -> WheelRow:
    row = session.get(WheelRow, number)
    if row is None:
        raise Refused("no_such_wheel", "wheel", number)
    return row


def _keep_mounted(session: Session) -> None:
    """Every wheel that is on a machine must still be there."""
    for machine in session.scalars(select(MachineRow)):
        if machine.mounted is None or machine.family is None:
            continue
        held: Counter[int] = Counter()
        for wheel in machine.family.wheels:
            if wheel.machine_id in (machine.id, None) and Condition(wheel.condition).usable:
                held[wheel.teeth] += wheel.count
        short = Counter(parse_train(machine.mounted.train).teeth) - held
        if short:
            raise Refused("mounted_not_held", "wheels", machine.name, lacking=dict(short))
