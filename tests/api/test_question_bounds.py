"""A question ends at its bound wherever it is, and leaves nothing behind that ends another."""

import itertools
import threading
import time
from collections.abc import Sequence
from contextlib import suppress
from functools import partial
from types import SimpleNamespace
from typing import Any

import pytest
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient

from valleywind.api import bounds
from valleywind.api.app import make_app
from valleywind.api.topics.dividing import ways as dividing
from valleywind.api.topics.helix import chart as mill_chart
from valleywind.api.topics.hobbing import station as hobber
from valleywind.api.topics.lathe import station as lathe
from valleywind.api.topics.making import sessions
from valleywind.api.topics.rack import boxes as photos
from valleywind.api.topics.rack import identify, rack
from valleywind.core.interrupt import Interruption, OverBudget, can_stop
from valleywind.shop.store import Store


def endless() -> int:
    """A loop that asks nobody whether it may go on, and lets no exception through; so long that it is ended or fails
    its test."""
    until = time.thread_time() + 20
    while time.thread_time() < until:
        with suppress(Exception):
            sum(range(50))
    return 0


def work_until(when: float) -> None:
    while time.thread_time() < when:
        pass


@pytest.fixture
def short(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(bounds, "MOST_SECONDS", 0.1)


@pytest.mark.usefixtures("short")
def test_a_loop_without_end_ends() -> None:
    with pytest.raises(OverBudget):
        bounds.bounded(endless)


@pytest.mark.usefixtures("short")
@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")
def test_an_end_that_is_lost_comes_again() -> None:
    """What is raised in a finalizer nobody hears."""

    class Tidied:
        def __del__(self) -> None:
            until = time.thread_time() + 0.2
            while time.thread_time() < until:
                pass

    def tidy_and_go_on() -> None:
        Tidied()
        endless()

    with pytest.raises(OverBudget):
        bounds.bounded(tidy_and_go_on)


def test_what_nobody_waits_for_ends() -> None:
    with can_stop() as wanted:
        threading.Timer(0.1, wanted.stop).start()
        with pytest.raises(Interruption):
            bounds.bounded(endless)


@pytest.mark.usefixtures("short")
def test_every_step_of_an_answer_in_pieces_has_its_bound() -> None:
    steps = bounds.each_step(endless() if n == 3 else n for n in itertools.count())
    assert [next(steps) for _ in range(3)] == [0, 1, 2]
    with pytest.raises(OverBudget):
        next(steps)


@pytest.mark.usefixtures("short")
def test_what_ended_just_in_time_is_not_ended_afterwards() -> None:
    """Ends all around the bound: an exception belongs to its question or to nobody."""
    for n in range(60):
        over = time.thread_time() + 0.1 + (n - 30) * 0.002
        with suppress(OverBudget):
            bounds.bounded(partial(work_until, over))
        work_until(time.thread_time() + 0.06)


def test_one_on_its_way_out_is_let_go() -> None:
    """However often it is looked: an end that comes when the work is left would be nobody's."""
    used_much = bounds._Question(threading.get_ident(), None, begun=-1000)
    bounds._Watch._look_at(used_much)
    work_until(time.thread_time() + 0.01)


@pytest.mark.usefixtures("short")
def test_one_that_waits_without_working_is_let_be() -> None:
    bounds.bounded(lambda: time.sleep(0.4))


@pytest.mark.usefixtures("app")
def test_every_route_that_only_answers_is_bounded() -> None:
    topics = (lathe, hobber, mill_chart, rack, identify, dividing, photos, sessions)
    every = [route for topic in topics for route in topic.router.routes]
    bounded = {r.path for r in every if isinstance(r, APIRoute) and hasattr(r.dependant.call, "__wrapped__")}
    assert {"/lathes/{machine}/plan", "/hobbers/{machine}/plan", "/mills/{machine}/chart", "/rack"} <= bounded
    assert {"/dividing/{machine}/chart.csv", "/hobbers/{machine}/sheet.pdf"} <= bounded
    # A write is never broken off.
    assert not {"/rack/wheels", "/rack/photos", "/jobs/{job}/session/events"} & bounded


@pytest.mark.usefixtures("short")
def test_a_question_without_end_gets_a_sentence(store: Store, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("valleywind.shop.machines.machine", lambda *_: endless())
    with TestClient(make_app(store), base_url="http://127.0.0.1") as client:
        answer = client.get("/api/machines/wren")
        assert (answer.status_code, answer.json()["title"]) == (422, "Too much")
        assert client.get("/api/rack").status_code == 200


def test_a_helical_wheel_with_a_wheel_of_every_count_is_answered(
    demo: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """By what it costs in steps: how fast the machine is does not matter."""
    monkeypatch.setattr(bounds, "MOST_SECONDS", 1000)
    held = demo.get("/api/machines/avocet/wheels").json()["wheels"]
    every = {*range(20, 160), *(w["teeth"] for w in held if w["mounted"])}
    kept = demo.put("/api/machines/avocet/wheels", json={"wheels": " ".join(map(str, every))})
    assert kept.status_code == 200, kept.text
    answer = demo.get("/api/hobbers/avocet/plan", params={"ask": "hob 24 m2 30° left face 20"})
    assert answer.status_code == 200
    assert answer.json()["candidates"]


def test_a_long_list_is_answered_as_far_as_it_comes(monkeypatch: pytest.MonkeyPatch) -> None:
    seen: list[list[int]] = []

    def work(some: Sequence[int]) -> list[int]:
        seen.append(list(some))
        if 7 in some:
            raise OverBudget
        return [n * n for n in some]

    monkeypatch.setattr(bounds, "A_PART", 1000)
    assert bounds.in_part(range(5), 2, work) == [0, 1, 4, 9, 16]
    assert seen == [[0, 1], [2, 3], [4]]
    # What is known before one that is too much is not lost; one that is by itself is told.
    assert bounds.in_part(range(9), 2, work) == [n * n for n in range(6)]
    with pytest.raises(OverBudget):
        bounds.in_part([7], 2, work)
    monkeypatch.setattr(bounds, "A_PART", 0)
    assert bounds.in_part(range(5), 2, work) == [0, 1]


@pytest.mark.parametrize(
    ("path", "query", "rows"),
    [
        ("hobbers/avocet/chart", {"last": 40, "first": 20}, "rows"),
        ("mills/heron/chart", {"first": 20, "last": 32, "angles": "15 30"}, "cells"),
        ("dividing/heron/chart", {"first": 30, "last": 60}, "lines"),
    ],
)
def test_a_chart_in_parts_is_the_whole_chart(
    demo: TestClient, monkeypatch: pytest.MonkeyPatch, path: str, query: dict[str, Any], rows: str
) -> None:
    monkeypatch.setattr(bounds, "A_PART", 1000)
    whole = demo.get(f"/api/{path}", params=query).json()
    assert whole["next"] is None
    file = demo.get(f"/api/{path}.csv", params=query).text.splitlines()
    assert len(file) == 1 + len(whole[rows])
    monkeypatch.setattr(bounds, "A_PART", 0)
    parts, first, requests = [], query["first"], 0
    while first is not None:
        part = demo.get(f"/api/{path}", params=query | {"first": first}).json()
        parts += part[rows]
        first, requests = part["next"], requests + 1
    assert parts == whole[rows]
    assert requests > 1


def test_an_end_that_is_lost_where_something_is_tidied_away_is_not_in_the_log() -> None:
    events: list[object] = []
    tell = bounds._but_ended(events.append)
    tell(SimpleNamespace(exc_type=bounds._QuestionEnd))
    assert events == []
    tell(SimpleNamespace(exc_type=ValueError))
    assert len(events) == 1
