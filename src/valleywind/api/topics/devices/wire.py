"""The wire of one device: its lines within a budget, and what it is answered."""

import asyncio
import json
from collections.abc import AsyncIterator

from valleywind.core.making.devices import MOST_LINE
from valleywind.core.refusal import Refusal
from valleywind.wording import refusals

# Lines of a device: how many are heard a second, how many at once, and from how many a second it is cut off.
_A_SECOND, _AT_ONCE, _FLOOD = 200, 100, 2000
# What is read at a time, bytes.
_PIECE = 65_536
# How long a device may take to say what it is, and to take an answer, s.
_FIRST_LINE, _ANSWER = 10.0, 5.0


async def lines(reader: asyncio.StreamReader) -> AsyncIterator[bytes]:
    """The lines of a device until it is gone. Others have their turn between any two, and what comes faster than the
    budget waits.

    Raises Refusal `line_too_long`, `too_fast`, `no_hello` where it is silent at first; ConnectionError.
    """
    clock = asyncio.get_running_loop().time
    read_at = clock()
    due = read_at - _AT_ONCE / _A_SECOND
    # None once it has said what it is: then it may be silent for as long as it likes.
    silent_until: float | None = read_at + _FIRST_LINE
    rest = b""
    while True:
        try:
            async with asyncio.timeout_at(silent_until):
                piece = await reader.read(_PIECE)
        except TimeoutError:
            raise Refusal("no_hello", "hello", "") from None
        if not piece:
            return
        *whole, rest = (rest + piece).split(b"\n")
        if len(whole) > _FLOOD * max(1.0, clock() - read_at):
            raise Refusal("too_fast", "line", len(whole), most=_A_SECOND)
        read_at = clock()
        for line in whole:
            if len(line) > MOST_LINE:
                raise Refusal("line_too_long", "line", len(line), most=MOST_LINE)
            due = max(due, clock() - _AT_ONCE / _A_SECOND) + 1 / _A_SECOND
            await asyncio.sleep(max(0.0, due - clock()))
            yield line
            silent_until = None
        if len(rest) > MOST_LINE:
            raise Refusal("line_too_long", "line", len(rest), most=MOST_LINE)


async def answer(writer: asyncio.StreamWriter, **fields: object) -> None:
    """A line to the device. Raises ConnectionError where it does not take it."""
    writer.write(json.dumps(fields).encode() + b"\n")
    try:
        async with asyncio.timeout(_ANSWER):
            await writer.drain()
    except TimeoutError:
        raise ConnectionError("the device does not read what it is answered") from None


async def refuse(writer: asyncio.StreamWriter, refused: Refusal) -> None:
    """Answer why it was refused. Raises ConnectionError."""
    refusal = refusals.say(refused)
    await answer(writer, refused=f"{refusal.says} {refusal.would_do}")
