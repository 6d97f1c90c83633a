from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api.racks import bare, rack, wheel
from tests.api.undoing import undo
from valleywind.shop import rack as in_the_shop
from valleywind.shop.store import Store


def test_the_demo_rack_tells_doubles_gaps_and_strays(demo: TestClient) -> None:
    result = rack(demo)
    plover = result["families"][0]
    assert (plover["name"], plover["doubles"], plover["gaps"]) == ("Plover's wheels", [40, 48], [60])
    assert plover["text"] == "12 DP, 14.5°, bore 7/8 in, key 3/16 in, face 5/8 in"
    strays = {w["teeth"]: w["stray"] for w in result["wheels"] if w["stray"]}
    assert strays == {
        36: "in Plover’s box, but module 1.25 meshes with none of its wheels", 30: "not identified",
    }  # fmt: skip
    assert {w["condition"] for w in result["wheels"] if w["teeth"] == 48 and w["machine"] == "plover"} == {
        "good",
        "worn",
    }


def test_a_pile_goes_in_and_comes_out_again(demo: TestClient) -> None:
    before = rack(demo)
    family = before["families"][0]["id"]
    pile = {
        "wheels": "40 40 45 50 worn 20",
        "family": family,
        "machine": "plover",
        "place": "peg board by the headstock",
    }
    done = demo.post("/api/rack/wheels", json=pile)
    assert wheel(demo, 40)["count"] == 4
    assert wheel(demo, 50)["condition"] == "worn"
    assert demo.get("/api/lathes/plover/plan?ask=M14x2").status_code == 200
    assert undo(demo, done) == []
    assert bare(rack(demo)) == bare(before)


def test_a_missing_wheel_comes_to_its_own_place(demo: TestClient) -> None:
    family = rack(demo)["families"][0]["id"]
    demo.post("/api/rack/wheels", json={"wheels": "60", "family": family, "machine": "plover"})
    assert rack(demo)["families"][0]["gaps"] == []
    assert wheel(demo, 60)["count"] == 1


def test_what_is_mounted_cannot_go(demo: TestClient) -> None:
    before = rack(demo)
    mounted = wheel(demo, 78)
    for answer in (
        demo.delete("/api/rack/wheels", params={"wheel": mounted["id"]}),
        demo.patch("/api/rack/wheels", json={"ids": [mounted["id"]], "condition": "chipped"}),
        demo.patch("/api/rack/wheels", json={"ids": [mounted["id"]], "machine": "curlew"}),
        demo.patch("/api/rack/wheels", json={"ids": [mounted["id"]], "count": 0}),
    ):
        reply = answer.json()["errors"][0]
        assert answer.status_code == 422
        assert reply["says"] == "The train on the machine uses a 78 that would be gone."
        assert reply["would_do"] == "Keep the wheel, or take the train off first."
    assert rack(demo) == before


def test_a_chipped_wheel_and_one_of_another_pitch_are_in_no_plan(demo: TestClient) -> None:
    plan = demo.get("/api/lathes/plover/plan?ask=M14x2").json()
    assert plan["left_out"] == "Left out: a 36 of module 1.25, which does not mesh with 12 DP."
    assert any("76" in c["train"] for c in plan["candidates"])
    demo.patch("/api/rack/wheels", json={"ids": [wheel(demo, 76)["id"]], "condition": "chipped"})
    plan = demo.get("/api/lathes/plover/plan?ask=M14x2").json()
    assert not any("76" in c["train"] for c in plan["candidates"])
    assert "a 76 that is chipped" in plan["left_out"]


def test_many_are_changed_at_once_and_put_back(demo: TestClient) -> None:
    before = rack(demo)
    ids = [w["id"] for w in before["wheels"] if w["machine"] == "curlew"]
    done = demo.patch("/api/rack/wheels", json={"ids": ids, "place": "second drawer", "material": "steel"})
    assert {w["place"] for w in rack(demo)["wheels"] if w["machine"] == "curlew"} == {"second drawer"}
    assert undo(demo, done) == []
    assert rack(demo) == before


def test_wheels_without_a_machine_serve_every_machine_of_their_family(demo: TestClient) -> None:
    family = rack(demo)["families"][0]["id"]
    demo.post("/api/rack/wheels", json={"wheels": "67", "family": family})
    shelf = demo.get("/api/machines/plover/wheels").json()
    assert next(w for w in shelf["wheels"] if w["teeth"] == 67)["count"] == 1


def test_no_more_wheels_are_on_than_the_train_has(demo: TestClient) -> None:
    before = demo.get("/api/rack").json()["wheels"]
    pile = {"wheels": "36 36 64 worn 32", "family": before[0]["family"], "machine": "plover"}
    assert demo.post("/api/rack/wheels", json=pile).status_code == 200
    wheels = demo.get("/api/rack").json()["wheels"]
    on = [(w["teeth"], w["mounted"], w["condition"]) for w in wheels if w["mounted"] and w["machine"] == "plover"]
    assert sorted(on) == [(32, 1, "good"), (36, 1, "good"), (64, 1, "good"), (78, 1, "good")]
    stray = next(w for w in wheels if w["stray"] and w["teeth"] == 36)
    assert (stray["machine"], stray["mounted"]) == ("plover", 0)


def test_an_unknown_wheel_resolves_by_a_second_measurement(demo: TestClient) -> None:
    unknown = next(w for w in rack(demo)["wheels"] if w["family"] is None and w["measured"])
    readings = unknown["measured"]
    first = demo.post("/api/rack/identify", json={"wheels": [readings], "keep": unknown["id"]}).json()
    assert {i["text"] for i in first["identities"][:2]} == {"16 DP", "module 1.6"}
    assert first["identities"][0]["probability"] < 0.9
    assert first["next"]["what"] in ("span", "next_span")
    assert "for 16 DP" in first["next_text"]
    over = first["next"]["over"]
    # 16 DP, 14.5°: nominal spans 17.155 and 21.984 mm, less a tenth of wear and thinning.
    assert over == 4
    spans = {"span_teeth": over, "span": "17.05 mm", "span_next": "21.88 mm"}
    second = demo.post("/api/rack/identify", json={"wheels": [readings | spans], "keep": unknown["id"]}).json()
    assert second["identities"][0]["text"].startswith("16 DP")
    assert sum(i["probability"] for i in second["identities"] if i["value"] == "16") > 0.9
    kept = next(w for w in rack(demo)["wheels"] if w["id"] == unknown["id"])
    assert kept["measured"]["span"] == "17.05 mm"


def test_a_shifted_wheel_keeps_its_shift(demo: TestClient) -> None:
    readings = {"teeth": "20", "tip_diameter": "46.00", "span_teeth": "3", "span": "16.00", "span_next": "21.91"}
    answer = demo.post("/api/rack/identify", json={"wheels": [readings]}).json()
    first = answer["identities"][0]
    assert first["text"] == "module 2, 20°, shifted +0.51"
    assert first["fits"]
    family = next(f for f in rack(demo)["families"] if f["pitch"] == "module 2")
    added = demo.post("/api/rack/wheels", json={"wheels": "20", "family": family["id"]}).json()["ids"]
    before = next(w for w in demo.get("/api/rack").json()["wheels"] if w["id"] == added[0])
    demo.patch("/api/rack/wheels", json={"ids": added, "shift": first["shift"]})
    wheel = next(w for w in rack(demo)["wheels"] if w["id"] in added)
    assert wheel["shift"] == first["shift"]
    # By somebody who saw it before that: another shift is refused, the same one is not.
    for shift, status in ((0.1, 409), (first["shift"], 200)):
        edit = {"ids": added, "shift": shift, "seen": [before]}
        assert demo.patch("/api/rack/wheels", json=edit).status_code == status
    assert wheel["shifted"] == "shifted +0.51: it stands about 1.02 mm farther from its mates"
    assert demo.patch("/api/rack/wheels", json={"ids": added, "shift": 1.5}).json()["errors"][0]["field"] == "shift"
    assert demo.get("/api/rack/wheels.csv").text.splitlines()[0].split(",")[-1] == "shift"


def test_a_tip_of_no_standard_wheel_is_called_so(demo: TestClient) -> None:
    answer = demo.post("/api/rack/identify", json={"wheels": [{"teeth": "60", "tip_diameter": "127.0"}]}).json()
    assert answer["next_text"].startswith("None of the standard wheels has these readings; perhaps it is shifted or")
    assert answer["identities"][0]["likelihood"] == "does not fit"
    assert answer["identities"][0]["families"] == []
    assert answer["next"]["what"] == "span"


def test_a_family_is_entered_once(demo: TestClient) -> None:
    wanted = {"name": "Box from the fair", "system": "dp", "pitch": "20", "angle": "14.5°", "bore": "5/8 in"}
    made = demo.post("/api/rack/families", json=wanted).json()
    assert made["text"] == "20 DP, 14.5°, bore 5/8 in"
    again = demo.post("/api/rack/families", json=wanted | {"name": "The same"}).json()["errors"][0]
    assert (again["field"], again["says"]) == ("pitch", "The family “Box from the fair” is just the same.")


@pytest.mark.parametrize(
    ("path", "body", "field", "code"),
    [
        ("wheels", {"wheels": "0"}, "wheels", "teeth_out_of_range"),
        ("wheels", {"wheels": "4O"}, "wheels", "not_a_wheel"),
        ("wheels", {"wheels": "40", "family": 99}, "family", "no_such_family"),
        ("families", {"name": "", "system": "dp", "pitch": "20"}, "name", "empty"),
        ("families", {"name": "x", "system": "dp", "pitch": "0"}, "pitch", "not_positive"),
        ("families", {"name": "x", "system": "dp", "pitch": "20", "angle": "50"}, "angle", "angle_out_of_range"),
        ("families", {"name": "x", "system": "module", "pitch": "1", "bore": "wide"}, "bore", "not_a_number"),
        ("identify", {"wheels": [{"teeth": 40}]}, "measurements", "nothing_measured"),
        ("identify", {"wheels": [{"teeth": 40, "tip_diameter": "thick"}]}, "tip_diameter", "not_a_number"),
    ],
)
def test_bad_input_names_its_field(demo: TestClient, path: str, body: dict[str, Any], field: str, code: str) -> None:
    before = rack(demo)
    answer = demo.post(f"/api/rack/{path}", json=body)
    assert answer.status_code == 422
    reply = answer.json()["errors"][0]
    assert (reply["field"], reply["code"]) == (field, code)
    assert rack(demo) == before


def test_the_rack_goes_out_as_csv_and_comes_in_again(demo: TestClient) -> None:
    text = demo.get("/api/rack/wheels.csv").content
    headers = {"Content-Type": "text/csv"}
    before = rack(demo)
    seen = demo.post("/api/rack/wheels.csv", content=text, headers=headers).json()
    assert (seen["good"], seen["bad"], seen["done"]) == (len(before["wheels"]), 0, False)
    assert rack(demo) == before
    done = demo.post("/api/rack/wheels.csv?put=true", content=text, headers=headers)
    assert len(rack(demo)["wheels"]) == 2 * len(before["wheels"])
    assert undo(demo, done) == []
    assert rack(demo) == before
    bad = demo.post("/api/rack/wheels.csv?put=true", content=b"teeth,note\n40,=1+1\n4O,\n", headers=headers).json()
    assert (bad["good"], bad["bad"], bad["done"]) == (1, 1, False)
    assert bad["lines"][0]["problem"] == "teeth: “4O” is not a number for this column. A whole number from 6 to 400."
    assert rack(demo) == before
    refused = demo.post("/api/rack/wheels.csv", content="Zähne".encode("latin-1"), headers=headers).json()
    assert refused["errors"][0]["would_do"] == "Save it again as CSV UTF-8 from the spreadsheet."


@pytest.mark.parametrize(("same", "times", "count"), [("skip", 1, 0), ("add", 2, 0), ("replace", 1, 5)])
def test_ones_own_export_is_read_back(demo: TestClient, same: str, times: int, count: int) -> None:
    def pieces() -> int:
        return sum(w["count"] for w in rack(demo)["wheels"])

    before, text = pieces(), demo.get("/api/rack/wheels.csv").text
    if count:
        lines = text.splitlines()
        held = next(n for n, line in enumerate(lines) if line.split(",")[1] == "1")
        teeth, _, *rest = lines[held].split(",")
        lines[held] = ",".join((teeth, str(count), *rest))
        text, extra = "\n".join(lines), count - 1
    else:
        extra = 0
    looked = demo.post("/api/rack/wheels.csv", content=text, headers={"Content-Type": "text/csv"}).json()
    assert looked["there"] == looked["good"] > 50
    put = demo.post(
        "/api/rack/wheels.csv", params={"put": True, "same": same}, content=text, headers={"Content-Type": "text/csv"}
    ).json()
    assert put["done"]
    assert pieces() == times * before + extra


def test_the_rack_comes_in_pages(demo: TestClient) -> None:
    whole = demo.get("/api/rack").json()
    assert (whole["next"], whole["answering"], whole["records"]) == (None, len(whole["wheels"]), len(whole["wheels"]))
    pages, begin = [], 0
    while begin is not None:
        page = demo.get("/api/rack", params={"begin": begin, "most": 7}).json()
        assert page["families"] == whole["families"]
        pages += page["wheels"]
        begin = page["next"]
    assert pages == whole["wheels"]
    some = [w["id"] for w in whole["wheels"][3:9:2]]
    assert [w["id"] for w in demo.get("/api/rack", params={"wheel": some}).json()["wheels"]] == some
    assert demo.get("/api/rack", params={"begin": 10**6}).json()["wheels"] == []
    assert demo.get("/api/rack/families").json() == whole["families"]


def test_wheels_are_sought_by_teeth_and_words(demo: TestClient) -> None:
    """By what the page shows of them, in whatever case."""
    every = demo.get("/api/rack").json()["wheels"]
    columns = ("condition", "material", "place", "note", "machine_name", "stray")
    looked = 0
    for seek in ("48", "worn", "PLOVER", "plover 40", "fits no", "40 41", "ü", "zz"):
        words = seek.lower().split()
        wanted = [
            w["id"]
            for w in every
            if all(
                w["teeth"] == int(word) if word.isdigit() else word in " ".join(w[k] or "" for k in columns).lower()
                for word in words
            )
        ]
        answer = demo.get("/api/rack", params={"seek": seek}).json()
        assert [w["id"] for w in answer["wheels"]] == wanted, seek
        assert answer["answering"] == len(wanted)
        looked += bool(wanted)
    assert looked >= 4


def test_what_stands_out_is_told_of_the_whole_rack(demo: TestClient) -> None:
    every = demo.get("/api/rack").json()
    out = {w["id"] for w in every["wheels"] if w["count"] and (w["stray"] or w["condition"] != "good")}
    assert {w for standing in every["stand_out"] for w in standing["ids"]} == out
    demo.post("/api/rack/wheels", json={"wheels": " ".join(f"{n} worn" for n in range(20, 60)), "family": 1})
    page = demo.get("/api/rack", params={"seek": "zz"}).json()
    assert page["wheels"] == []
    (worn,) = (standing for standing in page["stand_out"] if standing["why"] == "worn")
    assert (len(worn["teeth"]), worn["wheels"]) == (12, len(worn["ids"]))
    assert sum(standing["wheels"] for standing in page["stand_out"]) == len(out) + 40


@pytest.mark.parametrize("by", ["teeth", "held", "condition", "machine", "place", "material"])
def test_wheels_come_in_the_order_that_is_asked(demo: TestClient, by: str) -> None:
    for material in ("steel", "Brass", "acetal"):
        demo.post("/api/rack/wheels", json={"wheels": "40", "family": 1, "material": material})
    named = {"held": "count", "machine": "machine_name"}.get(by, by)

    def values(down: bool) -> list[Any]:
        wheels = demo.get("/api/rack", params={"by": by, "down": down}).json()["wheels"]
        return [w[named] if isinstance(w[named], int) else (w[named] or "").casefold() for w in wheels]

    up, down = ([v for v in values(way) if v != ""] for way in (False, True))
    assert up == sorted(up)
    assert down == sorted(up, reverse=True)
    assert len(set(up)) > 1
    if by == "place":
        assert values(True)[-1] == "", "what has no place stands last either way"


def test_more_wheels_than_one_question_takes_are_read(
    demo: TestClient, store: Store, monkeypatch: pytest.MonkeyPatch
) -> None:
    every = [w["id"] for w in demo.get("/api/rack").json()["wheels"]]
    monkeypatch.setattr(in_the_shop, "_ASKED_AT_ONCE", 7)
    with store.reading() as session:
        assert [row.id for row in in_the_shop.in_full(session, in_the_shop.briefly(session))] == every
