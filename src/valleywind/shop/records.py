"""Machines that are no lathes, entered and changed: their record is kept as it is typed."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, fields
from functools import partial
from typing import Any

from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal, Refusals
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.quadrant_record import TypedQuadrant, read_quadrant
from valleywind.shop import changes, efforts, machine_plates, machines
from valleywind.shop.machines import family as family_of
from valleywind.shop.machines import free_slug, save_quadrant
from valleywind.shop.models import GearboxRow, MachineRow, RecordRow, WheelFamilyRow
from valleywind.shop.record_parts import Kind, has, part_of


@dataclass(frozen=True)
class TypedMachine:
    """A machine as typed. parts: by their names; arm: what carries a head's gears, where it is known."""

    kind: Kind
    name: str
    note: str = ""
    parts: Mapping[str, Any] = field(default_factory=dict)
    arm: TypedQuadrant | None = None


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
    """Enter a machine that is no lathe, or make a known one, which is no lathe, what is typed.

    Raises Refusal: `empty` (name), `name_taken`, and what cannot be read, at its field.
    """
    kind = typed.kind
    if row is not None and row.box_mounted and row.family is not family:
        raise Refusal("mounted_not_held", "family", row.name, lacking=dict(machines.on_machine(row)))
    parts = {part.name: typed.parts.get(part.name) or part.typed() for part in kind.has}
    for part in kind.may_have:
        if typed.parts.get(part.name) not in (None, part.typed()):
            parts[part.name] = typed.parts[part.name]
    refusals = Refusals()
    if not typed.name.strip():
        refusals.refuse(Refusal("empty", "name", typed.name))
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
    row.slug, row.name, row.kind, row.note, row.family = slug, typed.name.strip(), kind.name, typed.note, family
    put(row, parts)
    for part in (*kind.has, *kind.may_have):
        if has(row, part):
            part_of(row, part)  # refused at its field where it cannot be read
    session.flush()
    if arm is None:
        row.quadrant = None
    else:
        save_quadrant(session, row, arm)
    session.flush()
    return row
