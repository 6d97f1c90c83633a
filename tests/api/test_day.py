"""A day's work on a lathe: the pocket command, and the lathe with its room, hands and levers."""

import itertools
import json
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.commands import run

STOCK = "24,28,32x2,36,38,40,44,46,48,52,56,60,64,66,72,76,78,80"
ASKS = ("M14x2", "1.25 mm", "M10", "20 tpi", "0.75 mm", "11 tpi")


def day(tmp_path: Path, *lines: str, more: tuple[str, ...] = (), as_json: bool = True) -> Any:
    asks = tmp_path / "asks.txt"
    asks.write_text("\n".join(lines))
    words = ("day", str(asks), "--screw", "6 tpi", "--first-ratio", "1", "--stock", STOCK, *more)
    done = run(*words, *(("--json",) if as_json else ()))
    if done.returncode or not as_json:
        return done
    return json.loads(done.stdout)


def test_the_pocket_command_tells_order_trains_and_what_is_put_on(tmp_path: Path) -> None:
    told = day(tmp_path, "# today", *ASKS, "", more=("--on", "36/64*32/78", "--within", "0.0002"))
    assert sorted(one["ask"] for one in told["order"]) == sorted(ASKS)
    stands: list[int | None] = [36, 64, 32, 78]
    for one in told["order"]:
        now: list[int | None] = [t for pair in zip(one["drivers"], one["driven"], strict=True) for t in pair]
        now += [None] * (4 - len(now))
        assert one["put_on"] == sum(a != b for a, b in zip(stands, now, strict=True) if b is not None)
        assert abs(one["error"]) <= 0.0002
        stands = now
    assert told["put_on"] == sum(one["put_on"] for one in told["order"]) <= told["as_typed"]
    assert told["proven"]


def test_it_is_read_by_people_too_and_refuses_in_a_sentence(tmp_path: Path) -> None:
    done = day(tmp_path, *ASKS, as_json=False)
    assert "wheels put on in all: no order puts on fewer." in done.stdout
    for lines, more, says in (
        (("M14x2", "2.000001 mm within 0%"), (), "2.000001 mm within 0%"),
        (("M14x2", "nonsense"), (), "nonsense"),
        (("M14x2",), ("--on", "40/50/80"), "idler"),
        (("M14x2",), ("--within", "2"), "within"),
        (("M14x2",), ("--screw", "none"), "screw"),
        (("M14x2",) * 41, (), "41"),
    ):
        done = day(tmp_path, *lines, more=more)
        assert done.returncode == 2, lines
        assert says in done.stderr
        assert len(done.stderr.strip().splitlines()) == 1


def planned(client: TestClient, *asks: str, **more: Any) -> Any:
    answer = client.get("/api/lathes/plover/day", params={"ask": asks, **more})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_on_a_lathe_every_train_fits_and_the_changes_are_told(demo: TestClient) -> None:
    told = planned(demo, *ASKS)
    assert sorted(turn["line"] for turn in told["turns"]) == list(range(len(ASKS)))
    assert all(turn["candidate"]["fits"] for turn in told["turns"])
    assert told["put_on"] <= told["as_typed"]
    assert told["put_on"] == sum(": " in change for turn in told["turns"] for change in turn["changes"])
    # The first comes from what is on the lathe now.
    first = told["turns"][0]
    one = demo.get("/api/lathes/plover/train", params={"ask": first["ask"], "train": first["candidate"]["train"]})
    assert one.json()["candidate"]["work"] == first["work"]


def test_what_runs_free_is_not_given_up_for_a_wheel_less(demo: TestClient) -> None:
    for turn in planned(demo, *ASKS)["turns"]:
        best = demo.get("/api/lathes/plover/plan", params={"ask": turn["ask"], "best": 40}).json()["candidates"]
        assert turn["candidate"]["goes"] == best[0]["goes"]


def test_no_other_order_of_four_puts_on_fewer(demo: TestClient) -> None:
    """Held beside every order, each planned as it is typed."""
    asks = ("M6", "11 tpi", "M24x3", "20 tpi")
    best = planned(demo, *asks)["put_on"]
    typed = [planned(demo, *order)["as_typed"] for order in itertools.permutations(asks)]
    assert min(typed) == best
    assert max(typed) > best


def test_what_cannot_be_done_or_read_is_told_and_the_rest_is_planned(demo: TestClient) -> None:
    told = planned(demo, "M14x2", "nonsense", "1.2345678 mm within 0%")
    assert [turn["line"] for turn in told["turns"]] == [0]
    assert [(one["line"], one["text"]) for one in told["left_out"]] == [(1, "nonsense"), (2, "1.2345678 mm within 0%")]
    assert all(one["says"] for one in told["left_out"])
    assert planned(demo, "nonsense")["says"] == "Nothing of this can be done as it is."


def test_what_is_on_is_put_back(demo: TestClient) -> None:
    told = planned(demo, "M14x2", put_back=True)
    assert told["back"]
    assert told["put_on"] > planned(demo, "M14x2")["put_on"]


@pytest.mark.parametrize("machine", ["plover", "curlew", "dunlin"])
def test_levers_are_said_where_they_move(demo: TestClient, machine: str) -> None:
    answer = demo.get(f"/api/lathes/{machine}/day", params={"ask": ["8 tpi", "16 tpi", "feed 0.1"]})
    assert answer.status_code == 200, answer.text
    for turn in answer.json()["turns"]:
        assert turn["work"]
        assert turn["changes"] or turn["work"] == "already on the machine"


def test_more_than_a_day_is_refused(demo: TestClient) -> None:
    assert demo.get("/api/lathes/plover/day", params={"ask": ["M14x2"] * 13}).status_code == 422
    assert demo.get("/api/lathes/plover/day").status_code == 422
