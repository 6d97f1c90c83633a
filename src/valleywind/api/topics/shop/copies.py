"""Copies of the shop: when the last was made, what one holds, making, fetching and putting back."""

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from typing import Annotated, Any, Literal

from fastapi import APIRouter, FastAPI, Path, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from valleywind.api.problems import RESPONSES
from valleywind.app.copies import Copies, Copy
from valleywind.shop.file_trouble import ShopFileError
from valleywind.wording import copies as words

router = APIRouter(prefix="/copies", tags=["shop"], responses=RESPONSES)

# When the first copy of a day is looked for after the start, and the interval after that, s.
_FIRST, _THEN = 60.0, 600.0
_FILE: dict[int | str, dict[str, Any]] = {
    200: {"content": {"application/x-sqlite3": {"schema": {"type": "string", "format": "binary"}}}}
}
_log = logging.getLogger("valleywind")


class CopyOut(BaseModel):
    name: str = Field(description="The copy's file, in the folder of the copies")
    made: str = Field(description="When it was made")
    bytes: int = Field(description="How large it is")
    daily: bool = Field(description="It was made by itself, the one of its day")
    before_restore: bool = Field(description="It was kept when another copy was put back")


class CopiesOut(BaseModel):
    folder: str = Field(description="Where they lie")
    daily: bool = Field(description="One is made by itself on each day that something changed")
    copies: list[CopyOut] = Field(description="The newest first")


class HoldsOut(BaseModel):
    text: str = Field(description="What the copy holds", examples=["3 machines, 120 wheels, no jobs"])
    changed: str = Field(description="When the shop was last changed before the copy; empty where it never was")


class PutBackIn(BaseModel):
    confirm: Literal["replace by this copy"] = Field(description="Said out loud, since it replaces what is there")


Name = Annotated[str, Path(description="The copy's file, in the folder of the copies", max_length=200)]


def _copies(request: Request) -> Copies:
    copies: Copies = request.app.state.copies
    return copies


def _out(copy: Copy) -> CopyOut:
    return CopyOut(
        name=copy.name, made=copy.made.isoformat(timespec="seconds"), bytes=copy.bytes, daily=copy.daily,
        before_restore=copy.before_restore,
    )  # fmt: skip


def _every(request: Request) -> CopiesOut:
    copies = _copies(request)
    return CopiesOut(
        folder=str(copies.folder), daily=request.app.state.copies_daily, copies=[_out(copy) for copy in copies.every]
    )


@router.get("")
def get_copies(request: Request) -> CopiesOut:
    """The copies of this shop."""
    return _every(request)


@router.post("", status_code=201)
def make_copy(request: Request) -> CopyOut:
    """Copy the shop as it is now."""
    return _out(_copies(request).make())


@router.get("/{name}")
def get_copy(name: Name, request: Request) -> HoldsOut:
    """What a copy holds."""
    holds = _copies(request).holds(name)
    return HoldsOut(text=words.holds_text(holds), changed=holds.changed)


@router.get("/{name}/file", response_class=FileResponse, responses=_FILE)
def get_copy_file(name: Name, request: Request) -> FileResponse:
    """The copy itself. Who may come in is not in it."""
    copy = _copies(request).copy(name)
    return FileResponse(copy.path, media_type="application/x-sqlite3", filename=copy.name)


@router.post("/{name}/restore")
async def restore_copy(name: Name, body: PutBackIn, request: Request) -> CopiesOut:  # noqa: ARG001
    """Put a copy in the place of the shop. What was there is kept as a copy; every page is loaded anew."""
    async with request.app.state.turns.writing:
        await run_in_threadpool(_copies(request).put_back, name)
    request.app.state.recording.events.tell(restored=True)
    return await run_in_threadpool(_every, request)


@asynccontextmanager
async def copying(app: FastAPI) -> AsyncIterator[None]:
    """While this lasts a copy is made on each day that something changed, where the application is told to."""
    task = asyncio.create_task(_daily(app)) if app.state.copies_daily else None
    try:
        yield
    finally:
        if task is not None:
            task.cancel()
            with suppress(asyncio.CancelledError):
                await task


async def _daily(app: FastAPI) -> None:
    await asyncio.sleep(_FIRST)
    while True:
        copies: Copies = app.state.copies
        try:
            await run_in_threadpool(copies.make_daily)
        except ShopFileError as error:
            _log.warning("No copy of the shop was made: %s", error)
        await asyncio.sleep(_THEN)
