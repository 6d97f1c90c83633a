"""The application: the API under /api, the screens beside it."""

import socket
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from importlib import import_module
from importlib.metadata import version
from inspect import iscoroutinefunction
from pathlib import Path
from pkgutil import iter_modules
from typing import Any

from fastapi import APIRouter, FastAPI, Response
from fastapi.dependencies.models import Dependant
from fastapi.routing import APIRoute

from valleywind.api import access, bounds, document, problems, screens, topics
from valleywind.api.access import Turns
from valleywind.api.doors import Doors
from valleywind.api.etags import ETags, follows_from_the_shop
from valleywind.api.guard import CHANGE_HEADER, Guard, Hosts
from valleywind.api.once import Once
from valleywind.api.topics.devices.line import Devices, listening
from valleywind.api.topics.devices.stand_ins import StandIns
from valleywind.api.topics.shop.copies import copying
from valleywind.api.topics.shop.shop_files import Waiting
from valleywind.app.copies import FOLDER, Copies
from valleywind.app.device_keys import DeviceKeys
from valleywind.app.entry import Entry
from valleywind.app.presence import Presence
from valleywind.app.recording import Recording
from valleywind.shop.store import Store

_DESCRIPTION = """
Change-gear trains for lathes, hobbers and mills, with the wheels to be made for them: ask for a thread, a count or a
helix and get the trains that fit, judged by what the error does to the work, with the set-up sheet.

Start with `GET /api/machines`, then `GET /api/lathes/plover/plan?ask=M14x2`. Lengths are mm unless a name or a text
says otherwise; ratios are exact fractions `a/b`. A train is written drivers over driven, `76/66*32/78`, idlers between:
`40/50/80`; behind `@` the levers where there is a choice, `32/80/64@9 ×2`. Every failure is
`application/problem+json` and names the field. What changes the shop answers with the header `Valleywind-Change`.
"""


_CHANGE = {
    "description": "Number of the change, for its undo; left out where nothing was changed",
    "schema": {"type": "integer"},
}

_TAG = {"description": "Names the answer, for If-None-Match", "schema": {"type": "string"}}
_UNCHANGED: dict[str, Any] = {"description": "The answer of this ETag, sent as If-None-Match, still holds"}


def make_app(
    store: Store,
    demo: bool = False,
    hosts: Hosts | None = None,
    devices_at: socket.socket | None = None,
    closed: bool = False,
    address: str = "",
    device_keys: bool = False,
    copies: Path | None = None,
) -> FastAPI:
    """The application on an open shop. `demo` says that the file is the demo shop's own and may be reset; `hosts` are
    the names it answers to, beside those of this machine alone; `devices_at`, where devices
    connect, None for nowhere; `closed`, that one has to sign in; `address`, where other devices reach it, empty where
    they do not; `device_keys`, that a device has to say its key; `copies`, where a copy is laid on each day that
    something changed, None for no such copies."""
    app = FastAPI(
        lifespan=lambda app: _while_served(app, devices_at),
        title="Valleywind",
        version=version("valleywind"),
        description=_DESCRIPTION,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        generate_unique_id_function=_operation,
    )
    app.state.closed, app.state.address, app.state.device_keys = closed, address, device_keys
    app.state.copies_daily, app.state.copies_in = copies is not None, copies
    use_shop(app, store, demo)
    problems.install(app)
    of_the_shop: set[Callable[..., Any]] = set()
    for router in _routers():
        of_the_shop |= _bound(router)
        app.include_router(router, prefix="/api")
    document.install(app)
    app.add_middleware(ETags, of_the_shop=of_the_shop)
    app.add_middleware(Once)
    app.add_middleware(Doors, closed=closed)
    app.add_middleware(Guard, hosts=hosts or Hosts())
    if screens.SCREENS.is_dir():
        app.router.routes.extend(screens.routes())
    return app


def _routers() -> list[APIRouter]:
    """Those of every topic there is, by its name; the paths of one are none of another."""
    names = sorted(module.name for module in iter_modules(topics.__path__))
    return [router for name in names for router in import_module(f"{topics.__name__}.{name}").ROUTERS]


@asynccontextmanager
async def _while_served(app: FastAPI, devices_at: socket.socket | None) -> AsyncIterator[None]:
    async with listening(app, devices_at), copying(app):
        yield


def _bound(router: APIRouter) -> set[Callable[..., Any]]:
    """Give what a router works out its bound, and say what its answers carry; those of its functions whose answer
    follows from the shop alone."""
    of_the_shop = set()
    for route in (one for one in router.routes if isinstance(one, APIRoute)):
        if not hasattr(route.endpoint, "__wrapped__") and _works_out(route.dependant):
            route.endpoint = route.dependant.call = bounds.of_route(route.endpoint)
        if _writes(route.dependant):
            route.responses = {**route.responses, route.status_code or 200: {"headers": {CHANGE_HEADER: _CHANGE}}}
        if follows_from_the_shop(route):
            of_the_shop.add(route.endpoint)
            if route.response_class is not Response:
                route.responses = {200: {"headers": {"ETag": _TAG}}, 304: _UNCHANGED, **route.responses}
    return of_the_shop


def _works_out(route: Dependant) -> bool:
    """Whether a route answers from what is on record and changes nothing: what it costs has a bound. Those that only
    listen wait in the event loop."""
    return not iscoroutinefunction(route.call) and not _writes(route)


def _writes(route: Dependant) -> bool:
    dependants = [route]
    for one in dependants:
        dependants += one.dependencies
    return bool({one.call for one in dependants} & set(access.WRITING))


def use_shop(app: FastAPI, store: Store, demo: bool) -> None:
    """Let the application work on this shop from now on; nobody waits, listens or is connected any more."""
    app.state.store, app.state.demo, app.state.turns = store, demo, Turns()
    app.state.entry = Entry(store)
    app.state.waiting = Waiting()
    app.state.copies = Copies(store, app.state.copies_in or store.path.parent / FOLDER)
    app.state.recording = Recording(store, app.state.turns.writing)
    app.state.devices = Devices(app.state.recording, DeviceKeys(store), app.state.device_keys)
    app.state.stand_ins = StandIns()
    app.state.presence = Presence(app.state.recording.events)


def _operation(route: APIRoute) -> str:
    return route.name
