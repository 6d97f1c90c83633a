"""What pages are told without asking."""

import asyncio
from threading import Thread
from typing import Any

from tests.loops import in_a_loop
from valleywind.app.events import Events


def test_all_who_listen_are_told_in_order_from_whatever_thread() -> None:
    async def heard() -> list[list[dict[str, Any]]]:
        events = Events()
        queues = [events.join(), events.join()]
        gone = events.join()
        events.leave(gone)

        def tell() -> None:
            for seen in range(50):
                events.tell(session=1, seen=seen)

        thread = Thread(target=tell)
        thread.start()
        news = [[await asyncio.wait_for(q.get(), 20) for _ in range(50)] for q in queues]
        thread.join()
        assert gone.empty()
        return news

    assert in_a_loop(heard()) == [[{"session": 1, "seen": n} for n in range(50)]] * 2


def test_who_does_not_keep_up_is_told_that_something_was_missed() -> None:
    async def heard() -> tuple[dict[str, Any], dict[str, Any]]:
        events = Events()
        slow = events.join()
        for n in range(1000):
            events.tell(device=1, sort="indicator", value=n)
            await asyncio.sleep(0)
        assert slow.qsize() <= 200
        while slow.qsize() > 1:
            if (first := slow.get_nowait()).get("missed"):
                break
        events.tell(session=1, seen=5)
        await asyncio.sleep(0)
        last = first
        while not slow.empty():
            last = slow.get_nowait()
        return first, last

    assert in_a_loop(heard()) == ({"missed": True}, {"session": 1, "seen": 5})
