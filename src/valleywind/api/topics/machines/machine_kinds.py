"""What a machine may be beside a lathe: its kinds, and the fields of their records as a form shows them."""

from collections.abc import Mapping
from dataclasses import fields
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from valleywind.app.kinds import RECORDS
from valleywind.wording.record_form import PartWords, Words

router = APIRouter(prefix="/machine-kinds", tags=["machines"])


class FieldOptionOut(BaseModel):
    word: str
    text: str


class RecordFieldOut(BaseModel):
    """A field of a record, as a form shows it."""

    name: str
    label: str
    example: str = Field(description="What may be typed, empty where there is nothing to type")
    usual: str = Field(description="What stands there at first")
    options: list[FieldOptionOut] = Field(description="Words that it may hold, and what they are called")
    long: bool = Field(description="Over the whole width")
    numeric: bool = Field(description="A bare figure")
    tick: bool = Field(description="Yes or no")


class RecordGroupOut(BaseModel):
    """Fields under one heading; those of a row stand side by side."""

    title: str
    note: str
    rows: list[list[RecordFieldOut]]


class ShaftNamesOut(BaseModel):
    first: str
    last: str
    carrier: str


class RecordBoxOut(BaseModel):
    """A box for change wheels, as a form shows it."""

    name: str
    title: str
    right_way: str = Field(description="What is so with an even or an odd number of meshes")
    lever: str
    shafts: ShaftNamesOut


class RecordPartOut(BaseModel):
    """A part that a kind of machine has, or may have."""

    name: str
    groups: list[RecordGroupOut]
    boxes: list[RecordBoxOut]
    boxes_title: str
    boxes_note: str


class MachineKindOut(BaseModel):
    """What a machine may be beside a lathe, with every field of its record."""

    kind: str
    path: str = Field(description="Its name in addresses")
    a: str = Field(description="Its name with its article", examples=["a dividing head"])
    what: str
    parts: list[RecordPartOut]


@router.get("")
def list_kinds() -> list[MachineKindOut]:
    """What a machine may be beside a lathe, and the fields of its record."""
    return [
        MachineKindOut(
            kind=one.kind, path=one.path, a=one.a, what=one.what, parts=[_part_out(part) for part in one.parts]
        )
        for one in (record.words for record in RECORDS.values())
    ]


def _part_out(part: PartWords) -> RecordPartOut:
    usual = {f.name: f.default for f in fields(part.typed)}
    return RecordPartOut(
        name=part.name, boxes_title=part.boxes_title, boxes_note=part.boxes_note,
        groups=[
            RecordGroupOut(title=group.title, note=group.note,
                     rows=[[_field_out(one, usual) for one in row] for row in group.rows])
            for group in part.groups
        ],
        boxes=[
            RecordBoxOut(name=box.box, title=box.title, right_way=box.right_way, lever=box.lever,
                   shafts=ShaftNamesOut.model_validate(vars(box.shafts)))
            for box in part.boxes
        ],
    )  # fmt: skip


def _field_out(words: Words, usual: Mapping[str, Any]) -> RecordFieldOut:
    return RecordFieldOut(
        name=words.field, label=words.label, example=words.example, usual="" if words.tick else usual[words.field],
        long=words.long, numeric=words.numeric,
        options=[FieldOptionOut(word=word, text=text) for word, text in words.options], tick=words.tick,
    )  # fmt: skip
