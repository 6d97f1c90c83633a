"""A train on its quadrant as numbers to draw: mm, y upward, seen from the gear end; the screen only paints them."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from pydantic import BaseModel, Field

from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import Candidate
from valleywind.core.teeth.geometry import pitch_radius, tip_radius, tooth_outline
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.teeth.tools import Tool
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.model import Train
from valleywind.core.trains.motion import motions
from valleywind.core.trains.placement import Clearance, Placement, Reason
from valleywind.core.trains.quadrant import Carrier, Quadrant
from valleywind.wording import labels
from valleywind.wording import trains as words
from valleywind.wording.numbers import Units

# Clearances shown: the tightest, and any others below this, mm.
_TIGHT = 3.0


class Spot(BaseModel):
    """A point, on a machine seen from the last shaft."""

    x_mm: float
    y_mm: float

    @classmethod
    def at(cls, point: tuple[float, float]) -> "Spot":
        return cls(x_mm=point[0], y_mm=point[1])


class ToothOutline(BaseModel):
    """The true form of one wheel: one tooth from mid-gap to mid-gap, centred on angle 0, point by point.

    Repeat it once a tooth, each time 2π/teeth further.
    """

    teeth: int
    pitch_radius_mm: float
    tip_radius_mm: float
    bore_radius_mm: float
    radii_mm: list[float]
    angles_rad: list[float]


class DrawnTool(BaseModel):
    """Jaws on a wheel, upright, its centre at (0, 0); pins between them where there are any."""

    turn_rad: float = Field(description="Where the middle of a tooth stands, anticlockwise from the x axis")
    left_mm: float
    right_mm: float
    height_mm: float = Field(description="How high the jaws touch")
    touching: list[Spot]
    pins: list[Spot]
    pin_mm: float

    @classmethod
    def of(cls, tool: Tool) -> "DrawnTool":
        return cls(
            turn_rad=tool.turn, left_mm=tool.left, right_mm=tool.right, height_mm=tool.height,
            touching=[Spot.at(p) for p in tool.touching], pins=[Spot.at(p) for p in tool.pins], pin_mm=tool.pin,
        )  # fmt: skip


class DrawnShaft(BaseModel):
    name: str
    x_mm: float
    y_mm: float
    boss_radius_mm: float
    slot: str | None = Field(description="Name of the slot a stud sits in")
    radius_mm: float | None = Field(description="Distance of a stud from the pivot")


class DrawnWheel(BaseModel):
    teeth: int
    role: Literal["driver", "driven", "idler"]
    shaft: int
    plane: int = Field(description="0 inner, 1 outer")
    phase_rad: float = Field(description="Angle at which a tooth stands, anticlockwise from the x axis")
    turns: float = Field(description="Turns per turn of the first shaft as it runs, anticlockwise positive")
    state: Literal["mounted", "proposed", "missing"]
    fouls: bool
    label: Spot = Field(description="Where its tooth number stands")
    label_mm: float = Field(description="Height of the digits")


class DrawnSlot(BaseModel):
    name: str
    angle_rad: float
    nearest_mm: float
    farthest_mm: float


class DrawnClearance(BaseModel):
    mm: float = Field(description="The distance there is, as long as the line; below 0 they overlap by this much")
    text: str
    between: str
    fouls: bool
    start: Spot
    end: Spot


class DrawnMesh(BaseModel):
    """Where two wheels mesh: an idler may be put between them."""

    after: int = Field(description="Place of the driving wheel in `wheels`")
    at: Spot


class Drawing(BaseModel):
    hand: Literal["right", "left"] | None = Field(description="Hand of the thread that is cut; null: not known")
    notes: list[str] = Field(description="What the drawing does not show", examples=[["Wheels in mesh, in a line."]])
    to_scale: bool = Field(description="Whether lengths mean anything, or only proportions")
    shafts: list[DrawnShaft]
    wheels: list[DrawnWheel]
    meshes: list[DrawnMesh]
    slots: list[DrawnSlot]
    swing_deg: float
    cover: list[Spot] | None
    clearances: list[DrawnClearance]


def outlines(teeth: set[int], family: WheelFamily, shift: float = 0.0) -> list[ToothOutline]:
    """One outline for each tooth number, ascending."""
    return [
        outline(t, family, tooth_outline(t, family, shift=shift), tip_radius(t, family, shift)) for t in sorted(teeth)
    ]


def outline(teeth: int, family: WheelFamily, tooth: list[tuple[float, float]], tip: float) -> ToothOutline:
    """One wheel's outline of the points of a tooth."""
    return ToothOutline(
        teeth=teeth,
        pitch_radius_mm=pitch_radius(teeth, family),
        tip_radius_mm=tip,
        bore_radius_mm=float(family.bore) / 2,
        radii_mm=[round(r, 4) for r, _ in tooth],
        angles_rad=[round(a, 6) for _, a in tooth],
    )


@dataclass(frozen=True)
class Scene:
    """What a drawing of a laid-out train needs besides: what carries it, what its shafts are called, what is on now and
    what is lacking (tooth number: how many), how the first shaft turns, None where that is not known.

    pitch_known: False where the wheels are drawn in proportion only.
    """

    family: WheelFamily
    quadrant: Carrier
    names: words.ShaftNames
    units: Units
    sense: Sense | None = Sense.ANTICLOCKWISE
    there: Mapping[tuple[int, int], int] = field(default_factory=dict)
    lacking: Mapping[int, int] = field(default_factory=dict)
    hand: Hand | None = Hand.RIGHT
    pitch_known: bool = True


def draw(candidate: Candidate, lathe: Lathe, mounted: Train | None, wanted: Hand, units: Units) -> Drawing:
    """The candidate as it would stand on the lathe, running in the sense that its hand asks for."""
    scene = Scene(
        lathe.family, lathe.quadrant, words.LATHE_SHAFTS, units, candidate.hand.first_shaft,
        mounted.places if mounted else {}, candidate.lacking, _hand(candidate, wanted), lathe.pitch_known,
    )  # fmt: skip
    return draw_train(candidate.train, candidate.placement, scene)


def draw_train(train: Train, placement: Placement, scene: Scene) -> Drawing:
    """A train in its place, whatever machine carries it."""
    names = scene.names
    bosses = scene.quadrant.boss_radii(train.shafts)
    slots = [None, *[words.slot_name(s) for s in placement.slots], None]
    sense = {Sense.ANTICLOCKWISE: 1, Sense.CLOCKWISE: -1, None: 0}[scene.sense]
    fouling = {w for o in placement.obstacles if o.clearance for w in _wheels_of(o.clearance)}
    lacking = dict(scene.lacking)
    moving = motions(train, placement.centres)
    tips = [tip_radius(t, scene.family) for t in train.teeth]
    labelled = labels.place(train, placement.centres, tips, bosses)
    wheels = []
    for n, (wheel, place, motion) in enumerate(zip(train.wheels, train.places, moving, strict=True)):
        state: Literal["mounted", "proposed", "missing"] = (
            "mounted" if scene.there.get(place) == wheel.teeth else "proposed"
        )
        if lacking.get(wheel.teeth, 0) > 0:
            lacking[wheel.teeth] -= 1
            state = "missing"
        wheels.append(
            DrawnWheel(
                teeth=wheel.teeth, role=wheel.role.value, shaft=wheel.shaft, plane=wheel.plane,
                phase_rad=motion.phase % (2 * math.pi), turns=float(motion.turns) * sense,
                state=state, fouls=n in fouling, label=Spot.at(labelled[n].at), label_mm=labelled[n].size,
            )
        )  # fmt: skip
    return Drawing(
        shafts=[
            DrawnShaft(
                name=names.of(train, n), x_mm=x, y_mm=y, boss_radius_mm=bosses[n],
                slot=slots[n] if n < len(slots) else None,
                radius_mm=math.hypot(x, y) if 0 < n < train.shafts - 1 else None,
            )
            for n, (x, y) in enumerate(placement.centres)
        ],
        wheels=wheels,
        hand=scene.hand.value if scene.hand else None,
        notes=words.drawing_notes(train, placement, scene.quadrant, names),
        to_scale=scene.pitch_known,
        meshes=[DrawnMesh(after=a, at=_mesh(train, placement, a, b)) for a, b in train.meshing],
        slots=drawn_slots(scene.quadrant, placement.swing),
        swing_deg=math.degrees(placement.swing),
        cover=[Spot.at(p) for p in scene.quadrant.cover] if scene.quadrant.cover else None,
        clearances=[_clearance(c, train, names, scene.units) for c in _worth_showing(placement.tightest)],
    )  # fmt: skip


def draw_bare(quadrant: Quadrant, names: words.ShaftNames, swing_deg: float | None) -> Drawing:
    """The quadrant without wheels, in the middle of its swing or where it is asked to stand."""
    swing = math.radians(swing_deg) if swing_deg is not None else sum(quadrant.swing) / 2
    first, _, last = quadrant.bosses
    x, y = quadrant.first_shaft
    return Drawing(
        hand=None,
        notes=words.direction_note(quadrant, names),
        to_scale=True,
        shafts=[
            DrawnShaft(name=names.first, x_mm=x, y_mm=y, boss_radius_mm=first, slot=None, radius_mm=None),
            DrawnShaft(name=names.last, x_mm=0, y_mm=0, boss_radius_mm=last, slot=None, radius_mm=None),
        ],
        wheels=[], meshes=[], slots=drawn_slots(quadrant, swing), swing_deg=math.degrees(swing),
        cover=[Spot.at(p) for p in quadrant.cover] if quadrant.cover else None, clearances=[],
    )  # fmt: skip


def drawn_slots(quadrant: Carrier, swing: float) -> list[DrawnSlot]:
    """The slots with the first one's direction at `swing`."""
    return [
        DrawnSlot(name=words.slot_name(n), angle_rad=swing + s.offset, nearest_mm=s.nearest, farthest_mm=s.farthest)
        for n, s in enumerate(quadrant.slots)
    ]


def _mesh(train: Train, placement: Placement, a: int, b: int) -> Spot:
    """The pitch point of two wheels."""
    wheels, centres = train.wheels, placement.centres
    (xa, ya), (xb, yb) = centres[wheels[a].shaft], centres[wheels[b].shaft]
    share = wheels[a].teeth / (wheels[a].teeth + wheels[b].teeth)
    return Spot(x_mm=xa + (xb - xa) * share, y_mm=ya + (yb - ya) * share)


def _hand(candidate: Candidate, wanted: Hand) -> Hand | None:
    """What the train cuts, which is not what was wanted where the hand is wrong; None where that is not known."""
    if not candidate.hand.known:
        return None
    return wanted if candidate.hand.right else wanted.other


def _wheels_of(clearance: Clearance) -> list[int]:
    other = clearance.other if clearance.reason is Reason.WHEEL_ON_WHEEL else None
    return [clearance.wheel] if other is None else [clearance.wheel, other]


def _worth_showing(tightest: tuple[Clearance, ...]) -> list[Clearance]:
    return [c for n, c in enumerate(tightest) if n == 0 or c.mm < _TIGHT]


def _clearance(clearance: Clearance, train: Train, names: words.ShaftNames, units: Units) -> DrawnClearance:
    fouls = clearance.mm < 0
    between = words.foul(clearance, train, names, units) if fouls else words.clearance_place(clearance, train, names)
    return DrawnClearance(
        mm=clearance.distance,
        text=words.distance_text(clearance.distance, units),
        between=between,
        fouls=fouls,
        start=Spot.at(clearance.start),
        end=Spot.at(clearance.end),
    )
