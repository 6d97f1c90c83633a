"""What the page has still holds, or is sent anew: never an answer that is not as it would be now."""

from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api.made import told
from tests.api.test_changes import WRITES
from tests.api.undoing import undo
from valleywind.shop.models import DeviceKeyRow
from valleywind.shop.store import Store
from valleywind.shop.table_use import TABLES, _touched

ASK = "ask=make+57+for+Plover"
QUESTIONS = (
    "log", "log/last?machine=plover&ask=M14x2", "log/book/plover", "log/today", "day",
    "day/machines/plover?put_back=false", "day/jobs", "find?text=plover", "changes", "machines?units=inch",
    "machines/plover", "machines/plover/wheels", "machines/plover/effort", "machine-records/avocet",
    "machine-plates/dunlin", "lathe-records/plover", "rack", "rack/families", "rack/places", "rack/sets/plover",
    "rack/sources/1/57", "stores", "lathes/plover/plan?ask=M14x2", "lathes/plover/now",
    "lathes/plover/lists", "hobbers/avocet/now", "hobbers/avocet/plan?ask=hob+31", "mills/heron/now",
    "dividing/ways?ask=57", f"wheels/sizes?{ASK}", f"wheels/plunge?{ASK}", "jobs", "jobs/before?teeth=57",
    "jobs/1/log", "jobs/1/session", "jobs/1/session/lost?hole=0",
)  # fmt: skip
MORE: dict[str, Callable[[TestClient], Any]] = {
    "tooth cut": lambda c: told(c, 1, "done"),
    "job added": lambda c: c.post("/api/jobs", json={"ask": "make 61 for Plover"}),
    "step found": lambda c: c.put("/api/jobs/1/results", json={"step": "blank", "done": True}),
    "done logged": lambda c: c.post(
        "/api/log/done", json={"machine": "plover", "ask": "M14x2", "train": "76/66*32/78", "outcome": "fits"}
    ),
    "machine put away": lambda c: c.put("/api/machines/grebe/archived", json={"archived": True}),
}


class Page:
    """Asks as a page does, which has kept what it was answered before."""

    def __init__(self, client: TestClient) -> None:
        self.client, self.held = client, dict[str, Any]()

    def look(self) -> set[str]:
        """Ask everything; what is not sent again is as it would be to somebody who has nothing. Gives what was sent."""
        sent = set()
        for question in QUESTIONS:
            before = self.held.get(question)
            headers = {"If-None-Match": before.headers.get("ETag", "")} if before else {}
            answer = self.client.get(f"/api/{question}", headers=headers)
            if answer.status_code == 304:
                assert before is not None
                assert answer.content == b""
                assert before.json() == self.client.get(f"/api/{question}").json(), question
            else:
                sent.add(question)
                self.held[question] = answer
        return sent


@pytest.fixture
def page(demo: TestClient) -> Page:
    page = Page(demo)
    page.look()
    return page


def test_after_every_write_and_its_undo_what_is_shown_is_what_is_there(page: Page) -> None:
    for write in (*WRITES.values(), *MORE.values()):
        done = write(page.client)
        page.look()
        if done is not None and hasattr(done, "headers") and "Valleywind-Change" in done.headers:
            undo(page.client, done)  # what it changed back is looked at with the next


def test_what_a_change_does_not_touch_is_not_worked_out_again(page: Page) -> None:
    assert {q for q in page.look() if "ETag" in page.held[q].headers} == set()
    WRITES["wheels added"](page.client)
    sent = page.look()
    assert {"rack", "machines/plover/wheels", "lathes/plover/plan?ask=M14x2", "changes"} <= sent
    assert sent.isdisjoint({"jobs/1/session", "machines?units=inch", "jobs", "stores"}), sent
    told(page.client, 1, "done")
    sent = page.look()
    assert {"jobs/1/session", "jobs/1/log"} <= sent
    assert sent.isdisjoint({"rack", "machines/plover/wheels", "machines?units=inch"})


def test_of_another_shop_or_a_file_that_is_gone_nothing_holds(page: Page, store: Store) -> None:
    tag = page.held["machines/plover"].headers["ETag"]

    def ask() -> int:
        return page.client.get("/api/machines/plover", headers={"If-None-Match": tag}).status_code

    assert ask() == 304
    store.replaced(1)
    assert ask() == 200
    tag = page.client.get("/api/machines/plover").headers["ETag"]
    store.path.rename(store.path.with_name("elsewhere"))
    assert ask() == 503


@pytest.mark.parametrize(
    ("statement", "read", "changed"),
    [
        ("SELECT job.wheel FROM job WHERE job.id = ?", {"job"}, set()),
        ('SELECT 1 FROM job, cutting AS c, "wheel" WHERE c.id = job.id', {"job", "cutting", "wheel"}, set()),
        ('SELECT * FROM machine LEFT OUTER JOIN main."lathe" ON 1 JOIN bar ON 1', {"machine", "lathe", "bar"}, set()),
        ("SELECT * FROM (SELECT id FROM wheel) AS w", {"wheel"}, set()),
        ("INSERT INTO wheel (teeth) SELECT teeth FROM bar", {"bar"}, {"wheel"}),
        ('UPDATE "job" SET wheel = (SELECT id FROM wheel)', {"wheel"}, {"job"}),
        ("delete from main.cutter where id = 1", {"cutter"}, {"cutter"}),
        ('DELETE FROM temp."valleywind_was_wheel"', set(), set()),
        ("PRAGMA foreign_key_check", set(), set()),
        ("VACUUM", set(), TABLES),
    ],
)  # fmt: skip
def test_a_statement_says_what_it_reads_and_changes(statement: str, read: set[str], changed: set[str]) -> None:
    assert tuple(map(set, _touched(statement))) == (read, set(changed))


def test_what_is_written_last_counts_too(store: Store) -> None:
    before = store.touched.now()
    with store.adding() as session:
        session.add(DeviceKeyRow(name="pedal", hash="none", made_s=1))
    assert store.touched.now() - before == {"device_key": 1}
