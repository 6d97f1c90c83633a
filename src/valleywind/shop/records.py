"""Machines that are no lathes: what a head, a hobber or a mill has on record, kept as it is typed.

Each part that a machine may have is listed here once: its name in the file, what it is typed as, how it is read.
"""

import json
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, field, fields, replace
from functools import lru_cache, partial
from typing import Any, Generic, TypeVar

from sqlalchemy.orm import Session

from valleywind.core.dividing.heads import Head, TypedHead, read_head
from valleywind.core.helix.machine import LEAD_BOX, Mill, TypedMill, read_mill
from valleywind.core.hobbing.machine import Box, Hobber, TypedHobber, read_hobber
from valleywind.core.refusal import Refusals, Refused
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.quadrant import Part
from valleywind.core.trains.quadrant_record import Source, TypedQuadrant, TypedSlot, read_quadrant
from valleywind.core.units import Unit, parse_length, spell
from valleywind.shop import changes, efforts, machine_plates, machines
from valleywind.shop.machines import family as family_of
from valleywind.shop.machines import free_slug, quadrant_facts, save_quadrant
from valleywind.shop.models import GearboxRow, MachineRow, RecordRow, WheelFamilyRow

T = TypeVar("T")
K = TypeVar("K")


@dataclass(frozen=True)
class Recorded(Generic[T, K]):
    """A part that a machine may have on record. name: in the file, and in requests; typed: its fields as typed, and
    how they are read; lacking: what is refused where a machine has none; boxes: those for its change wheels."""

    name: str
    typed: type[T]
    read: Callable[[T, WheelFamily | None], K]
    lacking: Callable[[MachineRow], Refused]
    boxes: tuple[str, ...] = ()


HEAD = Recorded(
    "head", TypedHead, lambda typed, _: read_head(typed), lambda row: Refused("divides_not", "machine", row.name)
)
HOBBER = Recorded(
    "hobber", TypedHobber, read_hobber, lambda row: Refused("not_a_hobber", "machine", row.slug), tuple(Box)
)
MILL = Recorded("mill", TypedMill, read_mill, lambda row: Refused("not_a_mill", "machine", row.slug), (LEAD_BOX,))
PARTS: tuple[Recorded[Any, Any], ...] = (HEAD, HOBBER, MILL)


@dataclass(frozen=True)
class Kind:
    """What a machine may be beside a lathe: the parts that it always has, and those it may have."""

    name: str
    has: tuple[Recorded[Any, Any], ...]
    may_have: tuple[Recorded[Any, Any], ...] = ()


KINDS = {
    kind.name: kind
    for kind in (
        Kind("head", (HEAD,)),
        Kind("rotary table", (HEAD,)),
        Kind("spin indexer", (HEAD,)),
        Kind("collet block", (HEAD,)),
        Kind("hobber", (HOBBER,)),
        Kind("mill", (MILL,), (HEAD,)),
    )
}


@dataclass(frozen=True)
class TypedMachine:
    """A machine as typed. parts: by their names; arm: what carries a head's gears, where it is known."""

    kind: str
    name: str
    note: str = ""
    parts: Mapping[str, Any] = field(default_factory=dict)
    arm: TypedQuadrant | None = None


def has(row: MachineRow, part: Recorded[Any, Any]) -> bool:
    """Whether a machine has this part on record."""
    return part.name in row.records


def as_typed(row: MachineRow, part: Recorded[T, K]) -> T:
    """A part as it was typed. Raises what the part lacks."""
    return _unpacked(part, _packed(row, part))


def known(row: MachineRow, part: Recorded[T, K]) -> K:
    """A part as the core knows it; the same text is read once. Raises what the part lacks."""
    found: K = _read(part.name, _packed(row, part), family_of(row.family) if row.family else None)
    return found


def _packed(row: MachineRow, part: Recorded[Any, Any]) -> str:
    """All that is in the file of a part, with its boxes."""
    kept = row.records.get(part.name)
    if kept is None:
        raise part.lacking(row)
    boxes = {
        one.box: {"quadrant": one.quadrant, "turns": one.turns, "lever": one.lever, "posts": one.posts}
        for one in row.gearboxes
        if one.box in part.boxes
    }
    return json.dumps([kept.typed, boxes])


def _unpacked(part: Recorded[T, Any], packed: str) -> T:
    typed, boxes = json.loads(packed)
    names = {f.name for f in fields(part.typed)}  # type: ignore[arg-type]
    more = {"boxes": {box: _box(**one) for box, one in boxes.items()}} if part.boxes else {}
    return part.typed(**{name: text for name, text in typed.items() if name in names}, **more)


@lru_cache(maxsize=64)
def _read(part: str, packed: str, family: WheelFamily | None) -> Any:
    found = next(one for one in PARTS if one.name == part)
    return found.read(_unpacked(found, packed), family)


# Collars were typed as radii once; now they are asked for as diameters.
_ONCE_RADII = {"boss_first": "collar_first", "boss_stud": "collar_stud", "boss_last": "collar_last"}


def _doubled(radius: str) -> str:
    try:
        return spell(2 * parse_length(radius, Unit.MM).mm) if radius.strip() else ""
    except Refused:
        return radius


def _box(quadrant: dict[str, Any], turns: str, lever: bool, posts: str) -> TypedBox:
    facts = dict(quadrant)
    slots = tuple(TypedSlot(**slot) for slot in facts.pop("slots", ()))
    sources = {Part(part): Source(source) for part, source in facts.pop("sources", {}).items()}
    for old, name in _ONCE_RADII.items():
        if old in facts:
            facts[name] = _doubled(facts.pop(old))
    return TypedBox(TypedQuadrant(**facts, slots=slots, sources=sources), turns, lever, posts)


def head(row: MachineRow) -> Head:
    """What the machine divides with, as the core knows it. Raises Refused `divides_not`."""
    return replace(known(row, HEAD), flats=row.kind == "collet block")


def hobber(row: MachineRow) -> Hobber:
    """The hobber as the core knows it. Raises Refused `not_a_hobber`."""
    return known(row, HOBBER)


def mill(row: MachineRow) -> Mill:
    """The mill as the core knows it. Raises Refused `not_a_mill`."""
    return known(row, MILL)


def arm(row: MachineRow) -> Gearbox | None:
    """What carries the gears between spindle and plate, where it and the wheels that go on it are on record."""
    if row.quadrant is None or row.family is None:
        return None
    wheels = family_of(row.family)
    return Gearbox(wheels, quadrant_facts(row.quadrant).carrier(float(wheels.module)))


def put(row: MachineRow, parts: Mapping[str, Any]) -> None:
    """Make the parts of a machine, by name, what is typed; one that is not named goes. Whether it can be read is not
    looked at. Its plate stays, and what a change at each of its places weighs."""
    for name in set(row.records) - set(parts) - {machine_plates.PART, efforts.PART}:
        del row.records[name]
    boxes: dict[str, TypedBox] = {}
    for name, typed in parts.items():
        facts = {f.name: getattr(typed, f.name) for f in fields(typed) if f.name != "boxes"}
        facts = {f: value.strip() if isinstance(value, str) else value for f, value in facts.items()}
        boxes |= getattr(typed, "boxes", {})
        if name in row.records:
            row.records[name].typed = facts
        else:
            row.records[name] = RecordRow(part=name, typed=facts)
    kept = {one.box: one for one in row.gearboxes}
    for box in kept.keys() - boxes.keys():
        row.gearboxes.remove(kept[box])
    for box, one in boxes.items():
        quadrant = asdict(one.quadrant)
        quadrant["sources"] = {part.value: source.value for part, source in one.quadrant.sources.items()}
        to = kept.get(box) or GearboxRow(box=str(box))
        to.quadrant, to.turns, to.lever, to.posts = quadrant, one.turns.strip(), one.lever, one.posts.strip()
        if box not in kept:
            row.gearboxes.append(to)


def save(session: Session, row: MachineRow | None, typed: TypedMachine, family: WheelFamilyRow | None) -> MachineRow:
    """Enter a machine that is no lathe, or make a known one what is typed.

    Raises Refused: `unknown_kind`, `empty` (name), `name_taken`, and what cannot be read, at its field.
    """
    kind = KINDS.get(typed.kind)
    if kind is None or (row is not None and row.lathe is not None):
        raise Refused("unknown_kind", "kind", typed.kind, known=list(KINDS))
    if row is not None and row.box_mounted and row.family is not family:
        raise Refused("mounted_not_held", "family", row.name, lacking=dict(machines.on_machine(row)))
    parts = {part.name: typed.parts.get(part.name) or part.typed() for part in kind.has}
    for part in kind.may_have:
        if typed.parts.get(part.name) not in (None, part.typed()):
            parts[part.name] = typed.parts[part.name]
    refusals = Refusals()
    if not typed.name.strip():
        refusals.refuse(Refused("empty", "name", typed.name))
    wheels = family_of(family) if family else None
    for part in (*kind.has, *kind.may_have):
        if part.name in parts:
            refusals.read(partial(part.read, parts[part.name], wheels), None)
    refusals.raise_all()
    slug = free_slug(session, typed.name.strip(), row)
    arm = read_quadrant(typed.arm) if typed.arm else None
    changes.name(session, "machine_edited" if row else "machine_added", name=typed.name.strip())
    if row is None:
        row = MachineRow(slug=slug, name="", kind="")
        session.add(row)
    row.slug, row.name, row.kind, row.note, row.family = slug, typed.name.strip(), typed.kind, typed.note, family
    put(row, parts)
    for part in (*kind.has, *kind.may_have):
        if has(row, part):
            known(row, part)  # refused at its field where it cannot be read
    session.flush()
    if arm is None:
        row.quadrant = None
    else:
        save_quadrant(session, row, arm)
    session.flush()
    return row
