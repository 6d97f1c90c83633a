"""No question costs more than its bound, whatever loop it is in, and none is worked on that nobody waits for.

The core counts its larger steps (`core.interrupt`) and so gives the same answer on any machine. Behind that stands the
clock: a thread of its own looks at the processor time of every question that is being worked on, and ends the one that
used too much, or that nobody waits for, by raising an exception in its thread. No loop has to ask whether it may go on.
What runs in `bounded` therefore reads and works out and never writes.
"""

import ctypes
import functools
import os
import sys
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any, TypeVar, cast

from valleywind.core.interrupt import Interruption, OverBudget, WorkLimit, wanted_here

MOST_SECONDS = float(os.environ.get("VALLEYWIND_SECONDS") or 3.0)
"""Processor time that one question may use; a slow machine may be given more by the environment."""
A_PART = 1.0
"""Processor time after which a long list is answered as far as it has come."""
# How often the questions that are worked on are looked at, s.
_LOOKS = 0.05
_raise_in = ctypes.pythonapi.PyThreadState_SetAsyncExc
_raise_in.argtypes = (ctypes.c_ulong, ctypes.py_object)
_NOTHING = ctypes.py_object()
_NO_MORE = object()
Value = TypeVar("Value")
Item = TypeVar("Item")


class _QuestionEnd(BaseException):
    """Raised from outside in the middle of a question; no `except Exception` on the way takes it."""


def _but_ended(tell: Callable[[Any], object]) -> Callable[[Any], object]:
    """Where something is tidied away an exception cannot go on: it is told in the log. Of this one there is nothing to
    tell, for it is raised again until the work is left."""
    return lambda lost: None if lost.exc_type is _QuestionEnd else tell(lost)


sys.unraisablehook = _but_ended(sys.unraisablehook)


@dataclass(eq=False)
class _Question:
    """One that is worked on: by which thread, with how much of its time used before, and who waits."""

    thread: int
    wanted: WorkLimit | None
    begun: float
    left: bool = False
    too_much: bool = False
    lock: threading.Lock = field(default_factory=threading.Lock)

    def used(self) -> float:
        return _clock(self.thread) - self.begun


def _clock(thread: int) -> float:
    """Processor time of a thread, s; where the system does not tell it, the time."""
    if hasattr(time, "pthread_getcpuclockid"):
        return time.clock_gettime(time.pthread_getcpuclockid(thread))
    return time.monotonic()


class _Watch:
    """Looks at the questions that are worked on; sleeps where there are none."""

    def __init__(self) -> None:
        self._questions: set[_Question] = set()
        self._changed = threading.Condition()
        self._thread: threading.Thread | None = None

    def add(self, question: _Question) -> None:
        with self._changed:
            self._questions.add(question)
            if self._thread is None or not self._thread.is_alive():
                self._thread = threading.Thread(target=self._look, daemon=True, name="bounds")
                self._thread.start()
            self._changed.notify()

    def remove(self, question: _Question) -> None:
        with self._changed:
            self._questions.discard(question)

    def _look(self) -> None:
        while True:
            with self._changed:
                self._changed.wait_for(lambda: self._questions)
                questions = list(self._questions)
            for one in questions:
                self._look_at(one)
            time.sleep(_LOOKS)

    @staticmethod
    def _look_at(one: _Question) -> None:
        with one.lock:
            if one.left:
                return
            one.too_much = one.too_much or one.used() > MOST_SECONDS
            if (one.too_much or (one.wanted is not None and one.wanted.stopped)) and _is_inside(one.thread):
                # Raised while something is tidied away it is lost: it is raised again until the work is left. Of those
                # raised one at most comes after that.
                _raise_in(one.thread, _QuestionEnd)


_watch = _Watch()


def bounded(work: Callable[[], Value]) -> Value:
    """What the work gives, which uses no more than `MOST_SECONDS`.

    Raises OverBudget where it would, Interruption where nobody waits any more (`can_stop`), and what the work does.
    """
    thread = threading.get_ident()
    one = _Question(thread, wanted_here(), _clock(thread))
    try:
        _watch.add(one)
        try:
            return _inside(work)
        finally:
            _leave(one)
    except _QuestionEnd:
        _leave(one)
        raise (OverBudget if one.too_much else Interruption) from None


def _inside(work: Callable[[], Value]) -> Value:
    return work()


def _is_inside(thread: int) -> bool:
    """Whether a thread is in the middle of bounded work, and not on its way out of it."""
    frame = sys._current_frames().get(thread)
    while frame is not None and frame.f_code is not _inside.__code__:
        frame = frame.f_back
    return frame is not None


def _leave(one: _Question) -> None:
    """It is not looked at any more, and an exception that was not raised yet is taken back."""
    with one.lock:
        one.left = True
        _raise_in(one.thread, _NOTHING)
    _watch.remove(one)


def of_route(endpoint: Callable[..., Any]) -> Callable[..., Any]:
    """An endpoint that is bounded, with the same signature."""

    @functools.wraps(endpoint)
    def within(*args: Any, **kwargs: Any) -> Any:
        return bounded(lambda: endpoint(*args, **kwargs))

    return within


def in_part(items: Sequence[Item], at_a_time: int, work: Callable[[Sequence[Item]], list[Value]]) -> list[Value]:
    """What the work gives for the first of some items, this many at a time, as far as it comes in `A_PART`: of the rest
    another question asks. Each item gives one."""
    begun, done = _clock(threading.get_ident()), list[Value]()
    while len(done) < len(items) and (not done or _clock(threading.get_ident()) - begun < A_PART):
        try:
            done += work(items[len(done) : len(done) + at_a_time])
        except OverBudget:
            if not done:
                raise
            break
    return done


def each_step(steps: Iterator[Value]) -> Iterator[Value]:
    """Steps of an answer that comes in pieces, each of them bounded."""
    while (step := bounded(lambda: next(steps, _NO_MORE))) is not _NO_MORE:
        yield cast(Value, step)
