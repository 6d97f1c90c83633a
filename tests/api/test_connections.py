"""Connections that ask nothing, ask too slowly, or are too many."""

import asyncio
import logging
import resource
import socket
import time
import urllib.request
from collections.abc import Iterator
from contextlib import ExitStack, suppress
from pathlib import Path
from typing import Any

import pytest
import uvicorn

from tests.loops import in_a_loop
from tests.served import serve
from valleywind.api import connections
from valleywind.api.connections import Connection, Seldom
from valleywind.serve import listen


@pytest.fixture
def few(tmp_path: Path) -> Iterator[tuple[str, int, int]]:
    """A server that may have 200 files open: its address, its port, and the one for devices."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        devices = free.getsockname()[1]
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    resource.setrlimit(resource.RLIMIT_NOFILE, (200, hard))
    try:
        process, address = serve(tmp_path, "--demo", "--devices", str(devices))
    finally:
        resource.setrlimit(resource.RLIMIT_NOFILE, (soft, hard))
    yield address, int(address.rpartition(":")[2]), devices
    process.terminate()
    process.wait(20)


@pytest.mark.parametrize("words", [b"", b"GET /api/machines HTTP/1.1\r\nHost: 127"])
def test_silent_connections_do_not_stop_the_server(few: tuple[str, int, int], words: bytes) -> None:
    address, port, devices = few
    with ExitStack() as held:
        for n in range(400):
            wire = held.enter_context(socket.create_connection(("127.0.0.1", devices if n % 5 == 0 else port), 5))
            wire.sendall(words)
    for _ in range(600):
        with suppress(OSError), urllib.request.urlopen(f"{address}/api/machines", timeout=60) as answer:
            assert answer.status == 200
            return
        time.sleep(0.05)
    pytest.fail("it answers no more")


def test_one_too_many_is_told_so(few: tuple[str, int, int]) -> None:
    _, port, _ = few
    with ExitStack() as held:
        for _ in range(100):
            held.enter_context(socket.create_connection(("127.0.0.1", port), 5))
        late = held.enter_context(socket.create_connection(("127.0.0.1", port), 5))
        late.settimeout(30)
        assert late.recv(100).startswith(b"HTTP/1.1 503 ")


@pytest.mark.parametrize("words", [b"", b"GET / HTTP/1.1\r\nHost: 127", b"GET / HTTP/1.1\r\nHost: x\r\n\r\n"])
def test_a_head_that_does_not_come_in_time_is_not_waited_for(monkeypatch: pytest.MonkeyPatch, words: bytes) -> None:
    """Neither the first nor the one after an answer."""
    monkeypatch.setattr(connections, "_HEAD", 0.05)

    async def app(_scope: Any, _receive: Any, send: Any) -> None:
        await send({"type": "http.response.start", "status": 204, "headers": []})
        await send({"type": "http.response.body", "body": b""})

    async def talked() -> bytes:
        config = uvicorn.Config(app, http=Connection, lifespan="off", log_config=None, timeout_keep_alive=1000)
        config.load()
        state = uvicorn.server.ServerState()
        loop = asyncio.get_running_loop()
        server = await loop.create_server(lambda: Connection(config, state, {}), "127.0.0.1", 0)
        async with server, asyncio.timeout(30):
            reader, writer = await asyncio.open_connection(*server.sockets[0].getsockname())
            writer.write(words)
            return await reader.read()  # until the server closes

    answered = in_a_loop(talked())
    assert answered.startswith(b"HTTP/1.1 204") == words.endswith(b"\r\n\r\n")


def test_the_same_message_is_written_ten_times_a_minute() -> None:
    seldom = Seldom(10)
    record = logging.LogRecord("uvicorn.error", logging.WARNING, "", 1, "Invalid %s", ("x",), None)
    assert sum(seldom.filter(record) for _ in range(500)) == 10
    other = logging.LogRecord("uvicorn.error", logging.WARNING, "", 1, "Another", (), None)
    assert seldom.filter(other)


def test_an_answer_is_sent_at_once() -> None:
    """Else its second part waits on a kept connection until the other side says that the first one came: 40 ms."""

    async def at_once() -> int:
        answered = asyncio.get_running_loop().create_future()

        def called(_reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            made = writer.get_extra_info("socket")
            answered.set_result(made.getsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY))
            writer.close()

        listener = listen("127.0.0.1", 0)
        async with await asyncio.start_server(called, sock=listener):
            with socket.create_connection(listener.getsockname()):
                sent: int = await asyncio.wait_for(answered, 20)
                return sent

    assert in_a_loop(at_once()) != 0
