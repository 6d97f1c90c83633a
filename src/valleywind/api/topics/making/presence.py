"""Who is at a cutting session."""

from datetime import UTC, datetime

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from valleywind.api.doors import address_of, guest_of
from valleywind.api.guard import LOOPBACK
from valleywind.api.problems import RESPONSES
from valleywind.app.presence import Presence
from valleywind.wording import entry as words

router = APIRouter(prefix="/presence", tags=["jobs"], responses=RESPONSES)


class PresenceIn(BaseModel):
    page: str = Field(description="A key that the page made for itself", pattern=r"^[0-9a-f]{32}$")
    number: int = Field(
        0, description="Its place among what the page says: later ones have a larger one", ge=0, le=2**53
    )
    session: int | None = Field(description="Whose session it shows: a job’s number; null for none", ge=1, le=2**53)


class PresentOut(BaseModel):
    """Another page that shows the session."""

    name: str = Field(description="What the device is called")
    same_device: bool = Field(description="It is another page of the device that asks")
    since: str = Field(description="When it came")


@router.post("")
async def say_present(typed: PresenceIn, request: Request) -> list[PresentOut]:
    """Say which session a page shows, and hear which other pages show it, who came first first. A page says it again
    every 15 s."""
    presence: Presence = request.app.state.presence
    guest, address = guest_of(request), address_of(request)
    who = guest.key if guest else address
    if typed.session is None:
        presence.gone(typed.page, who, typed.number)
        return []
    name = guest.name if guest else words.HOST if address in LOOPBACK else address
    return [
        PresentOut(
            name=one.name,
            same_device=one.who == who,
            since=datetime.fromtimestamp(one.since, UTC).isoformat(timespec="seconds"),
        )
        for one in presence.here(typed.page, typed.session, name, who, typed.number)
    ]
