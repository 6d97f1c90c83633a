"""What every request passes first and every answer last: who may ask, how much may be sent, what an answer carries."""

import asyncio
import ipaddress
import logging
from collections.abc import Collection
from dataclasses import dataclass
from urllib.parse import SplitResult, urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from valleywind.api.problems import answer, unexpected
from valleywind.wording import refusals

CHANGE_HEADER = "Valleywind-Change"
"""Names the change that a write made; `POST /api/changes/{change}/undo` takes it back."""

_MB = 1_000_000
# The longest body that is read, by the end of its path; any other is JSON.
_LONGEST = {"/photos": 15 * _MB, "/rack/count": 15 * _MB, "/wheels.csv": 5 * _MB, "/shop/file/look": 40 * _MB}
_LONGEST_JSON = _MB
# The time in which a whole body has to arrive, s.
_BODY = 120.0
_CHANGES_NOTHING = {"GET", "HEAD", "OPTIONS"}
LOOPBACK = {"localhost", "127.0.0.1", "::1"}
_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; frame-ancestors 'none'; "
        "form-action 'self'; base-uri 'self'; object-src 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
_log = logging.getLogger("valleywind")


@dataclass(frozen=True)
class Hosts:
    """The names this server answers to: those of this machine alone, unless it listens on more."""

    names: Collection[str] = ()
    any_address: bool = False

    def has(self, host: str) -> bool:
        """Whether a request's Host header names this server. A name of another site that leads here does not."""
        name = _split(f"//{host}").hostname or ""
        if name in LOOPBACK or name in self.names:
            return True
        return self.any_address and _is_address(name)


def _split(address: str) -> SplitResult:
    """The parts of an address; of one that is none, no parts."""
    try:
        return urlsplit(address)
    except ValueError:
        return urlsplit("")


def _is_address(name: str) -> bool:
    try:
        ipaddress.ip_address(name)
    except ValueError:
        return False
    return True


class Guard:
    """An application behind the checks; whatever it throws becomes an answer with a sentence."""

    def __init__(self, app: ASGIApp, hosts: Hosts) -> None:
        self.app, self.hosts = app, hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        scope.setdefault("state", {})
        begun = False

        async def carrying(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                self._add_headers(scope, message)
            await send(message)

        try:
            refusal = self._refusal(scope)
            if refusal is not None:
                await refusal(scope, receive, carrying)
                return
            try:
                async with asyncio.timeout(_BODY):
                    body = await _body(scope, receive)
            except TimeoutError:
                await answer(408, "Too slow", refusals.TOO_SLOW)(scope, receive, carrying)
                return
            if body is None:
                await answer(413, "Too large", refusals.too_large(_longest(scope) / _MB))(scope, receive, carrying)
                return
            await self.app(scope, _again(body, receive), carrying)
        except Exception as error:
            if begun:
                raise
            if not (failure := unexpected(error)).expected:
                _log.exception("%s %s failed", scope["method"], scope["path"])
            await failure.response(scope, receive, carrying)

    def _refusal(self, scope: Scope) -> Response | None:
        """A page of another site can neither read nor write here."""
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if not self.hosts.has(host):
            return answer(403, "Not this server", refusals.WRONG_HOST)
        origin = headers.get("origin")
        foreign = origin is not None and _split(origin).netloc != host
        if scope["method"] not in _CHANGES_NOTHING and foreign:
            return answer(403, "Another site", refusals.FOREIGN_PAGE)
        fetched = headers.get("sec-fetch-site") == "cross-site" and headers.get("sec-fetch-mode") != "navigate"
        if scope["path"].startswith("/api") and fetched:
            return answer(403, "Another site", refusals.FOREIGN_PAGE)
        return None

    def _add_headers(self, scope: Scope, message: Message) -> None:
        headers = MutableHeaders(scope=message)
        for name, value in _HEADERS.items():
            headers[name] = value
        if scope["path"].startswith("/api"):
            headers["Cache-Control"] = "no-store"
        if (change := scope["state"].get("change")) is not None:
            headers[CHANGE_HEADER] = str(change)


def _longest(scope: Scope) -> int:
    return next((most for end, most in _LONGEST.items() if scope["path"].endswith(end)), _LONGEST_JSON)


async def _body(scope: Scope, receive: Receive) -> bytes | None:
    """The whole body, read no further than it may be long; None where it is longer."""
    if scope["method"] in ("GET", "HEAD"):
        return b""
    most = _longest(scope)
    length = Headers(scope=scope).get("content-length", "0")
    if length.isdecimal() and int(length) > most:
        return None
    body = bytearray()
    while True:
        message = await receive()
        body += message.get("body", b"")
        if len(body) > most:
            return None
        if not message.get("more_body", False):
            return bytes(body)


def _again(body: bytes, receive: Receive) -> Receive:
    """Hands out the body that was read, then whatever comes."""
    sent = False

    async def read() -> Message:
        nonlocal sent
        if sent:
            return await receive()
        sent = True
        return {"type": "http.request", "body": body, "more_body": False}

    return read
