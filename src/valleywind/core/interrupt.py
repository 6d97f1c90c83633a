"""Long work that nobody waits for any more stops at the next `checkpoint`, and work without end at its `spend`.

How much may be spent is counted in places laid out, not in time: the same question has the same answer on any machine.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar


class Interruption(Exception):
    """The work was given up because nobody waits for it."""


class OverBudget(Exception):
    """As much was worked out as one question may cost."""


class WorkLimit:
    """Whether somebody still waits for the work of this context, and how much it may still cost; None for any."""

    def __init__(self, effort: int | None = None) -> None:
        self._stopped, self._left = False, effort

    def spend(self, effort: int) -> None:
        if self._left is None:
            return
        self._left -= effort
        if self._left < 0:
            raise OverBudget

    @property
    def stopped(self) -> bool:
        return self._stopped

    def stop(self) -> None:
        self._stopped = True

    def check(self) -> None:
        if self._stopped:
            raise Interruption


_wanted: ContextVar[WorkLimit | None] = ContextVar("wanted", default=None)


def wanted_here() -> WorkLimit | None:
    """What this context is worked on for; None where nobody can stop it."""
    return _wanted.get()


@contextmanager
def can_stop(effort: int | None = None) -> Iterator[WorkLimit]:
    """Work in this context, and in threads that it starts with a copy of it, can be stopped from outside, and may cost
    no more than `effort`."""
    wanted = WorkLimit(effort)
    token = _wanted.set(wanted)
    try:
        yield wanted
    finally:
        _wanted.reset(token)


def checkpoint() -> None:
    """Raises Interruption where nobody waits any more. Costs nothing to speak of: call it in every long loop."""
    if (wanted := _wanted.get()) is not None:
        wanted.check()


def spend(effort: int) -> None:
    """Count work, by places laid out. Raises OverBudget beyond what the question may cost, else as `checkpoint`."""
    if (wanted := _wanted.get()) is not None:
        wanted.check()
        wanted.spend(effort)
