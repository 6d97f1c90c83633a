"""What a change at each place of a machine weighs, for the order of a day's work."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession, ToWrite
from valleywind.api.parameters import Slug
from valleywind.api.problems import RESPONSES
from valleywind.app.kinds import weights_of
from valleywind.core.trains.effort import WEIGHTS
from valleywind.shop import efforts, machines
from valleywind.shop.models import MachineRow
from valleywind.wording import effort as words

router = APIRouter(prefix="/machines", tags=["machines"], responses=RESPONSES)


class WeightOut(BaseModel):
    field: str = Field(description="What requests call it", examples=["stud"])
    label: str = Field(examples=["A wheel on a stud"])
    typed: str = Field(description="What it weighs, as typed", examples=["3"])
    usual: str = Field(description="What it weighs where nobody says", examples=["1"])


class EffortOut(BaseModel):
    weights: list[WeightOut] = Field(description="In the order in which they are asked for; none where none is planned")


class EffortIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"weights": {"stud": "3"}}]})

    weights: dict[str, Annotated[str, Field(max_length=20)]] = Field(
        description="What each weighs, as typed; one that is left out is as usual", max_length=len(WEIGHTS)
    )


@router.get("/{machine}/effort")
def get_effort(machine: Slug, session: InSession) -> EffortOut:
    """What a change at each place of a machine weighs, beside a wheel that is easy to reach."""
    return _out(machines.machine(session, machine))


@router.put("/{machine}/effort")
def put_effort(machine: Slug, typed: EffortIn, session: ToWrite) -> EffortOut:
    """Say what a change at each place weighs: a place that is a pain to reach weighs more."""
    row = machines.machine(session, machine)
    known = {name: text for name, text in typed.weights.items() if name in WEIGHTS}
    efforts.save(session, row, replace(efforts.as_typed(row), **known))
    return _out(row)


def _out(row: MachineRow) -> EffortOut:
    typed = efforts.as_typed(row)
    return EffortOut(
        weights=[
            WeightOut(field=w.field, label=w.label, typed=getattr(typed, w.field), usual=words.usual(w.field))
            for w in weights_of(row)
        ]
    )
