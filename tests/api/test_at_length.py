"""Long writes: worked out beside others, and the same as if they were written at once."""

import json
import shutil
import sqlite3
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from threading import Thread
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import parse_pile
from valleywind.demo import harrowfold
from valleywind.shop import changes, rack
from valleywind.shop.store import Store, open_store
from valleywind.shop.written import NOTED

Shop = dict[str, list[dict[str, Any]]]


def records(many: int, **like: Any) -> list[rack.Record]:
    bare: rack.Record = {
        "count": 1, "family_id": 1, "machine_id": None, "condition": "good", "material": "", "measured": {},
        "shift": 0.1, "photo": "",
    }  # fmt: skip
    return [bare | {"teeth": 20 + n % 60, "place": f"box {n % 5}", "note": f"n{n}"} | like for n in range(many)]


def everything(path: Path, *without: str) -> Shop:
    with closing(sqlite3.connect(path)) as connection:
        connection.row_factory = sqlite3.Row
        tables = [name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        return {
            table: sorted(
                (
                    {k: v for k, v in dict(row).items() if k not in without}
                    for row in connection.execute(f'SELECT * FROM "{table}"')
                    # A table that gave no number yet is named there, or not.
                    if (table, dict(row).get("seq")) != ("sqlite_sequence", 0)
                ),
                key=lambda row: [(type(v).__name__, v) for v in row.values()],
            )
            for table in tables
        }


@pytest.fixture
def shop(store: Store) -> Store:
    with store.session() as session:
        harrowfold.load(session)
    return store


def put_in(session: Session) -> list[int]:
    return [w.id for w in rack.briefly(session) if w.shift == 0.1]


WORKS: list[Callable[[Session], object]] = [
    lambda s: rack.put_records(s, records(300)),
    lambda s: rack.change(s, put_in(s)[:120], {"material": "iron"}),
    lambda s: rack.merge(s, "box 1", "box 2"),
    lambda s: rack.set_counts(s, [(n, 3) for n in put_in(s)[:100]]),
    lambda s: rack.remove(s, put_in(s)[:80]),
    *[lambda s, n=n: changes.undo(s, changes.newest(s) - 2 * n) for n in range(5)],
    lambda s: rack.add(s, parse_pile("33 34 35"), {"family_id": 1}),
    lambda s: changes.undo(s, 1),
    lambda s: changes.undo(s, changes.newest(s)),
]


def test_what_is_written_at_length_is_what_is_written_at_once(shop: Store, tmp_path: Path) -> None:
    shop.engine.dispose()
    shutil.copy(shop.path, tmp_path / "other.sqlite")
    at_once, at_length = open_store(shop.path), open_store(tmp_path / "other.sqlite")
    for work in WORKS:
        with at_once.session() as session:
            work(session)
        before = everything(at_length.path)
        _, number = at_length.at_length(work)
        assert everything(at_length.path, "at") == everything(at_once.path, "at")
        assert number == max(row["id"] for row in everything(at_length.path)["change"])
        assert everything(at_length.path) != before
    for one in (at_once, at_length):
        one.engine.dispose()


def test_what_is_noted_is_what_is_not_as_it_was(demo: TestClient, store: Store) -> None:
    """Whatever is written, by the sums of the whole shop before and after."""
    names = [table.name for table in NOTED]
    first = demo.get("/api/rack").json()["wheels"][0]
    heron = demo.get("/api/mill-records/heron").json()
    for method, path, body in (
        ("POST", "rack/wheels", {"wheels": "40 40 45 worn", "family": 1, "place": "drawer"}),
        ("PATCH", "rack/wheels", {"ids": [first["id"]], "note": "seen"}),
        ("PUT", "machines/plover/wheels", {"wheels": " ".join(map(str, range(20, 80)))}),
        ("DELETE", "machine-records/wren", None),
        ("PUT", "mill-records/heron", heron["record"] | {"note": "moved"} if "record" in heron else heron),
        ("POST", "jobs", {"ask": "make 57 for Plover"}),
    ):
        before = everything(store.path)
        answer = demo.request(method, f"/api/{path}", json=body)
        after = everything(store.path)
        if answer.status_code != 200:
            assert after == before, path
            continue
        rows = after["change"][-1]["rows"]
        assert differing(rows) == changed(before, after, names), path


def differing(rows: str) -> set[tuple[str, str, str]]:
    return {(table, str(plain(before)), str(plain(after))) for table, _, before, after in json.loads(rows)}


def plain(row: dict[str, Any] | None) -> dict[str, Any] | None:
    return None if row is None else {k: v for k, v in row.items() if k != "version"}


def changed(before: Shop, after: Shop, names: list[str]) -> set[tuple[str, str, str]]:
    keys = {table.name: [c.name for c in table.primary_key] for table in NOTED}
    results = set()
    for table in names:
        was, now = ({tuple(row[k] for k in keys[table]): plain(row) for row in shop[table]} for shop in (before, after))
        for key in was.keys() | now.keys():
            if was.get(key) != now.get(key):
                results.add((table, str(was.get(key)), str(now.get(key))))
    return results


def in_another_thread(work: Callable[[], object]) -> None:
    """Done before this goes on; whoever had to wait would wait for ever."""
    thread = Thread(target=work, daemon=True)
    thread.start()
    thread.join(20)
    assert not thread.is_alive()


def add_one(store: Store, teeth: int) -> None:
    with store.session() as session:
        rack.put_records(session, records(1, teeth=teeth))


@pytest.mark.parametrize("quicker", [0, 1, 2, 3])
def test_others_write_meanwhile_and_nothing_is_lost(shop: Store, quicker: int) -> None:
    """However often somebody else is quicker; at last it is done while they wait."""
    held: list[int] = []

    def work(session: Session) -> int:
        held.append(len(rack.briefly(session)))
        if len(held) <= quicker:
            in_another_thread(lambda: add_one(shop, 90 + len(held)))
        rack.put_records(session, records(60))
        return len(rack.briefly(session))

    before = everything(shop.path)
    value, number = shop.at_length(work)
    after = everything(shop.path)
    assert held == [len(before["wheel"]) + n for n in range(quicker + 1)]
    assert value == len(after["wheel"]) == len(before["wheel"]) + quicker + 60
    assert (number, len(after["change"])) == (after["change"][-1]["id"], len(before["change"]) + quicker + 1)


def test_a_step_is_recorded_while_a_long_write_is_worked_out(demo: TestClient, store: Store) -> None:
    codes: list[int] = []

    def step() -> None:
        event = {"key": "recorded-meanwhile", "kind": "done"}
        codes.append(demo.post("/api/jobs/1/session/events", json=event).status_code)

    def work(session: Session) -> None:
        in_another_thread(step)
        rack.put_records(session, records(60))

    assert demo.post("/api/jobs/1/session").status_code in (200, 422)
    store.at_length(work)
    assert codes == [200]


def test_what_is_refused_leaves_everything_as_it_is(shop: Store) -> None:
    def work(session: Session) -> None:
        rack.put_records(session, records(60))
        raise Refusal("empty", "file", "")

    before = everything(shop.path)
    with pytest.raises(Refusal):
        shop.at_length(work)
    assert everything(shop.path) == before
    # What happened at the machine is not of the copy, and is not written by way of it.
    assert shop.at_length(lambda session: len(rack.briefly(session))) == (len(before["wheel"]), None)


@pytest.fixture
def rows_at_length(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """How many rows each write of a request was worked out beforehand with."""
    done: list[int] = []
    real = Store.at_length

    def seen(self: Store, *args: Any) -> Any:
        done.append(1)
        return real(self, *args)

    monkeypatch.setattr(Store, "at_length", seen)
    return done


def test_what_is_much_is_worked_out_beforehand(demo: TestClient, rows_at_length: list[int]) -> None:
    file = b"teeth,place\n" + b"".join(b"%d,here\n" % (20 + n % 60) for n in range(300))
    put = demo.post("/api/rack/wheels.csv?put=true", content=file, headers={"Content-Type": "text/csv"})
    demo.post(f"/api/changes/{put.headers['Valleywind-Change']}/undo")
    wheels = [w["id"] for w in demo.get("/api/rack").json()["wheels"]]
    demo.patch("/api/rack/wheels", json={"ids": wheels[:60], "material": "iron"})
    assert len(rows_at_length) == 3
    one = demo.patch("/api/rack/wheels", json={"ids": wheels[:1], "material": "brass"})
    demo.post(f"/api/changes/{one.headers['Valleywind-Change']}/undo")
    assert len(rows_at_length) == 3
