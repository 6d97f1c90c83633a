"""What is sent over plain connections: heads of requests, and lines of devices."""

import json
import random
import socket
from collections.abc import Callable, Iterator, Sequence
from contextlib import ExitStack, contextmanager, suppress

from tests.fuzz.values import odd

# s
_WAIT = 5
_HOSTS = (
    "127.0.0.1", "localhost", "[::1", "[::1]", "[", "evil.example", "", "a" * 300, "127.0.0.1:99999999", "\xff", "@x",
    "127.0.0.1:",
)  # fmt: skip
_ORIGINS = ("http://[", "http://127.0.0.1", "null", "http://evil.example", "", "http://[::1", "javascript:0", "\xff")
_PATHS = (
    "/api/shop", "/api/rack", "/", "*", "//", "/api/../api/shop", "/api/%", "/api/%00", "/api/machines/%ff%fe",
    "http://x/api/shop",
    "/api/lathes/plover/plan?ask=M14x2&ask=%", "/" + "a" * 9000, "", "/api/devices/line", "/assets/../../etc/passwd",
    "/api/shop#x",
)  # fmt: skip
_HEADERS = (
    "Transfer-Encoding: chunked", "Transfer-Encoding: gzip, chunked", "Content-Length: -1",
    "Content-Length: 9999999999999",
    "Content-Length: 5", "Content-Length: 5, 5", "Expect: 100-continue", "Upgrade: websocket",
    "Connection: upgrade, close",
    "Content-Type: application/json; charset=\xff", "Content-Encoding: gzip", "Range: bytes=0-0,1-1",
    "Cookie: " + "a=b;" * 500,
    "Accept: \x00", "X:" + "y" * 9000, ": no name", "no colon", " folded", "Content-Type: multipart/form-data",
)  # fmt: skip
_BODIES = (b"", b"{}", b"5\r\nhello\r\n0\r\n\r\n", b"ffffffffffff\r\n", b"\x00" * 100, b"[" * 5000, b'{"a":' * 3000)


def head(draw: random.Random) -> bytes:
    """A request that is in order but for one thing or a few, as no browser sends it."""
    parts = {
        "method": "GET",
        "path": "/api/shop",
        "version": "HTTP/1.1",
        "host": "127.0.0.1",
        "origin": "",
        "ends": "\r\n",
    }
    odd: dict[str, Sequence[str]] = {
        "method": ("POST", "PUT", "DELETE", "OPTIONS", "HEAD", "TRACE", "CONNECT", "BREW", "", "G\xc4T"),
        "path": _PATHS, "version": ("HTTP/1.0", "HTTP/0.9", "HTTP/2.0", "HTTP/9", "", "SMTP"), "host": _HOSTS,
        "origin": _ORIGINS, "ends": ("\n", "\r", "\r\n\r\n"),
    }  # fmt: skip
    for name in draw.sample(sorted(odd), draw.choice((0, 1, 1, 1, 2, 4))):
        parts[name] = draw.choice(odd[name])
    lines = [f"{parts['method']} {parts['path']} {parts['version']}", f"Host: {parts['host']}", "Connection: close"]
    if parts["origin"]:
        lines.append(f"Origin: {parts['origin']}")
    lines += draw.sample(_HEADERS, draw.choice((0, 0, 1, 2)))
    sent = parts["ends"].join([*lines, "", ""]).encode("latin-1", "replace")
    sent += draw.choice((b"", *_BODIES))
    return sent if draw.random() < 0.9 else sent[: draw.randrange(len(sent) + 1)]


def talk(port: int, sent: bytes, meanwhile: Callable[[], object] | None = None) -> bytes:
    """What comes back for what is sent, as far as it comes soon. meanwhile: done before the wire's end is told; where
    there is none it is not."""
    heard = b""
    with suppress(OSError), socket.create_connection(("127.0.0.1", port), _WAIT) as wire:
        wire.settimeout(1)
        wire.sendall(sent)
        if meanwhile is not None:
            with suppress(TimeoutError):
                heard = wire.recv(65_536)
            meanwhile()
            wire.shutdown(socket.SHUT_WR)
        while piece := wire.recv(65_536):
            heard += piece
    return heard


@contextmanager
def connected(port: int) -> Iterator[None]:
    """An encoder and a pedal are connected."""
    hello = (b'{"hello": "encoder", "name": "crank", "on": "crank"}\n{"turned": 1.0}\n', b'{"hello": "pedal"}\n')
    with ExitStack() as held:
        for message in hello:
            wire = held.enter_context(socket.create_connection(("127.0.0.1", port), _WAIT))
            wire.sendall(message)
            wire.recv(1000)
        yield


def _message(draw: random.Random) -> object:
    names = ("hello", "name", "on", "turned", "at", "figure", "pressed", "mark", "key", "moved")
    known = (
        {"hello": "encoder", "name": "e", "on": "crank"}, {"hello": "encoder", "on": "work"}, {"hello": "pedal"},
        {"hello": "indicator", "name": "dti"}, {"hello": "caliper"}, {"hello": "camera"}, {"turned": 3.0},
        {"pressed": True}, {"pressed": False}, {"at": 0.02}, {"figure": "2.50"}, {"mark": 1}, {"turned": 10**400},
        {"hello": "encoder", "name": "\ud800", "on": "crank"},
    )  # fmt: skip
    if draw.random() < 0.4:
        return draw.choice(known)
    return {draw.choice(names): odd(draw) for _ in range(draw.randint(0, 4))}


def lines(draw: random.Random) -> bytes:
    """What a device may say, or what is none says at its port."""
    names = ("crank", "\ud800", "a\u202eb", "x" * 500, "", "Ä", 7, None, "e\u0301" * 40)
    sorts = ("encoder", "indicator", "caliper", "pedal", "camera")
    hello = {"hello": draw.choice(sorts), "name": draw.choice(names), "on": draw.choice(("crank", "work"))}
    messages = [json.dumps(hello).encode()] if draw.random() < 0.7 else []
    for _ in range(draw.choice((0, 1, 3, 10))):
        messages.append(
            draw.choice((
                json.dumps(_message(draw)).encode("utf-8", "replace"), b"", b"{", b"[" * 4000, b"\xff\xfe", b"9" * 5000,
                b'{"a":' * 900,
                b"GET / HTTP/1.1", b'{"turned": NaN}', b'{"turned": -Infinity}', b"\x00",
                json.dumps(_message(draw)).encode(),
            ))
        )  # fmt: skip
    if draw.random() < 0.1:
        messages += [b'{"pressed": true}'] * 3000
    return b"\n".join(messages) + draw.choice((b"\n", b""))
