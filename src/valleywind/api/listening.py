"""Server-sent events: what a page is told of without asking."""

import asyncio
import json
from collections.abc import AsyncIterator, Callable
from typing import Any

from fastapi import Request
from fastapi.responses import StreamingResponse

from valleywind.app.events import News

# The heartbeat, s: a line is sent without news, so that it is noticed who is gone.
_STILL_THERE = 10.0
# When a page comes again after the line was lost, ms.
_COME_AGAIN = 1000


def event_stream(
    request: Request, join: Callable[[], asyncio.Queue[News]], leave: Callable[[asyncio.Queue[News]], None]
) -> StreamingResponse:
    """What comes through the queue, from `join` until the page is gone or the program ends."""
    ending: asyncio.Event = request.app.state.turns.ending

    async def lines() -> AsyncIterator[str]:
        queue, news = join(), None
        ends = asyncio.ensure_future(ending.wait())
        try:
            yield f"retry: {_COME_AGAIN}\n\n"
            while not (ends.done() or await request.is_disconnected()):
                news = news or asyncio.ensure_future(queue.get())
                await asyncio.wait((news, ends), timeout=_STILL_THERE, return_when=asyncio.FIRST_COMPLETED)
                if news.done():
                    yield f"data: {json.dumps(news.result())}\n\n"
                    news = None
                else:
                    yield ": still there\n\n"
        finally:
            ends.cancel()
            if news:
                news.cancel()
            leave(queue)

    return StreamingResponse(lines(), media_type="text/event-stream", headers={"Cache-Control": "no-store"})


EVENTS: dict[int | str, dict[str, Any]] = {200: {"content": {"text/event-stream": {"schema": {"type": "string"}}}}}
"""How a route describes such an answer."""
