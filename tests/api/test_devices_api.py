"""Devices over the line: an encoder cuts the demo's 57, a pedal bounces, nonsense is shown the door."""

import asyncio
import json
import os
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest

from tests.commands import run
from tests.loops import in_a_loop
from tests.served import serve
from valleywind.api.topics.devices import wire as line_of
from valleywind.core.refusal import Refusal


@pytest.fixture(scope="module")
def served(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[str, int]]:
    """The demo shop with devices listened to: its address and the port for them."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    process, address = serve(tmp_path_factory.mktemp("devices"), "--demo", "--devices", str(port))
    yield address, port
    process.terminate()
    process.wait(10)


@pytest.fixture
def lines(served: tuple[str, int]) -> tuple[str, int]:
    """The same for one test: nothing is connected, and no session is under way."""
    address, _ = served
    until(lambda: get(address, "devices") == [])
    for job in get(address, "jobs"):
        if job["cutting"] and get(address, f"jobs/{job['id']}/session")["paused"] is None:
            event = {"key": uuid4().hex, "kind": "pause", "reason": "another test"}
            post(address, f"jobs/{job['id']}/session/events", event)
    return served


def get(address: str, path: str) -> Any:
    with urllib.request.urlopen(f"{address}/api/{path}", timeout=20) as answer:
        return json.load(answer)


def put(address: str, path: str, body: Any) -> Any:
    request = urllib.request.Request(
        f"{address}/api/{path}", json.dumps(body).encode(), {"Content-Type": "application/json"}, method="PUT"
    )
    try:
        with urllib.request.urlopen(request, timeout=20) as answer:
            return json.load(answer)
    except urllib.error.HTTPError as refused:
        return json.load(refused)


def talk(port: int, *messages: Any) -> Any:
    """A device that says these lines; its wire, with what was answered to the first read off."""
    wire = socket.create_connection(("127.0.0.1", port), 5).makefile("rw", encoding="utf-8", newline="\n")
    for line in messages:
        wire.write((line if isinstance(line, str) else json.dumps(line)) + "\n")
    wire.flush()
    return wire


def say(wire: Any, *lines: Any) -> None:
    for line in lines:
        wire.write(json.dumps(line) + "\n")
    wire.flush()


def until(holds: Callable[[], bool]) -> None:
    """Wait until it holds; however slow the machine is."""
    last = time.monotonic() + 120
    while not holds():
        assert time.monotonic() < last
        time.sleep(0.02)


def test_an_encoder_cuts_tooth_after_tooth(lines: tuple[str, int]) -> None:
    address, port = lines
    job = begun(address, "make 57 for Plover", head="heron", way="simple")
    wire = talk(port, {"hello": "encoder", "name": "crank"})
    number = json.loads(wire.readline())["welcome"]
    say(wire, {"turned": 0.0})
    until(lambda: get(address, "devices")[0]["latest"] == "0.000 turns")
    assert put(address, f"devices/{number}/job", {"job": job})["job"] == job
    at = 0.0
    for tooth in (2, 3, 4):
        target = at + 20 / 19
        steps = [{"turned": at + (target - at) * n / 15} for n in range(1, 16)]
        say(wire, *steps, *[{"turned": target + bounce} for bounce in (0.003, -0.003, 0.001, *[0.0] * 12)])
        at = target
        until(lambda wanted=tooth: tooth_of(address, job) == wanted)  # type: ignore[misc]
    # Not heard in between: it advances nothing any more.
    say(wire, {"turned": None}, *[{"turned": at + 20 / 19}] * 30)
    until(lambda: "not heard" in get(address, "devices")[0]["message"])
    session = get(address, f"jobs/{job}/session")
    assert session["now"]["tooth"] == 4
    assert [h["by"] for h in session["happened"][:3]] == ["encoder"] * 3


def post(address: str, path: str, body: Any) -> Any:
    request = urllib.request.Request(
        f"{address}/api/{path}", json.dumps(body).encode(), {"Content-Type": "application/json"}, method="POST"
    )
    with urllib.request.urlopen(request, timeout=20) as answer:
        return json.load(answer)


def begun(address: str, ask: str, **changes: Any) -> int:
    """A session of a new job; its number."""
    job = post(address, "jobs", {"ask": ask})
    put(address, f"jobs/{job['id']}", job["typed"] | changes)
    post(address, f"jobs/{job['id']}/session", {})
    number: int = job["id"]
    return number


def connected(address: str, port: int, hello: Any, first: Any) -> tuple[Any, int]:
    """A device that has said where it is; its wire and number."""
    wire = talk(port, hello)
    number = json.loads(wire.readline())["welcome"]
    say(wire, first)
    until(lambda: any(d["number"] == number and d["latest"] for d in get(address, "devices")))
    return wire, number


def tooth_of(address: str, job: int) -> int:
    tooth: int = get(address, f"jobs/{job}/session")["now"]["tooth"]
    return tooth


@pytest.mark.parametrize(
    ("ask", "changes", "on", "move"),
    [
        # By differential gears the crank turns R/z as against the head, whatever it is indexed as.
        ("make 61 for Plover", {"head": "heron", "way": "differential"}, "crank", 60 / 61),
        ("make 57 for Plover", {"head": "heron", "way": "simple"}, "work", 1 / 57),
        ("make 57 for Plover", {"way": "disc"}, "work", 1 / 57),
    ],
)
def test_an_encoder_follows_every_way(
    lines: tuple[str, int], ask: str, changes: dict[str, Any], on: str, move: float
) -> None:
    address, port = lines
    job = begun(address, ask, **changes)
    wire, number = connected(address, port, {"hello": "encoder", "name": on, "on": on}, {"turned": 3.0})
    assert put(address, f"devices/{number}/job", {"job": job})["job"] == job
    for tooth in (1, 2):
        at, target = 3.0 + move * (tooth - 1), 3.0 + move * tooth
        say(wire, *[{"turned": at + (target - at) * n / 15} for n in range(1, 16)], *[{"turned": target}] * 10)
        until(lambda wanted=tooth + 1: tooth_of(address, job) == wanted)  # type: ignore[misc]
    # The button is pressed in between: what is turned then is not recorded a second time.
    post(address, f"jobs/{job}/session/events", {"key": uuid4().hex, "kind": "done"})
    at, target = 3.0 + move * 2, 3.0 + move * 3
    say(wire, *[{"turned": at + (target - at) * n / 15} for n in range(1, 16)], *[{"turned": target}] * 10)
    until(lambda: "went on without" in get(address, "devices")[0]["message"])
    assert tooth_of(address, job) == 4


def test_a_camera_over_a_disc_advances(lines: tuple[str, int]) -> None:
    address, port = lines
    wire, number = connected(address, port, {"hello": "camera"}, {"mark": 1.0})
    assert put(address, f"devices/{number}/job", {"job": 1})["errors"][0]["code"] == "no_moves"
    job = begun(address, "make 57 for Plover", way="disc")
    assert put(address, f"devices/{number}/job", {"job": job})["job"] == job
    say(wire, {"mark": 1.5}, {"mark": None}, {"mark": 2.02}, {"mark": 1.98}, *[{"mark": 2.0}] * 6)
    until(lambda: tooth_of(address, job) == 2)
    say(wire, *[{"mark": 3.4}] * 8)
    until(lambda: "Past the mark" in get(address, "devices")[0]["message"])
    assert tooth_of(address, job) == 2


def test_passes_of_one_gap_are_not_told_by_turning(lines: tuple[str, int]) -> None:
    address, port = lines
    job = begun(address, "make 57 for Plover", way="disc", order="gap_by_gap", marks=False)
    wire, number = connected(address, port, {"hello": "encoder", "on": "work"}, {"turned": 0.0})
    put(address, f"devices/{number}/job", {"job": job})
    say(wire, *[{"turned": n / 57 / 10} for n in range(11)], *[{"turned": 1 / 57}] * 10)
    until(lambda: "passes left" in get(address, "devices")[0]["message"])
    assert tooth_of(address, job) == 1


def test_a_device_that_was_overtaken_records_and_advises_nothing(lines: tuple[str, int]) -> None:
    """By encoder to tooth 5, a jump to 4, two by button: what is turned on to the old place is nothing any more."""
    address, port = lines
    job = begun(address, "make 60 for Plover", head="heron", way="simple", marks=False)
    wire, number = connected(address, port, {"hello": "encoder"}, {"turned": 0.0})
    put(address, f"devices/{number}/job", {"job": job})

    def turn(at: float) -> None:
        say(wire, *[{"turned": at + n / 15} for n in range(1, 16)], *[{"turned": at + 1}] * 10)

    def tell(kind: str, **about: Any) -> None:
        post(address, f"jobs/{job}/session/events", {"key": uuid4().hex, "kind": kind, **about})

    for tooth in range(1, 5):
        turn(tooth - 1.0)
        until(lambda wanted=tooth + 1: tooth_of(address, job) == wanted)  # type: ignore[misc]
        if tooth == 4:
            break
    tell("jump", tooth=4, number=1, reason="cut again")
    assert "Set it anew" in get(address, "devices")[0]["message"]
    tell("done")
    tell("done")
    turn(4.0)
    say(wire, *[{"turned": 5.0 - n / 10} for n in range(11)], *[{"turned": 4.0 + n / 10} for n in range(11)])
    say(wire, *[{"turned": 5.0}] * 10)
    until(lambda: get(address, "devices")[0]["latest"] == "5.000 turns")
    assert tooth_of(address, job) == 6
    assert "Set it anew" in get(address, "devices")[0]["message"]


def test_a_device_that_was_refused_says_what_to_do_and_goes_on(lines: tuple[str, int]) -> None:
    address, port = lines
    job = begun(address, "make 60 for Plover", head="heron", way="simple", marks=False)
    wire, number = connected(address, port, {"hello": "encoder"}, {"turned": 0.0})
    put(address, f"devices/{number}/job", {"job": job})
    pause = {"key": uuid4().hex, "kind": "pause", "reason": "tea"}
    post(address, f"jobs/{job}/session/events", pause)
    say(wire, *[{"turned": n / 15} for n in range(1, 16)], *[{"turned": 1.0}] * 10)
    until(lambda: get(address, "devices")[0]["message"] == "The session is paused: tea. Go on first.")
    post(address, f"jobs/{job}/session/events", {"key": uuid4().hex, "kind": "resume"})
    say(wire, *[{"turned": 1.0}] * 10)
    until(lambda: tooth_of(address, job) == 2)


def test_presses_for_one_tooth_count_once(lines: tuple[str, int]) -> None:
    address, port = lines
    job = begun(address, "make 60 for Plover", head="heron", way="simple", marks=False)
    wires = [talk(port, {"hello": "pedal", "name": name}) for name in ("left", "right")]
    for wire in wires:
        put(address, f"devices/{json.loads(wire.readline())['welcome']}/job", {"job": job})
    for wire in wires:
        say(wire, {"pressed": True}, {"pressed": False})
    until(lambda: any("Another press" in d["message"] for d in get(address, "devices")))
    assert tooth_of(address, job) == 2


def test_a_crank_on_a_table_is_followed_by_degrees_too(lines: tuple[str, int]) -> None:
    address, port = lines
    job = made_by_degrees(address)
    wire, number = connected(address, port, {"hello": "encoder"}, {"turned": 2.0})
    assert put(address, f"devices/{number}/job", {"job": job})["job"] == job
    # A rotary table of 72 : 1; 60 teeth, 6° each, 1.2 turns.
    say(wire, *[{"turned": 2.0 + 1.2 * n / 15} for n in range(1, 16)], *[{"turned": 3.2}] * 10)
    until(lambda: tooth_of(address, job) == 2)


def made_by_degrees(address: str) -> int:
    record = {"kind": "rotary table", "name": "Dotterel", "head": {"ratio": "72", "reads": "1°"}}
    post(address, "machine-records", record)
    return begun(address, "make 60 for Plover", head="dotterel", way="degrees", marks=False)


def test_a_pedal_that_bounces_counts_once(lines: tuple[str, int]) -> None:
    address, port = lines
    job = begun(address, "make 57 for Plover", head="heron", way="simple")
    wire = talk(port, {"hello": "pedal"})
    number = json.loads(wire.readline())["welcome"]
    put(address, f"devices/{number}/job", {"job": job})
    say(wire, *[{"pressed": down} for down in (True, False, True, False, True, True, False)])
    until(lambda: tooth_of(address, job) == 2)
    until(lambda: get(address, "devices")[0]["latest"] == "up")
    assert tooth_of(address, job) == 2


def test_an_indicator_tells_the_high_point(lines: tuple[str, int]) -> None:
    address, port = lines
    program = str(Path(sys.executable).with_name("valleywind"))
    played = subprocess.Popen(
        [program, "device", "indicator", "--port", str(port), "--seed", "1", "--every", "0.001", "--noise", "0.0005"],
        stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert played.stdout is not None
    while not (played.stdout.readline() or "Once").startswith("Once"):
        pass
    number = get(address, "devices")[0]["number"]
    until(lambda: abs(get(address, f"devices/{number}/once-round")["high_deg"] - 130) < 5)
    answer = get(address, f"devices/{number}/once-round")
    assert answer["total_mm"] == pytest.approx(0.06, abs=0.006)
    assert "Tap it at 1" in answer["text"]
    played.kill()
    played.wait(10)
    until(lambda: get(address, "devices") == [])


@pytest.mark.parametrize("nonsense", ["", "hello", '{"hello": "kettle"}', "[1]", "{" * 3000, "x" * 1_000_000])
def test_nonsense_is_shown_the_door_and_harms_nobody(lines: tuple[str, int], nonsense: str) -> None:
    address, port = lines
    try:
        wire = talk(port, nonsense)
        answered = wire.readline()
    except ConnectionError:
        answered = ""
    assert not answered or "refused" in answered
    assert get(address, "devices") == []
    good = talk(port, {"hello": "caliper"})
    assert "welcome" in good.readline()


@pytest.mark.parametrize(
    ("hello", "line", "says"),
    [
        ({"hello": "encoder", "name": "\ud800"}, "", "cannot be seen"),
        ({"hello": "encoder", "name": 7}, "", "cannot have that name"),
        ({"hello": "encoder", "on": "roof"}, "", "crank or on the work"),
        ({"hello": "kettle"}, "", "first what it is"),
        ({"hello": "encoder"}, '{"turned": ' + "9" * 400 + "}", "not a reading of this device"),
        ({"hello": "encoder"}, '{"turned": NaN}', "not a reading of this device"),
        ({"hello": "encoder"}, '{"turned": true}', "not a reading of this device"),
        ({"hello": "encoder"}, '{"pressed": true}', "has no “turned”"),
        ({"hello": "caliper"}, '{"figure": "29\\u202e.5"}', "cannot be seen"),
        ({"hello": "caliper"}, '{"figure": "' + "9" * 41 + '"}', "not a reading of this device"),
        ({"hello": "pedal"}, "[" * 4000, "not JSON"),
        ({"hello": "pedal"}, "x" * 5000, "too long"),
    ],
)
def test_what_is_refused_is_said(lines: tuple[str, int], hello: Any, line: str, says: str) -> None:
    address, port = lines
    wire = talk(port, hello)
    answered = json.loads(wire.readline())
    if line:
        assert "welcome" in answered
        wire.write(line + "\n")
        wire.flush()
        answered = json.loads(wire.readline())
    assert says in answered["refused"]
    assert isinstance(get(address, "devices"), list)


def test_a_flood_is_cut_off_and_others_are_heard(lines: tuple[str, int]) -> None:
    address, port = lines
    wire = talk(port, {"hello": "pedal"})
    assert "welcome" in wire.readline()
    with suppress(ConnectionError):
        wire.write('{"pressed": true}\n' * 100_000)
        wire.flush()
    with suppress(ConnectionError):  # cut off with lines on their way the sentence may be lost
        assert "200 a second" in wire.readline()
    until(lambda: get(address, "devices") == [])
    good = talk(port, {"hello": "caliper"})
    assert "welcome" in good.readline()


def test_every_other_line_is_nonsense(lines: tuple[str, int]) -> None:
    address, port = lines
    wire = talk(port, {"hello": "pedal"}, *['{"pressed": false}', "x"] * 6)
    answers = [json.loads(line) for line in wire]
    assert [next(iter(a)) for a in answers] == ["welcome", *["refused"] * 6]
    until(lambda: get(address, "devices") == [])


def test_what_is_faster_than_the_budget_waits(monkeypatch: pytest.MonkeyPatch) -> None:
    waited: list[float] = []

    async def sleep(seconds: float) -> None:
        waited.append(seconds)

    async def heard() -> int:
        monkeypatch.setattr(asyncio, "sleep", sleep)
        reader = asyncio.StreamReader()
        reader.feed_data(b"x\n" * 300)
        reader.feed_eof()
        return sum([1 async for _ in line_of.lines(reader)])

    assert in_a_loop(heard()) == 300
    assert waited[:90] == [0.0] * 90
    assert waited[-1] == pytest.approx(1.0, abs=0.3)


def test_who_never_says_what_it_is_is_let_go(monkeypatch: pytest.MonkeyPatch) -> None:
    async def heard() -> list[bytes]:
        return [line async for line in line_of.lines(asyncio.StreamReader())]

    monkeypatch.setattr(line_of, "_FIRST_LINE", 0.01)
    with pytest.raises(Refusal, match="no_hello"):
        in_a_loop(heard())


def test_what_advances_nothing_is_not_given_a_job(lines: tuple[str, int]) -> None:
    address, port = lines
    wire = talk(port, {"hello": "caliper"})
    number = json.loads(wire.readline())["welcome"]
    assert put(address, f"devices/{number}/job", {"job": 1})["errors"][0]["code"] == "advances_nothing"
    assert put(address, "devices/99/job", {"job": 1})["errors"][0]["code"] == "no_such_device"


def test_a_device_at_a_serial_port_is_passed_on(lines: tuple[str, int]) -> None:
    """A line that comes in pieces is passed on whole; what was said of nothing is not."""
    address, port = lines
    machine, program = os.openpty()
    words = ["device", "serial", os.ttyname(program), "--port", str(port)]
    bridge = subprocess.Popen([str(Path(sys.executable).with_name("valleywind")), *words])
    try:
        until(lambda: says_hello(machine) and any(listed(address) for _ in range(40)))
        assert get(address, "devices")[0]["name"] == "at the port"
    finally:
        bridge.terminate()
        bridge.wait(10)
        os.close(machine)
        os.close(program)
    until(lambda: get(address, "devices") == [])


def listed(address: str) -> bool:
    time.sleep(0.05)
    return bool(get(address, "devices"))


def says_hello(machine: int) -> bool:
    """In two pieces; again and again, for what is said before the port is open is lost."""
    for piece in (b'{"hello": "pedal", "na', b'me": "at the port"}\n'):
        os.write(machine, piece)
        time.sleep(0.05)
    return True


def test_a_serial_port_that_is_none_is_told() -> None:
    done = run("device", "serial", "/dev/no-such-port")
    assert (done.returncode, "cannot be opened" in done.stderr) == (2, True)


def test_the_package_for_serial_ports_is_named(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(sys.modules, "serial", None)
    done = run("device", "serial", "/dev/ttyUSB0")
    assert (done.returncode, "valleywind[serial]" in done.stderr) == (2, True)
