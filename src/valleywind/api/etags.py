"""An answer that would be the same again is not worked out again: the page that has it still is told so.

Which tables of the shop an answer was read from is known; while none of them was changed, the same question has the
same answer, and reads the same.
"""

from collections import Counter, OrderedDict
from collections.abc import Collection
from typing import Any

from fastapi.routing import APIRoute
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from valleywind.api.access import LONG, QUICK, READING, STREAMED, store
from valleywind.shop.store import Store

# Questions of which it is known what they read, the oldest forgotten first.
_MOST = 1000
_Question = tuple[str, bytes]
# They take the request, and nothing of it is in the answer.
_KNOWN = {READING, *(lane.dependency for lane in (QUICK, LONG, STREAMED))}


class ETags:
    """An application that is not asked where the answer that the page has (If-None-Match) still holds.

    of_the_shop: the functions whose answer follows from the address and the shop alone."""

    def __init__(self, app: ASGIApp, of_the_shop: Collection[Any]) -> None:
        self.app, self.of_the_shop = app, of_the_shop
        self._read: OrderedDict[_Question, frozenset[str]] = OrderedDict()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] != "GET":
            await self.app(scope, receive, send)
            return
        shop: Store = scope["app"].state.store
        question = (scope["path"], scope["query_string"])
        # Counted before anything is read: what is changed meanwhile counts as changed since.
        times = shop.touched.now()
        held = Headers(scope=scope).get("if-none-match")
        read = self._read.get(question)
        if held is not None and read is not None and shop.is_there() and held == _tag(shop, read, times):
            await send({"type": "http.response.start", "status": 304, "headers": [(b"etag", held.encode("latin-1"))]})
            await send({"type": "http.response.body", "body": b""})
            return

        async def marking(message: Message) -> None:
            if message["type"] == "http.response.start" and message["status"] == 200 and _is_json(message):
                tables: frozenset[str] | None = scope["state"].get("read")
                if tables and scope.get("endpoint") in self.of_the_shop:
                    self._remember(question, tables)
                    MutableHeaders(scope=message)["ETag"] = _tag(shop, tables, times)
            await send(message)

        await self.app(scope, receive, marking)

    def _remember(self, question: _Question, tables: frozenset[str]) -> None:
        self._read[question] = tables
        self._read.move_to_end(question)
        while len(self._read) > _MOST:
            self._read.popitem(last=False)


def follows_from_the_shop(route: APIRoute) -> bool:
    """Whether the answer of a route follows from its address and from what it reads of the shop: it reads there, and
    takes neither the request itself nor the open file."""
    dependants = [route.dependant]
    for one in dependants:
        dependants += [each for each in one.dependencies if each.call not in _KNOWN]
    reads = any(each.call is READING for one in dependants for each in one.dependencies)
    return reads and not any(one.call is store or one.request_param_name for one in dependants)


def _tag(shop: Store, tables: frozenset[str], times: Counter[str]) -> str:
    return f'"{shop.touched.mark(tables, times)}"'


def _is_json(message: Message) -> bool:
    return Headers(raw=message["headers"]).get("content-type", "") == "application/json"
