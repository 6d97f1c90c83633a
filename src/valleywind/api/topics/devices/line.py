"""Devices that talk to the server, a line of JSON at a time; see docs/devices.md."""

import asyncio
import json
import math
import socket
import time
from collections import deque
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Any, NamedTuple
from uuid import uuid4

from fastapi import FastAPI
from sqlalchemy.orm import Session

from valleywind.api.topics.devices import wire
from valleywind.app.device_keys import DeviceKeys
from valleywind.app.recording import NewEvent, Recording, add
from valleywind.core.making.devices import (
    ADVANCES,
    MOST_LINE,
    SAME_TOOTH,
    Came,
    Follow,
    Hello,
    On,
    Presses,
    Reading,
    Sort,
    Watch,
    read_hello,
    read_line,
)
from valleywind.core.making.places import By
from valleywind.core.making.session import EventKind, onward, since
from valleywind.core.refusal import Refusal
from valleywind.shop import cutting as cut_there
from valleywind.shop.cutting import SessionNow
from valleywind.shop.file_trouble import ShopFileError
from valleywind.wording import refusals, shop_file
from valleywind.wording.making import devices as words
from valleywind.wording.refusal_form import Notice

MOST_DEVICES = 16
# Connections to the port, those included that have not said yet what they are.
_MOST_WIRES = 2 * MOST_DEVICES
# Lines that mean nothing, after which it is not listened to any more, and how much of one a good line makes up for.
_PATIENCE, _MENDED = 5, 0.1
# How long devices are waited for at the end, s.
_LAST_WORDS = 1.0
# Readings of an indicator that are kept.
_KEPT = 720


@dataclass
class Device:
    """One that is connected. job: whose session it advances; follow: an encoder's way to the next tooth; watch: a
    camera's mark for it; since: the cut with which the work came to the tooth that they start from; overtaken: the
    session went on without it; moved: when somebody else last told a step, s; key: the number of the key that let it
    in; leave: hangs up."""

    number: int
    hello: Hello
    key: int | None = None
    leave: Callable[[], None] = lambda: None
    latest: Reading = None
    message: str = ""
    job: int | None = None
    follow: Follow | None = None
    watch: Watch | None = None
    since: int = 0
    overtaken: bool = False
    moved: float = -math.inf
    presses: Presses = field(default_factory=Presses)
    readings: deque[float] = field(default_factory=lambda: deque(maxlen=_KEPT))


class Devices:
    """Those that are connected. keys: which keys let one in; asks_key: whether one is needed."""

    def __init__(self, recording: Recording, keys: DeviceKeys, asks_key: bool = False) -> None:
        self.recording, self.keys, self.asks_key = recording, keys, asks_key
        recording.followers.append(self.moved)
        self.connected: dict[int, Device] = {}
        # Where they connect, and the name of this machine that the port is open at.
        self.port: int | None = None
        self.host = ""
        self._next, self._wires = 1, 0

    def listens_at(self, listener: socket.socket) -> None:
        """From now on devices connect here."""
        self.host, self.port = listener.getsockname()[:2]

    def tell(self, device: Device, **news: Any) -> None:
        """Say to all who listen what a device says."""
        self.recording.events.tell(device=device.number, sort=device.hello.sort.value, **news)

    async def talk(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """One device from its first line to its last."""
        device: Device | None = None
        nonsense = 0.0
        self._wires += 1
        try:
            if self._wires > _MOST_WIRES:
                raise Refusal("too_many_devices", "hello", self._wires - 1, most=MOST_DEVICES)
            async for line in wire.lines(reader):
                try:
                    if device is None:
                        device = self._welcome(_json(line), writer.close)
                        await wire.answer(writer, welcome=device.number)
                    else:
                        await self._heard(device, read_line(device.hello.sort, _json(line)))
                        nonsense = max(0.0, nonsense - _MENDED)
                except Refusal as refused:
                    nonsense += 1
                    await wire.refuse(writer, refused)
                if nonsense >= _PATIENCE or (device is None and nonsense):
                    break
        except Refusal as refused:
            with suppress(ConnectionError):
                await wire.refuse(writer, refused)
        except ConnectionError:  # pulled out
            pass
        finally:
            self._wires -= 1
            if device is not None:
                self.connected.pop(device.number, None)
                self.tell(device, gone=True)
            writer.close()

    async def hang_up(self) -> None:
        """The end: whoever is connected is let go."""
        for device in self.connected.values():
            device.leave()
        until = time.monotonic() + _LAST_WORDS
        while self._wires and time.monotonic() < until:
            await asyncio.sleep(0.01)

    def remove_key(self, number: int) -> None:
        """Take a key back, and hang up on whoever came in by it."""
        self.keys.remove(number)
        for device in self.connected.values():
            if device.key == number:
                device.leave()

    def _welcome(self, line: Any, leave: Callable[[], None]) -> Device:
        hello = read_hello(line)
        if len(self.connected) >= MOST_DEVICES:
            raise Refusal("too_many_devices", "hello", len(self.connected), most=MOST_DEVICES)
        key, lent = self.keys.find(line.get("key")), self.keys.take_back(line.get("key"))
        if self.asks_key and key is None and not lent:
            raise Refusal("no_device_key", "key", None)
        device = Device(self._next, hello, key.number if key else None, leave)
        self._next += 1
        self.connected[device.number] = device
        self.tell(device, come=True)
        return device

    async def _heard(self, device: Device, value: Any) -> None:
        device.latest = value
        match device.hello.sort:
            case Sort.ENCODER:
                await self._turned(device, value)
            case Sort.PEDAL:
                device.presses, counts = device.presses.heard(value, time.monotonic())
                if counts and device.job is not None:
                    await self._done(device)
            case Sort.CAMERA:
                if device.watch is not None:
                    device.watch, came = device.watch.heard(value)
                    await self._came(device, came)
            case Sort.INDICATOR if value is not None:
                device.readings.append(float(value))
                self.tell(device, value=value)
            case _:
                self.tell(device, value=value)

    async def _turned(self, device: Device, turned: float | None) -> None:
        if device.follow is None:
            return
        device.follow, came = device.follow.heard(turned)
        await self._came(device, came)

    async def _came(self, device: Device, came: Came | None) -> None:
        if came is None:
            return
        device.message = words.came(device.hello, came)
        self.tell(device, came=came.value, message=device.message)
        if came is Came.ARRIVED:
            await self._done(device)

    async def _done(self, device: Device) -> None:
        """The move is complete: record it, and look to the next tooth."""
        job, at = device.job, time.monotonic()
        assert job is not None
        try:
            stands, _ = await self.recording.record(
                job, lambda session: (self._record(session, device, job, at), None), device
            )
        except Refusal as refused:
            self._not_done(device, refusals.say(refused))
            return
        except ShopFileError as error:
            self._not_done(device, shop_file.say(error.trouble, error.path, error.detail))
            return
        device.message = words.RECORDED
        self.recording.events.tell(session=job, seen=len(stands.known))
        self._look_on(device, stands)

    def _not_done(self, device: Device, why: Notice) -> None:
        device.message = f"{why.says} {why.would_do}"
        self.tell(device, message=device.message)

    def moved(self, job: int, stands: SessionNow, teller: object = None) -> None:
        """Something was recorded in a session: a device that follows it from another tooth is overtaken, one whose move
        was refused may tell it again."""
        here = since(stands.state, stands.work)
        for device in self.connected.values():
            if device.job != job or device is teller or device.overtaken:
                continue
            device.moved = time.monotonic()
            if device.hello.sort is Sort.PEDAL:
                continue
            if device.since != here or stands.finished:
                device.overtaken, device.follow, device.watch = True, None, None
                device.message = words.OVERTAKEN
                self.tell(device, message=device.message)
                continue
            device.follow = device.follow.again() if device.follow else None
            device.watch = device.watch.again() if device.watch else None

    def _record(self, session: Session, device: Device, job: int, at: float) -> SessionNow:
        """Raises Refusal `counted_already`; `moved_without` and `passes_left` where what turned was not what is to be
        recorded."""
        pedal = device.hello.sort is Sort.PEDAL
        # A press is about the tooth that was seen: just after somebody else's step it is about the same one.
        if pedal and at - device.moved < SAME_TOOTH:
            raise Refusal("counted_already", "device", device.hello.name)
        stands = cut_there.standing(session, cut_there.cutting(session, job))
        if not pedal:
            move = onward(stands.state, stands.work)
            if move is None or since(stands.state, stands.work) != device.since:
                raise Refusal("moved_without", "device", device.hello.name)
            if move.left > 1:
                raise Refusal("passes_left", "device", move.left)
        return add(session, job, NewEvent(EventKind.DONE), uuid4().hex, None, device.hello.sort.value, None)

    def _look_on(self, device: Device, stands: SessionNow) -> None:
        move = _next_move(device, stands)
        if device.follow is not None:
            device.follow = device.follow.onward(move.turns, move.near, move.over) if move else None
        if device.watch is not None:
            device.watch = Watch(device.watch.marks, move.mark) if move else None
        device.since = since(stands.state, stands.work)

    def give(self, device: Device, job: int | None) -> None:
        """Let a pedal, an encoder or a camera advance a session from where it stands now; None: no more.

        Raises Refusal `advances_nothing`, `no_session`, `no_moves`.
        """
        device.job, device.follow, device.watch, device.message = None, None, None, ""
        device.overtaken, device.moved = False, -math.inf
        if job is None:
            return
        sort = device.hello.sort
        if sort not in ADVANCES:
            raise Refusal("advances_nothing", "device", sort.value)
        with self.recording.store.reading() as session:
            stands = cut_there.standing(session, cut_there.cutting(session, job))
        if sort is not Sort.PEDAL:
            move = _next_move(device, stands)
            if move is None or (sort is Sort.CAMERA and not move.mark):
                raise Refusal("no_moves", "device", device.hello.name)
            device.since = since(stands.state, stands.work)
            if sort is Sort.CAMERA:
                device.watch = Watch(stands.work.divisions, move.mark)
            else:
                # Where it has told nothing yet, or saw nothing last, it starts from its first reading.
                here = None if device.latest is None else float(device.latest)
                device.follow = Follow(move.turns, move.near, here, move.over)
        device.job = job


def _json(line: bytes) -> Any:
    """Raises Refusal `not_json`."""
    try:
        return json.loads(line)
    except (ValueError, RecursionError):
        raise Refusal("not_json", "line", "") from None


class _Move(NamedTuple):
    """From a tooth to the next: turns of what the encoder sits on, how near still counts, and how far the way there
    goes beyond; the mark of a disc that then is under the pointer, 0 for no disc."""

    turns: float
    near: float
    over: float
    mark: int


def _next_move(device: Device, stands: SessionNow) -> _Move | None:
    """None at the end, and where nothing turns that the device sees."""
    places, move = stands.places, onward(stands.state, stands.work)
    if move is None:
        return None
    on_crank = device.hello.sort is Sort.ENCODER and device.hello.on is On.CRANK
    turned = places.turned(move.tooth, move.to)
    if turned is None or (on_crank and not places.ratio):
        return None
    scale = places.ratio if on_crank else 1
    mark = int(places.each[move.to].at) if places.by is By.DISC else 0
    # Of compound indexing the second move may come back from beyond.
    back = min(0, places.each[move.to].plate if move.to else places.again.plate)
    over = Fraction(-back, places.lock) / (1 if on_crank else places.ratio) if places.lock and places.ratio else 0
    # A third of the least step off is the place itself.
    return _Move(float(turned * scale), float(places.fine * scale) / 3, float(over), mark)


def listening(app: FastAPI, listener: socket.socket | None) -> Any:
    """The lifespan in which devices are listened to at this socket."""
    from contextlib import asynccontextmanager

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> Any:
        if listener is None:
            yield
            return
        devices: Devices = app.state.devices
        server = await asyncio.start_server(devices.talk, sock=listener, limit=MOST_LINE, backlog=_MOST_WIRES)
        devices.listens_at(listener)
        async with server:
            yield
            await devices.hang_up()

    return lifespan(app)
