"""The shop's file: brought up to date whole or not at all, and told of when it cannot be used."""

import os
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
from collections.abc import Callable
from contextlib import closing
from fractions import Fraction
from pathlib import Path
from typing import Any
from urllib.request import urlopen

import pytest
from alembic import command
from alembic.config import Config
from fastapi.testclient import TestClient
from sqlalchemy import Engine, create_engine, event, text

from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop import machines, rehearsal
from valleywind.shop import store as store_module
from valleywind.shop.file_trouble import ShopFileError, Trouble
from valleywind.shop.soundness import is_sound
from valleywind.shop.store import Store, claimed, open_store

REVISIONS = ("0001", "0002", "0003", "0004")
_AT_FIRST = (
    "INSERT INTO wheel_family VALUES (1, 'f', 'module', '1', '20', '10', '3', '8', '1')",
    "INSERT INTO machine VALUES (1, 'wren', 'Wren', 'lathe', '', 1)",
    "INSERT INTO lathe VALUES (1, '2', 'mm', '1/4', 'clockwise', 'clockwise', 1)",
    "INSERT INTO quadrant VALUES (1, 40, 90, 10, 140, 8, 8, 8, 0.5, 2, NULL)",
    "INSERT INTO wheel VALUES (1, 1, 40, 1, '', ''), (2, 1, 60, 1, '', '')",
    "INSERT INTO mounted VALUES (1, '40/60')",
)


@pytest.fixture(scope="module")
def old(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """A shop as each older revision left it."""
    folder = tmp_path_factory.mktemp("old")
    made = {}
    for revision in REVISIONS:
        path = made[revision] = folder / f"{revision}.sqlite"
        engine = create_engine(f"sqlite:///{path}")
        config = Config()
        config.set_main_option("script_location", str(Path(store_module.__file__).parent / "migrations"))
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "0001")
            for line in _AT_FIRST:
                connection.execute(text(line))
            command.upgrade(config, revision)
        engine.dispose()
    return made


def wren(path: Path) -> None:
    """The old shop's lathe is all there."""
    store = open_store(path)
    with store.reading() as session:
        row = machines.machine(session, "wren")
        lathe, on = machines.lathe(row), machines.mounted(row)
        assert [step.ratio for step in lathe.first] == [Fraction(1, 4)]
        assert (lathe.box, lathe.pairs, lathe.feeds) == ((), (), {})
        assert machines.stock(row) == {40: 1, 60: 1}
        assert on is not None
        assert on.name(lathe) == "40/60"
    store.engine.dispose()


@pytest.mark.parametrize("revision", REVISIONS)
def test_a_file_of_every_revision_is_brought_up_to_date(old: dict[str, Path], revision: str, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    shutil.copy(old[revision], path)
    wren(path)
    with closing(sqlite3.connect(tmp_path / f"shop.before-upgrade-{revision}.sqlite")) as copy:
        assert copy.execute("SELECT version_num FROM alembic_version").fetchone() == (revision,)
        assert copy.execute("SELECT count(*) FROM wheel").fetchone() == (2,)


def left_by_a_kill(path: Path, folder: Path) -> tuple[int, list[Path]]:
    """Open the shop, and before each statement of it lay aside what is on the disk, as a kill −9 there would leave it;
    how many statements there were, and what was different before them."""
    statements, left = 0, dict[bytes, Path]()

    def lay_aside(*_: object) -> None:
        nonlocal statements
        statements += 1
        files = sorted(path.parent.glob(f"{path.name}*"))
        state = b"".join(file.name.encode() + file.read_bytes() for file in files if not file.name.endswith("-shm"))
        if state not in left:
            (there := folder / str(len(left))).mkdir()
            left[state] = there / path.name
            for file in files:
                shutil.copy(file, there)

    event.listen(Engine, "before_cursor_execute", lay_aside)
    event.listen(Engine, "commit", lay_aside)
    try:
        open_store(path).engine.dispose()
    finally:
        event.remove(Engine, "before_cursor_execute", lay_aside)
        event.remove(Engine, "commit", lay_aside)
    return statements, list(left.values())


@pytest.mark.parametrize("revision", [None, *REVISIONS])
def test_a_start_that_is_killed_leaves_a_file_that_opens(
    old: dict[str, Path], revision: str | None, tmp_path: Path
) -> None:
    (path := tmp_path / "now" / "shop.sqlite").parent.mkdir()
    if revision is not None:
        shutil.copy(old[revision], path)
    statements, left = left_by_a_kill(path, tmp_path)
    assert statements > 15
    for shop in left:
        if revision is None:
            store = open_store(shop)
            with store.session() as session:
                harrowfold.load(session)
            store.engine.dispose()
        else:
            wren(shop)


def test_what_an_older_start_left_half_made_is_made_anew(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with closing(sqlite3.connect(path)) as half:
        half.execute("CREATE TABLE alembic_version (version_num VARCHAR(32) NOT NULL)")
        half.execute("CREATE TABLE wheel_family (id INTEGER NOT NULL PRIMARY KEY)")
    with open_store(path).session() as session:
        harrowfold.load(session)
    full = tmp_path / "full.sqlite"
    with closing(sqlite3.connect(full)) as half:
        half.execute("CREATE TABLE wheel_family (id INTEGER NOT NULL PRIMARY KEY)")
        half.execute("INSERT INTO wheel_family VALUES (1)")
        half.commit()
    assert trouble(full) is Trouble.INCOMPLETE


def trouble(path: Path) -> Trouble:
    with pytest.raises(ShopFileError) as result:
        open_store(path)
    return result.value.trouble


def test_what_is_no_shop_is_left_as_it_is(store: Store, tmp_path: Path) -> None:
    letter = tmp_path / "letter.sqlite"
    letter.write_text("a letter to the weir keeper" * 100)
    assert trouble(letter) is Trouble.NOT_A_SHOP
    assert letter.read_text().startswith("a letter")
    foreign = tmp_path / "foreign.sqlite"
    with closing(sqlite3.connect(foreign)) as other:
        other.execute("CREATE TABLE alembic_version (version_num VARCHAR(32))")
        other.execute("INSERT INTO alembic_version VALUES ('a1b2')")
        other.execute("CREATE TABLE letters (id INTEGER)")
        other.commit()
    before = foreign.read_bytes()
    assert trouble(foreign) is Trouble.FOREIGN
    assert foreign.read_bytes() == before
    with store.engine.begin() as connection:
        connection.execute(text("UPDATE alembic_version SET version_num = '9999'"))
    store.engine.dispose()
    assert trouble(store.path) is Trouble.NEWER


def test_a_damaged_file_and_one_that_lacks_a_table_are_told(store: Store, tmp_path: Path) -> None:
    with store.session() as session:
        harrowfold.load(session)
    store.engine.dispose()
    with closing(sqlite3.connect(store.path)) as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    short = tmp_path / "short.sqlite"
    short.write_bytes(store.path.read_bytes()[:-9000])
    assert trouble(short) is Trouble.DAMAGED
    with closing(sqlite3.connect(store.path)) as connection:
        connection.execute("DROP TABLE bar")
    assert trouble(store.path) is Trouble.INCOMPLETE


def test_writes_are_synchronous_and_the_file_is_ours(store: Store) -> None:
    with store.engine.connect() as connection:
        assert connection.scalar(text("PRAGMA synchronous")) == 2
        assert connection.scalar(text("PRAGMA application_id")) == int.from_bytes(b"Vwnd")


def test_only_one_program_serves_a_shop(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with claimed(path):
        with pytest.raises(ShopFileError) as result, claimed(path):
            pass
        assert result.value.trouble is Trouble.IN_USE
    with claimed(path):
        pass


def adds(client: TestClient) -> Any:
    return client.post("/api/rack/families", json={"name": "x", "system": "module", "pitch": "1"})


def test_a_file_that_goes_while_it_is_served_is_told_and_nothing_is_saved(demo: TestClient, store: Store) -> None:
    moved = store.path.with_name("elsewhere.sqlite")
    store.path.rename(moved)
    for answer in (adds(demo), demo.get("/api/machines")):
        assert answer.status_code == 503
        assert "was deleted, moved or replaced" in answer.json()["detail"]
    moved.rename(store.path)
    assert adds(demo).status_code == 200


@pytest.mark.parametrize("lost", ["log deleted", "log replaced", "cut short", "emptied"])
def test_what_is_lost_under_it_is_noticed_before_anything_is_acknowledged(
    demo: TestClient, store: Store, lost: str
) -> None:
    log = store.path.with_name(f"{store.path.name}-wal")
    assert adds(demo).status_code == 200
    if lost.startswith("log"):
        log.unlink()
        if lost == "log replaced":
            log.touch()
    else:
        os.truncate(store.path, 0 if lost == "emptied" else 4096)
    step = {"key": "after-it-was-lost", "kind": "done"}
    for answer in (
        demo.post("/api/jobs/1/session/events", json=step),
        demo.put("/api/machines/plover/wheels", json={}),
    ):
        assert answer.status_code in (422, 503)
    assert demo.post("/api/jobs/1/session/events", json=step).status_code == 503


def test_a_file_that_grows_while_two_look_at_it_is_still_there(store: Store, monkeypatch: pytest.MonkeyPatch) -> None:
    """One has seen how long it is; before it compares, the file grows, and another sees that."""
    stat = Path.stat
    looks: list[Path] = []

    def grown_meanwhile(path: Path, **how: Any) -> os.stat_result:
        seen = stat(path, **how)
        if path == store.path and not looks:
            looks.append(path)
            with store.path.open("ab") as file:
                file.write(bytes(4096))
            with store.reading():
                pass
        return seen

    monkeypatch.setattr(Path, "stat", grown_meanwhile)
    with store.reading():
        pass
    assert looks


def test_a_stopped_shop_is_one_whole_file(store: Store) -> None:
    with store.session() as session:
        harrowfold.load(session)
    store.engine.dispose()
    assert not store.path.with_name(f"{store.path.name}-wal").exists()


@pytest.mark.parametrize("link", [Path.hardlink_to, Path.symlink_to])
def test_a_shop_under_another_name_is_the_same_shop(tmp_path: Path, link: Callable[[Path, Path], None]) -> None:
    path, other = tmp_path / "shop.sqlite", tmp_path / "other.sqlite"
    open_store(path).engine.dispose()
    link(other, path)
    with claimed(path):
        with pytest.raises(ShopFileError) as result, claimed(other):
            pass
        assert result.value.trouble is Trouble.IN_USE


@pytest.mark.parametrize(
    ("revision", "why"), [("9999", Trouble.NEWER), ("a1b2c3", Trouble.FOREIGN), ("", Trouble.FOREIGN)]
)
def test_a_file_of_another_revision_is_left_alone(store: Store, revision: str, why: Trouble) -> None:
    with store.engine.begin() as connection:
        connection.execute(text("UPDATE alembic_version SET version_num = :revision"), {"revision": revision})
    store.engine.dispose()
    before = store.path.read_bytes()
    assert trouble(store.path) is why
    assert store.path.read_bytes() == before
    assert not list(store.path.parent.glob("*before-upgrade*"))


@pytest.mark.parametrize(
    "damage",
    [
        "UPDATE lathe SET screw_lead_mm = 'x/0'",
        "UPDATE wheel SET measured = '{'",
        "UPDATE job SET typed = '['",
        "UPDATE job SET typed = '[]'",
        "UPDATE wheel SET condition = 'rusty'",
        "UPDATE wheel SET teeth = 'many'",
        "UPDATE wheel SET shift = x'00'",
        "UPDATE lathe SET screw_hand = 'upper'",
        "UPDATE quadrant SET cover_mm = '7'",
        "UPDATE job_event SET kind = 'eaten'",
        "UPDATE wheel_family SET pitch_system = 'furlong'",
        "UPDATE lathe SET first_steps = '3'",
        "UPDATE job SET wheel = '{}'",
        'UPDATE job SET typed = \'{"school": "by eye"}\'',
        "UPDATE job SET typed = '{\"cutter\": 63}'",
        "UPDATE cutting SET plan = '{}'",
        "UPDATE record SET typed = '[]'",
        "UPDATE record SET typed = json_set(typed, '$.reads', 5)",
    ],
)
def test_damage_that_is_met_later_is_a_sentence(demo: TestClient, store: Store, damage: str) -> None:
    with store.reading() as session:
        assert is_sound(session)
    with store.engine.execution_options(valleywind_writing=True).begin() as connection:
        connection.execute(text(damage))
    with store.reading() as session:
        assert not is_sound(session)
    answers = [
        demo.get(f"/api/{path}")
        for path in ("machines", "rack", "jobs/1", "jobs/1/log", "jobs/1/session", "machines/plover")
    ]
    broken = [a for a in answers if a.status_code != 200]
    assert broken
    assert all((a.status_code, "is damaged" in a.json()["detail"]) == (503, True) for a in broken)


@pytest.mark.parametrize(
    ("pragma", "mode", "says"),
    [("max_page_count = 1", "rw", "disk"), ("query_only = ON", "ro", "cannot be written")],
    ids=["full", "read only"],
)
@pytest.mark.parametrize("many", [40, 400], ids=["few wheels", "many wheels"])
def test_a_full_disk_and_a_read_only_file_are_told(
    store: Store, monkeypatch: pytest.MonkeyPatch, pragma: str, mode: str, says: str, many: int
) -> None:
    with store.session() as session:
        harrowfold.load(session)
    store.engine.dispose()
    event.listen(store.engine, "connect", lambda connection, _: connection.execute(f"PRAGMA {pragma}").close())
    real = rehearsal._attach

    def attach(memory: sqlite3.Connection, path: Path, _: str) -> None:
        real(memory, path, mode)
        if mode == "rw":
            memory.execute(f"PRAGMA shop.{pragma}")

    monkeypatch.setattr(rehearsal, "_attach", attach)
    client = TestClient(make_app(store), base_url="http://127.0.0.1", raise_server_exceptions=False)
    pile = {"wheels": " ".join(map(str, range(20, many))), "note": "x" * 200, "place": "y" * 40}
    answers = [client.post("/api/rack/wheels", json=pile | {"material": str(n)}) for n in range(8)]
    assert answers[-1].status_code == 503
    assert says in answers[-1].json()["detail"]
    assert "Nothing was saved" in answers[-1].json()["detail"]


def test_a_file_that_another_program_holds_is_told(store: Store, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(store_module, "_PATIENCE", 50)
    client = TestClient(make_app(open_store(store.path)), base_url="http://127.0.0.1", raise_server_exceptions=False)
    with closing(sqlite3.connect(store.path, isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        answer = adds(client)
        assert (answer.status_code, client.get("/api/machines").status_code) == (503, 200)
        assert "Another program is using" in answer.json()["detail"]
        other.execute("ROLLBACK")
    assert adds(client).status_code == 200


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["--port", "99999"], "There is no port 99999. Name one from 1 to 65535 with --port."),
        (["--data", "letter.sqlite"], "is not a shop’s file. It was left as it is."),
        (["--data", "letter.sqlite/deeper"], "cannot be opened: Not a directory. Name another folder with --data."),
    ],
)
def test_a_start_that_cannot_be_is_a_sentence(tmp_path: Path, words: list[str], says: str) -> None:
    (tmp_path / "letter.sqlite").write_text("a letter to the weir keeper" * 100)
    program = str(Path(sys.executable).with_name("valleywind"))
    where = [] if "--data" in words else ["--data", "shop"]
    done = subprocess.run([program, "serve", *where, *words], cwd=tmp_path, capture_output=True, text=True, timeout=60)
    assert (done.returncode, says in done.stderr) == (2, True), done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_ctrl_c_ends_the_server_though_an_answer_is_still_worked_at(tmp_path: Path) -> None:
    with closing(socket.socket()) as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    program = str(Path(sys.executable).with_name("valleywind"))
    serve = [program, "serve", "--demo", "--port", str(port)]
    with subprocess.Popen(serve, cwd=tmp_path, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as server:
        assert server.stdout is not None
        assert server.stderr is not None
        while "Ready" not in (line := server.stdout.readline()):
            assert line, server.stderr.read()
        with urlopen(f"http://127.0.0.1:{port}/api/lathes/dunlin/worth?list=metric", timeout=60) as answer:
            assert answer.readline()
            server.send_signal(signal.SIGINT)
            assert server.wait(timeout=60) == 0
        assert server.stderr.read() == ""
