"""Full sets and boxes, photographs, cutters, bar stock, ways to get a wheel, machines that are no lathes."""

import re
from io import BytesIO
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.api.racks import bare, rack, wheel
from tests.api.undoing import undo
from valleywind.shop.store import Store, open_store


def counts(result: list[dict[str, int]]) -> dict[int, int]:
    return {w["teeth"]: w["count"] for w in result}


def test_a_set_is_compared_with_its_makers_list(demo: TestClient) -> None:
    plover = demo.get("/api/rack/sets/plover").json()
    assert (counts(plover["missing"]), counts(plover["double"])) == ({60: 1}, {48: 1})
    listed = demo.put("/api/rack/sets/curlew", json={"wheels": "20 20 25 30 35 40 127"}).json()
    assert counts(listed["missing"]) == {127: 1}
    assert counts(listed["foreign"])[33] == 1
    assert "Missing: 127." in listed["texts"]
    assert demo.put("/api/rack/sets/curlew", json={"wheels": ""}).json()["texts"] == []
    refused = demo.put("/api/rack/sets/curlew", json={"wheels": "20 4O"}).json()
    assert (refused["errors"][0]["field"], refused["errors"][0]["value"]) == ("wheels", "4O")


def test_two_boxes_become_one_and_two_again(demo: TestClient) -> None:
    before = rack(demo)
    boxes = {p["place"]: p["records"] for p in demo.get("/api/rack/places").json()}
    assert boxes["box that came with the head"] == 7
    merge = {"place": "box that came with the head", "into": "the mill’s own box"}
    done = demo.post("/api/rack/merge", json=merge)
    assert wheel(demo, 28, "Heron's wheels")["count"] == 2
    assert wheel(demo, 38, "Heron's wheels")["place"] == "the mill’s own box"
    assert "box that came with the head" not in {p["place"] for p in demo.get("/api/rack/places").json()}
    held = sum(w["count"] for w in before["wheels"])
    assert sum(w["count"] for w in rack(demo)["wheels"]) == held
    assert undo(demo, done) == []
    assert bare(rack(demo)) == bare(before)
    assert demo.post("/api/rack/merge", json=merge | {"place": "attic"}).json()["errors"][0]["code"] == "nothing_there"


def test_a_photograph_is_kept_small_and_comes_back(demo: TestClient) -> None:
    number = wheel(demo, 40)["id"]
    file = BytesIO()
    Image.new("RGB", (3000, 1500), "grey").save(file, "PNG")
    path = f"/api/rack/photos?wheel={number}"
    photographed = demo.post(path, content=file.getvalue(), headers={"Content-Type": "image/png"})
    name = wheel(demo, 40)["photo"]
    kept = Image.open(BytesIO(demo.get(f"/api/rack/photos/{name}").content))
    assert (kept.format, kept.size) == ("JPEG", (1600, 800))
    deleted = demo.delete("/api/rack/wheels", params={"wheel": number})
    assert undo(demo, photographed) == ["The 40 is not there any more."]
    assert undo(demo, deleted) == []
    assert wheel(demo, 40)["photo"] == name
    demo.patch("/api/rack/wheels", json={"ids": [number], "note": "x"})
    again = demo.post(path, content=file.getvalue(), headers={"Content-Type": "image/png"})
    assert "Valleywind-Change" not in again.headers
    assert demo.get(f"/api/rack/photos/{name}").status_code == 200
    letter = demo.post(path, content=b"no picture at all", headers={"Content-Type": "image/png"})
    assert letter.json()["errors"][0]["says"] == "That file is not a picture."


def test_cutters_tell_gaps_doubles_and_the_way_they_are_numbered(demo: TestClient) -> None:
    dp = next(s for s in demo.get("/api/stores").json()["sets"] if s["name"] == "12 DP, 14.5°")
    assert dp["gaps"] == ["12–13", "17–20", "135 to a rack"]
    assert dp["doubles"] == ["26–34"]
    assert dp["counts"] == "14–16 and 21–134"
    assert "the set runs 8 to 1" in dp["cutters"][0]["numbers"]
    typed = dp["cutters"][-1]["typed"]
    more = demo.post("/api/stores/cutters", json=typed | {"range": "135-rack", "engraved": "8"}).json()
    assert "the set runs 1 to 8" in more["numbers"]
    taken = demo.delete(f"/api/stores/cutters/{more['id']}").json()
    again = demo.post("/api/stores/cutters", json=taken).json()
    assert again["typed"] == more["typed"]
    wrong = demo.post("/api/stores/cutters", json=typed | {"range": "34-26"}).json()
    assert wrong["errors"][0]["field"] == "range"


def test_a_missing_57_has_its_ways(demo: TestClient) -> None:
    family = next(f["id"] for f in rack(demo)["families"] if f["name"] == "Plover's wheels")
    answer = demo.get(f"/api/rack/sources/{family}/57").json()
    assert answer["cutter"] == "Your cutter 55–134 cuts it; it is true for 55."
    # A 57 needs (57 + 2) inside the gaps of z - 2.314; of the wheels from 62 on the 64 and the 78 are on the lathe.
    assert {d["teeth"] for d in answer["donors"]} == {66, 68, 72, 76, 80, 96}
    lost = [
        int(t)
        for d in answer["donors"]
        for t in re.findall(r"(\d+) pitch(?:es)? of the charts would lose a train", d["text"])
    ]
    assert len(lost) == len(answer["donors"])
    assert lost == sorted(lost)
    assert [b["name"].split(",")[0] for b in answer["bars"]] == ["aluminium", "acetal", "cast iron"]
    many = demo.get(f"/api/rack/sources/{family}/57?blanks=4").json()
    assert [b["name"].split(",")[0] for b in many["bars"]] == []
    assert "No piece in stock" in many["bars_text"]


def test_a_bought_wheel_needs_its_work(demo: TestClient) -> None:
    family = next(f["id"] for f in rack(demo)["families"] if f["name"] == "Plover's wheels")
    query = {"bore": "20 mm", "face": "20 mm", "hub": "10 mm", "units": "mm"}
    steps = demo.get(f"/api/rack/bought/{family}", params=query).json()["steps"]
    assert steps == [
        "Bore it out from 20 mm to 22.23 mm.", "Cut a keyway of 4.76 mm.",
        "Face it from 20 mm to 15.88 mm wide, both sides alike.", "Face its hub of 10 mm off.",
    ]  # fmt: skip
    right = demo.get(f"/api/rack/bought/{family}", params={"bore": "7/8 in", "key": "3/16 in", "face": "5/8 in"}).json()
    assert right["steps"] == []


RECORDS: list[dict[str, Any]] = [
    {"kind": "rotary table", "name": "Wigeon", "head": {"ratio": "90:1", "plates": "24 28 30 / 34 37@80"}},
    {"kind": "hobber", "name": "Dotterel", "hobber": {"index": "30, 60 from 100", "feed": "1 mm"}},
    {"kind": "mill", "name": "Whimbrel", "mill": {"screw": "4 tpi", "swing": "0"}},
    {"kind": "spin indexer", "name": "Sanderling", "head": {"direct": "36", "reads": "1°"}},
    {"kind": "collet block", "name": "Dunnock", "head": {"direct": "4 6"}},
]


@pytest.mark.parametrize("record", RECORDS, ids=lambda r: r["kind"])
def test_every_kind_of_machine_has_its_record(store: Store, record: dict[str, Any]) -> None:
    from valleywind.api.app import make_app

    client = TestClient(make_app(open_store(store.path)), base_url="http://127.0.0.1")
    made = client.post("/api/machine-records", json=record).json()
    kept = client.get(f"/api/machine-records/{made['slug']}").json()
    part = next(k for k in ("head", "hobber", "mill") if k in record)
    for name, value in record[part].items():
        assert kept[part][name] == value, name
    again = client.put(f"/api/machine-records/{made['slug']}", json=kept)
    assert again.json() == made


@pytest.mark.parametrize(
    ("record", "field"),
    [
        ({"kind": "head", "name": "Wigeon", "head": {"ratio": "0"}}, "ratio"),
        ({"kind": "head", "name": "Wigeon"}, "ratio"),
        ({"kind": "head", "name": "Wigeon", "head": {"ratio": "40", "plates": "15 15"}}, "plates"),
        ({"kind": "hobber", "name": "Wigeon", "hobber": {"index": "24 from 10", "feed": "1"}}, "index"),
        ({"kind": "hobber", "name": "Wigeon", "hobber": {"index": "24", "feed": "0"}}, "feed"),
        ({"kind": "mill", "name": "Wigeon", "mill": {"screw": "6 mm", "swing": "120"}}, "swing"),
        ({"kind": "mill", "name": "", "mill": {"screw": "6 mm"}}, "name"),
        ({"kind": "mill", "name": "Plover", "mill": {"screw": "6 mm"}}, "name"),
    ],
)
def test_a_record_that_cannot_be_read_names_its_field(demo: TestClient, record: dict[str, Any], field: str) -> None:
    before = demo.get("/api/machines").json()
    answer = demo.post("/api/machine-records", json=record)
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, field)
    assert demo.get("/api/machines").json() == before


GOOD_CUTTER = {"system": "dp", "pitch": "12", "angle": "14.5", "range": "55-134", "engraved": "2", "count": 1}


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"pitch": "0"}, "pitch"), ({"pitch": "twelve"}, "pitch"), ({"angle": "45"}, "angle"), ({"range": ""}, "range"),
        ({"range": "134-55"}, "range"), ({"range": "5"}, "range"), ({"bore": "1 furlong"}, "bore"),
        ({"depth": "-1"}, "depth"), ({"count": 500}, "count"),
    ],
)  # fmt: skip
def test_a_cutter_that_cannot_be_names_its_field(demo: TestClient, changes: dict[str, Any], field: str) -> None:
    before = demo.get("/api/stores").json()
    answer = demo.post("/api/stores/cutters", json=GOOD_CUTTER | changes)
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, field)
    assert demo.get("/api/stores").json() == before


def test_bar_is_kept_cut_off_and_put_back(demo: TestClient) -> None:
    typed = {"material": "cast iron", "diameter": "5 in", "length": "62 mm", "place": "under the bench", "note": ""}
    made = demo.post("/api/stores/bars", json=typed).json()
    assert (made["text"], made["diameter_mm"]) == ("∅ 5 in × 62 mm", 127)
    shorter = demo.put(f"/api/stores/bars/{made['id']}", json=made["typed"] | {"length": "40 mm"}).json()
    assert shorter["length_mm"] == 40
    before = demo.get("/api/stores").json()["bars"]
    gone = demo.delete(f"/api/stores/bars/{made['id']}").json()
    assert len(demo.get("/api/stores").json()["bars"]) == len(before) - 1
    again = demo.post("/api/stores/bars", json=gone).json()
    assert again["typed"] == shorter["typed"]
    for changes, field in (
        ({"material": " "}, "material"),
        ({"diameter": "0"}, "diameter"),
        ({"length": "x"}, "length"),
    ):
        answer = demo.post("/api/stores/bars", json=typed | changes)
        assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, field)
    assert demo.delete("/api/stores/bars/99999").status_code in (404, 422)


def test_readings_of_centres_and_face_are_used(demo: TestClient) -> None:
    def answer_to(**readings: Any) -> Any:
        body = {"wheels": [{"teeth": 40, "tip_diameter": "88.9", **readings}]}
        return demo.post("/api/rack/identify", json=body).json()

    # By its tip alone it is not said to be of any.
    assert answer_to()["identities"][0]["families"] == []
    spanned = {"span_teeth": 4, "span": "22.78"}
    plain = answer_to(**spanned)
    assert plain["identities"][0]["text"].startswith("12 DP")
    families = {f["id"]: f["name"] for f in demo.get("/api/rack").json()["families"]}
    named = {families[i] for i in plain["identities"][0]["families"]}
    assert "Plover's wheels" in named
    other = answer_to(bore="20 mm", **spanned)
    assert "Plover's wheels" not in {families[i] for i in other["identities"][0]["families"]}
    wide = answer_to(face="25 mm", **spanned)
    assert "Plover's wheels" not in {families[i] for i in wide["identities"][0]["families"]}
    meshed = answer_to(mate=24, centres="67.75", **spanned)
    assert meshed["identities"][0]["probability"] >= plain["identities"][0]["probability"]
    wrong = answer_to(mate=2, centres="67.75")
    assert wrong["errors"][0]["field"] == "mate"
