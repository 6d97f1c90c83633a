"""The built screens, sent as short as the browser can take them."""

from mimetypes import guess_type
from pathlib import Path

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.requests import Request
from starlette.responses import FileResponse, Response
from starlette.routing import BaseRoute, Mount, Route
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

SCREENS = Path(__file__).parent.parent / "web"
# What the build leaves beside a file, shortest first, by the name that a browser asks for it by.
_SHORTER = {"br": ".br", "gzip": ".gz"}


class _Assets(StaticFiles):
    """Files named by what is in them, so that a browser need not ask for one twice."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        taken = {one.split(";")[0].strip() for one in Headers(scope=scope).get("accept-encoding", "").split(",")}
        there = (c for c, ending in _SHORTER.items() if c in taken and self.lookup_path(path + ending)[1] is not None)
        coding = next(there, None)
        response = await super().get_response(path + _SHORTER.get(coding or "", ""), scope)
        if coding is not None:
            response.headers["content-encoding"] = coding
            response.headers["content-type"] = guess_type(path)[0] or "application/octet-stream"
        response.headers["cache-control"] = "public, max-age=31536000, immutable"
        response.headers["vary"] = "accept-encoding"
        return response


def routes() -> list[BaseRoute]:
    """The screens; any path that is no file is a place inside them."""
    return [
        Mount("/assets", _Assets(directory=SCREENS / "assets"), name="assets"),
        Route("/{path:path}", _page, include_in_schema=False),
    ]


def is_screen(path: str) -> bool:
    """Whether this path is one of the screens, and no question to the API."""
    return not path.startswith("/api")


async def _page(request: Request) -> FileResponse:
    if not is_screen(request.url.path):
        raise HTTPException(404, "There is nothing here")
    return FileResponse(SCREENS / "index.html", headers={"Cache-Control": "no-cache"})
