"""Keys of devices, and stand-ins that a page plays over the port for devices."""

import json
import socket
import sqlite3
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.commands import run
from valleywind.api.app import make_app
from valleywind.api.topics.devices import stand_ins
from valleywind.serve import Network, listen
from valleywind.shop.store import Store


@pytest.fixture
def port() -> Iterator[socket.socket]:
    with listen("127.0.0.1", 0) as listener:
        yield listener


@pytest.fixture
def keyed(store: Store, demo: TestClient, port: socket.socket) -> Iterator[TestClient]:  # noqa: ARG001  the demo shop
    """A server whose devices have to say a key."""
    app = make_app(store, demo=True, devices_at=port, device_keys=True)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client


def hello(port: socket.socket, **line: Any) -> tuple[Any, Any]:
    """A device that says hello: its wire, and what it was answered."""
    wire = socket.create_connection(port.getsockname(), 5).makefile("rw", encoding="utf-8", newline="\n")
    wire.write(json.dumps(line) + "\n")
    wire.flush()
    return wire, json.loads(wire.readline())


def until(holds: Callable[[], bool]) -> None:
    """Wait until it holds, however slow the machine is."""
    last = time.monotonic() + 30
    while not holds():
        assert time.monotonic() < last
        time.sleep(0.02)


def test_a_device_says_its_key(keyed: TestClient, port: socket.socket, tmp_path: Path) -> None:
    made = keyed.post("/api/devices/keys", json={"name": "  crank of Heron "}).json()
    assert made["name"] == "crank of Heron"
    for key in ({}, {"key": ""}, {"key": made["key"][:-1]}, {"key": 7}, {"key": None}, {"key": [made["key"]]}):
        wire, answer = hello(port, hello="pedal", **key)
        assert "no key of the shop" in answer["refused"], key
        assert wire.readline() == ""
    assert keyed.get("/api/devices").json() == []
    wire, answer = hello(port, hello="pedal", key=made["key"])
    assert answer == {"welcome": 1}
    assert [d["number"] for d in keyed.get("/api/devices").json()] == [1]
    # It is shown once, and the file does not hold it.
    assert made["key"] not in keyed.get("/api/devices/keys").text
    with sqlite3.connect(tmp_path / "shop.sqlite") as file:
        assert made["key"] not in "\n".join(file.iterdump())
    # Taken back, it lets nobody in, and who is there is cut off.
    keyed.delete(f"/api/devices/keys/{made['number']}")
    assert wire.readline() == ""
    until(lambda: keyed.get("/api/devices").json() == [])
    assert "refused" in hello(port, hello="pedal", key=made["key"])[1]


def test_a_key_has_a_name_and_there_are_not_too_many(keyed: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    for name in ("", "  ", "x" * 41, "a\u202eb"):
        assert keyed.post("/api/devices/keys", json={"name": name}).json()["errors"][0]["field"] == "name"
    monkeypatch.setattr("valleywind.app.device_keys.MOST_KEYS", 2)
    kept = [keyed.post("/api/devices/keys", json={"name": "one"}).status_code for _ in range(3)]
    assert kept == [201, 201, 422]


def test_where_the_shop_asks_for_a_passphrase_or_devices_come_from_elsewhere_a_key_is_needed() -> None:
    assert not Network().device_keys
    assert not Network(devices=8341).device_keys
    assert Network(host="0.0.0.0").device_keys
    assert Network(behind="https://shop.example").device_keys
    assert Network(devices_host="0.0.0.0").device_keys
    assert not Network(devices_host="0.0.0.0", open=True).device_keys


def test_a_played_device_says_its_key_too(keyed: TestClient, port: socket.socket) -> None:
    at = str(port.getsockname()[1])
    refused = run("device", "caliper", "29.56mm", "--wait", "0", "--port", at)
    assert refused.returncode == 2
    assert "no key of the shop" in refused.stderr
    key = keyed.post("/api/devices/keys", json={"name": "caliper"}).json()["key"]
    done = run("device", "caliper", "29.56mm", "--wait", "0", "--port", at, "--key", key)
    assert "welcome" in done.stdout


def start(client: TestClient, sort: str, **more: str) -> dict[str, Any]:
    answer = client.post("/api/devices/stand-ins", json={"sort": sort, **more})
    assert answer.status_code == 201, answer.text
    started: dict[str, Any] = answer.json()
    return started


def say(client: TestClient, started: dict[str, Any], *lines: Any) -> Any:
    spelled = [line if isinstance(line, str) else json.dumps(line) for line in lines]
    return client.post(f"/api/devices/stand-ins/{started['stand_in']}/lines", json={"lines": spelled})


def test_a_stand_in_speaks_over_the_port(keyed: TestClient) -> None:
    """Without a key of its own: its page is let in. A crank that it turns cuts the next gap."""
    crank = start(keyed, "encoder", on="crank")
    job = next(job["id"] for job in keyed.get("/api/jobs").json() if job["cutting"])
    before = keyed.get(f"/api/jobs/{job}/session").json()
    if before["paused"] is not None:
        event = {"key": "0" * 32, "kind": "resume", "seen": before["seen"]}
        keyed.post(f"/api/jobs/{job}/session/events", json=event).raise_for_status()
    say(keyed, crank, {"turned": 0})
    until(lambda: keyed.get("/api/devices").json()[0]["latest"] == "0.000 turns")
    keyed.put(f"/api/devices/{crank['number']}/job", json={"job": job}).raise_for_status()
    turns = 20 / 19
    way = [{"turned": turns * step / 20} for step in range(21)]
    assert say(keyed, crank, *way, *[way[-1]] * 8).json() == {"answers": []}
    until(lambda: keyed.get(f"/api/jobs/{job}/session").json()["cut"] == before["cut"] + 1)
    assert keyed.get("/api/devices").json()[0]["message"] == "Recorded."
    # What the port answers comes back to the page.
    answers: list[str] = []

    def refused() -> bool:
        answers.extend(say(keyed, crank).json()["answers"])
        return bool(answers)

    say(keyed, crank, "nonsense")
    until(refused)
    assert "not JSON" in answers[0]
    keyed.delete(f"/api/devices/stand-ins/{crank['stand_in']}")
    until(lambda: keyed.get("/api/devices").json() == [])
    gone = say(keyed, crank, {"turned": 2})
    assert (gone.status_code, gone.json()["errors"][0]["code"]) == (404, "no_such_stand_in")


def test_one_line_is_one_line(keyed: TestClient) -> None:
    pedal = start(keyed, "pedal")
    assert say(keyed, pedal, '{"pressed": true}\n{"pressed": false}').status_code == 422
    assert say(keyed, pedal, "x" * 5000).status_code == 422
    assert say(keyed, pedal, *["{}"] * 51).status_code == 422


def test_a_pass_serves_one_stand_in_once(keyed: TestClient, port: socket.socket) -> None:
    lent = keyed.app.state.devices.keys.lend()  # type: ignore[attr-defined]
    assert "welcome" in hello(port, hello="pedal", key=lent)[1]
    assert "refused" in hello(port, hello="pedal", key=lent)[1]


def test_stand_ins_are_few_and_go_with_their_page(keyed: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(stand_ins, "MOST_STAND_INS", 2)
    first = start(keyed, "pedal")
    start(keyed, "camera")
    refused = keyed.post("/api/devices/stand-ins", json={"sort": "pedal"})
    assert refused.json()["errors"][0]["code"] == "too_many_stand_ins"
    monkeypatch.setattr(stand_ins, "_SILENT", 0.0)
    until(lambda: keyed.get("/api/devices").json() == [])
    assert say(keyed, first).status_code == 404


def test_without_a_port_there_is_no_stand_in(demo: TestClient) -> None:
    refused = demo.post("/api/devices/stand-ins", json={"sort": "pedal"})
    assert refused.json()["errors"][0]["code"] == "no_device_port"
