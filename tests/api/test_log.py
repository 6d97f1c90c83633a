"""The log of the shop: only ever added to, searched, corrected with a reason."""

from typing import Any

from fastapi.testclient import TestClient

from valleywind.shop import log
from valleywind.shop.log import Wanted
from valleywind.shop.models import LogKind, LogRow
from valleywind.shop.store import Store

TRAIN = "76/66*32/78"


def entries(client: TestClient, **wanted: Any) -> list[dict[str, Any]]:
    answer = client.get("/api/log", params=wanted)
    assert answer.status_code == 200, answer.text
    found: list[dict[str, Any]] = answer.json()
    return found


def put_on(client: TestClient, train: str | None = TRAIN, ask: str = "m14x2") -> None:
    client.put("/api/machines/plover/mounted", json={"train": train, "ask": ask}).raise_for_status()


def done(client: TestClient, **more: Any) -> dict[str, Any]:
    body = {"machine": "plover", "ask": "M14x2", "train": TRAIN, "outcome": "ran_free", **more}
    answer = client.post("/api/log/done", json=body)
    assert answer.status_code == 201, answer.text
    made: dict[str, Any] = answer.json()
    return made


def test_what_is_put_on_stands_in_the_log_with_what_for(demo: TestClient) -> None:
    put_on(demo)
    newest = entries(demo)[0]
    assert newest["text"] == "76/66 × 32/78 is on Plover, for M14x2."
    assert (newest["machine"], newest["slug"], newest["station"]) == ("Plover", "plover", "lathe")
    assert (newest["ask"], newest["train"], newest["kind"]) == ("M14x2", TRAIN, "change")
    # Undone, both stand there.
    change = demo.get("/api/changes").json()[0]["id"]
    demo.post(f"/api/changes/{change}/undo").raise_for_status()
    assert [one["text"] for one in entries(demo)[:2]] == [
        "Undone: 76/66 × 32/78 is on Plover.", "76/66 × 32/78 is on Plover, for M14x2.",
    ]  # fmt: skip


def test_last_time_is_told_for_the_same_ask_on_the_same_machine(demo: TestClient) -> None:
    put_on(demo)
    done(demo, note="Spacer on the stud.", by="hw")
    done(demo, ask="M12", outcome="tight")
    done(demo, machine="curlew", outcome="scrapped")
    last = demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json()
    assert [(one["kind"], one["outcome"]) for one in last] == [("done", "ran_free"), ("change", None)]
    assert last[0]["text"] == "Done: M14x2 on Plover, with 76/66 × 32/78: ran free. Spacer on the stud."
    assert last[0]["by"] == "hw"
    assert demo.get("/api/log/last", params={"machine": "plover", "ask": "M18"}).json() == []


def test_a_wrong_entry_is_struck_through_and_stays(demo: TestClient) -> None:
    wrong = done(demo, outcome="scrapped")
    address = f"/api/log/{wrong['id']}/correction"
    assert demo.post(address, json={"reason": " "}).status_code == 422
    demo.post(address, json={"reason": "it was the other one", "by": "hw"}).raise_for_status()
    struck = entries(demo)[0]
    assert struck["id"] == wrong["id"]
    assert struck["correction"]["reason"] == "it was the other one"
    assert demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json() == []
    again = demo.post(address, json={"reason": "no"})
    assert again.json()["errors"][0]["code"] == "corrected_already"
    put_on(demo)
    by_itself = demo.post(f"/api/log/{entries(demo)[0]['id']}/correction", json={"reason": "no"})
    assert by_itself.json()["errors"][0]["code"] == "written_by_itself"
    assert demo.post("/api/log/99999/correction", json={"reason": "no"}).status_code == 404


def test_it_is_searched_by_words_machine_kind_and_outcome(demo: TestClient) -> None:
    put_on(demo)
    done(demo, note="Spacer on the stud")
    done(demo, ask="1/2 BSW", train="", outcome="tight", machine="curlew")
    demo.post("/api/log/notes", json={"note": "Belt of Heron slips"}).raise_for_status()
    assert [one["text"] for one in entries(demo, text="belt slip")] == ["Belt of Heron slips"]
    assert [one["kind"] for one in entries(demo, text="M14x2")] == ["done", "change"]
    assert [one["ask"] for one in entries(demo, outcome="tight")] == ["1/2 BSW"]
    assert {one["machine"] for one in entries(demo, machine="Curlew")} == {"Curlew"}
    assert [one["kind"] for one in entries(demo, kind="note")] == ["note"]
    for odd in ('"', "*", "NEAR(a b)", "a OR", "')--", "ö 6×", "x" * 200):
        entries(demo, text=odd)
    table = demo.get("/api/log/file.csv").text
    assert "Belt of Heron slips" in table
    assert table.count("\r\n") >= 5


def test_what_is_typed_is_refused_at_its_field(demo: TestClient) -> None:
    assert demo.post("/api/log/notes", json={"note": ""}).json()["errors"][0]["field"] == "note"
    odd = demo.post("/api/log/done", json={"machine": "plover", "ask": "M6", "note": "a\u202eb"})
    assert odd.json()["errors"][0]["field"] == "note"
    assert demo.post("/api/log/done", json={"machine": "nobody", "ask": "M6"}).status_code == 404


def test_older_entries_come_page_by_page(demo: TestClient, store: Store) -> None:
    with store.adding() as session:
        for n in range(250):
            log.add(session, LogRow(at="2026-01-01T00:00:00+00:00", kind=LogKind.NOTE, note=f"note {n}"))
    seen: list[int] = []
    before: dict[str, int] = {}
    while page := entries(demo, kind="note", **before):
        seen += [one["id"] for one in page]
        before = {"before": page[-1]["id"]}
    assert len(seen) == 250
    assert seen == sorted(seen, reverse=True)


def test_nothing_of_it_is_changed_or_goes(demo: TestClient, store: Store) -> None:
    """A machine that is deleted leaves its name in the log."""
    done(demo, machine="curlew")
    with store.reading() as session:
        before = [(e.row.id, e.row.at, e.row.note) for e in log.entries(session, Wanted(), 1000)]
    demo.delete("/api/machines/curlew").raise_for_status()
    with store.reading() as session:
        after = [(e.row.id, e.row.at, e.row.note) for e in log.entries(session, Wanted(), 1000)]
    assert after[-len(before) :] == before
    assert entries(demo, machine="Curlew", kind="done")[0]["slug"] is None
