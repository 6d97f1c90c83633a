"""What is chosen and typed of a job, as it is answered and sent."""

from dataclasses import asdict
from typing import Annotated

from pydantic import BaseModel, Field

from valleywind.api.versions import Version
from valleywind.core.dividing.plan import WayKind
from valleywind.core.making.job import School
from valleywind.core.making.materials import Stuff
from valleywind.core.making.session import CutOrder
from valleywind.shop.job_choices import Choices

Chosen = Annotated[str, Field(max_length=60)]
_RecordNumber = Annotated[int, Field(ge=1, le=2**53)]


class JobForm(BaseModel):
    """What is chosen and typed; empty where it is as usual or not said."""

    material: Stuff = Stuff.CAST_IRON
    school: School | None = Field(None, description="How the blank is held; null for what is proposed")
    how_many: Chosen = "1"
    bar: _RecordNumber | None = Field(None, description="The piece of bar that it is cut from; null for another")
    donor: _RecordNumber | None = Field(None, description="The wheel that is cut down; null for another")
    way: WayKind | None = Field(None, description="How it is divided; null for the best of what there is")
    head: Chosen = Field("", description="Slug of the machine that divides; empty for the best")
    number: int = Field(0, ge=0, le=200, description="Place of the way among those of its machine")
    template: Chosen = Field("", description="Teeth of the wheel that divides as its own plate")
    cutter: Chosen = Field("", description="Diameter of the cutter", examples=["63 mm"])
    collar: Chosen = Field("", description="Diameter of the arbor's collar beside it")
    jaw_gap: Chosen = Field("", description="From the blank to the jaws, the block or the head's nose")
    jaw_radius: Chosen = Field("", description="How far these reach from the axis")
    nut: Chosen = Field("", description="How far the nut or screw before the blank stands out; empty for none")
    nut_across: Chosen = Field("", description="How wide it is, over its corners")
    centre: Chosen = Field("", description="Height of the work's axis over the table")
    passes: Chosen = Field("", description="Depths from touching, empty as usual", examples=["2.7 4.1 4.57"])
    marks: bool = Field(True, description="Marks once round before any depth")
    order: CutOrder = CutOrder.ROUND_BY_ROUND
    note: Annotated[str, Field(max_length=300)] = ""
    version: Version = None

    def choices(self) -> Choices:
        """Without the version."""
        return Choices(**self.model_dump(exclude={"version"}))

    @classmethod
    def of(cls, choices: Choices, version: int | None = None) -> "JobForm":
        return cls(**asdict(choices), version=version)
