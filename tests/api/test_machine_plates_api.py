"""Plates of machines: read, kept, put into the record, compared with the wheels."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api.undoing import undo
from tests.commands import run
from valleywind.core.plate.text import MOST_TEXT

TEN_TPI = "20 tpi 30 60\n10 tpi 60 60\n16 tpi 30 48\n8 tpi 60 48"


def plate(client: TestClient, machine: str) -> Any:
    return client.get(f"/api/machine-plates/{machine}").json()


def fields(client: TestClient, machine: str, of: str = "lathe-records") -> Any:
    return client.get(f"/api/{of}/{machine}").json()


def test_the_demos_plates_say_what_is_wrong_with_them(demo: TestClient) -> None:
    dunlin = plate(demo, "dunlin")["plate"]
    wrong = [line for line in dunlin["lines"] if line["standing"] == "wrong"]
    assert [line["changes"] for line in wrong] == [[{"text": "52 tpi for 54 tpi", "line": "52 32 64 G 3"}]]
    assert sum(line["standing"] == "approximate" for line in dunlin["lines"]) == 7
    assert dunlin["lacking"] == "63"
    assert not [line for line in plate(demo, "curlew")["plate"]["lines"] if line["standing"] != "agrees"]
    avocet = plate(demo, "avocet")["plate"]
    assert [line["says"] for line in avocet["lines"] if line["standing"] == "wrong"] == [
        "Agrees with the others with the 58 and the 42 exchanged."
    ]
    assert "Only two lines agree. A third one would confirm them." in plate(demo, "wren")["plate"]["open"]
    assert demo.get("/api/machine-plates/grebe").json()["errors"][0]["code"] == "no_plates"


def test_a_plate_is_kept_as_typed_beside_the_record_and_undone(demo: TestClient) -> None:
    typed = TEN_TPI + "\n\n  5 tpi  60/30 "
    saved = demo.put("/api/machine-plates/plover", json={"lines": typed, "seen": ""})
    assert saved.json()["lines"] == typed
    record = fields(demo, "plover")
    assert demo.put("/api/lathe-records/plover", json=record).status_code == 200
    assert plate(demo, "plover")["lines"] == typed
    stale = demo.put("/api/machine-plates/plover", json={"lines": "x 1 2", "seen": ""})
    assert stale.status_code == 409
    refused = demo.put("/api/machine-plates/plover", json={"lines": "hello", "seen": typed}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("lines", "no_plate_lines")
    emptied = demo.put("/api/machine-plates/plover", json={"lines": "", "seen": typed})
    assert emptied.json()["plate"] is None
    assert undo(demo, emptied) == []
    assert plate(demo, "plover")["lines"] == typed
    assert (
        demo.post("/api/machine-plates/read", json={"kind": "lathe", "lines": "x" * (MOST_TEXT + 1)}).status_code == 422
    )


def test_a_plate_goes_into_the_record_and_its_wheels_into_the_box(demo: TestClient) -> None:
    """What the record knows beside it stays; one undo takes all of it back."""
    before = fields(demo, "wren")
    demo.put("/api/machine-plates/wren", json={"lines": TEN_TPI})
    held = demo.get("/api/machines/wren/wheels").json()["held"]
    done = demo.post("/api/machine-plates/wren/record", json={"choice": 1, "wheels": True})
    after = fields(demo, "wren")
    assert (after["screw"], after["first"], done.json()["screw"]) == ("5 tpi", "1/2", "5 tpi")
    assert demo.get("/api/machines/wren/wheels").json()["held"] == "20 25 30 35 40x2 45 48 50 55 60x2 65 70 80"
    assert {k for k in after if after[k] != before[k]} == {"screw", "first", "version", "wheels"}
    assert undo(demo, done) == []
    assert fields(demo, "wren")["screw"] == before["screw"]
    assert demo.get("/api/machines/wren/wheels").json()["held"] == held
    gone = demo.post("/api/machine-plates/wren/record", json={"choice": 99}).json()["errors"][0]
    assert gone["code"] == "no_such_choice"


def test_trains_of_the_plate_bound_a_quadrant_that_is_not_measured(demo: TestClient) -> None:
    demo.put("/api/machine-plates/wren", json={"lines": "20 tpi 20 45 50\n16 tpi 20 40/45 36\n10 tpi 40 55 50"})
    demo.post("/api/machine-plates/wren/record", json={})
    assert fields(demo, "wren")["goes_on"] == "20/45/50, 20/40*45/36, 40/55/50"


def test_a_record_that_gives_what_the_plate_does_keeps_its_own_names(demo: TestClient) -> None:
    """Dunlin's steps have names of their own, and one of them is in use; Avocet's reversing pair is on record."""
    for machine, of in (("dunlin", "lathe-records"), ("avocet", "machine-records")):
        before = fields(demo, machine, of)
        assert demo.post(f"/api/machine-plates/{machine}/record", json={}).status_code == 200
        after = fields(demo, machine, of)
        assert {k for k in after if after[k] != before[k]} <= {"version"}


@pytest.mark.parametrize(
    ("kind", "lines", "of", "sentences"),
    [
        ("lathe", TEN_TPI, "lathe-records", {"screw": "10 tpi", "first": "1"}),
        ("lathe", "8 tpi 40 40 A\n16 tpi 20 40 A\n4 tpi 40 40 B\n8 tpi 20 40 B", "lathe-records",
         {"screw": "8 tpi", "box": "A=1, B=2"}),
        ("hobber", "31: 24/31\n37 24/37\n97 48/97\n101 48/101\nfeed 0.5 mm 40/60", "machine-records",
         {"index": "24, 48 from 97", "feed": "0.75 mm"}),
        ("mill", "360 mm 48/48\n180 48/24\n90 1:2 48/24\n180 1:2 24/24", "machine-records",
         {"screw": "6 mm", "pairs": "1:2"}),
    ],
)  # fmt: skip
def test_a_machine_is_added_from_its_plate(
    empty: TestClient, kind: str, lines: str, of: str, sentences: dict[str, str]
) -> None:
    query = {"kind": kind, "name": "Linnet", "lines": lines, "wheels": True}
    done = empty.post("/api/machine-plates", json=query)
    made = done.json()
    assert (made["slug"], made["kind"]) == ("linnet", kind)
    record = fields(empty, "linnet", of)
    known = record if kind == "lathe" else record[kind]
    assert {k: known[k] for k in sentences} == sentences
    assert empty.get("/api/machines/linnet/wheels").json()["held"]
    assert plate(empty, "linnet")["lines"] == lines
    assert undo(empty, done) == []
    assert empty.get("/api/machines").json() == []
    nameless = empty.post("/api/machine-plates", json=query | {"name": " "}).json()["errors"][0]
    assert (nameless["field"], nameless["code"]) == ("name", "empty")


def test_what_the_wheels_can_do_stands_beside_the_plate(demo: TestClient) -> None:
    lines = {one["number"]: one for one in demo.get("/api/machine-plates/dunlin/trains").json()}
    assert lines[2]["says"] in ("the same", "as good")
    # The misprint is judged by what should stand there; metric lines can be exact with the locked pair.
    assert lines[24]["says"] == "the same"
    assert lines[35]["says"] == "better: exact"


def test_trains_of_the_plate_are_marked_in_lists(demo: TestClient) -> None:
    listed = demo.get("/api/lathes/curlew/plan", params={"ask": "1.5 mm"}).json()["candidates"]
    assert {c["text"] for c in listed if c["on_plate"]} == {"80/40 with 33 between"}
    demo.put("/api/machine-plates/avocet", json={"lines": "37: 48/37 40/80\n45: 48/45 40/80"})
    listed = demo.get("/api/hobbers/avocet/plan", params={"ask": "hob 37"}).json()["candidates"]
    assert [c["on_plate"] for c in listed][:2] == [True, False]
    listed = demo.get("/api/lathes/plover/plan", params={"ask": "M14x2"}).json()["candidates"]
    assert not any(c["on_plate"] for c in listed)


def test_the_pocket_command(tmp_path: Any) -> None:
    file = tmp_path / "lines.txt"
    file.write_text("8 tpi 40/40\n10 tpi 40/50\n12 tpi 40/60\n16 tpi 40/80\n20 tpi 20/50\n26 tpi 20/65\n14 tpi 40/71\n")
    done = run("plate", str(file), "--json")
    assert done.returncode == 0
    assert '"constant_mm": 3.175' in done.stdout
    assert '"lathes": [{"screw": "8 tpi", "first_ratio": "1"}' in done.stdout
    assert '"wrong": [{"line": 7, "instead": {"wheel": 71, "by": 70}, "or": []}]' in done.stdout
    assert "Agrees with the others with 70 for 71." in run("plate", str(file)).stdout
    missing = run("plate", str(tmp_path / "none.txt"))
    assert (missing.returncode, missing.stdout) == (2, "")
    assert "cannot be read" in missing.stderr
    file.write_bytes(b"\xff\xfe\x00")
    assert run("plate", str(file)).returncode == 2


def test_a_hobbers_table_stands_beside_what_its_wheels_can_do(demo: TestClient) -> None:
    lines = {one["number"]: one for one in demo.get("/api/machine-plates/avocet/trains").json()}
    wrong = [line for line in plate(demo, "avocet")["plate"]["lines"] if line["standing"] == "wrong"]
    assert wrong
    assert {lines[line["number"]]["says"] for line in wrong} == {"exact; the plate is wrong"}
    others = {one["says"] for number, one in lines.items() if number not in {line["number"] for line in wrong}}
    assert others == {"the same", "as good"}, "a count is indexed exactly, by the table and by the wheels held"


def test_a_mills_leads_stand_beside_what_its_wheels_can_do(demo: TestClient) -> None:
    # Heron: 6 mm × 60 = 360 mm for equal wheels. The third line is an approximation of 301 mm.
    table = "720 mm 1:2 40/40\n480 mm 1:2 60/40\n301 mm 1:2 72/28 52/56"
    assert demo.put("/api/machine-plates/heron", json={"lines": table}).status_code == 200
    first, second, third = demo.get("/api/machine-plates/heron/trains").json()
    assert first["train"].endswith("pair 1 : 2")
    assert {first["says"], second["says"]} <= {"the same", "as good"}
    assert third["says"].startswith("better: 0.0")


def test_nothing_stands_beside_where_the_record_lacks_what_trains_need(empty: TestClient) -> None:
    made = {"kind": "hobber", "name": "Linnet", "lines": "37: 24/37\n48: 24/48", "choice": 0, "wheels": True}
    assert empty.post("/api/machine-plates", json=made).status_code == 200
    assert [one["says"] for one in empty.get("/api/machine-plates/linnet/trains").json()] == ["the same", "the same"]
    empty.put("/api/machines/linnet/wheels", json={"wheels": "20"})
    says = {one["says"] for one in empty.get("/api/machine-plates/linnet/trains").json()}
    assert all(one.startswith(("needs", "none")) for one in says)


def test_a_record_that_is_saved_keeps_the_plate(demo: TestClient) -> None:
    lines = plate(demo, "avocet")["lines"]
    record = demo.get("/api/machine-records/avocet").json()
    assert demo.put("/api/machine-records/avocet", json={**record, "note": "looked at"}).status_code == 200
    assert plate(demo, "avocet")["lines"] == lines != ""


def test_the_same_screw_without_its_positions_gets_them(demo: TestClient) -> None:
    """The record has the screw and the first shaft of the plate already, but not what its levers do."""
    named = {"name": "Linnet", "screw": "8 tpi", "wheels": "20 30 40 50 60 75"}
    assert demo.post("/api/lathe-records", json=named).status_code == 200
    lines = "8 tpi 40/40 A\n16 tpi 30/60 A\n20 tpi 30/75 A\n16 tpi 40/40 B\n32 tpi 30/60 B\n40 tpi 30/75 B"
    shown = demo.put("/api/machine-plates/linnet", json={"lines": lines}).json()["plate"]
    facts = [{fact["label"]: fact["text"] for fact in choice["facts"]} for choice in shown["choices"]]
    same = next(n for n, one in enumerate(facts) if "8 tpi" in one.values() and "1" in one.values())
    assert demo.post("/api/machine-plates/linnet/record", json={"choice": same, "wheels": False}).status_code == 200
    record = demo.get("/api/lathe-records/linnet").json()
    assert (record["screw"], record["first"]) == ("8 tpi", "1")
    assert "B=1/2" in record["box"]
