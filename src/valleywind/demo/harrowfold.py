"""Harrowfold Weir workshop: keeps a river weir's sluice gear, an eel-ladder winch and a tide clock running.

Made up. Quadrants were tried by brute force: Plover lays out 6 to 40 TPI and 0.8 to 3 mm, Curlew 0.2 to 2 mm.
"""

from fractions import Fraction

from sqlalchemy import delete
from sqlalchemy.orm import Session

from valleywind.core.trains.model import parse_stock
from valleywind.core.units import MM_PER_INCH
from valleywind.shop.models import (
    Base,
    LatheRow,
    MachineRow,
    MountedRow,
    QuadrantRow,
    SlotRow,
    WheelFamilyRow,
    WheelRow,
)

NAME = "Harrowfold Weir workshop"

PLOVER_WHEELS = "24 28 32 36 40x2 44 48x2 52 56 64 66 68 72 76 78 80 96"
PLOVER_MISSING = (60,)
CURLEW_WHEELS = "20x2 25 30 33 35 40 45 50 55 60 65 70 75 80x2"


def load(session: Session) -> None:
    """Replace whatever is in the shop by the demo shop."""
    for table in reversed(Base.metadata.sorted_tables):
        session.execute(delete(table))
    session.expire_all()
    session.add_all([plover(), curlew()])


def plover() -> MachineRow:
    """Inch lathe, 6 TPI screw, tumbler with reverse, a quadrant with two slots. The union's train is still on it."""
    return MachineRow(
        slug="plover",
        name="Plover",
        kind="lathe",
        note="Inch lathe. The apron gives 0.022 in across per screw turn.",
        family=WheelFamilyRow(
            name="Plover's wheels",
            pitch_system="dp",
            pitch_value=Fraction(12),
            pressure_angle_deg=Fraction(29, 2),
            bore_mm=Fraction(7, 8) * MM_PER_INCH,
            key_mm=Fraction(3, 16) * MM_PER_INCH,
            face_mm=Fraction(5, 8) * MM_PER_INCH,
            addendum=Fraction(1),
        ),
        lathe=LatheRow(
            screw_lead_mm=MM_PER_INCH / 6,
            screw_stated="tpi",
            first_ratio=Fraction(1),
            first_shaft_turns="clockwise",
            screw_turns_right_hand="clockwise",
            reverse_lever=True,
        ),
        quadrant=QuadrantRow(
            first_x_mm=72, first_y_mm=168, swing_low_deg=15, swing_high_deg=125,
            boss_first_mm=16, boss_stud_mm=14, boss_last_mm=16, gap_mm=1, studs=2,
            cover_mm=[[-152, -112], [182, -112], [182, 280], [-152, 280]],
            slots=[
                SlotRow(place=0, offset_deg=0, nearest_mm=70, farthest_mm=200),
                SlotRow(place=1, offset_deg=-38, nearest_mm=80, farthest_mm=190),
            ],
        ),
        wheels=_wheels(PLOVER_WHEELS, PLOVER_MISSING, "peg board by the headstock"),
        mounted=MountedRow(train="36/64*32/78"),
    )  # fmt: skip


def curlew() -> MachineRow:
    """Metric bench lathe, 1.5 mm screw, first shaft at half the spindle's turns, no tumbler, a tight cover."""
    return MachineRow(
        slug="curlew",
        name="Curlew",
        kind="lathe",
        note="Metric bench lathe. No room under the cover for a wheel over 85 teeth.",
        family=WheelFamilyRow(
            name="Curlew's wheels",
            pitch_system="module",
            pitch_value=Fraction(4, 5),
            pressure_angle_deg=Fraction(20),
            bore_mm=Fraction(8),
            key_mm=Fraction(3),
            face_mm=Fraction(8),
            addendum=Fraction(1),
        ),
        lathe=LatheRow(
            screw_lead_mm=Fraction(3, 2),
            screw_stated="mm",
            first_ratio=Fraction(1, 2),
            first_shaft_turns="clockwise",
            screw_turns_right_hand="clockwise",
            reverse_lever=False,
        ),
        quadrant=QuadrantRow(
            first_x_mm=26, first_y_mm=68, swing_low_deg=20, swing_high_deg=150,
            boss_first_mm=6, boss_stud_mm=5.5, boss_last_mm=6, gap_mm=0.2, studs=2,
            cover_mm=[[-37.5, -35.1], [61.1, -35.1], [61.1, 118], [-37.5, 118]],
            slots=[SlotRow(place=0, offset_deg=0, nearest_mm=28, farthest_mm=110)],
        ),
        wheels=_wheels(CURLEW_WHEELS, (), "drawer under the bench"),
        mounted=None,
    )  # fmt: skip


def _wheels(held: str, missing: tuple[int, ...], place: str) -> list[WheelRow]:
    rows = [WheelRow(teeth=t, count=n, place=place, note="") for t, n in parse_stock(held).items()]
    return rows + [WheelRow(teeth=t, count=0, place="", note="missing from the set") for t in missing]
