from typing import Any

import pytest
from fastapi.testclient import TestClient


def record(client: TestClient, machine: str) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/api/lathe-records/{machine}").json()
    return found


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
    wren = record(demo, "plover") | {"name": "Wren", "screw": "8 tpi", "family": family, "note": "new"}
    made = demo.post("/api/lathe-records", json=wren).json()
    assert (made["slug"], made["screw"]) == ("wren", "8 tpi")
    # It has no wheels of its own, and Plover's are Plover's.
    told = demo.get("/api/lathes/wren/plan?ask=M14x2").json()["errors"][0]
    assert told["says"] == "Wren has no wheels yet."
    demo.put("/api/machines/wren/wheels", json={"wheels": "24 32 40 48 60 64 72 80"})
    best = demo.get("/api/lathes/wren/plan?ask=16 tpi").json()["candidates"][0]
    assert best["error"] == "exact"
    again = demo.post("/api/lathe-records", json=wren).json()["errors"][0]
    assert (again["field"], again["code"]) == ("name", "name_taken")
    kept = demo.delete("/api/lathe-records/wren").json()["errors"][0]
    assert kept["says"] == "Wren has wheels or a train of its own."


def test_what_is_mounted_keeps_its_family(demo: TestClient) -> None:
    other = demo.get("/api/rack").json()["families"][1]["id"]
    refused = demo.put("/api/lathe-records/plover", json=record(demo, "plover") | {"family": other}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("family", "mounted_not_held")


def test_the_preview_says_whether_a_known_train_goes_on(demo: TestClient) -> None:
    typed = record(demo, "plover")

    def preview(changes: dict[str, Any], train: str = "76/66*32/78") -> dict[str, Any]:
        found: dict[str, Any] = demo.post(
            "/api/lathe-records/preview", json={"record": typed | changes, "train": train}
        ).json()
        return found

    fits = preview({})
    assert (fits["train_fits"], fits["train_text"]) == (True, "76/66 × 32/78 goes on: 17.8 mm clear.")
    far = preview({"first_x": "200"})
    assert far["train_fits"] is False
    assert "into the cover" in far["train_text"]
    bare = preview({"screw": ""}, "")
    assert [p["field"] for p in bare["problems"]] == ["screw"]
    assert [s["name"] for s in bare["drawing"]["slots"]] == ["slot A", "slot B"]
    assert preview({"first_x": "over there"})["drawing"] is None


def test_calipers_give_the_place_and_the_bosses(demo: TestClient) -> None:
    readings = {"over": "214.8 mm", "first_boss": "32", "last_boss": "32", "height": "168"}
    found = demo.get("/api/lathe-records/calipers", params=readings).json()
    assert (round(found["x_mm"], 1), found["y_mm"], found["first_boss_radius_mm"]) == (72.1, 168, 16)
    refused = demo.get("/api/lathe-records/calipers", params=readings | {"over": "100"}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("over", "calipers_do_not_close")
