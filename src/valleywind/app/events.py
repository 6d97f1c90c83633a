"""What pages are told of without asking: a step was recorded, a device says something."""

import asyncio
from contextlib import suppress
from typing import Any

News = dict[str, Any]
"""What happened: `session`, the job's number, with `seen`, how many things are recorded; `device` with what it says;
`present`, the job's number whose session a page came to or left; or `changed`, the number of a change of the shop, null
for what is only ever added to. `restored`: a copy was put in the place of the shop. `missed`: a page that did not keep
up must ask for everything."""

# How many are kept for a page that does not keep up.
_MOST_WAITING = 200


class Events:
    """Who listens. Told from whatever thread."""

    def __init__(self) -> None:
        self._listening: dict[asyncio.Queue[News], asyncio.AbstractEventLoop] = {}

    def join(self) -> asyncio.Queue[News]:
        """Listen from now on."""
        queue: asyncio.Queue[News] = asyncio.Queue()
        self._listening[queue] = asyncio.get_running_loop()
        return queue

    def leave(self, queue: asyncio.Queue[News]) -> None:
        self._listening.pop(queue, None)

    def tell(self, **news: Any) -> None:
        """Say it to all who listen."""
        for queue, loop in list(self._listening.items()):
            with suppress(RuntimeError):  # its loop is closed: the program ends
                loop.call_soon_threadsafe(_put, queue, news)


def _put(queue: asyncio.Queue[News], news: News) -> None:
    if queue.qsize() < _MOST_WAITING:
        queue.put_nowait(news)
        return
    while not queue.empty():
        queue.get_nowait()
    queue.put_nowait({"missed": True})
