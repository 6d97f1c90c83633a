"""Stand-ins for devices, played in a page. Their lines go over the port for devices, as those of hardware do."""

import asyncio
import json
import time
from contextlib import suppress
from dataclasses import dataclass
from typing import Annotated
from uuid import uuid4

from fastapi import APIRouter, Path, Request
from pydantic import BaseModel, Field

from valleywind.api.problems import RESPONSES
from valleywind.api.topics.devices.line import MOST_DEVICES, Devices
from valleywind.core.making.devices import MOST_LINE, On, Sort
from valleywind.core.refusal import Refusal

router = APIRouter(prefix="/devices/stand-ins", tags=["devices"], responses=RESPONSES)

MOST_STAND_INS = 8
# A stand-in is gone when its page was silent this long, s; how long the port is waited for, s.
_SILENT, _PATIENCE = 30.0, 5.0
# How often it is looked whether the page is gone, s.
_LOOK = 1.0
_MOST_AT_ONCE = 50
# Bytes of answers that are kept until the page asks.
_MOST_KEPT = 64 * 1024


@dataclass
class StandIn:
    """One that is played. heard: when its page last said something, s; watch: hangs up when the page is gone."""

    reader: asyncio.StreamReader
    writer: asyncio.StreamWriter
    heard: float
    watch: asyncio.Task[None] | None = None


class StandIns:
    """Those that are played now."""

    def __init__(self) -> None:
        self.played: dict[str, StandIn] = {}

    async def start(self, devices: Devices, hello: dict[str, str]) -> tuple[str, int]:
        """Connect one to the port; its name here, and the number of the device.

        Raises Refusal `no_device_port`, `too_many_stand_ins`."""
        if devices.port is None:
            raise Refusal("no_device_port", "sort", None)
        if len(self.played) >= MOST_STAND_INS:
            raise Refusal("too_many_stand_ins", "sort", len(self.played), most=MOST_STAND_INS)
        at = devices.host if devices.host not in ("0.0.0.0", "::") else "localhost"
        try:
            async with asyncio.timeout(_PATIENCE):
                reader, writer = await asyncio.open_connection(at, devices.port, limit=_MOST_KEPT)
                writer.write(json.dumps({**hello, "key": devices.keys.lend()}).encode() + b"\n")
                answer = json.loads(await reader.readline())
        except (OSError, TimeoutError, ValueError):
            raise Refusal("no_device_port", "sort", None) from None
        if "welcome" not in answer:
            writer.close()
            raise Refusal("too_many_devices", "sort", len(devices.connected), most=MOST_DEVICES)
        name = uuid4().hex
        one = self.played[name] = StandIn(reader, writer, time.monotonic())
        one.watch = asyncio.create_task(self._watch(name, one))
        return name, int(answer["welcome"])

    async def say(self, name: str, lines: list[str]) -> list[str]:
        """Pass lines on; what was answered. Raises Refusal `no_such_stand_in`."""
        one = self.played.get(name)
        if one is None or one.reader.at_eof() or one.writer.is_closing():
            self.stop(name)
            raise Refusal("no_such_stand_in", "stand_in", None)
        one.heard = time.monotonic()
        one.writer.write(b"".join(line.encode() + b"\n" for line in lines))
        answers: list[str] = []
        with suppress(OSError, TimeoutError, ValueError):
            async with asyncio.timeout(_PATIENCE):
                await one.writer.drain()
            async with asyncio.timeout(0):
                while line := await one.reader.readline():
                    answers.append(line.decode(errors="replace").strip())
        return answers

    def stop(self, name: str) -> None:
        """Hang up. One that is not there is left alone."""
        if one := self.played.pop(name, None):
            one.writer.close()

    async def _watch(self, name: str, one: StandIn) -> None:
        while name in self.played and (left := one.heard + _SILENT - time.monotonic()) > 0:
            await asyncio.sleep(min(left, _LOOK))
        self.stop(name)


class StandInIn(BaseModel):
    sort: Sort
    on: On = Field(On.CRANK, description="Where an encoder sits")


class StandInOut(BaseModel):
    stand_in: str = Field(description="What to say its lines under")
    number: int = Field(description="The device's number in the list")


class LinesIn(BaseModel):
    lines: list[Annotated[str, Field(max_length=MOST_LINE, pattern=r"^[^\n\r]*$")]] = Field(
        max_length=_MOST_AT_ONCE, description="Lines as a device says them; see docs/devices.md"
    )


class AnswersOut(BaseModel):
    answers: list[str] = Field(description="Lines that the port answered since the last time")


Name = Annotated[str, Path(description="What was answered when it was started", max_length=40)]


def _played(request: Request) -> StandIns:
    played: StandIns = request.app.state.stand_ins
    return played


@router.post("", status_code=201)
async def start_stand_in(wanted: StandInIn, request: Request) -> StandInOut:
    """Connect a stand-in to the port for devices."""
    hello = {"hello": wanted.sort.value, "name": "stand-in"}
    if wanted.sort is Sort.ENCODER:
        hello["on"] = wanted.on.value
    name, number = await _played(request).start(request.app.state.devices, hello)
    return StandInOut(stand_in=name, number=number)


@router.post("/{name}/lines")
async def say_lines(name: Name, lines: LinesIn, request: Request) -> AnswersOut:
    """Pass the lines of a stand-in on to the port. Without any line it is only said that the page is still there."""
    return AnswersOut(answers=await _played(request).say(name, lines.lines))


@router.delete("/{name}")
async def stop_stand_in(name: Name, request: Request) -> None:
    """Hang up."""
    _played(request).stop(name)
