"""Jobs: a wheel to be made, its choices, figures and steps, and what was found at each."""

from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter, Path, Query, Request, Response
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, ToAdd, ToWrite
from valleywind.api.drawn_files import attached, described
from valleywind.api.pages import mark_of
from valleywind.api.parameters import InUnits
from valleywind.api.pieces import FactOut
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.making.choices import Chosen, JobForm
from valleywind.api.topics.making.shown import JobLine, JobOut, facts_of, job_out, line_of
from valleywind.api.versions import check_version
from valleywind.api.whole_ask import whole
from valleywind.app.job_choices import check_held, check_passes, chosen_bar, chosen_donor, job_of, title
from valleywind.app.job_dividing import divides
from valleywind.app.lead_job import is_lead_job, lead_of
from valleywind.app.wheels import family_for
from valleywind.core.helix.ask import read as read_helix
from valleywind.core.helix.machine import read_screw
from valleywind.core.making.job import ScrewTeeth, Step, check_result, in_tolerance, steps
from valleywind.core.making.last_gap import DivisionDone, GapExplanation, divided, explained
from valleywind.core.making.screw_wheel import ScrewWheel, screw_wheel
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask import read_wheel
from valleywind.core.teeth.identify import standard_pitches
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, WheelFamily
from valleywind.core.teeth.sizes import check_bore
from valleywind.core.trains.direction import Hand
from valleywind.core.units import parse_length, parse_offset, parse_whole, spell
from valleywind.shop import cutting as cut_there
from valleywind.shop import jobs as kept
from valleywind.shop import log, machines, sources
from valleywind.shop.cutting_plan import plan_of
from valleywind.shop.job_choices import Choices, read
from valleywind.shop.models import JobRow
from valleywind.wording.helix.answers import MEANINGS as HELIX_MEANINGS
from valleywind.wording.making import figures as job_words
from valleywind.wording.making import session as session_words
from valleywind.wording.making import steps as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/jobs", tags=["jobs"], responses=RESPONSES)

_PLAIN_ANGLE = Fraction(20)
_MOST_BEFORE = 5
Number = Annotated[int, Path(ge=1, le=2**53, description="The job's number")]


class JobIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"ask": "make 57 for Plover"}]})

    ask: Annotated[str, Field(max_length=200)]
    family: int | None = Field(None, ge=1, le=2**53, description="The family of the wheel; null for the machine's")
    mill: Chosen = Field("", description="Slug of the mill that cuts a helical wheel; empty for the first")
    train: Annotated[str, Field(max_length=80)] = Field("", description="Its set-up; empty for the best")
    again: bool = Field(True, description="Make it even where a job for the same wheel is open")
    screw: "ScrewIn | None" = Field(None, description="The lead screw that the wheel runs in; null for any other wheel")


class ScrewIn(BaseModel):
    """A lead screw, as typed, and the wheel that runs in it."""

    screw: Annotated[str, Field(max_length=40)] = Field(description="The screw's pitch", examples=["4 tpi"])
    diameter: Annotated[str, Field(max_length=40)] = Field(description="Its pitch diameter")
    threads: Annotated[str, Field(max_length=40)] = Field(description="Threads that one turn of the wheel covers")
    face: Annotated[str, Field(max_length=40)] = "10 mm"
    starts: Annotated[str, Field(max_length=40)] = "1"
    hand: Hand = Hand.RIGHT

    def wheel(self, units: Units) -> ScrewWheel:
        """Raises Refusal at the field."""
        return screw_wheel(
            float(read_screw(self.screw, "screw")), parse_whole(self.starts, "starts", 1, 20, "starts?"),
            float(parse_length(self.diameter, units.bare, "diameter").mm),
            parse_whole(self.threads, "threads", 1, 1000, "threads?"), self.wide(units), standard_pitches(), self.hand,
        )  # fmt: skip

    def wide(self, units: Units) -> float:
        return float(parse_length(self.face, units.bare, "face").mm)


@router.get("")
def get_jobs(session: InSession) -> list[JobLine]:
    """All jobs, the newest first."""
    return [line_of(row, session) for row in kept.jobs(session)]


class MadeBefore(JobLine):
    """A wheel of the same count that was made before, or is being made."""

    figures: list[FactOut] = Field(description="What was found at its steps")
    divided: str = Field(description="How it was divided; empty where no session was begun")
    last_gap: str = Field(description="What its last gap told; empty where it was not compared")


@router.get("/before")
def get_jobs_before(
    session: InSession,
    teeth: Annotated[int, Query(ge=FEWEST_TEETH, le=MOST_TEETH, description="Teeth of the wheel")],
    but: Annotated[int | None, Query(ge=1, le=2**53, description="A job that is left out")] = None,
    units: InUnits = Units.MM,
) -> list[MadeBefore]:
    """The last five jobs of a wheel of this many teeth: what was found, how it was divided, what the last gap told."""
    return [_made_before(row, session, units) for row in kept.before(session, teeth, but, _MOST_BEFORE)]


def _made_before(row: JobRow, session: Session, units: Units) -> MadeBefore:
    cutting = cut_there.cutting_of(session, row.id)
    plan = plan_of(cutting) if cutting else None
    facts = [
        FactOut(label=words.TITLES.get(step, step), text=one.figure)
        for step, one in kept.figures(session, row.id).items() if one.figure
    ]  # fmt: skip
    divided = (plan.divides or session_words.divided(plan.places, plan.head)) if plan else ""
    gap = log.last_gap_of(session, row)
    return MadeBefore(
        **dict(line_of(row, session)), figures=facts, divided=divided,
        last_gap=session_words.gap_kept(gap.about, units) if gap else "",
    )  # fmt: skip


@router.post("")
def add_job(wanted: JobIn, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """A new job from an ask, `make 57 for Plover`, `make 24 m2 30° left`."""
    if wanted.screw is not None:
        return job_out(_add_screw_job(wanted.screw, wanted.again, session, units), session, units)
    if is_lead_job(wanted.ask):
        return job_out(_add_lead_job(wanted, session), session, units)
    wheel = read_wheel(wanted.ask)
    family, family_id, name, _ = family_for(session, wanted.family, wheel.machine)
    if wheel.pitch is not None:
        none = Fraction(0)
        family, family_id, name = (
            WheelFamily("", wheel.pitch, wheel.angle or _PLAIN_ANGLE, none, none, none, wheel.addendum),
            None,
            "",
        )
    if family is None:
        raise Refusal("no_pitch", "ask", wanted.ask)
    owner = wheel.machine or name
    machine = next((m.slug for m in machines.every(session) if m.name.lower() == owner.lower()), "")
    row = kept.add(session, wheel.teeth, family, Choices().spelled(), machine, family_id, again=wanted.again)
    check_bore(job_of(row, session).sizes)
    return job_out(row, session, units)


def _add_screw_job(wanted: ScrewIn, again: bool, session: Session, units: Units) -> JobRow:
    wheel = wanted.wheel(units)
    none, face = Fraction(0), Fraction(wanted.wide(units)).limit_denominator(1000)
    family = WheelFamily("", wheel.pitch, _PLAIN_ANGLE, none, none, face)
    teeth = ScrewTeeth(wheel.across, wheel.tilt, wanted.hand)
    typed = Choices().spelled()
    return kept.add(session, wheel.teeth, family, typed, "", None, screw=teeth, again=again)


def _add_lead_job(wanted: JobIn, session: Session) -> JobRow:
    ask = whole(read_helix(wanted.ask), HELIX_MEANINGS)
    lead = lead_of(ask, wanted.ask, wanted.mill, wanted.train, session)
    assert ask.pitch is not None
    assert ask.teeth is not None
    none = Fraction(0)
    family = WheelFamily("", ask.pitch, ask.angle or _PLAIN_ANGLE, none, none, ask.face or none)
    typed = Choices(cutter=f"{spell(ask.cutter)} mm" if ask.cutter else "").spelled()
    row = kept.add(session, ask.teeth, family, typed, "", None, lead=lead, again=wanted.again)
    job_of(row, session).sizes  # noqa: B018 (refused where no such wheel can be made)
    return row


class ScrewWheelOut(BaseModel):
    figures: list[FactOut]


@router.get("/for-a-screw")
def get_screw_wheel(
    screw: Annotated[str, Query(max_length=40, description="The screw's pitch", examples=["4 tpi"])],
    diameter: Annotated[str, Query(max_length=40, description="Its pitch diameter, or over the crests less a depth")],
    threads: Annotated[str, Query(max_length=40, description="Threads that one turn of the wheel covers")],
    face: Annotated[str, Query(max_length=40, description="Face of the wheel")] = "10 mm",
    starts: Annotated[str, Query(max_length=40, description="Starts of the screw")] = "1",
    hand: Annotated[Hand, Query(description="Hand of the screw")] = Hand.RIGHT,
    units: InUnits = Units.MM,
) -> ScrewWheelOut:
    """A wheel to run in a lead screw: count, pitch, how far the head is tilted, and the height of the cutter."""
    wheel = ScrewIn(screw=screw, diameter=diameter, threads=threads, face=face, starts=starts, hand=hand).wheel(units)
    return ScrewWheelOut(
        figures=[FactOut(label=label, text=text) for label, text in job_words.screw_wheel_lines(wheel, units)],
    )


@router.get("/{job}")
def get_job(job: Number, session: InSession, units: InUnits = Units.MM) -> JobOut:
    """One job: choices, figures, steps with what was found."""
    return job_out(kept.job(session, job), session, units)


@router.put("/{job}")
def put_job(job: Number, typed: JobForm, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """Type over what was chosen."""
    row = kept.job(session, job)
    before, wanted = read(row.typed), typed.choices()
    check_version(typed.version, row.version, typed, JobForm.of(before))
    changed = wanted != before
    kept.change(session, row, wanted.spelled())
    check_held(row, session)
    check_passes(row, session)
    made = job_of(row, session)
    divides(row, session)
    chosen_bar(row, made, session)
    chosen_donor(row, made, session)
    return job_out(row, session, units, changed)


class StepFigureIn(BaseModel):
    step: Annotated[str, Field(max_length=40)]
    figure: Chosen = ""
    done: bool = True
    accepted: Annotated[str, Field(max_length=200)] = Field(
        "", description="Why a figure outside its tolerance is taken; without it the step stays open"
    )


@router.put("/{job}/results")
def put_step_figure(job: Number, entry: StepFigureIn, session: ToAdd, units: InUnits = Units.MM) -> JobOut:
    """Add what was found at a step, and that it is done. Later steps follow; what stood there before is kept."""
    row = kept.job(session, job)
    step = _step(entry.step, row, session)
    figure, done, accepted = entry.figure.strip(), entry.done, ""
    if figure:
        if step.asks is None:
            raise Refusal("asks_nothing", "figure", entry.figure)
        mm = float(parse_offset(figure, units.bare, "figure").mm)
        check_result(step, mm)
        if not in_tolerance(step, mm):
            accepted = entry.accepted.strip()
            done = done and bool(accepted)
    # A bare figure is kept with the unit that it was meant in.
    if (
        figure
        and units is Units.INCH
        and parse_offset(figure, field="figure") != parse_offset(figure, units.bare, "figure")
    ):
        figure = f"{figure} in"
    kept.add_result(session, row, entry.step, figure, done, accepted=accepted)
    return job_out(row, session, units)


def _step(code: str, row: JobRow, session: Session) -> Step:
    step = next((s for s in steps(job_of(row, session)) if s.code == code), None)
    if step is None:
        raise Refusal("no_such_step", "step", code)
    return step


@router.delete("/{job}")
def delete_job(job: Number, session: ToWrite) -> None:
    """Delete a job of which nothing is cut yet."""
    kept.delete(session, kept.job(session, job))


@router.post("/{job}/rack")
def rack_job(job: Number, session: ToWrite, units: InUnits = Units.MM) -> JobOut:
    """The wheel is made: into the rack with material, date and figures."""
    row = kept.job(session, job)
    made = job_of(row, session)
    if row.done:
        return job_out(row, session, units)
    shelf = next((m for m in machines.every(session) if m.slug == row.machine), None)
    figures = {code: one.figure for code, one in kept.figures(session, row.id).items() if one.figure}
    note = job_words.rack_note(made, figures, cut_there.now()[:10])
    # What it was cut from is looked up before it is gone.
    with suppress(Refusal):
        if bar := chosen_bar(row, made, session):
            sources.take_bar(session, bar.bar.record, bar.used)
    with suppress(Refusal):
        if donor := chosen_donor(row, made, session):
            sources.take_donor(session, donor.held.record)
    kept.into_rack(session, row, shelf, made.how_many, str(made.stuff), note[:200])
    return job_out(row, session, units, True)


@router.get("/{job}/sheet.pdf", response_class=Response, responses=described("pdf"))
def get_job_sheet(job: Number, request: Request, session: InSession, units: InUnits = Units.MM) -> Response:
    """The job on a page of A4, step by step, with room for what is found."""
    from valleywind.formats.job_sheet_pdf import job_sheet_pdf  # loaded when one is first asked for

    row = kept.job(session, job)
    made = job_of(row, session)
    facts = facts_of(row, made, session, units)
    lines = [(s, words.text(s, made, facts, units)) for s in steps(made)]
    written = job_sheet_pdf(
        title(row, session),
        job_words.blank_lines(made, units),
        lines,
        made,
        job_words.SCHOOLS[made.school][0],
        mark_of(request, f"/jobs/{row.id}"),
    )
    return attached(written, "pdf", f"job-{row.id}-{row.teeth}")


class LastGapOut(BaseModel):
    text: str
    slips: list[str]


Thicker = Annotated[str, Query(max_length=40, description="How much thicker the last tooth is, below 0 thinner")]
MayBeOff = Annotated[str, Query(max_length=40, description="By how much that may be off")]


@dataclass(frozen=True)
class _LastGap:
    """A last gap beside its neighbours, µm, and the single slips that explain it."""

    size: float
    spread: float
    of: DivisionDone
    slips: list[GapExplanation]

    def answer(self, units: Units) -> LastGapOut:
        return LastGapOut(
            text=session_words.last_gap(self.size, self.spread, self.of, self.slips, units),
            slips=[session_words.slip(f, units) for f in self.slips],
        )


def _last_gap(row: JobRow, session: Session, measured: str, off: str, units: Units) -> _LastGap:
    way = divides(row, session)
    size = float(parse_offset(measured, units.bare, "measured").mm) * 1000
    spread = float(parse_length(off, units.bare, "off").mm) * 1000
    of = divided(way.places, way.by.on.head.circles if way.by else (), job_of(row, session).sizes.pitch_diameter)
    return _LastGap(size, spread, of, list(explained(size, spread, of)))


@router.get("/{job}/last-gap")
def get_last_gap(
    job: Number, session: InSession, measured: Thicker, off: MayBeOff = "0.03 mm", units: InUnits = Units.MM
) -> LastGapOut:
    """What the last gap tells, beside its neighbours: right, or the single slips that explain it."""
    return _last_gap(kept.job(session, job), session, measured, off, units).answer(units)


@router.post("/{job}/last-gap")
def keep_last_gap(
    job: Number, session: ToAdd, measured: Thicker, off: MayBeOff = "0.03 mm", units: InUnits = Units.MM
) -> LastGapOut:
    """The same, kept in the log."""
    row = kept.job(session, job)
    gap = _last_gap(row, session, measured, off, units)
    log.note_last_gap(session, row, gap.size - gap.of.planned_gap, gap.spread, next(iter(gap.slips), None))
    return gap.answer(units)
