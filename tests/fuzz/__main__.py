"""`python -m tests.fuzz TRIES SEED`: this many tries of every route, and of every other way in."""

import json
import random
import socket
import sys
import tempfile
import time
from collections import Counter, defaultdict
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

from tests.fuzz import files, wires
from tests.fuzz.values import Builder
from tests.served import serve

# What an answer may take, s, on a machine however slow: the bound is 3 s of the processor.
_LONGEST = 60
_MOST_LOG = 1_000_000
# The most memory that the program may ever have had, kB.
_MOST_MEMORY = 800_000
# How many files, heads and devices there are in each turn.
_EACH_TURN = 15
# How much of an answer is kept for the report.
_SHOWN = 300


@dataclass
class Results:
    """What came of it: how many answers of each kind, what no answer may be, and the slowest of each route."""

    answers: Counter[str] = field(default_factory=Counter)
    wrong: list[str] = field(default_factory=list)
    slowest: dict[str, float] = field(default_factory=lambda: defaultdict(float))
    memory: int = 0

    def took(self, route: str, seconds: float) -> None:
        self.slowest[route] = max(self.slowest[route], seconds)


class Served:
    """The demo shop, served; what it writes in its log is kept."""

    def __init__(self, folder: Path) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.devices = free.getsockname()[1]
        self.log = folder / "log.txt"
        with self.log.open("w") as log:
            self.process, address = serve(folder, "--demo", "--devices", str(self.devices), log=log)
        self.port = int(address.rpartition(":")[2])

    def ask(self, method: str, path: str, body: bytes | None = None, kind: str = "") -> tuple[int, str, bytes]:
        """Status, media type and body. Raises OSError, HTTPException."""
        connection = HTTPConnection("127.0.0.1", self.port, timeout=_LONGEST)
        try:
            connection.request(method, path, body, {"Content-Type": kind} if kind else {})
            answer = connection.getresponse()
            content_type = answer.getheader("Content-Type") or ""
            return answer.status, content_type, answer.readline() if content_type == _STREAM else answer.read()
        finally:
            connection.close()

    def most_memory(self) -> int:
        """What the program had at most, kB; 0 where the system does not tell it."""
        status = Path(f"/proc/{self.process.pid}/status")
        lines = status.read_text().splitlines() if status.exists() else []
        return next((int(line.split()[1]) for line in lines if line.startswith("VmHWM")), 0)

    def reset(self) -> None:
        self.ask("POST", "/api/shop/demo", b'{"confirm": "replace by the demo shop"}', "application/json")


_STREAM = "text/event-stream; charset=utf-8"


class Fuzz:
    """Sends what was drawn, and looks at what comes of it."""

    def __init__(self, served: Served, draw: random.Random) -> None:
        self.served, self.draw, self.results = served, draw, Results()
        _, _, description = served.ask("GET", "/api/openapi.json")
        self.builder = Builder(json.loads(description), draw)

    def run(self, tries: int) -> Results:
        for data in files.pretending():
            self._photograph(data)
        self._alive("after the photographs")
        for turn in range(tries):
            self.served.reset()
            with wires.connected(self.served.devices):
                self.builder.numbers = self._numbers()
                for method, path, operation in self.builder.operations():
                    self._route(method, path, operation)
            for _ in range(_EACH_TURN):
                for work in (self._photograph, self._table, self._head, self._device):
                    work()
            self._alive(f"turn {turn}")
        return self.results

    def _numbers(self) -> dict[str, list[int]]:
        """What there is that is called by a number."""

        def told(path: str) -> Any:
            return json.loads(self.served.ask("GET", path)[2])

        rack, stores = told("/api/rack"), told("/api/stores")
        wheels, families = ([one["id"] for one in rack[kind]] for kind in ("wheels", "families"))
        cutters = [one["id"] for kind in stores["sets"] for one in kind["cutters"]]
        numbers = [*cutters, *(one["id"] for one in stores["bars"]), *(d["number"] for d in told("/api/devices"))]
        jobs, changes = ([one["id"] for one in told(f"/api/{kind}")] for kind in ("jobs", "changes"))
        return {
            "wheel": wheels, "ids": wheels, "id": wheels, "family": families, "number": numbers or [1], "job": jobs,
            "change": changes,
        }  # fmt: skip

    def _route(self, method: str, path: str, operation: Any) -> None:
        if path == "/api/shop/demo":
            return
        self.builder.next(path)
        known = self.builder.parameters(operation, "path")
        for name, value in known.items():
            path = path.replace(f"{{{name}}}", quote(_text(value), safe="", errors="surrogatepass"))
        params = {name: _each(value) for name, value in self.builder.parameters(operation, "query").items()}
        kind, value = self.builder.body(operation)
        body = None
        if kind.startswith(("image/", "text/")):
            body = _text(value).encode("utf-8", "surrogatepass")
        elif kind:
            body = json.dumps(value).encode()
        query = urlencode(params, doseq=True, errors="surrogatepass")
        self._sent(operation["operationId"], method, f"{path}?{query}", body, kind)

    def _photograph(self, data: bytes | None = None) -> None:
        data = files.photograph(self.draw) if data is None else data
        wheel = self.draw.choice((1, 2, 3, 999))
        self._sent("photographs", "POST", f"/api/rack/photos?wheel={wheel}", data, "image/jpeg")

    def _table(self) -> None:
        query = f"put={self.draw.choice(('true', 'false'))}&same={self.draw.choice(('add', 'skip', 'replace'))}"
        self._sent("tables", "POST", f"/api/rack/wheels.csv?{query}", files.table(self.draw), "text/csv")

    def _head(self) -> None:
        sent = wires.head(self.draw)
        heard = wires.talk(self.served.port, sent)
        first = heard.partition(b"\r\n")[0]
        self.results.answers[f"head {first[9:12].decode('latin-1') or 'closed'}"] += 1
        if b" 500 " in first or (heard and not first.startswith(b"HTTP/1.1 ")):
            self.results.wrong.append(f"{sent[:_SHOWN]!r} was answered {heard[:_SHOWN]!r}")

    def _device(self) -> None:
        heard = wires.talk(self.served.devices, wires.lines(self.draw), self._devices)
        self.results.answers["device"] += 1
        for line in heard.splitlines():
            with suppress(ValueError):
                if isinstance(json.loads(line), dict):
                    continue
            self.results.wrong.append(f"a device was answered {line[:_SHOWN]!r}")

    def _devices(self) -> None:
        """What is connected can be looked at, whatever it says of itself."""
        for route, path in (("devices", "/api/devices"), ("line", "/api/devices/line")):
            self._sent(route, "GET", path, None, "")

    def _sent(self, route: str, method: str, path: str, body: bytes | None, kind: str) -> None:
        begun = time.perf_counter()
        request = f"{method} {path[:_SHOWN]} {body[:_SHOWN] if body else ''!r}"
        try:
            status, content_type, answer = self.served.ask(method, path, body, kind)
        except (OSError, HTTPException) as error:
            self.results.wrong.append(f"{request}: {error!r}")
            return
        took = time.perf_counter() - begun
        self.results.took(route, took)
        self.results.answers[f"{status // 100}xx"] += 1
        if status >= 500 or not _sense(status, content_type, answer):
            self.results.wrong.append(f"{request}: {status} {content_type} {answer[:_SHOWN]!r}")

    def _alive(self, when: str) -> None:
        log = self.served.log.read_text(errors="replace")
        if "Traceback" in log or "Exception" in log:
            self.results.wrong.append(f"{when}: in the log {log[-2000:]}")
        if len(log) > _MOST_LOG:
            self.results.wrong.append(f"{when}: a log of {len(log)} bytes")
        self.results.memory = self.served.most_memory()
        if self.results.memory > _MOST_MEMORY:
            self.results.wrong.append(f"{when}: {self.results.memory} kB of memory")
        if self.served.process.poll() is not None or self.served.ask("GET", "/api/machines")[0] != 200:
            raise SystemExit(f"{when}: it answers no more. {self.results.wrong[-3:]}")


def _text(value: Any) -> str:
    return value if isinstance(value, str) else json.dumps(value)


def _each(value: Any) -> list[str]:
    return [_text(one) for one in value] if isinstance(value, list) else [_text(value)]


def _sense(status: int, content_type: str, answer: bytes) -> bool:
    """Whether an answer is what its head says; a refusal has a sentence."""
    if content_type == "application/problem+json":
        problem = json.loads(answer)
        return bool(problem["title"] and problem["detail"])
    if content_type == "application/json":
        json.loads(answer)
    return status < 400


def run(tries: int, seed: int, say: Callable[[str], None] = print) -> Results:
    """This many tries of every way in, and what came of it."""
    with tempfile.TemporaryDirectory() as folder:
        served = Served(Path(folder))
        try:
            result = Fuzz(served, random.Random(seed)).run(tries)
        finally:
            served.process.terminate()
            served.process.wait(30)
    if served.process.returncode not in (0, -15):
        result.wrong.append(f"it ended with {served.process.returncode}")
    say(
        f"seed {seed}: {sum(result.answers.values())} tries: "
        + ", ".join(f"{n} {k}" for k, n in sorted(result.answers.items()))
    )
    slowest = sorted(result.slowest.items(), key=lambda one: -one[1])[:5]
    say(
        "slowest: "
        + ", ".join(f"{route} {seconds:.2f} s" for route, seconds in slowest)
        + f"; {result.memory / 1000:.0f} MB"
    )
    for one in result.wrong:
        say(f"WRONG {one}")
    return result


if __name__ == "__main__":
    tries, seed = (*map(int, sys.argv[1:]), *(40, random.randrange(10**6))[len(sys.argv) - 1 :])
    sys.exit(bool(run(tries, seed).wrong))
