"""Devices that talk to the server, a line of JSON at a time; see docs/devices.md."""

import asyncio
import json
import time
from collections import deque
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any
from uuid import uuid4

from fastapi import FastAPI
from starlette.concurrency import run_in_threadpool

from valleywind.core.making.devices import MOST_LINE, Came, Follow, Hello, Presses, Sort, read_hello, read_line
from valleywind.core.making.places import By
from valleywind.core.making.session import Event, Kind
from valleywind.core.refusal import Refused
from valleywind.shop import cutting as cut_there
from valleywind.wording import refusals

MOST_DEVICES = 16
# Lines in a row that mean nothing, after which it is not listened to any more; readings of an indicator that are kept.
_PATIENCE, _KEPT = 5, 720


@dataclass
class Device:
    """One that is connected. job: whose session it advances; follow: an encoder's way to the next tooth; start: the
    cut at which its reading was `zero`."""

    number: int
    hello: Hello
    latest: str = ""
    said: str = ""
    job: int | None = None
    follow: Follow | None = None
    presses: Presses = field(default_factory=Presses)
    readings: deque[float] = field(default_factory=lambda: deque(maxlen=_KEPT))


class Devices:
    """Those that are connected, and who listens to them."""

    def __init__(self, app: FastAPI) -> None:
        self.app = app
        self.connected: dict[int, Device] = {}
        self._listening: set[asyncio.Queue[dict[str, Any]]] = set()
        self._next = 1

    def join(self) -> asyncio.Queue[dict[str, Any]]:
        queue: asyncio.Queue[dict[str, Any]] = asyncio.Queue(maxsize=200)
        self._listening.add(queue)
        return queue

    def leave(self, queue: asyncio.Queue[dict[str, Any]]) -> None:
        self._listening.discard(queue)

    def tell(self, device: Device, **news: Any) -> None:
        """Say it to all who listen; who does not keep up misses it."""
        told = {"device": device.number, "sort": device.hello.sort.value, **news}
        for queue in self._listening:
            with suppress(asyncio.QueueFull):
                queue.put_nowait(told)

    async def talk(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """One device from its first line to its last."""
        device: Device | None = None
        nonsense = 0
        try:
            while line := await reader.readline():
                try:
                    said = json.loads(line)
                    if device is None:
                        device = self._welcome(read_hello(said))
                        writer.write(b'{"welcome": %d}\n' % device.number)
                        continue
                    await self._heard(device, read_line(device.hello.sort, said))
                    nonsense = 0
                except (ValueError, RecursionError):
                    nonsense += 1
                    self._refuse(writer, Refused("not_json", "line", ""))
                except Refused as refused:
                    nonsense += 1
                    self._refuse(writer, refused)
                if nonsense >= _PATIENCE or (device is None and nonsense):
                    break
        except (ValueError, asyncio.LimitOverrunError, ConnectionError):
            # A line without an end, or a device that was pulled out.
            pass
        finally:
            if device is not None:
                self.connected.pop(device.number, None)
                self.tell(device, gone=True)
            writer.close()

    @staticmethod
    def _refuse(writer: asyncio.StreamWriter, refused: Refused) -> None:
        said = refusals.say(refused)
        writer.write(json.dumps({"refused": f"{said.says} {said.would_do}"}).encode() + b"\n")

    def _welcome(self, hello: Hello) -> Device:
        if len(self.connected) >= MOST_DEVICES:
            raise Refused("too_many_devices", "hello", len(self.connected), most=MOST_DEVICES)
        device = Device(self._next, hello)
        self._next += 1
        self.connected[device.number] = device
        self.tell(device, come=True)
        return device

    async def _heard(self, device: Device, value: Any) -> None:
        device.latest = "" if value is None else str(value)
        match device.hello.sort:
            case Sort.ENCODER:
                await self._turned(device, value)
            case Sort.PEDAL:
                device.presses, counts = device.presses.heard(value, time.monotonic())
                if counts and device.job is not None:
                    await self._done(device)
            case Sort.INDICATOR if value is not None:
                device.readings.append(float(value))
                self.tell(device, value=value)
            case _:
                self.tell(device, value=value)

    async def _turned(self, device: Device, turned: float | None) -> None:
        if device.follow is None:
            return
        device.follow, came = device.follow.heard(turned)
        if came is None:
            return
        device.said = _SAID[came]
        self.tell(device, came=came.value, said=device.said)
        if came is Came.ARRIVED:
            await self._done(device)

    async def _done(self, device: Device) -> None:
        """The move is complete: record it, and look to the next tooth."""
        job = device.job
        assert job is not None
        try:
            seen = await self._record(job, device.hello.sort.value)
        except Refused as refused:
            device.said = refusals.say(refused).says
            self.tell(device, said=device.said)
            return
        device.said = "Recorded."
        self.app.state.heard.tell(job, seen)
        if device.follow is not None and device.follow.last is not None:
            step = await run_in_threadpool(self._next_move, job)
            device.follow = device.follow.onward(device.follow.target + step) if step is not None else None

    async def _record(self, job: int, by: str) -> int:
        def work() -> int:
            with self.app.state.store.adding() as session:
                cutting = cut_there.cutting(session, job)
                return len(cut_there.record(session, cutting, Event(Kind.DONE, {}), uuid4().hex, None, by).known)

        async with self.app.state.turns.writing:
            return await run_in_threadpool(work)

    def _next_move(self, job: int) -> float | None:
        """Turns of the crank from where the work stands to the next tooth; None at the end, or where none are told."""
        with self.app.state.store.reading() as session:
            stands = cut_there.standing(session, cut_there.cutting(session, job))
            work, state, places = stands.work, stands.state, stands.places
            if state.at + 1 >= work.cuts or places.by is not By.CRANK:
                return None
            place = places.move(work.cut(state.at).tooth, work.cut(state.at + 1).tooth)
            return None if place is None else place.turns + place.spaces / places.circle

    def give(self, device: Device, job: int | None) -> None:
        """Let a pedal or an encoder advance a session from where it stands now; None: no more.

        Raises Refused `advances_nothing`, `no_session`, `no_moves`.
        """
        device.job, device.follow, device.said = job, None, ""
        if job is None:
            return
        if device.hello.sort not in (Sort.ENCODER, Sort.PEDAL):
            device.job = None
            raise Refused("advances_nothing", "device", device.hello.sort.value)
        if device.hello.sort is Sort.PEDAL:
            return
        step = self._next_move(job)
        here = float(device.latest) if device.latest else 0.0
        if step is None:
            device.job = None
            raise Refused("no_moves", "device", device.hello.name)
        with self.app.state.store.reading() as session:
            circle = cut_there.standing(session, cut_there.cutting(session, job)).places.circle
        # A third of a space off is the hole itself.
        device.follow = Follow(here + step, 1 / (3 * circle), here)


_SAID = {
    Came.ARRIVED: "Arrived.",
    Came.PAST: "Past the hole: back a full turn, and come again from the same side.",
    Came.LOST: "It was not heard in between, so nothing goes on by it. Set it anew at the hole.",
}


def listening(app: FastAPI, port: int | None, ready: Callable[[int], None] | None = None) -> Any:
    """The lifespan in which devices are listened to, on this machine alone."""
    from contextlib import asynccontextmanager

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> Any:
        if port is None:
            yield
            return
        devices: Devices = app.state.devices
        server = await asyncio.start_server(devices.talk, "127.0.0.1", port, limit=MOST_LINE)
        if ready is not None:
            ready(server.sockets[0].getsockname()[1])
        async with server:
            yield

    return lifespan(app)
