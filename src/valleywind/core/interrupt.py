"""Long work that nobody waits for any more stops at the next `checkpoint`."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar


class Stopped(Exception):
    """The work was given up because nobody waits for it."""


class Wanted:
    """Whether somebody still waits for the work of this context."""

    def __init__(self) -> None:
        self._stopped = False

    def stop(self) -> None:
        self._stopped = True

    def check(self) -> None:
        if self._stopped:
            raise Stopped


_wanted: ContextVar[Wanted | None] = ContextVar("wanted", default=None)


@contextmanager
def can_stop() -> Iterator[Wanted]:
    """Work in this context, and in threads that it starts with a copy of it, can be stopped from outside."""
    wanted = Wanted()
    token = _wanted.set(wanted)
    try:
        yield wanted
    finally:
        _wanted.reset(token)


def checkpoint() -> None:
    """Raises Stopped where nobody waits any more. Costs nothing to speak of: call it in every long loop."""
    if (wanted := _wanted.get()) is not None:
        wanted.check()
