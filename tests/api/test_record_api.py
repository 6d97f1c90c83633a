from collections.abc import Iterator
from io import BytesIO
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader

from tests.api.undoing import undo
from valleywind.api.app import make_app
from valleywind.shop.store import Store


def record(client: TestClient, machine: str) -> dict[str, Any]:
    result: dict[str, Any] = client.get(f"/api/lathe-records/{machine}").json()
    return result


@pytest.mark.parametrize("machine", ["plover", "curlew", "dunlin"])
def test_a_record_kept_as_it_is_shown_changes_nothing(demo: TestClient, machine: str) -> None:
    asks = {"plover": "M14x2", "curlew": "4 BA", "dunlin": "2 mm"}
    before = record(demo, machine)
    plan = demo.get(f"/api/lathes/{machine}/plan", params={"ask": asks[machine]}).json()
    assert demo.put(f"/api/lathe-records/{machine}", json=before).status_code == 200
    assert record(demo, machine) == before
    assert demo.get(f"/api/lathes/{machine}/plan", params={"ask": asks[machine]}).json() == plan


def test_a_new_lathe_can_be_planned_on(demo: TestClient) -> None:
    family = demo.get("/api/rack").json()["families"][0]["id"]
    named = {"name": "Linnet", "screw": "8 tpi", "family": family, "note": "new", "wheels": ""}
    linnet = record(demo, "plover") | named
    made = demo.post("/api/lathe-records", json=linnet).json()
    assert (made["slug"], made["screw"]) == ("linnet", "8 tpi")
    # It has no wheels of its own, and Plover's are Plover's.
    answer = demo.get("/api/lathes/linnet/plan?ask=M14x2").json()["errors"][0]
    assert answer["says"] == "Linnet has no wheels yet."
    demo.put("/api/machines/linnet/wheels", json={"wheels": "24 32 40 48 60 64 72 80"})
    best = demo.get("/api/lathes/linnet/plan?ask=16 tpi").json()["candidates"][0]
    assert best["error"] == "exact"
    again = demo.post("/api/lathe-records", json=linnet).json()["errors"][0]
    assert (again["field"], again["code"]) == ("name", "name_taken")


def test_a_machine_that_is_deleted_leaves_its_wheels_and_comes_back_with_them(demo: TestClient) -> None:
    held = demo.get("/api/machines/plover/wheels").json()
    rack = demo.get("/api/rack").json()["wheels"]
    done = demo.delete("/api/machine-records/plover")
    assert (done.status_code, "plover" in done.json()) == (200, False)
    left = demo.get("/api/rack").json()["wheels"]
    assert sum(w["count"] for w in left) == sum(w["count"] for w in rack)
    assert not any(w["machine"] == "plover" for w in left)
    # Jobs for it stay, and say its name.
    assert demo.get("/api/jobs").status_code == 200
    change = demo.get("/api/changes").json()[0]
    assert change["text"] == "Deleted Plover."
    assert demo.post(f"/api/changes/{change['id']}/undo").status_code == 200
    assert demo.get("/api/machines/plover/wheels").json() == held
    assert demo.get("/api/machines/plover").json()["mounted"] == "36/64*32/78"


def test_a_machine_on_which_a_wheel_is_cut_is_not_deleted(demo: TestClient) -> None:
    refused = demo.delete("/api/machine-records/heron").json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("machine", "head_in_use")


def test_what_is_mounted_keeps_its_family(demo: TestClient) -> None:
    other = demo.get("/api/rack").json()["families"][1]["id"]
    refused = demo.put("/api/lathe-records/plover", json=record(demo, "plover") | {"family": other}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("family", "mounted_not_held")


def test_the_preview_says_whether_a_known_train_goes_on(demo: TestClient) -> None:
    typed = record(demo, "plover")

    def preview(changes: dict[str, Any], train: str = "76/66*32/78") -> dict[str, Any]:
        result: dict[str, Any] = demo.post(
            "/api/lathe-records/preview", json={"record": typed | changes, "train": train}
        ).json()
        return result

    fits = preview({})
    assert (fits["train_fits"], fits["train_text"]) == (True, "76/66 × 32/78 fits: 17.8 mm clear.")
    far = preview({"first_x": "200"})
    assert far["train_fits"] is False
    assert "into the cover" in far["train_text"]
    bare = preview({"screw": ""}, "")
    assert [p["field"] for p in bare["problems"]] == ["screw"]
    assert [s["name"] for s in bare["drawing"]["slots"]] == ["slot A", "slot B"]
    assert preview({"first_x": "over there"})["drawing"] is None


def test_calipers_give_the_place_and_the_slot(demo: TestClient) -> None:
    readings = {"over": "214.8 mm", "first": "32", "last": "32"}
    answer = demo.get("/api/lathe-records/calipers", params=readings).json()
    assert answer == {"apart": "182.80", "first_x": "", "first_y": "", "nearest": "", "farthest": ""}
    more = readings | {"height": "168", "stud": "28", "inner": "3 1/2 in", "outer": "200", "side": "left"}
    answer = demo.get("/api/lathe-records/calipers", params=more).json()
    assert answer == {
        "apart": "182.80", "first_x": "-72.05", "first_y": "168.00", "nearest": "58.90", "farthest": "170.00"
    }  # fmt: skip
    refused = demo.get("/api/lathe-records/calipers", params=more | {"over": "100"}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("over", "calipers_do_not_close")


# What is not known ---------------------------------------------------------------------------------------------------

THREE_FACTS = {"name": "Wren", "screw": "8 tpi", "wheels": "20x2 30 40x2 50 60 65 127"}


@pytest.fixture
def client(store: Store) -> Iterator[TestClient]:
    with TestClient(make_app(store, demo=False), base_url="http://127.0.0.1") as client:
        yield client


def planned(client: TestClient, ask: str, machine: str = "wren") -> Any:
    answer = client.get(f"/api/lathes/{machine}/plan", params={"ask": ask})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_three_facts_are_enough_for_a_train(client: TestClient) -> None:
    made = client.post("/api/lathe-records", json=THREE_FACTS)
    assert made.status_code == 200, made.text
    assert ["Quadrant", "not known"] in [[f["label"], f["text"]] for f in made.json()["facts"]]
    plan = planned(client, "1.5 mm")
    best = plan["first"]
    assert (best["error"], best["fits"], best["checked"]) == ("exact", True, "nothing")
    assert best["room"] == "room not checked"
    assert len(plan["not_known"]) == 3
    # Whether two wheels alone reach from shaft to shaft is not known.
    assert all(len(c["stages"]) + len(c["stages"][0]["idlers"]) > 1 for c in plan["candidates"])
    drawing = best["drawing"]
    assert (drawing["slots"], drawing["cover"], drawing["clearances"], drawing["to_scale"]) == ([], None, [], False)
    assert {w["turns"] for w in drawing["wheels"]} == {0}
    # Nothing in the sheet is a measure of a quadrant that nobody has measured.
    sheet = best["sheet"]
    assert [f for f in sheet["facts"] if f["label"] in ("Swing", "Room")] == [
        {"label": "Room", "text": "room not checked"}
    ]
    assert {row["where"] for row in sheet["shafts"][0]["rows"]} == {"fixed", "where it meshes"}
    assert any("Try the wheels on it by hand" in step["text"] for step in sheet["steps"])
    pdf = client.get("/api/lathes/wren/sheet.pdf", params={"ask": "1.5 mm", "train": best["train"]})
    page = PdfReader(BytesIO(pdf.content)).pages[0].extract_text()
    assert "wheels in mesh, in a line, in proportion" in page
    assert "1 : " not in page.replace("1 : 1", "")
    on = client.put("/api/machines/wren/mounted", json={"train": best["train"]})
    assert on.status_code == 200, on.text
    assert client.get("/api/lathes/wren/chart", params={"list": "metric"}).status_code == 200


def test_the_wheels_of_a_lathe_get_their_pitch_later(client: TestClient) -> None:
    client.post("/api/lathe-records", json=THREE_FACTS)
    train = planned(client, "1.5 mm")["candidates"][0]["train"]
    client.put("/api/machines/wren/mounted", json={"train": train})
    family = client.post("/api/rack/families", json={"name": "Wren’s", "system": "dp", "pitch": "16"}).json()
    record = client.get("/api/lathe-records/wren").json()
    assert (record["family"], record["first_x"], record["studs"], record["first_shaft_turns"]) == (None, "", "", None)
    saved = client.put("/api/lathe-records/wren", json=record | {"family": family["id"]})
    assert saved.status_code == 200, saved.text
    assert client.get("/api/machines/wren/wheels").json()["held"] == "20x2 30 40x2 50 60 65 127"
    assert client.get("/api/machines/wren").json()["mounted"] == train
    assert planned(client, "1.5 mm")["first"]["drawing"]["to_scale"] is True


def test_each_part_is_worth_something_by_itself(client: TestClient) -> None:
    """Distance and slot first, then the collars, then the cover: each time less is left unchecked."""
    client.post("/api/lathe-records/examples/metric")
    whole = client.get("/api/lathe-records/example-metric").json() | {"example": False}
    rooms = []
    rest = ["swing_low", "swing_high", "collar_first", "collar_stud", "collar_last", "cover"]
    for known, blank in (({"apart": "107.33"}, ["first_x", "first_y", *rest]), ({}, rest), ({}, ["cover"]), ({}, [])):
        record = client.get("/api/lathe-records/example-metric").json()
        typed = whole | known | dict.fromkeys(blank, "") | {"version": record["version"]}
        answer = client.put("/api/lathe-records/example-metric", json=typed)
        assert answer.status_code == 200, answer.text
        plan = planned(client, "1.25 mm", "example-metric")
        rooms.append((plan["candidates"][0]["room"], plan["not_known"]))
    assert rooms[0][0] == rooms[1][0] == "reaches, room not checked"
    assert rooms[2][0].endswith("clear, cover not checked")
    assert rooms[3][0].endswith("mm clear")
    assert rooms[3][1] == []
    assert rooms[0][1] == ["Not known, and not checked: swing, collars and cover. Try the wheels on by hand first."]
    guess = whole | {"sources": {"swing": "guessed"}, "version": record["version"] + 1}
    assert client.put("/api/lathe-records/example-metric", json=guess).status_code == 200
    assert planned(client, "1.25 mm", "example-metric")["not_known"] == [
        "Whether a train fits depends on a guess: swing."
    ]


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({"apart": "100", "slots": [{"nearest": "30", "farthest": "90"}], "swing_low": "10", "swing_high": "90"},
         "swing_low"),
        ({"cover": "0 0, 9 0, 9 9"}, "cover"), ({"first_x": "30", "first_y": "40", "apart": "60"}, "apart"),
        ({"goes_on": "20/40, 30/50"}, "goes_on"), ({"first_x": "30"}, "first_y"), ({"swing_low": "3"}, "swing_high"),
        ({"wheels": "20 3O"}, "wheels"), ({"screw": ""}, "screw"),
    ],
)  # fmt: skip
def test_half_a_fact_is_refused_at_its_field(client: TestClient, typed: dict[str, Any], field: str) -> None:
    answer = client.post("/api/lathe-records", json=THREE_FACTS | typed)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == field
    assert client.get("/api/machines").json() == []


@pytest.mark.parametrize("example", ["metric", "inch_box"])
def test_an_example_plans_and_says_that_it_is_one(client: TestClient, example: str) -> None:
    for _ in range(2):
        made = client.post(f"/api/lathe-records/examples/{example}").json()
        assert made["example"] is True
    assert made["slug"].endswith("-2")
    for ask in ("M10x1.5", "16 tpi", "feed 0.1"):
        plan = planned(client, ask, made["slug"])
        assert plan["candidates"][0]["fits"], (example, ask, plan["shortfall"])
        assert any("example" in sentence for sentence in plan["not_known"])
    record = client.get(f"/api/lathe-records/{made['slug']}").json()
    client.put(f"/api/lathe-records/{made['slug']}", json=record | {"example": False})
    assert planned(client, "M10x1.5", made["slug"])["not_known"] == []


def test_wheels_only_counted_are_no_strays_and_the_chart_says_what_is_not_known(client: TestClient) -> None:
    client.post("/api/lathe-records", json=THREE_FACTS)
    wheels = client.get("/api/rack").json()["wheels"]
    assert {(w["counted_for"], w["stray"]) for w in wheels} == {("Wren", None)}
    answer = client.get("/api/machines/wren").json()["not_known"]
    assert answer == planned(client, "1.5 mm")["not_known"]
    assert "room is not checked" in answer[0]


def example(client: TestClient, **typed: Any) -> Any:
    """The metric example with some of its record typed over, as the first train of a plan shows it."""
    client.post("/api/lathe-records/examples/metric")
    record = client.get("/api/lathe-records/example-metric").json() | {"example": False} | typed
    answer = client.put("/api/lathe-records/example-metric", json=record)
    assert answer.status_code == 200, answer.text
    return planned(client, "1.25 mm", "example-metric")


def test_without_a_direction_no_swing_is_told(client: TestClient) -> None:
    plan = example(client, first_x="", first_y="", apart="107.33", swing_low="", swing_high="")
    sheet = plan["first"]["sheet"]
    assert "Swing" not in {f["label"] for f in sheet["facts"]}
    assert "(about" not in str(sheet["steps"])
    assert plan["candidates"][0]["room"].endswith("mm clear, swing not checked")


def test_without_collars_a_distance_is_to_the_middle_of_a_shaft(client: TestClient) -> None:
    plan = example(client, collar_first="", collar_stud="", collar_last="")
    texts = [c["between"] for c in plan["first"]["drawing"]["clearances"]]
    assert texts
    assert all("to the middle of the" in text or "to the cover" in text for text in texts)
    assert "collar" not in str(texts)


def test_a_measured_quadrant_lacks_only_the_pitch_of_the_wheels(client: TestClient) -> None:
    collars = ("collar_first", "collar_stud", "collar_last")
    fields = ("first_x", "first_y", "slots", "swing_low", "swing_high", *collars, "cover")
    client.post("/api/lathe-records/examples/metric")
    record = client.get("/api/lathe-records/example-metric").json()
    client.post("/api/lathe-records", json=THREE_FACTS | {name: record[name] for name in fields})
    sentence = planned(client, "1.5 mm")["not_known"][0]
    assert sentence.startswith("The pitch of the wheels is not known, so room is not checked.")
    assert sentence.endswith("How many studs there are is not known: two are counted on.")


def test_wheels_of_a_known_pitch_are_not_left_out_in_silence(client: TestClient) -> None:
    client.post("/api/lathe-records/examples/metric")
    record = client.get("/api/lathe-records/example-metric").json()
    client.put("/api/lathe-records/example-metric", json=record | {"family": None})
    client.put("/api/machines/example-metric/wheels", json={"wheels": "20 30 40 60"})
    sentence = planned(client, "1 mm", "example-metric")["left_out"]
    assert "a 22 of module 1.25, for the pitch of this lathe’s wheels is not known" in sentence


def test_every_machine_says_what_is_on_it(demo: TestClient) -> None:
    on = {m["name"]: m["mounted_text"] for m in demo.get("/api/machines").json() if m["mounted"]}
    assert {name: on[name] for name in ("Plover", "Avocet", "Heron")} == {
        "Plover": "36/64 × 32/78",
        "Avocet": "index 48/37 × 40/80, feed 52/39 with 38 between",
        "Heron": "72/28 × 52/56, pair with 2 turns in, 1 out",
    }


def test_a_new_machine_of_any_kind_comes_with_its_wheels(empty: TestClient) -> None:
    hobber = {"kind": "hobber", "name": "Knot", "hobber": {"index": "24"}, "wheels": "24x2 31 37 48"}
    made = empty.post("/api/machine-records", json=hobber)
    assert empty.get("/api/machines/knot/wheels").json()["held"] == "24x2 31 37 48"
    listed = empty.get("/api/hobbers/knot/plan", params={"ask": "hob 37"}).json()["candidates"]
    assert listed[0]["boxes"][0]["text"].startswith("24/37")
    assert undo(empty, made) == []
    assert empty.get("/api/machines").json() == []
    table = {"kind": "rotary table", "name": "Teal", "head": {"ratio": "90"}, "wheels": "24"}
    refused = empty.post("/api/machine-records", json=table).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("wheels", "takes_no_wheels")
    assert empty.get("/api/machines").json() == []


def test_all_that_is_wrong_with_a_record_is_told_at_once(empty: TestClient) -> None:
    lathe = {"name": " ", "screw": "", "wheels": "2O", "first": "0", "box": "A=x", "collar_first": "big"}
    answer = empty.post("/api/lathe-records", json=lathe).json()["errors"]
    assert [one["field"] for one in answer] == ["wheels", "name", "screw", "first", "box", "collar_first"]
    mill = {"kind": "mill", "name": "", "mill": {"screw": "six", "swing": "200", "travel": "far"}}
    answer = empty.post("/api/machine-records", json=mill).json()["errors"]
    assert [one["field"] for one in answer] == ["name", "screw", "swing", "travel"]
    assert empty.get("/api/machines").json() == []


@pytest.mark.parametrize(("path", "kind"), [("lathe-records/plover", "lathe"), ("machine-records/avocet", "hobber")])
def test_wheels_are_typed_over_in_the_record(demo: TestClient, path: str, kind: str) -> None:
    slug = path.split("/")[1]
    record = demo.get(f"/api/{path}").json()
    held = demo.get(f"/api/machines/{slug}/wheels").json()["held"]
    assert record["wheels"] == held
    # Not typed over they stay as they are, whoever changed them meanwhile.
    demo.put(f"/api/machines/{slug}/wheels", json={"wheels": f"{held} 127"})
    assert demo.put(f"/api/{path}", json={**record, "wheels": None, "note": "seen"}).status_code == 200
    assert demo.get(f"/api/{path}").json()["wheels"] == f"{held} 127", kind
    # Typed over by two, both sides are told.
    seen = {**record, "version": None, "wheels_seen": held}
    stale = demo.put(f"/api/{path}", json={**seen, "wheels": f"{held} 126"})
    assert stale.status_code == 409
    assert [side["field"] for side in stale.json()["sides"]] == ["wheels"]
    kept = demo.put(f"/api/{path}", json={**seen, "wheels": f"{held} 126", "wheels_seen": None})
    assert kept.status_code == 200
    now = demo.get(f"/api/{path}").json()
    assert now["wheels"] == f"{held} 126"
    # A wheel that is on the machine is not taken away.
    refused = demo.put(f"/api/{path}", json={**now, "wheels": "20"})
    assert refused.json()["errors"][0]["code"] == "mounted_not_held"
    assert demo.get(f"/api/{path}").json() == now
    # One step back takes all of it back.
    change = kept.headers["Valleywind-Change"]
    demo.post(f"/api/changes/{change}/undo")
    assert demo.get(f"/api/{path}").json()["wheels"] == f"{held} 127"


def test_an_archived_machine_is_kept_and_planned_for_no_more(demo: TestClient) -> None:
    job = demo.post("/api/jobs", json={"ask": "make 60 for Plover"}).json()
    for slug in ("plover", "heron"):
        assert demo.put(f"/api/machines/{slug}/archived", json={"archived": True}).json()["archived"]
    reply = demo.get("/api/changes").json()[0]["text"]
    assert reply == "Archived Heron."
    compared = demo.get("/api/lathes/compare", params={"ask": "M6"}).json()
    assert "Plover" not in {one["name"] for one in compared}
    ways = demo.get("/api/dividing/ways", params={"ask": "divide 57"}).json()["ways"]
    assert "Heron" not in {way["machine_name"] for way in ways}
    # What speaks of it keeps its name, and it can be looked at.
    assert demo.get(f"/api/jobs/{job['id']}").json()["title"] == "A 60 for Plover"
    assert demo.get("/api/rack", params={"seek": "plover 48"}).json()["wheels"][0]["machine_name"] == "Plover"
    answer = demo.get("/api/find", params={"text": "plover archived"}).json()["things"]
    assert [one["key"] for one in answer][:1] == ["plover"]
    assert demo.get("/api/lathes/plover/plan", params={"ask": "M6"}).status_code == 200
    taken = demo.post("/api/lathe-records", json={"name": "Plover", "screw": "8 tpi"})
    assert taken.json()["errors"][0]["code"] == "name_taken"
    demo.put("/api/machines/plover/archived", json={"archived": False})
    assert "Plover" in {one["name"] for one in demo.get("/api/lathes/compare", params={"ask": "M6"}).json()}
