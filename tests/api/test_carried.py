"""The shop as a file: written, read by others, taken in with a look first; and files that are none."""

import io
import json
import zipfile
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from valleywind.api.app import make_app
from valleywind.app import file_export, file_import
from valleywind.core.refusal import Refusal
from valleywind.demo import harrowfold
from valleywind.formats import shop_file
from valleywind.shop import photos, rack
from valleywind.shop.store import Store, open_store

SCHEMA = Path(__file__).parent.parent.parent / "docs" / "shop.schema.json"


def file_of(client: TestClient, **part: Any) -> bytes:
    answer = client.get("/api/shop/file.zip", params=part)
    assert answer.status_code == 200, answer.text
    return answer.content


def spelled(packed: bytes) -> dict[str, Any]:
    with zipfile.ZipFile(io.BytesIO(packed)) as file:
        read: dict[str, Any] = json.loads(file.read("shop.json"))
    return read


def packed(shop: Any, **others: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("shop.json", shop if isinstance(shop, bytes | str) else json.dumps(shop))
        for name, content in others.items():
            file.writestr(name, content)
    return out.getvalue()


def look(client: TestClient, content: bytes) -> dict[str, Any]:
    answer = client.post("/api/shop/file/look", content=content, headers={"Content-Type": "application/octet-stream"})
    assert answer.status_code == 200, answer.text
    looked: dict[str, Any] = answer.json()
    return looked


def take_in(client: TestClient, content: bytes, **choices: str) -> str:
    token = look(client, content)["token"]
    named = {key.replace("_", " "): choice for key, choice in choices.items()}
    answer = client.post("/api/shop/file/import", json={"token": token, "choices": named})
    assert answer.status_code == 200, answer.text
    text: str = answer.json()["text"]
    return text


@pytest.fixture
def other(tmp_path: Path) -> Any:
    """Another shop, empty."""
    second = open_store(tmp_path / "other" / "shop.sqlite")
    yield second
    second.engine.dispose()


def carried(source: Store, target: Store) -> tuple[shop_file.FileShop, shop_file.FileShop]:
    """A shop, and what another is after it took it in; through the bytes of the file."""
    with source.reading() as session:
        written = shop_file.write(*file_export.file_of(session))
    shop, _ = shop_file.read(written)
    take(target, written)
    with target.reading() as session:
        again, _ = file_export.file_of(session)
    return shop, again


def without_date(shop: shop_file.FileShop) -> bytes:
    return shop_file.write(shop.model_copy(update={"made": ""}), {})


def test_out_and_in_and_out_again_are_the_same_bytes_but_for_the_date(store: Store, other: Store) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (30, 20), "grey").save(picture, "JPEG")
    with store.session() as session:
        harrowfold.load(session, with_year=True)
        [wheel, *_] = rack.briefly(session)
        rack.keep_photo(session, wheel.id, photos.keep(session, picture.getvalue()))
    shop, again = carried(store, other)
    assert without_date(again) == without_date(shop)
    assert len(shop.machines) == 7
    assert len(shop.log) > 80
    assert any(w.photo for w in shop.wheels)
    assert shop.jobs[0].session
    assert len(shop.jobs[0].session.events) > 100


def test_an_empty_shop_and_one_of_five_thousand_wheels(store: Store, other: Store, tmp_path: Path) -> None:
    shop, again = carried(store, other)
    assert without_date(again) == without_date(shop)
    with store.session() as session:
        harrowfold.load(session)
        family = rack.families(session)[0].id
        bare: rack.Record = {
            "family_id": family,
            "machine_id": None,
            "condition": "good",
            "count": 1,
            "material": "",
            "note": "",
            "measured": {},
            "shift": 0.0,
            "photo": "",
        }
        rack.put_records(session, [bare | {"teeth": 20 + n % 90, "place": f"box {n}"} for n in range(5000)])
    third = open_store(tmp_path / "third.sqlite")
    shop, again = carried(store, third)
    third.engine.dispose()
    assert len(shop.wheels) > 5000
    assert without_date(again) == without_date(shop)


def test_the_file_is_as_its_schema_says_and_names_units_and_no_numbers(demo: TestClient) -> None:
    assert json.loads(SCHEMA.read_text()) == shop_file.schema()
    shop = spelled(file_of(demo))
    assert shop["format"] == "valleywind-shop"
    [plover] = [m for m in shop["machines"] if m["name"] == "Plover"]
    assert plover["lathe"]["screw_lead_mm"] == "127/30"
    assert plover["family"] in {f["name"] for f in shop["families"]}

    def keys(value: Any) -> set[str]:
        if isinstance(value, dict):
            return set(value) | {k for v in value.values() for k in keys(v)}
        return {k for v in value for k in keys(v)} if isinstance(value, list) else set()

    assert not {key for key in keys(shop) if key == "id" or key.endswith("_id")}
    with zipfile.ZipFile(io.BytesIO(file_of(demo))) as file:
        assert file.read("wheels.csv").decode("utf-8-sig").startswith("family,machine,teeth,count,")


def test_one_machine_comes_with_its_wheels_and_its_family(demo: TestClient, other: Store) -> None:
    packed_one = file_of(demo, machine="plover")
    shop = spelled(packed_one)
    assert [m["name"] for m in shop["machines"]] == ["Plover"]
    assert {w["machine"] for w in shop["wheels"]} == {"plover"}
    assert shop["jobs"] == shop["log"] == shop["bars"] == []
    take(other, packed_one)
    with other.reading() as session:
        again, _ = file_export.file_of(session)
    assert [m.name for m in again.machines] == ["Plover"]
    assert len(again.wheels) == len(shop["wheels"])
    job = spelled(file_of(demo, job=1))
    assert [j["teeth"] for j in job["jobs"]] == [57]
    assert job["machines"] == []


def test_a_set_of_wheels_goes_alone(demo: TestClient, other: Store) -> None:
    there = demo.get("/api/rack").json()
    number, family = there["families"][0]["id"], there["families"][0]["name"]
    answer = demo.get("/api/shop/file.zip", params={"family": family.upper()})
    shop, _ = shop_file.read(answer.content)
    assert [f.name for f in shop.families] == [family]
    assert shop.machines == []
    held = [w for w in there["wheels"] if w["family"] == number]
    assert sum(w.count for w in shop.wheels) == sum(w["count"] for w in held) > 0
    with other.session() as session:
        taken = file_import.take_in(session, shop, {}, {})
    assert taken["wheel"] == len(shop.wheels)
    assert demo.get("/api/shop/file.zip", params={"family": "none such"}).status_code == 422


def test_what_is_to_be_done_comes_along_and_comes_once(demo: TestClient, other: Store) -> None:
    asks = demo.post("/api/day", json={"asks": ["M14x2", "hob 37", "M10"]}).json()
    demo.put(f"/api/day/{asks[2]['id']}", json={"machine": "plover", "after": asks[0]["id"]})
    demo.post(f"/api/day/{asks[1]['id']}/done", json={"outcome": "tight"})
    shop, photos = shop_file.read(demo.get("/api/shop/file.zip").content)
    assert [(t.ask, t.machine, t.after, t.state) for t in shop.tasks] == [
        ("M14x2", "plover", None, "open"), ("hob 37", "avocet", None, "done"), ("M10", "plover", 0, "open"),
    ]  # fmt: skip
    for _ in range(2):
        with other.session() as session:
            file_import.take_in(session, shop, photos, {})
        with other.reading() as session:
            again, _ = file_export.file_of(session)
        assert again.tasks == shop.tasks


@pytest.mark.parametrize("after", [(1, 0), (0, None), (7, None)])
def test_what_comes_before_itself_is_no_file(
    demo: TestClient, other: Store, after: tuple[int | None, int | None]
) -> None:
    demo.post("/api/day", json={"asks": ["M14x2", "M10"]})
    shop, photos = shop_file.read(demo.get("/api/shop/file.zip").content)
    for task, before in zip(shop.tasks, after, strict=True):
        task.after = before
    with pytest.raises(Refusal, match="shop_file_damaged"), other.session() as session:
        file_import.take_in(session, shop, photos, {})


def test_a_job_that_is_being_cut_here_stays(demo: TestClient) -> None:
    shop, photos = shop_file.read(demo.get("/api/shop/file.zip").content)
    cut = next(n for n, job in enumerate(shop.jobs) if job.session is not None)
    shop.jobs[cut].typed["note"] = "another"
    looked = demo.post("/api/shop/file/look", content=shop_file.write(shop, photos),
                       headers={"Content-Type": "application/octet-stream"}).json()  # fmt: skip
    thing = next(one for one in looked["things"] if one["key"] == f"job {cut}")
    assert [one["choice"] for one in thing["choices"]] == ["mine"]


def test_what_is_the_same_is_left_and_what_differs_is_asked(demo: TestClient) -> None:
    mine = file_of(demo)
    assert look(demo, mine)["things"] == []
    theirs = spelled(mine)
    [plover] = [m for m in theirs["machines"] if m["name"] == "Plover"]
    plover["note"] = "theirs"
    theirs["bars"].append({**theirs["bars"][0], "place": "another shelf"})
    looked = look(demo, packed(theirs))
    standing = {one["text"].split(",")[0]: (one["standing"], [c["choice"] for c in one["choices"]])
                for one in looked["things"]}  # fmt: skip
    assert standing["Plover"] == ("different", ["mine", "theirs", "both"])
    assert standing["Bar"] == ("new", ["theirs", "mine"])
    assert len(looked["things"]) == 2


def note_of(client: TestClient, slug: str) -> str:
    result: str = next(m["note"] for m in client.get("/api/machines").json() if m["slug"] == slug)
    return result


def test_mine_theirs_and_both(demo: TestClient) -> None:
    theirs = spelled(file_of(demo))
    [plover] = [m for m in theirs["machines"] if m["name"] == "Plover"]
    was, plover["note"] = plover["note"], "theirs"
    wheel = next(w for w in theirs["wheels"] if w["machine"] == "plover" and w["teeth"] == 66)
    wheel["teeth"] = 67
    file = packed(theirs)
    assert "nothing" in take_in(demo, file)
    assert note_of(demo, "plover") == was
    take_in(demo, file, machine_Plover="both")
    assert note_of(demo, "plover") == was
    assert note_of(demo, "plover-2") == "theirs"
    held = {slug: demo.get(f"/api/machines/{slug}/wheels").json()["held"] for slug in ("plover", "plover-2")}
    assert "66" in held["plover"].split()
    assert "67" in held["plover-2"].split()
    take_in(demo, file, machine_Plover="theirs")
    assert note_of(demo, "plover") == "theirs"
    assert "67" in demo.get("/api/machines/plover/wheels").json()["held"].split()
    # It is still the machine that the log knows.
    assert demo.get("/api/lathes/plover/plan", params={"ask": "M14x2"}).status_code == 200
    change = demo.get("/api/changes").json()[0]
    assert change["text"].startswith("Took 1 thing")
    demo.post(f"/api/changes/{change['id']}/undo").raise_for_status()
    assert note_of(demo, "plover") == was
    assert "66" in demo.get("/api/machines/plover/wheels").json()["held"].split()


def log_of(client: TestClient) -> list[tuple[int, str, bool]]:
    """Every entry that a person wrote, measured or did: its number, its text, whether it is struck through."""
    seen = client.get("/api/log").json()
    return [(e["id"], e["text"], e["correction"] is not None) for e in seen if e["kind"] != "change"]


def test_entries_that_came_with_a_file_go_and_come_back_with_it(demo: TestClient, other: Store) -> None:
    with TestClient(make_app(other), base_url="http://127.0.0.1") as theirs:
        for note in ("their first note", "their second note"):
            theirs.post("/api/log/notes", json={"note": note}).raise_for_status()
        wrong = theirs.get("/api/log").json()[0]["id"]
        theirs.post(f"/api/log/{wrong}/correction", json={"reason": "not so", "by": "T"}).raise_for_status()
        file = file_of(theirs)
    before = log_of(demo)
    assert "3 entries of the log" in take_in(demo, file)
    came = log_of(demo)
    assert [(text, struck) for _, text, struck in came if "their" in text] == [
        ("their second note", True), ("their first note", False),
    ]  # fmt: skip
    number = demo.get("/api/changes").json()[0]["id"]
    for _ in range(2):
        undone = demo.post(f"/api/changes/{number}/undo")
        assert log_of(demo) == before
        assert demo.get("/api/log", params={"text": "their"}).json() == []
        again = demo.post(f"/api/changes/{undone.headers['Valleywind-Change']}/undo")
        assert log_of(demo) == came
        assert len(demo.get("/api/log", params={"text": "their"}).json()) == 2
        number = int(again.headers["Valleywind-Change"])
    demo.post(f"/api/changes/{number}/undo").raise_for_status()
    # What is written meanwhile has a number of its own, and the file can be taken in anew.
    demo.post("/api/log/notes", json={"note": "meanwhile"}).raise_for_status()
    assert demo.get("/api/log").json()[0]["id"] not in {n for n, _, _ in came}
    assert "3 entries of the log" in take_in(demo, file)


def test_the_log_comes_in_once(demo: TestClient) -> None:
    demo.post("/api/log/notes", json={"note": "first"}).raise_for_status()
    theirs = spelled(file_of(demo))
    theirs["log"].append({**theirs["log"][-1], "note": "second", "corrects": None})
    theirs["log"].append(
        {**theirs["log"][-1], "kind": "correction", "note": "not so", "corrects": len(theirs["log"]) - 1}
    )
    take_in(demo, packed(theirs))
    take_in(demo, packed(theirs))
    notes = demo.get("/api/log", params={"kind": "note"}).json()
    assert [(e["text"], (e["correction"] or {}).get("reason")) for e in notes] == [
        ("second", "not so"),
        ("first", None),
    ]


def bomb() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("shop.json", b" " * 350_000_000)
    return out.getvalue()


def lied() -> bytes:
    """A member that holds more than its head says."""
    whole = packed({"format": "valleywind-shop", "version": 1, "made": "", "more": "x" * 5000})
    return whole.replace((5060).to_bytes(4, "little"), (60).to_bytes(4, "little"))


BARE = {"format": "valleywind-shop", "version": 1, "made": ""}
HOSTILE: dict[str, tuple[bytes, str]] = {
    "text": (b"not a zip at all", "not_a_shop_file"),
    "another zip": (packed("{}", **{"word/document.xml": b"x"}), "not_a_shop_file"),
    "climbs": (packed(BARE, **{"../../evil.csv": b"x"}), "not_a_shop_file"),
    "newer": (packed({"format": "valleywind-shop", "version": 2, "made": ""}), "shop_file_newer"),
    "no json": (packed("{"), "shop_file_damaged"),
    "deep": (packed("[" * 100_000), "shop_file_damaged"),
    "foreign": (packed({"format": "something"}), "not_a_shop_file"),
    "unknown field": (packed({"format": "valleywind-shop", "version": 1, "made": "", "x": 1}), "shop_file_damaged"),
    "bomb": (bomb(), "shop_file_too_large"),
    "picture": (
        packed({"format": "valleywind-shop", "version": 1, "made": ""}, **{f"photos/{'0' * 32}.jpg": b"x"}),
        "shop_file_damaged",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", HOSTILE)
def test_a_file_that_is_none_is_a_sentence(demo: TestClient, name: str) -> None:
    content, code = HOSTILE[name]
    answer = demo.post("/api/shop/file/look", content=content, headers={"Content-Type": "application/octet-stream"})
    assert answer.status_code == 422, answer.text
    [problem] = answer.json()["errors"]
    assert (problem["field"], problem["code"]) == ("file", code)


def test_every_byte_changed_is_told_or_read(demo: TestClient) -> None:
    """No damage ends otherwise than with a refusal, or as a file that can be read."""
    whole = file_of(demo, machine="curlew")
    for at in range(0, len(whole), max(1, len(whole) // 300)):
        damaged = bytearray(whole)
        damaged[at] ^= 0x41
        with suppress(Refusal):
            shop_file.read(bytes(damaged))


DAMAGED: dict[str, Any] = {
    "machine": lambda shop: shop["machines"][0]["lathe"].update(first_steps=[["a", "0"]]),
    "train": lambda shop: shop["machines"][0]["mounted"].update(train="40/x"),
    "part": lambda shop: next(m for m in shop["machines"] if "head" in m["parts"])["parts"]["head"].clear(),
    "job": lambda shop: shop["jobs"][0]["wheel"].update(pitch="a lot"),
    "plan": lambda shop: shop["jobs"][0]["session"]["plan"].clear(),
    "event": lambda shop: shop["jobs"][0]["session"]["events"].insert(0, {
        "key": "k", "at": "", "kind": "undo", "about": {}, "by": ""}),
    "names": lambda shop: shop["wheels"][0].update(machine="nobody"),
    "twice": lambda shop: shop["machines"].append(shop["machines"][0]),
    "slot": lambda shop: shop["machines"][0]["quadrant"]["slots"][0].update(nearest_mm=500.0),
}  # fmt: skip


def take(store: Store, content: bytes) -> None:
    read, pictures = shop_file.read(content)
    with store.session() as session:
        file_import.take_in(session, read, pictures, {})


@pytest.mark.parametrize("name", DAMAGED)
def test_what_cannot_be_read_as_a_shop_changes_nothing(demo: TestClient, other: Store, name: str) -> None:
    shop = spelled(file_of(demo))
    DAMAGED[name](shop)
    with pytest.raises(Refusal) as refused:
        take(other, packed(shop))
    assert refused.value.code == "shop_file_damaged"
    with other.reading() as session:
        again, _ = file_export.file_of(session)
    assert (again.machines, again.jobs, again.log) == ([], [], [])


def test_only_what_was_looked_at_is_taken_in(demo: TestClient) -> None:
    answer = demo.post("/api/shop/file/import", json={"token": "guessed"})
    assert answer.json()["errors"][0]["code"] == "look_first"
    mine = file_of(demo)
    first = look(demo, mine)["token"]
    for _ in range(2):
        look(demo, mine)
    assert demo.post("/api/shop/file/import", json={"token": first}).json()["errors"][0]["code"] == "look_first"
