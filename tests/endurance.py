"""Kill the server again and again in the middle of cutting sessions: `make endurance`, or with fewer kills as a test.

An encoder that never tires tells each finished move once, with a key of its own, and again with the same key where no
answer came. At the end every step that was acknowledged must be on record, in its order, and none twice.
"""

import json
import os
import random
import signal
import socket
import sys
import tempfile
import time
from contextlib import suppress
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from typing import Any

import uvicorn
from fastapi import FastAPI
from fastapi.testclient import TestClient

from valleywind.api.app import make_app
from valleywind.core.making.session import Kind
from valleywind.demo import harrowfold
from valleywind.shop import cutting as cut_there
from valleywind.shop.store import open_store

# A life of the server, s: from so short that nothing is answered to some twenty steps.
_SHORTEST, _LONGEST = 0.0, 0.25


def serve(app: FastAPI, path: Path, port: int) -> int:
    """A server in a process of its own, on the shop file opened anew; its number."""
    child = os.fork()
    if child:
        return child
    try:
        app.state.store = open_store(path)
        uvicorn.run(app, host="127.0.0.1", port=port, log_level="critical", lifespan="off")
    finally:
        os._exit(0)


def ask(port: int, method: str, path: str, body: Any = None) -> tuple[int, Any]:
    """One request; raises OSError or HTTPException where the server died meanwhile."""
    connection = HTTPConnection("127.0.0.1", port, timeout=5)
    try:
        sent = json.dumps(body) if body is not None else None
        connection.request(method, path, sent, {"Content-Type": "application/json"} if sent else {})
        answer = connection.getresponse()
        return answer.status, json.loads(answer.read() or b"null")
    finally:
        connection.close()


def run(kills: int, seed: int) -> dict[str, Any]:
    """What came of so many kills: steps acknowledged, recorded, lost, doubled or out of their order."""
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
        # Acknowledged keys of each job, in order; the step under way is told until it is answered.
        acked: dict[int, list[str]] = {}
        job, told, killed, begun = 1, 0, 0, time.perf_counter()
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        while killed < kills:
            server = serve(app, path, port)
            _up(port)
            until = time.perf_counter() + draw.uniform(_SHORTEST, _LONGEST)
            while time.perf_counter() < until:
                try:
                    job, told = _step(port, job, told, acked)
                except (OSError, HTTPException):
                    break
            # The kill falls at any moment, with a request under way as often as not.
            _under_way(port, job, told, draw)
            os.kill(server, signal.SIGKILL)
            os.waitpid(server, 0)
            killed += 1
        return _counted(path, acked, killed, time.perf_counter() - begun)


def _up(port: int) -> None:
    while True:
        with suppress(OSError), socket.create_connection(("127.0.0.1", port), 0.2):
            return
        time.sleep(0.005)


def _step(port: int, job: int, told: int, acked: dict[int, list[str]]) -> tuple[int, int]:
    """The encoder says that a move is complete; where all is cut the next job is begun."""
    status, now = ask(port, "GET", f"/api/jobs/{job}/session")
    if status == 200 and now["finished"]:
        _, made = ask(port, "POST", "/api/jobs", {"ask": "make 57 for Plover"})
        job, told = made["id"], 0
        status = 404
    if status != 200:
        ask(port, "POST", f"/api/jobs/{job}/session")
        return job, told
    body = _body(job, told, now["must_count"], now["divisions"])
    status, _ = ask(port, "POST", f"/api/jobs/{job}/session/events", body)
    if status == 200:
        acked.setdefault(job, []).append(body["key"])
        return job, told + 1
    return job, told


def _body(job: int, told: int, count: bool, divisions: int) -> dict[str, Any]:
    body: dict[str, Any] = {"key": f"encoder-{job}-{told}", "kind": "counted" if count else "done", "by": "encoder"}
    return body | ({"count": divisions} if count else {})


def _under_way(port: int, job: int, told: int, draw: random.Random) -> None:
    """Send the step that is next and do not wait for its answer."""
    if draw.random() < 0.3:
        return
    body = json.dumps(_body(job, told, False, 57)).encode()
    head = (
        f"POST /api/jobs/{job}/session/events HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nContent-Type: application/json\r\n"
    )
    with suppress(OSError), socket.create_connection(("127.0.0.1", port), 1) as wire:
        wire.sendall(head.encode() + f"Content-Length: {len(body)}\r\n\r\n".encode() + body)
        time.sleep(draw.uniform(0, 0.012))


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
            assert stands.state.at == sum(e.kind == Kind.DONE for e in stands.known)
            assert all(Kind(e.kind) in (Kind.DONE, Kind.COUNTED) for e in known)
    store.engine.dispose()
    return {
        "kills": killed, "acknowledged": sum(map(len, acked.values())), "recorded": recorded, "lost": lost,
        "doubled": doubled, "out_of_order": disordered, "seconds": round(took, 1),
    }  # fmt: skip


if __name__ == "__main__":
    print(
        json.dumps(run(int(sys.argv[1]) if len(sys.argv) > 1 else 1000, int(sys.argv[2]) if len(sys.argv) > 2 else 57))
    )
