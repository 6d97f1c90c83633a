"""The log of the shop: only ever added to, searched, corrected with a reason."""

from io import BytesIO
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image
from pypdf import PdfReader

from valleywind.formats import shop_file
from valleywind.shop import log
from valleywind.shop.log import LogFilter
from valleywind.shop.models import LogKind, LogRow
from valleywind.shop.store import Store

TRAIN = "76/66*32/78"


def entries(client: TestClient, **wanted: Any) -> list[dict[str, Any]]:
    answer = client.get("/api/log", params=wanted)
    assert answer.status_code == 200, answer.text
    result: list[dict[str, Any]] = answer.json()
    return result


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
    answer = demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json()
    last = answer["entries"]
    assert [(one["kind"], one["outcome"]) for one in last] == [("done", "ran_free"), ("change", None)]
    assert last[0]["text"] == "Done: M14x2 on Plover, with 76/66 × 32/78: ran free. Spacer on the stud."
    assert last[0]["by"] == "hw"
    assert demo.get("/api/log/last", params={"machine": "plover", "ask": "M18"}).json()["entries"] == []


def test_a_wrong_entry_is_struck_through_and_stays(demo: TestClient) -> None:
    wrong = done(demo, outcome="scrapped")
    address = f"/api/log/{wrong['id']}/correction"
    assert demo.post(address, json={"reason": " "}).status_code == 422
    demo.post(address, json={"reason": "it was the other one", "by": "hw"}).raise_for_status()
    struck = entries(demo)[0]
    assert struck["id"] == wrong["id"]
    assert struck["correction"]["reason"] == "it was the other one"
    assert demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json()["entries"] == []
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
    assert [one["kind"] for one in entries(demo, teeth=66)] == ["done", "change"]
    assert entries(demo, teeth=67) == []
    assert [one["ask"] for one in entries(demo, outcome="tight")] == ["1/2 BSW"]
    assert {one["machine"] for one in entries(demo, machine="curlew")} == {"Curlew"}
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
        before = [(e.row.id, e.row.at, e.row.note) for e in log.entries(session, LogFilter(), 1000)]
    demo.delete("/api/machine-records/curlew").raise_for_status()
    with store.reading() as session:
        after = [(e.row.id, e.row.at, e.row.note) for e in log.entries(session, LogFilter(), 1000)]
    assert after[-len(before) :] == before
    assert entries(demo, text="curlew", kind="done")[0]["slug"] is None


def check(client: TestClient, measured: str, turns: str = "10", **more: Any) -> dict[str, Any]:
    query = {"ask": "M14x2", "train": TRAIN, "measured": measured, "turns": turns, **more}
    answer = client.post("/api/lathes/plover/check", params=query)
    assert answer.status_code == 200, answer.text
    reply: dict[str, Any] = answer.json()
    return reply


def test_a_check_is_kept_with_its_figures_and_the_slip(demo: TestClient) -> None:
    assert check(demo, "20.02", by="R")["agrees"]
    read = check(demo, "15.08")
    query = {"ask": "M14x2", "train": TRAIN, "measured": "15.08", "turns": "10"}
    # Only looked at, it is the same and leaves no entry.
    assert demo.get("/api/lathes/plover/check", params=query).json() == read
    wrong, right = entries(demo, kind="check")
    assert right["text"] == (
        "M14x2 on Plover, with 76/66 × 32/78: 20.020 mm over 10 turns, 19.999 mm wanted. It agrees."
    )
    assert right["by"] == "R"
    slip = read["slips"][0]["text"]
    assert wrong["text"].endswith(f"It does not agree: {slip[0].lower()}{slip[1:]}")
    assert right["may_correct"]


def test_checks_at_hobber_and_mill_are_kept_too(demo: TestClient) -> None:
    plan = demo.get("/api/hobbers/avocet/plan", params={"ask": "hob 37"}).json()
    query = {"ask": "hob 37", "train": plan["first"]["train"], "measured": "37", "kind": "marks"}
    assert demo.post("/api/hobbers/avocet/check", params=query).json()["agrees"]
    plan = demo.get("/api/mills/heron/plan", params={"ask": "helix 24 m2 30° left"}).json()
    query = {"ask": "helix 24 m2 30° left", "train": plan["first"]["train"], "measured": "100", "over": "100 mm"}
    assert not demo.post("/api/mills/heron/check", params=query).json()["agrees"]
    mill, hobber = entries(demo, kind="check")
    assert "37 marks, 37 wanted. It agrees." in hobber["text"]
    assert (hobber["slug"], hobber["station"]) == ("avocet", "hobber")
    assert "index" in hobber["train_text"]
    assert "100° over 100.0 mm" in mill["text"]
    last = demo.get("/api/log/last", params={"machine": "avocet", "ask": hobber["ask"]}).json()
    assert last["as_then"]["train"] == hobber["train"]


@pytest.mark.parametrize(
    ("place", "typed"), [("hobbers/avocet", "HOB  37"), ("mills/heron", "helix 24 M2 30 deg left")]
)
def test_what_is_put_on_is_found_however_its_ask_was_typed(demo: TestClient, place: str, typed: str) -> None:
    plan = demo.get(f"/api/{place}/plan", params={"ask": typed}).json()
    line, train = plan["ask"]["canonical"], plan["candidates"][2]["train"]
    assert line != typed
    demo.put(f"/api/{place}/mounted", json={"train": train, "ask": typed}).raise_for_status()
    last = demo.get("/api/log/last", params={"machine": place.split("/")[1], "ask": line}).json()
    assert last["as_then"]["train"] == train


def test_what_is_undone_was_not_put_on(demo: TestClient) -> None:
    bare = demo.get("/api/log/today").json()["machines"][0]
    assert (bare["slug"], bare["since"]) == ("plover", "")
    put_on(demo)
    first = entries(demo)[0]
    put_on(demo, "36/64*32/78", "26 tpi")
    today = demo.get("/api/log/today").json()["machines"][0]
    assert (today["ask"], today["train"]) == ("26 tpi", "36/64*32/78")
    change = demo.get("/api/changes").json()[0]["id"]
    undone = demo.post(f"/api/changes/{change}/undo").json()
    today = demo.get("/api/log/today").json()["machines"][0]
    assert (today["ask"], today["train"], today["since"]) == ("M14x2", TRAIN, first["at"])
    struck = next(one for one in entries(demo) if one["ask"] == "26 tpi")
    assert struck["correction"]["reason"] == "undone"
    assert demo.get("/api/log/last", params={"machine": "plover", "ask": "26 tpi"}).json()["entries"] == []
    # Done again, it is on again.
    change = demo.get("/api/changes").json()[0]["id"]
    demo.post(f"/api/changes/{change}/undo").raise_for_status()
    assert undone is not None
    today = demo.get("/api/log/today").json()["machines"][0]
    assert (today["ask"], today["train"]) == ("26 tpi", "36/64*32/78")
    used = {(s["ask"], s["times"]) for s in demo.get("/api/log/book/plover").json()["set_ups"]}
    assert used == {("M14x2", 1), ("26 tpi", 1)}


def test_what_was_changed_since_is_told(demo: TestClient) -> None:
    put_on(demo)
    wheels = demo.get("/api/rack").json()["wheels"]
    of = {w["teeth"]: w for w in wheels if w["machine"] == "plover"}
    edit = {"ids": [of[66]["id"]], "version": of[66]["version"], "note": "a tooth is chipped"}
    answer = demo.patch("/api/rack/wheels", json=edit)
    assert answer.status_code == 200, answer.text
    other = {"ids": [of[24]["id"]], "version": of[24]["version"], "note": "cleaned"}
    demo.patch("/api/rack/wheels", json=other).raise_for_status()
    for machine in ("curlew", "plover"):
        record = demo.get(f"/api/lathe-records/{machine}").json()
        demo.put(f"/api/lathe-records/{machine}", json=record | {"note": "looked over"}).raise_for_status()
    then = demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json()["as_then"]
    assert then["text"] == "76/66 × 32/78"
    # Neither another wheel nor another machine has to do with it.
    assert [change["text"] for change in then["changed"]] == [
        "Changed the record of Plover.",
        "Changed in the rack: 66.",
    ]
    assert then["lacking"] is None


def test_readings_of_a_worn_screw_stand_together_and_are_taken_over(demo: TestClient) -> None:
    """The screw of the record is 6 tpi; the readings say 0.05 % more."""
    for off in (0.049, 0.051, 0.05, 0.047, 0.053):
        check(demo, f"{99.994 * (1 + off / 100):.3f}", "50", method="micrometer")
    slipped = check(demo, "27.39")
    assert not slipped["agrees"]
    book = demo.get("/api/log/book/plover").json()
    assert book["ppm"] == pytest.approx(500, abs=20)
    assert book["says"].startswith("Over 5 checks the lead is ")
    assert "a worn screw" in book["says"]
    assert [r["left_out"] for r in book["readings"]] == [False] * 5 + [True]
    assert book["screw"] == "4.2354 mm"
    assert demo.post("/api/log/book/plover/screw").status_code == 200
    assert next(m for m in demo.get("/api/machines").json() if m["slug"] == "plover")["screw"] == "4.2354 mm"
    # By the record as it is now they are as they should be.
    after = demo.get("/api/log/book/plover").json()
    assert after["ppm"] == pytest.approx(0, abs=20)
    assert after["screw"] is None
    refused = demo.post("/api/log/book/plover/screw").json()["errors"][0]
    assert refused["code"] == "readings_say_nothing"
    assert demo.post("/api/log/book/avocet/screw").status_code == 422


def test_a_struck_reading_counts_no_more(demo: TestClient) -> None:
    for _ in range(3):
        check(demo, "20.02")
    one = entries(demo, kind="check")[0]
    demo.post(f"/api/log/{one['id']}/correction", json={"reason": "read the other rule"}).raise_for_status()
    book = demo.get("/api/log/book/plover").json()
    assert [r["left_out"] for r in book["readings"]] == [False, False, True]
    assert book["ppm"] is None
    assert book["says"].startswith("3 checks so far: too few")


def test_set_ups_are_pinned_and_let_go(demo: TestClient) -> None:
    body = {"machine": "plover", "ask": "M14x2", "train": TRAIN}
    for _ in range(2):
        demo.post("/api/log/pins", json=body).raise_for_status()
    [pin] = demo.get("/api/log/today").json()["pins"]
    assert (pin["machine"], pin["text"], pin["station"]) == ("Plover", "76/66 × 32/78", "lathe")
    put_on(demo)
    put_on(demo, "36/64*32/78", "26 tpi")
    set_ups = demo.get("/api/log/book/plover").json()["set_ups"]
    assert [(s["ask"], s["pin"] is None, s["times"]) for s in set_ups] == [("M14x2", False, 1), ("26 tpi", True, 1)]
    demo.delete(f"/api/log/pins/{pin['id']}").raise_for_status()
    assert demo.get("/api/log/today").json()["pins"] == []
    assert demo.delete(f"/api/log/pins/{pin['id']}").status_code == 404
    change = demo.get("/api/changes").json()[0]["id"]
    demo.post(f"/api/changes/{change}/undo").raise_for_status()
    assert len(demo.get("/api/log/today").json()["pins"]) == 1
    for n in range(19):
        demo.post("/api/log/pins", json={**body, "ask": f"M{n + 20}"}).raise_for_status()
    assert demo.post("/api/log/pins", json={**body, "ask": "M99"}).json()["errors"][0]["code"] == "too_many_pins"


def test_days_are_chosen_and_jobs_stand_in_it(demo: TestClient) -> None:
    job = demo.post("/api/jobs", json={"ask": "make 63 for Plover"}).json()
    number = job["id"]
    demo.put(f"/api/jobs/{number}/results", json={"step": "face", "figure": "", "done": True}).raise_for_status()
    [result] = entries(demo, job=number)
    assert result["text"] == "Wheel of 63, face: done."
    day = result["at"][:10]
    assert entries(demo, since=day, until=day)
    assert entries(demo, until="2020-01-01") == []
    assert entries(demo, since="2999-01-01") == []
    assert demo.get("/api/log", params={"since": "yesterday"}).status_code == 422


def test_wheels_of_the_same_count_are_told_with_what_was_found(demo: TestClient) -> None:
    [before] = demo.get("/api/jobs/before", params={"teeth": 57}).json()
    assert before["divided"] == "1 turn and 1 space on the 19, on Heron"
    assert {fact["label"]: fact["text"] for fact in before["figures"]}["Outside"] == "124.85 mm"
    assert demo.get("/api/jobs/before", params={"teeth": 57, "but": before["id"]}).json() == []
    demo.post("/api/jobs", json={"ask": "make 57 for Plover"}).raise_for_status()
    newest, older = demo.get("/api/jobs/before", params={"teeth": 57}).json()
    assert (newest["divided"], newest["figures"]) == ("", [])
    assert older["id"] == before["id"]


def picture(side: int = 40) -> bytes:
    made = BytesIO()
    Image.new("RGB", (side, side), (120, 90, 40)).save(made, "JPEG")
    return made.getvalue()


def test_a_photograph_stands_in_the_log_and_with_last_time(demo: TestClient) -> None:
    about = {"machine": "plover", "ask": "M14x2", "note": "the flanks", "by": "AB"}
    answer = demo.post("/api/log/photos", params=about, content=picture(), headers={"Content-Type": "image/jpeg"})
    assert answer.status_code == 201, answer.text
    entry = answer.json()
    assert entry["text"] == "Photograph: M14x2 on Plover. the flanks"
    assert demo.get(f"/api/rack/photos/{entry['photo']}").headers["Content-Type"] == "image/jpeg"
    last = demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json()
    assert last["entries"][0]["photo"] == entry["photo"]
    assert demo.post("/api/log/photos", content=b"none", headers={"Content-Type": "image/jpeg"}).status_code == 422
    shop, photos = shop_file.read(demo.get("/api/shop/file.zip").content)
    assert entry["photo"] in photos
    assert shop.log[-1].about["photo"] == entry["photo"]


def test_the_log_is_printed_by_range(demo: TestClient) -> None:
    demo.post("/api/log/done", json={"machine": "plover", "ask": "M14x2", "outcome": "tight", "note": "flank “torn”"})
    wrong = demo.post("/api/log/notes", json={"note": "it was M16"}).json()
    demo.post(f"/api/log/{wrong['id']}/correction", json={"reason": "of another day"})
    answer = demo.get("/api/log/file.pdf", params={"machine": ""})
    assert answer.headers["Content-Type"] == "application/pdf"
    pages = [page.extract_text() for page in PdfReader(BytesIO(answer.content)).pages]
    whole = " ".join(" ".join(pages).split())
    assert "M14x2 on Plover: tight. flank “torn”" in whole
    assert "it was M16 Struck through: of another day" in whole
    assert demo.get("/api/log/file.pdf", params={"since": "2026-13-01"}).status_code == 422
    none = demo.get("/api/log/file.pdf", params={"since": "2001-01-01", "until": "2001-01-31"})
    text = PdfReader(BytesIO(none.content)).pages[0].extract_text()
    assert "0 entries from 1 January 2001 to 31 January 2001." in " ".join(text.split())
