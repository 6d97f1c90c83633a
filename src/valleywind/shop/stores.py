"""Form cutters and bar stock of the shop."""

from collections.abc import Sequence
from fractions import Fraction

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.donors import Bar
from valleywind.core.teeth.pile import MOST_OF_ONE_COUNT, Condition
from valleywind.core.teeth.pitch import Pitch, PitchSystem, allowed_angle
from valleywind.shop import changes
from valleywind.shop.models import BarRow, CutterRow


def cutters(session: Session) -> list[CutterRow]:
    """All form cutters, in the order in which they were entered."""
    return list(session.scalars(select(CutterRow).order_by(CutterRow.id)))


def cutter(row: CutterRow) -> Cutter:
    """The cutter as the core knows it."""
    return Cutter(
        Pitch(PitchSystem(row.pitch_system), row.pitch_value), row.pressure_angle_deg, row.lowest, row.highest,
        row.engraved, Condition(row.condition), row.bore_mm, row.depth_mm, row.count,
    )  # fmt: skip


def save_cutter(session: Session, number: int | None, wanted: Cutter, place: str, note: str) -> CutterRow:
    """Enter a cutter, or make a known one what is wanted. Raises Refusal `no_such_cutter`, `too_many_of_one`,
    `angle_out_of_range`."""
    allowed_angle(wanted.pressure_angle)
    if not 0 <= wanted.count <= MOST_OF_ONE_COUNT:
        raise Refusal("too_many_of_one", "count", wanted.count, most=MOST_OF_ONE_COUNT)
    row = CutterRow() if number is None else cutter_row(session, number)
    row.pitch_system, row.pitch_value = wanted.pitch.system.value, wanted.pitch.value
    row.pressure_angle_deg, row.lowest, row.highest = wanted.pressure_angle, wanted.lowest, wanted.highest
    row.engraved, row.bore_mm, row.depth_mm = wanted.engraved, wanted.bore, wanted.depth
    row.condition, row.count, row.place, row.note = wanted.condition.value, wanted.count, place, note
    changes.name(session, "cutter_edited" if number is not None else "cutter_added", range=[row.lowest, row.highest])
    session.add(row)
    session.flush()
    return row


def save_bar(
    session: Session, row: BarRow | None, material: str, diameter: Fraction, length: Fraction, place: str, note: str
) -> BarRow:
    """Enter a piece of bar, or make a known one what is wanted; diameter and length in mm."""
    changes.name(session, "bar_edited" if row else "bar_added", name=material)
    row = row or BarRow()
    row.material, row.diameter_mm, row.length_mm, row.place, row.note = material, diameter, length, place, note
    session.add(row)
    session.flush()
    return row


def delete(session: Session, row: CutterRow | BarRow) -> None:
    """Delete a cutter or a piece of bar."""
    if isinstance(row, CutterRow):
        changes.name(session, "cutter_deleted", range=[row.lowest, row.highest])
    else:
        changes.name(session, "bar_deleted", name=row.material)
    session.delete(row)
    session.flush()


def cutter_row(session: Session, number: int) -> CutterRow:
    """One cutter by its number. Raises Refusal `no_such_cutter`."""
    row = session.get(CutterRow, number)
    if row is None:
        raise Refusal("no_such_cutter", "cutter", number)
    return row


def bars(session: Session) -> list[BarRow]:
    """All pieces of bar, thickest first."""
    rows = session.scalars(select(BarRow)).all()
    return sorted(rows, key=lambda b: (-b.diameter_mm, -b.length_mm, b.id))


def known_bars(session: Session) -> Sequence[Bar]:
    """The pieces of bar as the core knows them."""
    return [Bar(b.id, b.material, float(b.diameter_mm), float(b.length_mm)) for b in bars(session)]


def bar_row(session: Session, number: int) -> BarRow:
    """One piece by its number. Raises Refusal `no_such_bar`."""
    row = session.get(BarRow, number)
    if row is None:
        raise Refusal("no_such_bar", "bar", number)
    return row
