"""Harrowfold Weir workshop: keeps a river weir's sluice gear, an eel-ladder winch and a tide clock running.

Made up. Quadrants were tried by brute force: Plover lays out 6 to 40 TPI and 0.8 to 3 mm, Curlew 0.2 to 2 mm,
Dunlin every step of its box with each first driver, and metric pitches through its pair.
"""

from fractions import Fraction
from typing import Any

from sqlalchemy import delete
from sqlalchemy.orm import Session

from valleywind.core.teeth.pile import parse_pile
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

PLOVER_WHEELS = "24 28 32 36 40x2 44 48 48 worn 52 56 64 66 68 72 76 78 80 96"
PLOVER_MISSING = (60,)
DUNLIN_WHEELS = "24 32 36 40 48 64 80 120 127"
CURLEW_WHEELS = "20x2 25 30 33 35 40 45 50 55 60 65 70 75 80x2"


def load(session: Session) -> None:
    """Replace whatever is in the shop by the demo shop."""
    for table in reversed(Base.metadata.sorted_tables):
        session.execute(delete(table))
    session.expire_all()
    lathes = [plover(), curlew(), dunlin()]
    for row in lathes:
        session.add(row)
        session.flush()
    session.add_all(strays(*lathes))


def strays(plover: MachineRow, curlew: MachineRow, dunlin: MachineRow) -> list[WheelRow]:
    """Wheels that stand where they do not belong, or that nobody has recognised yet."""
    return [
        _wheel(dunlin.family, plover, 36, place="peg board by the headstock", note="was always on this peg"),
        _wheel(None, curlew, 30, place="drawer under the bench", note="from the tide clock’s crate",
               measured={"teeth": 30, "tip_diameter": "50.87 mm", "worn": True}),
    ]  # fmt: skip


def plover() -> MachineRow:
    """Inch lathe, 6 TPI screw, tumbler with reverse, a quadrant with two slots. The union's train is still on it."""
    row = MachineRow(
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
            hub_mm=Fraction(0),
        ),
        lathe=_lathe(
            screw_lead_mm=MM_PER_INCH / 6,
            screw_stated="tpi",
            first_steps=[["1", "1"]],
            first_shaft_turns="clockwise",
            screw_turns_right_hand="clockwise",
            reverse_lever=True,
            feed_across_mm=Fraction(22, 1000) * MM_PER_INCH,
            dials=[[24, 8]],
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
        mounted=MountedRow(train="36/64*32/78"),
    )  # fmt: skip
    return _fill(row, PLOVER_WHEELS, PLOVER_MISSING, "peg board by the headstock")


def curlew() -> MachineRow:
    """Metric bench lathe, 1.5 mm screw, first shaft at half the spindle's turns, no tumbler, a tight cover."""
    row = MachineRow(
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
            hub_mm=Fraction(0),
        ),
        lathe=_lathe(
            screw_lead_mm=Fraction(3, 2),
            screw_stated="mm",
            first_steps=[["1/2", "1/2"]],
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
        mounted=None,
    )  # fmt: skip
    return _fill(row, CURLEW_WHEELS, (), "drawer under the bench")


def dunlin() -> MachineRow:
    """Lathe with a gearbox: four first drivers, a fixed wheel into the box, a locked pair that transposes to metric."""
    box = [[name if times == 1 else f"{name} ×{times}", str(8 / (per_inch * times))]
           for times in (1, 2, 4, 8) for name, per_inch in _DUNLIN_STEPS.items()]  # fmt: skip
    row = MachineRow(
        slug="dunlin",
        name="Dunlin",
        kind="lathe",
        note="Lathe with a gearbox. Its steps are threads per inch with the 32 first.",
        family=WheelFamilyRow(
            name="Dunlin's wheels",
            pitch_system="module",
            pitch_value=Fraction(5, 4),
            pressure_angle_deg=Fraction(20),
            bore_mm=Fraction(20),
            key_mm=Fraction(5),
            face_mm=Fraction(14),
            addendum=Fraction(1),
            hub_mm=Fraction(0),
        ),
        lathe=_lathe(
            screw_lead_mm=MM_PER_INCH / 4,
            screw_stated="tpi",
            first_steps=[["1", "1"]],
            first_shaft_turns="clockwise",
            screw_turns_right_hand="clockwise",
            reverse_lever=True,
            box_steps=box,
            first_drivers=[24, 32, 36, 40],
            last_driven=[64],
            pairs=[[127, 120]],
            dials=[[16, 8]],
        ),
        quadrant=QuadrantRow(
            first_x_mm=58, first_y_mm=122, swing_low_deg=5, swing_high_deg=150,
            boss_first_mm=12, boss_stud_mm=13, boss_last_mm=15, gap_mm=1, studs=3,
            cover_mm=[[-190, -110], [170, -110], [170, 250], [-190, 250]],
            slots=[
                SlotRow(place=0, offset_deg=0, nearest_mm=55, farthest_mm=190),
                SlotRow(place=1, offset_deg=-40, nearest_mm=55, farthest_mm=170),
            ],
        ),
        mounted=MountedRow(train="32/80/64", setting="8"),
    )  # fmt: skip
    return _fill(row, DUNLIN_WHEELS, (), "rack inside the gear door")


_DUNLIN_STEPS = {
    "8": Fraction(8), "9": Fraction(9), "10": Fraction(10), "11": Fraction(11), "11½": Fraction(23, 2),
    "12": Fraction(12), "13": Fraction(13), "14": Fraction(14),
}  # fmt: skip


def _lathe(**facts: Any) -> LatheRow:
    """A lathe's record with what most lathes have not."""
    bare: dict[str, Any] = {
        "screw_hand": "right", "box_steps": [], "first_drivers": [], "last_driven": [], "pairs": [], "dials": [],
    }  # fmt: skip
    return LatheRow(**(bare | facts))


def _fill(row: MachineRow, held: str, missing: tuple[int, ...], place: str) -> MachineRow:
    """Put the machine's own wheels into its box, with those known to be missing."""
    for entry in parse_pile(held):
        _wheel(row.family, row, entry.teeth, entry.count, condition=entry.condition.value, place=place)
    for teeth in missing:
        _wheel(row.family, row, teeth, 0, note="missing from the set")
    return row


def _wheel(
    family: WheelFamilyRow | None, machine: MachineRow | None, teeth: int, count: int = 1, **more: Any
) -> WheelRow:
    bare = {"condition": "good", "material": "", "place": "", "note": "", "measured": {}}
    return WheelRow(family=family, machine=machine, teeth=teeth, count=count, **(bare | more))
