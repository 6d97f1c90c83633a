"""How long a step of a cutting session waits while much is written: part of `make endurance`."""

import json
import threading
import time
import urllib.request
from collections.abc import Callable
from itertools import count
from typing import Any

from tests.served import serving

MOST_WAIT = 0.3
"""What a step may wait, s."""
_LINES = 20_000
_MANY = 2000


class Shop:
    """A served demo shop, and a session in it whose steps are timed."""

    def __init__(self, address: str) -> None:
        self.address = address
        self._count = count()

    def ask(self, method: str, path: str, body: Any = None) -> tuple[Any, Any]:
        """Head and answer of a request."""
        data = body if isinstance(body, bytes) else None if body is None else json.dumps(body).encode()
        kind = "text/csv" if isinstance(body, bytes) else "application/json"
        request = urllib.request.Request(f"{self.address}/api/{path}", data, {"Content-Type": kind}, method=method)
        with urllib.request.urlopen(request, timeout=120) as answer:
            return answer.headers, json.load(answer)

    def step(self) -> float:
        """What one takes, s: a pause and its end in turn, which any number may follow each other."""
        number = next(self._count)
        event = {"key": f"beside-{number}", "kind": "resume" if number % 2 else "pause", "reason": "tea"}
        begun = time.perf_counter()
        self.ask("POST", "jobs/1/session/events", event)
        return time.perf_counter() - begun

    def slowest_beside(self, write: Callable[[], str]) -> tuple[str, float]:
        """What the write gives, and what the slowest step took while it went on, s."""
        answers: list[str] = []
        thread = threading.Thread(target=lambda: answers.append(write()))
        thread.start()
        waits = [self.step()]
        while thread.is_alive():
            waits.append(self.step())
        return answers[0], max(waits)


def run(lines: int = _LINES, many: int = _MANY) -> dict[str, float]:
    """The slowest step beside each long write, s."""
    with serving("--demo") as address:
        return _beside(Shop(address), lines, many)


def _beside(shop: Shop, lines: int, many: int) -> dict[str, float]:
    for _ in range(4):
        shop.step()
    file = "teeth,count,place\n" + "".join(f"{20 + n % 60},1,box {n % 50}\n" for n in range(lines))
    last = ""

    def written(method: str, path: str, body: Any = None) -> Callable[[], str]:
        return lambda: str(shop.ask(method, path, body)[0]["Valleywind-Change"])

    slowest = {}
    last, slowest["import"] = shop.slowest_beside(written("POST", "rack/wheels.csv?put=true", file.encode()))
    last, slowest["its undo"] = shop.slowest_beside(written("POST", f"changes/{last}/undo"))
    _, slowest["the undo of that"] = shop.slowest_beside(written("POST", f"changes/{last}/undo"))
    numbers = [w["id"] for n in range(0, many, 500) for w in shop.ask("GET", f"rack?seek=box&begin={n}")[1]["wheels"]]
    edit = {"ids": numbers[:many], "material": "iron"}
    _, slowest["an edit of many"] = shop.slowest_beside(written("PATCH", "rack/wheels", edit))
    _, slowest["two boxes merged"] = shop.slowest_beside(
        written("POST", "rack/merge", {"place": "box 1", "into": "box 2"})
    )
    return {what: round(took, 3) for what, took in slowest.items()}


if __name__ == "__main__":
    for what, took in run().items():
        print(f"slowest step beside {what:20} {took * 1000:5.0f} ms {'' if took <= MOST_WAIT else 'MISSED'}")
