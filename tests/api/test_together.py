"""Several clients at once: nobody's work is lost, nobody waits long, nobody is told what is not so."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import Store, open_store


def wheel(client: TestClient, teeth: int) -> dict[str, Any]:
    wheels: list[dict[str, Any]] = client.get("/api/rack").json()["wheels"]
    return next(w for w in wheels if (w["teeth"], w["machine"]) == (teeth, "plover"))


def test_eight_who_add_the_same_wheel_add_eight(demo: TestClient) -> None:
    family = demo.get("/api/rack").json()["families"][0]["id"]
    pile = {"wheels": "41", "family": family, "machine": "plover"}
    with ThreadPoolExecutor(8) as clients:
        answers = list(clients.map(lambda _: demo.post("/api/rack/wheels", json=pile).status_code, range(48)))
    assert answers == [200] * 48
    assert wheel(demo, 41)["count"] == 48


def test_two_programs_on_one_file_count_both(tmp_path: Path) -> None:
    """Without the queue of one program: the file itself keeps writers apart."""
    stores = [open_store(tmp_path / "shop.sqlite") for _ in range(2)]
    with stores[0].session() as session:
        harrowfold.load(session)
    one, other = (TestClient(make_app(store), base_url="http://127.0.0.1") for store in stores)
    with one, other, ThreadPoolExecutor(4) as threads:
        family = one.get("/api/rack").json()["families"][0]["id"]
        pile = {"wheels": "41", "family": family, "machine": "plover"}
        clients = [one, other] * 12
        answers = list(threads.map(lambda client: client.post("/api/rack/wheels", json=pile).status_code, clients))
        assert answers == [200] * 24
        assert wheel(other, 41)["count"] == 24


def test_one_name_goes_to_one_of_them(demo: TestClient) -> None:
    record = {"kind": "rotary table", "name": "Wigeon", "head": {"ratio": "90"}}
    with ThreadPoolExecutor(8) as clients:
        answers = list(clients.map(lambda _: demo.post("/api/machine-records", json=record), range(8)))
    assert sorted(a.status_code for a in answers) == [200] + [422] * 7
    assert {a.json()["errors"][0]["code"] for a in answers if a.status_code == 422} == {"name_taken"}


def test_a_record_typed_over_an_older_one_is_told_both_sides(demo: TestClient) -> None:
    first = demo.get("/api/lathe-records/plover").json()
    assert demo.put("/api/lathe-records/plover", json=first | {"note": "theirs", "screw": "8 tpi"}).status_code == 200
    stale = demo.put("/api/lathe-records/plover", json=first | {"note": "mine"})
    assert stale.status_code == 409
    answer = stale.json()
    assert answer["sides"] == [
        {"field": "note", "yours": "mine", "theirs": "theirs"},
        {"field": "screw", "yours": "6 tpi", "theirs": "8 tpi"},
    ]
    assert demo.get("/api/lathe-records/plover").json()["note"] == "theirs"
    kept = demo.put("/api/lathe-records/plover", json=first | {"note": "mine", "version": answer["versions"]["record"]})
    assert kept.status_code == 200
    assert demo.get("/api/lathe-records/plover").json()["note"] == "mine"


@pytest.mark.parametrize(
    ("path", "first", "second"),
    [
        ("/api/stores/cutters/1", {"note": "theirs"}, {"note": "mine"}),
        ("/api/stores/bars/1", {"place": "theirs"}, {"place": "mine"}),
        ("/api/machine-records/heron", {"note": "theirs"}, {"note": "mine"}),
    ],
)
def test_every_record_has_a_version(demo: TestClient, path: str, first: dict[str, str], second: dict[str, str]) -> None:
    if "stores" in path:
        every = demo.get("/api/stores").json()
        parts = every["bars"] if "bars" in path else [c for s in every["sets"] for c in s["cutters"]]
        seen = next(p["typed"] for p in parts if p["id"] == 1)
    else:
        seen = demo.get(path).json()
    assert seen["version"] == 1
    assert demo.put(path, json=seen | first).status_code == 200
    stale = demo.put(path, json=seen | second)
    assert (stale.status_code, [s["theirs"] for s in stale.json()["sides"]]) == (409, ["theirs"])


def test_wheels_trains_and_lists_are_not_overwritten_unseen(demo: TestClient) -> None:
    seen = wheel(demo, 52)
    ids = [seen["id"]]
    demo.patch("/api/rack/wheels", json={"ids": ids, "count": 5})
    stale = demo.patch("/api/rack/wheels", json={"ids": ids, "count": 2, "seen": [seen]})
    assert stale.status_code == 409
    assert stale.json()["sides"] == [{"field": "52: count", "yours": "2", "theirs": "5"}]
    # What nobody else touched is no matter of dispute, nor what both want.
    assert demo.patch("/api/rack/wheels", json={"ids": ids, "place": "shelf", "seen": [seen]}).status_code == 200
    assert demo.patch("/api/rack/wheels", json={"ids": ids, "count": 5, "seen": [seen]}).status_code == 200
    assert demo.patch("/api/rack/wheels", json={"ids": ids, "count": 2, "seen": []}).status_code == 200
    emptied = demo.patch("/api/rack/wheels", json={"ids": ids, "count": 0, "seen": [seen]})
    assert emptied.json()["sides"] == [{"field": "52: count", "yours": "0", "theirs": "2"}]
    demo.patch("/api/rack/wheels", json={"ids": ids, "count": 0})
    assert demo.patch("/api/rack/wheels", json={"ids": ids, "count": 0, "seen": [seen]}).status_code == 200
    shelf = demo.get("/api/machines/plover/wheels").json()["held"]
    demo.put("/api/machines/plover/wheels", json={"wheels": "24 32 36 64 78", "seen": shelf})
    stale = demo.put("/api/machines/plover/wheels", json={"wheels": f"{shelf} 99", "seen": shelf})
    assert (stale.status_code, stale.json()["sides"][0]["theirs"]) == (409, "24 32 36 64 78")
    demo.put("/api/machines/plover/mounted", json={"train": None, "seen": "36/64*32/78"})
    stale = demo.put("/api/machines/plover/mounted", json={"train": "24/64*32/78", "seen": "36/64*32/78"})
    assert stale.status_code == 409


def test_a_change_and_its_answer_are_one(store: Store) -> None:
    """What fails half way leaves nothing, not even a note of a change."""
    client = TestClient(make_app(store), base_url="http://127.0.0.1")
    client.post("/api/shop/demo", json={"confirm": "replace by the demo shop"})
    before = client.get("/api/rack").json(), client.get("/api/changes").json()
    pile = {"wheels": "41 98x99 98x99", "family": before[0]["families"][0]["id"], "machine": "plover"}
    assert client.post("/api/rack/wheels", json=pile).status_code == 422
    assert (client.get("/api/rack").json(), client.get("/api/changes").json()) == before
