"""What leads from a sheet on paper back to its page: a code with the address as the page was opened, and the number."""

import io

import pytest
import segno
from fastapi.testclient import TestClient
from pypdf import PdfReader

from valleywind.api.app import make_app
from valleywind.api.guard import Hosts
from valleywind.demo import harrowfold
from valleywind.shop.store import Store

TRAIN = "76/66*32/78"
SHEET = {"ask": "m14x2", "train": TRAIN}


@pytest.fixture
def reached(store: Store) -> TestClient:
    """A client of a server that others reach."""
    with store.session() as session:
        harrowfold.load(session)
    app = make_app(store, hosts=Hosts({"shop.local"}), address="http://192.0.2.1:8340")
    return TestClient(app, base_url="http://shop.local:8340")


def page(client: TestClient, place: str, **query: str) -> tuple[str, bytes]:
    answer = client.get(place, params=query)
    assert answer.status_code == 200, answer.text
    first = PdfReader(io.BytesIO(answer.content)).pages[0]
    content = first.get_contents()
    assert content is not None
    return first.extract_text(), content.get_data()


def squares(address: str) -> int:
    """Dark squares of a code, counted by the library itself."""
    return sum(map(sum, segno.make(address, error="m", micro=False).matrix))


def drawn(content: bytes) -> int:
    return content.count(b" re f")


def test_a_sheet_has_the_code_of_its_page_and_its_number(reached: TestClient) -> None:
    text, content = page(reached, "/api/lathes/plover/sheet.pdf", **SHEET)
    assert "in the log" not in text
    address = "http://shop.local:8340/lathe/plover?ask=M14x2&train=76%2F66%2A32%2F78"
    alone = TestClient(reached.app, base_url="http://127.0.0.1")
    own = "http://192.0.2.1:8340/lathe/plover?ask=M14x2&train=76%2F66%2A32%2F78"
    _, at_home = page(alone, "/api/lathes/plover/sheet.pdf", **SHEET)
    # Other rectangles of the sheet are the same in both.
    assert drawn(content) - drawn(at_home) == squares(address) - squares(own)
    assert drawn(content) > squares(address)
    reached.put("/api/machines/plover/mounted", json={"train": TRAIN, "ask": "M14x2"}).raise_for_status()
    number = reached.get("/api/log").json()[0]["id"]
    text, _ = page(reached, "/api/lathes/plover/sheet.pdf", **SHEET)
    assert f"No. {number} in the log" in text
    # Typed later, the number finds its entry.
    for typed in (f"no {number}", f"No. {number}", f"#{number}", str(number)):
        answer = [
            one for one in reached.get("/api/find", params={"text": typed}).json()["things"] if one["sort"] == "entry"
        ]
        assert answer[0]["key"] == str(number), typed
        assert "76/66 × 32/78 is on Plover, for M14x2." in answer[0]["text"]
    [entry] = reached.get("/api/log", params={"entry": number}).json()
    assert entry["ask"] == "M14x2"


def test_where_nobody_else_reaches_the_server_there_is_no_code(demo: TestClient, reached: TestClient) -> None:
    _, without = page(demo, "/api/jobs/1/sheet.pdf")
    _, with_code = page(reached, "/api/jobs/1/sheet.pdf")
    assert drawn(with_code) - drawn(without) == squares("http://shop.local:8340/jobs/1")


def test_hobber_and_mill_have_theirs(reached: TestClient) -> None:
    for place, station, ask in (
        ("hobbers/avocet", "hobber", "hob 37"),
        ("mills/heron", "mill", "helix 24 m2 30° left"),
    ):
        plan = reached.get(f"/api/{place}/plan", params={"ask": ask}).json()
        train = plan["first"]["train"]
        slug = place.split("/")[1]
        reached.put(f"/api/{place}/mounted", json={"train": train, "ask": plan["ask"]["canonical"]}).raise_for_status()
        text, content = page(reached, f"/api/{place}/sheet.pdf", ask=ask, train=train)
        assert drawn(content) > 400, (station, slug)
        if reached.get("/api/log").json()[0]["ask"]:
            assert "in the log" in text
