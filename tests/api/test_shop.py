from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from schemathesis import openapi
from schemathesis.checks import not_a_server_error
from schemathesis.core.result import Ok
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)
from sqlalchemy import create_engine, text
from sqlalchemy.exc import IntegrityError

from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop import machines
from valleywind.shop import store as store_module
from valleywind.shop.models import Base
from valleywind.shop.store import Store, open_store, usual_place


def test_a_new_file_has_the_tables_of_the_models(store: Store) -> None:
    with store.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert connection.scalar(text("PRAGMA journal_mode")) == "wal"
        assert connection.scalar(text("PRAGMA foreign_keys")) == 1


def test_foreign_keys_hold(store: Store) -> None:
    with pytest.raises(IntegrityError), store.session() as session:
        session.execute(text("INSERT INTO mounted (machine_id, train) VALUES (99, '40/80')"))


def test_what_is_kept_is_there_when_the_file_is_opened_again(tmp_path: Path) -> None:
    path = tmp_path / "a folder" / "shop.sqlite"
    first = open_store(path)
    with first.session() as session:
        harrowfold.load(session)
    first.engine.dispose()
    with open_store(path).session() as session:
        row = machines.machine(session, "plover")
        assert machines.lathe(row) == machines.lathe(harrowfold.plover())
        assert machines.stock(row) == machines.stock(harrowfold.plover())


def test_a_failed_session_leaves_nothing(store: Store) -> None:
    def load_and_fail() -> None:
        with store.session() as session:
            harrowfold.load(session)
            session.flush()
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        load_and_fail()
    with store.session() as session:
        assert machines.machines(session) == []


def test_the_place_can_be_set(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("VALLEYWIND_DATA", str(tmp_path))
    assert usual_place() == tmp_path / "shop.sqlite"
    monkeypatch.setenv("VALLEYWIND_DATA", str(tmp_path / "weir.sqlite"))
    assert usual_place() == tmp_path / "weir.sqlite"
    monkeypatch.delenv("VALLEYWIND_DATA")
    assert "valleywind" in str(usual_place())


def test_the_demo_resets_itself_but_never_a_persons_own_shop(demo: TestClient, tmp_path: Path) -> None:
    said = {"confirm": "replace by the demo shop"}
    demo.put("/api/machines/plover/wheels", json={"wheels": "32 36 64 78"})
    assert demo.post("/api/shop/demo", json=said).status_code == 200
    assert len(demo.get("/api/machines/plover/wheels").json()["wheels"]) == 18
    own = TestClient(make_app(open_store(tmp_path / "own.sqlite")))
    shop = own.get("/api/shop").json()
    assert (shop["demo"], shop["machines"], shop["path"]) == (False, 0, str(tmp_path / "own.sqlite"))
    assert own.post("/api/shop/demo", json=said).json()["machines"] == 6
    assert own.post("/api/shop/demo", json=said).json()["errors"][0]["code"] == "shop_in_use"


def test_a_file_that_is_no_database_is_not_touched(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    path.write_text("a letter to the weir keeper" * 100)
    with pytest.raises(OSError, match="not a shop’s file"):
        open_store(path)
    assert path.read_text().startswith("a letter")


def test_a_file_of_a_newer_program_is_not_touched(store: Store) -> None:
    with store.engine.begin() as connection:
        connection.execute(text("UPDATE alembic_version SET version_num = '9999'"))
    store.engine.dispose()
    with pytest.raises(OSError, match="newer Valleywind"):
        open_store(store.path)


def test_the_description_can_be_used_by_hand(demo: TestClient) -> None:
    document = demo.get("/api/openapi.json").json()
    for path, methods in document["paths"].items():
        for method, operation in methods.items():
            assert operation["description"], f"{method} {path}"
            assert "422" in operation["responses"] or not operation.get("parameters")
            for parameter in operation.get("parameters", []):
                told = parameter.get("description") or parameter.get("example") or parameter["schema"].get("examples")
                assert told, f"{path}: {parameter['name']}"


def test_whatever_is_sent_is_answered_as_described(demo: TestClient) -> None:
    checks = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
    for found in openapi.from_asgi("/api/openapi.json", demo.app).get_all_operations():
        assert isinstance(found, Ok)
        operation = found.ok()

        @settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
        @given(operation.as_strategy())
        def answered_as_described(case: schemathesis.Case[Any]) -> None:
            case.call_and_validate(checks=checks)

        answered_as_described()


def test_a_file_from_before_the_levers_keeps_its_lathe(tmp_path: Path) -> None:
    engine = create_engine(f"sqlite:///{tmp_path / 'old.sqlite'}")
    config = Config()
    config.set_main_option("script_location", str(Path(store_module.__file__).parent / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
        for line in (
            "INSERT INTO wheel_family VALUES (1, 'f', 'module', '1', '20', '10', '3', '8', '1')",
            "INSERT INTO machine VALUES (1, 'wren', 'Wren', 'lathe', '', 1)",
            "INSERT INTO lathe VALUES (1, '2', 'mm', '1/4', 'clockwise', 'clockwise', 1)",
            "INSERT INTO quadrant VALUES (1, 40, 90, 10, 140, 8, 8, 8, 0.5, 2, NULL)",
            "INSERT INTO wheel VALUES (1, 1, 40, 1, '', ''), (2, 1, 60, 1, '', '')",
            "INSERT INTO mounted VALUES (1, '40/60')",
        ):
            connection.execute(text(line))
    engine.dispose()
    with open_store(tmp_path / "old.sqlite").session() as session:
        row = machines.machine(session, "wren")
        lathe, on = machines.lathe(row), machines.mounted(row)
        assert [step.ratio for step in lathe.first] == [Fraction(1, 4)]
        assert (lathe.box, lathe.pairs, lathe.feeds) == ((), (), {})
        assert on is not None
        assert on.name(lathe) == "40/60"
