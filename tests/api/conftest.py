from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import Store, open_store


@pytest.fixture
def store(tmp_path: Path) -> Store:
    return open_store(tmp_path / "shop.sqlite")


@pytest.fixture
def demo(store: Store) -> Iterator[TestClient]:
    """A client on a fresh demo shop."""
    with store.session() as session:
        harrowfold.load(session)
    with TestClient(make_app(store, demo=True), base_url="http://127.0.0.1") as client:
        yield client
