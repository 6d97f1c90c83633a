"""Kill the server again and again in the middle of cutting sessions: `make endurance`, or with fewer kills as a test.

An encoder that never tires tells each finished move once, with a key of its own, and again with the same key where no
answer came. At the end every step that was acknowledged must be on record, in its order, and none twice.
"""

import gc
import json
import os
import random
import signal
import socket
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from http.client import HTTPConnection
from pathlib import Path
from typing import Any

import uvicorn
from fastapi import FastAPI
from fastapi.testclient import TestClient

from valleywind.api.app import make_app
from valleywind.core.making.session import EventKind
from valleywind.demo import harrowfold
from valleywind.shop import cutting as cut_there
from valleywind.shop.store import open_store

# Steps that are acknowledged in one life of the server at most; it may be killed before the first.
_LONGEST = 20
# So often it is tried whether a new server is there.
_TRIES = 12_000


def started(path: Path, port: int) -> int:
    """The program begun anew, as people begin it; its number."""
    program = str(Path(sys.executable).with_name("valleywind"))
    words = [program, "serve", "--data", str(path), "--port", str(port)]
    return subprocess.Popen(words, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL).pid


def forked(app: FastAPI, config: uvicorn.Config, path: Path) -> int:
    """A server in a process of its own, on the shop file opened anew; its number. Much quicker than `started`."""
    child = os.fork()
    if child:
        return child
    try:
        app.state.store = open_store(path)
        uvicorn.Server(config).run()
    finally:
        os._exit(0)


def ask(port: int, method: str, path: str, body: Any = None) -> tuple[int, Any]:
    """One request: status and answer."""
    connection = HTTPConnection("127.0.0.1", port, timeout=60)
    try:
        sent = json.dumps(body) if body is not None else None
        connection.request(method, path, sent, {"Content-Type": "application/json"} if sent else {})
        answer = connection.getresponse()
        return answer.status, json.loads(answer.read() or b"null")
    finally:
        connection.close()


class Encoder:
    """Tells each finished move once, and again with the same key where no answer came."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.job, self.messages = 1, 0
        # Acknowledged keys of each job, in order.
        self.acked: dict[int, list[str]] = {}
        # What was sent last without waiting for the answer: it is sent again, the same with the same key.
        self.under_way_then: dict[str, Any] | None = None
        # Where the session stands, as the server now running told it.
        self.now: dict[str, Any] | None = None
        # What the last step took, s.
        self.took = 0.01

    def step(self) -> None:
        """A move is complete; where all is cut the next job is begun."""
        begun = time.perf_counter()
        if self.now is None:
            status, self.now = ask(self.port, "GET", f"/api/jobs/{self.job}/session")
            if status != 200:
                self._begin()
        assert self.now is not None
        if self.now["finished"]:
            _, made = ask(self.port, "POST", "/api/jobs", {"ask": "make 57 for Plover"})
            self.job, self.messages, self.under_way_then = made["id"], 0, None
            self._begin()
        path = f"/api/jobs/{self.job}/session/events"
        body = self.under_way_then or self._body(self.now)
        status, self.now = ask(self.port, "POST", path, body)
        if status == 422 and self.under_way_then:
            # It came too early: nothing was recorded, and what is to be told is another thing now.
            _, self.now = ask(self.port, "GET", f"/api/jobs/{self.job}/session")
            assert self.now is not None
            body = self._body(self.now)
            status, self.now = ask(self.port, "POST", path, body)
        assert status == 200, self.now
        self.under_way_then = None
        self.acked.setdefault(self.job, []).append(body["key"])
        self.messages += 1
        self.took = time.perf_counter() - begun

    def under_way(self, draw: random.Random) -> None:
        """Send the step that is next and do not wait for its answer, but for part of what a step takes."""
        if draw.random() < 0.3:
            return
        self.under_way_then = self._body({})
        body = json.dumps(self.under_way_then).encode()
        head = (
            f"POST /api/jobs/{self.job}/session/events HTTP/1.1\r\n"
            f"Host: 127.0.0.1:{self.port}\r\nContent-Type: application/json\r\n"
        )
        with suppress(OSError), socket.create_connection(("127.0.0.1", self.port), 1) as wire:
            wire.sendall(head.encode() + f"Content-Length: {len(body)}\r\n\r\n".encode() + body)
            time.sleep(draw.uniform(0, self.took))

    def _begin(self) -> None:
        _, self.now = ask(self.port, "POST", f"/api/jobs/{self.job}/session")

    def _body(self, now: dict[str, Any]) -> dict[str, Any]:
        """What comes next where the session stands so: a step, or what it waits for."""
        about: dict[str, Any] = {"kind": "done"}
        if now.get("must_count"):
            about = {"kind": "counted", "count": now["divisions"]}
        elif now.get("must_measure"):
            about = {"kind": "measured", "reason": "no tool at hand"}
        return {"key": f"encoder-{self.job}-{self.messages}", "by": "encoder", **about}


def run(kills: int, seed: int, longest: int = _LONGEST, fresh: bool = False) -> dict[str, Any]:
    """What came of this many kills, each after up to `longest` steps: how many steps were acknowledged and recorded,
    how many lost, doubled or out of their order. fresh: every life begins with an interpreter of its own."""
    draw = random.Random(seed)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        store = open_store(path)
        with store.session() as session:
            harrowfold.load(session)
        # The routes are built once, by a first request; each life of the server opens the file for itself.
        app = make_app(store, demo=True)
        with TestClient(app, base_url="http://127.0.0.1") as client:
            client.get("/api/jobs/1/session")
        store.engine.dispose()
        begun = time.perf_counter()
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        config = uvicorn.Config(app, host="127.0.0.1", port=port, log_config=None, lifespan="off")
        config.load()
        # What is there now is left alone by every life, so that its memory is not copied.
        gc.freeze()
        encoder = Encoder(port)
        for _ in range(kills):
            server = started(path, port) if fresh else forked(app, config, path)
            try:
                _up(port)
                encoder.now = None
                for _ in range(draw.randint(0, longest)):
                    encoder.step()
                # The kill falls at any moment, with a request under way as often as not.
                encoder.under_way(draw)
            finally:
                os.kill(server, signal.SIGKILL)
                os.waitpid(server, 0)
        return _counted(path, encoder.acked, kills, time.perf_counter() - begun)


def _up(port: int) -> None:
    for _ in range(_TRIES):
        with suppress(OSError), socket.create_connection(("127.0.0.1", port), 0.2):
            return
        time.sleep(0.005)
    raise TimeoutError(f"nothing answers on port {port}")


def _counted(path: Path, acked: dict[int, list[str]], killed: int, took: float) -> dict[str, Any]:
    store = open_store(path)
    lost = doubled = disordered = recorded = 0
    with store.reading() as session:
        for number, keys in acked.items():
            stands = cut_there.standing(session, cut_there.cutting(session, number))
            known = [e for e in stands.known if e.by == "encoder"]
            there = [e.key for e in known]
            recorded += len(there)
            lost += len(set(keys) - set(there))
            doubled += len(there) - len(set(there))
            disordered += [k for k in there if k in set(keys)] != list(dict.fromkeys(keys))
            # Replayed, the session stands where its steps say.
            assert stands.state.at == sum(e.kind == EventKind.DONE for e in stands.known)
            assert {EventKind(e.kind) for e in known} <= {EventKind.DONE, EventKind.COUNTED, EventKind.MEASURED}
    store.engine.dispose()
    return {
        "kills": killed, "acknowledged": sum(map(len, acked.values())), "recorded": recorded, "lost": lost,
        "doubled": doubled, "out_of_order": disordered, "seconds": round(took, 1),
    }  # fmt: skip


if __name__ == "__main__":
    kills, longest = (*map(int, sys.argv[1:]), *(1000, _LONGEST)[len(sys.argv) - 1 :])
    print(json.dumps(run(kills, 57, longest)))
    print(json.dumps({"fresh": True} | run(max(2, kills // 50), 58, longest, fresh=True)))
