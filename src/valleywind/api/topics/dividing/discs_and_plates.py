"""What is made for dividing: discs and strips to print, new plates to drill."""

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Query, Response
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, InSession
from valleywind.api.drawn_files import Kind, described, drawing_response
from valleywind.api.fields import TypedQuery
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_response
from valleywind.api.topics.dividing.ways import Divisions
from valleywind.app.dividing import On, on_machine, pitch_circle
from valleywind.core.dividing import plan
from valleywind.core.dividing.discs import Disc, disc
from valleywind.core.dividing.heads import MOST_HOLES
from valleywind.core.dividing.plan import Way
from valleywind.core.dividing.plates import NewCircle, enough_at, generations, new_circle, would_serve
from valleywind.core.dividing.ways import serving_circle
from valleywind.core.refusal import Refusal
from valleywind.core.units import MM_PER_INCH, parse_length, parse_whole
from valleywind.formats.pictures import disc_picture, plate_picture, strip_picture
from valleywind.formats.tables import csv_text
from valleywind.shop import machines
from valleywind.wording import dividing as words
from valleywind.wording.numbers import Units, short_length

router = APIRouter(prefix="/dividing", tags=["dividing"], responses=RESPONSES)


class DiscOut(BaseModel):
    texts: list[str]
    spacing_mm: float
    strip_mm: float
    strip_text: str


class NewPlateOut(BaseModel):
    serving: list[int] = Field(description="Hole counts that give the divisions simply")
    holes: int
    fits: bool
    texts: list[str]
    blank_mm: float
    drilling: str = Field(description="How the holes are had with what the shop has")
    exact: bool = Field(description="Whether they can be drilled exactly with what the shop has")
    generations: list[str]
    least_diameter_mm: float
    diameter_text: str


def _disc_ask(
    divisions: Divisions,
    diameter: Annotated[str, Query(max_length=40, description="Of the disc or drum", examples=["200 mm"])],
    long: Annotated[TypedQuery, Query(description="After how many lines one is longer")] = "5",
    numbered: Annotated[TypedQuery, Query(description="After how many lines one has its number")] = "10",
) -> Disc:
    return disc(
        divisions, float(parse_length(diameter, field="diameter").mm),
        parse_whole(long, "long", 1, 1000), parse_whole(numbered, "numbered", 1, 1000),
    )  # fmt: skip


ForDisc = Annotated[Disc, Depends(_disc_ask)]
Form = Annotated[Literal["disc", "strip"], Query(description="A disc, or a strip that goes once round a drum")]


@router.get("/disc", dependencies=[LONG])
def get_disc(disc: ForDisc, units: InUnits = Units.MM) -> DiscOut:
    """How well a disc would be read, before it is printed."""
    return DiscOut(
        texts=words.disc_texts(disc, units), spacing_mm=disc.spacing, strip_mm=disc.strip,
        strip_text=words.strip_text(disc, units),
    )  # fmt: skip


def _disc_file(disc: Disc, form: str, kind: Kind, units: Units) -> Response:
    title = f"{disc.divisions} divisions, {form} for {short_length(disc.diameter, units)}"
    picture = strip_picture(disc, title) if form == "strip" else disc_picture(disc, title)
    return drawing_response(picture, f"{form}-{disc.divisions}", kind)


@router.get("/disc.pdf", dependencies=[LONG], response_class=Response, responses=described("pdf"))
def get_disc_pdf(disc: ForDisc, form: Form = "disc", units: InUnits = Units.MM) -> Response:
    """The disc or strip at true size, tiled where the paper is too small."""
    return _disc_file(disc, form, "pdf", units)


@router.get("/disc.svg", dependencies=[LONG], response_class=Response, responses=described("svg"))
def get_disc_svg(disc: ForDisc, form: Form = "disc", units: InUnits = Units.MM) -> Response:
    """The same as SVG."""
    return _disc_file(disc, form, "svg", units)


@router.get("/disc.dxf", dependencies=[LONG], response_class=Response, responses=described("dxf"))
def get_disc_dxf(disc: ForDisc, form: Form = "disc", units: InUnits = Units.MM) -> Response:
    """The same as DXF."""
    return _disc_file(disc, form, "dxf", units)


def _circle_ask(
    machine: Slug,
    session: InSession,
    divisions: Divisions,
    holes: Annotated[TypedQuery, Query(description="Holes of the circle; empty for the fewest")] = "",
    diameter: Annotated[TypedQuery, Query(description="Of the hole circle; empty for one that fits")] = "",
    hole: Annotated[TypedQuery, Query(description="Of a hole", examples=["4 mm"])] = "4 mm",
) -> tuple[On, NewCircle]:
    on = on_machine(machines.machine(session, machine))
    if on.head.ratio is None:
        raise Refusal("no_worm", "machine", on.row.name)
    wanted = (
        parse_whole(holes, "holes", 2, MOST_HOLES, "holes?")
        if holes.strip()
        else max(2, serving_circle(on.head.ratio, divisions))
    )
    across = float(parse_length(diameter, field="diameter").mm) if diameter.strip() else None
    return on, new_circle(wanted, across, float(parse_length(hole, field="hole").mm))


ForCircle = Annotated[tuple[On, NewCircle], Depends(_circle_ask)]


def _best(place: tuple[On, NewCircle]) -> Way | None:
    """How the holes themselves are had on this head."""
    on, circle = place
    return next((way for way in on.ways(circle.holes) if way.goes_on), None)


@router.get("/{machine}/plate", dependencies=[LONG])
def get_new_plate(place: ForCircle, session: InSession, divisions: Divisions, units: InUnits = Units.MM) -> NewPlateOut:
    """Which circle would give a count on this head, whether it fits, and how it is drilled."""
    on, circle = place
    ratio = on.head.ratio
    assert ratio is not None
    best = _best(place)
    across = pitch_circle(session, divisions)
    off = float(best.error) if best else 0.0
    stages = generations(off, ratio, enough_at(across)) if off else []
    return NewPlateOut(
        serving=would_serve(ratio, divisions)[:8], holes=circle.holes, fits=circle.fits,
        texts=words.plate_texts(circle, units), blank_mm=circle.blank,
        drilling=words.drilling_text(on.row.name, best, circle.holes),
        exact=best is not None and best.exact, generations=words.generation_texts(stages, across, units),
        least_diameter_mm=circle.least_diameter, diameter_text=short_length(circle.diameter, units),
    )  # fmt: skip


@router.get("/{machine}/plate.csv", dependencies=[LONG], response_class=Response, responses=CSV)
def get_new_plate_csv(place: ForCircle, units: InUnits = Units.MM) -> Response:
    """Where every hole is, seen from the centre, the first on top and on round clockwise; with the crank turns and the
    hole of the plate that come before it, counted from the first, and the spaces that the plate itself is turned."""
    on, circle = place
    best = _best(place)
    setting = best.settings[0] if best else None
    counted = (
        plan.pin_places(setting, on.head.ratio, circle.holes, circle.holes - 1) if setting and on.head.ratio else None
    )
    unit, per, digits = ("mm", 1.0, 4) if units is Units.MM else ("in", float(MM_PER_INCH), 5)
    head = ["hole", f"x, {unit}", f"y, {unit}", "angle, °", "setting", "crank turns", "crank hole", "plate spaces"]
    lines = []
    for n, (x, y) in enumerate(circle.positions()):
        crank = divmod(counted.crank.spaces[n], counted.crank.circle) if counted else ("", "")
        plate = counted.lock.spaces[n] if counted and counted.lock else ""
        where = [round(x / per, digits), round(y / per, digits), round(360 * n / circle.holes, 5)]
        lines.append([n + 1, *where, words.setting_text(setting) if setting else "", *crank, plate])
    return csv_response(csv_text(head, lines), f"plate-{circle.holes}.csv")


@router.get("/{machine}/plate.svg", dependencies=[LONG], response_class=Response, responses=described("svg"))
def get_new_plate_svg(place: ForCircle) -> Response:
    """The holes at true size as SVG."""
    _, circle = place
    return drawing_response(plate_picture(circle, f"plate of {circle.holes}"), f"plate-{circle.holes}", "svg")


@router.get("/{machine}/plate.dxf", dependencies=[LONG], response_class=Response, responses=described("dxf"))
def get_new_plate_dxf(place: ForCircle) -> Response:
    """The holes as circles at true size."""
    _, circle = place
    return drawing_response(plate_picture(circle, f"plate of {circle.holes}"), f"plate-{circle.holes}", "dxf")
