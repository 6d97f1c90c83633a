"""A day's work on a lathe: the pocket command, and the lathe with its room, hands and levers."""

import itertools
import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.commands import run
from valleywind.shop import tasks
from valleywind.shop.store import Store

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
    outcome = day(tmp_path, "# today", *ASKS, "", more=("--on", "36/64*32/78", "--within", "0.0002"))
    assert sorted(one["ask"] for one in outcome["order"]) == sorted(ASKS)
    stands: list[int | None] = [36, 64, 32, 78]
    for one in outcome["order"]:
        now: list[int | None] = [t for pair in zip(one["drivers"], one["driven"], strict=True) for t in pair]
        now += [None] * (4 - len(now))
        assert one["put_on"] == sum(a != b for a, b in zip(stands, now, strict=True) if b is not None)
        assert abs(one["error"]) <= 0.0002
        stands = now
    assert outcome["put_on"] == sum(one["put_on"] for one in outcome["order"]) <= outcome["as_typed"]
    assert outcome["proven"]


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


def add(client: TestClient, *asks: str, machine: str = "") -> list[dict[str, Any]]:
    answer = client.post("/api/day", json={"asks": asks, "machine": machine})
    assert answer.status_code == 201, answer.text
    added: list[dict[str, Any]] = answer.json()
    return added


def planned(client: TestClient, machine: str = "plover", **more: Any) -> Any:
    answer = client.get(f"/api/day/machines/{machine}", params=more)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_every_line_goes_to_the_machine_that_does_it(demo: TestClient) -> None:
    added = add(demo, "M14x2", "M6 on Dunlin", "hob 37", "helix 24 m2 30° left", "divide 57", "make 57")
    assert [(one["ask"], one["station"], one["machine_name"]) for one in added] == [
        ("M14x2", "lathe", "Plover"), ("M6", "lathe", "Dunlin"), ("hob 37", "hobber", "Avocet"),
        ("helix 24 m2 30° left", "mill", "Heron"), ("divide 57", "dividing", "Grebe"), ("make 57", "jobs", ""),
    ]  # fmt: skip
    there = {one["slug"]: one["left"] for one in demo.get("/api/day").json()["machines"]}
    assert there == {"plover": 1, "dunlin": 1, "avocet": 1, "heron": 1, "grebe": 1}


@pytest.mark.parametrize(
    ("line", "says"), [("nonsense", "nonsense"), ("hob 37 on Plover", "Plover"), ("divide 57 on Nobody", "Nobody")]
)
def test_what_is_not_read_is_refused_and_nothing_is_added(demo: TestClient, line: str, says: str) -> None:
    answer = demo.post("/api/day", json={"asks": ["M14x2", line]})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "asks"
    assert says in answer.json()["errors"][0]["says"]
    assert demo.get("/api/day").json()["tasks"] == []


def test_on_a_lathe_every_train_fits_and_the_changes_are_told(demo: TestClient) -> None:
    numbers = {one["id"] for one in add(demo, *ASKS)}
    day = planned(demo)
    assert {turn["task"] for turn in day["turns"]} == numbers
    assert day["put_on"] <= day["as_typed"]
    assert day["put_on"] == sum(": " in change for turn in day["turns"] for change in turn["changes"])
    # The first comes from what is on the lathe now.
    first = day["turns"][0]
    one = demo.get("/api/lathes/plover/train", params={"ask": first["ask"], "train": first["way"]["train"]})
    assert one.json()["candidate"]["work"] == first["work"]
    for turn in day["turns"]:
        query = {"ask": turn["ask"], "train": turn["way"]["train"]}
        assert demo.get("/api/lathes/plover/train", params=query).json()["candidate"]["fits"]
        best = demo.get("/api/lathes/plover/plan", params={"ask": turn["ask"], "best": 40}).json()["candidates"]
        head = next(c["verdict_head"] for c in best if c["goes"] == best[0]["goes"])
        assert turn["way"]["head"] == head, "what runs free is not given up for a wheel less"


def weighed(turns: list[dict[str, Any]]) -> float:
    """What an order takes: a wheel 1, the quadrant or a lever a half."""
    return sum(
        1.0 if ": " in change else 0.5 for turn in turns for change in turn["changes"] if "take off" not in change
    )


def test_no_other_order_of_four_is_less_work(demo: TestClient) -> None:
    """Held beside every order, said by what has to come before what."""
    numbers = [one["id"] for one in add(demo, "M6", "11 tpi", "M24x3", "20 tpi")]
    free = planned(demo)
    best = weighed(free["turns"])
    results = []
    for order in itertools.permutations(numbers):
        for n in numbers:
            demo.put(f"/api/day/{n}", json={"machine": "plover", "after": None})
        for before, one in itertools.pairwise(order):
            assert demo.put(f"/api/day/{one}", json={"machine": "plover", "after": before}).status_code == 200
        day = planned(demo)
        assert [turn["task"] for turn in day["turns"]] == list(order)
        results.append(weighed(day["turns"]))
    assert min(results) == best
    assert max(results) > best


def test_what_is_later_comes_last_and_what_is_skipped_not_at_all(demo: TestClient) -> None:
    numbers = [one["id"] for one in add(demo, *ASKS)]
    first = planned(demo)["turns"][0]["task"]
    demo.put(f"/api/day/{first}", json={"machine": "plover", "state": "later"})
    assert planned(demo)["turns"][-1]["task"] == first
    # What has to come after it waits with it.
    waits = next(n for n in numbers if n != first)
    demo.put(f"/api/day/{waits}", json={"machine": "plover", "after": first})
    assert [turn["task"] for turn in planned(demo)["turns"]][-2:] == [first, waits]
    demo.put(f"/api/day/{first}", json={"machine": "plover", "state": "skipped"})
    assert {turn["task"] for turn in planned(demo)["turns"]} == set(numbers) - {first}


def test_what_cannot_be_done_is_told_and_the_rest_is_planned(demo: TestClient) -> None:
    one, other = add(demo, "M14x2", "1.2345678 mm within 0%")
    day = planned(demo)
    assert [turn["task"] for turn in day["turns"]] == [one["id"]]
    assert [(out["task"], bool(out["says"])) for out in day["left_out"]] == [(other["id"], True)]


def test_what_is_on_is_put_back(demo: TestClient) -> None:
    add(demo, "M14x2")
    day = planned(demo, put_back=True)
    assert day["back"]
    assert day["put_on"] > planned(demo)["put_on"]


def test_a_place_that_is_a_pain_to_reach_is_left_alone(demo: TestClient) -> None:
    add(demo, *ASKS)

    def on_the_stud() -> int:
        return sum(change.startswith("stud") for turn in planned(demo)["turns"] for change in turn["changes"])

    assert demo.put("/api/machines/plover/effort", json={"weights": {"stud": "0"}}).status_code == 200
    easy = on_the_stud()
    answer = demo.put("/api/machines/plover/effort", json={"weights": {"stud": "20"}})
    assert answer.status_code == 200, answer.text
    assert on_the_stud() < easy
    typed = {one["field"]: one["typed"] for one in demo.get("/api/machines/plover/effort").json()["weights"]}
    assert typed["stud"] == "20"
    refused = demo.put("/api/machines/plover/effort", json={"weights": {"stud": "101"}})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["field"] == "stud"
    # The record is saved anew, and what a change weighs stays.
    assert demo.get("/api/machines/plover/effort").json()["weights"][1]["typed"] == "20"


def test_it_is_worked_down_and_stands_in_the_log(demo: TestClient) -> None:
    add(demo, "M14x2", "M10")
    turn = planned(demo)["turns"][0]
    there = f"/api/day/{turn['task']}"
    fitted = demo.post(f"{there}/fitted", json={"train": turn["way"]["train"], "seen": planned(demo)["on"]})
    assert fitted.status_code == 200, fitted.text
    assert fitted.json()["begun"]
    assert demo.get("/api/machines/plover").json()["mounted"] == turn["way"]["train"]
    again = planned(demo)
    assert (again["turns"][0]["task"], again["turns"][0]["changes"]) == (turn["task"], [])
    # Another has put something on meanwhile.
    stale = demo.post(f"{there}/fitted", json={"train": again["turns"][1]["way"]["train"], "seen": "36/64*32/78"})
    assert stale.status_code == 409
    done = demo.post(f"{there}/done", json={
        "train": turn["way"]["train"], "outcome": "ran_free", "minutes": 25, "by": "AB"
    })  # fmt: skip
    assert done.status_code == 200, done.text
    entry = demo.get("/api/log", params={"entry": done.json()["entry"]}).json()[0]
    assert (entry["machine"], entry["ask"], entry["outcome"]) == ("Plover", turn["ask"], "ran_free")
    assert "25 min" in entry["text"]
    assert demo.post(f"{there}/done", json={}).status_code == 422
    assert turn["task"] not in {t["task"] for t in planned(demo)["turns"]}
    # Its undo puts it on the list again, and strikes the entry through.
    number = int(done.headers["Valleywind-Change"])
    assert demo.post(f"/api/changes/{number}/undo").status_code == 200
    assert planned(demo)["turns"][0]["task"] == turn["task"]
    assert demo.get("/api/log", params={"entry": entry["id"]}).json()[0]["correction"]


def test_what_is_done_stands_again_where_its_undo_is_undone(demo: TestClient) -> None:
    (one,) = add(demo, "M14x2")
    done = demo.post(f"/api/day/{one['id']}/done", json={"outcome": "ran_free", "note": "on the bench", "by": "AB"})
    number = int(done.headers["Valleywind-Change"])

    def last_times() -> list[str]:
        answer = demo.get("/api/log/last", params={"machine": "plover", "ask": "M14x2"}).json()
        return [entry["text"] for entry in answer["entries"] if "on the bench" in entry["text"]]

    for times in (0, 1, 0, 1):
        undone = demo.post(f"/api/changes/{number}/undo")
        number = int(undone.headers["Valleywind-Change"])
        assert len(last_times()) == times


@pytest.mark.parametrize(("ago", "says"), [(25, "in 25 min"), (2000, "")])
def test_minutes_are_counted_since_it_was_set_up(demo: TestClient, store: Store, ago: int, says: str) -> None:
    add(demo, "M14x2")
    turn = planned(demo)["turns"][0]
    demo.post(f"/api/day/{turn['task']}/fitted", json={"train": turn["way"]["train"]})
    with store.session() as session:
        tasks.task(session, turn["task"]).begun = (datetime.now(UTC) - timedelta(minutes=ago)).isoformat()
    done = demo.post(f"/api/day/{turn['task']}/done", json={"train": turn["way"]["train"]}).json()
    text = demo.get("/api/log", params={"entry": done["entry"]}).json()[0]["text"]
    assert says in text
    assert (" min" in text) == bool(says)


def test_times_are_estimated_from_the_log(demo: TestClient) -> None:
    add(demo, "M14x2", "M10")
    assert all(turn["estimate"] is None for turn in planned(demo)["turns"])
    for minutes in (20, 30, 40):
        body = {"machine": "plover", "ask": "M14x2", "minutes": minutes}
        assert demo.post("/api/log/done", json=body).status_code == 201
    estimates = {turn["ask"]: turn["estimate"] for turn in planned(demo)["turns"]}
    assert estimates["M14x2"] == {"minutes": 30, "text": "about 30 min, as the last 3 times"}
    assert estimates["M10"] == {"minutes": 30, "text": "about 30 min, going by 3 others on this machine"}


def test_what_is_done_is_cleared_and_what_waited_for_it_is_free(demo: TestClient) -> None:
    one, other = add(demo, "M14x2", "M10")
    demo.put(f"/api/day/{other['id']}", json={"machine": "plover", "after": one["id"]})
    loop = demo.put(f"/api/day/{one['id']}", json={"machine": "plover", "after": other["id"]})
    assert loop.status_code == 422
    assert loop.json()["errors"][0]["field"] == "after"
    demo.post(f"/api/day/{one['id']}/done", json={})
    assert demo.delete("/api/day/done").status_code == 200
    assert [(t["id"], t["after"]) for t in demo.get("/api/day").json()["tasks"]] == [(other["id"], None)]


def test_a_task_goes_only_where_it_can_be_done(demo: TestClient) -> None:
    (one,) = add(demo, "M14x2")
    assert "avocet" not in one["may_be_on"]
    answer = demo.put(f"/api/day/{one['id']}", json={"machine": "avocet"})
    assert answer.status_code == 422
    moved = demo.put(f"/api/day/{one['id']}", json={"machine": "dunlin"})
    assert moved.json()["machine"] == "dunlin"
    assert demo.put("/api/day/999", json={"machine": None}).status_code == 404


def test_work_that_is_held_alike_comes_together_where_changing_that_is_much(demo: TestClient) -> None:
    added = add(demo, "M14x2", "M10", "M16", "M12", machine="plover")
    weights = demo.get("/api/machines/plover/effort").json()["weights"]
    assert "Change what holds the work" in [one["label"] for one in weights]
    assert demo.put("/api/machines/plover/effort", json={"weights": {"holding": "100"}}).status_code == 200
    for task, held in zip(added, ("4-jaw chuck", "between centres", "4-Jaw  chuck", ""), strict=True):
        kept = demo.put(f"/api/day/{task['id']}", json={"machine": "plover", "held": held})
        assert kept.json()["held"] == held
    # What is said of one later leaves what it is held in as it was.
    assert demo.put(f"/api/day/{added[0]['id']}", json={"machine": "plover"}).json()["held"] == "4-jaw chuck"

    def holdings() -> list[str]:
        return [c for turn in planned(demo)["turns"] for c in turn["changes"] if c.startswith("hold it in")]

    assert len(holdings()) == 2
    # What it is held in now is not done again.
    first = next(t for t in planned(demo)["turns"] if t["task"] == added[1]["id"])
    demo.post(f"/api/day/{added[1]['id']}/fitted", json={"train": first["way"]["train"]}).raise_for_status()
    assert [" ".join(c.casefold().split()) for c in holdings()] == ["hold it in: 4-jaw chuck"]
    assert demo.put(f"/api/day/{added[3]['id']}", json={"machine": "plover", "held": "\u0000"}).status_code == 422


def test_the_list_is_no_part_of_the_log_and_is_undone(demo: TestClient) -> None:
    before = len(demo.get("/api/log").json())
    added = demo.post("/api/day", json={"asks": ["M14x2"]})
    number = int(added.headers["Valleywind-Change"])
    assert demo.post(f"/api/changes/{number}/undo").status_code == 200
    assert demo.get("/api/day").json()["tasks"] == []
    assert len(demo.get("/api/log").json()) == before


@pytest.mark.parametrize("machine", ["plover", "curlew", "dunlin"])
def test_levers_are_said_where_they_move(demo: TestClient, machine: str) -> None:
    add(demo, "8 tpi", "16 tpi", "feed 0.1", machine=machine)
    day = planned(demo, machine)
    assert day["turns"]
    for turn in day["turns"]:
        assert turn["changes"] or turn["work"] == "nothing to change"


def test_hobbed_wheels_change_box_by_box(demo: TestClient) -> None:
    add(demo, "hob 37 m2", "hob 53 m2", "hob 24 m2 30° left face 20")
    day = planned(demo, "avocet")
    assert len(day["turns"]) == 3, day
    texts = [change for turn in day["turns"] for change in turn["changes"]]
    assert sum("hob: module 2" in change for change in texts) == 1, "the hob is put in once"
    assert any(change.startswith("Index, ") for change in texts)
    assert all(turn["way"]["train"] and turn["way"]["boxes"] for turn in day["turns"])


def test_helices_and_counts_are_put_into_order(demo: TestClient) -> None:
    add(demo, "helix 24 m2 30° left", "flute 6 lead 12 in on 20 mm", "divide 37", "divide 21", "divide 43", "divide 18")
    mill = planned(demo, "heron")
    assert len(mill["turns"]) == 2
    counts = planned(demo, "grebe")
    assert len(counts["turns"]) == 4
    turned = [change for turn in counts["turns"] for change in turn["changes"] if change.startswith("plate side")]
    typed = [one["task"] for one in counts["turns"]]
    assert len(turned) <= 2, "each side of the plate comes to the front once"
    assert typed != sorted(typed), "not as typed, where sides alternate"


def test_wheels_to_be_made_are_taken_by_cutter_and_share_the_bar(demo: TestClient) -> None:
    for teeth in (57, 130, 58, 131):
        assert demo.post("/api/jobs", json={"ask": f"make {teeth} for Plover"}).status_code == 200
    answer = demo.get("/api/day/jobs").json()
    cutters = [c for turn in answer["turns"] for c in turn["changes"] if "cutter" in c]
    assert len(cutters) == len(set(cutters)), "no cutter is put in twice"
    assert answer["turns"]
    assert answer["sharing"]


def test_more_than_a_day_is_refused(demo: TestClient) -> None:
    add(demo, *["M14x2"] * 21)
    assert demo.get("/api/day/machines/plover").status_code == 422
    assert demo.post("/api/day", json={"asks": ["M14x2"] * 190}).status_code == 422
    assert demo.post("/api/day", json={"asks": []}).status_code == 422
    assert demo.get("/api/day/machines/nobody").status_code == 404


def test_jobs_beyond_the_first_twenty_are_told(demo: TestClient) -> None:
    for teeth in range(60, 82):
        assert demo.post("/api/jobs", json={"ask": f"make {teeth} for Plover"}).status_code == 200
    there = sum(not job["done"] for job in demo.get("/api/jobs").json())
    answer = demo.get("/api/day/jobs").json()
    assert len(answer["turns"]) == 20
    assert f"The {there - 20} newest jobs are not in this order yet." in answer["says"]
