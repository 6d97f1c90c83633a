"""What the routers are handed: the open shop, to read or to write, and a place among the expensive requests."""

import asyncio
from collections.abc import AsyncIterator, Callable, Iterator
from contextlib import AbstractContextManager, asynccontextmanager, suppress
from typing import Annotated, TypeVar

from fastapi import Depends, Request
from sqlalchemy.orm import Session
from starlette.concurrency import run_in_threadpool

from valleywind.core import interrupt
from valleywind.shop import changes, table_use
from valleywind.shop.store import Store

# Expensive requests that are worked on at a time: quick ones that somebody looks at, and long ones.
_QUICK, _LONG = 3, 2
# What one of them may cost, in places laid out: two or three seconds, where a usual ask takes a tenth of one.
_MOST_EFFORT, _MOST_OF_A_LONG_ONE = 450_000, 900_000
Value = TypeVar("Value")
# How often it is looked whether the caller is still there, s.
_LOOKS = 0.25


def store(request: Request) -> Store:
    shop: Store = request.app.state.store
    return shop


def _reading(request: Request, shop: Annotated[Store, Depends(store)]) -> Iterator[Session]:
    with shop.reading() as session:
        yield session
        request.state.read = table_use.read_by(session)


class Turns:
    """Who writes next, and which expensive requests are worked on: each in the order in which they came.

    They wait here, in the event loop, and hold neither a thread nor a connection while they do. ending: the program
    is being ended, and no answer is waited for any more.
    """

    def __init__(self) -> None:
        self.writing = asyncio.Lock()
        self.quick, self.long = asyncio.Semaphore(_QUICK), asyncio.Semaphore(_LONG)
        self.streamed = asyncio.Semaphore(1)
        self.ending = asyncio.Event()


@asynccontextmanager
async def _in_thread(block: AbstractContextManager[Session]) -> AsyncIterator[Session]:
    """The block begun and ended in a thread: the event loop goes on while the disk is waited for."""
    session = await run_in_threadpool(block.__enter__)
    try:
        yield session
    except BaseException as error:
        if not await run_in_threadpool(block.__exit__, type(error), error, error.__traceback__):
            raise
    else:
        await run_in_threadpool(block.__exit__, None, None, None)


async def _writing(request: Request, shop: Annotated[Store, Depends(store)]) -> AsyncIterator[Session]:
    turns: Turns = request.app.state.turns
    async with turns.writing:
        async with _in_thread(shop.session()) as session:
            yield session
        _tell(request, changes.change_number(session))


def _tell(request: Request, change: int | None) -> None:
    """Say which change was made, to the one who made it and to every page."""
    request.state.change = change
    if change is not None:
        request.app.state.recording.events.tell(changed=change)


async def _adding(request: Request, shop: Annotated[Store, Depends(store)]) -> AsyncIterator[Session]:
    async with request.app.state.turns.writing, _in_thread(shop.adding()) as session:
        yield session
    request.app.state.recording.events.tell(changed=None)


class AtLength:
    """Does a piece of work that writes: what is much while others go on writing (`Store.at_length`), else at once."""

    def __init__(self, request: Request, shop: Annotated[Store, Depends(store)]) -> None:
        self._request, self._shop = request, shop

    def __call__(
        self, much: bool, work: Callable[[Session], Value], then: Callable[[Session], object] = lambda _: None
    ) -> Value:
        if much:
            value, change = self._shop.at_length(work, then)
            _tell(self._request, change)
            return value
        with self._shop.session() as session:
            value = work(session)
            then(session)
        _tell(self._request, changes.change_number(session))
        return value


class Adds:
    """Adds to what is never undone, after whatever was worked out before."""

    def __init__(self, request: Request, shop: Annotated[Store, Depends(store)]) -> None:
        self._request, self._shop = request, shop

    def __call__(self, work: Callable[[Session], object]) -> None:
        with self._shop.adding() as session:
            work(session)
        self._request.app.state.recording.events.tell(changed=None)


async def _until_gone(request: Request, wanted: interrupt.WorkLimit) -> None:
    while not (request.app.state.turns.ending.is_set() or await request.is_disconnected()):
        await asyncio.sleep(_LOOKS)
    wanted.stop()


@asynccontextmanager
async def _in_turn(request: Request, lane: asyncio.Semaphore, effort: int | None) -> AsyncIterator[None]:
    async with lane:
        with interrupt.can_stop(effort) as wanted:
            watch = asyncio.ensure_future(_until_gone(request, wanted))
            try:
                yield
            finally:
                watch.cancel()
                with suppress(asyncio.CancelledError):
                    await watch


async def _quick(request: Request) -> AsyncIterator[None]:
    async with _in_turn(request, request.app.state.turns.quick, _MOST_EFFORT):
        yield


async def _long(request: Request) -> AsyncIterator[None]:
    async with _in_turn(request, request.app.state.turns.long, _MOST_OF_A_LONG_ONE):
        yield


async def _streamed(request: Request) -> AsyncIterator[None]:
    """For an answer that comes in pieces: it tells how far it is, and stops when its caller is gone."""
    async with _in_turn(request, request.app.state.turns.streamed, None):
        yield


Shop = Annotated[Store, Depends(store)]
# "function": the connection is free again before the answer goes out.
InSession = Annotated[Session, Depends(_reading, scope="function")]
# The same: committed before the answer goes out, so that the next request sees it.
ToWrite = Annotated[Session, Depends(_writing, scope="function")]
# The same for what is only added, and never undone.
ToAdd = Annotated[Session, Depends(_adding, scope="function")]
# For what takes long: it is given the work.
ToWriteAtLength = Annotated[AtLength, Depends(AtLength)]
# For an answer that is kept as well.
ToKeep = Annotated[Adds, Depends(Adds)]
WRITING = (_writing, _adding, AtLength, Adds)
"""What a route that writes depends on."""
READING = _reading
"""What a route that reads depends on; it leaves the tables that were read in the request's state, as `read`."""
QUICK, LONG, STREAMED = Depends(_quick), Depends(_long), Depends(_streamed)
"""Stand first among a route's dependencies: whoever waits for a turn has nothing open yet."""
