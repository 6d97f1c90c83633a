"""What is connected at the machine, what it tells, and which session it advances."""

from typing import Annotated

from fastapi import APIRouter, Path, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.devices.line import Device, Devices
from valleywind.core.making.devices import ADVANCES, On, Sort, once_round
from valleywind.core.refusal import Refusal
from valleywind.wording.making import devices as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/devices", tags=["devices"], responses=RESPONSES)
Number = Annotated[int, Path(ge=1, le=2**53, description="The device's number in the list")]


class DeviceOut(BaseModel):
    number: int
    sort: Sort
    name: str
    on: On | None = Field(description="Where an encoder sits")
    advances: bool = Field(description="It can advance a session")
    latest: str = Field(description="What it told last; empty for nothing", examples=["4.211 turns"])
    message: str
    job: int | None = Field(description="Whose session it advances")


def _out(device: Device, units: Units) -> DeviceOut:
    hello = device.hello
    return DeviceOut(
        number=device.number, sort=hello.sort, on=hello.on if hello.sort is Sort.ENCODER else None,
        advances=hello.sort in ADVANCES, name=hello.name,
        latest=words.reading(hello, device.latest, units), message=device.message, job=device.job,
    )  # fmt: skip


def _device(request: Request, number: int) -> tuple[Devices, Device]:
    devices: Devices = request.app.state.devices
    device = devices.connected.get(number)
    if device is None:
        raise Refusal("no_such_device", "device", number)
    return devices, device


@router.get("")
async def get_devices(request: Request, units: InUnits = Units.MM) -> list[DeviceOut]:
    """What is connected now."""
    devices: Devices = request.app.state.devices
    return [_out(d, units) for d in devices.connected.values()]


class DevicePortOut(BaseModel):
    port: int | None = Field(description="At which devices are listened to, on this machine; null for not at all")
    hint: str


@router.get("/line")
async def get_line(request: Request) -> DevicePortOut:
    """Whether devices are listened to, and how one is connected."""
    port = request.app.state.devices.port
    return DevicePortOut(port=port, hint=words.connect_hint(port))


class GivenIn(BaseModel):
    job: int | None = Field(description="Whose session it is to advance; null for none", ge=1, le=2**53)


@router.put("/{number}/job")
async def give_device(number: Number, body: GivenIn, request: Request, units: InUnits = Units.MM) -> DeviceOut:
    """Let a pedal, an encoder or a camera advance a session, from where the work stands now."""
    devices, device = _device(request, number)
    await run_in_threadpool(devices.give, device, body.job)
    return _out(device, units)


class RunoutOut(BaseModel):
    text: str
    total_mm: float
    high_deg: float


@router.get("/{number}/once-round")
async def get_once_round(number: Number, request: Request, units: InUnits = Units.MM) -> RunoutOut:
    """What an indicator saw once round: the whole reading, the high point, and what is out of round."""
    _, device = _device(request, number)
    turned = once_round(list(device.readings))
    return RunoutOut(text=words.once_round(turned, units), total_mm=turned.total, high_deg=turned.high)


@router.delete("/{number}/once-round")
async def begin_once_round(number: Number, request: Request) -> None:
    """Begin a new round of an indicator."""
    _device(request, number)[1].readings.clear()
