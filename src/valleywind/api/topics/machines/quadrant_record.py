"""A quadrant as typed, of whatever machine: drawn live, and tried with a train known to go on."""

from collections.abc import Sequence
from dataclasses import asdict
from typing import Annotated, Any

from pydantic import BaseModel, Field

from valleywind.api.drawing import Drawing, Scene, ToothOutline, draw_bare, draw_train, outlines
from valleywind.api.fields import LongTyped
from valleywind.api.problems import FieldProblem, field_problem
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import parse_train
from valleywind.core.trains.quadrant import Part, Quadrant
from valleywind.core.trains.quadrant_record import Source, TypedQuadrant, TypedSlot, read_quadrant, spell_quadrant
from valleywind.shop import machines
from valleywind.shop.models import QuadrantRow, WheelFamilyRow
from valleywind.wording import trains
from valleywind.wording.machines import quadrant_state
from valleywind.wording.numbers import Units


class SlotRecord(BaseModel):
    offset: LongTyped = Field("0", description="Degrees from the first slot")
    nearest: LongTyped
    farthest: LongTyped


class QuadrantIO(BaseModel):
    """What carries the studs, as typed; lengths bare are mm, angles degrees."""

    first_x: LongTyped = Field("", description="The first shaft, seen from the last, to the right")
    first_y: LongTyped = Field("", description="and up")
    apart: LongTyped = Field("", description="Distance of the two shafts, where only that is known")
    swing_low: LongTyped = ""
    swing_high: LongTyped = ""
    collar_first: LongTyped = Field("", description="Diameter of what sticks out beside a wheel on the first shaft")
    collar_stud: LongTyped = Field("", description="the same on a stud")
    collar_last: LongTyped = Field("", description="and on the last shaft")
    gap: LongTyped = "0.5"
    studs: LongTyped = Field("", description="How many there are")
    slots: list[SlotRecord] = Field([], max_length=4)
    cover: LongTyped = Field("", description="Corners as x y, with commas between; `none` where there is no cover")
    goes_on: LongTyped = Field("", description="Trains known to go on, with one stud", examples=["20/65*40/50"])
    not_on: LongTyped = Field("", description="Trains known not to go on, with one stud")
    sources: dict[Part, Source] = Field({}, description="Where a part comes from, if not from papers")

    def facts(self, of: type[TypedQuadrant]) -> dict[str, Any]:
        """The fields that a record of the core has, its slots among them."""
        slots = tuple(TypedSlot(s.offset, s.nearest, s.farthest) for s in self.slots)
        return {name: getattr(self, name) for name in of.__dataclass_fields__} | {"slots": slots}


class RecordTrial(BaseModel):
    """How a record being typed is looked at."""

    train: Annotated[str, Field(max_length=80)] = Field(
        "", description="A train known to go on, to try the record with"
    )
    swing_deg: float | None = Field(None, ge=-360, le=360, description="Where the quadrant is drawn without a train")


class PreviewOut(BaseModel):
    problems: list[FieldProblem] = Field(description="Fields that cannot be used yet")
    drawing: Drawing | None
    known: str = Field("", description="What is known of the quadrant, shortly", examples=["not known"])
    outlines: list[ToothOutline]
    train_text: str | None = Field(description="Whether the train goes on, and why not")
    train_fits: bool | None


def preview(
    typed: TypedQuadrant, family: WheelFamilyRow | None, tried: RecordTrial, names: trains.ShaftNames, units: Units
) -> PreviewOut:
    """The quadrant drawn as far as it is known, with the train on it where there is one, and whether that goes on."""
    known = machines.family(family) if family else None
    try:
        facts = read_quadrant(typed)
        train = parse_train(tried.train) if tried.train.strip() else None
    except Refusal as refused:
        return _preview([field_problem(refused)])
    state = quadrant_state(facts)
    # Without a pitch no train can be tried on it, but its measures are drawn.
    quadrant = facts.carrier(float(known.module) if known else 1.0 if train is None else None)
    if train is None:
        bare = draw_bare(quadrant, names, tried.swing_deg) if isinstance(quadrant, Quadrant) else None
        return _preview([], bare).model_copy(update={"known": state})
    wheels = known or UNKNOWN_FAMILY
    placement = lay_out([train], wheels, quadrant)[0].placement
    # Which way the shafts turn is no part of this record.
    scene = Scene(wheels, quadrant, names, units, None, pitch_known=known is not None)
    return PreviewOut(
        problems=[], known=state, outlines=outlines(set(train.teeth), wheels),
        drawing=draw_train(train, placement, scene),
        train_text=trains.trial_text(train, placement, quadrant, names, units), train_fits=placement.fits,
    )  # fmt: skip


def _preview(problems: Sequence[FieldProblem], drawing: Drawing | None = None) -> PreviewOut:
    return PreviewOut(problems=list(problems), drawing=drawing, outlines=[], train_text=None, train_fits=None)


def shown_quadrant(row: QuadrantRow | None) -> dict[str, Any]:
    """The fields as they are on record."""
    return asdict(spell_quadrant(machines.quadrant_facts(row)))
