"""A wheel to be made: every figure, its drawing, how deep now."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Query, Response
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, InSession
from valleywind.api.drawing import DrawnTool, ToothOutline, outline
from valleywind.api.drawn_files import Kind, described, drawing_response
from valleywind.api.fields import TypedQuery
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.app.wheels import family_for
from valleywind.core.refusal import Refusal
from valleywind.core.teeth import correction
from valleywind.core.teeth.ask import read_wheel
from valleywind.core.teeth.cutters import Cutter, range_of_eight, serving
from valleywind.core.teeth.depth import depths, read_depth, usual_depth
from valleywind.core.teeth.form import FormError, form_error
from valleywind.core.teeth.geometry import tooth_outline
from valleywind.core.teeth.identify import is_standard
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import MOST_TEETH, WheelFamily, allowed_angle
from valleywind.core.teeth.sizes import Sizes, check_bore, helping_shift, meeting, read_shift, sizes
from valleywind.core.teeth.tools import over_a_chord, over_a_span, over_two_pins
from valleywind.core.units import parse_degrees, parse_length, parse_offset, parse_whole
from valleywind.formats.pictures import wheel_picture
from valleywind.shop import rack, stores
from valleywind.wording import wheels as words
from valleywind.wording.numbers import Units, length
from valleywind.wording.rack.stores import set_name

router = APIRouter(prefix="/wheels", tags=["wheels"], responses=RESPONSES)

WheelMaterial = Literal["steel", "cast iron", "brass", "aluminium", "acetal"]
_TOOTH_STEPS, _ARC_STEPS = 20, 4
# A plain bore is drawn for a wheel whose family is not known.
_PLAIN_ANGLE = Fraction(20)


class WheelLineOut(BaseModel):
    label: str
    text: str
    note: str


class GroupOut(BaseModel):
    head: str
    lines: list[WheelLineOut]


class DepthOut(BaseModel):
    school: str
    name: str = Field(examples=["2.157/P"])
    text: str
    note: str
    usual: bool
    taken: bool


class FormOut(BaseModel):
    """What the cutter leaves: half the tooth thickness less the true one, from the foot to the tip."""

    true_for: int
    heights_mm: list[float] = Field(description="Above the pitch line")
    errors_um: list[float] = Field(description="Above nought: metal too much")
    error_texts: list[str] = Field(description="The same in the reader's units", examples=[["+3.1 µm"]])
    half_true_mm: list[float] = Field(description="Half the thickness that the true tooth has at each height")
    text: str


class MeasureOut(BaseModel):
    """Where jaws and pins sit."""

    over: int = Field(description="Teeth in the span")
    span: DrawnTool
    pins: DrawnTool
    chord: DrawnTool


class WheelSizesOut(BaseModel):
    title: str
    teeth: int
    family: int | None = Field(description="The family it is sized for; null for a pitch that is in the ask")
    family_text: str
    machine: str = Field(description="Name of the machine it is for; empty where none is said")
    hero: list[WheelLineOut] = Field(description="The figures that are wanted first")
    groups: list[GroupOut]
    depths: list[DepthOut]
    remarks: list[str]
    helping_shift: float = Field(description="The profile shift that a hobbed wheel of so few teeth wants")
    form: FormOut | None
    measure: MeasureOut
    outline: ToothOutline
    root_radius_mm: float
    base_radius_mm: float
    key_mm: float


class TextsOut(BaseModel):
    texts: list[str] = Field(description="`**` stands round what is to be set strongly")


@dataclass(frozen=True)
class WheelRequest:
    """A wheel as asked for. family_id is None where its pitch stands in the ask."""

    sizes: Sizes
    family_id: int | None
    machine: str
    hub: Fraction
    cutters: list[Cutter]
    mates: list[int]
    material: str

    @property
    def form(self) -> FormError | None:
        """Of the held cutter that serves, else of one of a set of eight; None where neither cuts so few teeth."""
        best, usual = next(iter(self.cutters), None), range_of_eight(self.sizes.teeth)
        if best is None and usual is None:
            return None
        true_for = best.lowest if best else usual[0] if usual else 0
        return form_error(self.sizes.teeth, true_for, self.sizes.family, self.sizes.depth)


def wanted(
    session: InSession,
    ask: Annotated[str, Query(max_length=120, description="As typed", examples=["wheel 57"])],
    family: Annotated[int | None, Query(ge=1, le=2**53, description="The family it is for")] = None,
    angle: Annotated[TypedQuery, Query(description="Pressure angle, where the pitch stands in the ask")] = "",
    shift: Annotated[TypedQuery, Query(description="Profile shift in modules")] = "",
    depth: Annotated[TypedQuery, Query(description="Whole depth: 2.157/P, 2.25 m, 4.5 mm; empty for the usual")] = "",
    over: Annotated[TypedQuery, Query(description="Teeth in the span; empty for the usual")] = "",
    pin: Annotated[TypedQuery, Query(description="Diameter of the pins; empty for the usual")] = "",
    mates: Annotated[
        str, Query(max_length=80, description="Tooth numbers it runs with; empty for the family's ends")
    ] = "",
    material: Annotated[WheelMaterial, Query(description="For its weight")] = "cast iron",
) -> WheelRequest:
    """Reads what was asked; every figure is worked out from this."""
    wheel = read_wheel(ask)
    known, row_id, machine, hub = family_for(session, family, wheel.machine)
    if wheel.pitch is not None:
        turned = wheel.angle or (allowed_angle(parse_degrees(angle, "angle")) if angle.strip() else _PLAIN_ANGLE)
        zero = Fraction(0)
        known = WheelFamily("", wheel.pitch, turned, zero, zero, zero, wheel.addendum)
        row_id, machine, hub = None, "", zero
    if known is None:
        raise Refusal("no_pitch", "ask", ask)
    held = serving([stores.cutter(c) for c in stores.cutters(session)], known, wheel.teeth)
    engraved = held[0].depth if held else Fraction(0)
    sized = sizes(
        wheel.teeth, known, read_shift(shift),
        read_depth(depth, known) if depth.strip() else usual_depth(known, engraved),
        parse_whole(over, "over", 2, MOST_TEETH // 2, "teeth") if over.strip() else None,
        float(parse_length(pin, field="pin").mm) if pin.strip() else None,
    )  # fmt: skip
    check_bore(sized)
    met = _mates(mates) if mates.strip() else _ends(session, row_id)
    return WheelRequest(sized, row_id, machine, hub, held, met, material)


ForWheel = Annotated[WheelRequest, Depends(wanted)]


def _mates(typed: str) -> list[int]:
    mates = []
    for word in typed.replace(",", " ").split():
        if not word.isascii() or not word.isdigit() or len(word) > 4:
            raise Refusal("not_teeth", "mates", word)
        mates.append(int(word))
    return mates[:12]


def _ends(session: InSession, number: int | None) -> list[int]:
    """The smallest and the largest wheel held of a family: what runs with those runs with all between."""
    row = rack.family(session, number) if number is not None else None
    held = sorted({w.teeth for w in row.wheels if w.count and Condition(w.condition).usable}) if row else []
    return [held[0], held[-1]] if len(held) > 1 else held


@router.get("/sizes")
def get_sizes(wheel: ForWheel, units: InUnits = Units.MM) -> WheelSizesOut:
    """Everything needed before metal is cut."""
    sized = wheel.sizes
    family, form = sized.family, wheel.form
    schools = depths(family, wheel.cutters[0].depth if wheel.cutters else Fraction(0))
    groups = _groups(wheel, units)
    return WheelSizesOut(
        title=words.title(sized.teeth, family, wheel.machine), teeth=sized.teeth, family=wheel.family_id,
        family_text=set_name(family.pitch, family.pressure_angle), machine=wheel.machine,
        hero=[
            _line(words.NamedFigure("Turn the blank to", length(sized.tip_diameter, units, 2))),
            _line(words.NamedFigure(words.depth_name(schools, sized.depth), words.fine(sized.depth, units))),
            _line(words.NamedFigure(f"Span over {sized.over} teeth", words.target_text(sized.span, units, "–"))),
        ],
        groups=[GroupOut(head=head, lines=[_line(one) for one in lines]) for head, lines in groups],
        depths=[
            DepthOut(school=d.school.value, name=line.label, text=line.text, note=line.note, usual=d.usual, taken=taken)
            for d in schools
            for taken in [abs(d.depth - sized.depth) < 1e-9]
            for line in [words.depth_line(d, taken, units)]
        ],
        remarks=words.remarks(sized, is_standard(family.pitch), units),
        helping_shift=helping_shift(sized.teeth, family),
        form=_form(form, units) if form else None,
        measure=MeasureOut(
            over=sized.over,
            span=DrawnTool.of(over_a_span(sized.teeth, sized.over, family, sized.shift)),
            pins=DrawnTool.of(over_two_pins(sized.teeth, sized.pin, family, sized.shift)),
            chord=DrawnTool.of(over_a_chord(sized.teeth, family, sized.shift)),
        ),
        outline=outline(
            sized.teeth, family, tooth_outline(sized.teeth, family, _TOOTH_STEPS, sized.shift, sized.depth, _ARC_STEPS),
            sized.tip_diameter / 2,
        ),
        root_radius_mm=sized.root_diameter / 2, base_radius_mm=sized.base_diameter / 2, key_mm=float(family.key),
    )  # fmt: skip


def _form(form: FormError, units: Units) -> FormOut:
    return FormOut(
        true_for=form.true_for,
        heights_mm=list(form.heights),
        errors_um=[e * 1000 for e in form.errors],
        error_texts=[words.signed_small(e * 1000, units) for e in form.errors],
        half_true_mm=list(form.half_true),
        text=words.form_text(form, units),
    )


def _groups(wheel: WheelRequest, units: Units) -> list[tuple[str, list[words.NamedFigure]]]:
    sized = wheel.sizes
    groups = [
        ("The blank", words.blank_lines(sized, wheel.hub, wheel.material, units)),
        ("The cutter", words.cutter_lines(sized, wheel.cutters, wheel.form, units)),
        ("When it is cut, measure", words.measure_lines(sized, units)),
    ]
    met = [
        words.meeting_line(meeting(sized.teeth, mate, sized.family, sized.shift), sized.undercut, units)
        for mate in wheel.mates
    ]
    return [*groups, ("Running", met)] if met else groups


def _line(line: words.NamedFigure) -> WheelLineOut:
    return WheelLineOut(label=line.label, text=line.text, note=line.note)


@router.get("/plunge")
def get_plunge(
    wheel: ForWheel,
    blank: Annotated[TypedQuery, Query(description="Its diameter as it was turned")] = "",
    span: Annotated[TypedQuery, Query(description="The span as measured")] = "",
    pins: Annotated[TypedQuery, Query(description="Over the pins as measured")] = "",
    dial: Annotated[TypedQuery, Query(description="What a division of the feed dial is", examples=["0.02 mm"])] = "",
    units: InUnits = Units.MM,
) -> TextsOut:
    """How deep from touching, and after a measured tooth how much more."""

    def mm(text: str, field: str) -> float | None:
        return float(parse_length(text, units.bare, field).mm) if text.strip() else None

    division = mm(dial, "dial")
    if division is not None and division <= 0:
        raise Refusal("not_positive", "dial", dial)
    plunge = correction.plunge(wheel.sizes, mm(blank, "blank"), mm(span, "span"), mm(pins, "pins"))
    return TextsOut(texts=words.plunge_texts(plunge, division, units))


@router.get("/runout")
def get_runout(
    wheel: ForWheel,
    reading: Annotated[str, Query(max_length=40, description="Of the indicator, in all", examples=["0.05 mm"])],
    units: InUnits = Units.MM,
) -> TextsOut:
    """What a runout of blank or arbor does to the mesh."""
    family = wheel.sizes.family
    total = float(parse_offset(reading, units.bare, "reading").mm)
    verdict = correction.runout(total, float(family.module), float(family.pressure_angle))
    return TextsOut(texts=[words.runout_text(verdict, units)])


@router.get("/drawing.dxf", dependencies=[LONG], response_class=Response, responses=described("dxf"))
def get_wheel_dxf(wheel: ForWheel) -> Response:
    """The wheel at true size: flanks and bore as closed lines on layers, in mm."""
    return _file(wheel, "dxf")


@router.get("/drawing.svg", dependencies=[LONG], response_class=Response, responses=described("svg"))
def get_wheel_svg(wheel: ForWheel) -> Response:
    """The same as SVG."""
    return _file(wheel, "svg")


@router.get("/drawing.pdf", dependencies=[LONG], response_class=Response, responses=described("pdf"))
def get_wheel_pdf(wheel: ForWheel, units: InUnits = Units.MM) -> Response:
    """The same as PDF, with a table of figures."""
    return _file(wheel, "pdf", words.table(_groups(wheel, units)))


def _file(wheel: WheelRequest, kind: Kind, table: list[tuple[str, str]] | None = None) -> Response:
    sized = wheel.sizes
    picture = wheel_picture(sized, words.title(sized.teeth, sized.family, wheel.machine))
    return drawing_response(picture, f"wheel-{sized.teeth}", kind, table or [])
