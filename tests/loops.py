"""Coroutines run in an event loop of their own, whatever loop the test itself stands in."""

import asyncio
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

T = TypeVar("T")


def in_a_loop(work: Coroutine[Any, Any, T]) -> T:
    """What the coroutine gives. A browser's tests leave a loop behind in their thread."""
    with ThreadPoolExecutor(1) as apart:
        return apart.submit(asyncio.run, work).result()
