import csv
import json
import math
import re
from collections.abc import Iterator
from fractions import Fraction
from io import StringIO
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api import sheets
from tests.api.advice import advice_in
from tests.api.undoing import undo
from valleywind.core.interrupt import OverBudget


def plan(client: TestClient, ask: str, machine: str = "plover", **more: str) -> dict[str, Any]:
    answer = client.get(f"/api/lathes/{machine}/plan", params={"ask": ask, **more})
    assert answer.status_code == 200, answer.text
    result: dict[str, Any] = answer.json()
    return result


def looked_at(client: TestClient, ask: str, machine: str, train: str, **more: str) -> dict[str, Any]:
    """One train of a plan with everything about it."""
    answer = client.get(f"/api/lathes/{machine}/train", params={"ask": ask, "train": train, **more})
    assert answer.status_code == 200, answer.text
    result: dict[str, Any] = answer.json()["candidate"]
    return result


def problem(client: TestClient, path: str, status: int = 422, **params: str) -> dict[str, Any]:
    answer = client.get(path, params=params or None)
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    result: dict[str, Any] = answer.json()
    return result


def test_a_plan_is_whole(demo: TestClient) -> None:
    outcome = plan(demo, "M14x2")
    best = outcome["first"]
    assert best == best | outcome["candidates"][0]
    assert outcome["ratio_wanted"] == "60/127"
    assert (best["train"], best["text"], best["ratio"]) == ("76/66*32/78", "76/66 × 32/78", "608/1287")
    assert best["verdict"]["head"] == "Nut runs free"
    assert best["verdict"]["text"] == "0.00518 % short. Over a nut 11.2 mm long the error adds up to 0.6 µm."
    assert best["work"] == "keep 2, change 2"
    assert best["room"] == "17.8 mm clear"
    assert best["hand"] == "Tumbler forward for a right-hand thread."
    drawn = best["drawing"]
    assert [w["state"] for w in drawn["wheels"]] == ["proposed", "proposed", "mounted", "mounted"]
    # The tumbler forward turns first shaft and screw clockwise, the stud the other way.
    assert [math.copysign(1, w["turns"]) for w in drawn["wheels"]] == [-1, 1, 1, -1]
    # The screen has the outlines of the wheels on the shelf already.
    shelf = {o["teeth"] for o in demo.get("/api/machines/plover/wheels").json()["outlines"]}
    assert shelf >= {w["teeth"] for w in drawn["wheels"]}
    assert outcome["outlines"] == []
    # It runs free: no other wheel is advised but to somebody who wants it closer.
    assert outcome["one_more"] is None
    ask = "M14x2 within 20 ppm"
    outcome = plan(demo, ask)
    more = demo.get("/api/lathes/plover/train", params={"ask": ask, "train": outcome["one_more"]["train"]}).json()
    assert [o["teeth"] for o in more["outlines"]] == [67]
    assert outcome["one_more_text"].startswith("With a 67: ")


def test_units_change_every_length(demo: TestClient) -> None:
    metric, inch = plan(demo, "M14x2"), plan(demo, "M14x2", units="inch")
    assert inch["candidates"][0]["room"] == "0.699 in clear"
    assert inch["first"]["lead_value"] == "0.07874"
    assert "thou" in inch["first"]["verdict"]["text"]
    trains = [c["train"] for c in inch["candidates"]]
    texts = str([looked_at(demo, "M14x2", "plover", train, units="inch")["sheet"] for train in trains])
    assert " mm" not in texts.replace("2 mm", "")
    assert [c["train"] for c in inch["candidates"]] == [c["train"] for c in metric["candidates"]]


def test_order_can_be_changed(demo: TestClient) -> None:
    errors = [abs(c["relative_error"]) for c in plan(demo, "26 tpi", "curlew", order="most_exact")["candidates"]]
    assert errors == sorted(errors)


def test_a_stated_nut_changes_the_verdict(demo: TestClient) -> None:
    plain = plan(demo, "26 tpi", "curlew")
    fields = {"ask": "26 tpi", "pitch": "26 tpi", "diameter": "3/4 in", "engagement": "2 in"}
    longer = plan(demo, demo.get("/api/lathes/fields", params=fields).json()["canonical"], "curlew")
    assert (longer["ask"]["canonical"], longer["ask"]["engagement"]) == ("3/4-26 over 50.8 mm", "50.8 mm")
    assert plain["candidates"][0]["goes"] == "freely"
    assert longer["candidates"][0]["goes"] != "freely"
    refused = problem(demo, "/api/lathes/fields", pitch="26 tpi", diameter="0.5 mm")
    assert refused["errors"][0]["field"] == "diameter"


def test_an_unmet_wish_says_how_far_off_and_why(demo: TestClient) -> None:
    answer = plan(demo, "0.04 mm", "curlew")["shortfall"]
    assert answer == (
        "The best that fits is 17 % long. The finest lead Curlew’s wheels give in two stages is 0.0469 mm; "
        "a smaller driver goes below it."
    )


def test_what_does_not_go_on_is_drawn_where_it_fouls(demo: TestClient) -> None:
    listed = plan(demo, "26 tpi", "curlew")["most_exact_unfit"]
    unfit = looked_at(demo, "26 tpi", "curlew", listed["train"])
    assert not unfit["goes_on"]
    assert unfit["reasons"] == [c["between"] for c in unfit["drawing"]["clearances"] if c["fouls"]]
    assert "into the cover" in unfit["reasons"][0]
    assert any(w["fouls"] for w in unfit["drawing"]["wheels"])


def test_a_bad_ask_is_a_problem_with_readings(demo: TestClient) -> None:
    answer = problem(demo, "/api/lathes/plover/plan", ask="M14x2 pleese")
    assert answer["errors"][0] == {
        "field": "ask",
        "value": "pleese",
        "code": "words_left",
        "says": "“pleese” is not understood; the rest is.",
        "would_do": "Leave it out, or say it another way.",
        "job": None,
    }
    assert answer["understood"] == ["M14x2: metric size and pitch"]
    assert answer["left_over"] == ["pleese"]
    assert "M14x2" in answer["nearest"]


@pytest.mark.parametrize(
    ("path", "status", "field"),
    [
        ("/api/lathes/bittern/plan?ask=M14x2", 404, "machine"),
        ("/api/lathes/plover/plan", 422, "ask"),
        ("/api/lathes/plover/plan?ask=M14x2&order=pretty", 422, "order"),
        ("/api/lathes/plover/sheet.pdf?ask=M14x2&train=76:66", 422, "train"),
        ("/api/nothing", 404, None),
    ],
)
def test_failures_name_the_field(demo: TestClient, path: str, status: int, field: str | None) -> None:
    answer = problem(demo, path, status)
    assert answer["detail"]
    assert [e["field"] for e in answer["errors"]] == ([field] if field else [])


def test_reading_while_typing_never_fails(demo: TestClient) -> None:
    whole = demo.get("/api/reading", params={"ask": "m14 x 2"}).json()
    assert (whole["whole"], whole["canonical"], whole["description"]) == (True, "M14x2", "2 mm lead, right-hand, 60°")
    part = demo.get("/api/reading", params={"ask": "M14x"}).json()
    assert (part["whole"], part["left_over"]) == (False, ["M14x"])
    assert part["completions"][0] == {"ask": "M14x1.5", "means": "1.5 mm pitch, 14 mm across, 60°"}


def test_the_mounted_train_is_said_as_a_thread(demo: TestClient) -> None:
    now = demo.get("/api/lathes/plover/now").json()
    assert now["ask"]["canonical"] == "26 tpi"
    assert now["candidates"][0]["work"] == "already on the machine"
    assert demo.get("/api/lathes/curlew/now").json() is None


def test_mounting_is_recorded_and_can_be_undone(demo: TestClient) -> None:
    answer = demo.put("/api/machines/plover/mounted", json={"train": "76/66*32/78"})
    assert answer.json() == {"train": "76/66*32/78"}
    assert plan(demo, "M14x2")["candidates"][0]["work"] == "already on the machine"
    assert undo(demo, answer) == []
    assert demo.get("/api/machines/plover").json()["mounted"] == "36/64*32/78"
    refused = demo.put("/api/machines/plover/mounted", json={"train": "60/66*32/78"})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["says"] == "This train needs a 60 that the machine does not have."


def test_wheels_can_be_typed_over(demo: TestClient) -> None:
    shelf = demo.put("/api/machines/plover/wheels", json={"wheels": "24 32x2 36 60 64 78"}).json()
    held = {w["teeth"]: w["count"] for w in shelf["wheels"]}
    assert (held[32], held[60], held[96]) == (2, 1, 0)
    before = demo.get("/api/machines/plover/wheels").json()
    for wheels, field, says in [
        ("24 4O", "wheels", "“4O” is not a tooth number."),
        ("24 28", "wheels", "The train on the machine uses a 32, a 36, a 64 and a 78 that would be gone."),
    ]:
        refused = demo.put("/api/machines/plover/wheels", json={"wheels": wheels}).json()["errors"][0]
        assert (refused["field"], refused["says"]) == (field, says)
    assert demo.get("/api/machines/plover/wheels").json() == before


def test_the_sheet_is_one_page_that_tells_all(demo: TestClient) -> None:
    answer = demo.get("/api/lathes/plover/sheet.pdf", params={"ask": "M14x2", "train": "76/66*32/78"})
    text = sheets.words(answer)
    for sentence in (
        "M14x2 on Plover", "1.9999 mm lead", "76/66 × 32/78", "0.6 µm", "Isolate the lathe",
        "slot A, 116.4 mm from the screw’s centre", "66 inner with 32 outer", "Tumbler forward",
        "10 leads measure 20.00 mm", "Cover on before power", "1 : 4", "Keep the half-nuts closed",
    ):  # fmt: skip
        assert sentence in text


@pytest.mark.parametrize(
    ("machine", "ask"),
    [
        ("plover", "50 mm"),
        ("curlew", "M3 left"),
        ("curlew", "0.2 mm"),
        ("dunlin", "19 tpi"),
        ("plover", "pitch 4 mm 2 starts"),
    ],
)
def test_every_kind_of_train_keeps_to_one_page(demo: TestClient, machine: str, ask: str) -> None:
    for candidate in plan(demo, ask, machine)["candidates"][:3]:
        params = {"ask": ask, "train": candidate["train"], "units": "inch"}
        sheets.words(demo.get(f"/api/lathes/{machine}/sheet.pdf", params=params))


def test_a_shelf_tells_held_mounted_and_missing(demo: TestClient) -> None:
    shelf = demo.get("/api/machines/plover/wheels").json()
    by_teeth = {w["teeth"]: w for w in shelf["wheels"]}
    assert (by_teeth[40]["count"], by_teeth[60]["count"], by_teeth[36]["mounted"]) == (2, 0, 1)
    outline = next(o for o in shelf["outlines"] if o["teeth"] == 60)
    assert outline["tip_radius_mm"] == pytest.approx(float(Fraction(254, 120) * 62 / 2))


def test_machines_say_their_facts_in_the_readers_units_and_constants_as_stated(demo: TestClient) -> None:
    plover, curlew, dunlin, avocet, heron, grebe, _ = demo.get("/api/machines").json()
    assert (plover["screw"], curlew["screw"], dunlin["screw"]) == ("6 tpi", "1.5 mm", "4 tpi")
    by_label = {f["label"]: f["text"] for f in dunlin["facts"]}
    assert (by_label["Gearbox"], by_label["Locked pair"]) == ("32 steps, 8 to 14 ×8", "127 and 120")
    assert {"label": "Feed across", "text": "0.5588 mm per screw turn"} in plover["facts"]
    in_inches = demo.get("/api/machines/plover", params={"units": "inch"}).json()["facts"]
    assert {"label": "Feed across", "text": "0.022 in per screw turn"} in in_inches
    lengths = [f["text"] for machine in (plover, avocet, heron, grebe) for f in machine["facts"]]
    assert not [text for text in lengths if re.search(r"\d in\b", text)]
    assert {"label": "First shaft", "text": "1/2 turn per spindle turn"} in curlew["facts"]
    assert plover["family"]["text"] == "12 DP, 14.5°, bore 7/8 in, key 3/16 in, face 5/8 in"
    assert curlew["family"]["text"] == "module 0.8, 20°, bore 8 mm, key 3 mm, face 8 mm"
    assert {"label": "Differential constant", "text": "25/π mm"} in avocet["facts"]
    by_label = {f["label"]: f["text"] for f in heron["facts"]}
    assert (by_label["Worm"], by_label["Table swings"], by_label["Reads to"]) == (
        "60 : 1",
        "45° either way",
        "1°",
    )
    assert grebe["family"] is None
    assert {"label": "Plate side 2", "text": "16 19 23 31 39 47"} in grebe["facts"]


def to_check(client: TestClient, measured: str, **more: str) -> dict[str, Any]:
    params = {"ask": "M14x2", "train": "76/66*32/78", "measured": measured, "turns": "10", **more}
    answer = client.get("/api/lathes/plover/check", params=params)
    result: dict[str, Any] = answer.json()
    return result


def test_a_reading_is_told_yes_or_what_went_wrong(demo: TestClient) -> None:
    yes = to_check(demo, "20.03 mm")
    assert yes["agrees"]
    assert yes["text"] == "Yes: 20.03 mm agrees with 20.00 mm within the 0.05 mm that the reading may be off."
    no = to_check(demo, "85.05")
    assert no["text"].startswith("No: 85.05 mm is not 20.00 mm.")
    assert no["slips"][0]["text"] == "The 32 and the 66 are exchanged on their stud."
    assert no["slips"][0]["stands"]["train"] == "76/32*66/78"
    assert {o["teeth"] for o in no["outlines"]} >= {76, 32, 66, 78}
    assert to_check(demo, "470 mm")["text"].startswith("No: 470.00 mm is not 20.00 mm, and no single slip explains it.")
    assert to_check(demo, "0.7886", units="inch")["agrees"]
    # 80 for 78 on the screw: 20.00 × 78/80.
    assert "An 80 stands where the 78 belongs." in [s["text"] for s in to_check(demo, "19.5")["slips"]]


def test_what_a_reading_may_be_off_is_said_in_the_units_of_the_reader(demo: TestClient) -> None:
    assert [m["text"] for m in demo.get("/api/lathes/methods").json()] == [
        "caliper, ±0.05 mm", "rule, ±0.25 mm", "dial or micrometer, ±0.02 mm", "pitch gauge, ±0.02 mm",
    ]  # fmt: skip
    assert demo.get("/api/lathes/methods?units=inch").json()[0]["text"] == "caliper, ±0.002 in"


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"measured": "a bit"}, "measured"),
        ({"measured": "20 mm", "turns": "0"}, "turns"),
        ({"off": "30 mm"}, "off"),
        ({"measured": "0 tpi"}, "measured"),
    ],
)
def test_a_reading_that_cannot_be_names_its_field(demo: TestClient, changes: dict[str, str], field: str) -> None:
    result = to_check(demo, **({"measured": "20"} | changes))
    assert [e["field"] for e in result["errors"]] == [field]


def test_a_reading_may_be_a_pitch_or_carry_its_own_uncertainty(demo: TestClient) -> None:
    assert to_check(demo, "12.7 tpi", turns="1", method="gauge")["agrees"]
    assert not to_check(demo, "20.03 mm", off="0.01 mm")["agrees"]
    assert to_check(demo, "20.3 mm", off="0.5")["agrees"]


def test_a_train_of_ones_own_and_its_changes(demo: TestClient) -> None:
    def changed(train: str, **change: str | int) -> dict[str, Any]:
        params = {"ask": "M14x2", "train": train, **change}
        answer = demo.get("/api/lathes/plover/train/changed", params=params)
        result: dict[str, Any] = answer.json()
        return result

    own = demo.get("/api/lathes/plover/train", params={"ask": "M14x2", "train": "76/66*32/80"}).json()["candidate"]
    assert (own["lead"], own["fits"]) == ("1.9499 mm", True)
    start = "76/66*32/78"
    assert changed(start, change="put", at=3, teeth=80)["candidate"]["train"] == "76/66*32/80"
    assert changed(start, change="swap", at=1, other=2)["candidate"]["train"] == "76/32*66/78"
    assert changed(start, change="idler", at=0, teeth=40)["candidate"]["train"] == "76/40/66*32/78"
    assert changed("76/40/66*32/78", change="out", at=1)["candidate"]["train"] == start
    lacks = changed(start, change="put", at=0, teeth=57)["candidate"]
    assert (lacks["fits"], lacks["reasons"]) == (False, ["needs a 57, which is not held"])
    assert changed(start, change="out", at=1)["errors"][0]["code"] == "not_an_idler"
    assert changed(start, change="put", at=9, teeth=40)["errors"][0]["field"] == "at"
    assert changed(start, change="idler", at=3, teeth=40)["errors"][0]["code"] == "no_such_place"


def test_levers_are_part_of_the_train_and_of_what_is_mounted(demo: TestClient) -> None:
    best = plan(demo, "16 tpi", "dunlin")["candidates"][0]
    assert (best["train"], best["work"]) == ("32/80/64@8 ×2", "only a lever moves: box to 8 ×2")
    sheet = looked_at(demo, "16 tpi", "dunlin", best["train"])["sheet"]
    assert sheet["steps"][0]["text"] == "The wheels stay as they are."
    assert demo.get("/api/machines/dunlin").json()["mounted"] == "32/80/64@8"
    answer = demo.put("/api/machines/dunlin/mounted", json={"train": best["train"]}).json()
    assert answer == {"train": "32/80/64@8 ×2"}
    assert plan(demo, "16 tpi", "dunlin")["candidates"][0]["is_on"]
    assert demo.get("/api/lathes/dunlin/now").json()["ask"]["canonical"] == "16 tpi"
    refused = demo.put("/api/machines/dunlin/mounted", json={"train": "32/80/64@7"}).json()
    assert refused["errors"][0]["code"] == "no_such_setting"
    # A change of a wheel leaves the levers where they are.
    params = {"ask": "16 tpi", "train": best["train"], "change": "put", "at": 0, "teeth": 40}
    assert demo.get("/api/lathes/dunlin/train/changed", params=params).json()["candidate"]["train"] == "40/80/64@8 ×2"


def test_feeds_and_worms_are_told_in_their_own_words(demo: TestClient) -> None:
    feed = plan(demo, "feed 0.004 in across")["first"]
    assert feed["verdict"]["head"] in ("As asked", "About as asked")
    assert feed["lead_unit"] == "in per turn"
    assert (feed["pick_up"], feed["nut_view"]) == (None, None)
    assert "spindle turns move the tool" in feed["sheet"]["check"]["lines"][0]
    assert problem(demo, "/api/lathes/curlew/plan", ask="feed 0.1 across")["errors"][0]["code"] == "no_cross_feed"
    worm = plan(demo, "module 1.5 worm")
    assert worm["ask"]["description"] == "module 1.5 worm, 4.7124 mm lead, right-hand, 20° pressure angle"
    assert worm["candidates"][0]["verdict_head"] == "Worm runs free"
    assert worm["ratio_wanted"].endswith("…")


def test_the_chart_comes_in_stretches_and_as_csv(demo: TestClient) -> None:
    lists = demo.get("/api/lathes/curlew/lists").json()
    assert "feeds_across" not in [result["of"] for result in lists]
    whole = demo.get("/api/lathes/plover/chart?list=metric&list=per_inch").json()
    part = demo.get("/api/lathes/plover/chart?list=metric&list=per_inch&start=20&count=7").json()
    assert part["total"] == whole["total"] == len(whole["rows"])
    assert part["rows"] == whole["rows"][20:27]
    row = next(r for r in whole["rows"] if r["ask"] == "26 tpi")
    assert (row["standing"], row["text"], row["error"]) == ("exact", "36/64 × 32/78", "exact")
    table = list(csv.reader(StringIO(demo.get("/api/lathes/plover/chart.csv?list=metric").text.removeprefix("\ufeff"))))
    assert table[0][:4] == ["pitch", "sizes", "result", "train"]
    assert len(table) == 24
    assert problem(demo, "/api/lathes/plover/chart", list="screws")["errors"]


def test_unknown_constants(demo: TestClient) -> None:
    answer = demo.get("/api/lathes/constants", params={"measured": "84.6 mm", "turns": 20}).json()
    assert answer["lathes"][0]["text"] == "6 tpi screw, first shaft turns 1 to the spindle’s 1"
    none = demo.get("/api/lathes/constants", params={"measured": "123.4567", "turns": 10, "off": "0.001"}).json()
    assert none["lathes"] == []
    assert "No usual screw" in none["text"]
    assert (
        problem(demo, "/api/lathes/constants", measured="5", turns="10", train="4/0")["errors"][0]["field"] == "train"
    )


def test_the_wheel_worth_making_comes_with_progress(demo: TestClient) -> None:
    answer = demo.get("/api/lathes/plover/worth?list=metric&list=ba&together=2")
    lines = [json.loads(line) for line in answer.text.splitlines()]
    assert all(line["advice"] is None for line in lines[:-1])
    advice = lines[-1]["advice"]
    assert lines[-1]["share"] == 1
    best = advice["single"][0]
    assert best["text"].startswith(f"brings {best['pitches']} of {advice['lacking']}: ")
    assert "its cutter is the one for" in best["text"]
    assert len(best["asks"]) == best["pitches"]
    assert problem(demo, "/api/lathes/curlew/worth", list="feeds_across")["errors"][0]["code"] == "no_cross_feed"


def test_advice_that_is_too_much_ends_with_why(demo: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    def advised(*_: object) -> Iterator[float]:
        yield from (0.1, 0.2)
        raise OverBudget

    monkeypatch.setattr("valleywind.api.topics.lathe.chart.worth_making", advised)
    lines = [json.loads(line) for line in demo.get("/api/lathes/plover/worth?list=metric").text.splitlines()]
    assert [(line["share"], line["problem"] != "") for line in lines] == [(0.1, False), (0.2, False), (0.2, True)]
    assert "more than can be worked out" in lines[-1]["problem"]


def advice(demo: TestClient, **query: str) -> Any:
    return advice_in(demo.get("/api/lathes/plover/worth", params={"together": "1", **query}))


def test_the_wheel_worth_making_keeps_to_its_limits(demo: TestClient) -> None:
    own = advice(demo, wanted="26 tpi, 0.4 mm; 1 mm")
    assert own["head"].startswith("Of 3 pitches ") or own["head"].startswith("Nothing is lacking")
    cut = advice(demo, list="ba", cutters="true")
    assert cut["single"]
    assert all("which you hold" in b["text"] for b in cut["single"])
    # Grebe's worm of 72 with its plates divides these plainly.
    divided = advice(demo, list="ba", head="grebe", fewest="20", most="100")
    grebe = demo.get("/api/dividing/grebe/chart", params={"last": "100"}).json()["lines"]
    plain = {line["divisions"] for line in grebe if line["kind"] in ("simple", "direct")}
    assert {b["teeth"] for b in divided["single"]} <= plain
    for field, query in (
        ("wanted", {"wanted": "26 tpi, bananas"}), ("head", {"list": "ba", "head": "plover"}),
        ("most", {"list": "ba", "fewest": "90", "most": "80"}),
    ):  # fmt: skip
        answer = demo.get("/api/lathes/plover/worth", params=query)
        assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, field)


def test_a_wheel_held_with_another_machine_needs_no_making(demo: TestClient) -> None:
    family = demo.get("/api/rack").json()["families"][0]["id"]
    last = advice(demo, list="ba")["single"][-1]["teeth"]
    wheel = demo.post("/api/rack/wheels", json={"wheels": str(last), "family": family, "machine": "dunlin"})
    assert wheel.status_code == 200
    best = advice(demo, list="ba")["single"][0]
    assert best["teeth"] == last
    assert best["text"].endswith("It fits; you hold one, with Dunlin: nothing has to be cut.")


def test_a_planned_wheel_is_missing_with_its_reason(demo: TestClient) -> None:
    family = demo.get("/api/rack").json()["families"][0]["id"]
    pile = {"wheels": "57", "family": family, "machine": "plover", "note": "to be made: brings 19 tpi", "planned": True}
    done = demo.post("/api/rack/wheels", json=pile)
    wheel = next(w for w in demo.get("/api/machines/plover/wheels").json()["wheels"] if w["teeth"] == 57)
    assert (wheel["count"], wheel["note"]) == (0, "to be made: brings 19 tpi")
    undo(demo, done)
    assert 57 not in [w["teeth"] for w in demo.get("/api/machines/plover/wheels").json()["wheels"]]


@pytest.mark.parametrize(
    ("at", "line", "station", "asks"),
    [
        ("hobber", "37", "hobber", "hob 37"), ("hobber", "24 dp 12", "hobber", "hob 24 dp 12"),
        ("wheel", "57", "wheel", "wheel 57"), ("dividing", "57", "dividing", "divide 57"),
        ("jobs", "57 for Plover", "jobs", "make 57 for Plover"), ("mill", "lead 300 mm", "mill", ""),
        ("hobber", "26 tpi", "lathe", ""), ("wheel", "M14x2", "lathe", ""), ("", "2 mm", "lathe", ""),
    ],
)  # fmt: skip
def test_a_bare_line_means_what_its_station_means(
    demo: TestClient, at: str, line: str, station: str, asks: str
) -> None:
    answer = demo.get("/api/reading", params={"ask": line, "at": at}).json()
    assert (answer["station"], answer["asks"], answer["whole"]) == (station, asks, True)


@pytest.mark.parametrize(("typed", "offered"), [("d", "divide 57"), ("hel", "helix 24 m2 30° left"), ("ma", "make 57")])
def test_a_line_that_begins_like_an_ask_of_another_station_goes_on_there(
    demo: TestClient, typed: str, offered: str
) -> None:
    completions = demo.get("/api/reading", params={"ask": typed}).json()["completions"]
    assert offered in [c["ask"] for c in completions]
    assert all(c["means"] for c in completions)


def test_one_thread_is_compared_on_every_lathe(demo: TestClient) -> None:
    """Least trouble first: what is on a lathe already comes before any other; a lathe without wheels says so."""
    answer = demo.get("/api/lathes/compare", params={"ask": "26 tpi"}).json()
    assert {one["machine"] for one in answer} == {"plover", "curlew", "dunlin", "wren"}
    assert (answer[0]["machine"], answer[0]["candidate"]["is_on"]) == ("plover", True)
    fits = [one["candidate"]["fits"] for one in answer if one["candidate"]]
    assert fits == sorted(fits, reverse=True)
    for one in answer:
        if one["candidate"] is not None:
            alone = demo.get(f"/api/lathes/{one['machine']}/plan", params={"ask": "26 tpi"}).json()
            assert one["candidate"]["train"] == alone["candidates"][0]["train"]
    demo.post("/api/lathe-records", json={"name": "Linnet", "screw": "8 tpi"})
    bare = next(o for o in demo.get("/api/lathes/compare", params={"ask": "26 tpi"}).json() if o["name"] == "Linnet")
    assert (bare["candidate"], bare["says"]) == (None, "Linnet has no wheels yet.")
    assert demo.get("/api/lathes/compare", params={"ask": "zz"}).status_code == 422
