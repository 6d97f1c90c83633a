"""Copies of a shop: made while it is served, checked, thinned out, put back."""

import errno
import gzip
import os
import sqlite3
import threading
from collections.abc import Callable
from contextlib import closing
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from tests.commands import run
from valleywind.app.copies import FOLDER, Copies, days_to_keep, latest_good
from valleywind.app.entry import Entry
from valleywind.shop import copies as files
from valleywind.shop.file_trouble import ShopFileError, Trouble
from valleywind.shop.store import Store, claimed, open_store

NOON = datetime(2026, 11, 30, 12, tzinfo=UTC)


def wheels(client: TestClient) -> int:
    return sum(int(w["count"]) for w in client.get("/api/rack").json()["wheels"])


def add_wheel(client: TestClient) -> None:
    client.post("/api/rack/wheels", json={"wheels": "57"}).raise_for_status()


@pytest.fixture
def copies(store: Store, demo: TestClient) -> Copies:  # noqa: ARG001  the demo shop
    return Copies(store, store.path.parent / FOLDER, lambda: NOON)


def test_a_copy_holds_the_shop_and_not_who_may_come_in(copies: Copies, store: Store) -> None:
    Entry(store).set_passphrase("four plain words here")
    with store.reading() as session:
        secret = session.connection().exec_driver_sql("SELECT secret FROM passphrase").scalar_one()
    copy = copies.make()
    assert files.holds(copy.path).machines == 7
    assert secret not in copy.path.read_bytes()
    assert secret in store.path.read_bytes() + store.path.with_name("shop.sqlite-wal").read_bytes()


def test_it_is_copied_while_others_write(copies: Copies, demo: TestClient) -> None:
    """Every copy is whole, and holds at least what was there when it was begun."""
    stop = threading.Event()

    def write() -> None:
        while not stop.is_set():
            add_wheel(demo)

    writer = threading.Thread(target=write)
    writer.start()
    try:
        for n in range(5):
            before = wheels(demo)
            target = copies.folder / f"{n}.sqlite"
            files.copy_to(copies.store.path, target)
            assert before <= files.holds(target).wheels <= wheels(demo)
    finally:
        stop.set()
        writer.join()


def test_one_is_made_on_a_day_that_something_changed(copies: Copies, demo: TestClient) -> None:
    def day(number: int) -> None:
        copies.clock = lambda: NOON + timedelta(days=number)

    first = copies.make_daily()
    assert first is not None
    assert first.name == "shop-2026-11-30.sqlite"
    assert copies.make_daily() is None, "nothing changed since"
    day(1)
    os.utime(copies.store.path)  # written, and yet the same
    assert copies.make_daily() is None
    add_wheel(demo)
    second = copies.make_daily()
    assert second is not None
    assert second.name == "shop-2026-12-01.sqlite"
    add_wheel(demo)
    again = copies.make_daily()
    assert again is not None
    assert again.name == second.name, "the copy of the day follows what changes"
    assert files.holds(again.path).wheels == wheels(demo)
    assert [copy.name for copy in copies.every] == [second.name, first.name]


def test_of_days_weeks_and_months_the_newest_stay() -> None:
    every = [date(2026, 12, 31) - timedelta(days=n) for n in range(800)]
    there: set[date] = set()
    for today in reversed(every):
        there = days_to_keep({*there, today})
        assert today in there
    newest = sorted(there, reverse=True)
    assert newest[:7] == every[:7]
    months = {(day.year, day.month) for day in there}
    assert len(months) == 12
    assert len({day.isocalendar()[:2] for day in newest if day > date(2026, 12, 1)}) >= 4
    assert len(there) <= 7 + 4 + 12
    assert days_to_keep(set()) == set()


def test_copies_by_hand_are_not_thinned_out(copies: Copies, demo: TestClient) -> None:
    by_hand = copies.make()
    for number in range(30):
        copies.clock = lambda number=number: NOON + timedelta(days=number)  # type: ignore[misc]
        add_wheel(demo)
        copies.make_daily()
    names = [copy.name for copy in copies.every]
    assert by_hand.name in names
    assert len(names) < 15


@pytest.mark.parametrize("fails", ["write", "full"])
def test_on_a_full_disk_nothing_is_left_and_the_older_ones_stay(
    copies: Copies, demo: TestClient, monkeypatch: pytest.MonkeyPatch, fails: str
) -> None:
    older = copies.make_daily()
    assert older is not None
    whole = older.path.read_bytes()
    add_wheel(demo)

    def full(*_: object) -> None:
        if fails == "write":
            raise OSError(errno.ENOSPC, "No space left on device")
        error = sqlite3.OperationalError("database or disk is full")
        error.sqlite_errorcode = sqlite3.SQLITE_FULL
        raise error

    monkeypatch.setattr(files, "_to_disk" if fails == "write" else "_check", full)
    with pytest.raises(ShopFileError) as refused:
        copies.make_daily()
    assert refused.value.trouble is Trouble.FULL
    assert [path.name for path in copies.folder.iterdir()] == [older.name]
    assert older.path.read_bytes() == whole
    assert demo.post("/api/copies").status_code in (500, 503, 507)


def test_a_copy_is_put_back_on_the_screen_and_back_again(demo: TestClient, store: Store) -> None:
    Entry(store).set_passphrase("four plain words here")
    before = wheels(demo)
    copy = demo.post("/api/copies").json()
    add_wheel(demo)
    look = demo.get(f"/api/copies/{copy['name']}").json()
    assert look["text"] == f"7 machines, {before} wheels, 1 job"
    address = f"/api/copies/{copy['name']}/restore"
    assert demo.post(address, json={"confirm": "yes"}).status_code == 422
    every = demo.post(address, json={"confirm": "replace by this copy"}).json()["copies"]
    assert wheels(demo) == before
    assert Entry(store).has_passphrase, "who may come in stays"
    add_wheel(demo)
    assert wheels(demo) == before + 1
    (aside,) = [one for one in every if one["before_restore"]]
    demo.post(f"/api/copies/{aside['name']}/restore", json={"confirm": "replace by this copy"}).raise_for_status()
    assert wheels(demo) == before + 1
    assert demo.get("/api/jobs/1/session").status_code == 200
    fetched = demo.get(f"/api/copies/{copy['name']}/file")
    assert fetched.content.startswith(b"SQLite format 3")


def test_a_smaller_copy_is_put_in_the_place_of_a_larger_shop(demo: TestClient, store: Store) -> None:
    """The file shrinks when the database gets to it; that is not taken for a file that was cut short."""
    name = demo.post("/api/copies").json()["name"]
    before = wheels(demo)
    with store.adding() as session:
        session.connection().exec_driver_sql("UPDATE machine SET note = hex(zeroblob(2000000)) WHERE slug = 'plover'")
    with closing(sqlite3.connect(store.path)) as other:
        other.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        large = store.path.stat().st_size
        demo.post(f"/api/copies/{name}/restore", json={"confirm": "replace by this copy"}).raise_for_status()
        assert wheels(demo) == before
        other.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    assert store.path.stat().st_size < large / 2
    add_wheel(demo)
    assert wheels(demo) == before + 1


def cut_short(path: Path) -> None:
    path.write_bytes(path.read_bytes()[:30_000])


def of_another_program(path: Path) -> None:
    path.unlink()
    with closing(sqlite3.connect(path)) as other:
        other.execute("CREATE TABLE songs (name)")


def of_a_newer_one(path: Path) -> None:
    with closing(sqlite3.connect(path)) as copy:
        copy.execute("UPDATE alembic_version SET version_num = '9999'")
        copy.commit()


def text(path: Path) -> None:
    path.write_text("a list of wheels")


@pytest.mark.parametrize("spoil", [cut_short, of_another_program, of_a_newer_one, text, Path.unlink])
def test_what_is_no_good_copy_is_not_put_back(
    demo: TestClient, store: Store, spoil: Callable[[Path], None], tmp_path: Path
) -> None:
    before = wheels(demo)
    name = demo.post("/api/copies").json()["name"]
    spoil(store.path.parent / FOLDER / name)
    for answer in (
        demo.get(f"/api/copies/{name}"),
        demo.post(f"/api/copies/{name}/restore", json={"confirm": "replace by this copy"}),
    ):
        assert answer.status_code >= 400
        assert answer.json()["detail"]
    assert wheels(demo) == before
    spoilt, own = tmp_path / "spoilt.sqlite", tmp_path / "own"
    files.copy_to(store.path, own / "shop.sqlite")
    whole = (own / "shop.sqlite").read_bytes()
    files.copy_to(store.path, spoilt)
    spoil(spoilt)
    done = run("restore", str(spoilt), "--data", str(own))
    assert (done.returncode, len(done.stderr.strip().splitlines())) == (2, 1)
    assert (own / "shop.sqlite").read_bytes() == whole


def test_only_copies_of_the_folder_are_reached(demo: TestClient) -> None:
    for name in ("..%2Fshop.sqlite", "shop.sqlite", "%2Fetc%2Fpasswd", "shop-2026-11-30.sqlite"):
        for answer in (demo.get(f"/api/copies/{name}"), demo.get(f"/api/copies/{name}/file")):
            assert answer.status_code in (404, 422), name


def test_backup_and_restore_at_the_terminal(demo: TestClient, store: Store, tmp_path: Path) -> None:
    before = wheels(demo)
    copy = tmp_path / "disk" / "copy.sqlite"
    done = run("backup", str(copy), "--data", str(store.path))
    assert (done.returncode, done.stderr) == (0, "")
    assert f"{before} wheels" in done.stdout
    add_wheel(demo)
    # While it is served nothing is put in its place.
    with claimed(store.path):
        refused = run("restore", str(copy), "--data", str(store.path))
    assert refused.returncode == 2
    assert "serving" in refused.stderr
    store.engine.dispose()
    done = run("restore", str(copy), "--data", str(store.path))
    assert done.returncode == 0, done.stderr
    assert "What was there is kept" in done.stdout
    assert files.holds(store.path).wheels == before
    (aside,) = (store.path.parent / FOLDER).iterdir()
    assert files.holds(aside).wheels == before + 1
    # Into an empty folder, too.
    done = run("restore", str(copy), "--data", str(tmp_path / "new"))
    assert done.returncode == 0, done.stderr
    assert files.holds(tmp_path / "new" / "shop.sqlite").wheels == before
    for words in (("backup", str(store.path)), ("backup", str(tmp_path)), ("restore", str(store.path))):
        assert run(*words, "--data", str(store.path)).returncode == 2


def test_a_damaged_shop_leads_to_its_latest_good_copy(copies: Copies, demo: TestClient) -> None:
    good = copies.make_daily()
    assert good is not None
    copies.clock = lambda: NOON + timedelta(days=1)
    add_wheel(demo)
    newer = copies.make_daily()
    assert newer is not None
    cut_short(newer.path)
    result = latest_good(copies.store.path, copies.folder)
    assert result is not None
    assert result.name == good.name
    shop = copies.store.path
    copies.store.engine.dispose()
    spoilt = shop.read_bytes()
    shop.write_bytes(spoilt[:8192] + b"\x5a" * 40_000 + spoilt[48_192:])
    refused = run("serve", "--data", str(shop), "--port", "0")
    assert refused.returncode == 2
    assert "is damaged" in refused.stderr
    assert f"valleywind restore '{good.path}'" in refused.stderr
    restored = run("restore", str(good.path), "--data", str(shop))
    assert restored.returncode == 0, restored.stderr
    assert open_store(shop).engine


def test_an_older_copy_is_brought_up_to_date(demo: TestClient, store: Store) -> None:
    older = (Path(__file__).parent.parent / "samples" / "0010.sqlite.gz").read_bytes()
    folder = store.path.parent / FOLDER
    folder.mkdir()
    (folder / "shop-2025-01-01.sqlite").write_bytes(gzip.decompress(older))
    demo.post("/api/copies/shop-2025-01-01.sqlite/restore", json={"confirm": "replace by this copy"}).raise_for_status()
    before = wheels(demo)
    assert before > 0
    add_wheel(demo)
    assert wheels(demo) == before + 1
