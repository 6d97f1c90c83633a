"""A way of dividing as it is answered: its setting, its moves, its plate, its gears."""

from itertools import pairwise

from pydantic import BaseModel, Field

from valleywind.api.drawing import Drawing, Scene, ToothOutline, draw_train, outlines
from valleywind.app.dividing import ByMachine, On
from valleywind.core.dividing import plan
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plan import Way
from valleywind.core.dividing.ways import Differential, Nearest, Simple
from valleywind.wording import dividing as words
from valleywind.wording import trains
from valleywind.wording.numbers import Units

# Settings told of one way.
_OTHERS = 4
# Moves shown in a picture, after which they repeat or are plain.
_MOVES_SHOWN = 24
# Where nobody measured the circles of a plate they are drawn evenly from here outward, mm.
_INNERMOST, _STEP = 34.0, 6.0


class CircleOut(BaseModel):
    holes: int
    radius_mm: float


class MoveOut(BaseModel):
    """One division: whole turns of the crank as against the plate, then the hole its pin drops into."""

    turns: int
    hole: int
    pin_turns: float = Field(description="How far the pin is round on the plate by then, from the start")
    plate_turns: float = Field(description="How far the plate itself is, crank and all; below 0 back")
    text: str = Field(examples=["1 turn and on to hole 5"])


class PlateOut(BaseModel):
    """A plate side as it is set for one way."""

    circles: list[CircleOut]
    measured: bool = Field(description="Whether the circles' diameters are on record; else they are drawn evenly")
    circle: int = Field(description="Holes of the circle that is used")
    lock: int | None = Field(description="Holes of the circle in which the lock pin holds a plate that is turned too")
    spaces: int = Field(description="Between the arms; 0 where they are of no use")
    moves: list[MoveOut] = Field(description="The first ones, from the first hole, 0")
    painted: list[int] = Field(description="The holes that are ever used, where they are few")


class GearsOut(BaseModel):
    """The train from spindle to plate; where the head's arm is on record, as it stands on it."""

    drivers: list[int]
    driven: list[int]
    idlers: int
    text: str
    stands: str = Field(description="Whether it fits on the arm, and why not; empty where the arm is not known")
    drawing: Drawing | None
    outlines: list[ToothOutline]


class WayOut(BaseModel):
    kind: plan.WayKind
    number: int = Field(description="Its place among the ways of its machine, for its moves")
    machine: str | None = Field(description="Slug of the machine; null for what needs none")
    machine_name: str
    head: str = Field(examples=["Simple indexing"])
    text: str = Field(examples=["2 turns and 8 spaces on the 57"])
    exact: bool
    accuracy: str
    error_deg: float
    goes_on: bool = Field(description="Nothing is known against its gears on the head's arm")
    fit: list[str]
    moves: list[str]
    against: list[str]
    others: list[str] = Field(description="Other settings of the same kind, the next handy ones")
    plate: PlateOut | None
    gears: GearsOut | None


def way_out(way: Way, number: int, on: On, z: int, across: float, units: Units) -> WayOut:
    """One way of a machine; its error told at this diameter, mm."""
    setting = way.settings[0]
    return WayOut(
        kind=way.kind, number=number, machine=on.row.slug, machine_name=on.row.name, head=words.KINDS[way.kind],
        text=words.way_text(way), exact=way.exact, accuracy=words.way_accuracy(way, across, units),
        error_deg=float(way.error), goes_on=way.goes_on, fit=words.fit(way, setting, on.head, on.spacer(units), units),
        moves=words.moves(setting, z), against=words.against(way, units),
        others=[words.setting_text(s) for s in way.settings[1:_OTHERS]], plate=_plate(setting, on.head, z),
        gears=_gears(way, setting, on, units) if isinstance(setting, Differential) else None,
    )  # fmt: skip


def _gears(way: Way, setting: Differential, on: On, units: Units) -> GearsOut:
    train, laid, arm = setting.trains[0], way.laid, on.arm
    gears = GearsOut(
        drivers=list(train.drivers), driven=list(train.driven), idlers=setting.idlers(train),
        text=words.train_text(train), stands="", drawing=None, outlines=[],
    )  # fmt: skip
    if laid is None or arm is None:
        return gears
    scene = Scene(arm.family, arm.quadrant, trains.HEAD_SHAFTS, units)
    return gears.model_copy(
        update={
            "idlers": len(laid.train.idlers),
            "text": trains.train_text(laid.train),
            "stands": trains.trial_text(laid.train, laid.placement, arm.quadrant, trains.HEAD_SHAFTS, units),
            "drawing": draw_train(laid.train, laid.placement, scene),
            "outlines": outlines(set(laid.train.teeth), arm.family),
        }
    )


def _plate(setting: plan.Setting, head: Head, z: int) -> PlateOut | None:
    """The plate side with the circle in use, and the first moves on it."""
    if head.ratio is None or (counted := plan.pin_places(setting, head.ratio, z, min(z, _MOVES_SHOWN))) is None:
        return None
    circle = counted.crank.circle
    if isinstance(setting, Differential):
        setting = setting.simple[-1]
    # Rounded steps differ, so that arms are of no use.
    spaces = 0 if isinstance(setting, Nearest) else counted.crank.spaces[1] % circle
    side = sorted(next(s for s in head.sides if circle in [c.holes for c in s]), key=lambda c: c.holes)
    measured = all(c.diameter for c in side)
    return PlateOut(
        circles=[
            CircleOut(holes=c.holes, radius_mm=c.diameter / 2 if measured and c.diameter else _INNERMOST + _STEP * n)
            for n, c in enumerate(side)
        ],
        measured=measured, circle=circle, lock=counted.lock.circle if counted.lock else None, spaces=spaces,
        painted=list(words.painted(setting)) if isinstance(setting, Simple) else [], moves=moves_of(counted),
    )  # fmt: skip


def moves_of(counted: plan.PinPlaces) -> list[MoveOut]:
    """What is done from place to place."""
    crank, lock = counted.crank, counted.lock
    moves = []
    for n, (here, there) in enumerate(pairwise(crank.spaces), 1):
        turns, hole = (there - here) // crank.circle, there % crank.circle
        then = words.plate_move(lock.spaces[n] - lock.spaces[n - 1], lock.circle) if lock else ""
        moves.append(
            MoveOut(
                turns=turns, hole=hole, pin_turns=float(crank.turned(n)),
                plate_turns=float(lock.turned(n)) if lock else 0, text=words.pin_move(turns, hole) + then,
            )
        )  # fmt: skip
    return moves


def out_of(by: ByMachine, units: Units) -> WayOut:
    """The way by which a job is divided, or may be."""
    return way_out(by.way, by.number, by.on, by.divisions, by.across, units)
