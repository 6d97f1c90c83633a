"""Whatever was saved of a hobber or a mill: it can be saved again as it is shown, and no later question fails."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import Store

# Figures that belong together are taken together; what cannot be saved at all is tried elsewhere.
PLACES: Sequence[dict[str, Any]] = (
    {}, {"apart": "120"}, {"apart": "12.0000000001", "cover": "none"}, {"first_x": "70", "first_y": "175"},
    {"first_x": "70", "first_y": "175", "swing_low": "5", "swing_high": "150",
     "cover": "-150 -110, 180 -110, 180 280, -150 280"},
    {"first_x": "-3.5", "first_y": "0", "swing_low": "-40", "swing_high": "-39.9", "cover": "none"},
    {"first_x": "0", "first_y": "-190", "cover": "0 0, 9 0, 9 9, 0 0"},
)  # fmt: skip
SLOTS: Sequence[list[dict[str, str]]] = (
    [], [{"offset": "0", "nearest": "70", "farthest": "230"}],
    [{"offset": "0", "nearest": "45", "farthest": "46"}, {"offset": "-42", "nearest": "70", "farthest": "71"}],
)  # fmt: skip
QUADRANT: Mapping[str, Sequence[str]] = {
    "collar_first": ("", "30", "0", "400"), "collar_stud": ("", "24"), "collar_last": ("", "30"),
    "gap": ("0.5", "", "0", "1/2"), "studs": ("", "1", "2", "3"),
    "goes_on": ("", "20/65*40/50", "20/65*40/50, 30/60*50/70"), "not_on": ("", "20/40*70/90"),
}  # fmt: skip
HOBBER = {
    "index": ("24", "24 with 40/40, 48 from 97 with 48/24", "1/3"),
    "feed": ("", "0.75 mm", "0.03 in"), "differential": ("", "25/π mm", "8 mm", "0.001 mm"),
    "swivel": ("", "45", "0", "90"), "table": ("", "clockwise", "anticlockwise"),
    "feeds": ("down", "up", "both", ""), "taken": ("after", "before", ""), "largest": ("", "250 mm", "1 mm"),
    "travel": ("", "180 mm", "0.1 mm"), "between": ("", "120 mm"),
}  # fmt: skip
MILL = {
    "screw": ("6 mm", "4 tpi", "", "0.001 mm"), "swing": ("", "45", "0", "90"),
    "pairs": ("", "1:2, 1:40 one way", "1:1", "2"), "swivel": ("", "90", "0"), "pairs_at": ("", "before", "after"),
    "table": ("", "1000 x 240 mm", "1 x 1 mm"), "travel": ("", "560 mm", "1 mm"),
    "saddle": ("", "150 to 400 mm", "150 to 151 mm"), "arbors": ("", "220, 320 mm", "1 mm"), "head_at": ("", "left"),
}  # fmt: skip
HEAD = {
    "ratio": ("40:1", "60", "1"), "plates": ("", "15 18 21@92 / 16"), "direct": ("", "24"),
    "gears": ("", "24x2 28 100"), "reads": ("", "1'", "1°"),
}  # fmt: skip
WHEELS = ("24 28 32 36 37 40 44 48 56 60 64 72 80 100", "40x2", "24 25", "20-60")
HOBS = ("hob 37", "hob 107", "hob 24 m2 30° left face 20", "hob 12 m6 45° right face 1")
HELICES = (
    "helix 24 m2 30° left face 20 with 60",
    "helix lead 300 mm",
    "helix 6 lead 12 in dia 20",
    "helix 12 m2 60° right",
)


def typed(fields: Mapping[str, Sequence[str]]) -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries({name: st.sampled_from(values) for name, values in fields.items()})


def quadrants() -> st.SearchStrategy[dict[str, Any]]:
    together = st.tuples(typed(QUADRANT), st.sampled_from(PLACES), st.sampled_from(SLOTS))
    return together.map(lambda q: q[0] | q[1] | {"slots": q[2]})


BOXES = st.fixed_dictionaries(
    {"quadrant": quadrants(), "turns": st.sampled_from(("", "even", "odd")), "lever": st.booleans(),
     "posts": st.sampled_from(("", "22 x 70", "22 x 70, 20 x 5 worn"))}
)  # fmt: skip
HOBBERS = st.tuples(
    typed(HOBBER), st.dictionaries(st.sampled_from(("index", "feed", "differential")), BOXES, max_size=3)
).map(lambda h: {"kind": "hobber", "hobber": h[0] | {"boxes": h[1]}})
MILLS = st.tuples(typed(MILL), BOXES, typed(HEAD), st.booleans(), st.none() | quadrants()).map(
    lambda m: {"kind": "mill", "mill": m[0] | {"lead": m[1]}, "head": m[2] | {"geared": m[3]}, "arm": m[4]}
)


@pytest.fixture
def whole(store: Store) -> Iterator[TestClient]:
    with store.session() as session:
        harrowfold.load(session)
    with TestClient(make_app(store, demo=True), base_url="http://127.0.0.1") as client:
        yield client


def answered(client: TestClient, path: str, **query: str) -> Any:
    """The answer to a question, which may be a refusal with its sentences, but no failure."""
    result = client.get(f"/api/{path}", params=query)
    assert result.status_code in (200, 422), (path, query, result.text)
    if result.status_code == 422:
        assert all(e["says"].endswith((".", "?")) for e in result.json()["errors"]), result.text
        return None
    return result.json() if "json" in result.headers["content-type"] else result.content


def saved(client: TestClient, record: dict[str, Any], family: bool, wheels: str) -> str | None:
    """Saved as a machine of its own: what is shown of it is saved again, and it has wheels. Its slug; None where it was
    refused, at a field."""
    families = client.get("/api/rack").json()["families"]
    name = f"Knot {len(client.get('/api/machines').json())}"
    record = record | {"name": name, "family": families[0]["id"] if family else None}
    done = client.post("/api/machine-records", json=record)
    assert done.status_code in (200, 422), done.text
    if done.status_code == 422:
        assert all(e["field"] for e in done.json()["errors"])
        return None
    slug: str = done.json()["slug"]
    shown = client.get(f"/api/machine-records/{slug}").json()
    again = client.put(f"/api/machine-records/{slug}", json=shown)
    assert again.status_code == 200, again.text
    assert client.get(f"/api/machine-records/{slug}").json() | {"version": 0} == shown | {"version": 0}
    assert client.put(f"/api/machines/{slug}/wheels", json={"wheels": wheels}).status_code == 200
    return slug


FEW = settings(
    max_examples=5,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow, HealthCheck.filter_too_much],
)


@FEW
@given(HOBBERS, st.booleans(), st.sampled_from(WHEELS), st.sampled_from(HOBS))
def test_a_hobber_that_was_saved_is_never_a_failure(
    whole: TestClient, record: dict[str, Any], family: bool, wheels: str, ask: str
) -> None:
    knot = saved(whole, record, family, wheels)
    assume(knot is not None)
    plan = answered(whole, f"hobbers/{knot}/plan", ask=ask, units="inch")
    answered(whole, "machines")
    answered(whole, f"hobbers/{knot}/now")
    answered(whole, f"hobbers/{knot}/chart", first="30", last="40")
    for set_up in (plan or {}).get("candidates", [])[:1]:
        answered(whole, f"hobbers/{knot}/train", ask=ask, train=set_up["train"])
        answered(whole, f"hobbers/{knot}/sheet.pdf", ask=ask, train=set_up["train"])
        if set_up["fits"]:
            on = whole.put(f"/api/hobbers/{knot}/mounted", json={"train": set_up["train"]})
            assert on.status_code == 200, on.text
            answered(whole, f"hobbers/{knot}/plan", ask=ask)


@FEW
@given(MILLS, st.booleans(), st.sampled_from(WHEELS), st.sampled_from(HELICES))
def test_a_mill_that_was_saved_is_never_a_failure(
    whole: TestClient, record: dict[str, Any], family: bool, wheels: str, ask: str
) -> None:
    knot = saved(whole, record, family, wheels)
    assume(knot is not None)
    plan = answered(whole, f"mills/{knot}/plan", ask=ask, units="inch")
    answered(whole, "machines")
    answered(whole, f"mills/{knot}/chart", pitch="m2", first="20", last="24", angles="15 30", hand="left")
    answered(whole, "dividing/ways", ask="divide 57")
    for one in (plan or {}).get("candidates", [])[:1]:
        answered(whole, f"mills/{knot}/train", ask=ask, train=one["train"])
        answered(whole, f"mills/{knot}/sheet.pdf", ask=ask, train=one["train"])
