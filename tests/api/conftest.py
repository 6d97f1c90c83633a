import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from valleywind.api.app import make_app, use_shop
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


@pytest.fixture(scope="session")
def app(tmp_path_factory: pytest.TempPathFactory) -> FastAPI:
    """The application, whose routes take long to be built; every test gives it a shop of its own."""
    return make_app(open_store(tmp_path_factory.mktemp("app") / "none.sqlite"))


@pytest.fixture
def demo(app: FastAPI, store: Store) -> Iterator[TestClient]:
    """A client on a fresh demo shop."""
    use_shop(app, store, demo=True)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def empty(app: FastAPI, store: Store) -> Iterator[TestClient]:
    """A client on an empty shop."""
    use_shop(app, store, demo=False)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client
