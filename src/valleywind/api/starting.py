"""What answers while the application is still being loaded: the page comes at once, and what it asks for waits."""

import asyncio
from collections.abc import Callable

from fastapi import FastAPI
from starlette.applications import Starlette
from starlette.concurrency import run_in_threadpool
from starlette.types import ASGIApp, Receive, Scope, Send

from valleywind.api import screens
from valleywind.api.guard import Guard, Hosts


class Starting:
    """The application that `make` makes, which takes a second or two. hosts: the names that this server answers to;
    closed: nothing is sent before one is signed in, the page neither; failed: called where it cannot be made.

    app: the application, once it is there; error: what kept it from being made.
    """

    def __init__(self, make: Callable[[], FastAPI], hosts: Hosts, closed: bool, failed: Callable[[], None]) -> None:
        self.app: FastAPI | None = None
        self.error: Exception | None = None
        self._make, self._failed = make, failed
        self._loaded, self._ending = asyncio.Event(), asyncio.Event()
        self._page: ASGIApp | None = None if closed else Guard(Starlette(routes=screens.routes()), hosts)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await self._live(receive, send)
        elif self.app is None and self._page is not None and screens.is_screen(scope["path"]):
            await self._page(scope, receive, send)
        else:
            await self._loaded.wait()
            if self.app is not None:  # else the program ends, and nothing is answered
                await self.app(scope, receive, send)

    async def _live(self, receive: Receive, send: Send) -> None:
        await receive()
        loading = asyncio.create_task(self._load())
        await send({"type": "lifespan.startup.complete"})
        await receive()
        self._ending.set()
        if self.app is None:  # it is not waited for
            loading.cancel()
        await asyncio.gather(loading, return_exceptions=True)
        await send({"type": "lifespan.shutdown.complete"})

    async def _load(self) -> None:
        try:
            app = await run_in_threadpool(self._make)
            async with app.router.lifespan_context(app):
                self.app = app
                self._loaded.set()
                await self._ending.wait()
        except Exception as error:
            self.error = error
            self._loaded.set()
            self._failed()
