import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import Store, open_store


@pytest.fixture(scope="session")
def made(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """An empty shop and the demo shop, made once and copied for each test."""
    folder = tmp_path_factory.mktemp("made")
    for name in ("empty", "demo"):
        store = open_store(folder / f"{name}.sqlite")
        if name == "demo":
            with store.session() as session:
                harrowfold.load(session)
        store.engine.dispose()
    return {name: folder / f"{name}.sqlite" for name in ("empty", "demo")}


@pytest.fixture
def store(made: dict[str, Path], tmp_path: Path, request: pytest.FixtureRequest) -> Iterator[Store]:
    """A shop of one's own: empty, or the demo shop where a client on that is asked for."""
    path = tmp_path / "shop.sqlite"
    shutil.copy(made["demo" if "demo" in request.fixturenames else "empty"], path)
    opened = open_store(path)
    yield opened
    opened.engine.dispose()


@pytest.fixture
def demo(store: Store) -> Iterator[TestClient]:
    """A client on a fresh demo shop."""
    with TestClient(make_app(store, demo=True), base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def empty(store: Store) -> Iterator[TestClient]:
    """A client on an empty shop."""
    with TestClient(make_app(store), base_url="http://127.0.0.1") as client:
        yield client
