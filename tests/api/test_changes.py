"""Undo takes back its own change, all of it or as much as still stands, and says what it left."""

import tempfile
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from httpx2 import Response
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.api.undoing import undo, without_versions
from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import open_store

EVERYTHING = ("rack", "machines", "stores", "rack/sets/plover", "machines/plover/wheels", "lathe-records/plover")


def shop(client: TestClient) -> list[Any]:
    return [without_versions(client.get(f"/api/{path}").json()) for path in EVERYTHING]


def wheel(client: TestClient, teeth: int, machine: str = "plover", **more: object) -> dict[str, Any]:
    wheels = client.get("/api/rack").json()["wheels"]
    result: dict[str, Any] = next(
        w for w in wheels if (w["teeth"], w["machine"]) == (teeth, machine) and all(w[k] == v for k, v in more.items())
    )
    return result


def count(client: TestClient, teeth: int) -> int:
    wheels = client.get("/api/machines/plover/wheels").json()["wheels"]
    return next((w["count"] for w in wheels if w["teeth"] == teeth), 0)


def plover(client: TestClient) -> dict[str, Any]:
    family: dict[str, Any] = client.get("/api/rack").json()["families"][0]
    return {"family": family["id"], "machine": "plover"}


LINNET = {"kind": "rotary table", "name": "Linnet", "head": {"ratio": "90"}}
CUTTER = {"system": "dp", "pitch": "12", "angle": "14.5", "range": "26-34"}


def lathe(client: TestClient, **changes: object) -> dict[str, Any]:
    result: dict[str, Any] = client.get("/api/lathe-records/plover").json() | changes
    return result


WRITES = {
    "wheels added": lambda c: c.post("/api/rack/wheels", json={"wheels": "41 41 48 50 worn", **plover(c)}),
    "wheels planned": lambda c: c.post("/api/rack/wheels", json={"wheels": "57", "planned": True, **plover(c)}),
    "wheel edited": lambda c: c.patch("/api/rack/wheels", json={"ids": [wheel(c, 24)["id"]], "note": "x", "count": 3}),
    "wheel deleted": lambda c: c.delete("/api/rack/wheels", params={"wheel": wheel(c, 24)["id"]}),
    "boxes merged": lambda c: c.post(
        "/api/rack/merge", json={"place": "box that came with the head", "into": "the mill’s own box"}
    ),
    "wheels typed over": lambda c: c.put("/api/machines/plover/wheels", json={"wheels": "24 32 36 64 78 99"}),
    "train mounted": lambda c: c.put("/api/machines/plover/mounted", json={"train": "76/66*32/78"}),
    "train taken off": lambda c: c.put("/api/machines/plover/mounted", json={"train": None}),
    "lathe changed": lambda c: c.put("/api/lathe-records/plover", json=lathe(c, name="Curlew's mate", screw="8 tpi")),
    "slots changed": lambda c: c.put(
        "/api/lathe-records/plover", json=lathe(c, slots=lathe(c)["slots"][:1], studs="1")
    ),
    "machine added": lambda c: c.post("/api/machine-records", json=LINNET),
    "machine deleted": lambda c: c.delete("/api/machine-records/grebe"),
    "set listed": lambda c: c.put("/api/rack/sets/plover", json={"wheels": "20 25 30"}),
    "cutter added": lambda c: c.post("/api/stores/cutters", json=CUTTER),
    "cutter deleted": lambda c: c.delete("/api/stores/cutters/1"),
    "bar changed": lambda c: c.put("/api/stores/bars/1", json={"material": "brass", "diameter": "9", "length": "8"}),
    "family added": lambda c: c.post("/api/rack/families", json={"name": "x", "system": "module", "pitch": "1"}),
    "demo loaded": lambda c: c.post("/api/shop/demo", json={"confirm": "replace by the demo shop"}),
}


@pytest.mark.parametrize("write", WRITES.values(), ids=WRITES)
def test_every_write_can_be_undone_and_says_what_it_was(demo: TestClient, write: Any) -> None:
    demo.post("/api/rack/wheels", json={"wheels": "27 39", **plover(demo)})
    before = shop(demo)
    done = write(demo)
    assert shop(demo) != before
    change = demo.get("/api/changes").json()[0]
    assert str(change["id"]) == done.headers["Valleywind-Change"]
    assert not change["undone"]
    assert change["text"] != "Changed the shop."
    assert undo(demo, done) == []
    assert shop(demo) == before
    undoing, undone = demo.get("/api/changes").json()[:2]
    assert undoing["text"] == f"Undone: {undone['text']}"
    assert undone["undone"]


def test_all_of_them_are_undone_in_order_to_the_beginning(demo: TestClient) -> None:
    seen, done = [], []
    for name in ("wheels added", "train mounted", "wheel edited", "set listed", "cutter added", "lathe changed"):
        seen.append(shop(demo))
        done.append(WRITES[name](demo))
    for answer, before in zip(reversed(done), reversed(seen), strict=True):
        assert undo(demo, answer) == []
        assert shop(demo) == before


def test_only_its_own_wheels_are_taken_back(demo: TestClient) -> None:
    held = count(demo, 52)
    one = demo.post("/api/rack/wheels", json={"wheels": "52", **plover(demo)})
    demo.post("/api/rack/wheels", json={"wheels": "52x4", **plover(demo)})
    assert undo(demo, one) == []
    assert count(demo, 52) == held + 4


def test_a_count_that_was_edited_is_taken_back_by_what_the_edit_added(demo: TestClient) -> None:
    ids = [wheel(demo, 52)["id"]]
    one = demo.patch("/api/rack/wheels", json={"ids": ids, "count": 4})
    demo.patch("/api/rack/wheels", json={"ids": ids, "count": 9})
    assert undo(demo, one) == []
    assert count(demo, 52) == 6
    added = demo.patch("/api/rack/wheels", json={"ids": ids, "count": 12})
    demo.patch("/api/rack/wheels", json={"ids": ids, "count": 2})
    assert undo(demo, added) == ["There are fewer of the 52 now than this change added; none are left of it."]
    assert count(demo, 52) == 0


def test_an_undone_addition_leaves_the_wheel_that_is_on_the_machine(demo: TestClient) -> None:
    added = demo.post("/api/rack/wheels", json={"wheels": "60 61", **plover(demo)})
    demo.put("/api/machines/plover/mounted", json={"train": "60/40*36/72"})
    assert undo(demo, added) == ["The 60 is on Plover; it stays."]
    assert (count(demo, 60), count(demo, 61)) == (1, 0)
    assert demo.get("/api/machines/plover").json()["mounted"] == "60/40*36/72"


def test_a_train_whose_wheel_is_gone_is_not_put_back(demo: TestClient) -> None:
    off = demo.put("/api/machines/plover/mounted", json={"train": None})
    demo.delete("/api/rack/wheels", params={"wheel": wheel(demo, 78)["id"]})
    assert undo(demo, off) == ["The train cannot stand on Plover again; some of its wheels are gone."]
    assert demo.get("/api/machines/plover").json()["mounted"] is None


def test_what_another_changed_since_stays_and_is_told(demo: TestClient) -> None:
    answer = demo.patch("/api/rack/wheels", json={"ids": [wheel(demo, 24)["id"]], "note": "mine", "place": "shelf"})
    demo.patch("/api/rack/wheels", json={"ids": [wheel(demo, 24)["id"]], "note": "theirs"})
    assert undo(demo, answer) == ["The 24 was changed since; it stays as it is now."]
    assert (wheel(demo, 24)["note"], wheel(demo, 24)["place"]) == ("theirs", "peg board by the headstock")
    mine = demo.put("/api/lathe-records/plover", json=lathe(demo, screw="8 tpi"))
    demo.put("/api/lathe-records/plover", json=lathe(demo, feed_across="1 mm"))
    assert undo(demo, mine) == ["The record of Plover was changed since; it stays as it is now."]
    assert lathe(demo)["screw"] == "8 tpi"


def test_a_name_that_another_took_stays_theirs(demo: TestClient) -> None:
    renamed = demo.put("/api/lathe-records/plover", json=lathe(demo, name="Knot"))
    assert demo.get("/api/machines/plover").status_code == 404
    assert demo.post("/api/machine-records", json=LINNET | {"name": "Plover"}).json()["slug"] == "plover"
    assert undo(demo, renamed) == ["The name or place of Knot was taken since."]
    assert [m["name"] for m in demo.get("/api/machines").json()].count("Plover") == 1


def test_a_family_that_came_into_use_stays(demo: TestClient) -> None:
    made = demo.post("/api/rack/families", json={"name": "x", "system": "module", "pitch": "1"})
    demo.post("/api/rack/wheels", json={"wheels": "40", "family": made.json()["id"]})
    assert undo(demo, made) == ["X is in use since; it stays."]
    assert any(w["family"] == made.json()["id"] for w in demo.get("/api/rack").json()["wheels"])


def test_a_wheel_that_was_put_in_again_is_not_doubled(demo: TestClient) -> None:
    gone = demo.delete("/api/rack/wheels", params={"wheel": wheel(demo, 24)["id"]})
    demo.post("/api/rack/wheels", json={"wheels": "24", **plover(demo)})
    assert undo(demo, gone) == []
    assert count(demo, 24) == 2


def test_a_cutter_that_another_put_right_stays(demo: TestClient) -> None:
    known = {c["id"] for c in cutters(demo)}
    added = demo.post("/api/stores/cutters", json=CUTTER)
    (mine,) = [c for c in cutters(demo) if c["id"] not in known]
    theirs = demo.put(f"/api/stores/cutters/{mine['id']}", json=mine["typed"] | {"note": "theirs"})
    assert theirs.status_code == 200
    (left,) = undo(demo, added)
    assert left.endswith("was changed since; it stays as it is now.")
    assert mine["id"] in {c["id"] for c in cutters(demo)}


def cutters(client: TestClient) -> list[dict[str, Any]]:
    return [cutter for of_set in client.get("/api/stores").json()["sets"] for cutter in of_set["cutters"]]


def test_a_reset_is_undone_though_the_new_shop_was_worked_in(demo: TestClient) -> None:
    """A wheel that was added since goes to the family of the same name; what was mounted since goes with its shop."""
    note = demo.patch("/api/rack/wheels", json={"ids": [wheel(demo, 24)["id"]], "note": "mine"})
    assert note.status_code == 200
    reset = demo.post("/api/shop/demo", json={"confirm": "replace by the demo shop"})
    assert wheel(demo, 24)["note"] == ""
    demo.post("/api/rack/wheels", json={"wheels": "41x2", **plover(demo)})
    demo.put("/api/machines/plover/mounted", json={"train": "76/66*32/78"})
    assert undo(demo, reset) != []
    assert wheel(demo, 24)["note"] == "mine"
    assert count(demo, 41) == 2
    assert demo.get("/api/machines/plover").json()["mounted"] == "36/64*32/78"
    assert demo.get("/api/lathes/plover/plan", params={"ask": "M14x2"}).status_code == 200


TEETH = (24, 32, 40, 41, 60, 66, 76, 78)
TRAINS = ("76/66*32/78", "36/64*32/78", "40/60/80", None)
DOES = st.sampled_from(["add", "add", "take", "note", "mount", "reset", "undo", "undo"])


def do(client: TestClient, kind: str, n: int) -> Response | None:
    """One thing that is done to the shop; None where there is nothing to do it to."""
    teeth = TEETH[n % len(TEETH)]
    rack = client.get("/api/rack").json()["wheels"]
    held = [w["id"] for w in rack if (w["teeth"], w["machine"]) == (teeth, "plover")]
    match kind:
        case "add":
            return client.post("/api/rack/wheels", json={"wheels": f"{teeth}x{1 + n % 3}", **plover(client)})
        case "take" if held:
            return client.delete("/api/rack/wheels", params={"wheel": held[0]})
        case "note" if held:
            return client.patch("/api/rack/wheels", json={"ids": held[:1], "note": f"n{n}", "count": 1 + n % 4})
        case "mount":
            return client.put("/api/machines/plover/mounted", json={"train": TRAINS[n % len(TRAINS)]})
        case "reset":
            return client.post("/api/shop/demo", json={"confirm": "replace by the demo shop"})
        case "undo":
            # All but the first, which made the shop.
            done = [c["id"] for c in client.get("/api/changes").json() if not c["undone"]][:-1]
            return client.post(f"/api/changes/{done[n % len(done)]}/undo") if done else None
        case _:
            return None


@settings(max_examples=6, deadline=None)
@given(st.lists(st.tuples(DOES, st.integers(0, 99)), min_size=4, max_size=12))
def test_whatever_is_done_and_undone_leaves_a_shop_that_is_whole(steps: list[tuple[str, int]]) -> None:
    """Every undo ends in an answer, nobody's wheel goes below none, and what is on a machine is in the rack."""
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "shop.sqlite")
        with store.session() as session:
            harrowfold.load(session)
        with TestClient(make_app(store, demo=True), base_url="http://127.0.0.1") as client:
            for kind, n in steps:
                answer = do(client, kind, n)
                assert answer is None or answer.status_code in (200, 422), answer.text
            assert all(w["count"] >= 0 for w in client.get("/api/rack").json()["wheels"])
            assert short(client) == 0
            assert client.get("/api/lathes/plover/plan", params={"ask": "M14x2"}).status_code == 200
        store.engine.dispose()


def short(client: TestClient) -> int:
    """How many wheels are on Plover that its rack does not have."""
    wheels = client.get("/api/machines/plover/wheels").json()["wheels"]
    return sum(max(0, w["mounted"] - w["count"]) for w in wheels)


def test_an_undo_that_is_undone_says_that_it_is_done_again(demo: TestClient) -> None:
    def undone() -> tuple[str, list[str]]:
        done = demo.post(f"/api/changes/{demo.get('/api/changes').json()[0]['id']}/undo").json()
        assert not done["left"]
        return done["text"], [c["text"] for c in demo.get("/api/changes").json()[:2]]

    job = demo.post("/api/jobs", json={"ask": "make 57 for Plover"}).json()
    assert demo.post(f"/api/jobs/{job['id']}/rack").status_code == 200
    added = "Added to the rack: 57."
    assert undone() == (added, [f"Undone: {added}", added])
    assert undone() == (f"Undone: {added}", [f"Done again: {added}", f"Undone: {added}"])


def test_nothing_is_undone_twice_and_what_is_too_old_is_refused(demo: TestClient) -> None:
    added = demo.post("/api/rack/wheels", json={"wheels": "41", **plover(demo)})
    undo(demo, added)
    again = demo.post(f"/api/changes/{added.headers['Valleywind-Change']}/undo")
    assert again.json()["errors"][0]["code"] == "undone_already"
    assert demo.post("/api/changes/9999/undo").status_code == 404


def test_a_rack_that_lacks_a_mounted_wheel_hinders_nothing_else(demo: TestClient) -> None:
    """As an older version could leave it."""
    from sqlalchemy import text

    with demo.app.state.store.session() as session:  # type: ignore[attr-defined]
        session.execute(text("UPDATE wheel SET count = 0 WHERE id = :id"), {"id": wheel(demo, 78)["id"]})
    edited = demo.patch("/api/rack/wheels", json={"ids": [wheel(demo, 24)["id"]], "place": "bench"})
    assert edited.status_code == 200
    assert undo(demo, edited) == []


@pytest.mark.parametrize("both", [("slow", "fast"), ("fast", "slow")])
def test_levers_that_turn_alike_are_read_back_as_they_were_recorded(demo: TestClient, both: tuple[str, str]) -> None:
    demo.put("/api/machines/plover/mounted", json={"train": None})
    demo.put("/api/lathe-records/plover", json=lathe(demo, first="fast=1, slow=1"))
    for lever in both:
        demo.put("/api/machines/plover/mounted", json={"train": f"36/64*32/78@{lever}"})
        assert demo.get("/api/machines/plover").json()["mounted"] == f"36/64*32/78@{lever}"
        assert demo.get("/api/lathes/plover/now").json()["candidates"][0]["levers"] == f"first shaft {lever}"
        first = demo.get("/api/lathes/plover/plan?ask=26 tpi").json()["candidates"][0]
        assert (first["is_on"], first["work"]) == (True, "already on the machine")


def test_a_record_cannot_lose_the_lever_position_that_is_set(demo: TestClient) -> None:
    demo.put("/api/machines/plover/mounted", json={"train": None})
    demo.put("/api/lathe-records/plover", json=lathe(demo, first="fast=1, slow=1/2"))
    demo.put("/api/machines/plover/mounted", json={"train": "36/64*32/78@slow"})
    refused = demo.put("/api/lathe-records/plover", json=lathe(demo, first="fast=1, quick=2"))
    assert (refused.status_code, refused.json()["errors"][0]["field"]) == (422, "first")
    assert "stands at “slow” now" in refused.json()["detail"]
    assert demo.put("/api/lathe-records/plover", json=lathe(demo, first="fast=1, low=1/2")).status_code == 200
    assert demo.get("/api/machines/plover").json()["mounted"] == "36/64*32/78@low"
