"""Files as earlier revisions left them, one of each: they open, and what was being cut goes on."""

import gzip
import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from uuid import uuid4

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy import text

from valleywind.api.app import use_shop
from valleywind.shop.store import Store, open_store

SAMPLES = sorted((Path(__file__).parent.parent / "samples").glob("*.sqlite.gz"))
MIGRATIONS = Path(__file__).parent.parent.parent / "src/valleywind/shop/migrations/versions"
# Jobs came with this revision; earlier files have machines and wheels alone.
FIRST_WITH_JOBS = "0009"


def revision(sample: Path) -> str:
    return sample.name.split(".")[0]


@pytest.fixture
def opened(app: FastAPI, sample: Path, tmp_path: Path) -> Iterator[tuple[TestClient, dict[str, int]]]:
    """A client on the sample, brought up to date, and what the file held before: its machines, its wheels."""
    path = tmp_path / "shop.sqlite"
    path.write_bytes(gzip.decompress(sample.read_bytes()))
    with closing(sqlite3.connect(path)) as file:
        assert file.execute("SELECT version_num FROM alembic_version").fetchone() == (revision(sample),)
        held = {
            "machines": file.execute("SELECT count(*) FROM machine").fetchone()[0],
            "wheels": file.execute("SELECT sum(count) FROM wheel").fetchone()[0],
            "mounted": file.execute("SELECT count(*) FROM mounted").fetchone()[0],
        }
    store = open_store(path)
    use_shop(app, store, demo=False)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client, held
    store.engine.dispose()


def test_there_is_one_of_every_revision() -> None:
    assert [revision(s) for s in SAMPLES] == sorted(p.name.split("_")[0] for p in MIGRATIONS.glob("0*.py"))


@pytest.mark.parametrize("sample", SAMPLES, ids=revision)
def test_a_sample_opens_with_all_it_held(opened: tuple[TestClient, dict[str, int]]) -> None:
    client, held = opened
    machines = client.get("/api/machines").json()
    assert len(machines) == held["machines"]
    wheels = client.get("/api/rack").json()["wheels"]
    assert sum(int(w["count"]) for w in wheels) == held["wheels"]
    answer = client.get("/api/lathes/plover/plan", params={"ask": "M6"})
    assert answer.status_code == 200, answer.text
    assert answer.json()["first"]["verdict"]
    assert sum(1 for m in machines if m["kind"] == "lathe" and m["mounted"]) == held["mounted"]
    assert client.get("/api/changes").status_code == 200


@pytest.mark.parametrize("sample", [s for s in SAMPLES if revision(s) == "0011"], ids=revision)
def test_machines_called_like_a_word_of_the_addresses_can_be_reached(opened: tuple[TestClient, dict[str, int]]) -> None:
    client, _ = opened
    slugs = {m["name"]: m["slug"] for m in client.get("/api/machines").json()}
    assert (slugs["Examples"], slugs["Calipers"]) == ("examples-2", "calipers-2")
    assert client.get("/api/lathe-records/examples-2").json()["name"] == "Examples"
    assert client.get("/api/machine-records/calipers-2").json()["name"] == "Calipers"


def test_a_change_noted_before_records_were_kept_as_typed_can_be_undone(app: FastAPI, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    sample = next(s for s in SAMPLES if revision(s) == "0012")
    path.write_bytes(gzip.decompress(sample.read_bytes()))
    with closing(sqlite3.connect(path)) as file:
        file.row_factory = sqlite3.Row
        rows = []
        for table, changed in (
            ("mill", {"table_size": "900 x 200 mm"}),
            ("head", {"ratio": "90", "reads_deg": "1/12"}),
        ):
            before = dict(file.execute(f"SELECT * FROM {table} WHERE machine_id = 5").fetchone())
            rows.append([table, [5], before, before | changed])
            for column, value in changed.items():
                file.execute(f"UPDATE {table} SET {column} = ? WHERE machine_id = 5", (value,))
        file.execute(
            "INSERT INTO change (at, code, about, rows) VALUES ('2026-11-01T08:00:00+00:00', 'machine_edited', ?, ?)",
            ('{"name": "Heron"}', json.dumps(rows)),
        )
        file.commit()
    store = open_store(path)
    use_shop(app, store, demo=False)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        heron = client.get("/api/machine-records/heron").json()
        assert (heron["mill"]["table"], heron["head"]["ratio"], heron["head"]["reads"]) == ("900 x 200 mm", "90", "5'")
        latest = client.get("/api/changes").json()[0]["id"]
        undone = client.post(f"/api/changes/{latest}/undo")
        assert undone.status_code == 200, undone.text
        heron = client.get("/api/machine-records/heron").json()
        assert (heron["mill"]["table"], heron["head"]["ratio"], heron["head"]["reads"]) == ("1000 x 240 mm", "60", "1°")
    store.engine.dispose()


@pytest.mark.parametrize("sample", [s for s in SAMPLES if revision(s) >= FIRST_WITH_JOBS], ids=revision)
def test_sessions_of_a_sample_go_on(opened: tuple[TestClient, dict[str, int]]) -> None:
    client, _ = opened
    cutting = [job["id"] for job in client.get("/api/jobs").json() if job["cutting"]]
    assert len(cutting) >= 2
    for job in cutting:
        before = client.get(f"/api/jobs/{job}/session")
        assert before.status_code == 200, before.text
        assert before.json()["title"].startswith("A ")
        assert before.json()["divides"]
        event = {"key": uuid4().hex, "kind": "done", "seen": before.json()["seen"]}
        after = client.post(f"/api/jobs/{job}/session/events", json=event).json()
        assert after["cut"] == before.json()["cut"] + 1
        assert client.get(f"/api/jobs/{job}").status_code == 200
        assert client.get(f"/api/jobs/{job}/log").status_code == 200


def test_collars_that_were_typed_as_radii_are_asked_for_as_diameters(demo: TestClient, store: Store) -> None:
    kept = demo.get("/api/machine-records/heron").json()["mill"]["boxes"]["lead"]["quadrant"]
    before = demo.get("/api/mills/heron/plan", params={"ask": "helix 24 m2 30°"}).json()
    assert kept["collar_first"] == "28"
    with store.engine.begin() as connection:
        row = connection.execute(text("select quadrant from gearbox where box = 'lead'")).scalar_one()
        old = json.loads(row)
        for name in ("first", "stud", "last"):
            old[f"boss_{name}"] = f"{float(old.pop(f'collar_{name}')) / 2:g} mm"
        connection.execute(text("update gearbox set quadrant = :old where box = 'lead'"), {"old": json.dumps(old)})
    assert demo.get("/api/machine-records/heron").json()["mill"]["boxes"]["lead"]["quadrant"] == kept
    assert demo.get("/api/mills/heron/plan", params={"ask": "helix 24 m2 30°"}).json() == before
