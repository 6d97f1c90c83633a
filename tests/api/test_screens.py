"""The built screens as they are sent."""

import gzip

import pytest
from fastapi.testclient import TestClient

from valleywind.api.screens import SCREENS

SCRIPT = max((SCREENS / "assets").glob("*.js"), key=lambda path: path.stat().st_size)


def sent(client: TestClient, coding: str) -> tuple[bytes, str | None]:
    with client.stream("GET", f"/assets/{SCRIPT.name}", headers={"Accept-Encoding": coding}) as answer:
        assert answer.status_code == 200
        assert answer.headers["content-type"].startswith(("text/javascript", "application/javascript"))
        assert "immutable" in answer.headers["cache-control"]
        return b"".join(answer.iter_raw()), answer.headers.get("content-encoding")


def test_a_script_is_sent_as_short_as_the_browser_can_take_it(demo: TestClient) -> None:
    whole = SCRIPT.read_bytes()
    assert sent(demo, "identity") == (whole, None)
    short, coding = sent(demo, "gzip, deflate")
    assert (coding, gzip.decompress(short)) == ("gzip", whole)
    shortest, coding = sent(demo, "gzip, deflate, br, zstd")
    assert coding == "br"
    assert len(shortest) < len(short) < len(whole) / 2


@pytest.mark.parametrize("path", ["/assets/none.js", "/assets/%2e%2e/index.html", "/assets/..%2f..%2fapi/app.py"])
def test_what_is_no_part_of_the_screens_is_not_sent(demo: TestClient, path: str) -> None:
    assert demo.get(path).status_code == 404


@pytest.mark.parametrize("path", ["/", "/lathe/plover", "/jobs/1/session"])
def test_every_place_is_inside_the_screens_and_asked_for_anew(demo: TestClient, path: str) -> None:
    answer = demo.get(path)
    assert answer.headers["cache-control"] == "no-cache"
    assert answer.text == (SCREENS / "index.html").read_text()
