"""Whatever the shop has is found by a few words of it."""

from typing import Any

import pytest
from fastapi.testclient import TestClient


def found(client: TestClient, text: str) -> list[tuple[str, str]]:
    answer = client.get("/api/find", params={"text": text})
    assert answer.status_code == 200, answer.text
    return [(one["sort"], one["name"]) for one in answer.json()["things"]]


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("plover", ("machine", "Plover")),
        ("PLO", ("machine", "Plover")),
        ("hobber", ("machine", "Avocet")),
        ("12 dp 55", ("cutter", "12 DP, 14.5°: 55–134")),
    ],
)
def test_what_is_sought_stands_first(demo: TestClient, text: str, first: tuple[str, str]) -> None:
    assert found(demo, text)[0] == first


def test_every_word_must_answer(demo: TestClient) -> None:
    assert found(demo, "plover hobber") == []


def test_a_figure_is_a_whole_one(demo: TestClient) -> None:
    wheels = [name for sort, name in found(demo, "40") if sort == "wheel"]
    assert wheels
    assert set(wheels) == {"40"}
    assert [name for sort, name in found(demo, "4") if sort == "wheel"] == []


def test_a_job_is_found_by_its_wheel_and_its_machine(demo: TestClient) -> None:
    job: Any = demo.post("/api/jobs", json={"ask": "make 57 for Plover"}).json()
    answer = demo.get("/api/find", params={"text": "57 plover"}).json()["things"]
    assert [one["key"] for one in answer if one["sort"] == "job"][:1] == [str(job["id"])]


def test_of_many_the_first_are_told_and_how_many_more(demo: TestClient) -> None:
    answer = demo.get("/api/find", params={"text": "plover"}).json()
    wheels = [one for one in answer["things"] if one["sort"] == "wheel"]
    every = demo.get("/api/rack", params={"seek": "plover"}).json()["answering"]
    assert len(wheels) == 6
    assert answer["more"] >= every - 6


@pytest.mark.parametrize("text", ["", "   "])
def test_nothing_answers_to_no_word(demo: TestClient, text: str) -> None:
    assert found(demo, text) == []
