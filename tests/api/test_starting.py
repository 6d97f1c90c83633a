"""While the application is still being loaded the page comes, and what it asks for waits."""

import asyncio
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Any

import httpx2
import pytest
from fastapi import FastAPI

from tests.loops import in_a_loop
from valleywind.api.guard import Hosts
from valleywind.api.screens import SCREENS
from valleywind.api.starting import Starting

SOON = 0.2


class Loading:
    """An application that is loaded when a test says so."""

    def __init__(self, closed: bool = False, fault: Exception | None = None) -> None:
        self.go, self.fault = threading.Event(), fault
        self.happened: list[str] = []
        self.starting = Starting(self.make, Hosts(), closed, lambda: self.happened.append("failed"))

    def make(self) -> FastAPI:
        assert self.go.wait(20)
        if self.fault is not None:
            raise self.fault
        app = FastAPI(lifespan=self.lived)

        @app.get("/api/shop")
        def shop() -> str:
            return "there"

        return app

    @asynccontextmanager
    async def lived(self, _app: FastAPI) -> AsyncIterator[None]:
        self.happened.append("begun")
        yield
        self.happened.append("ended")

    @asynccontextmanager
    async def served(self) -> AsyncIterator[httpx2.AsyncClient]:
        queue: asyncio.Queue[dict[str, str]] = asyncio.Queue()
        answers: asyncio.Queue[Any] = asyncio.Queue()
        await queue.put({"type": "lifespan.startup"})
        life = asyncio.create_task(self.starting({"type": "lifespan"}, queue.get, answers.put))
        assert await answers.get() == {"type": "lifespan.startup.complete"}
        transport = httpx2.ASGITransport(app=self.starting)
        async with httpx2.AsyncClient(transport=transport, base_url="http://127.0.0.1") as client:
            yield client
        await queue.put({"type": "lifespan.shutdown"})
        assert await answers.get() == {"type": "lifespan.shutdown.complete"}
        await life


def test_the_page_comes_at_once_and_what_it_asks_for_waits() -> None:
    async def begun() -> None:
        loading = Loading()
        async with loading.served() as client:
            task = asyncio.create_task(client.get("/api/shop"))
            page = await client.get("/lathe/plover")
            assert (page.status_code, page.text) == (200, (SCREENS / "index.html").read_text())
            assert "frame-ancestors 'none'" in page.headers["content-security-policy"]
            assert (await client.get("/", headers={"Host": "elsewhere.test"})).status_code == 403
            assert not task.done()
            loading.go.set()
            assert (await task).json() == "there"
        assert loading.happened == ["begun", "ended"]

    in_a_loop(begun())


def test_where_one_has_to_sign_in_the_page_waits_too() -> None:
    async def begun() -> None:
        loading = Loading(closed=True)
        async with loading.served() as client:
            task = asyncio.create_task(client.get("/"))
            await asyncio.sleep(SOON)
            assert not task.done()
            loading.go.set()
            assert (await task).status_code == 404  # of the application, which has no such page here

    in_a_loop(begun())


def test_ended_before_it_is_loaded_it_ends_at_once() -> None:
    async def begun() -> None:
        loading = Loading()
        async with loading.served():
            pass
        assert loading.happened == []
        loading.go.set()

    in_a_loop(begun())


@pytest.mark.parametrize("fault", [RuntimeError("no such module"), OSError("the port is taken")])
def test_what_cannot_be_loaded_ends_the_program_and_is_told(fault: Exception) -> None:
    async def begun() -> None:
        loading = Loading(fault=fault)
        async with loading.served() as client:
            task = asyncio.create_task(client.get("/api/shop"))
            await asyncio.sleep(SOON)
            loading.go.set()
            with pytest.raises(AssertionError):  # nothing was answered
                await task
        assert loading.happened == ["failed"]
        assert loading.starting.error is fault

    in_a_loop(begun())
