"""Jobs: a wheel to be made, its choices, figures and steps, and what was found at each."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Path, Query, Response
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, ToWrite
from valleywind.api.dividing.ways import WayOut, on_machine, way_out
from valleywind.api.drawn_files import attached, described
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.told import FactOut
from valleywind.api.versions import Version, check_version
from valleywind.api.wheels.wheels import family_for
from valleywind.core.dividing.plan import Kind as WayKind
from valleywind.core.dividing.plan import Setting
from valleywind.core.helix.machine import read_screw
from valleywind.core.making.job import MOST_ALIKE, Job, Means, School, Step, check_found, propose, steps
from valleywind.core.making.last_gap import Divided, explained
from valleywind.core.making.materials import Stuff
from valleywind.core.making.passes import read_passes
from valleywind.core.making.places import Places, on_a_disc, on_a_wheel, places
from valleywind.core.making.screw_wheel import screw_wheel
from valleywind.core.making.session import CutOrder
from valleywind.core.refusal import Refused
from valleywind.core.teeth.ask import read_wheel
from valleywind.core.teeth.cutters import serving
from valleywind.core.teeth.donors import Held, donors
from valleywind.core.teeth.identify import standard_pitches
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.teeth.said import spell_pitch
from valleywind.core.units import parse_length, parse_whole
from valleywind.formats.job_sheet_pdf import job_sheet_pdf
from valleywind.shop import cutting as cut_there
from valleywind.shop import jobs as kept
from valleywind.shop import machines, rack, stores
from valleywind.shop.models import JobRow, MachineRow
from valleywind.wording import dividing as dividing_words
from valleywind.wording import wheels as wheel_words
from valleywind.wording.making import session as session_words
from valleywind.wording.making import steps as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/jobs", tags=["jobs"], responses=RESPONSES)

_PLAIN_ANGLE = Fraction(20)
Number = Annotated[int, Path(ge=1, le=2**53, description="The job's number")]
Typed = Annotated[str, Field(max_length=60)]


class JobTyped(BaseModel):
    """What is chosen and typed; empty where it is as usual or not said."""

    material: Stuff = Stuff.CAST_IRON
    school: School | None = Field(None, description="How the blank is held; null for what is proposed")
    how_many: Typed = "1"
    way: WayKind | None = Field(None, description="How it is divided; null for the best of what there is")
    head: Typed = Field("", description="Slug of the machine that divides; empty for the best")
    number: int = Field(0, ge=0, le=200, description="Place of the way among those of its machine")
    template: Typed = Field("", description="Teeth of the wheel that divides as its own plate")
    cutter: Typed = Field("", description="Diameter of the cutter", examples=["63 mm"])
    collar: Typed = Field("", description="Diameter of the arbor's collar beside it")
    jaw_gap: Typed = Field("", description="From the blank to the jaws, the block or the head's nose")
    jaw_radius: Typed = Field("", description="How far these reach from the axis")
    nut: Typed = Field("", description="How far the nut or screw before the blank stands out; empty for none")
    nut_across: Typed = Field("", description="How wide it is, over its corners")
    centre: Typed = Field("", description="Height of the work's axis over the table")
    passes: Typed = Field("", description="Depths from touching, empty as usual", examples=["2.7 4.1 4.57"])
    marks: bool = Field(True, description="Marks once round before any depth")
    order: CutOrder = CutOrder.ROUND_BY_ROUND
    note: Annotated[str, Field(max_length=300)] = ""
    version: Version = None


class SchoolOut(BaseModel):
    school: School
    name: str
    text: str
    proposed: bool


class MaterialOut(BaseModel):
    material: Stuff
    text: str
    hazard: str | None


class FoundOut(BaseModel):
    figure: str = Field(description="As typed")
    text: str | None = Field(description="What it means, and what it changes")
    at: str
    done: bool


class JobStepOut(BaseModel):
    code: str
    title: str
    do: str = Field(description="`**` stands round what is to be set strongly")
    why: str
    figure: str = Field(description="What to hit; empty for none")
    caution: str | None
    asks: Literal["diameter", "width", "runout", "span"] | None
    found: FoundOut | None


class SideOut(BaseModel):
    """Blank, cutter and what is beside them from the side, mm; the blank's far face at 0, the work's axis at 0."""

    radius: float
    face: float
    depth: float
    cutter: float
    collar: float
    jaw_gap: float
    jaw_radius: float
    past: float
    axis: float
    nut: float = Field(description="How far the nut stands out before the near face, 0 without one")
    nut_radius: float
    centre: float | None = Field(description="The work's axis over the table")
    travel: float
    fouls: list[str] = Field(description="Which of jaws, collar, nut and table", examples=[["jaws"]])
    spacer: float
    texts: dict[str, str] = Field(description="Each clearance in the reader's units")


class JobLine(BaseModel):
    """A job as the list shows it."""

    id: int
    title: str = Field(examples=["A 57 for Plover"])
    state: str = Field(examples=["tooth 23 of 57"])
    begun: str
    done: str
    cutting: bool = Field(description="Its session is begun")


class JobOut(JobLine):
    teeth: int
    machine: str
    family: int | None
    typed: JobTyped
    school: SchoolOut
    schools: list[SchoolOut]
    materials: list[MaterialOut]
    figures: list[FactOut]
    divides: str = Field(description="How it is divided", examples=["1 turn and 1 space on the 19, on Heron"])
    ways: list[WayOut]
    steps: list[JobStepOut]
    side: SideOut | None
    cutter: str = Field(description="The held cutter that serves, or that there is none")
    next_step: str | None = Field(description="Code of the first step that is not done")
    version: int


class JobIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"ask": "make 57 for Plover"}]})

    ask: Annotated[str, Field(max_length=80)]
    family: int | None = Field(None, ge=1, le=2**53, description="The family of the wheel; null for the machine's")


@dataclass(frozen=True)
class Divides:
    """How a job is divided. places: of every tooth; text: in words; slug: of the machine, empty for none; way: as the
    Dividing station tells it, None where no head divides; setting: of the head."""

    places: Places
    text: str
    slug: str
    way: WayOut | None
    setting: Setting | None
    ratio: Any = None
    circles: tuple[int, ...] = ()


def job_of(row: JobRow, session: Session) -> Job:
    """The job as the core knows it. Raises Refused at the field."""
    typed, family = JobTyped.model_validate(row.typed), kept.family_of(row)
    held = serving([stores.cutter(c) for c in stores.cutters(session)], family, row.teeth)
    mill = next((m for m in machines.machines(session) if m.slug == row.machine), None)
    job = Job(
        row.teeth, family, typed.material, typed.school or _proposed(row, session),
        parse_whole(typed.how_many or "1", "how_many", 1, MOST_ALIKE, "blanks|wheels"),
        _mm(typed.cutter, "cutter"), _mm(typed.collar, "collar"), _mm(typed.jaw_gap, "jaw_gap", True),
        _mm(typed.jaw_radius, "jaw_radius"), None, typed.marks, typed.order,
        float(held[0].depth) if held and held[0].depth else None,
        float(mill.lathe.screw_lead_mm) if mill is not None and mill.lathe is not None else None,
        {code: float(parse_length(one["figure"], field="figure").mm)
         for code, one in row.found.items() if one.get("figure")},
        _mm(typed.nut, "nut"), _mm(typed.nut_across, "nut_across"), _mm(typed.centre, "centre"),
    )  # fmt: skip
    if (job.nut is None) != (job.nut_across is None):
        raise Refused("nut_in_part", "nut" if job.nut is None else "nut_across", "")
    if not typed.passes.strip():
        return job
    return _with(job, depths=read_passes(typed.passes, job.plunge.depth))


def _with(job: Job, **changes: Any) -> Job:
    return Job(**(vars(job) | changes))


def _mm(text: str, field: str, zero: bool = False) -> float | None:
    if not text.strip():
        return None
    mm = parse_length(text, field=field).mm
    if mm < 0 or (mm == 0 and not zero):
        raise Refused("not_positive", field, text)
    return float(mm)


def _proposed(row: JobRow, session: Session) -> School:
    every = machines.machines(session)
    family = kept.family_of(row)
    wheels = [w for w in rack.wheels(session) if w.family_id is not None and w.family_id == row.family_id]
    held = [
        Held(w.id, w.teeth, Condition(w.condition), w.count > 1, 0)
        for w in wheels if w.count and w.machine_id is None
    ]  # fmt: skip
    means = Means(
        head=any(m.head is not None and m.kind != "rotary table" for m in every),
        table=any(m.kind == "rotary table" for m in every),
        copy=any(w.teeth == row.teeth and w.count for w in wheels),
        donor=bool(donors(row.teeth, family, held)),
    )
    return propose(row.teeth, family, means)


def divides(row: JobRow, session: Session, units: Units) -> Divides:
    """How the job is divided. Raises Refused `no_such_way`, `divides_another`, `no_such_machine`."""
    typed = JobTyped.model_validate(row.typed)
    if typed.way is WayKind.WHEEL:
        teeth = parse_whole(typed.template, "template", row.teeth, 1000, "teeth")
        return Divides(on_a_wheel(teeth, row.teeth), f"the {teeth} as its own plate", "", None, None)
    every = [m for m in machines.machines(session) if m.head is not None]
    if typed.way is WayKind.DISC or (typed.way is None and not every):
        return Divides(on_a_disc(row.teeth), f"printed disc of {row.teeth} marks", "", None, None)
    if typed.head:
        machine = machines.machine(session, typed.head)
        ways = on_machine(machine).ways(row.teeth)
        if typed.number >= len(ways):
            raise Refused("no_such_way", "number", typed.number)
        return _divided(row, machine, typed.number, units)
    best = min(
        ((way.merit, n, m) for m in every for n, way in enumerate(on_machine(m).ways(row.teeth))),
        key=lambda found: found[0], default=None,
    )  # fmt: skip
    if best is None:
        return Divides(on_a_disc(row.teeth), f"printed disc of {row.teeth} marks", "", None, None)
    return _divided(row, best[2], best[1], units)


def _divided(row: JobRow, machine: MachineRow, number: int, units: Units) -> Divides:
    on = on_machine(machine)
    way = on.ways(row.teeth)[number]
    across = float(kept.family_of(row).module) * row.teeth
    setting = way.settings[0]
    return Divides(
        places(setting, on.head.ratio, row.teeth), f"{dividing_words.way_text(way)}, on {machine.name}", machine.slug,
        way_out(way, number, on, row.teeth, across, units), setting, on.head.ratio, on.head.circles,
    )  # fmt: skip


def title(row: JobRow, session: Session) -> str:
    machine = next((m.name for m in machines.machines(session) if m.slug == row.machine), "")
    return wheel_words.title(row.teeth, kept.family_of(row), machine)


def _line(row: JobRow, session: Session) -> JobLine:
    cutting = cut_there.cutting_of(session, row.id)
    if row.done:
        state = "in the rack"
    elif cutting is None:
        state = f"{sum(1 for s in row.found.values() if s.get('done'))} steps done"
    else:
        stands = cut_there.standing(session, cutting)
        tooth = stands.work.cut(min(stands.state.at, stands.work.cuts - 1)).tooth
        state = "every gap is cut" if stands.finished else f"at tooth {tooth + 1} of {stands.work.divisions}"
    return JobLine(
        id=row.id, title=title(row, session), state=state, begun=row.begun, done=row.done, cutting=cutting is not None
    )


@router.get("")
def get_jobs(session: InSession) -> list[JobLine]:
    """All jobs, the newest first."""
    return [_line(row, session) for row in kept.jobs(session)]


@router.post("")
def add_job(wanted: JobIn, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """A new job from an ask, `make 57 for Plover`."""
    asked = read_wheel(wanted.ask)
    family, family_id, name, _ = family_for(session, wanted.family, asked.machine)
    if asked.pitch is not None:
        none = Fraction(0)
        family, family_id, name = WheelFamily("", asked.pitch, asked.angle or _PLAIN_ANGLE, none, none, none), None, ""
    if family is None:
        raise Refused("no_pitch", "ask", wanted.ask)
    said = asked.machine or name
    machine = next((m.slug for m in machines.machines(session) if m.name.lower() == said.lower()), "")
    row = kept.add(session, asked.teeth, family, JobTyped().model_dump(mode="json"), machine, family_id)
    job_of(row, session).sizes  # noqa: B018 (refused where no such wheel can be made)
    return _job(row, session, units)


class ScrewWheelOut(BaseModel):
    figures: list[FactOut]
    ask: str = Field(description="The job for it", examples=["make 16 m2"])


@router.get("/for-a-screw")
def get_screw_wheel(
    screw: Annotated[str, Query(max_length=40, description="The screw's pitch", examples=["4 tpi"])],
    diameter: Annotated[str, Query(max_length=40, description="Its pitch diameter, or over the crests less a depth")],
    threads: Annotated[str, Query(max_length=40, description="Threads that one turn of the wheel covers")],
    face: Annotated[str, Query(max_length=40, description="Face of the wheel")] = "10 mm",
    starts: Annotated[str, Query(max_length=40, description="Starts of the screw")] = "1",
    units: InUnits = Units.MM,
) -> ScrewWheelOut:
    """A wheel to run in a lead screw: count, pitch, how far the head is tilted, and the height of the cutter."""
    found = screw_wheel(
        float(read_screw(screw, "screw")), parse_whole(starts, "starts", 1, 20, "starts?"),
        float(parse_length(diameter, units.bare, "diameter").mm), parse_whole(threads, "threads", 1, 1000, "threads?"),
        float(parse_length(face, units.bare, "face").mm), standard_pitches(),
    )  # fmt: skip
    return ScrewWheelOut(
        figures=[FactOut(label=label, text=text) for label, text in words.screw_wheel_lines(found, units)],
        ask=f"make {found.teeth} {spell_pitch(found.pitch)}",
    )


@router.get("/{job}")
def get_job(job: Number, session: InSession, units: InUnits = Units.MM) -> JobOut:
    """One job: choices, figures, steps with what was found."""
    return _job(kept.job(session, job), session, units)


@router.put("/{job}")
def put_job(job: Number, typed: JobTyped, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """Type over what was chosen."""
    row = kept.job(session, job)
    check_version(typed.version, row.version, typed, JobTyped.model_validate(row.typed))
    wanted = typed.model_dump(mode="json", exclude={"version"})
    changed = wanted != {k: v for k, v in row.typed.items() if k != "version"}
    kept.change(session, row, wanted)
    return _job(row, session, units, changed)


class FoundIn(BaseModel):
    step: Annotated[str, Field(max_length=40)]
    figure: Typed = ""
    done: bool = True


@router.put("/{job}/found")
def put_found(job: Number, found: FoundIn, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """What was found at a step, and that it is done; later steps follow."""
    row = kept.job(session, job)
    step = _step(found.step, row, session)
    if found.figure.strip():
        if step.asks is None:
            raise Refused("asks_nothing", "figure", found.figure)
        check_found(step, float(parse_length(found.figure, units.bare, "figure").mm))
    figure = found.figure.strip()
    # A bare figure is kept with the unit that it was meant in.
    if (
        figure
        and units is Units.INCH
        and parse_length(figure, field="figure") != parse_length(figure, units.bare, "figure")
    ):
        figure = f"{figure} in"
    kept.find(session, row, found.step, figure, found.done)
    return _job(row, session, units, True)


def _step(code: str, row: JobRow, session: Session) -> Step:
    found = next((s for s in steps(job_of(row, session)) if s.code == code), None)
    if found is None:
        raise Refused("no_such_step", "step", code)
    return found


@router.delete("/{job}")
def delete_job(job: Number, session: ToWrite) -> None:
    """Delete a job of which nothing is cut yet."""
    kept.delete(session, kept.job(session, job))


@router.post("/{job}/rack")
def rack_job(job: Number, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """The wheel is made: into the rack with material, date and figures."""
    row = kept.job(session, job)
    made = job_of(row, session)
    if not row.done:
        shelf = next((m for m in machines.machines(session) if m.slug == row.machine), None)
        figures = [f"{code} {one['figure']}" for code, one in row.found.items() if one.get("figure")]
        note = f"made here {cut_there.now()[:10]} of {made.stuff}; {', '.join(figures)}".rstrip("; ")
        kept.into_rack(session, row, shelf, made.how_many, str(made.stuff), note[:200])
        kept.finish(session, row)
        return _job(row, session, units, True)
    return _job(row, session, units)


@router.get("/{job}/sheet.pdf", response_class=Response, responses=described("pdf"))
def get_job_sheet(job: Number, session: InSession, units: InUnits = Units.MM) -> Response:
    """The job on a page of A4, step by step, with room for what is found."""
    row = kept.job(session, job)
    made = job_of(row, session)
    told = divides(row, session, units).text
    lines = [(s, words.text(s, made, told, units)) for s in steps(made)]
    written = job_sheet_pdf(
        title(row, session), words.blank_lines(made, units), lines, made, words.SCHOOLS[made.school][0]
    )
    return attached(written, "pdf", f"job-{row.id}-{row.teeth}")


def _job(row: JobRow, session: Session, units: Units, changed: bool = False) -> JobOut:
    """`changed`: it is being changed, so that its version will be the next one."""
    version = row.version + changed
    made, told = job_of(row, session), divides(row, session, units)
    proposed = _proposed(row, session)
    every = [
        SchoolOut(
            school=s, name=name, text=text if s is not proposed else f"{text}: {words.WHY[s]}", proposed=s is proposed
        )
        for s, (name, text) in words.SCHOOLS.items()
    ]
    held = serving([stores.cutter(c) for c in stores.cutters(session)], made.family, row.teeth)
    shown = [_shown(step, made, row, told.text, units) for step in steps(made)]
    return JobOut(
        **dict(_line(row, session)),
        teeth=row.teeth,
        machine=row.machine,
        family=row.family_id,
        typed=JobTyped.model_validate(row.typed | {"version": version}),
        school=next(s for s in every if s.school is made.school),
        schools=every,
        materials=[MaterialOut(material=s, text=words.material(s), hazard=words.hazard(s)) for s in Stuff],
        figures=[FactOut(label=label, text=text) for label, text in words.blank_lines(made, units)],
        divides=told.text,
        ways=_ways(row, session, units),
        steps=shown,
        side=_side(made, units),
        cutter=wheel_words.held_text(held[0]) if held else "No cutter in the stores cuts this wheel.",
        next_step=next((s.code for s in shown if not (s.found and s.found.done)), None),
        version=version,
    )


def _ways(row: JobRow, session: Session, units: Units) -> list[WayOut]:
    across = float(kept.family_of(row).module) * row.teeth
    found = [
        way_out(way, n, on, row.teeth, across, units)
        for m in machines.machines(session) if m.head is not None
        for on in [on_machine(m)] for n, way in enumerate(on.ways(row.teeth))
    ]  # fmt: skip
    return sorted(found, key=lambda w: (not w.goes_on, not w.exact, w.error_deg))


def _shown(step: Step, made: Job, row: JobRow, told: str, units: Units) -> JobStepOut:
    text, one = words.text(step, made, told, units), row.found.get(step.code)
    found = None
    if one is not None:
        meaning = words.found_text(step, made, units)
        found = FoundOut(figure=one["figure"], text=meaning, at=one["at"], done=one["done"])
    return JobStepOut(
        code=step.code, title=text.title, do=text.do, why=text.why, figure=text.figure, caution=text.caution,
        asks=step.asks.value if step.asks else None, found=found,
    )  # fmt: skip


def _side(made: Job, units: Units) -> SideOut | None:
    view = made.side
    if view is None:
        return None
    texts = words.clearances(view, units)
    return SideOut(
        radius=view.radius, face=view.face, depth=view.depth, cutter=view.cutter, collar=view.collar,
        jaw_gap=-view.jaw_face, jaw_radius=view.jaw_radius, past=view.past, axis=view.axis, nut=view.nut,
        nut_radius=view.nut_radius, centre=view.centre, travel=view.travel, spacer=view.spacer, texts=texts,
        fouls=[what for what, clear in view.clearances.items() if clear < 0],
    )  # fmt: skip


class LastGapOut(BaseModel):
    text: str
    slips: list[str]


@router.get("/{job}/last-gap")
def get_last_gap(
    job: Number,
    session: InSession,
    measured: Annotated[str, Query(max_length=40, description="How much thicker the last tooth is, below 0 thinner")],
    off: Annotated[str, Query(max_length=40, description="By how much that may be off")] = "0.03 mm",
    units: InUnits = Units.MM,
) -> LastGapOut:
    """What the last gap tells, beside its neighbours: right, or the single slips that explain it."""
    row = kept.job(session, job)
    told = divides(row, session, units)
    thin = measured.strip().startswith(("-", "−"))
    size = float(parse_length(measured.strip().lstrip("+-−"), units.bare, "measured").mm) * 1000 * (-1 if thin else 1)
    spread = float(parse_length(off, units.bare, "off").mm) * 1000
    if told.ratio is None or not told.places.circle or len(told.places.each) < 2:
        raise Refused("no_crank", "measured", measured)
    first = told.places.each[1]
    of = Divided(
        told.ratio, told.places.circle, first.turns * told.places.circle + first.spaces, row.teeth,
        float(kept.family_of(row).module) * row.teeth, told.circles,
    )  # fmt: skip
    found = list(explained(size, spread, of))
    return LastGapOut(
        text=session_words.last_gap(size, spread, found, units), slips=[session_words.slip(f, units) for f in found]
    )
