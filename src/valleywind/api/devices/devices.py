"""What is connected at the machine, what it tells, and which session it advances."""

import asyncio
import json
from collections.abc import AsyncIterator
from contextlib import suppress
from typing import Annotated

from fastapi import APIRouter, Path, Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from valleywind.api.devices.line import Device, Devices
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.core.making.devices import Sort, once_round
from valleywind.core.refusal import Refused
from valleywind.wording.numbers import Units, fixed, length

router = APIRouter(prefix="/devices", tags=["devices"], responses=RESPONSES)
_STILL_THERE = 10.0
Number = Annotated[int, Path(ge=1, le=2**53, description="The device's number in the list")]


class DeviceOut(BaseModel):
    number: int
    sort: Sort
    name: str
    latest: str = Field(description="What it told last; empty for nothing")
    said: str
    job: int | None = Field(description="Whose session it advances")


def _out(device: Device) -> DeviceOut:
    return DeviceOut(
        number=device.number, sort=device.hello.sort, name=device.hello.name, latest=device.latest, said=device.said,
        job=device.job,
    )  # fmt: skip


def _known(request: Request, number: int) -> tuple[Devices, Device]:
    devices: Devices = request.app.state.devices
    found = devices.connected.get(number)
    if found is None:
        raise Refused("no_such_device", "device", number)
    return devices, found


@router.get("")
async def get_devices(request: Request) -> list[DeviceOut]:
    """What is connected now."""
    devices: Devices = request.app.state.devices
    return [_out(d) for d in devices.connected.values()]


class GivenIn(BaseModel):
    job: int | None = Field(description="Whose session it is to advance; null for none", ge=1, le=2**53)


@router.put("/{number}/job")
async def give_device(number: Number, given: GivenIn, request: Request) -> DeviceOut:
    """Let a pedal or an encoder advance a session, from the hole in which the pin is now."""
    devices, device = _known(request, number)
    await run_in_threadpool(devices.give, device, given.job)
    return _out(device)


class RunoutOut(BaseModel):
    text: str
    total_mm: float
    high_deg: float


@router.get("/{number}/once-round")
async def get_once_round(number: Number, request: Request, units: InUnits = Units.MM) -> RunoutOut:
    """What an indicator saw once round: the whole reading, the high point, and what is out of round."""
    _, device = _known(request, number)
    found = once_round(list(device.readings))
    side = (
        ""
        if found.offset <= found.rest
        else f" Tap it at {fixed(found.high, 0)}°, by {length(found.offset, units, 3)}."
    )
    text = (
        f"Whole reading {length(found.total, units, 3)}; the middle is off by {length(found.offset, units, 3)}, out of "
        f"round by {length(found.rest, units, 3)}.{side}"
    )
    return RunoutOut(text=text, total_mm=found.total, high_deg=found.high)


@router.delete("/{number}/once-round")
async def begin_once_round(number: Number, request: Request) -> None:
    """Begin a new round of an indicator."""
    _known(request, number)[1].readings.clear()


@router.get("/heard", response_class=StreamingResponse, responses={200: {"content": {"text/event-stream": {}}}})
async def hear_devices(request: Request) -> StreamingResponse:
    """Server-sent events: whatever a device tells."""
    devices: Devices = request.app.state.devices

    async def lines() -> AsyncIterator[str]:
        queue = devices.join()
        try:
            yield "retry: 2000\n\n"
            while not await request.is_disconnected():
                news = None
                with suppress(TimeoutError):
                    news = await asyncio.wait_for(queue.get(), _STILL_THERE)
                yield f"data: {json.dumps(news)}\n\n" if news is not None else ": still there\n\n"
        finally:
            devices.leave(queue)

    return StreamingResponse(lines(), media_type="text/event-stream", headers={"Cache-Control": "no-store"})
