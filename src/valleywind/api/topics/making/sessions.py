"""The cutting session: where it stands, what is recorded, and who hears of it."""

from datetime import datetime
from itertools import islice, pairwise
from statistics import median
from typing import Annotated

from fastapi import APIRouter, BackgroundTasks, Query, Request
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.making.jobs import Number
from valleywind.api.ways_out import CircleOut, PlateOut, out_of
from valleywind.app.dividing import ByMachine
from valleywind.app.job_choices import job_of, title
from valleywind.app.recording import NewEvent, Recording, Records, add, begin
from valleywind.core.making.job import Job, steps
from valleywind.core.making.lost import find
from valleywind.core.making.places import By, Places
from valleywind.core.making.session import EventKind, gaps_cut
from valleywind.core.units import parse_whole
from valleywind.shop import cutting as cut_there
from valleywind.shop import jobs
from valleywind.shop.cutting import SessionNow
from valleywind.shop.cutting_plan import PlateKept, plan_of
from valleywind.shop.models import CuttingRow
from valleywind.wording.making import figures as job_words
from valleywind.wording.making import session as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/jobs", tags=["jobs"], responses=RESPONSES)
# Things that happened which are shown, the newest first; cuts by which the time that is left is told.
_SHOWN, _TIMED = 30, 12


class NowOut(BaseModel):
    """What to do for one cut."""

    tooth: int = Field(description="From 1")
    number: int = Field(description="Pass, from 1; 0 for the marks round")
    move: str = Field(examples=["1 turn 1 space"])
    stands: str = Field(examples=["circle 19, hole 1"])
    depth: str = Field(examples=["pass 2 of 3, 4.11 mm deep"])


class SessionEventOut(BaseModel):
    place: int
    at: str
    text: str
    by: str


class PinsOut(BaseModel):
    """Where the pin stands in the plate."""

    turns: int
    hole: int
    pin_turns: float
    plate_turns: float


class SessionOut(BaseModel):
    job: int
    title: str
    divides: str
    seen: int = Field(description="How many things are recorded; goes back with the next")
    divisions: int
    passes: int
    marks: bool
    cut: int = Field(description="The next cut, from 0")
    cuts: int
    finished: bool
    paused: str | None
    must_count: bool = Field(description="The marks are to be counted before anything else")
    must_measure: bool = Field(description="The first full teeth are to be measured before it goes on")
    measure: str = Field(description="What to measure and what it should come to; empty for nothing")
    status: str
    place_asked: str = Field(description="What is asked for of somebody who is lost")
    hint: str = Field(description="What holds for every cut; empty for nothing")
    now: NowOut | None = Field(description="What to do now; null at the end")
    next: list[NowOut] = Field(description="The three cuts after that")
    gaps: list[int] = Field(description="Passes that each gap has had; 0 for uncut or only marked")
    marked: int = Field(description="How many gaps are marked")
    plate: PlateOut | None
    pin: PinsOut | None
    per_cut: str | None
    left: str | None = Field(description="Time that is left, by the last cuts")
    happened: list[SessionEventOut] = Field(description="The newest first")


class EventIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"key": "4f0c…", "seen": 12, "kind": "done"}]})

    key: Annotated[str, Field(min_length=8, max_length=64, description="Made by the teller: told twice it counts once")]
    seen: int | None = Field(
        None, ge=0, le=2**53, description="How many things the teller knew of; leave out to add to any"
    )
    kind: EventKind
    reason: Annotated[str, Field(max_length=200)] | None = None
    tooth: int | None = Field(None, ge=0, le=2000, description="Of a jump, from 1")
    number: int | None = Field(None, ge=0, le=20, description="Pass of a jump, from 1; 0 for the marks")
    count: int | None = Field(None, ge=0, le=2000, description="Marks as counted")
    figure: Annotated[str, Field(max_length=40)] | None = Field(None, description="The span as measured, as typed")
    by: Annotated[str, Field(max_length=40)] = Field("", description="What told it: screen, pedal, encoder")

    def event(self) -> NewEvent:
        return NewEvent(self.kind, self.reason, self.tooth, self.number, self.count, self.figure)


@router.post("/{job}/session")
async def begin_session(job: Number, request: Request, after: BackgroundTasks, units: InUnits = Units.MM) -> SessionOut:
    """Begin cutting: the plan is kept as it is now."""

    def work(session: Session) -> tuple[SessionNow, SessionOut]:
        cutting = begin(session, job, lambda by: _kept_plate(by, units))
        stands = cut_there.standing(session, cutting)
        return stands, _out(session, cutting, stands, units)

    return await _recorded(job, work, request, after)


async def _recorded(job: int, work: Records[SessionOut], request: Request, after: BackgroundTasks) -> SessionOut:
    recording: Recording = request.app.state.recording
    stands, out = await recording.record(job, work)
    # Whoever told it has the answer before the others hear of it.
    after.add_task(recording.events.tell, session=job, seen=len(stands.known))
    return out


@router.get("/{job}/session")
def get_session(job: Number, session: InSession, units: InUnits = Units.MM) -> SessionOut:
    """Where the session stands."""
    cutting = cut_there.cutting(session, job)
    return _out(session, cutting, cut_there.standing(session, cutting), units)


@router.post("/{job}/session/events")
async def add_event(
    job: Number, event_in: EventIn, request: Request, after: BackgroundTasks, units: InUnits = Units.MM
) -> SessionOut:
    """Record one thing. It is on disk before this answers; told twice with one key it is recorded once."""

    def work(session: Session) -> tuple[SessionNow, SessionOut]:
        stands = add(session, job, event_in.event(), event_in.key, event_in.seen, event_in.by, units.bare)
        return stands, _out(session, cut_there.cutting(session, job), stands, units)

    return await _recorded(job, work, request, after)


def _deeper(made: Job) -> float:
    """How much deeper the last pass goes than planned, by what was measured since."""
    return made.depth - made.plunge.depth if made.depths is None else 0.0


class WhichToothOut(BaseModel):
    text: str
    teeth: list[int] = Field(description="From 1")
    number: int = Field(description="The pass that is being cut, from 1; 0 for the marks")


@router.get("/{job}/session/lost")
def get_lost(
    job: Number,
    session: InSession,
    hole: Annotated[str, Query(max_length=20, description="The hole that the pin is in, from 0")] = "",
    gaps: Annotated[str, Query(max_length=20, description="Gaps that are cut in this round")] = "",
) -> WhichToothOut:
    """Which tooth is this?"""
    cutting = cut_there.cutting(session, job)
    stands = cut_there.standing(session, cutting)
    at = parse_whole(hole, "hole", 0, 1000) if hole.strip() else None
    cut = parse_whole(gaps, "gaps", 0, 2000) if gaps.strip() else None
    which = find(stands.places, at, cut)
    recorded = None if stands.finished else stands.work.cut(stands.state.at).tooth
    number = stands.work.cut(min(stands.state.at, stands.work.cuts - 1)).number + 1
    return WhichToothOut(text=words.lost(which, recorded), teeth=[t + 1 for t in which.teeth], number=number)


def _kept_plate(by: ByMachine, units: Units) -> PlateKept | None:
    plate = out_of(by, units).plate
    if plate is None:
        return None
    circles = tuple((c.holes, c.radius_mm) for c in plate.circles)
    return PlateKept(circles, plate.measured, plate.circle, plate.lock, plate.spaces, tuple(plate.painted))


def _plate_out(plate: PlateKept | None) -> PlateOut | None:
    if plate is None:
        return None
    circles = [CircleOut(holes=holes, radius_mm=radius) for holes, radius in plate.circles]
    return PlateOut(
        circles=circles, measured=plate.measured, circle=plate.circle, lock=plate.lock, spaces=plate.spaces,
        painted=list(plate.painted), moves=[],
    )  # fmt: skip


def _to_measure(made: Job, units: Units) -> str:
    step = next((s for s in steps(made) if s.code == "measure"), None)
    return f"Span over {made.sizes.over} teeth: {job_words.figure(step, units)}" if step else ""


def _out(session: Session, cutting: CuttingRow, stands: SessionNow, units: Units) -> SessionOut:
    work, places, state, plan = stands.work, stands.places, stands.state, plan_of(cutting)
    must_measure = state.must_measure(work)
    # The job is worked out anew only where the answer depends on it: a step has to be quick.
    measured = must_measure or "measure" in jobs.figures(session, cutting.job_id)
    made = job_of(jobs.job(session, cutting.job_id), session) if measured else None
    deeper = _deeper(made) if made else 0.0
    depths, finished = plan.depths, stands.finished

    def cut_at(n: int) -> NowOut:
        cut = work.cut(n)
        before = work.cut(n - 1).tooth if n else None
        move, stands = words.move(places, before, cut)
        return NowOut(
            tooth=cut.tooth + 1, number=cut.number + 1, move=move, stands=stands,
            depth=words.pass_text(cut, depths, deeper, units),
        )  # fmt: skip

    ahead = [cut_at(n) for n in range(state.at, min(state.at + 4, work.cuts))]
    each = _seconds(stands)
    return SessionOut(
        job=cutting.job_id,
        title=plan.title or title(jobs.job(session, cutting.job_id), session),
        divides=plan.divides or words.divided(places, plan.head),
        seen=len(stands.known),
        divisions=work.divisions,
        passes=work.passes,
        marks=work.marks,
        cut=state.at,
        cuts=work.cuts,
        finished=finished,
        paused=state.paused,
        must_count=state.must_count(work),
        must_measure=must_measure,
        measure=_to_measure(made, units) if made and must_measure else "",
        status=words.status(state, work),
        place_asked=words.PLACES[places.by],
        hint=words.LEAD_HINT if plan.helical else plan.hint,
        now=ahead[0] if ahead else None,
        next=ahead[1:],
        gaps=gaps_cut(state, work),
        marked=min(state.at, work.divisions) if work.marks else 0,
        plate=_plate_out(plan.plate),
        pin=_pin(places, work.cut(min(state.at, work.cuts - 1)).tooth),
        per_cut=words.time_text(each) if each else None,
        left=words.time_text(each * (work.cuts - state.at)) if each and not finished else None,
        happened=_happened(stands),
    )


def _pin(places: Places, tooth: int) -> PinsOut | None:
    if places.by not in (By.CRANK, By.CRANK_AND_PLATE) or not places.circle:
        return None
    turned = sum(p.turns * places.circle + p.spaces for p in places.each[1 : tooth + 1])
    plate = sum(p.plate for p in places.each[1 : tooth + 1])
    place = places.each[tooth]
    return PinsOut(
        turns=place.turns, hole=place.hole, pin_turns=turned / places.circle,
        plate_turns=plate / places.lock if places.lock else 0.0,
    )  # fmt: skip


def _seconds(stands: SessionNow) -> float | None:
    """What a cut took lately, pauses apart; None before there are two in a row."""
    cuts = ((before.at, one.at) for one, before in pairwise(reversed(stands.known))
            if before.kind == one.kind == EventKind.DONE.value)  # fmt: skip
    took = [(datetime.fromisoformat(at) - datetime.fromisoformat(before)).total_seconds()
            for before, at in islice(cuts, _TIMED)]  # fmt: skip
    return median(took) if took else None


def _happened(stands: SessionNow) -> list[SessionEventOut]:
    """The newest in words, each with the cut it was about."""
    newest = zip(reversed(stands.known), reversed(stands.cuts), strict=True)
    return [
        SessionEventOut(
            place=row.place, at=row.at, text=words.happened(EventKind(row.kind), row.about, cut, stands.work.passes),
            by=row.by,
        )
        for row, cut in islice(newest, _SHOWN)
    ]  # fmt: skip
