"""Keys by which devices are let in, where the shop asks who comes in."""

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Path, Request
from pydantic import BaseModel, Field

from valleywind.api.problems import RESPONSES
from valleywind.api.topics.devices.line import Devices
from valleywind.app.device_keys import LONGEST_KEY_NAME, DeviceKey

router = APIRouter(prefix="/devices/keys", tags=["devices"], responses=RESPONSES)


class DeviceKeyOut(BaseModel):
    number: int = Field(description="The key's number in the list")
    name: str
    made: str = Field(description="When it was made")


class DeviceKeysOut(BaseModel):
    asks: bool = Field(description="A device has to say its key")
    keys: list[DeviceKeyOut] = Field(description="In the order that they were made")


class NewDeviceKeyOut(DeviceKeyOut):
    key: str = Field(description="What the device has to say; it is told once")


class DeviceKeyIn(BaseModel):
    name: str = Field(description="What the device is called", max_length=4 * LONGEST_KEY_NAME)


def _out(key: DeviceKey) -> DeviceKeyOut:
    made = datetime.fromtimestamp(key.made, UTC).isoformat(timespec="seconds")
    return DeviceKeyOut(number=key.number, name=key.name, made=made)


@router.get("")
async def get_device_keys(request: Request) -> DeviceKeysOut:
    """Whether devices have to say a key, and which there are."""
    devices: Devices = request.app.state.devices
    return DeviceKeysOut(asks=devices.asks_key, keys=[_out(key) for key in devices.keys.keys])


@router.post("", status_code=201)
def add_device_key(typed: DeviceKeyIn, request: Request) -> NewDeviceKeyOut:
    """A new key for one device."""
    devices: Devices = request.app.state.devices
    key, secret = devices.keys.add(typed.name)
    return NewDeviceKeyOut(**_out(key).model_dump(), key=secret)


@router.delete("/{number}")
async def remove_device_key(
    number: Annotated[int, Path(ge=1, le=2**53, description="The key's number in the list")], request: Request
) -> None:
    """Take a key back. Whoever came in by it is cut off."""
    devices: Devices = request.app.state.devices
    devices.remove_key(number)
