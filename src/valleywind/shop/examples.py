"""Ready lathes to start from: whole records of our own making, copied and changed until they are one's own."""

from dataclasses import replace
from enum import StrEnum
from fractions import Fraction

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.lathe.record import TypedLathe, read_record
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.quadrant_record import TypedSlot
from valleywind.shop.machines import Particulars, add_wheels, every, save_lathe
from valleywind.shop.models import MachineRow, WheelFamilyRow


class Example(StrEnum):
    """Ready lathes to start from."""

    METRIC = "metric"
    INCH_BOX = "inch_box"


_RECORDS = {
    Example.METRIC: TypedLathe(
        name="Example metric", screw="2 mm", first_x="48", first_y="96", swing_low="15", swing_high="125",
        collar_first="20", collar_stud="18", collar_last="22", studs="2", slots=(TypedSlot("0", "34", "128"),),
        cover="none", dials="16/4",
    ),
    Example.INCH_BOX: TypedLathe(
        name="Example inch", screw="8 tpi", first_x="90", first_y="150", swing_low="20", swing_high="115",
        collar_first="30", collar_stud="26", collar_last="32", studs="2",
        slots=(TypedSlot("0", "62", "190"), TypedSlot("-30", "62", "170")), cover="none",
        box="A=2, B=3/2, C=1, D=3/4, E=1/2", last_driven="56", dials="32/8",
    ),
}  # fmt: skip
_WHEELS = {
    Example.METRIC: "22 26 30x2 34 38 42 46 50 54 58 63 66 70 74",
    Example.INCH_BOX: "24 28 32 36 40 44 48 52 54 56 60 63 72 127",
}
# Pitch system and value, pressure angle, bore, key, face.
_FAMILIES = {
    Example.METRIC: ("module", Fraction(5, 4), Fraction(20), Fraction(14), Fraction(4), Fraction(10)),
    Example.INCH_BOX: ("dp", Fraction(16), Fraction(29, 2), Fraction(19), Fraction(4), Fraction(12)),
}


def add(session: Session, example: Example) -> MachineRow:
    """Add a ready lathe, its family and its wheels, marked as an example."""
    record = _RECORDS[example]
    taken = {row.name for row in every(session)}
    names = (record.name, *(f"{record.name} {n}" for n in range(2, len(taken) + 3)))
    named = replace(record, name=next(name for name in names if name not in taken))
    more = Particulars("", Hand.RIGHT, Sense.CLOCKWISE, Sense.CLOCKWISE, True, _family(session, example), True)
    row = save_lathe(session, None, read_record(named), more)
    add_wheels(session, row, parse_stock(_WHEELS[example]))
    return row


def _family(session: Session, example: Example) -> WheelFamilyRow:
    """The family of its wheels, made when it is not there yet."""
    name = f"{_RECORDS[example].name}’s wheels"
    known = session.scalar(select(WheelFamilyRow).where(WheelFamilyRow.name == name))
    if known is not None:
        return known
    system, pitch, angle, bore, key, face = _FAMILIES[example]
    family = WheelFamilyRow(
        name=name, pitch_system=system, pitch_value=pitch, pressure_angle_deg=angle, bore_mm=bore, key_mm=key,
        face_mm=face,
    )  # fmt: skip
    session.add(family)
    session.flush()
    return family
