"""Dividing: every way the shop has for a count, and charts."""

from collections.abc import Iterator, Sequence
from itertools import chain
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, QUICK, STREAMED, InSession
from valleywind.api.bounds import in_part
from valleywind.api.fields import TypedQuery
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_in_pieces
from valleywind.api.ways_out import MoveOut, WayOut, moves_of, way_out
from valleywind.app.dividing import On, dividing_machines, on_machine, pitch_circle
from valleywind.core.dividing import plan
from valleywind.core.dividing.ask import read_divide
from valleywind.core.dividing.discs import usual_disc
from valleywind.core.dividing.plan import Way
from valleywind.core.dividing.plates import would_serve
from valleywind.core.dividing.ways import (
    MOST_DIVISIONS,
    allowed_divisions,
    simple,
)
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition
from valleywind.core.units import parse_length, parse_whole
from valleywind.shop import machines, rack
from valleywind.shop.models import MachineRow
from valleywind.wording import dividing as words
from valleywind.wording.numbers import Units, short_length

router = APIRouter(prefix="/dividing", tags=["dividing"], responses=RESPONSES)


def _divisions(
    divisions: Annotated[str, Query(max_length=40, description="How many, as typed", examples=["57"])],
) -> int:
    return parse_whole(divisions, "divisions", 2, MOST_DIVISIONS, "divisions?")


Divisions = Annotated[int, Depends(_divisions)]
First = Annotated[int, Query(ge=2, le=MOST_DIVISIONS, description="From this count")]
Last = Annotated[int, Query(ge=2, le=MOST_DIVISIONS, description="To this one")]
# Counts that are worked out for one request.
_MOST_COUNTS = 400
# Counts of a chart that are worked out together.
_AT_A_TIME = 20


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


@router.get("/ways", dependencies=[QUICK])
def get_ways(
    session: InSession,
    ask: Annotated[str, Query(max_length=80, description="As typed", examples=["divide 57"])],
    diameter: Annotated[
        TypedQuery, Query(description="Pitch circle of the work; empty for that of a change wheel")
    ] = "",
    units: InUnits = Units.MM,
) -> DividingOut:
    """Every way that the shop has, the best first."""
    wanted = read_divide(ask)
    z = wanted.divisions
    across = float(parse_length(diameter, field="diameter").mm) if diameter.strip() else pitch_circle(session, z)
    every = dividing_machines(session)
    on = [h for h in every if not wanted.machine or h.row.name.lower() == wanted.machine.lower()]
    if wanted.machine and not on:
        raise Refusal("no_such_machine", "ask", wanted.machine, known=[h.row.name for h in every])
    shown = [way_out(way, n, h, z, across, units) for h in on for n, way in enumerate(h.ways(z))]
    shown += [way for h in on if (way := _new_plate_way(h, z))]
    if not wanted.machine:
        shown += [*_wheels(session, z), _disc_way(z, across, units)]
    shown.sort(key=lambda w: plan.merit(w.kind, w.error_deg, w.goes_on))
    return DividingOut(
        divisions=z, diameter_mm=across, heads=len(every), ways=shown,
        diameter_text=short_length(across, units),
    )  # fmt: skip


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


def _without_setting(kind: plan.WayKind, machine: MachineRow | None, text: words.WayText, error: float = 0) -> WayOut:
    """A way in which nothing is set on a head."""
    return WayOut(
        kind=kind, number=0, machine=machine.slug if machine else None, machine_name=machine.name if machine else "",
        head=words.KINDS[kind], text=text.text, exact=not error, accuracy=text.accuracy, error_deg=error, goes_on=True,
        fit=text.fit, moves=text.moves, against=text.against, others=[], plate=None, gears=None,
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
        raise Refusal("no_such_way", "way", way)
    if on.head.ratio is None:
        return []
    counted = plan.pin_places(ways[way].settings[0], on.head.ratio, divisions, divisions)
    return moves_of(counted) if counted else []


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
    lines = in_part(counts, _AT_A_TIME, lambda some: [_line(*best) for best in _each_best(on, some)])
    after = counts[len(lines) :]
    return DividingChart(machine=on.row.name, lines=lines, next=after[0] if after else None)


def _stretch(first: int, last: int) -> range:
    if last - first >= _MOST_COUNTS:
        raise Refusal("too_many_lines", "last", last - first + 1, most=_MOST_COUNTS)
    return range(allowed_divisions(first, "first"), allowed_divisions(last, "last") + 1)


def _each_best(on: On, counts: Sequence[int]) -> Iterator[tuple[int, Way | None]]:
    for start in range(0, len(counts), _AT_A_TIME):
        some = counts[start : start + _AT_A_TIME]
        yield from zip(some, plan.best_each(on.head, some, on.gears, on.arm), strict=True)


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
        for z, way in _each_best(on, _stretch(first, last))
    )
    return csv_in_pieces(head, rows, f"{machine}-dividing.csv")


def _line(divisions: int, way: Way | None) -> ChartLine:
    if way is None:
        return ChartLine(divisions=divisions, kind=None, head=words.NONE, text="", exact=False, accuracy="")
    return ChartLine(
        divisions=divisions, kind=way.kind.value, head=words.KINDS[way.kind], exact=way.exact,
        accuracy=words.off(way.error), text=words.way_text(way),
    )  # fmt: skip
