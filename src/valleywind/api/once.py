"""What is sent twice because its answer was lost on the way is done once, and answered as it was the first time."""

import asyncio
import re
import time
from collections import OrderedDict
from dataclasses import dataclass, field

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

ONCE_HEADER = "Valleywind-Once"
"""A key of 32 hexadecimal digits that a page makes for what it sends, and keeps where no answer came."""

_KEY = re.compile(r"[0-9a-f]{32}")
_CHANGES_NOTHING = {"GET", "HEAD", "OPTIONS"}
# How many answers are kept, for how long, s, and the longest that is kept.
_MOST, _KEPT, _LONGEST = 500, 900.0, 256 * 1024


@dataclass
class _Answer:
    """What was answered, once it is there; change: the number of the change that it made."""

    at: float
    there: asyncio.Event = field(default_factory=asyncio.Event)
    start: Message | None = None
    body: bytes = b""
    change: int | None = None


class Once:
    """An application to which a request with a key that it knows is not passed again.

    Only what went well is kept: what was refused changed nothing, and is asked again. A key counts for its method and
    address and for whoever sent it."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._kept: OrderedDict[tuple[str, ...], _Answer] = OrderedDict()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = Headers(scope=scope) if scope["type"] == "http" else Headers()
        key = headers.get(ONCE_HEADER, "")
        if scope["type"] != "http" or scope["method"] in _CHANGES_NOTHING or not _KEY.fullmatch(key):
            await self.app(scope, receive, send)
            return
        about = (
            key,
            scope["method"],
            scope["path"],
            scope["query_string"].decode("latin-1"),
            headers.get("cookie", ""),
        )
        while (answer := self._kept.get(about)) is not None:
            await answer.there.wait()
            if answer.start is not None:
                scope["state"]["change"] = answer.change
                await send(answer.start)
                await send({"type": "http.response.body", "body": answer.body})
                return
        await self._first(about, scope, receive, send)

    async def _first(self, about: tuple[str, ...], scope: Scope, receive: Receive, send: Send) -> None:
        answer = self._kept[about] = _Answer(time.monotonic())
        self._forget_old_ones()
        start: Message | None = None
        pieces: list[bytes] = []
        whole = False

        async def keeping(message: Message) -> None:
            nonlocal start, whole
            if message["type"] == "http.response.start":
                start = {**message, "headers": list(message["headers"])}
            else:
                pieces.append(message.get("body", b""))
                whole = not message.get("more_body", False)
            await send(message)

        try:
            await self.app(scope, receive, keeping)
        finally:
            body = b"".join(pieces)
            if start is not None and whole and 200 <= start["status"] < 300 and len(body) <= _LONGEST:
                answer.start, answer.body, answer.change = start, body, scope["state"].get("change")
            else:
                self._kept.pop(about, None)
            answer.there.set()

    def _forget_old_ones(self) -> None:
        oldest = time.monotonic() - _KEPT
        while len(self._kept) > _MOST or (self._kept and next(iter(self._kept.values())).at < oldest):
            self._kept.popitem(last=False)
