"""Drawings tell the truth: what is painted is checked with nothing but plane geometry, whatever machine it is of."""

import math
from itertools import combinations
from typing import Any

import pytest
from fastapi.testclient import TestClient

# mm that a drawing may be off: its figures come rounded.
NEAR = 1e-3


def apart(one: dict[str, Any], other: dict[str, Any]) -> float:
    return math.hypot(one["x_mm"] - other["x_mm"], one["y_mm"] - other["y_mm"])


def outside(point: dict[str, Any], outline: list[dict[str, Any]]) -> bool:
    """Ray casting."""
    crossed = False
    for a, b in zip(outline, [*outline[1:], outline[0]], strict=True):
        if (a["y_mm"] > point["y_mm"]) != (b["y_mm"] > point["y_mm"]):
            at = a["x_mm"] + (b["x_mm"] - a["x_mm"]) * (point["y_mm"] - a["y_mm"]) / (b["y_mm"] - a["y_mm"])
            crossed ^= point["x_mm"] < at
    return not crossed


def from_edge(point: dict[str, Any], outline: list[dict[str, Any]]) -> float:
    result = math.inf
    for a, b in zip(outline, [*outline[1:], outline[0]], strict=True):
        dx, dy = b["x_mm"] - a["x_mm"], b["y_mm"] - a["y_mm"]
        along = ((point["x_mm"] - a["x_mm"]) * dx + (point["y_mm"] - a["y_mm"]) * dy) / (dx * dx + dy * dy)
        along = min(1.0, max(0.0, along))
        result = min(result, math.hypot(point["x_mm"] - a["x_mm"] - along * dx, point["y_mm"] - a["y_mm"] - along * dy))
    return result


def true_to_life(drawing: dict[str, Any], outlines: list[dict[str, Any]], fits: bool) -> None:
    shafts, wheels = drawing["shafts"], drawing["wheels"]
    size = {o["teeth"]: o for o in outlines}
    meshing = [(m["after"], m["after"] + 1) for m in drawing["meshes"]]
    for mesh, (a, b) in zip(drawing["meshes"], meshing, strict=True):
        one, other = wheels[a], wheels[b]
        assert one["plane"] == other["plane"]
        # The mesh is marked on the line of centres, where the pitch circles meet.
        share = one["teeth"] / (one["teeth"] + other["teeth"])
        centres = shafts[one["shaft"]], shafts[other["shaft"]]
        assert apart(centres[0], mesh["at"]) == pytest.approx(apart(*centres) * share, abs=NEAR)
        # They run opposite ways, as fast as their teeth say.
        assert one["turns"] * one["teeth"] == pytest.approx(-other["turns"] * other["teeth"])
        if not fits:
            continue
        pitch = [size[w["teeth"]]["pitch_radius_mm"] for w in (one, other)]
        assert apart(*centres) == pytest.approx(sum(pitch), abs=0.1 * pitch[0] / one["teeth"] + NEAR)
        _tooth_against_gap(one, other, *centres)
    for a, b in combinations(range(len(wheels)), 2):
        if wheels[a]["shaft"] == wheels[b]["shaft"]:
            assert wheels[a]["turns"] == pytest.approx(wheels[b]["turns"])
    if fits:
        _clear(drawing, size, meshing)


def _tooth_against_gap(one: dict[str, Any], other: dict[str, Any], at: dict[str, Any], there: dict[str, Any]) -> None:
    line = math.atan2(there["y_mm"] - at["y_mm"], there["x_mm"] - at["x_mm"])
    first = ((line - one["phase_rad"]) * one["teeth"] / (2 * math.pi)) % 1
    second = ((line + math.pi - other["phase_rad"]) * other["teeth"] / (2 * math.pi)) % 1
    # On the line of centres one wheel's tooth stands where the other has a gap, mirrored.
    assert (first + second - 0.5) % 1 == pytest.approx(0, abs=1e-6) or (first + second + 0.5) % 1 == pytest.approx(
        1, abs=1e-6
    )


def _clear(drawing: dict[str, Any], size: dict[int, dict[str, Any]], meshing: list[tuple[int, int]]) -> None:
    """Nothing runs into anything, and every stud sits in its slot."""
    shafts, wheels = drawing["shafts"], drawing["wheels"]
    for n, wheel in enumerate(wheels):
        tip, centre = size[wheel["teeth"]]["tip_radius_mm"], shafts[wheel["shaft"]]
        for k, shaft in enumerate(shafts):
            assert k == wheel["shaft"] or apart(centre, shaft) > tip + shaft["boss_radius_mm"] - NEAR
        for m in range(n + 1, len(wheels)):
            other = wheels[m]
            if other["plane"] == wheel["plane"] and (n, m) not in meshing and other["shaft"] != wheel["shaft"]:
                assert apart(centre, shafts[other["shaft"]]) > tip + size[other["teeth"]]["tip_radius_mm"] - NEAR
        if drawing["cover"]:
            assert not outside(centre, drawing["cover"])
            assert from_edge(centre, drawing["cover"]) > tip - NEAR
    slots = {s["name"]: s for s in drawing["slots"]}
    for shaft in shafts[1:-1]:
        slot, away = slots[shaft["slot"]], math.hypot(shaft["x_mm"], shaft["y_mm"])
        assert away == pytest.approx(shaft["radius_mm"], abs=NEAR)
        assert slot["nearest_mm"] - NEAR <= away <= slot["farthest_mm"] + NEAR
        turned = math.atan2(shaft["y_mm"], shaft["x_mm"]) - slot["angle_rad"]
        assert math.cos(turned) == pytest.approx(1, abs=1e-6)
    assert not any(c["fouls"] for c in drawing["clearances"])


def shelf(client: TestClient, machine: str) -> list[Any]:
    """Outlines of the wheels that the machine has."""
    result: list[Any] = client.get(f"/api/machines/{machine}/wheels").json()["outlines"]
    return result


@pytest.mark.parametrize("machine", ["plover", "curlew", "dunlin"])
@pytest.mark.parametrize(
    "ask", ["M14x2", "26 tpi", "0.5 mm", "19 tpi left", "module 1.5 worm", "feed 0.1", "8 mm 4 starts"]
)
def test_every_train_of_a_plan(demo: TestClient, machine: str, ask: str) -> None:
    reply = demo.get(f"/api/lathes/{machine}/plan", params={"ask": ask}).json()
    shown = [*reply["candidates"], *(c for c in (reply["most_exact_unfit"], reply["one_more"]) if c)]
    assert shown
    for listed in shown:
        answer = demo.get(f"/api/lathes/{machine}/train", params={"ask": ask, "train": listed["train"]}).json()
        candidate = answer["candidate"]
        true_to_life(candidate["drawing"], shelf(demo, machine) + answer["outlines"], candidate["goes_on"])


@pytest.mark.parametrize("train", ["76/66*32/78", "48/60*40/80", "24/96", "40/50/80", "24/80*24/96*28/76"])
def test_a_train_tried_by_hand(demo: TestClient, train: str) -> None:
    answer = demo.get("/api/lathes/plover/train", params={"ask": "M14x2", "train": train}).json()
    outlines = shelf(demo, "plover") + answer["outlines"]
    true_to_life(answer["candidate"]["drawing"], outlines, answer["candidate"]["goes_on"])


def test_gears_on_a_heads_arm(demo: TestClient) -> None:
    drawn = 0
    for divisions in range(51, 260, 8):
        for way in demo.get("/api/dividing/ways", params={"ask": f"divide {divisions} on Heron"}).json()["ways"]:
            gears = way["gears"]
            if gears is None:
                continue
            drawn += 1
            assert gears["drawing"]["shafts"][0]["name"] == "spindle"
            assert len([w for w in gears["drawing"]["wheels"] if w["role"] == "idler"]) == gears["idlers"]
            true_to_life(gears["drawing"], gears["outlines"], way["goes_on"])
    assert drawn > 8
