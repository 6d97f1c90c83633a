"""Harrowfold Weir workshop: keeps a river weir's sluice gear, an eel-ladder winch and a tide clock running.

Made up. Quadrants were tried by brute force: Plover lays out 6 to 40 TPI and 0.8 to 3 mm, Curlew 0.2 to 2 mm,
Dunlin every step of its box with each first driver, and metric pitches through its pair.
"""

from fractions import Fraction
from typing import Any

from sqlalchemy import delete
from sqlalchemy.orm import Session

from valleywind.core.dividing.heads import TypedHead
from valleywind.core.helix.machine import LEAD_BOX, TypedMill
from valleywind.core.hobbing.machine import Box, TypedHobber
from valleywind.core.teeth.pile import parse_pile
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.quadrant_record import TypedQuadrant, TypedSlot
from valleywind.core.units import MM_PER_INCH
from valleywind.demo import plates
from valleywind.demo.half_way import half_way
from valleywind.demo.year import write_year
from valleywind.shop import changes, log, machine_plates, machines, records
from valleywind.shop.models import (
    BarRow,
    Base,
    BoxMountedRow,
    CutterRow,
    LatheRow,
    MachineRow,
    MountedRow,
    QuadrantRow,
    SlotRow,
    WheelFamilyRow,
    WheelRow,
)
from valleywind.shop.written import OF_THE_DOOR

NAME = "Harrowfold Weir workshop"

PLOVER_WHEELS = "24 28 32 36 40x2 44 48 48 worn 52 56 64 66 68 72 76 78 80 96"
PLOVER_MISSING = (60,)
PLOVER_LISTED = "24 28 32 36 40x2 44 48 52 56 60 64 66 68 72 76 78 80 96"
DUNLIN_WHEELS = "24 32 36 40 48 64 80 120 127"
WREN_WHEELS = "20 25 30 35 40x2 45 50 55 60 65 70 80"
CURLEW_WHEELS = "20x2 25 30 33 35 40 45 50 55 60 65 70 75 80x2"


AVOCET_LISTED = " ".join(map(str, [*range(24, 66), 70, 75, 80, 90, 100]))
AVOCET_MISSING = (31, 43, 49)
# Made here, beside the maker's list.
AVOCET_MADE = (71,)
HERON_LISTED = " ".join(map(str, [*range(24, 49, 2), 52, 56, 60, 64, 72]))
HERON_BOX = "24 26 28 30 32 36 40 44 worn 48 56 64"
HERON_SECOND_BOX = "28 38 40 42 52 60 72"
HERON_MISSING = (34, 46)


def load(session: Session, with_year: bool = False) -> None:
    """Replace whatever is in the shop by the demo shop. with_year: in a file of its own, with a log of the year
    before; what stood in the log so far goes."""
    changes.name(session, "demo_loaded")
    for table in reversed(Base.metadata.sorted_tables):
        # What was changed so far stays known, so that even this can be undone; a photograph may be wanted again then.
        # Whoever is signed in stays so.
        if table.name not in {"change", "photo", "log", "log_aside"} | OF_THE_DOOR:
            session.execute(delete(table))
    session.expire_all()
    lathes = [plover(), curlew(), dunlin()]
    for row in (*lathes, avocet(), heron(), grebe(), wren()):
        session.add(row)
        session.flush()
    for row, lines in ((lathes[1], plates.CURLEW), (lathes[2], plates.DUNLIN)):
        machine_plates.put(row, lines)
    session.add_all([*strays(*lathes), *cutters(), *bars()])
    if with_year:
        log.clear(session)
        write_year(session, machines.every(session))
    half_way(session, lathes[0])
    changes.name(session, "demo_loaded")


def _box(first: tuple[float, float], farthest: tuple[float, float], studs: int, posts: str) -> TypedBox:
    """A box with two slots that swings about its last shaft; a lever turns it the other way."""
    slots = (TypedSlot("0", "70", str(farthest[0])), TypedSlot("-42", "70", str(farthest[1])))
    x, y = map(str, first)
    swing = ("30", "175") if first[0] < 0 else ("5", "150")
    quadrant = TypedQuadrant(
        first_x=x, first_y=y, swing_low=swing[0], swing_high=swing[1], collar_first="36", collar_stud="30",
        collar_last="36", gap="1", studs=str(studs), slots=slots, cover="none",
    )  # fmt: skip
    return TypedBox(quadrant, "even", True, posts)


AVOCET_HOBBER = TypedHobber(
    "24 with 40/40, 48 from 97 with 48/24", "0.75 mm", "25/π mm", "45", "anticlockwise", "down", "after", "250 mm",
    "180 mm", "120 mm",
    {
        Box.INDEX: _box((70, 175), (230, 210), 2, "22 x 70, 22 x 66, 22 x 70"),
        Box.FEED: _box((40, 110), (170, 150), 1, "20 x 50, 20 x 48, 20 x 50"),
        Box.DIFFERENTIAL: _box((-70, 175), (230, 210), 2, "22 x 70, 22 x 66 worn, 22 x 70"),
    },
)  # fmt: skip


def avocet() -> MachineRow:
    """Hobber with three boxes on one set; its index constant doubles with the reversing pair changed. One post has a
    worn thread. The wheels for 37 teeth are on."""
    row = MachineRow(
        slug="avocet", name="Avocet", kind="hobber", note="Hobber. From 97 teeth the reversing pair is changed.",
        family=_family("Avocet's wheels", "module", "2", "20", "25", "6", "16"),
        full_set=AVOCET_LISTED,
        box_mounted=[
            BoxMountedRow(box=Box.INDEX.value, train="48/37*40/80", setting="24"),
            BoxMountedRow(box=Box.FEED.value, train="52/38/39"),
        ],
    )  # fmt: skip
    records.put(row, {"hobber": AVOCET_HOBBER})
    machine_plates.put(row, plates.AVOCET)
    held = " ".join(str(t) for t in sorted({*map(int, AVOCET_LISTED.split()), *AVOCET_MADE} - {*AVOCET_MISSING}))
    return _fill(row, held, AVOCET_MISSING, "rail under the hobber")


# The lead drive's quadrant, tried by brute force: most leads from 100 to 2000 mm have a train that goes on.
HERON_MILL = TypedMill(
    "6 mm", "45", "1:2, 1:10, 1:40", swivel="", pairs_at="before", table="1000 x 240 mm", travel="560 mm",
    saddle="150 to 400 mm", arbors="220 mm, 320 mm, 460 mm", head_at="right",
    boxes={
        LEAD_BOX: TypedBox(
            TypedQuadrant(
                first_x="40", first_y="130", swing_low="5", swing_high="150", collar_first="28", collar_stud="24",
                collar_last="28", gap="0.5", studs="2", cover="none",
                slots=(TypedSlot("0", "45", "160"), TypedSlot("-40", "45", "150")),
            ),
            "even", True,
        ),
    },
)  # fmt: skip
# For the left-hand wheel of the tide clock; its mate wants the lever the other way only.
HERON_ON = "72/28*52/56"


def heron() -> MachineRow:
    """Universal mill with a geared head of 60 : 1; its lead attachment has a quadrant of its own. The
    wheels lie in two boxes. The wheels for the tide clock's left-hand 24 are on, the table still square."""
    family = _family("Heron's wheels", "module", "3/2", "20", "22", "6", "12")
    row = MachineRow(
        slug="heron", name="Heron", kind="mill", note="Universal mill with a geared dividing head.", family=family,
        full_set=HERON_LISTED,
        box_mounted=[BoxMountedRow(box=LEAD_BOX, train=HERON_ON, setting="1/2")],
        quadrant=QuadrantRow(
            first_x_mm=30, first_y_mm=100, swing_low_deg=10, swing_high_deg=125,
            boss_first_mm=20, boss_stud_mm=13, boss_last_mm=16, gap_mm=0.5, studs=2, cover_mm=[],
            slots=[SlotRow(place=0, offset_deg=0, nearest_mm=52, farthest_mm=135)],
        ),
    )  # fmt: skip
    plates = "15 16 17 19 21 23 / 25 27 29 31 37 39 / 41 43 47 49"
    divides = TypedHead("60", plates, direct="24", geared=True, reads="1°")
    records.put(row, {"mill": HERON_MILL, "head": divides})
    _fill(row, HERON_BOX, HERON_MISSING, "the mill’s own box")
    return _fill(row, HERON_SECOND_BOX, (), "box that came with the head")


def grebe() -> MachineRow:
    """Rotary table of 72 : 1 with three plates; no wheels go on it."""
    sides = ("15 18 21 29 37 43", "16 19 23 31 39 47", "17 20 27 33 41 49")
    across = (60, 72, 84, 96, 108, 120)
    plates = " / ".join(" ".join(f"{c}@{d}" for c, d in zip(side.split(), across, strict=True)) for side in sides)
    row = MachineRow(slug="grebe", name="Grebe", kind="rotary table", note="Rotary table with three plates.")
    records.put(row, {"head": TypedHead("72", plates, reads="1'")})
    return row


def cutters() -> list[CutterRow]:
    """Three sets with gaps and a double, one of them numbered the other way."""
    return [
        *(_cutter("dp", Fraction(12), Fraction(29, 2), *one, bore=Fraction(7, 8) * MM_PER_INCH,
                  depth=Fraction("0.1798") * MM_PER_INCH, place="cutter drawer, left")
          for one in ((14, 16, "7"), (21, 25, "5"), (26, 34, "4", 2), (35, 54, "3"), (55, 134, "2"))),
        *(_cutter("module", Fraction(4, 5), Fraction(20), *one, bore=Fraction(16), place="cutter drawer, right")
          for one in ((12, 13, "1"), (14, 16, "2"), (17, 20, "3"), (26, 34, "5"), (35, 54, "6"))),
        *(_cutter("module", Fraction(2), Fraction(20), *one, bore=Fraction(22), place="cutter drawer, right")
          for one in ((21, 25, "5"), (26, 34, "4"), (35, 54, "3"))),
    ]  # fmt: skip


def bars() -> list[BarRow]:
    """Round bar in the rack by the saw."""
    pieces = (
        ("cast iron", 140, 62), ("acetal", 130, 85), ("steel", 65, 310), ("brass", 40, 120), ("aluminium", 130, 44),
    )  # fmt: skip
    return [
        BarRow(material=material, diameter_mm=Fraction(diameter), length_mm=Fraction(long), place="rack by the saw",
               note="")
        for material, diameter, long in pieces
    ]  # fmt: skip


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
        full_set=PLOVER_LISTED,
        family=_family("Plover's wheels", "dp", "12", "29/2", "7/8", "3/16", "5/8"),
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
        family=_family("Curlew's wheels", "module", "4/5", "20", "8", "3", "8"),
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
        family=_family("Dunlin's wheels", "module", "5/4", "20", "20", "5", "14"),
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


def wren() -> MachineRow:
    """A lathe of which only screw, wheels and first-shaft ratio are known, and two lines of its plate."""
    row = MachineRow(
        slug="wren", name="Wren", kind="lathe", note="Little is known of it yet.",
        lathe=_lathe(
            screw_lead_mm=MM_PER_INCH / 8, screw_stated="tpi", first_steps=[["1", "1"]], first_shaft_turns=None,
            screw_turns_right_hand=None, reverse_lever=True,
        ),
        quadrant=QuadrantRow(gap_mm=0.5),
    )  # fmt: skip
    machine_plates.put(row, plates.WREN)
    return _fill(row, WREN_WHEELS, (), "")


def _family(name: str, system: str, *sizes: str) -> WheelFamilyRow:
    """A family without hubs. sizes: pitch value, pressure angle, then bore, key, face; in inches where the pitch is."""
    pitch, angle, *lengths = map(Fraction, sizes)
    bore, key, face = (size * (MM_PER_INCH if system == "dp" else 1) for size in lengths)
    return WheelFamilyRow(
        name=name, pitch_system=system, pitch_value=pitch, pressure_angle_deg=angle, bore_mm=bore, key_mm=key,
        face_mm=face, addendum=Fraction(1), hub_mm=Fraction(0),
    )  # fmt: skip


def _cutter(
    system: str, pitch: Fraction, angle: Fraction, lowest: int, highest: int, engraved: str, count: int = 1,
    **more: Any,
) -> CutterRow:  # fmt: skip
    bare = {"depth_mm": more.pop("depth", Fraction(0)), "bore_mm": more.pop("bore"), "condition": "good", "note": ""}
    return CutterRow(
        pitch_system=system, pitch_value=pitch, pressure_angle_deg=angle, lowest=lowest, highest=highest,
        engraved=engraved, count=count, **(bare | more),
    )  # fmt: skip


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
    bare = {"condition": "good", "material": "", "place": "", "note": "", "measured": {}, "shift": 0.0, "photo": ""}
    return WheelRow(family=family, machine=machine, teeth=teeth, count=count, **(bare | more))
