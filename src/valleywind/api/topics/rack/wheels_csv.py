"""The rack as a table for a spreadsheet, and wheels read from one."""

from typing import Annotated, Literal

from fastapi import APIRouter, Body, Query, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import LONG, InSession, Shop, ToWriteAtLength
from valleywind.api.problems import RESPONSES, field_problem
from valleywind.api.tables import CSV, csv_response
from valleywind.core.teeth.pile import Condition
from valleywind.formats import rack_csv
from valleywind.shop import machines, rack

Same = Literal["add", "skip", "replace"]
router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)


class CsvLineOut(BaseModel):
    number: int = Field(description="Line of the file, the headings being 1")
    cells: dict[str, str]
    problem: str | None = Field(description="What is wrong with it, at which column")


class ImportOut(BaseModel):
    lines: list[CsvLineOut] = Field(description="The first lines, and every line that cannot be used, up to a hundred")
    good: int
    bad: int
    there: int = Field(description="Lines whose wheels are in the rack already, alike in everything but their count")
    unused: list[str] = Field(description="Columns that cannot be used; they are not read")
    done: bool = Field(description="They were put in")


@router.get("/wheels.csv", response_class=Response, responses=CSV)
def get_csv(session: InSession) -> Response:
    """The rack as a table for a spreadsheet. Cells that look like formulas are made texts."""
    families = {row.id: row.name for row in rack.families(session)}
    owners = {row.id: row.name for row in machines.every(session)}
    lines = [
        rack_csv.CsvWheel(
            row.teeth, row.count, families.get(row.family_id or 0, ""), owners.get(row.machine_id or 0, ""),
            Condition(row.condition), row.material, row.place, row.note, row.shift,
        )
        for row in rack.briefly(session)
    ]  # fmt: skip
    return csv_response(rack_csv.write(lines), "rack.csv")


@router.post("/wheels.csv", dependencies=[LONG])
def read_csv(
    file: Annotated[bytes, Body(media_type="text/csv", description="The file, UTF-8")],
    shop: Shop,
    at_length: ToWriteAtLength,
    put: Annotated[bool, Query(description="Put the wheels in; else only say what would be")] = False,
    same: Annotated[
        Same,
        Query(description="Of wheels that are there already: add beside them, leave out, or make their count this one"),
    ] = "add",
) -> ImportOut:
    """Read wheels from a CSV file: line by line what is wrong, and all of it put in or nothing."""
    if put:
        return at_length(True, lambda session: _read(session, file, put, same))
    with shop.reading() as session:
        return _read(session, file, put, same)


def _read(session: Session, file: bytes, put: bool, same: Same) -> ImportOut:
    families = {row.name: row.id for row in rack.families(session)}
    owners = {row.name: row.id for row in machines.every(session)}
    file_read = rack_csv.read(file, list(families), list(owners))
    lines = file_read.lines
    records = [_as_record(line.wheel, families, owners) for line in lines if line.wheel]
    there = rack.alike(session, records)
    bad = [line for line in lines if line.wheel is None]
    putting = put and not bad
    if putting:
        if same == "replace":
            rack.set_counts(session, [(there[n], r["count"]) for n, r in enumerate(records) if n in there])
        fresh = records if same == "add" else [r for n, r in enumerate(records) if n not in there]
        rack.put_records(session, fresh)
    return ImportOut(
        lines=[_csv_line(line) for line in (bad + [line for line in lines if line.wheel][:8])[:100]],
        good=len(lines) - len(bad),
        bad=len(bad),
        there=len(there),
        unused=list(file_read.unused),
        done=putting,
    )


def _as_record(wheel: rack_csv.CsvWheel, families: dict[str, int], owners: dict[str, int]) -> rack.Record:
    return {
        "teeth": wheel.teeth, "count": wheel.count, "family_id": families.get(wheel.family),
        "machine_id": owners.get(wheel.machine), "condition": wheel.condition.value, "material": wheel.material,
        "place": wheel.place, "note": wheel.note, "measured": {}, "shift": wheel.shift, "photo": "",
    }  # fmt: skip


def _csv_line(line: rack_csv.CsvLine) -> CsvLineOut:
    if line.refused is None:
        return CsvLineOut(number=line.number, cells=dict(line.cells), problem=None)
    problem = field_problem(line.refused)
    return CsvLineOut(
        number=line.number, cells=dict(line.cells), problem=f"{line.refused.field}: {problem.says} {problem.would_do}"
    )
