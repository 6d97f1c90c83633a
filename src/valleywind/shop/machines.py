"""Machines of the shop, as records and as the core knows them."""

import math

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.lathe.machine import Lathe
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.direction import Drive, Sense
from valleywind.core.trains.model import Stock, Train, lacking, parse_train
from valleywind.core.trains.quadrant import Quadrant, Slot
from valleywind.shop.models import MachineRow, MountedRow, QuadrantRow, WheelFamilyRow, WheelRow


def machines(session: Session) -> list[MachineRow]:
    """All machines, in the order in which they were entered."""
    return list(session.scalars(select(MachineRow).order_by(MachineRow.id)))


def machine(session: Session, slug: str) -> MachineRow:
    """One machine by its slug. Raises Refused `no_such_machine` with the slugs there are."""
    row = session.scalar(select(MachineRow).where(MachineRow.slug == slug))
    if row is None:
        raise Refused("no_such_machine", "machine", slug, known=[m.slug for m in machines(session)])
    return row


def family(row: WheelFamilyRow) -> WheelFamily:
    """The wheel family as the core knows it."""
    pitch = Pitch(PitchSystem(row.pitch_system), row.pitch_value)
    return WheelFamily(row.name, pitch, row.pressure_angle_deg, row.bore_mm, row.key_mm, row.face_mm, row.addendum)


def quadrant(row: QuadrantRow) -> Quadrant:
    """The quadrant as the core knows it: radians, mm."""
    return Quadrant(
        first_shaft=(row.first_x_mm, row.first_y_mm),
        slots=tuple(Slot(math.radians(s.offset_deg), s.nearest_mm, s.farthest_mm) for s in row.slots),
        swing=(math.radians(row.swing_low_deg), math.radians(row.swing_high_deg)),
        bosses=(row.boss_first_mm, row.boss_stud_mm, row.boss_last_mm),
        gap=row.gap_mm,
        studs=row.studs,
        cover=tuple((x, y) for x, y in row.cover_mm) if row.cover_mm else None,
    )


def lathe(row: MachineRow) -> Lathe:
    """The lathe as the core knows it. Raises Refused `not_a_lathe`."""
    if row.lathe is None or row.quadrant is None:
        raise Refused("not_a_lathe", "machine", row.slug)
    drive = Drive(Sense(row.lathe.first_shaft_turns), Sense(row.lathe.screw_turns_right_hand), row.lathe.reverse_lever)
    return Lathe(
        row.name,
        row.lathe.screw_lead_mm,
        row.lathe.first_ratio,
        drive,
        family(row.family),
        quadrant(row.quadrant),
    )


def stock(row: MachineRow) -> Stock:
    """The wheels of the machine that are held, mounted ones included."""
    return {w.teeth: w.count for w in row.wheels if w.count > 0}


def mounted(row: MachineRow) -> Train | None:
    """The train that is on the machine now."""
    return parse_train(row.mounted.train) if row.mounted else None


def mount(row: MachineRow, train: Train | None) -> None:
    """Record what is on the machine now; None clears it. Raises Refused `not_held` for wheels the machine has not."""
    if train is None:
        row.mounted = None
        return
    short = lacking(train.teeth, stock(row))
    if short:
        raise Refused("wheels_not_held", "train", train.notation, lacking=short)
    if row.mounted is None:
        row.mounted = MountedRow(train=train.notation)
    else:
        row.mounted.train = train.notation


def set_wheels(row: MachineRow, held: Stock) -> None:
    """Make `held` the machine's wheels. A tooth number it had and has no more stays as missing.

    Raises Refused `mounted_not_held` when a mounted wheel would be gone.
    """
    train = mounted(row)
    short = lacking(train.teeth, held) if train else {}
    if short:
        raise Refused("mounted_not_held", "wheels", None, lacking=short)
    rows = {w.teeth: w for w in row.wheels}
    for wheel in row.wheels:
        wheel.count = held.get(wheel.teeth, 0)
    for teeth in sorted(set(held) - set(rows)):
        row.wheels.append(WheelRow(teeth=teeth, count=held[teeth], place="", note=""))
