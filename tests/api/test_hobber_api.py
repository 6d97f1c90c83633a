"""The Hobber station from outside: asked, set up, recorded, undone, printed, proved."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api import sheets
from tests.api.advice import advice_in

HELICAL = "hob 24 m2 30° left face 20 with 24"


def answer_to(client: TestClient, path: str, status: int = 200, **query: Any) -> Any:
    answer = client.get(f"/api/hobbers/{path}", params=query)
    assert answer.status_code == status, answer.text
    return answer.json()


def test_37_is_on_the_demo_hobber(demo: TestClient) -> None:
    plan = answer_to(demo, "avocet/plan", ask="hob 37")
    first = plan["candidates"][0]
    assert first["is_on"]
    assert first["merit"] == "exact"
    assert first["train"] == demo.get("/api/machines/avocet").json()["mounted"]
    assert plan["first"]["train"] == first["train"]
    assert [b["box"] for b in plan["first"]["drawn"]] == ["index", "feed"]
    assert plan["first"]["verdict"] == "37 turns of the hob turn the table once, exactly: it comes out as 37."
    assert answer_to(demo, "avocet/now") == {
        "train": first["train"], "ask": "hob 37", "text": "Divides into 37 with a one-start hob.",
    }  # fmt: skip


def test_71_and_107_come_out(demo: TestClient) -> None:
    assert answer_to(demo, "avocet/plan", ask="hob 71")["candidates"][0]["merit"] == "exact"
    plan = answer_to(demo, "avocet/plan", ask="hob 107")
    assert plan["first"]["kind"] == "made_up"
    assert plan["first"]["merit"] == "exact"
    assert plan["first"]["head"] == "No run-off"
    assert "Never disengage" in plan["first"]["caution"]
    assert "without any run-off" in plan["first"]["verdict"]
    assert len(plan["first"]["drawn"]) == 3


def test_every_set_up_of_a_list_is_found_again_by_its_name(demo: TestClient) -> None:
    for ask in ("hob 37", "hob 107 m2 face 20", HELICAL):
        plan = answer_to(demo, "avocet/plan", ask=ask)
        for listed in plan["candidates"]:
            result = answer_to(demo, "avocet/train", ask=ask, train=listed["train"])["candidate"]
            assert {k: result[k] for k in listed} == listed


def test_what_is_mounted_is_in_the_way_of_others_and_can_be_undone(demo: TestClient) -> None:
    before = demo.get("/api/machines/avocet").json()["mounted"]
    plan = answer_to(demo, "avocet/plan", ask=HELICAL)
    name = plan["candidates"][0]["train"]
    stale = demo.put("/api/hobbers/avocet/mounted", json={"train": name, "seen": "24/25@24++"})
    assert stale.status_code == 409
    done = demo.put("/api/hobbers/avocet/mounted", json={"train": name, "seen": before})
    assert done.json() == {"train": name}
    now = demo.get("/api/machines/avocet").json()
    assert now["mounted"] == name
    shelf = {w["teeth"]: w["mounted"] for w in demo.get("/api/machines/avocet/wheels").json()["wheels"]}
    assert shelf[65] == 1
    assert answer_to(demo, "avocet/plan", ask=HELICAL)["candidates"][0]["is_on"]
    # A wheel that is on in a box may not leave the rack.
    rack = demo.get("/api/rack").json()
    wheel = next(w for w in rack["wheels"] if w["teeth"] == 65 and w["machine"] == "avocet")
    gone = demo.request("DELETE", "/api/rack/wheels", params={"wheel": wheel["id"]})
    assert gone.status_code == 422
    back = demo.post(f"/api/changes/{done.headers['Valleywind-Change']}/undo")
    assert back.status_code == 200
    assert demo.get("/api/machines/avocet").json()["mounted"] == before


def test_wheels_that_are_not_held_are_not_put_on(demo: TestClient) -> None:
    answer = demo.put("/api/hobbers/avocet/mounted", json={"train": "43/24@24++"})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["code"] == "wheels_not_held"
    twice = demo.put("/api/hobbers/avocet/mounted", json={"train": "48/37*40/80@24+48/50+"})
    assert twice.json()["errors"][0]["code"] == "wheels_not_held"


def test_bare_boxes_are_recorded(demo: TestClient) -> None:
    assert demo.put("/api/hobbers/avocet/mounted", json={"train": None}).json() == {"train": None}
    assert demo.get("/api/hobbers/avocet/now").json() is None
    assert demo.get("/api/machines/avocet").json()["mounted"] is None


@pytest.mark.parametrize("ask", ["hob 37", "hob 107 m2 face 20 hob dia 63", HELICAL, "hob 60 m2 4 blanks face 20"])
def test_the_sheet_has_every_wheel_on_two_pages_at_most(demo: TestClient, ask: str) -> None:
    plan = answer_to(demo, "avocet/plan", ask=ask)
    name = plan["candidates"][0]["train"]
    answer = demo.get("/api/hobbers/avocet/sheet.pdf", params={"ask": ask, "train": name})
    text = sheets.words(answer, most_pages=2)
    for box in plan["first"]["boxes"]:
        assert box["text"] in text
    for words in ("Check before cutting", "After cutting", "Reversing pair", "No hands in the boxes under power"):
        assert words in text


def test_a_reading_is_told_yes_or_what_slipped(demo: TestClient) -> None:
    plan = answer_to(demo, "avocet/plan", ask="hob 37")
    asks: Any = {"ask": "hob 37", "train": plan["candidates"][0]["train"], "turns": "9"}
    yes = answer_to(demo, "avocet/check", **asks, measured="87.4")
    assert yes["agrees"]
    assert yes["text"] == "Yes: 87.4° agrees with 87.57° within the 0.5° that the reading may be off."
    no = answer_to(demo, "avocet/check", **asks, measured="43.8")
    assert "The other reversing pair is on, 48/24." in [s["text"] for s in no["slips"]]
    slipped = answer_to(demo, "avocet/check", **asks, measured="52.03")
    assert slipped["slips"][0]["text"].startswith("The 48 and the 37 are exchanged")
    assert slipped["slips"][0]["stands"]["boxes"][0]["text"] == "37/48 × 40/80"
    marks = answer_to(demo, "avocet/check", **asks, measured="74", kind="marks")
    assert {"The hob has 2 starts."} & {s["text"] for s in marks["slips"]}
    assert answer_to(demo, "avocet/check", 422, **asks, measured="x")["errors"][0]["field"] == "measured"


def test_fields_make_an_ask_and_back(demo: TestClient) -> None:
    fields = {"teeth": "24", "pitch": "2", "helix": "30", "hand": "left", "face": "20", "mate": "24"}
    typed: dict[str, Any] = dict(fields)
    answer = answer_to(demo, "fields", **typed)
    assert answer["canonical"] == "hob 24 m2 30° left face 20 mm with 24"
    again = answer_to(demo, "avocet/plan", ask=answer["canonical"])["ask"]
    assert {k: again[k] for k in ("teeth", "pitch", "helix", "hand", "face", "mate")} == {
        "teeth": "24", "pitch": "m2", "helix": "30°", "hand": "left", "face": "20 mm", "mate": "24",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("fields", "field", "code"),
    [
        ({"teeth": "37.5"}, "teeth", "not_a_whole_number"),
        ({"teeth": "37", "pitch": "x"}, "pitch", "not_a_pitch"),
        ({"teeth": "37", "pitch": "2", "helix": "90", "hand": "left"}, "helix", "helix_out_of_range"),
        ({"teeth": "37", "pitch": "2", "helix": "20"}, "hand", "needs_hand"),
        ({"teeth": "37", "feed": "0"}, "feed", "not_positive"),
        ({"teeth": "37", "face": "2000"}, "face", "length_out_of_range"),
        ({"teeth": "37", "starts": "0"}, "starts", "whole_out_of_range"),
        ({"teeth": "37", "angle": "45"}, "angle", "angle_out_of_range"),
    ],
)
def test_a_field_that_cannot_be_used_is_named(demo: TestClient, fields: dict[str, str], field: str, code: str) -> None:
    error = answer_to(demo, "fields", 422, **fields)["errors"][0]
    assert (error["field"], error["code"]) == (field, code)


def test_the_ask_line_reads_what_is_hobbed(demo: TestClient) -> None:
    whole = demo.get("/api/reading", params={"ask": "hob 31 dp12 14.5°"}).json()
    assert (whole["station"], whole["whole"]) == ("hobber", True)
    assert whole["description"] == "31 teeth, 12 DP, pressure angle 14.5°, spur"
    not_yet = demo.get("/api/reading", params={"ask": "hob 24 m2 30°"}).json()
    assert not not_yet["whole"]
    assert not_yet["says"] == "It is not clear whether 30° is the helix or the pressure angle."
    assert not_yet["completions"]


def test_a_constant_is_found_from_turns(demo: TestClient) -> None:
    answer = answer_to(demo, "constants", train="48/37*40/80", hob_turns="37", table_turns="1", off="1/50")
    assert answer["constants"][0] == "24"


def test_a_record_is_read_back_as_typed(demo: TestClient) -> None:
    record = demo.get("/api/machine-records/avocet").json()
    assert record["hobber"]["boxes"]["index"]["posts"] == "22 x 70, 22 x 66, 22 x 70"
    saved = demo.put("/api/machine-records/avocet", json=record)
    assert saved.status_code == 200, saved.text
    again = demo.get("/api/machine-records/avocet").json()
    assert again == record | {"version": again["version"]}


@pytest.mark.parametrize(
    ("change", "field", "code"),
    [
        ({"index": "0"}, "index", "not_an_index_constant"),
        ({"index": "24 with 0/40"}, "index", "not_an_index_constant"),
        ({"index": "24 from 20"}, "index", "not_an_index_constant"),
        ({"feed": "0"}, "feed", "not_positive"),
        ({"differential": "0 mm"}, "differential", "not_positive"),
        ({"swivel": "100"}, "swivel", "swivel_too_far"),
        ({"table": "left"}, "table", "not_one_of"),
        ({"travel": "x"}, "travel", "not_a_number"),
        ({"boxes": {"index": {"posts": "22"}}}, "index.posts", "not_a_post"),
        ({"boxes": {"feed": {"quadrant": {"studs": "9"}}}}, "feed.studs", "studs_out_of_range"),
    ],
)
def test_a_hobbers_record_is_checked_at_the_field(
    demo: TestClient, change: dict[str, Any], field: str, code: str
) -> None:
    record = demo.get("/api/machine-records/avocet").json()
    record["hobber"] |= change
    answer = demo.put("/api/machine-records/avocet", json=record)
    assert answer.status_code == 422
    error = answer.json()["errors"][0]
    assert (error["field"], error["code"]) == (field, code)


def test_its_wheels_keep_their_pitch_while_they_are_on(demo: TestClient) -> None:
    record = demo.get("/api/machine-records/avocet").json()
    answer = demo.put("/api/machine-records/avocet", json=record | {"family": None})
    assert answer.json()["errors"][0]["code"] == "mounted_not_held"


def test_a_hobber_whose_wheels_are_only_counted_plans_and_checks_no_room(empty: TestClient) -> None:
    record = {"kind": "hobber", "name": "Knot", "hobber": {"index": "24", "feed": "0.75 mm", "differential": "8 mm"}}
    assert empty.post("/api/machine-records", json=record).json()["takes_wheels"]
    bare = answer_to(empty, "knot/plan", 422, ask="hob 37")["errors"][0]
    assert (bare["code"], bare["says"]) == ("no_wheels", "Knot has no wheels yet.")
    counted = empty.put("/api/machines/knot/wheels", json={"wheels": "24 28 32 37 40 48 55 60 64 72 80 100"})
    assert counted.status_code == 200, counted.text
    best = answer_to(empty, "knot/plan", ask="hob 37")["candidates"][0]
    assert (best["head"], best["room"]) == ("Exact", "room not checked")
    assert best["boxes"][0]["text"] == "24/37 with 48 between"


def test_a_new_hobber_plans_with_what_is_known(demo: TestClient) -> None:
    record = {"kind": "hobber", "name": "Godwit", "hobber": {"index": "40"}}
    assert demo.post("/api/machine-records", json=record).status_code == 200
    bare = answer_to(demo, "godwit/plan", 422, ask="hob 37")
    assert bare["errors"][0]["code"] == "no_wheels"
    family = next(f["id"] for f in demo.get("/api/rack").json()["families"] if f["name"] == "Avocet's wheels")
    known = demo.get("/api/machine-records/godwit").json() | {"family": family}
    assert demo.put("/api/machine-records/godwit", json=known).status_code == 200
    demo.put("/api/machines/godwit/wheels", json={"wheels": "40 37 50 60 30"})
    plan = answer_to(demo, "godwit/plan", ask="hob 37")
    assert plan["candidates"][0]["boxes"][0]["text"].startswith("40/37")
    assert [b["box"] for b in plan["first"]["drawn"]] == ["index"]
    assert plan["candidates"][0]["room"] == "room not checked"
    assert plan["not_known"] == [
        "Room is not checked in the index box.",
        "Which way the index box turns is not on record.",
        "Which way the table turns is not on record.",
        "The feed constant is not on record, so no feed train is planned.",
    ]


def test_the_chart_says_how_each_count_stands(demo: TestClient) -> None:
    rows = {r["teeth"]: r for r in answer_to(demo, "avocet/chart", first=36, last=45)["rows"]}
    assert list(rows) == list(range(36, 46))
    assert rows[37]["standing"] == "exact"
    assert rows[43]["standing"] == "made_up"
    # What the chart offers is found again under its name, and comes out.
    result = answer_to(demo, "avocet/train", ask=rows[43]["ask"], train=rows[43]["train"])["candidate"]
    assert result["merit"] == "exact"
    assert result["fits"]
    worth = advice_in(demo.get("/api/hobbers/avocet/worth", params={"first": 6, "last": 200}))
    assert worth["wheels"][0]["counts"] == [43, 86, 129, 172]
    assert worth["head"] == "37 counts without an exact index train."


def test_the_chart_as_a_table(demo: TestClient) -> None:
    answer = demo.get("/api/hobbers/avocet/chart.csv", params={"first": 36, "last": 44})
    lines = answer.text.removeprefix("\ufeff").strip().splitlines()
    assert lines[0] == "Teeth,Standing,Index constant,Index train,Note (mm)"
    assert len(lines) == 10
    assert lines[2].startswith("37,exact,24,")


@pytest.mark.parametrize(
    ("query", "code"),
    [({"first": 40, "last": 30}, "range_backwards"), ({"first": 6, "last": 900}, "too_many_lines")],
)
def test_a_chart_has_its_bounds(demo: TestClient, query: dict[str, int], code: str) -> None:
    assert answer_to(demo, "avocet/chart", 422, **query)["errors"][0]["code"] == code


def test_the_tooth_as_it_is_made(demo: TestClient) -> None:
    few = answer_to(demo, "rolling", ask="hob 9 m2 with 24")
    assert few["undercut"]
    assert few["centres_mm"] == pytest.approx(33)
    assert few["mate"]["teeth"] == 24
    assert max(few["wheel"]["radii_mm"]) == pytest.approx(11)
    many = answer_to(demo, "rolling", ask="hob 60")
    assert not many["undercut"]
    assert many["mate"] is None
    assert "in proportion" in many["text"]


def test_backlash_from_measured_spans(demo: TestClient) -> None:
    pair: Any = {"ask": "hob 30 m2 with 40"}
    plan = answer_to(demo, "avocet/plan", ask=pair["ask"])
    low = next(f["text"] for f in plan["wheel"] if f["label"].startswith("Span")).split(" mm")[0]
    usual = answer_to(demo, "backlash", **pair, span=low, mate_span="27.627")
    assert usual["text"].startswith("Backlash ")
    jams = answer_to(demo, "backlash", **pair, span=low, mate_span="27.627", centres="69.8 mm")
    assert not jams["good"]
    assert jams["text"].endswith("The pair jams at this distance.")
    wrong = answer_to(demo, "backlash", 422, **pair, span="x", mate_span="27")
    assert wrong["errors"][0]["field"] == "span"
    assert answer_to(demo, "backlash", 422, ask="hob 30", span="1", mate_span="1")["errors"][0]["code"] == "no_pair"


def test_what_the_machine_cannot_do_is_said(demo: TestClient) -> None:
    """A face longer than its travel, a head turned too far, a wheel too large, a way it does not feed."""
    plan = answer_to(demo, "avocet/plan", ask="hob 150 m2 44° left face 200 hob dia 63 feed up")
    wrong = {f["label"] for f in plan["first"]["setting"] if f["wrong"]}
    assert wrong == {"Hob head", "Size", "Feed way", "Travel", "Stack"}


def test_what_was_typed_in_inches_is_shown_in_inches(demo: TestClient) -> None:
    plan = answer_to(demo, "avocet/plan", ask="hob 31 dp12 14.5° face 3/4 in hob dia 2.5 in", units="inch")
    assert {f["label"]: f["text"] for f in plan["wheel"]}["Blank over the tips"] == "2.7500 in"
    assert "in" in plan["first"]["feed"]


def test_a_helix_without_a_differential_is_locked_to_its_feed(demo: TestClient) -> None:
    record = demo.get("/api/machine-records/avocet").json()
    record["hobber"]["differential"] = ""
    assert demo.put("/api/machine-records/avocet", json=record).status_code == 200
    plan = answer_to(demo, "avocet/plan", ask="hob 24 m2 30° left face 20")
    assert plan["first"]["kind"] == "without"
    assert "change none of the feed wheels" in plan["first"]["verdict"]
    assert plan["first"]["faster"] == "The work turns slower than for a spur wheel."
    assert "Never disengage" in plan["first"]["caution"]
    assert [b["box"] for b in plan["first"]["drawn"]] == ["index", "feed"]
    prime = answer_to(demo, "avocet/plan", ask="hob 107")
    assert prime["candidates"] == []
    assert prime["shortfall"].endswith("Without a differential nothing else can make it up.")
    assert prime["first"]["reasons"] == ["needs a 107, which is not held"]
    # Without the table's sense it is not known whether the work must turn faster or slower.
    record["hobber"]["table"] = ""
    record["version"] = demo.get("/api/machine-records/avocet").json()["version"]
    assert demo.put("/api/machine-records/avocet", json=record).status_code == 200
    unknown = answer_to(demo, "avocet/plan", 422, ask="hob 24 m2 30° left face 20")
    assert unknown["errors"][0]["code"] == "needs_table_sense"


def test_wheels_that_must_move_are_told_by_box(demo: TestClient) -> None:
    on = {"train": "36/54*40/80@24+48/37+", "seen": demo.get("/api/machines/avocet").json()["mounted"]}
    assert demo.put("/api/hobbers/avocet/mounted", json=on).status_code == 200
    demo.put("/api/machines/avocet/wheels", json={"wheels": "36 54 40 80 48 37 50 52 39 38"})
    plan = answer_to(demo, "avocet/plan", ask="hob 37")
    assert plan["first"]["boxes"][0]["text"] == "48/37 × 40/80"
    assert plan["first"]["moved"] == [
        "The 48 and the 37 move from the feed box to the index box.",
        "The 36 moves from the index box to the feed box.",
    ]
