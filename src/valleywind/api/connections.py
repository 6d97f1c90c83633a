"""What a connection may cost before it has asked anything, and how many there may be."""

import asyncio
import logging
import time
from collections import deque

from uvicorn.protocols.http.h11_impl import H11Protocol

MOST_CONNECTIONS = 300
# Timeout of a head, s, from its first byte or from the last answer.
_HEAD = 15.0
_FULL = (
    b"HTTP/1.1 503 Service Unavailable\r\nContent-Type: text/plain; charset=utf-8\r\nConnection: close\r\n\r\n"
    b"There are too many connections. Close some pages."
)


class Connection(H11Protocol):
    """A connection that is closed where it does not ask in time, or where there are too many already."""

    most = MOST_CONNECTIONS
    _head_due: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        if len(self.connections) > self.most:
            transport.write(_FULL)
            transport.close()
            return
        self._wait_for_head()

    def connection_lost(self, exc: Exception | None) -> None:
        self._head_there()
        super().connection_lost(exc)

    def handle_events(self) -> None:
        super().handle_events()
        if self.cycle is not None and not self.cycle.response_complete:
            self._head_there()

    def on_response_complete(self) -> None:
        super().on_response_complete()
        if not self.transport.is_closing():
            self._head_there()
            self._wait_for_head()

    def _wait_for_head(self) -> None:
        self._head_due = self.loop.call_later(_HEAD, self.transport.close)

    def _head_there(self) -> None:
        if self._head_due is not None:
            self._head_due.cancel()
            self._head_due = None


class Seldom(logging.Filter):
    """Lets the same message through only so often in a minute: what is sent from outside does not fill a disk."""

    def __init__(self, most: int = 10) -> None:
        super().__init__()
        self._most = most
        self._written: dict[str, deque[float]] = {}

    def filter(self, record: logging.LogRecord) -> bool:
        now = time.monotonic()
        # By the form of the message, of which there are few: not by what somebody put into it.
        written = self._written.setdefault(str(record.msg), deque(maxlen=self._most))
        if len(written) == self._most and now - written[0] < 60:
            return False
        written.append(now)
        return True
