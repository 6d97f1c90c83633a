"""A quadrant as typed, of whatever machine: drawn live, and tried with a train known to go on."""

from collections.abc import Sequence
from typing import Annotated, Any

from pydantic import BaseModel, Field

from valleywind.api.drawing import Drawing, Scene, ToothOutline, draw_bare, draw_train, outlines
from valleywind.api.problems import FieldProblem, field_problem
from valleywind.core.refusal import Refused
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import parse_train
from valleywind.core.trains.quadrant_record import TypedQuadrant, TypedSlot, read_quadrant
from valleywind.shop import machines
from valleywind.shop.models import WheelFamilyRow
from valleywind.wording import trains
from valleywind.wording.numbers import Units

Typed = Annotated[str, Field(max_length=600)]


class SlotRecord(BaseModel):
    offset: Typed = Field("0", description="Degrees from the first slot")
    nearest: Typed
    farthest: Typed


class QuadrantIO(BaseModel):
    """What carries the studs, as typed; lengths bare are mm, angles degrees."""

    first_x: Typed = Field("", description="The first shaft, seen from the last, to the right")
    first_y: Typed = Field("", description="and up")
    swing_low: Typed = ""
    swing_high: Typed = ""
    boss_first: Typed = ""
    boss_stud: Typed = ""
    boss_last: Typed = ""
    gap: Typed = "0.5"
    studs: Typed = "2"
    slots: list[SlotRecord] = Field([], max_length=4)
    cover: Typed = Field("", description="Corners as x y, with commas between")

    def facts(self, of: type[TypedQuadrant]) -> dict[str, Any]:
        """The fields that a record of the core has, its slots among them."""
        slots = tuple(TypedSlot(s.offset, s.nearest, s.farthest) for s in self.slots)
        return {name: getattr(self, name) for name in of.__dataclass_fields__} | {"slots": slots}


class TriedWith(BaseModel):
    """How a record being typed is looked at."""

    train: Annotated[str, Field(max_length=80)] = Field(
        "", description="A train known to go on, to try the record with"
    )
    swing_deg: float | None = Field(None, ge=-360, le=360, description="Where the quadrant is drawn without a train")


class PreviewOut(BaseModel):
    problems: list[FieldProblem] = Field(description="Fields that cannot be used yet")
    drawing: Drawing | None
    outlines: list[ToothOutline]
    train_text: str | None = Field(description="Whether the train goes on, and why not")
    train_fits: bool | None


def preview(
    typed: TypedQuadrant, family: WheelFamilyRow | None, tried: TriedWith, names: trains.ShaftNames, units: Units
) -> PreviewOut:
    """The quadrant drawn, with the train on it where there is one, and whether that goes on."""
    try:
        quadrant = read_quadrant(typed)
    except Refused as refused:
        return _preview([field_problem(refused)])
    bare = draw_bare(quadrant, names, tried.swing_deg)
    if not tried.train.strip() or family is None:
        return _preview([], bare)
    try:
        train = parse_train(tried.train)
    except Refused as refused:
        return _preview([field_problem(refused)], bare)
    known = machines.family(family)
    placement = lay_out([train], known, quadrant)[0].placement
    return PreviewOut(
        problems=[], drawing=draw_train(train, placement, Scene(known, quadrant, names, units)),
        outlines=outlines(set(train.teeth), known), train_text=trains.tried(train, placement, names, units),
        train_fits=placement.fits,
    )  # fmt: skip


def _preview(problems: Sequence[FieldProblem], drawing: Drawing | None = None) -> PreviewOut:
    return PreviewOut(problems=list(problems), drawing=drawing, outlines=[], train_text=None, train_fits=None)
