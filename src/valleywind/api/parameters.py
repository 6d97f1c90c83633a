"""Parameters that routes of several topics take: units, a machine, a lathe with what it is planned with."""

from typing import Annotated

from fastapi import Depends, Path, Query

from valleywind.api.access import InSession
from valleywind.app.kinds.lathe import LatheInUse, lathe_in_use
from valleywind.core.names import check_name
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.trains.model import Change
from valleywind.wording.numbers import Units

MOST_INITIALS = 12
InUnits = Annotated[Units, Query(description="Lengths in the texts")]
ChangeOf = Annotated[
    Change, Query(description="Put a wheel at a place, swap two, put an idler behind one, take an idler out")
]
WheelAt = Annotated[int, Query(description="Place of the wheel, counted from the first driver at 0")]
Teeth = Annotated[int, Query(ge=FEWEST_TEETH, le=MOST_TEETH, description="The wheel to put, for put and idler")]
OtherPlace = Annotated[int, Query(description="The other place, for swap")]
Slug = Annotated[str, Path(description="The machine's short name", examples=["plover"])]


def _lathe(machine: Slug, session: InSession) -> LatheInUse:
    return lathe_in_use(session, machine)


OnLathe = Annotated[LatheInUse, Depends(_lathe)]


def _initials(
    by: Annotated[str, Query(max_length=MOST_INITIALS, description="Initials of whoever says it; may be empty")] = "",
) -> str:
    return check_name(by, "by").strip()


By = Annotated[str, Depends(_initials)]
