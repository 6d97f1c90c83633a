"""Files as earlier revisions left them, one of each: they open, and what was being cut goes on."""

import gzip
from pathlib import Path
from uuid import uuid4

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from valleywind.api.app import use_shop
from valleywind.shop.store import open_store

SAMPLES = sorted((Path(__file__).parent.parent / "samples").glob("*.sqlite.gz"))
NEWEST = max(
    (Path(__file__).parent.parent.parent / "src/valleywind/shop/migrations/versions").glob("0*.py"),
    key=lambda p: p.name,
)


def test_the_newest_revision_has_its_sample() -> None:
    assert SAMPLES[-1].name.split(".")[0] == NEWEST.name.split("_")[0]


@pytest.mark.parametrize("sample", SAMPLES, ids=lambda p: p.name.split(".")[0])
def test_a_sample_opens_and_its_sessions_go_on(app: FastAPI, sample: Path, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    path.write_bytes(gzip.decompress(sample.read_bytes()))
    store = open_store(path)
    use_shop(app, store, demo=False)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        jobs = client.get("/api/jobs").json()
        cutting = [job["id"] for job in jobs if job["cutting"]]
        assert len(cutting) >= 2
        for job in cutting:
            before = client.get(f"/api/jobs/{job}/session")
            assert before.status_code == 200, before.text
            assert before.json()["title"].startswith("A ")
            assert before.json()["divides"]
            told = {"key": uuid4().hex, "kind": "done", "seen": before.json()["seen"]}
            after = client.post(f"/api/jobs/{job}/session/events", json=told).json()
            assert after["cut"] == before.json()["cut"] + 1
            assert client.get(f"/api/jobs/{job}").status_code == 200
            assert client.get(f"/api/jobs/{job}/log").status_code == 200
        for path_of in ("rack", "machines", "changes"):
            assert client.get(f"/api/{path_of}").status_code == 200
    store.engine.dispose()
