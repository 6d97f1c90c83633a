"""The Mill station from outside: asked, set up, recorded, undone, printed, proved."""

import math
from itertools import pairwise
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api import sheets
from tests.api.advice import advice_in

CLOCK = "helix 24 m2 30° left face 20 with 24"


def answer_to(client: TestClient, path: str, status: int = 200, **query: Any) -> Any:
    answer = client.get(f"/api/mills/{path}", params=query)
    assert answer.status_code == status, answer.text
    return answer.json()


def test_the_clock_wheel_is_half_set_up(demo: TestClient) -> None:
    plan = answer_to(demo, "heron/plan", ask=CLOCK)
    first = plan["first"]
    assert first["is_on"]
    assert first["goes_on"]
    assert first["train"] == demo.get("/api/machines/heron").json()["mounted"]
    assert first["levers"] == "pair 1 : 2"
    assert first["chain"] == ["table screw 6 mm", "pair 1 : 2, 2 turns in, 1 out", "72/28 × 52/56", "head 60 : 1"]
    # The chain replayed: turns of the worm for one of the screw, then the lead.
    lead = 60 * 6 / (1 / 2 * 72 / 28 * 52 / 56)
    assert first["lead"] == f"{lead:.2f} mm"
    assert first["relative_error"] == pytest.approx(lead / (math.pi * 2 * 24 / math.sin(math.radians(30))) - 1)
    assert first["mate"].endswith("the reversing lever the other way. Both leads are off alike, so the pair tracks.")
    now = answer_to(demo, "heron/now")
    assert now["train"] == first["train"]
    assert now["text"].endswith("Gives a lead of 301.54 mm.")


def test_left_is_left(demo: TestClient) -> None:
    """The end that goes toward the column, and how the cutter lies to the teeth, for both hands."""
    for hand, away in (("left", -1), ("right", 1)):
        view = answer_to(demo, "heron/plan", ask=f"helix 24 m2 30° {hand} face 20")["setting"]["view"]
        farthest = max(view["table"], key=lambda p: p["y_mm"])
        assert math.copysign(1, farthest["x_mm"]) == away
        assert view["turned"] == away * 30
        # The tooth line through the middle of the work lies under the cutter, along its plane.
        middle = min(view["teeth"], key=lambda line: min(math.hypot(p["x_mm"], p["y_mm"]) for p in line))
        across = sorted(middle, key=lambda p: p["x_mm"])
        steepest = max(abs(b["y_mm"] - a["y_mm"]) / (b["x_mm"] - a["x_mm"]) for a, b in pairwise(across))
        assert steepest < 0.12
        # The work turns toward the right of whoever looks from the right-hand end, or the other way.
        turning = answer_to(demo, "heron/plan", ask=f"helix 24 m2 30° {hand}")["setting"]["turning"]
        assert turning["moving_left"] == ("clockwise" if hand == "right" else "anticlockwise")
        assert turning["moving_right"] != turning["moving_left"]


def test_what_the_mill_cannot_do_is_marked(demo: TestClient) -> None:
    setting = answer_to(demo, "heron/plan", ask="helix 24 dp12 45° right face 1 in")["setting"]
    wrong = {f["label"]: f["text"] for f in setting["figures"] if f["wrong"]}
    assert "the table meets the column" in wrong["Saddle"]
    assert "the longest reaches 460 mm" in wrong["Arbor"]
    assert setting["view"]["fouls"]
    beyond = answer_to(demo, "heron/plan", ask="helix 24 m2 60° left")["setting"]
    assert beyond["view"]["how"] == "neither"
    text = next(f["text"] for f in beyond["figures"] if f["wrong"])
    assert text.startswith("60° cannot be set: table and head swing at most 45°.")


def test_a_short_lead_is_heavy_and_the_lighter_drive_is_offered(demo: TestClient) -> None:
    assert "the head’s worm turns 12 times" in answer_to(demo, "heron/plan", ask="lead 30 mm")["first"]["load"]
    geared = answer_to(demo, "heron/train", ask="lead 300 mm", train="72/24*64/32@1/10")["candidate"]
    assert geared["load"].startswith("Heavy load on the change wheels: they gear up 6 times.")


def test_every_set_up_of_a_list_is_found_again_by_its_name(demo: TestClient) -> None:
    for ask in (CLOCK, "lead 300 mm", "flute 6 lead 12 in on 1 in", "spiral 15° on 20 mm"):
        plan = answer_to(demo, "heron/plan", ask=ask)
        assert plan["candidates"]
        for listed in plan["candidates"]:
            result = answer_to(demo, "heron/train", ask=ask, train=listed["train"])["candidate"]
            plain = {k: v for k, v in listed.items() if k != "order_reason"}
            assert {k: result[k] for k in plain} == plain


def test_dividing_is_simple_beside_the_lead(demo: TestClient) -> None:
    way = answer_to(demo, "heron/plan", ask=CLOCK)["setting"]["dividing"]
    assert way["kind"] == "simple"
    assert way["text"] == "2 turns and 8 spaces on the 16"
    assert way["plate"]["circle"] == 16
    # 61 is only to be had with gears, which are wanted for the lead.
    none = answer_to(demo, "heron/plan", ask="helix 61 m2 20° left")["setting"]
    assert none["dividing"] is None
    fact = next(f for f in none["figures"] if f["label"] == "Dividing")
    assert fact["wrong"]
    assert "geared for a lead cannot be geared for dividing too" in fact["text"]


def test_an_idler_rights_the_turning_way(demo: TestClient) -> None:
    record = demo.get("/api/machine-records/heron").json()
    record["mill"]["boxes"]["lead"]["lever"] = False
    assert demo.put("/api/machine-records/heron", json=record).status_code == 200
    wrong = answer_to(demo, "heron/train", ask=CLOCK, train="72/28*52/56@1/2")["candidate"]
    assert not wrong["goes_on"]
    assert "turns the work the wrong way for this hand" in wrong["reasons"]
    right = answer_to(demo, "heron/train", ask=CLOCK, train=wrong["advice"]["train"])["candidate"]
    assert right["goes_on"]
    assert right["lead"] == wrong["lead"]
    assert all(c["goes_on"] for c in answer_to(demo, "heron/plan", ask=CLOCK)["candidates"])


def test_a_wheel_is_changed_in_the_train(demo: TestClient) -> None:
    query: dict[str, Any] = {"ask": CLOCK, "train": "72/28*52/56@1/2"}
    put = answer_to(demo, "heron/train/changed", **query, change="put", at=0, teeth=64)["candidate"]
    assert put["train"] == "64/28*52/56@1/2"
    swapped = answer_to(demo, "heron/train/changed", **query, change="swap", at=0, other=1)["candidate"]
    assert swapped["train"] == "28/72*52/56@1/2"


def test_what_is_mounted_is_recorded_and_can_be_undone(demo: TestClient) -> None:
    before = demo.get("/api/machines/heron").json()["mounted"]
    name = answer_to(demo, "heron/plan", ask="lead 300 mm")["candidates"][0]["train"]
    stale = demo.put("/api/mills/heron/mounted", json={"train": name, "seen": "24/26"})
    assert stale.status_code == 409
    done = demo.put("/api/mills/heron/mounted", json={"train": name, "seen": before})
    assert done.json() == {"train": name}
    assert demo.get("/api/machines/heron").json()["mounted"] == name
    shelf = {w["teeth"]: w["mounted"] for w in demo.get("/api/machines/heron/wheels").json()["wheels"]}
    assert shelf[60] == 1
    back = demo.post(f"/api/changes/{done.headers['Valleywind-Change']}/undo")
    assert back.status_code == 200
    assert demo.get("/api/machines/heron").json()["mounted"] == before
    assert demo.put("/api/mills/heron/mounted", json={"train": None}).json() == {"train": None}
    assert answer_to(demo, "heron/now") is None


@pytest.mark.parametrize(
    ("train", "code"), [("34/24@1/2", "wheels_not_held"), ("24/26@1/3", "no_such_pair"), ("24/26", "no_such_pair")]
)
def test_what_cannot_be_on_is_not_recorded(demo: TestClient, train: str, code: str) -> None:
    answer = demo.put("/api/mills/heron/mounted", json={"train": train})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["code"] == code


@pytest.mark.parametrize(
    "ask", [CLOCK, "lead 300 mm", "flute 6 lead 12 in on 1 in", "helix 61 m2 20° left face 40 with 60"]
)
def test_the_sheet_is_in_the_order_of_the_work_on_two_pages_at_most(demo: TestClient, ask: str) -> None:
    plan = answer_to(demo, "heron/plan", ask=ask)
    query = {"ask": ask, "train": plan["first"]["train"]}
    answer = demo.get("/api/mills/heron/sheet.pdf", params=query)
    text = sheets.words(answer, most_pages=2)
    order = ["arbor", "before swinging", "Worm pair", "leave the crank’s pin", "taper or dowel pin", "both sides",
             "through its whole travel", "trial blank", "Lower the knee before returning", "swing the table back",
             "Second check", "Work"]  # fmt: skip
    places = [text.index(words) for words in order]
    assert places == sorted(places)
    assert plan["first"]["text"] in text


def test_a_reading_is_told_yes_or_what_slipped(demo: TestClient) -> None:
    asks: Any = {"ask": CLOCK, "train": "72/28*52/56@1/2", "over": "100 mm"}
    turned = 360 * 100 / (60 * 6 / (72 / 28 * 52 / 56 / 2))
    assert answer_to(demo, "heron/expected", train=asks["train"], over="100")["degrees"] == f"{turned:.2f}°"
    assert answer_to(demo, "heron/check", **asks, measured=f"{turned:.1f}")["agrees"]
    pair = answer_to(demo, "heron/check", **asks, measured=f"{turned * 4:.1f}")
    assert not pair["agrees"]
    assert "too fast" in pair["text"]
    assert pair["slips"][0]["text"] == "The worm pair is in the other way round: 1 turn in, 2 out."
    assert pair["slips"][0]["stands"]["train"] == "72/28*52/56@2/1"
    other = answer_to(demo, "heron/check", **asks, measured=f"{turned / 5:.2f}", off="0.1")
    assert "Another worm pair is in: pair 1 : 10, 10 turns in, 1 out." in [s["text"] for s in other["slips"]]
    way = answer_to(demo, "heron/check", **asks, measured=f"{turned / 360 * 60:.2f}", kind="crank", turned="other_way")
    assert not way["agrees"]
    assert "turns the wrong way" in way["text"]
    line = math.degrees(math.atan(math.pi * 40 / (36000 / turned)))
    scribed = answer_to(demo, "heron/check", **{**asks, "over": "40 mm"}, measured=f"{line:.1f}", kind="line")
    assert scribed["agrees"]
    assert answer_to(demo, "heron/check", 422, **asks, measured="x")["errors"][0]["field"] == "measured"


def test_a_pair_is_checked(demo: TestClient) -> None:
    query: dict[str, Any] = {"ask": "helix 24 m2 30° left", "train": "72/28*52/56@1/2"}
    answer = answer_to(demo, "heron/pair", **query, mate="36", centres="69.0")
    figures = {f["label"]: f for f in answer["figures"]}
    assert figures["Centre distance without backlash"]["text"] == f"{60 / math.cos(math.radians(30)):.3f} mm"
    assert figures["Measured distance"]["wrong"]
    assert figures["Shafts"]["text"] == "parallel"
    assert answer["ask"] == "helix 36 m2 30° right with 24"
    crossed = answer_to(demo, "heron/pair", **query, mate="24", helix="30", hand="left")
    assert "crossed at 60°" in [f["text"] for f in crossed["figures"]]
    assert crossed["train"].endswith("the same wheels and pair, nothing to change.")
    assert answer_to(demo, "heron/pair", 422, **query, mate="3.5")["errors"][0]["field"] == "mate"


def test_the_chart_is_told_and_handed_out(demo: TestClient) -> None:
    query: dict[str, Any] = {"pitch": "12dp", "first": 20, "last": 24, "angles": "20 60", "hand": "left"}
    answer = answer_to(demo, "heron/chart", **query)
    assert [(c["teeth"], c["angle"]) for c in answer["cells"]] == [
        (z, a) for z in range(20, 25) for a in ("20°", "60°")
    ]
    assert [a["cannot"] is None for a in answer["angles"]] == [True, False]
    for cell in answer["cells"]:
        first = answer_to(demo, "heron/train", ask=cell["ask"], train=cell["train"])["candidate"]
        assert first["goes_on"]
        assert first["text"] == cell["wheels"]
    lines = demo.get("/api/mills/heron/chart.csv", params=query).text.strip().splitlines()
    assert len(lines) == 11
    assert lines[1].startswith("20,20,")
    assert answer_to(demo, "heron/chart", 422, first=30, last=20)["errors"][0]["field"] == "last"
    assert answer_to(demo, "heron/chart", 422, angles="0")["errors"][0]["field"] == "angles"


def test_a_wheel_is_worth_making_where_few_are_held(demo: TestClient) -> None:
    demo.put("/api/mills/heron/mounted", json={"train": None})
    assert demo.put("/api/machines/heron/wheels", json={"wheels": "24 28 40 72"}).status_code == 200
    query: dict[str, Any] = {"first": 20, "last": 30, "angles": "30"}
    worth = advice_in(demo.get("/api/mills/heron/worth", params=query))
    assert worth["wheels"]
    best = worth["wheels"][0]
    for ask in best["asks"]:
        assert answer_to(demo, "heron/plan", ask=ask)["first"]["goes"] in ("partly", "not")
    held = f"24 28 40 72 {best['teeth']}"
    assert demo.put("/api/machines/heron/wheels", json={"wheels": held}).status_code == 200
    for ask in best["asks"]:
        plan = answer_to(demo, "heron/plan", ask=ask, order="most_exact")
        assert plan["candidates"][0]["goes"] in ("freely", "mid_tolerance")


@pytest.mark.parametrize(
    ("fields", "field", "code"),
    [
        ({"teeth": "24", "pitch": "2", "helix": "0", "hand": "left"}, "helix", "helix_not_cut"),
        ({"teeth": "24", "pitch": "2", "helix": "90", "hand": "left"}, "helix", "helix_not_cut"),
        ({"teeth": "24", "pitch": "2", "helix": "30"}, "hand", "needs_hand"),
        ({"teeth": "24.5", "pitch": "2", "helix": "30", "hand": "left"}, "teeth", "not_a_whole_number"),
        ({"lead": "0.5 mm"}, "lead", "length_out_of_range"),
        ({"helix": "15"}, "diameter", "needs_diameter"),
        ({"lead": "300", "helix": "15", "diameter": "20"}, "helix", "lead_or_angle"),
        ({"lead": "300", "within": "50"}, "within", "tolerance_out_of_range"),
    ],
)
def test_a_field_that_cannot_be_used_is_named(demo: TestClient, fields: dict[str, str], field: str, code: str) -> None:
    error = answer_to(demo, "fields", 422, **fields)["errors"][0]
    assert error["code"] == code
    assert error["field"] == field


def test_fields_make_an_ask_and_back(demo: TestClient) -> None:
    fields: dict[str, Any] = {"teeth": "24", "pitch": "2", "helix": "30", "hand": "left", "face": "20", "mate": "24"}
    answer = answer_to(demo, "fields", **fields)
    assert answer["canonical"] == "helix 24 m2 30° left face 20 mm with 24"
    again = answer_to(demo, "heron/plan", ask=answer["canonical"])["ask"]
    assert {k: again[k] for k in fields} == {
        "teeth": "24", "pitch": "m2", "helix": "30°", "hand": "left", "face": "20 mm", "mate": "24",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("ask", "at", "station"),
    [("helix 24 m2 30° left", "", "mill"), ("flute 6 lead 12 in", "", "mill"), ("spiral 15° on 20 mm", "", "mill"),
     ("lead 300 mm", "mill", "mill"), ("lead 8 tpi", "", "lathe"), ("M14x2", "mill", "lathe"),
     ("hob 37", "mill", "hobber")],
)  # fmt: skip
def test_whose_ask_it_is(demo: TestClient, ask: str, at: str, station: str) -> None:
    answer = demo.get("/api/reading", params={"ask": ask, "at": at}).json()
    assert (answer["station"], answer["whole"]) == (station, True)


def test_the_record_of_the_mill_is_kept_as_typed(demo: TestClient) -> None:
    record = demo.get("/api/machine-records/heron").json()
    assert record["mill"]["table"] == "1000 x 240 mm"
    record["mill"] |= {"pairs": "1:2, 1:40 one way", "pairs_at": "", "swivel": "60", "arbors": "8 1/2 in"}
    assert demo.put("/api/machine-records/heron", json=record).status_code == 200
    kept = demo.get("/api/machine-records/heron").json()
    assert {k: v for k, v in kept.items() if k != "version"} == {k: v for k, v in record.items() if k != "version"}
    plan = answer_to(demo, "heron/plan", ask="helix 24 m2 60° left")
    assert plan["setting"]["view"]["how"] == "head"
    assert "an order that is not on record" in " ".join(plan["first"]["chain"])


@pytest.mark.parametrize(
    ("changes", "field", "code"),
    [
        ({"pairs": "0:2"}, "pairs", "not_a_worm_pair"),
        ({"pairs": "1:0"}, "pairs", "not_a_worm_pair"),
        ({"swing": "100"}, "swing", "swing_too_far"),
        ({"table": "1000"}, "table", "not_two_lengths"),
        ({"saddle": "400 to 150 mm"}, "saddle", "not_two_lengths"),
        ({"screw": "0 mm"}, "screw", "not_positive"),
    ],
)
def test_a_wrong_field_of_the_record_is_named(demo: TestClient, changes: dict[str, str], field: str, code: str) -> None:
    record = demo.get("/api/machine-records/heron").json()
    record["mill"] |= changes
    answer = demo.put("/api/machine-records/heron", json=record)
    assert answer.status_code == 422
    error = answer.json()["errors"][0]
    assert (error["field"], error["code"]) == (field, code)


def test_a_mill_without_screw_or_head_says_what_it_lacks(empty: TestClient) -> None:
    bare = {"kind": "mill", "name": "Wigeon", "mill": {}}
    assert empty.post("/api/machine-records", json=bare).status_code == 200
    assert answer_to(empty, "wigeon/plan", 422, ask="lead 300 mm")["errors"][0]["code"] == "no_table_screw"
    record = empty.get("/api/machine-records/wigeon").json() | {"mill": {"screw": "4 tpi"}}
    assert empty.put("/api/machine-records/wigeon", json=record).status_code == 200
    assert answer_to(empty, "wigeon/plan", 422, ask="lead 300 mm")["errors"][0]["code"] == "no_head"
    record = empty.get("/api/machine-records/wigeon").json() | {"head": {"ratio": "40"}}
    assert empty.put("/api/machine-records/wigeon", json=record).status_code == 200
    assert answer_to(empty, "wigeon/plan", 422, ask="lead 300 mm")["errors"][0]["says"] == "Wigeon has no wheels yet."
    # Wheels whose pitch nobody knows are enough for trains; their room is not checked.
    counted = {"wheels": "24x2 28 32 40 44 48 56 64 72 86 100"}
    assert empty.put("/api/machines/wigeon/wheels", json=counted).status_code == 200
    plan = answer_to(empty, "wigeon/plan", ask="lead 300 mm")
    assert {c["checked"] for c in plan["candidates"]} == {"nothing"}


def test_what_is_not_known_of_a_mill_is_said_to_be_not_known(empty: TestClient) -> None:
    bare = {"kind": "mill", "name": "Wigeon", "mill": {"screw": "4 tpi"}, "head": {"ratio": "40"}}
    family = empty.post("/api/rack/families", json={"name": "w", "system": "module", "pitch": "1.5"})
    assert family.status_code == 200, family.text
    number = empty.get("/api/rack").json()["families"][0]["id"]
    assert empty.post("/api/machine-records", json=bare | {"family": number}).status_code == 200
    assert empty.put("/api/machines/wigeon/wheels", json={"wheels": "24 32 40 48 56 64 72"}).status_code == 200
    plan = answer_to(empty, "wigeon/plan", ask="helix 24 m2 30° left")
    assert plan["candidates"][0]["checked"] != "room"
    assert any("Room is not checked" in sentence for sentence in plan["not_known"])
    assert any("Which way the lead drive turns" in sentence for sentence in plan["not_known"])
    assert "not on record" in plan["first"]["direction"]
    view = plan["setting"]["view"]
    assert view["how"] == "unknown"
    assert not view["to_scale"]
    assert plan["first"]["levers"] is None
