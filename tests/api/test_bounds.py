"""No request may hold the server: figures have bounds, work has a measure, and what nobody waits for stops."""

import threading
from typing import Any

import pytest
from fastapi.testclient import TestClient

from valleywind.api.topics.lathe import chart as lathe_chart
from valleywind.core import interrupt
from valleywind.core.trains.layout import lay_out
from valleywind.demo import harrowfold
from valleywind.shop import machines as shop


def code(answer: Any) -> tuple[int, str, str]:
    errors = answer.json()["errors"]
    return answer.status_code, errors[0]["field"], errors[0]["code"]


@pytest.mark.parametrize(
    ("path", "field", "why"),
    [
        ("lathes/plover/plan?ask=M100000000x1", "ask", "diameter_out_of_range"),
        ("lathes/plover/plan?ask=M14x2 over 99999999 mm", "ask", "engagement_out_of_range"),
        ("lathes/plover/plan?ask=feed 0.0000001", "ask", "feed_out_of_range"),
        ("lathes/plover/plan?ask=worm module 900", "ask", "pitch_out_of_range"),
        ("lathes/fields?pitch=2 mm&diameter=99999 mm", "diameter", "diameter_out_of_range"),
        ("lathes/fields?pitch=2 mm&engagement=9999999", "engagement", "engagement_out_of_range"),
        ("wheels/drawing.pdf?ask=wheel 400 m10", "ask", "too_large_for_paper"),
        ("wheels/sizes?ask=wheel 57 m1000000", "pitch", "pitch_out_of_range"),
        ("dividing/disc.pdf?divisions=1000&diameter=2000", "ask", "too_large_for_paper"),
        ("dividing/disc?divisions=99999999&diameter=200", "divisions", "whole_out_of_range"),
        ("dividing/grebe/chart?first=2&last=1000", "last", "too_many_lines"),
        ("dividing/grebe/chart.csv?first=2&last=1000", "last", "too_many_lines"),
        ("lathes/plover/check?ask=M14x2&train=76/66*32/78&measured=20&turns=1000001", "turns", "whole_out_of_range"),
    ],
)
def test_figures_have_bounds_at_their_field(demo: TestClient, path: str, field: str, why: str) -> None:
    assert code(demo.get(f"/api/{path}")) == (422, field, why)


def test_a_chart_of_too_many_lines_is_refused_as_a_file(demo: TestClient) -> None:
    lists = "&".join(f"list={o['of']}" for o in demo.get("/api/lathes/plover/lists").json())
    assert code(demo.get(f"/api/lathes/plover/chart.csv?{lists}")) == (422, "list", "too_many_lines")


def test_records_have_bounds_too(demo: TestClient) -> None:
    record = demo.get("/api/lathe-records/plover").json()
    for field, typed, why in (
        ("dials", "24/800000", "not_two_numbers"),
        ("cover", ", ".join(f"{n} {n * n % 97}" for n in range(70)), "too_many_corners"),
        ("cover", "0 0, 0 0, 9 9, 0 9", "corner_on_corner"),
    ):
        assert code(demo.put("/api/lathe-records/plover", json=record | {field: typed})) == (422, field, why)
    family = {"name": "x", "system": "module", "pitch": "1"}
    for more, field, why in (
        ({"pitch": "5000"}, "pitch", "pitch_out_of_range"),
        ({"bore": "99999999 mm"}, "bore", "size_out_of_range"),
        ({"face": "9 m"}, "face", "unknown_unit"),
    ):
        assert code(demo.post("/api/rack/families", json=family | more)) == (422, field, why)


def test_no_machine_has_more_wheels_than_are_planned_with(demo: TestClient) -> None:
    pile = {"wheels": " ".join(map(str, range(6, 400))), "family": demo.get("/api/rack").json()["families"][0]["id"]}
    assert code(demo.post("/api/rack/wheels", json=pile | {"machine": "plover"})) == (422, "wheels", "too_many_sizes")
    assert code(demo.put("/api/machines/plover/wheels", json={"wheels": pile["wheels"]}))[2] == "too_many_sizes"
    edge = " ".join(map(str, range(20, 168)))
    assert demo.put("/api/machines/plover/wheels", json={"wheels": edge}).status_code == 200
    assert demo.get("/api/lathes/plover/plan?ask=M14x2").json()["candidates"]


def test_a_question_costs_no_more_than_it_may(demo: TestClient) -> None:
    """Every slot open, three studs, many wheels: what was found so far is the answer, or a sentence."""
    demo.put("/api/machines/plover/wheels", json={"wheels": " ".join(map(str, range(20, 165)))})
    record = demo.get("/api/lathe-records/plover").json()
    slots = [{"offset": str(-20 * n), "nearest": "20", "farthest": "400"} for n in range(4)]
    wide = {"slots": slots, "studs": "3", "swing_low": "-180", "swing_high": "180", "cover": ""}
    assert demo.put("/api/lathe-records/plover", json=record | wide).status_code == 200
    spent = []

    class Counted(interrupt.WorkLimit):
        def spend(self, effort: int) -> None:
            spent.append(effort)
            super().spend(effort)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(interrupt, "WorkLimit", Counted)
        assert demo.get("/api/lathes/plover/plan?ask=feed 0.0005").status_code == 200
        answer = demo.get("/api/lathes/plover/chart?list=metric&list=per_inch")
    assert answer.status_code in (200, 422)
    assert answer.status_code == 200 or answer.json()["detail"].startswith("That is more than can be worked out")
    assert sum(effort for effort in spent if effort <= 300_000) > 50_000
    assert sum(1 for effort in spent if effort > 300_000) <= 4  # each ends its question
    assert demo.get("/api/lathes/plover/plan?ask=M14x2").json()["candidates"]


def test_work_that_nobody_waits_for_stops() -> None:
    row = harrowfold.plover()
    lathe = shop.lathe(row)
    with interrupt.can_stop() as wanted:
        lay_out([], lathe.family, lathe.quadrant)
        wanted.stop()
        from valleywind.core.trains.model import parse_train

        with pytest.raises(interrupt.Interruption):
            lay_out([parse_train("76/66*32/78")], lathe.family, lathe.quadrant)
    assert lay_out([parse_train("76/66*32/78")], lathe.family, lathe.quadrant)[0].fits


def test_expensive_requests_leave_the_others_their_turn(demo: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    """While charts are worked on that do not end, a record is read, a thread planned and a wheel added."""
    begun, end, most = threading.Semaphore(0), threading.Event(), []
    at_work = 0

    def endless(*_: object) -> list[object]:
        nonlocal at_work
        at_work += 1
        most.append(at_work)
        begun.release()
        end.wait(60)
        at_work -= 1
        return []

    monkeypatch.setattr(lathe_chart, "chart", endless)
    answers: list[int] = []
    path = "/api/lathes/plover/chart.csv?list=metric"
    threads = [threading.Thread(target=lambda: answers.append(demo.get(path).status_code)) for _ in range(60)]
    for thread in threads:
        thread.start()
    assert begun.acquire(timeout=60)
    family = demo.get("/api/rack").json()["families"][0]["id"]
    assert demo.get("/api/lathes/plover/plan?ask=M14x2").status_code == 200
    added = demo.post("/api/rack/wheels", json={"wheels": "41", "family": family, "machine": "plover"})
    assert (added.status_code, answers) == (200, [])
    end.set()
    for thread in threads:
        thread.join()
    assert answers == [200] * 60
    assert max(most) <= 2


@pytest.mark.parametrize("cell", ["=1+1", "+cmd", "-2", "@sum", "\t=1", "'=1"])
def test_no_cell_of_any_table_is_run(demo: TestClient, cell: str) -> None:
    """Whatever a step of a gearbox, a family or a place is called."""
    record = demo.get("/api/lathe-records/dunlin").json()
    name = cell.replace("=", "").strip() or "x"
    demo.put("/api/machines/dunlin/mounted", json={"train": None})
    demo.put("/api/lathe-records/dunlin", json=record | {"box": f"{name}=1, B=2"})
    wheel = demo.get("/api/rack").json()["wheels"][0]["id"]
    demo.patch("/api/rack/wheels", json={"ids": [wheel], "note": cell, "place": cell})
    for path in ("lathes/dunlin/chart.csv?list=metric", "rack/wheels.csv", "dividing/grebe/chart.csv?last=60"):
        text = demo.get(f"/api/{path}").text.removeprefix("\ufeff")
        for line in text.splitlines()[1:]:
            for result in line.split(","):
                assert not result.strip('"').startswith(("=", "+", "@", "\t", "-c")), line


def test_tables_carry_their_units_in_their_heads(demo: TestClient) -> None:
    heads = {
        (path, units): demo.get(f"/api/{path}&units={units}").text.removeprefix("\ufeff").splitlines()[0]
        for path in ("lathes/plover/chart.csv?list=metric", "dividing/grebe/plate.csv?divisions=57")
        for units in ("mm", "inch")
    }
    assert 'lead, mm"' in heads["lathes/plover/chart.csv?list=metric", "mm"]
    assert 'lead, in"' in heads["lathes/plover/chart.csv?list=metric", "inch"]
    assert '"x, mm"' in heads["dividing/grebe/plate.csv?divisions=57", "mm"]
    assert '"x, in"' in heads["dividing/grebe/plate.csv?divisions=57", "inch"]
