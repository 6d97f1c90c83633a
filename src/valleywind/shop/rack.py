"""The rack: every wheel of the shop with its family, and changes to it that can be taken back."""

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, fields
from typing import Any

from sqlalchemy import insert, select, update
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import MOST_OF_ONE_COUNT, Condition, Entry
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, WheelFamily
from valleywind.core.teeth.sizes import MOST_SHIFT
from valleywind.core.teeth.strays import Stray
from valleywind.core.teeth.strays import stray as why_stray
from valleywind.shop import changes
from valleywind.shop.machines import MOST_SIZES, keep_mounted, takes_wheels
from valleywind.shop.machines import family as family_of
from valleywind.shop.models import MachineRow, WheelFamilyRow, WheelRow

Record = dict[str, Any]
_BARE: Record = {
    "family_id": None, "machine_id": None, "material": "", "place": "", "note": "", "measured": {}, "shift": 0.0,
    "photo": "",
}  # fmt: skip
# How many numbers one query of the file takes, at least.
_ASKED_AT_ONCE = 10_000
# What wheels share that are counted together where they lie in one place.
_LIKE = ("family_id", "machine_id", "teeth", "condition", "material", "shift")


def families(session: Session) -> list[WheelFamilyRow]:
    """All wheel families, in the order in which they were entered."""
    return list(session.scalars(select(WheelFamilyRow).order_by(WheelFamilyRow.id)))


@dataclass(frozen=True, slots=True)
class Brief:
    """What is read of every record of wheels, where they are many."""

    id: int
    teeth: int
    count: int
    family_id: int | None
    machine_id: int | None
    condition: str
    material: str
    place: str
    note: str
    shift: float


_BRIEF = tuple(getattr(WheelRow, field.name) for field in fields(Brief))


def missing(session: Session) -> dict[int, list[int]]:
    """The wheels that each machine is known to lack, by its number; ascending."""
    lacked: dict[int, list[int]] = {}
    query = select(WheelRow.machine_id, WheelRow.teeth).where(WheelRow.count == 0).order_by(WheelRow.teeth)
    for number, teeth in session.execute(query):
        if number is not None:
            lacked.setdefault(number, []).append(teeth)
    return lacked


def briefly(session: Session) -> list[Brief]:
    """All wheels, by family and tooth number; those not recognised last."""
    rows = [Brief(*row) for row in session.execute(select(*_BRIEF))]
    return sorted(rows, key=lambda w: (w.family_id is None, w.family_id or 0, w.teeth, w.id))


def in_full(session: Session, wanted: Sequence[Brief]) -> list[WheelRow]:
    """The records of these, in their order."""
    rows: dict[int, WheelRow] = {}
    for start in range(0, len(wanted), _ASKED_AT_ONCE):
        some = [w.id for w in wanted[start : start + _ASKED_AT_ONCE]]
        rows |= {row.id: row for row in session.scalars(select(WheelRow).where(WheelRow.id.in_(some)))}
    return [rows[w.id] for w in wanted]


def stray(family: WheelFamilyRow | None, machine: MachineRow | None) -> Stray | None:
    """Why a wheel of this family in the box of this machine goes with nothing here; None where it does, or was counted
    for a lathe whose pitch is not known."""
    if family is None and machine is not None and machine.family is None and takes_wheels(machine):
        return None
    box = machine.family if machine is not None else None
    own = family_of(family) if family else None
    return why_stray(own, family_of(box) if box else None, bool(family and family.machines))


def family(session: Session, number: int | None) -> WheelFamilyRow | None:
    """One family by its number; None for None. Raises Refusal `no_such_family`."""
    if number is None:
        return None
    row = session.get(WheelFamilyRow, number)
    if row is None:
        raise Refusal("no_such_family", "family", number)
    return row


def family_named(session: Session, name: str) -> WheelFamilyRow:
    """One family by its name, however that is written. Raises Refusal `no_such_family`."""
    wanted = name.strip().casefold()
    row = next((one for one in families(session) if one.name.casefold() == wanted), None)
    if row is None:
        raise Refusal("no_such_family", "family", name)
    return row


def add_family(session: Session, wanted: WheelFamily, hub: Any, system: str) -> WheelFamilyRow:
    """Enter a family. Raises Refusal `family_known` where one of the same pitch, angle, bore, key and face is there."""
    if not wanted.name.strip():
        raise Refusal("empty", "name", wanted.name)
    for row in families(session):
        same = (row.pitch_system, row.pitch_value, row.pressure_angle_deg, row.addendum, row.bore_mm, row.key_mm)
        if same == (
            system, wanted.pitch.value, wanted.pressure_angle, wanted.addendum, wanted.bore, wanted.key
        ) and row.face_mm == wanted.face:  # fmt: skip
            raise Refusal("family_known", "pitch", row.name)
        if row.name == wanted.name:
            raise Refusal("name_taken", "name", wanted.name)
    changes.name(session, "family_added", name=wanted.name)
    row = WheelFamilyRow(
        name=wanted.name, pitch_system=system, pitch_value=wanted.pitch.value,
        pressure_angle_deg=wanted.pressure_angle, bore_mm=wanted.bore, key_mm=wanted.key, face_mm=wanted.face,
        addendum=wanted.addendum, hub_mm=hub,
    )  # fmt: skip
    session.add(row)
    session.flush()
    return row


def add(session: Session, entries: Sequence[Entry], shared: Mapping[str, Any]) -> list[WheelRow]:
    """Put wheels into the rack. `shared`: what they have in common, by the names of their columns.

    Wheels alike in everything are one record with a count. Raises Refusal `too_many_of_one`.
    """
    rows = []
    for entry in entries:
        wanted = _BARE | dict(shared) | {"teeth": entry.teeth, "condition": entry.condition.value}
        row = None if wanted["family_id"] is None else _alike(session, wanted)
        if row is None:
            row = WheelRow(**wanted, count=0)
            session.add(row)
        if row.count + entry.count > MOST_OF_ONE_COUNT:
            raise Refusal("too_many_of_one", "wheels", entry.teeth, most=MOST_OF_ONE_COUNT)
        row.count += entry.count
        session.flush()
        rows.append(row)
    _few_enough(session, {(row.family_id, row.machine_id) for row in rows})
    changes.name(session, "wheels_added", wheels=_pairs(_tally(entries)))
    return rows


def add_photographed(
    session: Session, entries: Sequence[Entry], shared: Mapping[str, Any], photo: str, readings: Mapping[str, Any]
) -> list[WheelRow]:
    """Put wheels into the rack with their photograph, by its name: one change. readings: what it says of a wheel, empty
    for nothing; kept with one that is added alone and not identified, for whoever finds out what it is. Raises Refusal
    as `add` does."""
    rows = add(session, entries, shared)
    for row in rows:
        row.photo = photo
        if readings and row.family_id is None and len(rows) == 1:
            row.measured = dict(readings)
    session.flush()
    return rows


_SAME = (*_LIKE, "place", "note")


def alike(session: Session, records: Sequence[Record]) -> dict[int, int]:
    """Which of these records are in the rack already, alike in everything but their count: the number of the one there
    by the place of that here."""
    there: dict[tuple[Any, ...], list[int]] = {}
    for row in briefly(session):
        there.setdefault(tuple(getattr(row, name) for name in _SAME), []).append(row.id)
    by_row = {}
    for n, record in enumerate(records):
        if numbers := there.get(tuple(record[name] for name in _SAME)):
            by_row[n] = numbers.pop()
    return by_row


def set_counts(session: Session, counts: Sequence[tuple[int, int]]) -> None:
    """Make the counts of the wheels with these numbers so. Raises Refusal `mounted_not_held` where one that is on a
    machine would be gone."""
    lacking = changes.shortages(session)
    if counts:
        session.execute(update(WheelRow), [{"id": number, "count": count} for number, count in counts])
    session.expire_all()
    keep_mounted(session, lacking)
    numbers = {number for number, _ in counts}
    teeth = Counter(row.teeth for row in briefly(session) if row.id in numbers)
    changes.name(session, "wheels_edited", wheels=_pairs(teeth))


def put_records(session: Session, records: Sequence[Record]) -> None:
    """Put whole records in as they are, beside what is there."""
    if records:
        session.execute(insert(WheelRow), list(records))
    _few_enough(session, {(record["family_id"], record["machine_id"]) for record in records})
    changes.name(session, "wheels_imported", count=len(records))


def merge(session: Session, place: str, into: str) -> list[WheelRow]:
    """Empty one box into another: every wheel at `place` goes to the place `into`, like ones counted together.

    A wheel that belongs to a machine keeps it. Raises Refusal `nothing_there`, `same_place`, `too_many_of_one`.
    """
    if place == into:
        raise Refusal("same_place", "into", into)
    both = in_full(session, [row for row in briefly(session) if row.place in (place, into)])
    moved = [row for row in both if row.place == place]
    if not moved:
        raise Refusal("nothing_there", "place", place)
    like = {_likeness(row): row for row in reversed(both) if row.place == into}
    for row in moved:
        there = like.setdefault(_likeness(row), row)
        if there is row:
            row.place = into
            continue
        if there.count + row.count > MOST_OF_ONE_COUNT:
            raise Refusal("too_many_of_one", "place", row.teeth, most=MOST_OF_ONE_COUNT)
        there.count += row.count
        session.delete(row)
    session.flush()
    changes.name(session, "boxes_merged", place=place, into=into)
    return list(dict.fromkeys(like[_likeness(row)] for row in moved))


def _likeness(row: WheelRow) -> tuple[Any, ...]:
    """What wheels alike but for where they lie have in common; unrecognised ones are like themselves alone."""
    own = row.id if row.family_id is None else None
    return (*(getattr(row, name) for name in (*_LIKE, "note", "photo")), own)


def places(session: Session) -> dict[str, int]:
    """The boxes, drawers and boards where wheels lie, and how many records lie there."""
    return dict(sorted(Counter(row.place for row in briefly(session) if row.place).items()))


def plan_for(session: Session, entries: Sequence[Entry], shared: Mapping[str, Any]) -> list[WheelRow]:
    """Note wheels that are to be made or bought: missing ones, with what is to be said of them.

    A wheel that is held, or known to be missing already, keeps its record and takes the note.
    """
    rows = []
    for entry in entries:
        same = {"family_id": shared.get("family_id"), "machine_id": shared.get("machine_id"), "teeth": entry.teeth}
        row = session.scalars(select(WheelRow).filter_by(**same)).first()
        if row is None:
            row = WheelRow(**(_BARE | {"condition": entry.condition.value} | dict(shared) | same), count=0)
            session.add(row)
        else:
            row.note = shared.get("note") or row.note
        session.flush()
        rows.append(row)
    changes.name(session, "wheels_planned", wheels=_pairs(_tally(entries)))
    return rows


def _alike(session: Session, wanted: Mapping[str, Any]) -> WheelRow | None:
    row = session.scalars(select(WheelRow).where(*(getattr(WheelRow, name) == wanted[name] for name in _LIKE))).all()
    # A wheel known to be missing is the place where it goes when it comes.
    return next((w for w in row if w.count == 0 or (w.place, w.note) == (wanted["place"], wanted["note"])), None)


def change(session: Session, numbers: Sequence[int], changed: Mapping[str, Any]) -> list[WheelRow]:
    """Change the same things of several wheels.

    Raises Refusal: `no_such_wheel`, `teeth_out_of_range`, `shift_too_far`, `too_many_of_one`, `unknown_condition`, and
    `mounted_not_held` where a wheel that is on a machine would be gone.
    """
    rows = [wheel(session, number) for number in numbers]
    _check(changed)
    lacking = changes.shortages(session)
    for row in rows:
        for name, value in changed.items():
            setattr(row, name, value)
    session.flush()
    session.expire_all()
    keep_mounted(session, lacking)
    _few_enough(session, {(row.family_id, row.machine_id) for row in rows})
    changes.name(session, "wheels_edited", wheels=_pairs(Counter(row.teeth for row in rows)))
    return rows


def keep_readings(session: Session, number: int, teeth: int, readings: Mapping[str, Any]) -> None:
    """Keep with a wheel what was counted and measured of it. Raises Refusal as `change` does."""
    change(session, [number], {"measured": dict(readings), "teeth": teeth})
    changes.name(session, "readings_kept", wheels=[[teeth, 1]])


def keep_photo(session: Session, number: int, photo: str) -> WheelRow:
    """Keep a photograph with a wheel, by its name. Raises Refusal `no_such_wheel`."""
    row = change(session, [number], {"photo": photo})[0]
    changes.name(session, "photo_added", wheels=[[row.teeth, 1]])
    return row


def _check(changed: Mapping[str, Any]) -> None:
    teeth, count = changed.get("teeth"), changed.get("count")
    if (shift := changed.get("shift")) is not None and not abs(shift) <= MOST_SHIFT:
        raise Refusal("shift_too_far", "shift", shift, most=MOST_SHIFT)
    if teeth is not None and not FEWEST_TEETH <= teeth <= MOST_TEETH:
        raise Refusal("teeth_out_of_range", "teeth", teeth, fewest=FEWEST_TEETH, most=MOST_TEETH)
    if count is not None and not 0 <= count <= MOST_OF_ONE_COUNT:
        raise Refusal("too_many_of_one", "count", count, most=MOST_OF_ONE_COUNT)
    if (condition := changed.get("condition")) is not None and condition not in set(Condition):
        raise Refusal("unknown_condition", "condition", condition)


def remove(session: Session, numbers: Sequence[int]) -> None:
    """Take wheels out of the rack. Raises Refusal `no_such_wheel`, `mounted_not_held`."""
    rows = [wheel(session, number) for number in numbers]
    lacking = changes.shortages(session)
    changes.name(session, "wheels_deleted", wheels=_pairs(Counter(row.teeth for row in rows)))
    for row in rows:
        session.delete(row)
    session.flush()
    session.expire_all()
    keep_mounted(session, lacking)


def wheel(session: Session, number: int) -> WheelRow:
    """One record of wheels by its number. Raises Refusal `no_such_wheel`."""
    row = session.get(WheelRow, number)
    if row is None:
        raise Refusal("no_such_wheel", "wheel", number)
    return row


def _few_enough(session: Session, kinds: Collection[tuple[int | None, int | None]]) -> None:
    """No more different wheels of one kind, family and machine, than a machine is planned with. Raises Refusal
    `too_many_sizes`."""
    for family, machine in kinds:
        if family is None:
            continue
        same = select(WheelRow.teeth).filter_by(family_id=family, machine_id=machine).distinct()
        if (sizes := len(session.scalars(same).all())) > MOST_SIZES:
            raise Refusal("too_many_sizes", "wheels", sizes, most=MOST_SIZES)


def _tally(entries: Sequence[Entry]) -> Counter[int]:
    wheels: Counter[int] = Counter()
    for entry in entries:
        wheels[entry.teeth] += entry.count
    return wheels


def _pairs(wheels: Mapping[int, int]) -> list[list[int]]:
    """`[teeth, count]`, ascending: as it is kept with a change."""
    return [list(pair) for pair in sorted(wheels.items())]
