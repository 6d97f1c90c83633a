"""On a network nothing but the page to sign in answers before one is signed in; who may only look changes nothing."""

import asyncio
from collections.abc import Callable
from urllib.parse import parse_qs, quote, urlsplit

from starlette.concurrency import run_in_threadpool
from starlette.requests import Request, cookie_parser
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from valleywind.api.problems import answer
from valleywind.app.entry import STAYS_S, Entry, Guest
from valleywind.core.refusal import Refusal
from valleywind.wording import entry as words
from valleywind.wording import refusals
from valleywind.wording.refusal_form import Notice

SIGN_IN, SIGN_OUT, PRESENCE = "/sign-in", "/api/entry/sign-out", "/api/presence"
WORKS_OUT = {
    "/api/machine-records/preview",
    "/api/machine-plates/read",
    "/api/lathe-records/preview",
    "/api/rack/count",
    SIGN_OUT,
    PRESENCE,
}
"""What is sent there is worked out and changes nothing."""
_CHANGES_NOTHING = {"GET", "HEAD", "OPTIONS"}
# Who sign in at once, those included that wait their turn.
_MOST_AT_ONCE = 8
_MOST_FIELDS = 8


class Doors:
    """An application behind the door. closed: whether one has to sign in."""

    def __init__(self, app: ASGIApp, closed: bool) -> None:
        self.app, self.closed = app, closed
        self._signing_in = 0
        self._turn = asyncio.Lock()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not self.closed:
            await self.app(scope, receive, send)
            return
        entry: Entry = scope["app"].state.entry
        request = Request(scope, receive)
        guest = guest_of(request)
        if scope["path"] == SIGN_IN:
            await (await self._sign_in(request, entry))(scope, receive, send)
        elif guest is None:
            await _refusal(request)(scope, receive, send)
        elif guest.looks_only and scope["method"] not in _CHANGES_NOTHING and scope["path"] not in WORKS_OUT:
            await answer(403, "Looks only", Notice(words.LOOKS_ONLY, ""))(scope, receive, send)
        else:
            await self._let_in(request, send)

    async def _let_in(self, request: Request, send: Send) -> None:
        """Answer somebody who is signed in; a stream ends when they are signed out."""
        begun = ended = False

        async def sending(message: Message) -> None:
            nonlocal begun, ended
            begun, ended = True, message["type"] == "http.response.body" and not message.get("more_body", False)
            await send(message)

        await self.app(request.scope, until(request.receive, lambda: guest_of(request) is None), sending)
        if begun and not ended:
            await send({"type": "http.response.body", "body": b""})

    async def _sign_in(self, request: Request, entry: Entry) -> Response:
        query = parse_qs(request.url.query, max_num_fields=_MOST_FIELDS)
        if request.method in ("GET", "HEAD"):
            onward = _first(query, "next")
            if guest_of(request) is not None and _first(query, "code"):  # the invitation stays for somebody else
                return RedirectResponse(_local(onward), 303)
            return _page(request, onward, _first(query, "code"), "", "", 200)
        if request.method != "POST":
            return Response(status_code=405, headers={"Allow": "GET, POST"})
        try:
            sent = parse_qs((await request.body()).decode(), max_num_fields=_MOST_FIELDS, keep_blank_values=True)
        except ValueError:
            return _page(request, "/", "", "", words.WRONG, 400)
        onward, name, code = _first(sent, "next"), _first(sent, "name"), _first(sent, "code")
        if self._signing_in >= _MOST_AT_ONCE:
            return _page(request, onward, "", name, words.TOO_MANY, 429)
        self._signing_in += 1
        try:
            async with self._turn:
                way = (entry.take_up, code) if code else (entry.sign_in, _first(sent, "passphrase"))
                cookie = await run_in_threadpool(way[0], way[1], address_of(request), name)
        except Refusal as refused:
            refusal = refusals.say(refused)
            page = _page(request, onward, "", name, f"{refusal.says} {refusal.would_do}", 429)
            page.headers["retry-after"] = str(refused.quantities["seconds"])
            return page
        finally:
            self._signing_in -= 1
        if cookie is None:
            return _page(request, onward, "", name, words.OLD_INVITATION if code else words.WRONG, 401)
        response = RedirectResponse(_local(onward), 303)
        response.set_cookie(
            entry.cookie,
            cookie,
            max_age=STAYS_S,
            httponly=True,
            samesite="strict",
            secure=request.url.scheme == "https",
        )
        return response


def guest_of(request: Request) -> Guest | None:
    """Who asks, by the cookie that came along; None for somebody who is not signed in."""
    entry: Entry = request.app.state.entry
    return entry.guest(cookie_parser(request.headers.get("cookie", "")).get(entry.cookie, ""))


def _refusal(request: Request) -> Response:
    """A page leads to the one to sign in; anything else is told."""
    wants_page = "text/html" in request.headers.get("accept", "") and request.method in ("GET", "HEAD")
    if wants_page and not request.url.path.startswith("/api"):
        here = request.url.path + (f"?{request.url.query}" if request.url.query else "")
        return RedirectResponse(f"{SIGN_IN}?next={quote(here, safe='')}", 303)
    return answer(401, "Not signed in", Notice(words.SIGNED_OUT, ""))


def _page(request: Request, onward: str, code: str, name: str, wrong: str, status: int) -> Response:
    shop = "The demo shop" if request.app.state.demo else "This shop asks for its passphrase."
    html = words.sign_in_page(shop, _local(onward), code, name, wrong)
    return HTMLResponse(html, status, headers={"Cache-Control": "no-store"})


def _first(fields: dict[str, list[str]], name: str) -> str:
    return fields.get(name, [""])[0]


def _local(onward: str) -> str:
    """A path of this server; of anything else its first page."""
    parts = urlsplit(onward)
    plain = onward.startswith("/") and not onward.startswith(("//", "/\\")) and onward.isprintable()
    return onward if plain and not parts.scheme and not parts.netloc and parts.path != SIGN_IN else "/"


def address_of(request: Request) -> str:
    """Where a request comes from, as wrong tries are counted."""
    return request.client.host if request.client else ""


def until(receive: Receive, ended: Callable[[], bool]) -> Receive:
    """What comes in; of somebody who was signed out meanwhile, that the line is closed."""

    async def heard() -> Message:
        # Waited for directly: whoever only looks whether the caller is gone does not wait.
        return {"type": "http.disconnect"} if ended() else await receive()

    return heard
