"""Machines that are no lathes: what a head, a hobber or a mill has, as records and as the core knows them."""

from dataclasses import asdict, dataclass

from sqlalchemy.orm import Session

from valleywind.core.dividing.heads import Circle, Head, TypedHead, read_head, spell_plates
from valleywind.core.helix.machine import LEAD_BOX, Mill, TypedMill, read_mill
from valleywind.core.hobbing.machine import Box, Hobber, TypedHobber, read_hobber
from valleywind.core.refusal import Refused
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import parse_stock, spell_stock
from valleywind.core.trains.quadrant import Part
from valleywind.core.trains.quadrant_record import Source, TypedQuadrant, TypedSlot, read_quadrant
from valleywind.core.units import spell
from valleywind.shop import changes, machines
from valleywind.shop.machines import family as family_of
from valleywind.shop.machines import free_slug, quadrant_facts, save_quadrant
from valleywind.shop.models import GearboxRow, HeadRow, HobberRow, MachineRow, MillRow, WheelFamilyRow

KINDS = ("hobber", "mill", "head", "rotary table", "spin indexer", "collet block")
"""What a machine may be beside a lathe."""


@dataclass(frozen=True)
class TypedMachine:
    """A machine as typed, with the parts that its kind has. arm: what carries a head's gears, where it is known."""

    kind: str
    name: str
    note: str = ""
    head: TypedHead | None = None
    hobber: TypedHobber | None = None
    mill: TypedMill | None = None
    arm: TypedQuadrant | None = None


def head(row: MachineRow) -> Head:
    """What the machine divides with, as the core knows it. Raises Refused `divides_not`."""
    kept = row.head
    if kept is None:
        raise Refused("divides_not", "machine", row.name)
    sides = tuple(tuple(Circle(int(holes or 0), diameter) for holes, diameter in side) for side in kept.sides)
    gears = parse_stock(kept.gears, "gears") if kept.gears else None
    return Head(
        kept.ratio, sides, tuple(kept.direct), gears, kept.geared, kept.reads_deg, flats=row.kind == "collet block"
    )


def arm(row: MachineRow) -> Gearbox | None:
    """What carries the gears between spindle and plate, where it and the wheels that go on it are on record."""
    if row.quadrant is None or row.family is None:
        return None
    known = family_of(row.family)
    return Gearbox(known, quadrant_facts(row.quadrant).carrier(float(known.module)))


def head_as_typed(row: MachineRow) -> TypedHead:
    known = head(row)
    return TypedHead(
        ratio=spell(known.ratio) if known.ratio else "",
        plates=spell_plates(known.sides),
        direct=" ".join(map(str, known.direct)),
        gears=spell_stock(known.gears or {}),
        geared=known.geared,
        reads=f"{spell(known.reads)}°" if known.reads else "",
    )


def hobber_as_typed(row: MachineRow) -> TypedHobber:
    """Raises Refused `not_a_hobber`."""
    known = row.hobber
    if known is None:
        raise Refused("not_a_hobber", "machine", row.slug)
    kept = {Box(one.box): one for one in row.gearboxes}
    boxes = {box: _box_as_typed(kept[box]) for box in Box if box in kept}
    return TypedHobber(
        known.index, known.feed, known.differential, known.swivel, known.table_turns, known.feeds, known.taken,
        known.largest, known.travel, known.between, boxes,
    )  # fmt: skip


def hobber(row: MachineRow) -> Hobber:
    """The hobber as the core knows it. Raises Refused `not_a_hobber`."""
    return read_hobber(hobber_as_typed(row), family_of(row.family) if row.family else None)


def _box_as_typed(row: GearboxRow) -> TypedBox:
    known = dict(row.quadrant)
    slots = tuple(TypedSlot(**slot) for slot in known.pop("slots", ()))
    sources = {Part(part): Source(source) for part, source in known.pop("sources", {}).items()}
    return TypedBox(TypedQuadrant(**known, slots=slots, sources=sources), row.turns, row.lever, row.posts)


def box_row(box: str, typed: TypedBox) -> GearboxRow:
    """A box's row of what is typed."""
    quadrant = asdict(typed.quadrant)
    quadrant["sources"] = {part.value: source.value for part, source in typed.quadrant.sources.items()}
    return GearboxRow(
        box=box, quadrant=quadrant, turns=typed.turns.strip(), lever=typed.lever, posts=typed.posts.strip()
    )


def mill_as_typed(row: MachineRow) -> TypedMill:
    """Raises Refused `not_a_mill`."""
    known = row.mill
    if known is None:
        raise Refused("not_a_mill", "machine", row.slug)
    lead = next((_box_as_typed(one) for one in row.gearboxes if one.box == LEAD_BOX), TypedBox())
    return TypedMill(
        known.screw, known.swing, known.pairs, known.swivel, known.pairs_at, known.table_size, known.travel,
        known.saddle, known.arbors, known.head_at, lead,
    )  # fmt: skip


def mill(row: MachineRow) -> Mill:
    """The mill as the core knows it. Raises Refused `not_a_mill`."""
    return read_mill(mill_as_typed(row), family_of(row.family) if row.family else None)


def mill_row(typed: TypedMill) -> MillRow:
    """A mill's row of what is typed; its box is a row of its own."""
    return MillRow(
        screw=typed.screw, swing=typed.swing, pairs=typed.pairs, swivel=typed.swivel, pairs_at=typed.pairs_at.strip(),
        table_size=typed.table, travel=typed.travel, saddle=typed.saddle, arbors=typed.arbors,
        head_at=typed.head_at.strip(),
    )  # fmt: skip


def save(session: Session, row: MachineRow | None, typed: TypedMachine, family: WheelFamilyRow | None) -> MachineRow:
    """Enter a machine that is no lathe, or make a known one what is typed.

    Raises Refused: `unknown_kind`, `empty` (name), `name_taken`, and what cannot be read, at its field.
    """
    if typed.kind not in KINDS or (row is not None and row.lathe is not None):
        raise Refused("unknown_kind", "kind", typed.kind, known=list(KINDS))
    if not typed.name.strip():
        raise Refused("empty", "name", typed.name)
    if row is not None and row.box_mounted and row.family is not family:
        raise Refused("mounted_not_held", "family", row.name, lacking=dict(machines.on_machine(row)))
    parts = _parts(typed, family)
    boxes = [box_row(box.value, one) for box, one in (typed.hobber.boxes if typed.hobber else {}).items()]
    if typed.kind == "mill":
        boxes = [box_row(LEAD_BOX, typed.mill.lead)] if typed.mill else []
    arm = read_quadrant(typed.arm) if typed.arm else None
    slug = free_slug(session, typed.name.strip(), row)
    changes.name(session, "machine_edited" if row else "machine_added", name=typed.name.strip())
    if row is None:
        row = MachineRow(slug=slug, name="", kind="")
        session.add(row)
    row.slug, row.name, row.kind, row.note, row.family = slug, typed.name.strip(), typed.kind, typed.note, family
    row.head = row.hobber = row.mill = None
    row.gearboxes = []
    session.flush()
    row.head, row.hobber, row.mill = parts
    row.gearboxes = boxes if row.hobber or row.mill else []
    if arm is None:
        row.quadrant = None
    else:
        save_quadrant(session, row, arm)
    session.flush()
    return row


def _parts(
    typed: TypedMachine, family: WheelFamilyRow | None
) -> tuple[HeadRow | None, HobberRow | None, MillRow | None]:
    """The rows of the parts that this kind has: a hobber its constants, a mill its table and perhaps a head."""
    wants_head = typed.kind not in ("hobber", "mill")
    divides = typed.head if wants_head or (typed.head is not None and typed.head != TypedHead()) else None
    if wants_head and divides is None:
        divides = TypedHead()
    hobber = mill = None
    if typed.kind == "hobber":
        wanted = typed.hobber or TypedHobber()
        read_hobber(wanted, family_of(family) if family else None)
        hobber = HobberRow(
            index=wanted.index, feed=wanted.feed, differential=wanted.differential, swivel=wanted.swivel,
            table_turns=wanted.table.strip(), feeds=wanted.feeds or "down", taken=wanted.taken or "after",
            largest=wanted.largest, travel=wanted.travel, between=wanted.between,
        )  # fmt: skip
        divides = None
    if typed.kind == "mill":
        table = typed.mill or TypedMill()
        read_mill(table, family_of(family) if family else None)
        mill = mill_row(table)
    return head_row(divides) if divides else None, hobber, mill


def head_row(typed: TypedHead) -> HeadRow:
    """A head's row of what is typed. Raises Refused at the field."""
    known = read_head(typed)
    return HeadRow(
        ratio=known.ratio,
        sides=[[[c.holes, c.diameter] for c in side] for side in known.sides],
        direct=list(known.direct),
        gears=spell_stock(known.gears or {}),
        geared=known.geared,
        reads_deg=known.reads,
    )
