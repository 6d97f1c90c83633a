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


@pytest.mark.parametrize("before", ["identity", "gzip", "br"])
@pytest.mark.parametrize("now", ["identity", "gzip", "br"])
def test_what_a_browser_has_it_is_not_sent_again(demo: TestClient, before: str, now: str) -> None:
    """Also where it was sent otherwise before: then it gets what it asks for now."""
    had = demo.get(f"/assets/{SCRIPT.name}", headers={"Accept-Encoding": before}).headers["etag"]
    again = demo.get(f"/assets/{SCRIPT.name}", headers={"Accept-Encoding": now, "If-None-Match": had})
    assert again.status_code == (304 if before == now else 200)


@pytest.mark.parametrize("path", ["/assets/none.js", "/assets/%2e%2e/index.html", "/assets/..%2f..%2fapi/app.py"])
def test_what_is_no_part_of_the_screens_is_not_sent(demo: TestClient, path: str) -> None:
    assert demo.get(path).status_code == 404


@pytest.mark.parametrize("path", ["/", "/lathe/plover", "/jobs/1/session"])
def test_every_place_is_inside_the_screens_and_asked_for_anew(demo: TestClient, path: str) -> None:
    answer = demo.get(path)
    assert answer.headers["cache-control"] == "no-cache"
    assert answer.text == (SCREENS / "index.html").read_text()
