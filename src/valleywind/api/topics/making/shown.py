"""A job as the screen shows it."""

from typing import Literal

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.pieces import FactOut
from valleywind.api.topics.making.choices import JobForm
from valleywind.api.ways_out import WayOut, out_of
from valleywind.app.job_choices import (
    bars_for,
    chosen_bar,
    chosen_donor,
    donors_for,
    held_cutters,
    job_of,
    proposal,
    title,
)  # fmt: skip
from valleywind.app.job_dividing import divides, ways_of_job
from valleywind.app.lead_job import lead_texts
from valleywind.core.making.job import DIVIDERS, Divider, Job, School, Step, in_tolerance, steps
from valleywind.core.making.materials import Stuff
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.donors import CLEANING_UP
from valleywind.core.teeth.identify import is_standard
from valleywind.shop import cutting as cut_there
from valleywind.shop import heads, machines, rack, record_parts, sources, stores
from valleywind.shop import jobs as kept
from valleywind.shop.job_choices import read
from valleywind.shop.jobs import FoundFigure
from valleywind.shop.models import JobRow
from valleywind.wording import refusals
from valleywind.wording import wheels as wheel_words
from valleywind.wording.making import figures as job_words
from valleywind.wording.making import steps as words
from valleywind.wording.numbers import Units
from valleywind.wording.rack import stores as store_words


class SchoolOut(BaseModel):
    school: School
    name: str
    text: str
    proposed: bool
    machines: list[str] = Field(description="Slugs of the machines that divide a blank held so")
    wheel: bool = Field(description="A wheel as its own plate divides it too")
    disc: bool = Field(description="A printed disc divides it too")


class JobMaterialOut(BaseModel):
    material: Stuff
    text: str
    hazard: str | None


class PieceOut(BaseModel):
    """A piece of bar or a larger wheel that the wheel can be cut from."""

    record: int
    name: str
    text: str


class LeadOut(BaseModel):
    mill: str = Field(description="Slug of the mill")
    ask: str
    train: str = Field(description="The set-up; empty where none was found")


class EarlierFigureOut(BaseModel):
    figure: str
    at: str


class StepResultOut(BaseModel):
    figure: str = Field(description="As typed")
    text: str | None = Field(description="What it means, and what it changes")
    at: str
    done: bool
    out: bool = Field(description="It is outside its tolerance: the step stays open until it is in, or accepted")
    accepted: str = Field(description="Why a figure outside is taken; empty where it is not")
    earlier: list[EarlierFigureOut] = Field(description="What stood there before, the newest first")


class JobStepOut(BaseModel):
    code: str
    title: str
    do: str = Field(description="`**` stands round what is to be set strongly")
    why: str
    figure: str = Field(description="What to hit; empty for none")
    caution: str | None
    asks: Literal["diameter", "width", "runout", "span"] | None
    result: StepResultOut | None


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
    mandrel: float = Field(description="Radius of the mandrel, 0 without one or where the bore is not known")
    travel: float
    fouls: list[str] = Field(description="Which of jaws, collar, nut and table", examples=[["jaws"]])
    spacer: float
    held: str = Field(description="What holds the blank there", examples=["jaws", "blocks"])
    texts: dict[str, str] = Field(description="Each clearance in the reader's units")


class JobLine(BaseModel):
    """A job as the list shows it."""

    id: int
    title: str = Field(examples=["A 57 for Plover"])
    state: str = Field(examples=["tooth 23 of 57"])
    begun: str
    done: str
    cutting: bool = Field(description="Its session is begun")
    all_cut: bool = Field(description="Every gap is cut in its session")


class JobOut(JobLine):
    teeth: int
    machine: str
    family: int | None
    typed: JobForm
    school: SchoolOut
    schools: list[SchoolOut]
    materials: list[JobMaterialOut]
    figures: list[FactOut]
    divides: str = Field(description="How it is divided", examples=["1 turn and 1 space on the 19, on Heron"])
    ways: list[WayOut]
    steps: list[JobStepOut]
    side: SideOut | None
    lead: LeadOut | None = Field(description="What the Mill station opens with; null for straight teeth")
    bars: list[PieceOut] = Field(description="Pieces that give the blanks, those of the material first")
    donors: list[PieceOut] = Field(description="Wheels that can be cut down to it, those that are missed least first")
    remarks: list[str] = Field(description="What should be known before metal is cut")
    cutter: str = Field(description="The held cutter that serves, or that there is none")
    next_step: str | None = Field(description="Code of the first step that is not done")
    version: int


def line_of(row: JobRow, session: Session) -> JobLine:
    cutting, all_cut = cut_there.cutting_of(session, row.id), False
    if row.done:
        state = job_words.IN_RACK
    elif cutting is None:
        state = job_words.steps_done(sum(one.done for one in kept.figures(session, row.id).values()))
    else:
        stands = cut_there.standing(session, cutting)
        tooth = stands.work.cut(min(stands.state.at, stands.work.cuts - 1)).tooth
        all_cut = stands.finished
        state = job_words.ALL_CUT if all_cut else job_words.at_tooth(tooth, stands.work.divisions)
    return JobLine(
        id=row.id, title=title(row, session), state=state, begun=row.begun, done=row.done, cutting=cutting is not None,
        all_cut=all_cut,
    )  # fmt: skip


def job_out(row: JobRow, session: Session, units: Units, changed: bool = False) -> JobOut:
    """`changed`: it is being changed, so that its version will be the next one."""
    version = row.version + changed
    made, figures = job_of(row, session), kept.figures(session, row.id)
    best = proposal(row, session)
    dividing = [m for m in machines.machines(session) if record_parts.has(m, heads.HEAD)]
    every = [
        SchoolOut(
            school=s,
            name=name,
            text=f"{text}: {job_words.WHY[s]}" if s is best else text,
            proposed=s is best,
            machines=[m.slug for m in dividing if sources.divider_of(m) in DIVIDERS[s]],
            wheel=Divider.WHEEL in DIVIDERS[s],
            disc=Divider.DISC in DIVIDERS[s],
        )
        for s, (name, text) in job_words.SCHOOLS.items()
        if (s is School.LEAD) == (made.helix is not None)
    ]
    held, lead = held_cutters(row, session), kept.lead_of(row)
    facts = facts_of(row, made, session, units)
    shown = [_step(step, made, figures.get(step.code), facts, units) for step in steps(made)]
    return JobOut(
        **dict(line_of(row, session)),
        teeth=row.teeth,
        machine=row.machine,
        family=row.family_id,
        typed=JobForm.of(read(row.typed), version),
        school=next(s for s in every if s.school is made.school),
        schools=every,
        materials=[JobMaterialOut(material=s, text=job_words.material(s), hazard=job_words.hazard(s)) for s in Stuff],
        figures=[FactOut(label=label, text=text) for label, text in job_words.blank_lines(made, units)],
        divides=facts.divides,
        ways=[out_of(one, units) for one in ways_of_job(row, session)],
        steps=shown,
        side=_side(made, units),
        lead=LeadOut(mill=lead.mill, ask=lead.ask, train=lead.train) if lead else None,
        bars=[
            PieceOut(record=f.bar.record, name=bar_name(f.bar.record, session),
                     text=store_words.from_bar_text(f, units))
            for f in bars_for(row, made, session)
        ],
        donors=[
            PieceOut(record=d.held.record, name=donor_name(d.held.record, session),
                     text=store_words.donor_text(d, units))
            for d in donors_for(row, session)
        ],
        remarks=job_words.remarks(made, is_standard(made.family.pitch), units),
        cutter=wheel_words.held_text(held[0]) if held else job_words.NO_CUTTER,
        next_step=next((s.code for s in shown if not (s.result and s.result.done)), None),
        version=version,
    )  # fmt: skip


def facts_of(row: JobRow, made: Job, session: Session, units: Units) -> words.JobFacts:
    """What the steps tell that is not of the job itself; where the shop has changed so that it cannot be told, why."""
    name = kind = ""
    try:
        way = divides(row, session)
        text, name, kind = way.text, way.by.on.row.name if way.by else "", way.by.on.row.kind if way.by else ""
    except Refusal as refused:
        refusal = refusals.say(refused)
        text = f"{refusal.says} {refusal.would_do.removesuffix('.')}"
    lead = kept.lead_of(row)
    texts = (
        lead_texts(lead, made.across, made.face * made.how_many, session, units)
        if lead
        else words.LeadTexts("", "", "", "")
    )
    across = made.sizes.tip_diameter + CLEANING_UP
    stock = "" if row.done else _stock(row, made, session, units)
    return words.JobFacts(text, stock, texts, name, kind == "rotary table", across)


def _stock(row: JobRow, made: Job, session: Session, units: Units) -> str:
    """What was chosen to cut it from; empty where nothing was."""
    try:
        if bar := chosen_bar(row, made, session):
            return f"**{bar_name(bar.bar.record, session)}**: {store_words.from_bar_text(bar, units)}."
        if donor := chosen_donor(row, made, session):
            return f"**{donor_name(donor.held.record, session)}**: {store_words.donor_text(donor, units)}"
    except Refusal as refused:
        refusal = refusals.say(refused)
        return f"{refusal.says} {refusal.would_do}"
    return ""


def bar_name(number: int, session: Session) -> str:
    """Of a piece of bar: material, size, where it lies."""
    row = stores.bar_row(session, number)
    return store_words.piece_name(row.material, row.diameter_mm, row.length_mm, row.place)


def donor_name(number: int, session: Session) -> str:
    """Of a wheel in the rack: count, condition, where it lies."""
    row = rack.wheel(session, number)
    return store_words.wheel_name(row.teeth, row.condition, row.machine.name if row.machine else row.place)


def _step(step: Step, made: Job, one: FoundFigure | None, facts: words.JobFacts, units: Units) -> JobStepOut:
    text, reading = words.text(step, made, facts, units), None
    if one is not None:
        reading = StepResultOut(
            figure=one.figure, text=job_words.result_text(step, made, units), at=one.at, done=one.done,
            out=step.code in made.figures and not in_tolerance(step, made.figures[step.code]), accepted=one.accepted,
            earlier=[EarlierFigureOut(figure=figure, at=at) for figure, at in one.earlier],
        )  # fmt: skip
    return JobStepOut(
        code=step.code, title=text.title, do=text.do, why=text.why, figure=text.figure, caution=text.caution,
        asks=step.asks.value if step.asks else None, result=reading,
    )  # fmt: skip


def _side(made: Job, units: Units) -> SideOut | None:
    view = made.side
    if view is None:
        return None
    texts = job_words.clearances(view, units)
    return SideOut(
        radius=view.radius, face=view.face, depth=view.depth, cutter=view.cutter, collar=view.collar,
        jaw_gap=-view.jaw_face, jaw_radius=view.jaw_radius, past=view.past, axis=view.axis, nut=view.nut,
        nut_radius=view.nut_radius, centre=view.centre, mandrel=view.mandrel, travel=view.travel, spacer=view.spacer,
        texts=texts, held=job_words.held_by(made),
        fouls=[what for what, clear in view.clearances.items() if clear < 0],
    )  # fmt: skip
