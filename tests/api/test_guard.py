"""Who may ask, how much may be sent, and that whatever goes wrong is an answer with a sentence."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from valleywind.api.app import make_app
from valleywind.api.guard import Hosts
from valleywind.shop import rack
from valleywind.shop.store import Store

PILE = {"wheels": "40"}
CARRIED = {"content-security-policy", "x-content-type-options", "cross-origin-resource-policy", "cache-control"}


@pytest.mark.parametrize("host", ["127.0.0.1:8340", "localhost:8340", "[::1]:8340", "LOCALHOST"])
def test_this_machine_may_ask(demo: TestClient, host: str) -> None:
    assert demo.get("/api/machines", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "host", ["valley.example", "127.0.0.1.example", "10.0.0.7:8340", "", "[::1", "[", "]:80", "localhost]"]
)
def test_another_name_that_leads_here_may_not(demo: TestClient, host: str) -> None:
    answer = demo.get("/api/machines", headers={"Host": host})
    assert (answer.status_code, answer.headers["content-type"]) == (403, "application/problem+json")
    assert answer.headers.keys() >= CARRIED


@pytest.mark.parametrize("origin", ["http://[", "http://[::1", "null", "", "//", "http://valley.example"])
def test_a_page_of_another_site_may_not_write(demo: TestClient, origin: str) -> None:
    answer = demo.post("/api/jobs", json={"ask": "make 57 m1"}, headers={"Origin": origin})
    assert (answer.status_code, answer.headers["content-type"]) == (403, "application/problem+json")
    assert answer.headers.keys() >= CARRIED


def test_a_server_for_the_network_answers_to_its_addresses_alone(store: Store) -> None:
    client = TestClient(make_app(store, hosts=Hosts({"weir.local"}, any_address=True)))
    statuses = {
        host: client.get("/api/machines", headers={"Host": host}).status_code
        for host in ("10.0.0.7:8340", "[fe80::1]", "weir.local", "valley.example")
    }
    assert statuses == {"10.0.0.7:8340": 200, "[fe80::1]": 200, "weir.local": 200, "valley.example": 403}


@pytest.mark.parametrize("kind", ["application/json", "text/plain", "application/x-www-form-urlencoded"])
@pytest.mark.parametrize("origin", ["https://valley.example", "null", "http://127.0.0.1:9999"])
def test_a_page_of_another_site_changes_nothing(demo: TestClient, kind: str, origin: str) -> None:
    before = demo.get("/api/rack").json()
    headers = {"Origin": origin, "Content-Type": kind}
    for method, path in (("POST", "rack/wheels"), ("PUT", "machines/plover/wheels"), ("DELETE", "rack/wheels?wheel=1")):
        answer = demo.request(method, f"/api/{path}", headers=headers, content=b'{"wheels": "40"}')
        assert answer.status_code == 403
    assert demo.get("/api/rack").json() == before
    assert demo.post("/api/rack/wheels", headers={"Origin": "http://127.0.0.1"}, json=PILE).status_code == 200


def test_a_page_of_another_site_reads_nothing(demo: TestClient) -> None:
    embedded = {"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "no-cors"}
    assert demo.get("/api/rack/wheels.csv", headers=embedded).status_code == 403
    followed = {"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate"}
    answer = demo.get("/api/rack/wheels.csv", headers=followed)
    assert answer.status_code == 200
    assert "access-control-allow-origin" not in answer.headers
    policy = answer.headers["content-security-policy"]
    assert all(part in policy for part in ("form-action 'self'", "base-uri 'self'", "frame-ancestors 'none'"))


@pytest.mark.parametrize(
    ("path", "most", "kind"),
    [
        ("rack/wheels", 1_000_000, "application/json"),
        ("rack/wheels.csv", 5_000_000, "text/csv"),
        ("rack/photos?wheel=1", 15_000_000, "image/jpeg"),
    ],
)
def test_a_body_is_read_no_further_than_it_may_be_long(demo: TestClient, path: str, most: int, kind: str) -> None:
    read = 0

    def parts() -> Any:
        nonlocal read
        for _ in range(1000):
            read += 100_000
            yield b"x" * 100_000

    for body in (parts(), b"x" * (most + 1)):
        answer = demo.post(f"/api/{path}", content=body, headers={"Content-Type": kind})
        assert (answer.status_code, f"{most / 1e6:g} MB" in answer.json()["detail"]) == (413, True)


def broken(*_: object) -> None:
    raise ZeroDivisionError("a fault of our own")


def test_a_fault_of_our_own_is_a_sentence_with_the_same_headers(
    demo: TestClient, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    monkeypatch.setattr(rack, "families", broken)
    answer = demo.get("/api/rack")
    assert (answer.status_code, answer.headers["content-type"]) == (500, "application/problem+json")
    assert answer.json()["detail"].startswith("Something went wrong in Valleywind itself. Nothing was saved.")
    assert answer.headers.keys() >= CARRIED
    assert "a fault of our own" in caplog.text


NESTED = '{"wheels":' + "[" * 50_000 + "]" * 50_000 + "}"


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/api/rack/wheels", b'{"wheels": "40", "note": "\\ud800"}'),
        ("POST", "/api/rack/wheels", '{"wheels": "4²"}'.encode()),
        ("POST", "/api/rack/wheels", '{"wheels": "٤٠"}'.encode()),
        ("POST", "/api/rack/wheels", b'{"wheels": "40", "family": 99999999999999999999}'),
        ("POST", "/api/rack/wheels", NESTED.encode()),
        ("POST", "/api/rack/wheels", b'{"wheels": ' + b"9" * 6000 + b"}"),
        ("POST", "/api/rack/wheels", b"\xff\xfe"),
        ("PATCH", "/api/rack/wheels", b'{"ids": [1], "count": 99999999999999999999}'),
        ("PATCH", "/api/rack/wheels", b'{"ids": [1], "teeth": -99999999999999999999}'),
        ("PATCH", "/api/rack/wheels", b'{"ids": [99999999999999999999], "teeth": 40}'),
        ("POST", "/api/rack/identify", b'{"wheels": [{"teeth": 99999999999999999999, "tip_diameter": "60"}]}'),
        ("POST", "/api/rack/identify", b'{"wheels": [{"teeth": 40, "span_teeth": 9999999999, "span": "60"}]}'),
        ("POST", "/api/rack/identify", b'{"wheels": [{"teeth": 40, "mate": 999999999999, "centres": "60"}]}'),
        ("GET", "/api/wheels/sizes?ask=wheel+57&family=99999999999999999999", b""),
        ("GET", "/api/wheels/sizes?ask=wheel+%C2%B2", b""),
        ("GET", "/api/dividing/ways?ask=divide+%C2%B2", b""),
        ("GET", "/api/dividing/ways?ask=divide+%D9%A5", b""),
        ("GET", "/api/rack/sources/99999999999999999999/40", b""),
        ("GET", "/api/rack/bought/1?bore=99999999999999999999999999&face=10", b""),
        ("GET", "/api/lathes/plover/plan?ask=%ED%A0%80", b""),
        ("GET", "/api/lathes/plover/plan?ask=M%C2%B2x2", b""),
        ("GET", "/api/lathes/plover/train?ask=M14x2&train=%C2%B2/40", b""),
        ("GET", "/api/lathes/plover/check?ask=M14x2&train=76/66*32/78&measured=20&turns=99999999999999999999", b""),
        ("PUT", "/api/rack/sets/plover", '{"wheels": "²"}'.encode()),
        ("PUT", "/api/stores/cutters/99999999999999999999", b"{}"),
    ],
)
def test_strange_characters_and_numbers_are_read_or_refused(
    demo: TestClient, method: str, path: str, body: bytes
) -> None:
    answer = demo.request(method, path, content=body, headers={"Content-Type": "application/json"})
    assert answer.status_code in (400, 404, 422), answer.text
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["detail"].endswith(".")
