"""Names as they come from outside: nothing in them that cannot be seen, wherever they are typed or read."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from valleywind.core.names import check_name
from valleywind.core.refusal import Refusal
from valleywind.formats.tables import csv_text

HIDDEN = ["a\x00b", "a\nb", "a\tb", "a\x1b[31mb", "a\u202eb", "a\u200bb", "\u2066ab", "\ufeffab", "a\u2028b", "a\ud800"]


def refused(answer: Any) -> tuple[int, str, str]:
    error = answer.json()["errors"][0]
    return answer.status_code, error["field"], error["code"]


@pytest.mark.parametrize("name", HIDDEN)
def test_a_character_that_cannot_be_seen_is_refused(name: str) -> None:
    with pytest.raises(Refusal, match="hidden_character"):
        check_name(name, "name")


@pytest.mark.parametrize("name", ["Zahnräder 12″", "歯車", "نول‌ها", "No. 4 – left", ""])
def test_a_name_in_any_writing_is_taken(name: str) -> None:
    assert check_name(name, "name") == name


@pytest.mark.parametrize("name", HIDDEN[:-1])
def test_no_record_is_called_so(demo: TestClient, name: str) -> None:
    lathe = demo.get("/api/lathe-records/plover").json()
    mill = demo.get("/api/machine-records/heron").json()
    family = demo.get("/api/rack").json()["families"][0]["id"]
    pile = {"wheels": "40 45", "family": family}
    hidden = (422, "name", "hidden_character")
    assert refused(demo.put("/api/lathe-records/plover", json=lathe | {"name": name})) == hidden
    assert refused(demo.put("/api/machine-records/heron", json=mill | {"name": name})) == hidden
    for field in ("place", "material"):
        assert refused(demo.post("/api/rack/wheels", json=pile | {field: name})) == (422, field, "hidden_character")
    file = f'teeth,place\n40,"{name.replace(chr(9), "x").replace(chr(10), "x")}"\n'.encode()
    lines = demo.post("/api/rack/wheels.csv", content=file, headers={"Content-Type": "text/csv"}).json()["lines"]
    if not {"\t", "\n"} & set(name):
        assert "cannot be seen" in lines[0]["problem"]


def test_a_note_keeps_its_lines(demo: TestClient) -> None:
    mill = demo.get("/api/machine-records/heron").json()
    note = "Swings left.\n\u200fשמאלה"
    assert demo.put("/api/machine-records/heron", json=mill | {"note": note}).status_code == 200
    assert demo.get("/api/machine-records/heron").json()["note"] == note


@pytest.mark.parametrize("cell", ["=1+1", "+1", "-1", "@x", "＝1", "＋1", "－1", "＠x"])
def test_no_cell_is_run_by_a_spreadsheet(cell: str) -> None:
    assert csv_text(["note"], [[cell]]).splitlines()[1] == f"'{cell}"
