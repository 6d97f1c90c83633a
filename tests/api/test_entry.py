"""Who may come in from the network."""

import asyncio
import re
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from starlette.requests import Request
from starlette.types import Message

from tests.loops import in_a_loop
from tests.served import serve
from valleywind.api import app as application
from valleywind.api.app import make_app, use_shop
from valleywind.api.doors import WORKS_OUT, until
from valleywind.api.guard import Hosts
from valleywind.app.entry import Entry, Guest
from valleywind.core.refusal import Refusal
from valleywind.shop.store import Store

WORDS = "four plain words here"
SHOP = "http://shop.local"


@pytest.fixture(scope="module")
def closed(tmp_path_factory: pytest.TempPathFactory) -> FastAPI:
    """An application on the network, whose routes take long to be built."""
    from valleywind.shop.store import open_store

    store = open_store(tmp_path_factory.mktemp("closed") / "none.sqlite")
    return make_app(store, hosts=Hosts({"shop.local"}), closed=True, address="http://192.0.2.1:8340")


@pytest.fixture
def door(closed: FastAPI, store: Store, demo: TestClient) -> Entry:  # noqa: ARG001  the demo shop
    use_shop(closed, store, demo=True)
    entry: Entry = closed.state.entry
    entry.set_passphrase(WORDS)
    return entry


@pytest.fixture
def outside(closed: FastAPI, door: Entry) -> Iterator[TestClient]:  # noqa: ARG001
    with TestClient(closed, base_url=SHOP, follow_redirects=False) as client:
        yield client


def sign_in(client: TestClient, passphrase: str = WORDS, **more: str) -> Any:
    return client.post("/sign-in", data={"passphrase": passphrase, **more})


def routes(app: FastAPI) -> Iterator[tuple[str, str]]:
    """Every method and path of the API, with something for each part of the path."""
    for path, methods in app.openapi()["paths"].items():
        filled = re.sub(r"\{(\w+)\}", lambda m: "plover" if m[1] == "machine" else "1", path)
        yield from ((method.upper(), filled) for method in methods)


def test_nothing_answers_before_one_is_signed_in(outside: TestClient, closed: FastAPI) -> None:
    for method, path in routes(closed):
        answer = outside.request(method, path)
        assert (answer.status_code, answer.json()["title"]) == (401, "Not signed in"), f"{method} {path}"
    for path in ("/api/openapi.json", "/api/docs", "/assets/index.js", "/api/nothing", "/api/events"):
        assert outside.get(path).status_code == 401, path
    page = outside.get("/lathe/plover?ask=M14x2", headers={"accept": "text/html"})
    assert (page.status_code, page.headers["location"]) == (303, "/sign-in?next=%2Flathe%2Fplover%3Fask%3DM14x2")
    shown = outside.get(page.headers["location"])
    assert shown.status_code == 200
    assert 'value="/lathe/plover?ask=M14x2"' in shown.text
    assert "<script" not in shown.text


def test_with_the_passphrase_one_comes_in_and_goes_on(outside: TestClient) -> None:
    wrong = sign_in(outside, "four plain words", next="/rack")
    assert (wrong.status_code, "set-cookie" in wrong.headers) == (401, False)
    assert "That is not the passphrase." in wrong.text
    right = sign_in(outside, next="/rack?show=all", name="tablet <b>")
    assert (right.status_code, right.headers["location"]) == (303, "/rack?show=all")
    cookie = right.headers["set-cookie"]
    assert {"HttpOnly", "SameSite=strict", "Path=/", "Max-Age=2592000"} <= set(cookie.split("; "))
    assert "Secure" not in cookie
    assert outside.get("/api/shop").json()["demo"]
    assert outside.put("/api/machines/plover/mounted", json={"train": None, "levers": None}).status_code != 401
    (guest,) = outside.get("/api/entry").json()["guests"]
    assert (guest["name"], guest["here"], guest["looks_only"]) == ("tablet <b>", True, False)


def test_under_tls_the_cookie_goes_nowhere_else(closed: FastAPI, door: Entry) -> None:  # noqa: ARG001
    client = TestClient(closed, base_url="https://shop.local", follow_redirects=False)
    assert "Secure" in sign_in(client).headers["set-cookie"].split("; ")


@pytest.mark.parametrize(
    "onward",
    [
        "//evil.example/",
        "https://evil.example",
        "/\\evil.example", "\\\\evil", "/sign-in?next=/", "javascript:1", "/a\r\nX: 1"],
)  # fmt: skip
def test_one_is_led_nowhere_else(outside: TestClient, onward: str) -> None:
    assert sign_in(outside, next=onward).headers["location"] == "/"


def test_a_cookie_is_ours_or_nothing(outside: TestClient, door: Entry) -> None:
    sign_in(outside)
    name, good = door.cookie, outside.cookies[door.cookie]
    held, signature = good.rsplit(".", 1)
    other = Entry(door.store)
    for bad in (
        "",
        held,
        f"{held}.{'A' if signature[0] != 'A' else 'B'}{signature[1:]}",
        f"{held}x.{signature}",
        f"x.{signature}",
        "é",
        "a.b.c",
        "." * 3000,
    ):
        assert door.guest(bad) is None, bad
    assert other.guest(good) is not None, "after a start it is known still"
    # A cookie that was laid into the browser before is not taken over: the guest gets one of its own.
    outside.cookies.clear()
    outside.cookies.set(name, "mine.mine")
    cookie = sign_in(outside).headers["set-cookie"]
    assert "mine" not in cookie
    assert cookie.split(";")[0].split("=", 1)[1] != good


def test_a_page_of_another_site_signs_nobody_in(outside: TestClient) -> None:
    answer = outside.post("/sign-in", data={"passphrase": WORDS}, headers={"origin": "http://evil.example"})
    assert answer.status_code == 403
    assert outside.get("/sign-in", headers={"host": "evil.example"}).status_code == 403


def test_whoever_guesses_has_to_wait_and_others_do_not(door: Entry) -> None:
    now = [1_000_000.0]
    door.clock = lambda: now[0]
    for _ in range(5):
        assert door.sign_in("wrong wrong", "192.0.2.7", "") is None
    with pytest.raises(Refusal, match="wait_before_next_try") as refused:
        door.sign_in(WORDS, "192.0.2.7", "")
    first = int(str(refused.value.quantities["seconds"]))
    assert door.sign_in(WORDS, "192.0.2.8", "") is not None
    now[0] += first
    assert door.sign_in("wrong again", "192.0.2.7", "") is None
    with pytest.raises(Refusal) as refused:
        door.take_up("x", "192.0.2.7", "")
    assert int(str(refused.value.quantities["seconds"])) > first
    # One household of IPv6 is one address, and one of IPv4 written so as well.
    for n in range(5):
        door.sign_in("wrong", f"2001:db8::{n + 1}", "")
    with pytest.raises(Refusal):
        door.sign_in(WORDS, "2001:db8::77", "")
    with pytest.raises(Refusal):
        door.sign_in(WORDS, "::ffff:192.0.2.7", "")
    assert door.sign_in(WORDS, "2001:db8:0:1::1", "") is not None
    now[0] += 900
    assert door.sign_in(WORDS, "192.0.2.7", "") is not None


def test_too_many_tries_are_said_on_the_page(outside: TestClient) -> None:
    for _ in range(5):
        assert sign_in(outside, "wrong wrong").status_code == 401
    answer = sign_in(outside)
    assert answer.status_code == 429
    assert re.fullmatch(r"\d+", answer.headers["retry-after"])
    assert "That was wrong too often." in answer.text


def test_the_memory_of_wrong_tries_has_a_bound(door: Entry, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(door, "_verified", lambda _: False)
    for n in range(2500):
        door.sign_in("wrong", f"10.{n // 250}.{n % 250}.1", "")
    assert len(door._tries) <= 2000


def test_an_invitation_lets_one_browser_in_once(outside: TestClient) -> None:
    sign_in(outside)
    made = outside.post("/api/entry/invitations", json={"looks_only": False, "onward": "/jobs/1/session"}).json()
    assert made["address"].startswith(f"{SHOP}/sign-in?code=")
    assert set("".join(made["modules"])) == {"0", "1"}
    assert len({len(made["modules"]), *map(len, made["modules"])}) == 1
    way = made["address"].removeprefix(SHOP)
    code = re.search(r"code=([^&]+)", way)[1]  # type: ignore[index]
    # Looking at the page, as a messenger's preview does, uses nothing up; nor does one who is signed in.
    assert outside.get(way).headers["location"] == "/jobs/1/session"
    outside.cookies.clear()
    for _ in range(2):
        assert code in outside.get(way).text
    used = outside.post("/sign-in", data={"code": code, "next": "/jobs/1/session", "name": ""})
    assert (used.status_code, used.headers["location"]) == (303, "/jobs/1/session")
    outside.cookies.clear()
    again = outside.post("/sign-in", data={"code": code, "next": "/"})
    assert (again.status_code, "set-cookie" in again.headers) == (401, False)
    assert "used already" in again.text
    assert 'type="password"' in again.text, "the passphrase may be typed in its place"


def test_an_invitation_ends_after_ten_minutes_and_there_are_few(door: Entry) -> None:
    now = [1_000_000.0]
    door.clock = lambda: now[0]
    code, late = door.invite(False), door.invite(False)
    now[0] += 599
    assert door.take_up(code, "192.0.2.7", "") is not None
    now[0] += 2
    assert door.take_up(late, "192.0.2.7", "") is None
    codes = [door.invite(False) for _ in range(30)]
    assert len(door._invited) <= 20
    assert door.take_up(codes[-1], "192.0.2.7", "") is not None


def test_who_only_looks_changes_nothing(outside: TestClient, closed: FastAPI, door: Entry) -> None:
    code = door.invite(looks_only=True)
    outside.post("/sign-in", data={"code": code})
    assert outside.get("/api/lathes/plover/plan?ask=M14x2").status_code == 200
    for method, path in routes(closed):
        if method == "GET" or path in WORKS_OUT:
            continue
        answer = outside.request(method, path, json={})
        assert (answer.status_code, answer.json()["title"]) == (403, "Looks only"), f"{method} {path}"
    assert outside.post("/api/machine-plates/read", json={}).status_code == 422


def test_what_a_looker_may_send_writes_nothing() -> None:
    writing = {
        f"/api{route.path}"
        for router in application._routers()
        for route in router.routes
        if isinstance(route, APIRoute) and application._writes(route.dependant)
    }
    assert writing
    assert not writing & WORKS_OUT


def test_guests_are_signed_out_one_by_one_or_all(closed: FastAPI, door: Entry, outside: TestClient) -> None:
    sign_in(outside, name="tablet")
    other = TestClient(closed, base_url=SHOP, follow_redirects=False)
    sign_in(other, name="telephone")
    guests = {g["name"]: g for g in outside.get("/api/entry").json()["guests"]}
    assert set(guests) == {"tablet", "telephone"}
    assert outside.post("/api/entry/end", json={"keys": [guests["telephone"]["key"]]}).status_code == 200
    assert other.get("/api/shop").status_code == 401
    assert outside.get("/api/shop").status_code == 200
    assert outside.post("/api/entry/sign-out").status_code == 200
    assert outside.get("/api/shop").status_code == 401
    assert door.guests == []
    assert Entry(door.store).guests == [], "nor after a start"


def test_after_thirty_days_one_signs_in_anew(door: Entry) -> None:
    now = [1_000_000.0]
    door.clock = lambda: now[0]
    cookie = door.sign_in(WORDS, "192.0.2.7", "")
    assert cookie is not None
    now[0] += 30 * 86400 - 1
    assert isinstance(door.guest(cookie), Guest)
    now[0] += 2
    assert door.guest(cookie) is None


def test_the_guests_have_a_bound(door: Entry) -> None:
    cookies = [door._add("", False) for _ in range(205)]
    assert len(door.guests) == 200
    assert door.guest(cookies[-1]) is not None


def test_another_passphrase_signs_everybody_out(outside: TestClient, door: Entry) -> None:
    sign_in(outside)
    wrong = outside.put("/api/entry/passphrase", json={"current": "not this one", "passphrase": "another one"})
    assert wrong.json()["errors"][0] | {"value": ""} == wrong.json()["errors"][0]
    assert wrong.json()["errors"][0]["code"] == "wrong_passphrase"
    short = outside.put("/api/entry/passphrase", json={"current": WORDS, "passphrase": "short"})
    assert short.json()["errors"][0]["code"] == "passphrase_too_short"
    gone = outside.put("/api/entry/passphrase", json={"current": WORDS, "passphrase": ""})
    assert gone.json()["errors"][0]["code"] == "passphrase_needed"
    assert outside.get("/api/shop").status_code == 200
    assert outside.put("/api/entry/passphrase", json={"current": WORDS, "passphrase": "another one"}).status_code == 200
    assert outside.get("/api/shop").status_code == 401
    assert sign_in(outside).status_code == 401
    assert sign_in(outside, "another one").status_code == 303
    for text in (WORDS, "another one"):
        assert text.encode() not in door.store.path.read_bytes()


def test_on_this_machine_alone_nobody_is_asked(demo: TestClient) -> None:
    assert demo.get("/api/entry").json() == {"asks": False, "has_passphrase": False, "address": "", "guests": []}
    invitation = demo.post("/api/entry/invitations", json={"looks_only": False}).json()
    assert invitation["errors"][0]["code"] == "no_invitation_needed"
    assert demo.get("/api/entry/code?path=/rack").json()["errors"][0]["code"] == "not_on_the_network"
    assert demo.put("/api/entry/passphrase", json={"passphrase": WORDS}).json()["has_passphrase"]
    assert demo.get("/api/shop").status_code == 200
    assert not demo.put("/api/entry/passphrase", json={"current": WORDS, "passphrase": ""}).json()["has_passphrase"]


def test_a_code_of_a_page_names_where_others_reach_it(outside: TestClient) -> None:
    sign_in(outside)
    assert outside.get("/api/entry/code?path=/rack").json()["address"] == f"{SHOP}/rack"
    here = outside.get("/api/entry/code?path=/rack", headers={"host": "localhost:8340"})
    assert here.json()["address"] == "http://192.0.2.1:8340/rack"
    assert outside.get("/api/entry/code?path=//evil.example").status_code == 422


def test_a_caller_who_is_gone_is_noticed_at_the_door() -> None:
    """Work that nobody waits for any more stops, on the network too."""

    async def gone() -> Message:
        return {"type": "http.disconnect"}

    async def silent() -> Message:
        await asyncio.sleep(60)
        raise AssertionError("waited")

    async def look() -> list[bool]:
        waits = [until(gone, lambda: False), until(silent, lambda: False), until(silent, lambda: True)]
        return [await Request({"type": "http"}, one).is_disconnected() for one in waits]

    assert in_a_loop(look()) == [True, False, True]


def test_the_stream_of_one_who_is_signed_out_ends(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("VALLEYWIND_PASSPHRASE", WORDS)
    process, address = serve(tmp_path, "--demo", "--host", "0.0.0.0", ready_only=True)
    try:
        port = address.rsplit(":", 1)[1]
        client = Browser(f"http://127.0.0.1:{port}")
        client.sign_in(WORDS)
        ended = threading.Event()

        def hear() -> None:
            with client.open("/api/events") as stream:
                while stream.read(1):
                    pass
            ended.set()

        threading.Thread(target=hear, daemon=True).start()
        time.sleep(0.5)
        assert not ended.is_set()
        client.send("/api/entry/sign-out")
        assert ended.wait(30)
    finally:
        process.terminate()
        process.wait(30)


class Browser:
    """A browser, as far as it is needed here."""

    def __init__(self, address: str) -> None:
        self.address, self.cookie = address, ""

    def open(self, path: str, data: bytes | None = None) -> Any:
        request = urllib.request.Request(self.address + path, data, {"Cookie": self.cookie})
        return urllib.request.build_opener(_Stay).open(request, timeout=60)

    def sign_in(self, passphrase: str) -> None:
        answer = self.open("/sign-in", f"passphrase={passphrase.replace(' ', '+')}".encode())
        self.cookie = answer.headers["set-cookie"].split(";")[0]

    def send(self, path: str) -> None:
        self.open(path, b"").close()


class _Stay(urllib.request.HTTPRedirectHandler):
    def http_error_303(self, req: Any, fp: Any, code: int, msg: str, headers: Any) -> Any:  # noqa: ARG002
        return fp


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("--host", "0.0.0.0"), "On a network the shop asks for a passphrase, and none is set."),
        (("--behind", "https://shop.example"), "On a network the shop asks for a passphrase"),
        (("--behind", "shop.example"), "Say where the proxy is reached"),
        (("--certificate", "c.pem"), "A certificate needs its key"),
        (("--certificate", "no.pem", "--key", "no.pem"), "The certificate cannot be used"),
    ],
)
def test_a_start_that_cannot_be_says_why_and_leaves_nothing(tmp_path: Path, words: tuple[str, ...], says: str) -> None:
    program = str(Path(sys.executable).with_name("valleywind"))
    folder = tmp_path / "shop"
    command = [program, "serve", "--data", str(folder), "--port", "0", *words]
    ended = subprocess.run(command, input="", capture_output=True, text=True, timeout=120, check=False)
    assert (ended.returncode, folder.exists()) == (2, False), ended.stderr
    assert says in ended.stderr
    assert "Traceback" not in ended.stderr


def test_the_passphrase_is_set_and_taken_back_at_the_terminal(tmp_path: Path) -> None:
    from valleywind.shop.store import open_store

    program = str(Path(sys.executable).with_name("valleywind"))

    def passphrase(typed: str, *words: str) -> tuple[int, str]:
        command = [program, "passphrase", "--data", str(tmp_path), *words]
        ended = subprocess.run(command, input=typed, capture_output=True, text=True, timeout=120, check=False)
        return ended.returncode, ended.stdout + ended.stderr

    assert passphrase("short\n") == (2, "That passphrase is too short. Take 8 characters or more: a few words.\n")
    assert passphrase(f"{WORDS}\n") == (0, "The passphrase is set. Every device has to sign in with it.\n")
    store = open_store(tmp_path / "shop.sqlite")
    assert Entry(store).sign_in(WORDS, "192.0.2.7", "") is not None
    store.engine.dispose()
    assert passphrase("", "--remove") == (0, "The passphrase is taken back.\n")
    store = open_store(tmp_path / "shop.sqlite")
    assert not Entry(store).has_passphrase
    store.engine.dispose()
