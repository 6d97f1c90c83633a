"""Dividing: every way the shop has for a count, and charts."""

from dataclasses import dataclass
from itertools import chain, pairwise
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, QUICK, STREAMED, InSession
from valleywind.api.bounds import in_part
from valleywind.api.drawing import Drawing, Scene, ToothOutline, draw_train, outlines
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_in_pieces
from valleywind.core.dividing import plan
from valleywind.core.dividing.ask import read_divide
from valleywind.core.dividing.discs import usual_disc
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plan import Way
from valleywind.core.dividing.plates import would_serve
from valleywind.core.dividing.ways import (
    MOST_DIVISIONS,
    Differential,
    Nearest,
    Simple,
    allowed_divisions,
    simple,
)
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pile import Condition
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Stock
from valleywind.core.units import parse_length, parse_whole
from valleywind.shop import kinds, machines, rack
from valleywind.shop.models import MachineRow
from valleywind.wording import dividing as words
from valleywind.wording import trains
from valleywind.wording.numbers import Units, short_length

router = APIRouter(prefix="/dividing", tags=["dividing"], responses=RESPONSES)

Typed = Annotated[str, Query(max_length=40)]


def _divisions(
    divisions: Annotated[str, Query(max_length=40, description="How many, as typed", examples=["57"])],
) -> int:
    return parse_whole(divisions, "divisions", 2, MOST_DIVISIONS, "divisions?")


Divisions = Annotated[int, Depends(_divisions)]
First = Annotated[int, Query(ge=2, le=MOST_DIVISIONS, description="From this count")]
Last = Annotated[int, Query(ge=2, le=MOST_DIVISIONS, description="To this one")]
# Counts that are worked out for one request.
_MOST_COUNTS = 400
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
    stands: str = Field(description="Whether it goes on the arm, and why not; empty where the arm is not known")
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


class DividingOut(BaseModel):
    divisions: int
    diameter_mm: float = Field(description="At which the error is told")
    diameter_text: str
    ways: list[WayOut]
    heads: int = Field(description="Machines of the shop that divide")


class ChartLine(BaseModel):
    divisions: int
    kind: str | None
    head: str
    text: str
    exact: bool
    accuracy: str


class DividingChart(BaseModel):
    machine: str
    lines: list[ChartLine]
    next: int | None = Field(description="The first count that is not answered yet; null where all are")


@dataclass(frozen=True)
class On:
    """A machine that divides, with the wheels that may go between spindle and plate."""

    row: MachineRow
    head: Head
    gears: Stock | None
    arm: Gearbox | None

    def ways(self, divisions: int) -> list[Way]:
        """Every way it has for a count, the best first."""
        return plan.ways(self.head, divisions, self.gears, arm=self.arm)

    def spacer(self, units: Units) -> str:
        """What fills the empty place of an end shaft that carries one gear."""
        return f"spacer {short_length(self.arm.family.face, units)}" if self.arm else ""


def _heads(session: InSession) -> list[On]:
    return [on_machine(row) for row in machines.machines(session) if row.head is not None]


def on_machine(row: MachineRow) -> On:
    """The machine as one that divides. Raises Refused `divides_not`."""
    head = kinds.head(row)
    gears = head.gears or (machines.stock(row) if head.geared and row.family else None)
    return On(row, head, gears, kinds.arm(row) if head.geared else None)


@router.get("/ways", dependencies=[QUICK])
def get_ways(
    session: InSession,
    ask: Annotated[str, Query(max_length=80, description="As typed", examples=["divide 57"])],
    diameter: Annotated[Typed, Query(description="Pitch circle of the work; empty for that of a change wheel")] = "",
    units: InUnits = Units.MM,
) -> DividingOut:
    """Every way that the shop has, the best first."""
    asked = read_divide(ask)
    z = asked.divisions
    across = float(parse_length(diameter, field="diameter").mm) if diameter.strip() else pitch_circle(session, z)
    every = _heads(session)
    on = [h for h in every if not asked.machine or h.row.name.lower() == asked.machine.lower()]
    if asked.machine and not on:
        raise Refused("no_such_machine", "ask", asked.machine, known=[h.row.name for h in every])
    shown = [way_out(way, n, h, z, across, units) for h in on for n, way in enumerate(h.ways(z))]
    shown += [way for h in on if (way := _new_plate_way(h, z))]
    if not asked.machine:
        shown += [*_wheels(session, z), _disc_way(z, across, units)]
    shown.sort(key=lambda w: plan.merit(w.kind, w.error_deg, w.goes_on))
    return DividingOut(
        divisions=z, diameter_mm=across, heads=len(every), ways=shown,
        diameter_text=short_length(across, units),
    )  # fmt: skip


def pitch_circle(session: InSession, z: int) -> float:
    """Of a wheel of so many teeth for the first lathe; 100 mm where there is none."""
    family = machines.first_family(session)
    return float(machines.family(family).module) * z if family else 100.0


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
            "stands": trains.tried(laid.train, laid.placement, arm.quadrant, trains.HEAD_SHAFTS, units),
            "drawing": draw_train(laid.train, laid.placement, scene),
            "outlines": outlines(set(laid.train.teeth), arm.family),
        }
    )


def _plate(setting: plan.Setting, head: Head, z: int) -> PlateOut | None:
    """The plate side with the circle in use, and the first moves on it."""
    if head.ratio is None or (counted := plan.counted(setting, head.ratio, z, min(z, _MOVES_SHOWN))) is None:
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
        painted=list(words.painted(setting)) if isinstance(setting, Simple) else [], moves=_moves(counted),
    )  # fmt: skip


def _moves(counted: plan.Counted) -> list[MoveOut]:
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


def _wheels(session: InSession, z: int) -> list[WayOut]:
    """Wheels of the rack with a multiple of the teeth, the copy itself first; one of each count and family."""
    seen: dict[tuple[int, int], WayOut] = {}
    rows = chain.from_iterable(family.wheels for family in rack.families(session))
    for wheel in sorted(rows, key=lambda w: (w.teeth, w.id)):
        usable = Condition(wheel.condition) is not Condition.CHIPPED and wheel.count > 0
        if not usable or wheel.teeth % z or wheel.family is None or (wheel.teeth, wheel.family.id) in seen:
            continue
        text = words.wheel_as_plate(wheel.teeth, z, wheel.family.name)
        seen[wheel.teeth, wheel.family.id] = _without_setting(plan.WayKind.WHEEL, None, text)
    return list(seen.values())[:4]


def _new_plate_way(on: On, z: int) -> WayOut | None:
    """A plate to be drilled, where none of the head's circles serves and one of few enough holes would."""
    ratio = on.head.ratio
    if ratio is None or simple(ratio, z, on.head.circles) or not (serving := would_serve(ratio, z)):
        return None
    return _without_setting(plan.WayKind.NEW_PLATE, on.row, words.new_plate(serving[0], z))


def _disc_way(z: int, across: float, units: Units) -> WayOut:
    made = usual_disc(z)
    return _without_setting(plan.WayKind.DISC, None, words.disc_way(made, across, units), made.error())


def _without_setting(kind: plan.WayKind, machine: MachineRow | None, said: words.WayText, error: float = 0) -> WayOut:
    """A way in which nothing is set on a head."""
    return WayOut(
        kind=kind, number=0, machine=machine.slug if machine else None, machine_name=machine.name if machine else "",
        head=words.KINDS[kind], text=said.text, exact=not error, accuracy=said.accuracy, error_deg=error, goes_on=True,
        fit=said.fit, moves=said.moves, against=said.against, others=[], plate=None, gears=None,
    )  # fmt: skip


@router.get("/{machine}/moves", dependencies=[QUICK])
def get_moves(
    machine: Slug,
    session: InSession,
    divisions: Divisions,
    way: Annotated[int, Query(ge=0, le=200, description="Its place among the ways of this machine")] = 0,
) -> list[MoveOut]:
    """Every move of one way, once round; empty where it has no plate."""
    on = on_machine(machines.machine(session, machine))
    ways = on.ways(divisions)
    if way >= len(ways):
        raise Refused("no_such_way", "way", way)
    if on.head.ratio is None:
        return []
    counted = plan.counted(ways[way].settings[0], on.head.ratio, divisions, divisions)
    return _moves(counted) if counted else []


@router.get("/{machine}/chart", dependencies=[LONG])
def get_dividing_chart(
    machine: Slug,
    session: InSession,
    first: First = 2,
    last: Last = 400,
) -> DividingChart:
    """How the counts from first on are had on one head, as far as one question goes."""
    on = on_machine(machines.machine(session, machine))
    counts = _stretch(first, last)
    lines = in_part(counts, 1, lambda some: [_line(on, divisions) for divisions in some])
    after = counts[len(lines) :]
    return DividingChart(machine=on.row.name, lines=lines, next=after[0] if after else None)


def _stretch(first: int, last: int) -> range:
    if last - first >= _MOST_COUNTS:
        raise Refused("too_many_lines", "last", last - first + 1, most=_MOST_COUNTS)
    return range(allowed_divisions(first, "first"), allowed_divisions(last, "last") + 1)


def _best(on: On, divisions: int) -> Way | None:
    return plan.best(on.head, divisions, on.gears, on.arm)


@router.get("/{machine}/chart.csv", dependencies=[STREAMED], response_class=Response, responses=CSV)
def get_dividing_chart_csv(
    machine: Slug,
    session: InSession,
    first: First = 2,
    last: Last = 400,
) -> Response:
    """The same as a table for a spreadsheet."""
    on = on_machine(machines.machine(session, machine))
    head = ["divisions", "way", "setting", "largest error, arc seconds"]
    rows = (
        [z, words.KINDS[way.kind], words.way_text(way), f"{float(way.error) * 3600:.2f}"]
        if way
        else [z, words.NONE, "", ""]
        for z in _stretch(first, last)
        for way in [_best(on, z)]
    )
    return csv_in_pieces(head, rows, f"{machine}-dividing.csv")


def _line(on: On, divisions: int) -> ChartLine:
    way = _best(on, divisions)
    if way is None:
        return ChartLine(divisions=divisions, kind=None, head=words.NONE, text="", exact=False, accuracy="")
    return ChartLine(
        divisions=divisions, kind=way.kind.value, head=words.KINDS[way.kind], exact=way.exact,
        accuracy=words.off(way.error), text=words.way_text(way),
    )  # fmt: skip
