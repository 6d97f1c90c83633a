"""Jobs and cutting sessions from outside: made, found, cut, lost, told by two at once, put into the rack."""

from io import BytesIO
from typing import Any
from uuid import uuid4

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader

from tests.api.made import found, made, put, told
from tests.reference import cases
from valleywind.shop import cutting
from valleywind.shop.store import Store


def test_the_demos_57_is_half_way(demo: TestClient) -> None:
    line = demo.get("/api/jobs").json()[0]
    assert (line["title"], line["state"], line["cutting"]) == ("A 57 for Plover", "at tooth 23 of 57", True)
    session = demo.get(f"/api/jobs/{line['id']}/session").json()
    assert session["now"] == {
        "tooth": 23, "number": 2, "move": "1 turn 1 space", "stands": "circle 19, hole 3",
        "depth": "pass 2 of 3, 4.10 mm deep",
    }  # fmt: skip
    assert session["gaps"] == [2] * 22 + [1] * 35
    assert [n["tooth"] for n in session["next"]] == [24, 25, 26]


def test_a_job_gathers_its_figures(demo: TestClient) -> None:
    job = made(demo)
    figures = {f["label"]: f["text"] for f in job["figures"]}
    assert figures["Blank"] == "124.88 mm, at most 0.05 mm less"
    # s = π m/2 on a pitch radius of 60.325 mm, less half the backlash of 0.04 to 0.06 m.
    assert figures["Chord of the tooth"] == "3.261 mm to 3.282 mm, at 2.14 mm below the tip"
    assert figures["Depth"] == "4.57 mm"
    assert job["divides"] == "1 turn and 1 space on the 19, on Heron"
    assert job["school"]["proposed"]
    assert job["cutter"] == "A cutter for 55–134 is held."
    assert job["next_step"] == "stock"


def test_found_figures_change_later_steps(demo: TestClient) -> None:
    job = made(demo)["id"]
    small = found(demo, job, "outside", "124.683")
    figures = {f["label"]: f["text"] for f in small["figures"]}
    # 0.2 mm small on the diameter: 0.1 mm less deep.
    assert figures["Depth"] == "4.47 mm"
    step = next(s for s in small["steps"] if s["code"] == "outside")
    assert step["result"]["text"].endswith("the depth is now 4.47 mm.")
    over = found(demo, job, "measure", "29.65")
    # (29.65 − 29.567)/(2 sin 14.5°) deeper, in every place that tells the depth.
    text = next(s for s in over["steps"] if s["code"] == "measure")["result"]["text"]
    assert text == "Go **0.166 mm** deeper: the whole depth is now 4.63 mm. Then measure again."
    assert {f["label"]: f["text"] for f in over["figures"]}["Depth"] == "4.63 mm"
    assert "then 4.63 mm" in next(s for s in over["steps"] if s["code"] == "session")["do"]
    right = found(demo, job, "measure", "29.565")
    assert {f["label"]: f["text"] for f in right["figures"]}["Depth"] == "4.63 mm"
    bad = found(demo, job, "runout", "0.6")
    assert next(s for s in bad["steps"] if s["code"] == "runout")["result"]["text"].startswith("Re-seat it")


@pytest.mark.parametrize(
    ("step", "figure", "words"),
    [
        ("outside", "125.2", "Large by"), ("runout", "0.35", "Runs, with a tight and a slack side"),
        ("bore", "22.4", "Large by 0.155 mm. Cutting cannot put that right"),
        ("part_off", "15.0", "Small by 0.775 mm. Cutting cannot put that right"),
        ("measure", "29.50", "Too thin by"),
    ],
)  # fmt: skip
def test_a_step_is_done_when_its_figure_is_in_or_accepted(demo: TestClient, step: str, figure: str, words: str) -> None:
    job = made(demo)["id"]

    def stands(answer: Any) -> Any:
        return next(s for s in answer["steps"] if s["code"] == step)

    out = stands(found(demo, job, step, figure))
    assert (out["result"]["figure"], out["result"]["done"], out["result"]["out"]) == (figure, False, True)
    assert out["result"]["text"].startswith(words)
    body = {"step": step, "figure": figure, "accepted": "it is for a trial"}
    taken = stands(demo.put(f"/api/jobs/{job}/results", json=body).json())
    assert (taken["result"]["done"], taken["result"]["accepted"]) == (True, "it is for a trial")
    assert log_of(demo, job)[0].endswith(f"found {figure}, outside: accepted, it is for a trial.")


def test_zero_is_a_reading_and_one_yardstick_tells_what_is_true_enough(demo: TestClient) -> None:
    job = made(demo)["id"]
    step = next(s for s in found(demo, job, "runout", "0")["steps"] if s["code"] == "runout")
    # Half of 0.05 m of backlash swings at 0.025 · 2.1167/tan 14.5° = 0.205 mm.
    assert step["figure"] == "at most 0.20 mm in all"
    assert (step["result"]["done"], step["result"]["text"].split(":")[0]) == (True, "Good")
    just = next(s for s in found(demo, job, "runout", "0.204")["steps"] if s["code"] == "runout")
    assert just["result"]["done"]
    over = next(s for s in found(demo, job, "runout", "0.206")["steps"] if s["code"] == "runout")
    assert not over["result"]["done"]
    assert found(demo, job, "runout", "-0.1", 422)["errors"][0]["code"] == "not_positive"


def test_typed_passes_are_flagged_where_the_blank_asks_for_others(demo: TestClient) -> None:
    job = put(demo, made(demo), passes="2.7 4.1 4.57")
    small = found(demo, job["id"], "outside", "124.40")
    figures = {f["label"]: f["text"] for f in small["figures"]}
    assert figures["Depth"] == "4.33 mm"
    assert figures["Passes"].endswith("as typed: the last is 0.24 mm deeper than what was found asks for")


def test_no_wheel_has_a_bore_larger_than_its_root(demo: TestClient) -> None:
    refused = demo.post("/api/jobs", json={"ask": "make 12 for Plover"}).json()["errors"][0]
    assert (refused["field"], refused["code"]) == ("ask", "bore_through_root")
    assert refused["would_do"] == "From 13 teeth on there is metal round the bore."
    assert demo.get("/api/jobs").json()[0]["title"] != "A 12 for Plover"
    sized = demo.get("/api/wheels/sizes", params={"ask": "wheel 10 for Plover"}).json()
    assert sized["errors"][0]["code"] == "bore_through_root"
    few = made(demo, "make 14 for Plover")
    assert few["remarks"][0].startswith("No metal is left between keyway and root; two modules, 4.23 mm, are usual.")
    pinion = made(demo, "make 10 m1")["remarks"]
    assert any("undercut" in r for r in pinion)
    assert any(r.startswith("No cutter of the usual sets cuts it") for r in pinion)


def test_donors_are_told_by_what_the_charts_lose(demo: TestClient) -> None:
    job = made(demo)
    family = job["family"]
    rack_says = demo.get(f"/api/rack/sources/{family}/57").json()["donors"]
    assert [d["text"] for d in job["donors"]] == [d["text"] for d in rack_says]


def test_bar_at_one_setting_leaves_room_for_the_cutter(demo: TestClient) -> None:
    job = put(demo, made(demo, "make 20 for Curlew"), school="one_setting")
    plain = put(demo, job, school="mandrel")
    assert {b["record"] for b in job["bars"]} <= {b["record"] for b in plain["bars"]}
    stock = next(s for s in made(demo)["steps"] if s["code"] == "stock")
    assert "at least 126.88 mm across" in stock["do"]


@pytest.mark.parametrize(
    ("step", "figure", "code"),
    [("outside", "4.9", "figure_far_off"), ("measure", "1.16 ells", "unknown_unit"), ("stamp", "57", "asks_nothing"),
     ("runout", "12", "figure_far_off"), ("nonsense", "1", "no_such_step")],
)  # fmt: skip
def test_a_figure_that_cannot_be_is_refused(demo: TestClient, step: str, figure: str, code: str) -> None:
    job = made(demo)["id"]
    assert found(demo, job, step, figure, 422)["errors"][0]["code"] == code
    kept = demo.get(f"/api/jobs/{job}").json()
    assert all(s["result"] is None for s in kept["steps"])


def test_a_bare_figure_is_kept_with_its_unit(demo: TestClient) -> None:
    job = made(demo)["id"]
    answer = demo.put(f"/api/jobs/{job}/results", json={"step": "outside", "figure": "4.915"}, params={"units": "inch"})
    assert answer.status_code == 200, answer.text
    step = next(s for s in demo.get(f"/api/jobs/{job}").json()["steps"] if s["code"] == "outside")
    assert step["result"]["figure"] == "4.915 in"


@pytest.mark.parametrize(
    ("changes", "field", "code"),
    [
        ({"passes": "2 5"}, "passes", "pass_too_deep"),
        ({"passes": "2 1"}, "passes", "passes_not_deeper"),
        ({"cutter": "4 mm"}, "depth", "deeper_than_cutter"),
        ({"how_many": "0"}, "how_many", "whole_out_of_range"),
        ({"way": "wheel", "template": "100"}, "teeth", "divides_another"),
        ({"head": "heron", "way": "simple", "number": 90}, "number", "no_such_way"),
        ({"head": "avocet", "way": "simple"}, "machine", "divides_not"),
    ],
)
def test_what_cannot_be_chosen_is_refused_and_nothing_kept(
    demo: TestClient, changes: dict[str, Any], field: str, code: str
) -> None:
    job = made(demo)
    sides = {"jaw_gap": "12", "jaw_radius": "55"}
    error = put(demo, job, 422, **sides, **changes)["errors"][0]
    assert (error["field"], error["code"]) == (field, code)
    assert demo.get(f"/api/jobs/{job['id']}").json()["typed"] == job["typed"]


def test_what_fouls_is_told_with_the_spacer(demo: TestClient) -> None:
    job = put(demo, made(demo, "make 57 m0.8"), jaw_gap="12", jaw_radius="40", cutter="50", collar="30")
    assert job["side"]["fouls"] == ["jaws"]
    step = next(s for s in job["steps"] if s["code"] == "clear")
    assert "It would foul the jaws by 17.7 mm." in step["do"]
    spacer = job["side"]["spacer"]
    mended = put(demo, job, jaw_gap=str(12 + spacer + 0.05))
    assert not mended["side"]["fouls"]


def test_nut_and_table_are_looked_at_too(demo: TestClient) -> None:
    clear: dict[str, Any] = {"jaw_gap": "40", "jaw_radius": "50", "cutter": "70", "collar": "36"}
    # The root of a 57 of dp 12 is 57.87 mm from its axis, its tip 62.44 mm.
    job = put(demo, made(demo), **clear, nut="12", nut_across="115", centre="63")
    assert job["side"]["fouls"] == []
    assert (job["side"]["texts"]["nut"], job["side"]["texts"]["table"]) == ("0.4 mm", "0.6 mm")
    job = put(demo, job, nut_across="117", centre="62")
    assert job["side"]["fouls"] == ["nut", "table"]
    steps = {step["code"]: step["do"] for step in job["steps"]}
    assert "It would foul the nut by 0.6 mm." in steps["clear"]
    assert "foul the table by 0.4 mm: set the head on blocks." in steps["clear"]
    assert "The axis is **62.00 mm** over the table." in steps["centre"]
    error = put(demo, job, 422, nut="12", nut_across="")["errors"][0]
    assert (error["field"], error["code"]) == ("nut_across", "nut_in_part")


def test_two_at_one_job_are_told(demo: TestClient) -> None:
    job = made(demo)
    put(demo, job, material="brass")
    answer = demo.put(f"/api/jobs/{job['id']}", json=job["typed"] | {"material": "steel"})
    assert answer.status_code == 409


@pytest.mark.parametrize(
    "school", ["mandrel", "one_setting", "chuck_moved", "donor", "template", "lathe_only", "bolted"]
)
def test_every_school_has_its_sheet_on_one_page(demo: TestClient, school: str) -> None:
    job = put(demo, made(demo), school=school, jaw_gap="12", jaw_radius="55", cutter="70")
    answer = demo.get(f"/api/jobs/{job['id']}/sheet.pdf")
    pages = PdfReader(BytesIO(answer.content)).pages
    # The job, and the drawing of the wheel with it.
    assert len(pages) == 2
    assert "100 mm: measure it" in pages[1].extract_text()
    text = " ".join(pages[0].extract_text().split())
    for step in job["steps"]:
        assert step["title"] in text
    low: list[float] = []
    pages[0].extract_text(visitor_text=lambda t, _cm, tm, *_: low.append(tm[5]) if t.strip() else None)
    assert min(low) > 14


class TestSession:
    def begun(self, demo: TestClient, **changes: Any) -> int:
        job = made(demo, "make 24 m1")
        number: int = job["id"]
        put(demo, job, head="grebe", way="simple", number=0, material="brass", **changes)
        answer = demo.post(f"/api/jobs/{number}/session")
        assert answer.status_code == 200, answer.text
        return number

    def test_marks_then_one_pass_to_the_end(self, demo: TestClient) -> None:
        job = self.begun(demo)
        for _ in range(24):
            now = told(demo, job, "done")
        assert now["must_count"]
        assert told(demo, job, "done", 422)["errors"][0]["code"] == "marks_not_counted"
        assert told(demo, job, "counted", 422, count=25)["errors"][0]["code"] == "marks_wrong"
        told(demo, job, "counted", count=24)
        for _ in range(4):
            now = told(demo, job, "done")
        # Between four gaps stand three full teeth: their span is measured before the rest.
        assert now["must_measure"]
        assert told(demo, job, "done", 422)["errors"][0]["code"] == "not_measured"
        told(demo, job, "measured", reason="no tool at hand")
        for _ in range(20):
            now = told(demo, job, "done")
        assert now["finished"]
        assert now["now"] is None
        assert now["gaps"] == [1] * 24
        assert told(demo, job, "done", 422)["errors"][0]["code"] == "session_done"

    def test_a_thick_span_sends_it_deeper_over_the_first_teeth(self, demo: TestClient) -> None:
        job = self.begun(demo, marks=False)
        for _ in range(4):
            now = told(demo, job, "done")
        # 24 teeth of module 1 over 3: 7.7164 less a hundredth or two of backlash.
        assert now["measure"].startswith("Span over 3 teeth: 7.688 mm to 7.698 mm")
        assert told(demo, job, "measured", 422, figure="77")["errors"][0]["code"] == "figure_far_off"
        again = told(demo, job, "measured", figure="7.80")
        assert (again["now"]["tooth"], again["must_measure"]) == (1, False)
        # (7.80 − 7.6929)/(2 sin 20°) = 0.157 deeper than 2.25.
        assert again["now"]["depth"] == "pass 1 of 1, 2.41 mm deep, 0.16 mm more than planned"
        for _ in range(4):
            now = told(demo, job, "done")
        assert now["must_measure"]
        right = told(demo, job, "measured", figure="7.69")
        assert (right["now"]["tooth"], right["now"]["depth"]) == (5, again["now"]["depth"])
        step = next(s for s in demo.get(f"/api/jobs/{job}").json()["steps"] if s["code"] == "measure")
        assert (step["result"]["figure"], step["result"]["done"]) == ("7.6900 mm", True)

    def test_told_twice_it_is_recorded_once(self, demo: TestClient) -> None:
        job = self.begun(demo)
        body = {"key": uuid4().hex, "kind": "done", "seen": 0}
        first, again = (demo.post(f"/api/jobs/{job}/session/events", json=body).json() for _ in range(2))
        assert first == again
        assert first["cut"] == 1

    def test_two_devices_do_not_both_advance_one_tooth(self, demo: TestClient) -> None:
        job = self.begun(demo)
        told(demo, job, "done", seen=0)
        late = told(demo, job, "done", 409, seen=0)
        assert late["errors"][0]["code"] == "session_moved"
        assert demo.get(f"/api/jobs/{job}/session").json()["cut"] == 1

    def test_back_pause_jump_and_note_stay_on_record(self, demo: TestClient) -> None:
        job = self.begun(demo, marks=False)
        told(demo, job, "done")
        told(demo, job, "back")
        told(demo, job, "pause", reason="tea")
        assert told(demo, job, "done", 422)["errors"][0]["code"] == "session_paused"
        told(demo, job, "resume")
        assert told(demo, job, "jump", 422, tooth=3, number=1)["errors"][0]["code"] == "needs_reason"
        told(demo, job, "jump", tooth=3, number=1, reason="cut on another day")
        now = told(demo, job, "note", reason="chatter")
        assert now["now"]["tooth"] == 3
        assert [h["text"] for h in now["happened"]] == [
            "Note: chatter.", "Jumped to tooth 3, pass 1 of 1: cut on another day.", "Resumed.", "Paused: tea.",
            "Back to tooth 1, pass 1 of 1.", "Cut: tooth 1, pass 1 of 1.",
        ]  # fmt: skip

    def test_the_plan_stays_though_the_head_is_changed(self, demo: TestClient) -> None:
        job = self.begun(demo)
        before = told(demo, job, "done")
        record = demo.get("/api/machine-records/grebe").json()
        record["head"]["ratio"] = "90"
        assert demo.put("/api/machine-records/grebe", json=record).status_code == 200
        after = demo.get(f"/api/jobs/{job}/session").json()
        assert (after["now"], after["next"]) == (before["now"], before["next"])

    def test_one_head_cuts_one_job_at_a_time(self, demo: TestClient) -> None:
        self.begun(demo)
        other = made(demo, "make 36 m1")
        put(demo, other, head="grebe", way="simple", number=0)
        refused = demo.post(f"/api/jobs/{other['id']}/session")
        assert refused.json()["errors"][0]["code"] == "head_in_use"
        # Neither while the first is paused and then goes on.
        first = job - 1 if (job := other["id"]) else 0
        told(demo, first, "pause", reason="the other first")
        assert demo.post(f"/api/jobs/{job}/session").status_code == 200
        assert told(demo, first, "resume", 422)["errors"][0]["code"] == "head_in_use"
        told(demo, job, "pause", reason="back to the first")
        told(demo, first, "resume")

    def test_undo_takes_nothing_of_it_back(self, demo: TestClient, store: Store) -> None:
        job = self.begun(demo)
        told(demo, job, "done")
        latest = demo.get("/api/changes").json()
        assert all("Cut" not in c["text"] for c in latest)
        demo.post(f"/api/changes/{latest[0]['id']}/undo")
        with store.reading() as session:
            assert len(cutting.standing(session, cutting.cutting(session, job)).known) == 1
        assert demo.delete(f"/api/jobs/{job}").json()["errors"][0]["code"] == "session_there"

    def test_lost(self, demo: TestClient) -> None:
        job = demo.get("/api/jobs").json()[0]["id"]
        assert demo.get(f"/api/jobs/{job}/session/lost", params={"hole": "3", "gaps": "22"}).json() == {
            "text": "This is tooth 23.", "teeth": [23], "number": 2,
        }  # fmt: skip
        several = demo.get(f"/api/jobs/{job}/session/lost", params={"hole": "3"}).json()
        assert several["teeth"] == [4, 23, 42]
        assert several["text"] == "It is tooth 4, 23 or 42. By the record it is 23. Count the gaps that are cut."
        other = demo.get(f"/api/jobs/{job}/session/lost", params={"hole": "5", "gaps": "24"}).json()
        assert other["text"] == "This is tooth 25. The record says tooth 23."
        both = demo.get(f"/api/jobs/{job}/session/lost", params={"hole": "3", "gaps": "30"}).json()
        assert "one of the two is wrong" in both["text"]
        refused = demo.get(f"/api/jobs/{job}/session/lost", params={"hole": "19"})
        assert refused.json()["errors"][0]["field"] == "hole"


def test_what_the_last_gap_told_is_found_when_the_count_is_made_again(demo: TestClient) -> None:
    job = demo.get("/api/jobs").json()[0]
    kept = demo.post(f"/api/jobs/{job['id']}/last-gap", params={"measured": "-0.332"})
    assert kept.json() == demo.get(f"/api/jobs/{job['id']}/last-gap", params={"measured": "-0.332"}).json()
    entry = demo.get("/api/log", params={"job": job["id"]}).json()[0]
    assert entry["text"].startswith("Wheel of 57, last gap: 332 µm too thin: one space of the ")
    before = demo.get("/api/jobs/before", params={"teeth": 57}).json()[0]
    assert before["last_gap"] in entry["text"]
    demo.post(f"/api/jobs/{job['id']}/last-gap", params={"measured": "0.01"})
    assert demo.get("/api/jobs/before", params={"teeth": 57}).json()[0]["last_gap"] == "right"


def test_the_last_gap_is_explained(demo: TestClient) -> None:
    job = made(demo)["id"]
    told_of = demo.get(f"/api/jobs/{job}/last-gap", params={"measured": "-0.332"}).json()
    assert told_of["slips"][0].startswith("One space of the 19 too far, once (thin by 332 µm).")
    right = demo.get(f"/api/jobs/{job}/last-gap", params={"measured": "0.01"}).json()
    assert right["text"].startswith("Right")
    assert right["slips"] == []


@pytest.mark.parametrize(
    ("changes", "measured", "slip"),
    [
        # π · 120.65 mm over 114 gaps is 3.325 mm; on a printed disc a mark is a whole pitch.
        ({"way": "wheel", "template": "114"}, "3.325", "One space of the 114 short, once (thick by 3.32 mm)."),
        ({"way": "disc"}, "6.65", "One move left out"),
    ],
)
def test_a_slip_is_told_wherever_something_is_counted(
    demo: TestClient, changes: dict[str, Any], measured: str, slip: str
) -> None:
    job = put(demo, made(demo), **changes)["id"]
    told_of = demo.get(f"/api/jobs/{job}/last-gap", params={"measured": measured}).json()
    assert told_of["slips"][0].startswith(slip), told_of
    flush = demo.get(f"/api/jobs/{job}/last-gap", params={"measured": "0"}).json()
    assert flush["text"].startswith("Right")


def test_a_wheel_that_is_made_goes_into_the_rack_once(demo: TestClient) -> None:
    job = made(demo)["id"]
    found(demo, job, "measure", "29.56")
    for _ in range(2):
        done = demo.post(f"/api/jobs/{job}/rack").json()
    assert done["done"]
    wheels = [w for w in demo.get("/api/rack").json()["wheels"] if w["teeth"] == 57 and w["machine"] == "plover"]
    assert [w["count"] for w in wheels] == [1]
    assert wheels[0]["note"].endswith("of cast iron. Span 29.56 mm.")


@pytest.mark.parametrize(
    ("ask", "code"), [("make", "not_a_wheel_ask"), ("make 3 for Plover", "teeth_out_of_range"),
                      ("make 57 for Wigeon", "no_such_machine")],
)  # fmt: skip
def test_what_cannot_be_made(demo: TestClient, ask: str, code: str) -> None:
    answer = demo.post("/api/jobs", json={"ask": ask})
    assert answer.status_code in (404, 422)
    assert answer.json()["errors"][0]["code"] == code


def test_nothing_of_a_job_that_is_not_there(demo: TestClient) -> None:
    for path in ("", "/session", "/sheet.pdf"):
        assert demo.get(f"/api/jobs/999{path}").json()["errors"][0]["code"] in ("no_such_job", "no_session")


def test_a_wheel_for_a_screw_is_told_and_made(demo: TestClient) -> None:
    query = {"screw": "4 tpi", "diameter": "28 mm", "threads": "16"}
    told_of = demo.get("/api/jobs/for-a-screw", params=query).json()
    figures = {f["label"]: f["text"] for f in told_of["figures"]}
    assert figures["Tilt of the head"].startswith("4.13°, the screw’s lead angle, so that the gaps lean to the right")
    wrong = demo.get("/api/jobs/for-a-screw", params=query | {"threads": "x"})
    assert wrong.json()["errors"][0]["field"] == "threads"


@pytest.mark.parametrize("case", cases("screw_wheel"), ids=lambda c: f"{c['screw']} {c['teeth']}")
def test_a_job_for_a_screw_has_the_pitch_of_the_screw(demo: TestClient, case: dict[str, Any]) -> None:
    screw = {"screw": case["screw"], "diameter": "28 mm", "threads": str(case["teeth"]), "hand": "left"}
    job = demo.post("/api/jobs", json={"ask": "", "screw": screw}).json()
    figures = {f["label"]: f["text"] for f in job["figures"]}
    standard = {"6 tpi": 1.375, "8 tpi": 1, "3 mm": 25.4 / 26, "10 tpi": 0.8}[case["screw"]]
    assert float(figures["Blank"].split(" ")[0]) == pytest.approx(case["pitch_diameter"] + 2 * standard, abs=0.006)
    tilt = next(s for s in job["steps"] if s["code"] == "tilt")
    assert "the gaps lean to the left" in tilt["do"]
    assert not any(label.startswith("Span") for label in figures)


def log_of(client: TestClient, job: int) -> list[str]:
    return [line["text"] for line in client.get(f"/api/jobs/{job}/log").json()]


def test_the_log_keeps_whatever_was_typed_over_or_undone(demo: TestClient) -> None:
    job = made(demo)
    number = job["id"]
    put(demo, job, material="brass", head="heron", way="simple")
    found(demo, number, "outside", "124.9")
    figures = found(demo, number, "outside", "124.85")
    step = next(s for s in figures["steps"] if s["code"] == "outside")
    assert (step["result"]["figure"], [e["figure"] for e in step["result"]["earlier"]]) == ("124.85", ["124.9"])
    change = next(c for c in demo.get("/api/changes").json() if c["text"] == "Changed the job of the 57.")
    demo.post(f"/api/changes/{change['id']}/undo")
    assert log_of(demo, number) == [
        "Material: cast iron, before brass; Divided: the best way there is, before simple indexing, Heron, choice 1.",
        "Outside: found 124.85, done.",
        "Outside: found 124.9, not done.",
        "Material: brass, before cast iron; Divided: simple indexing, Heron, choice 1, before the best way there is.",
        "Job added.",
    ]
    # What was found at the machine is not undone with it, and is among no changes.
    now = demo.get(f"/api/jobs/{number}").json()
    assert (now["typed"]["material"], now["next_step"]) == ("cast iron", "stock")
    assert next(s for s in now["steps"] if s["code"] == "outside")["result"]["figure"] == "124.85"
    assert not [c for c in demo.get("/api/changes").json() if "step" in c["text"]]


def test_the_log_tells_runs_of_cuts_and_its_table_every_one(demo: TestClient) -> None:
    number = demo.get("/api/jobs").json()[0]["id"]
    lines = demo.get(f"/api/jobs/{number}/log").json()
    assert lines[0]["text"] == "Cut: tooth 1, pass 2 of 3, to tooth 22, pass 2 of 3 (22 cuts)."
    assert lines[0]["at"] < lines[0]["until"]
    texts = [line["text"] for line in lines]
    assert "Paused: lunch." in texts
    assert "Outside: found 124.85 mm, done." in texts
    table = demo.get(f"/api/jobs/{number}/log.csv").text.splitlines()
    assert sum("Cut: tooth" in line for line in table) == 57 + 57 + 22
    assert table == [table[0], *sorted(table[1:], key=lambda line: line[:23])]


def lengths(client: TestClient) -> dict[int, float]:
    return {b["id"]: b["length_mm"] for b in client.get("/api/stores").json()["bars"]}


def test_a_piece_of_bar_is_chosen_and_gets_shorter_when_the_wheel_is_made(demo: TestClient) -> None:
    job = made(demo, "make 24 for Plover")
    piece = job["bars"][0]
    assert "cast iron" in piece["name"]
    chosen = put(demo, job, school="mandrel", bar=piece["record"])
    stock = next(s for s in chosen["steps"] if s["code"] == "stock")["do"]
    assert f"**{piece['name']}**: {piece['text']}." in stock
    bars = lengths(demo)
    demo.post(f"/api/jobs/{job['id']}/rack")
    left = lengths(demo)
    assert left != bars
    assert piece["text"].endswith(f"{left[piece['record']]:.2f} mm are left")
    assert {n for n in bars if left.get(n) != bars[n]} == {piece["record"]}
    # Shown again it says no more of a piece that went into it.
    assert demo.get(f"/api/jobs/{job['id']}").status_code == 200
    demo.post(f"/api/changes/{demo.get('/api/changes').json()[0]['id']}/undo")
    assert lengths(demo) == bars
    assert log_of(demo, job["id"])[0] == "Taken out of the rack again by undo."


def test_a_larger_wheel_is_chosen_and_leaves_the_rack(demo: TestClient) -> None:
    job = made(demo, "make 24 for Plover")
    donor = job["donors"][0]
    chosen = put(demo, job, school="donor", donor=donor["record"])
    assert donor["name"] in next(s for s in chosen["steps"] if s["code"] == "donor")["do"]

    def held() -> int:
        return sum(w["count"] for w in demo.get("/api/rack").json()["wheels"] if w["id"] == donor["record"])

    before = held()
    demo.post(f"/api/jobs/{job['id']}/rack")
    assert held() == before - 1


def test_what_cannot_give_it_is_refused_and_what_is_gone_is_told(demo: TestClient) -> None:
    job = made(demo)
    for field, code in (("bar", "bar_too_small"), ("donor", "cannot_be_cut_down")):
        error = put(demo, job, 422, school="donor" if field == "donor" else "mandrel", **{field: 9999})["errors"][0]
        assert (error["field"], error["code"]) == (field, code)
    small = made(demo, "make 24 for Plover")
    piece = small["bars"][0]["record"]
    put(demo, small, school="mandrel", bar=piece)
    assert demo.delete(f"/api/stores/bars/{piece}").status_code == 200
    now = demo.get(f"/api/jobs/{small['id']}").json()
    assert "is gone. Choose another piece." in next(s for s in now["steps"] if s["code"] == "stock")["do"]


class TestHelical:
    def made(self, demo: TestClient, **more: str) -> Any:
        answer = demo.post("/api/jobs", json={"ask": "make 24 m2 30° left face 20"} | more)
        assert answer.status_code == 200, answer.text
        return answer.json()

    def test_its_steps_are_the_mills(self, demo: TestClient) -> None:
        job = self.made(demo)
        steps = {s["code"]: s["do"] for s in job["steps"]}
        assert job["title"] == "A 24 of module 2, 20°, helix 30° left"
        # d = 24 · 2/cos 30° = 55.426; a tip 4 mm larger; z/cos³30° = 36.95 teeth.
        assert {f["label"]: f["text"] for f in job["figures"]}["Blank"] == "59.43 mm, at most 0.05 mm less"
        assert job["cutter"] == "A cutter for 35–54 is held."
        assert [s["school"] for s in job["schools"]] == ["lead"]
        assert "72/28 × 52/56, pair with 2 turns in, 1 out" in steps["lead_gears"]
        assert steps["swing"].startswith("Swing the table 30°, its left-hand end away from you")
        # 360 · 100/301.54 = 119.39°.
        assert "the work turns **119.39°**" in steps["lead_proof"]
        order = [s["code"] for s in job["steps"]]
        assert order.index("centre") < order.index("swing") < order.index("lead_proof") < order.index("session")
        assert job["lead"] == {"mill": "heron", "ask": "helix 24 m2 30° left face 20 mm", "train": "72/28*52/56@1/2"}
        assert job["divides"] == "2 turns and 8 spaces on the 16, on Heron"

    def test_it_is_cut_by_simple_indexing_and_says_what_holds_for_every_cut(self, demo: TestClient) -> None:
        told(demo, 1, "pause", reason="another job")
        job = self.made(demo)["id"]
        now = demo.post(f"/api/jobs/{job}/session").json()
        assert "draw the cutter clear" in now["hint"]
        now = told(demo, job, "done")["now"]
        assert (now["move"], now["stands"]) == ("2 turns 8 spaces", "circle 16, hole 8")
        assert demo.get("/api/jobs/1/session").json()["hint"] == ""

    def test_the_set_up_that_was_chosen_stays_though_the_mill_is_changed(self, demo: TestClient) -> None:
        job = self.made(demo, mill="heron", train="52/28*72/56@1/2")
        assert job["lead"]["train"] == "52/28*72/56@1/2"
        # Chosen or not, what does not go on is told.
        gears = next(s["do"] for s in job["steps"] if s["code"] == "lead_gears")
        assert gears.startswith("Does not fit: 72T overlaps the table-side shaft’s collar by 9.5 mm. **52/28 × 72/56")
        record = demo.get("/api/machine-records/heron").json()
        record["mill"]["pairs"], record["head"]["plates"] = "", ""
        assert demo.put("/api/machine-records/heron", json=record).status_code == 200
        now = demo.get(f"/api/jobs/{job['id']}").json()
        steps = {s["code"]: s["do"] for s in now["steps"]}
        assert "Look on the Mill station" in steps["lead_gears"] or "pair" in steps["lead_gears"]
        assert now["divides"].startswith("No circle of its plates gives 24.")
        assert demo.post(f"/api/jobs/{job['id']}/session").json()["errors"][0]["code"] == "divides_not_simply"

    def test_the_table_travels_over_the_face_and_all_the_blanks(self, demo: TestClient) -> None:
        def travels(job: Any) -> float:
            step = next(s for s in job["steps"] if s["code"] == "travel")
            return float(step["do"].split("travels ")[1].split(" ")[0])

        narrow = demo.post("/api/jobs", json={"ask": "make 24 m2 30° left face 16"}).json()
        wide = demo.post("/api/jobs", json={"ask": "make 24 m2 30° left face 20"}).json()
        assert travels(wide) - travels(narrow) == pytest.approx(4, abs=0.11)
        assert travels(put(demo, narrow, how_many="3")) - travels(narrow) == pytest.approx(32, abs=0.11)

    def test_rollers_and_balls_are_told_apart_on_odd_counts(self, demo: TestClient) -> None:
        job = demo.post("/api/jobs", json={"ask": "make 31 m2 22° left face 20"}).json()
        labels = [f["label"] for f in job["figures"]]
        assert "Over rollers of 3.456 mm" in labels
        assert "Over balls of 3.456 mm" in labels

    def test_a_narrow_face_is_measured_over_pins(self, demo: TestClient) -> None:
        answer = demo.post("/api/jobs", json={"ask": "make 24 m2 30° left face 6"}).json()
        measure = next(s for s in answer["steps"] if s["code"] == "measure")
        assert (measure["asks"], measure["figure"]) == (None, "")
        assert "Over pins of 3.456 mm: 60.117 mm to 60.166 mm." in measure["do"]
        assert not any("Span" in f["label"] for f in answer["figures"])

    def test_the_ask_line_reads_it_as_a_job(self, demo: TestClient) -> None:
        told_of = demo.get("/api/reading", params={"ask": "make 24 m2 30° left"}).json()
        assert (told_of["station"], told_of["whole"], told_of["canonical"]) == ("jobs", True, "make 24 m2 30° left")
        assert "helix 30° left-hand" in told_of["description"]

    @pytest.mark.parametrize(
        ("ask", "code"),
        [("helix 61 m2 30° left", "divides_not_simply"), ("make 24 m2 left", "needs_helix")],
    )
    def test_what_cannot_be_cut_so(self, demo: TestClient, ask: str, code: str) -> None:
        answer = demo.post("/api/jobs", json={"ask": ask})
        assert answer.status_code == 422
        assert answer.json()["errors"][0]["code"] == code

    def test_it_goes_into_the_rack_with_its_helix(self, demo: TestClient) -> None:
        job = self.made(demo)["id"]
        demo.post(f"/api/jobs/{job}/rack")
        wheel = next(w for w in demo.get("/api/rack").json()["wheels"] if "helix 30° left" in w["note"])
        assert wheel["teeth"] == 24


def test_a_head_that_is_gone_is_told_and_the_job_stays(demo: TestClient) -> None:
    job = made(demo)
    put(demo, job, head="grebe", way="simple", number=0)
    record = demo.get("/api/machine-records/grebe").json()
    assert demo.put("/api/machine-records/grebe", json=record | {"name": "Dipper"}).status_code == 200
    now = demo.get(f"/api/jobs/{job['id']}").json()
    assert "grebe" in now["divides"]
    assert demo.get(f"/api/jobs/{job['id']}/log").status_code == 200
    assert demo.get(f"/api/jobs/{job['id']}/sheet.pdf").status_code == 200
    assert demo.post(f"/api/jobs/{job['id']}/session").status_code == 404


BLOCK = {"kind": "collet block", "name": "Dunnock", "head": {"direct": "4 6"}}
INDEXER = {"kind": "spin indexer", "name": "Sanderling", "head": {"direct": "36", "reads": "1°"}}


@pytest.mark.parametrize(
    ("machine", "ask", "way", "question", "moves"),
    [
        (BLOCK, "make 6 m2", "direct", "Flat that is up, from 1",
         [("1 flat on", "flat 2 of 6 up"), ("1 flat on", "flat 3 of 6 up")]),
        (INDEXER, "make 12 m2", "direct", "Hole on the spindle, from 0",
         [("3 holes on", "hole 3 of 36 on the spindle"), ("3 holes on", "hole 6 of 36 on the spindle")]),
        (INDEXER, "make 24 m2", "degrees", "Hole on the spindle, from 0",
         [("on to", "hole 1 of 36, second pin at 5°"), ("on to", "hole 3 of 36, second pin at 0°")]),
    ],
)  # fmt: skip
def test_blocks_and_indexers_are_followed_in_a_session(
    demo: TestClient, machine: dict[str, Any], ask: str, way: str, question: str, moves: list[tuple[str, str]]
) -> None:
    assert demo.post("/api/machine-records", json=machine).status_code == 200
    slug = machine["name"].lower()
    job = put(demo, made(demo, ask), head=slug, way=way, number=0)["id"]
    assert demo.post(f"/api/jobs/{job}/session").status_code == 200
    assert question == demo.get(f"/api/jobs/{job}/session").json()["place_asked"]
    for move, stands in moves:
        now = told(demo, job, "done")["now"]
        assert (now["move"], now["stands"]) == (move, stands)


def test_a_blank_is_divided_where_it_is_held(demo: TestClient) -> None:
    """A large blank bolted on the table is divided by the table; where only the head divides it, it is held there."""
    large = made(demo, "make 240 for Curlew")
    assert large["school"]["school"] == "bolted"
    assert large["divides"].endswith("on Grebe")
    assert next(s["do"] for s in large["steps"] if s["code"] == "divide").startswith(large["divides"])
    # 300 divides on none of the table's circles: the head divides it, so that it is held there.
    other = made(demo, "make 300 m1")
    assert (other["school"]["school"], other["divides"].rsplit(" ", 1)[1]) == ("mandrel", "Heron")
    way = next(w for w in large["ways"] if w["machine"] == "heron")
    on_head = put(demo, large, way=way["kind"], head="heron", number=way["number"])
    assert on_head["school"]["school"] == "mandrel"
    refused = demo.put(f"/api/jobs/{large['id']}", json=on_head["typed"] | {"school": "bolted"}).json()
    assert refused["errors"][0]["field"] == "school"
    assert refused["errors"][0]["says"].startswith("Held so it cannot be divided by a dividing head.")


@pytest.mark.parametrize("school", ["mandrel", "one_setting", "chuck_moved", "bolted"])
def test_what_leaves_the_lathe_is_carried_over_and_trued_again(demo: TestClient, school: str) -> None:
    job = put(demo, made(demo), school=school)
    codes = [s["code"] for s in job["steps"]]
    over = {"mandrel": "mandrel_over", "bolted": "blocks"}.get(school, "chuck_over")
    step = next(s for s in job["steps"] if s["code"] == over)
    assert job["divides"].rsplit(" ", 1)[1] in step["do"]
    assert codes[codes.index(over) + 1].startswith("runout")
    assert "do not take it out" not in " ".join(s["do"] for s in job["steps"])


def test_on_the_lathe_alone_a_disc_divides_and_a_copy_is_its_own_plate(demo: TestClient) -> None:
    alone = put(demo, made(demo), school="lathe_only")
    assert alone["divides"] == "printed disc of 57 marks"
    assert "mandrel_over" not in [s["code"] for s in alone["steps"]]
    copy = put(demo, made(demo), school="template")
    assert copy["divides"] == "the 57 as its own plate"


def test_a_second_job_for_the_same_wheel_is_asked_for(demo: TestClient) -> None:
    wanted = {"ask": "make 57 for Plover", "again": False}
    answer = demo.post("/api/jobs", json=wanted).json()["errors"][0]
    assert (answer["code"], answer["job"]) == ("job_there", 1)
    assert demo.post("/api/jobs", json={**wanted, "ask": "make 58 for Plover"}).status_code == 200
    # The same count of other wheels is another wheel.
    assert demo.post("/api/jobs", json={**wanted, "ask": "make 57 m2"}).status_code == 200
    assert demo.post("/api/jobs", json={**wanted, "again": True}).status_code == 200
