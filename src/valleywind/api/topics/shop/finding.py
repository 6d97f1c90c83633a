"""Whatever the shop has, found by name."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import Field

from valleywind.api.access import InSession
from valleywind.api.pieces import FromCore
from valleywind.api.problems import RESPONSES
from valleywind.app.finding import Findable, find

router = APIRouter(prefix="/find", tags=["shop"], responses=RESPONSES)


class ThingOut(FromCore):
    sort: Findable
    key: str = Field(description="Slug of a machine, else the number of the record", examples=["plover"])
    kind: str = Field(description="Kind of a machine; empty for anything else", examples=["lathe"])
    name: str = Field(examples=["Plover"])
    text: str = Field(description="What else is said of it", examples=["Lathe"])


class FindingOut(FromCore):
    things: list[ThingOut] = Field(description="The first six of each sort")
    more: int = Field(description="How many answer beside them")


@router.get("")
def find_in_shop(
    session: InSession,
    text: Annotated[
        str, Query(description="Words that all stand in what is sought", examples=["48 worn"], max_length=100)
    ],
) -> FindingOut:
    """Machines, jobs, wheels, cutters, bar and entries of the log that answer to every word."""
    return FindingOut.model_validate(find(session, text))
