"""Labels for wheels, cutters and boxes: what stands on them, their size, their codes."""

import io

import pytest
import segno
from fastapi.testclient import TestClient
from pypdf import PdfReader

from valleywind.api.app import make_app
from valleywind.api.guard import Hosts
from valleywind.demo import harrowfold
from valleywind.shop.store import Store

MM = 72 / 25.4


@pytest.fixture
def shop(store: Store) -> TestClient:
    with store.session() as session:
        harrowfold.load(session)
    app = make_app(store, hosts=Hosts({"shop.local"}), address="http://192.0.2.1:8340")
    return TestClient(app, base_url="http://shop.local:8340")


def pdf_of(client: TestClient, **query: object) -> PdfReader:
    answer = client.get("/api/rack/labels.pdf", params=query)  # type: ignore[arg-type]
    assert answer.status_code == 200, answer.text
    return PdfReader(io.BytesIO(answer.content))


def rectangles(reader: PdfReader, page: int = 0) -> list[tuple[float, float]]:
    """Width and height of every rectangle that is only drawn round, mm."""
    content = reader.pages[page].get_contents()
    assert content is not None
    results = []
    for line in content.get_data().decode("latin-1").splitlines():
        words = line.split()
        if words[-2:] == ["re", "S"]:
            results.append((round(abs(float(words[2])) / MM, 1), round(abs(float(words[3])) / MM, 1)))
    return results


def test_a_wheel_says_its_count_pitch_and_owner_at_true_size(shop: TestClient) -> None:
    wheels = shop.get("/api/rack").json()["wheels"]
    some = [w["id"] for w in wheels if w["machine"] == "plover"][:7]
    reader = pdf_of(shop, wheels=some)
    text = reader.pages[0].extract_text()
    assert text.count("12 DP, 14.5°") == 7
    assert text.count("Plover") == 7
    assert {str(w["teeth"]) for w in wheels if w["id"] in some} <= set(text.split())
    assert rectangles(reader) == [(62.0, 29.0)] * 7
    small = pdf_of(shop, wheels=some, width="1 in", height="12 mm")
    assert rectangles(small) == [(25.4, 12.0)] * 7


def test_many_go_on_several_pages(shop: TestClient) -> None:
    wheels = [w["id"] for w in shop.get("/api/rack").json()["wheels"]][:60]
    reader = pdf_of(shop, wheels=wheels, width="90 mm", height="50 mm")
    # Two by five on a page.
    assert [len(rectangles(reader, n)) for n in range(len(reader.pages))] == [10] * 6


def test_cutters_and_boxes(shop: TestClient) -> None:
    sets = shop.get("/api/stores").json()["sets"]
    cutter = next(c["id"] for s in sets for c in s["cutters"] if c["range"].startswith("55"))
    place = shop.get("/api/rack/places").json()[0]["place"]
    text = pdf_of(shop, cutters=[cutter], places=[place]).pages[0].extract_text()
    assert "55–134" in text
    assert "12 DP, 14.5°" in text
    assert place in text
    # What lies in a box stands beneath its name.
    wheels = shop.get("/api/rack", params={"text": place}).json()["wheels"]
    in_it = {str(w["teeth"]) for w in wheels if w["place"] == place and w["count"]}
    assert in_it <= set(text.replace("×", " ").split())


def test_a_code_leads_to_the_wheel_where_others_reach_the_server(shop: TestClient, demo: TestClient) -> None:
    wheel = shop.get("/api/rack").json()["wheels"][0]["id"]
    content = pdf_of(shop, wheels=[wheel], code="true").pages[0].get_contents()
    assert content is not None
    address = f"http://shop.local:8340/rack?wheel={wheel}"
    squares = sum(map(sum, segno.make(address, error="m", micro=False).matrix))
    assert content.get_data().count(b" re f") == squares
    refused = demo.get("/api/rack/labels.pdf", params={"wheels": 1, "code": "true"}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("code", "not_on_the_network")


@pytest.mark.parametrize(
    ("query", "field", "code"),
    [
        ({"wheels": 1, "width": "5 mm"}, "width", "label_size"),
        ({"wheels": 1, "height": "400 mm"}, "height", "label_size"),
        ({"wheels": 1, "height": "tall"}, "height", "not_a_number"),
        ({}, "wheels", "no_labels"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(demo: TestClient, query: dict[str, str], field: str, code: str) -> None:
    [problem] = demo.get("/api/rack/labels.pdf", params=query).json()["errors"]
    assert (problem["field"], problem["code"]) == (field, code)
