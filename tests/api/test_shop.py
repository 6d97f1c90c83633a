import json
import re
from pathlib import Path
from re import findall
from typing import Any

import pytest
import schemathesis
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from fastapi import FastAPI
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
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from valleywind.api.app import make_app
from valleywind.api.document import page
from valleywind.api.field_words import SPECIAL, WORDS, says_something
from valleywind.api.guard import Hosts
from valleywind.demo import harrowfold
from valleywind.shop import machines
from valleywind.shop.machines import RESERVED
from valleywind.shop.models import Base
from valleywind.shop.store import Store, open_store, usual_place


def test_a_new_file_has_the_tables_of_the_models(store: Store) -> None:
    with store.engine.connect() as connection:
        differing = compare_metadata(MigrationContext.configure(connection), Base.metadata)
        # The index of the log's words is no table of the models, and lies in tables of its own.
        assert [one for one in differing if "log_words" not in str(one)] == []
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
    body = {"confirm": "replace by the demo shop"}
    demo.put("/api/machines/plover/wheels", json={"wheels": "32 36 64 78"})
    assert demo.post("/api/shop/demo", json=body).status_code == 200
    assert len(demo.get("/api/machines/plover/wheels").json()["wheels"]) == 18
    own = TestClient(make_app(open_store(tmp_path / "own.sqlite")), base_url="http://127.0.0.1")
    shop = own.get("/api/shop").json()
    assert (shop["demo"], shop["machines"], shop["path"]) == (False, 0, str(tmp_path / "own.sqlite"))
    assert own.post("/api/shop/demo", json=body).json()["machines"] == 7
    assert own.post("/api/shop/demo", json=body).json()["errors"][0]["code"] == "shop_in_use"


def test_the_description_can_be_used_by_hand(demo: TestClient) -> None:
    document = demo.get("/api/openapi.json").json()
    for path, methods in document["paths"].items():
        for method, operation in methods.items():
            assert operation["description"], f"{method} {path}"
            assert "422" in operation["responses"] or not operation.get("parameters")
            for parameter in operation.get("parameters", []):
                description = (
                    parameter.get("description") or parameter.get("example") or parameter["schema"].get("examples")
                )
                assert description, f"{path}: {parameter['name']}"
            for status, answer in operation["responses"].items():
                for kind, content in answer.get("content", {}).items():
                    assert "schema" in content, f"{method} {path}: {status} {kind}"
    records = document["components"]["schemas"]
    silent = [
        f"{record}.{name}"
        for record, schema in records.items()
        for name, field in schema.get("properties", {}).items()
        if not says_something(name, field)
    ]
    assert silent == [], "a word for each in api/field_words.py, or a description at the field"


def test_every_word_for_a_field_is_used(demo: TestClient) -> None:
    records = demo.get("/api/openapi.json").json()["components"]["schemas"]
    descriptions = {
        (record, name): field.get("description")
        for record, schema in records.items()
        for name, field in schema.get("properties", {}).items()
    }
    assert {where for where, words in SPECIAL.items() if descriptions.get(where) != words} == set()
    used = {name for (_, name), words in descriptions.items() if words == WORDS.get(name)}
    assert set(WORDS) - used == set()


def test_the_description_in_the_repository_is_true(app: FastAPI) -> None:
    """After a change of the API: make api."""
    kept = Path(__file__).parents[2] / "docs" / "openapi.json"
    assert json.loads(kept.read_text()) == json.loads(json.dumps(app.openapi()))


def test_whatever_is_sent_is_answered_as_described(demo: TestClient, store: Store) -> None:
    assert demo.get("/api/shop").json()["demo"]
    app = make_app(store, demo=True, hosts=Hosts({"testserver", "localhost"}))
    checks = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
    # What goes on telling never ends its answer.
    described = openapi.from_asgi("/api/openapi.json", app).exclude(path_regex="/api/events$")
    for result in described.get_all_operations():
        assert isinstance(result, Ok)
        operation = result.ok()

        @settings(max_examples=8, deadline=None, suppress_health_check=list(HealthCheck))
        @given(operation.as_strategy())
        def answered_as_described(case: schemathesis.Case[Any]) -> None:
            case.call_and_validate(checks=checks)

        answered_as_described()


def test_no_machine_is_called_like_a_word_of_an_address(app: FastAPI) -> None:
    """Wherever an address has a word where another has a machine, no machine's short name is that word."""
    pages = (Path(__file__).parents[2] / "frontend/src/App.tsx").read_text()
    paths = [
        *app.openapi()["paths"],
        *(f"/{p.replace(':machine', '{machine}')}" for p in findall(r'path="([^"*]+)"', pages)),
    ]
    paths = [path.replace(":edited", "{machine}") for path in paths]
    words = set()
    for path in paths:
        before, there, _ = path.partition("{machine}")
        if there:
            words |= {p.removeprefix(before).split("/")[0].split(".")[0] for p in paths if p.startswith(before)}
    words -= {"{machine}", ""}
    assert {"calipers", "examples", "new"} <= words
    assert words <= RESERVED


@pytest.mark.parametrize("name", sorted(RESERVED))
def test_a_machine_of_any_name_has_a_record_that_is_reached(demo: TestClient, name: str) -> None:
    record = demo.get("/api/lathe-records/plover").json()
    made = demo.post("/api/lathe-records", json=record | {"name": name, "wheels": ""})
    assert made.status_code == 200, made.text
    assert demo.get(f"/api/lathe-records/{made.json()['slug']}").json()["name"] == name


def test_the_api_can_be_read_without_a_script(demo: TestClient) -> None:
    page = demo.get("/api/docs")
    assert page.headers["content-type"].startswith("text/html")
    document = demo.get("/api/openapi.json").json()
    assert "<script" not in page.text
    for path, methods in document["paths"].items():
        for method in methods:
            assert f"<code>{method.upper()} {path}</code>" in page.text
    links = set(re.findall(r'href="#([^"]+)"', page.text))
    assert links <= set(re.findall(r"id=['\"]([^'\"]+)", page.text))


def test_what_the_api_is_described_by_is_text_not_markup() -> None:
    document = {"info": {"title": "<b>", "version": "1", "description": "a < b"}, "components": {"schemas": {}}}
    operation = {"tags": ["t"], "operationId": "x", "description": "<script>", "responses": {}}
    html = page({**document, "paths": {"/p": {"get": operation}}})
    assert "<script>" not in html
    assert "<b>" not in html


def test_the_description_says_which_requests_answer_with_a_change(demo: TestClient) -> None:
    paths = demo.get("/api/openapi.json").json()["paths"]
    header = "Valleywind-Change"
    assert header in paths["/api/rack/wheels"]["post"]["responses"]["200"]["headers"]
    answer = demo.post("/api/rack/wheels", json={"wheels": "40", "family": 1})
    assert answer.headers[header].isdigit()
    reading = paths["/api/rack"]["get"]["responses"]
    assert header not in reading["200"]["headers"]
    assert not {"409", "413"} & set(reading)
    assert {"409", "413"} <= set(paths["/api/rack/wheels"]["patch"]["responses"])
