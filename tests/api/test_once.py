"""What is sent twice because its answer was lost is done once."""

import asyncio
from typing import Any
from uuid import uuid4

import pytest
from fastapi.testclient import TestClient
from starlette.types import Message, Receive, Scope, Send

from tests.loops import in_a_loop
from valleywind.api import once
from valleywind.api.once import ONCE_HEADER, Once

KEY, OTHER = "0" * 31 + "1", "0" * 31 + "2"


def add(client: TestClient, key: str, pile: object = "57") -> Any:
    return client.post("/api/rack/wheels", json={"wheels": pile}, headers={ONCE_HEADER: key})


def held(client: TestClient) -> int:
    return sum(int(w["count"]) for w in client.get("/api/rack").json()["wheels"])


def test_sent_again_with_its_key_it_is_answered_as_before(demo: TestClient) -> None:
    before, key = held(demo), uuid4().hex
    first, again = add(demo, key), add(demo, key)
    assert first.status_code == 200, first.text
    assert held(demo) == before + 1
    assert (again.status_code, again.json()) == (first.status_code, first.json())
    assert again.headers["Valleywind-Change"] == first.headers["Valleywind-Change"]
    add(demo, uuid4().hex)
    add(demo, "no key")
    add(demo, "no key")
    assert held(demo) == before + 4


def test_what_was_refused_is_asked_again(demo: TestClient) -> None:
    before, key = held(demo), uuid4().hex
    assert add(demo, key, None).status_code == 422
    assert add(demo, key).status_code == 200
    assert held(demo) == before + 1


def through(app: Once, key: str = KEY, cookie: str = "") -> Any:
    """What one request is answered."""
    headers = [(ONCE_HEADER.lower().encode(), key.encode()), (b"cookie", cookie.encode())]
    scope: Scope = {"type": "http", "method": "POST", "path": "/", "query_string": b"", "headers": headers, "state": {}}
    sent: list[Message] = []

    async def receive() -> Message:
        return {"type": "http.request"}

    async def send(message: Message) -> None:
        sent.append(message)

    async def run() -> bytes:
        await app(scope, receive, send)
        return b"".join(m.get("body", b"") for m in sent)

    return run()


class Counts:
    """Answers how often it was asked, after everybody else had a turn; `fails` times it fails first."""

    def __init__(self, fails: int = 0) -> None:
        self.asked, self.fails = 0, fails

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:  # noqa: ARG002
        self.asked += 1
        now = self.asked
        await asyncio.sleep(0.01)
        if now <= self.fails:
            raise RuntimeError("the disk")
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"%d" % now, "more_body": True})
        await send({"type": "http.response.body", "body": b"."})


def test_while_the_first_is_on_its_way_the_second_waits_for_it() -> None:
    async def both() -> list[Any]:
        app = Once(Counts())
        return list(await asyncio.gather(through(app), through(app), through(app, OTHER), through(app, cookie="else")))

    assert in_a_loop(both()) == [b"1.", b"1.", b"2.", b"3."]


def test_where_the_first_failed_the_second_does_it() -> None:
    async def both() -> list[Any]:
        app = Once(Counts(fails=1))
        return list(await asyncio.gather(through(app), through(app), return_exceptions=True))

    failed, done = in_a_loop(both())
    assert isinstance(failed, RuntimeError)
    assert done == b"2."


def test_few_answers_are_kept_and_not_for_long(monkeypatch: pytest.MonkeyPatch) -> None:
    async def answers_to(*keys: str) -> list[Any]:
        app = Once(Counts())
        return [await through(app, key) for key in keys]

    monkeypatch.setattr(once, "_MOST", 1)
    assert in_a_loop(answers_to(KEY, KEY, OTHER, KEY)) == [b"1.", b"1.", b"2.", b"3."]
    monkeypatch.setattr(once, "_MOST", 5)
    monkeypatch.setattr(once, "_KEPT", -1.0)
    assert in_a_loop(answers_to(KEY, OTHER, KEY)) == [b"1.", b"2.", b"3."]
    monkeypatch.setattr(once, "_KEPT", 900.0)
    monkeypatch.setattr(once, "_LONGEST", 1)
    assert in_a_loop(answers_to(KEY, KEY)) == [b"1.", b"2."]
