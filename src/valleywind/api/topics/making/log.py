"""The log of a job: everything that happened with it, on the bench and in its session."""

from collections.abc import Iterator

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_response
from valleywind.api.topics.making.jobs import Number
from valleywind.api.topics.making.shown import bar_name, facts_of
from valleywind.app.job_choices import job_of
from valleywind.core.making.job import Step
from valleywind.core.making.session import Cut, EventKind
from valleywind.formats.tables import csv_text
from valleywind.shop import cutting as cut_there
from valleywind.shop import jobs as kept
from valleywind.shop import machines, rack, stores
from valleywind.shop.models import JobEventKind, JobRow
from valleywind.wording.making import log as words
from valleywind.wording.making import session as session_words
from valleywind.wording.making import steps as step_words
from valleywind.wording.numbers import Units
from valleywind.wording.rack import stores as store_words

router = APIRouter(prefix="/jobs", tags=["jobs"], responses=RESPONSES)


class LogLine(BaseModel):
    at: str = Field(description="When, UTC")
    until: str = Field(description="When the last of a run of cuts was; as `at` where it is one thing")
    text: str
    by: str = Field(description="What told it: screen, pedal, encoder; empty for what was typed")


@router.get("/{job}/log")
def get_log(job: Number, session: InSession, units: InUnits = Units.MM) -> list[LogLine]:
    """Everything that happened, the newest first; cuts in a row are one line."""
    row = kept.job(session, job)
    lines = [*_of_the_job(row, session, units), *_of_the_session(row, session, together=True)]
    return sorted(lines, key=lambda line: line.at, reverse=True)


@router.get("/{job}/log.csv", response_class=Response, responses=CSV)
def get_log_csv(job: Number, session: InSession, units: InUnits = Units.MM) -> Response:
    """The same as a table, every cut in its own line, the oldest first."""
    row = kept.job(session, job)
    lines = [*_of_the_job(row, session, units), *_of_the_session(row, session, together=False)]
    rows = [(line.at, line.text, line.by) for line in sorted(lines, key=lambda line: line.at)]
    return csv_response(csv_text(("time (UTC)", "what", "told by"), rows), f"job-{row.id}-{row.teeth}-log.csv")


def _of_the_job(row: JobRow, session: Session, units: Units) -> Iterator[LogLine]:
    made, before = job_of(row, session), None
    facts, names = facts_of(row, made, session, units), _names(session)
    for event in kept.events(session, row.id):
        match JobEventKind(event.kind):
            case JobEventKind.CHOSEN:
                text, before = words.chosen(before, event.about["typed"], names), event.about["typed"]
            case JobEventKind.FOUND:
                title = step_words.text(Step(event.about["step"]), made, facts, units).title
                text = words.figure_text(
                    title, event.about["figure"], event.about["done"], event.about.get("accepted", "")
                )
            case JobEventKind.IN_RACK:
                text = words.IN_RACK
            case JobEventKind.OUT_AGAIN:
                text = words.OUT_AGAIN
        yield LogLine(at=event.at, until=event.at, text=text, by="")


def _names(session: Session) -> words.Names:
    every = machines.every(session)
    names = {m.id: m.name for m in every}
    donors = {
        w.id: store_words.wheel_name(w.teeth, w.condition, names.get(w.machine_id or 0) or w.place)
        for w in rack.briefly(session)
    }
    bars = {b.id: bar_name(b.id, session) for b in stores.bars(session)}
    return words.Names({m.slug: m.name for m in every}, bars, donors)


def _of_the_session(row: JobRow, session: Session, together: bool) -> Iterator[LogLine]:
    cutting = cut_there.cutting_of(session, row.id)
    if cutting is None:
        return
    yield LogLine(at=cutting.begun, until=cutting.begun, text=words.BEGUN, by="")
    stands = cut_there.standing(session, cutting)
    passes = stands.work.passes
    run: list[tuple[cut_there.SessionEntry, Cut]] = []

    def lines() -> Iterator[LogLine]:
        if run:
            (first, begun), (last, ended) = run[0], run[-1]
            begins, ends = session_words.cut_text(begun, passes), session_words.cut_text(ended, passes)
            yield LogLine(at=first.at, until=last.at, text=words.cuts(begins, ends, len(run)), by=first.by)
            run.clear()

    for one, cut in zip(stands.known, stands.cuts, strict=True):
        kind = EventKind(one.kind)
        if kind is EventKind.DONE and cut is not None:
            # A run is of one pass, told by one device.
            if run and (not together or run[-1][1].number != cut.number or run[-1][0].by != one.by):
                yield from lines()
            run.append((one, cut))
            continue
        yield from lines()
        text = session_words.happened(kind, one.about, cut, passes)
        yield LogLine(at=one.at, until=one.at, text=text, by=one.by)
    yield from lines()
