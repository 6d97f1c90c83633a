"""The one stream of events of a page."""

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse

from valleywind.api.listening import EVENTS, event_stream
from valleywind.app.events import Events

router = APIRouter(tags=["shop"])


@router.get("/events", response_class=StreamingResponse, responses=EVENTS)
async def hear_events(request: Request) -> StreamingResponse:
    """Server-sent events: `{"session": 1, "seen": 24}` when a step is recorded, `{"device": 2, "sort": "caliper",
    "value": "12.34"}` when a device says something, `{"missed": true}` to a page that did not keep up."""
    events: Events = request.app.state.recording.events
    return event_stream(request, events.join, events.leave)
