"""What the core finds, in words: nothing is left without a sentence, and figures read as people write them."""

import ast
import re
from collections.abc import Iterable, Mapping
from enum import StrEnum
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.lathes import curlew, plover
from valleywind.core.helix.ask import HelixMeaning
from valleywind.core.hobbing.ask import HobMeaning
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.line import Meaning
from valleywind.core.lathe.plan import Plan, plan
from valleywind.core.lathe.verdict import Goes, Purpose
from valleywind.core.refusal import Refusal
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Stage, Train, parse_stock
from valleywind.core.trains.planner import ShortfallCause
from valleywind.wording import numbers, refusals
from valleywind.wording.helix import answers as helix_words
from valleywind.wording.hobbing import answers as hob_words
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe.sheet import sheet
from valleywind.wording.numbers import Units
from valleywind.wording.trains import LATHE_SHAFTS, obstacle

SOURCE = Path(refusals.__file__).parents[1]


def plan_for(text: str, machine: str = "plover", stock: str | None = None) -> Plan:
    lathe, wheels = plover() if machine == "plover" else curlew()
    ask = read(text).ask
    assert ask is not None
    return plan(ask, lathe, parse_stock(stock) if stock else wheels)


def test_every_refusal_has_its_sentence() -> None:
    raised: set[str] = set()
    for path in SOURCE.rglob("*.py"):
        for call in ast.walk(ast.parse(path.read_text())):
            if not (isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id == "Refusal"):
                continue
            codes = {
                c.value for c in ast.walk(call.args[0]) if isinstance(c, ast.Constant) and isinstance(c.value, str)
            }
            # Only a refusal that is seen under another field has no code of its own.
            assert codes or path.name == "refusal.py", (path, call.lineno)
            raised |= codes
    assert len(raised) > 20
    assert raised <= set(refusals._TELLERS)


def test_every_verdict_and_meaning_has_its_words() -> None:
    assert set(words.GOES) == set(Purpose)
    assert all(set(words.GOES[job]) == set(Goes) for job in Purpose)
    crafts: list[tuple[Mapping[Any, str], Iterable[StrEnum]]] = [
        (words.MEANINGS, Meaning), (hob_words.MEANINGS, HobMeaning), (helix_words.MEANINGS, HelixMeaning)
    ]  # fmt: skip
    for meanings, every in crafts:
        assert set(meanings) == set(every)
        assert not [text for text in meanings.values() if not re.fullmatch(r"[A-Za-z ,()’]+", text)]


def test_a_refusal_nobody_thought_of_still_names_its_value() -> None:
    refusal = refusals.say(Refusal("quite_new", "ask", "M14"))
    assert refusal.says == "“M14” cannot be used here (quite new)."


@pytest.mark.parametrize(
    ("relative", "signed", "words"),
    [
        (Fraction(0), "exact", "exact"),
        (Fraction(-52, 10**6), "−0.0052 %", "0.0052 % short"),
        (Fraction(3, 10**7), "+0.00003 %", "0.00003 % long"),
        (Fraction(-26, 10**4), "−0.26 %", "0.26 % short"),
        (Fraction(11, 64), "+17 %", "17 % long"),
        (Fraction(3), "4 times", "4 times what is wanted"),
    ],
)
def test_errors_are_said_in_fitting_figures(relative: Fraction, signed: str, words: str) -> None:
    assert numbers.error(relative) == signed
    assert numbers.off(relative) == words


@pytest.mark.parametrize(
    ("micrometres", "metric", "inch"),
    [(0.58, "0.6 µm", "0.02 thou"), (37.0, "37 µm", "1.5 thou"), (0.0, "0 µm", "0 thou")],
)
def test_small_lengths(micrometres: float, metric: str, inch: str) -> None:
    assert (numbers.small(micrometres, Units.MM), numbers.small(micrometres, Units.INCH)) == (metric, inch)


@pytest.mark.parametrize(
    ("teeth", "words"), [(57, "a 57"), (80, "an 80"), (18, "an 18"), (108, "a 108"), (11, "an 11")]
)
def test_tooth_numbers_take_their_article(teeth: int, words: str) -> None:
    assert numbers.a(teeth) == words


@given(st.floats(-1e5, 1e5), st.integers(0, 5))
def test_no_figure_is_a_negative_zero_or_has_a_hyphen(value: float, digits: int) -> None:
    text = numbers.fixed(value, digits)
    assert "-" not in text
    assert not re.fullmatch(r"−0(\.0+)?", text)
    assert float(text.replace("−", "-")) == pytest.approx(value, abs=0.51 * 10**-digits)


@pytest.mark.parametrize(
    ("text", "machine", "stock", "cause", "says"),
    [
        ("0.04 mm", "curlew", None, ShortfallCause.LESS_THAN_LEAST, "a smaller driver goes below it."),
        ("60 mm", "curlew", "40 50 60", ShortfallCause.MORE_THAN_MOST, "in two stages is 1.125 mm."),
        ("2 mm", "plover", "20 40 60 96", ShortfallCause.NOTHING_NEAR, "two stages could"),
        ("2 mm", "plover", "40", ShortfallCause.NO_TRAIN, "Plover has too few wheels for a train."),
    ],
)
def test_a_shortfall_says_why(text: str, machine: str, stock: str | None, cause: ShortfallCause, says: str) -> None:
    result = plan_for(text, machine, stock)
    assert result.shortfall is not None
    assert result.shortfall.cause is cause
    sentence = words.shortfall_text(result, Units.MM)
    assert sentence is not None
    assert says in sentence


@pytest.mark.parametrize(
    ("notation", "says"),
    [
        ("24/28*28/24", "mm short of reaching across"),
        ("80/70*24/24", "short of where slot"),
        ("24/96*28/80", "overlaps the screw’s collar by"),
        ("96/24*24/96*40/50*40/50", "needs 3 studs; the quadrant has 2"),
    ],
)
def test_obstacles_are_said_with_their_amount(notation: str, says: str) -> None:
    lathe, _ = plover()
    stages = (part.split("/") for part in notation.split("*"))
    train = Train(tuple(Stage(int(driver), int(driven)) for driver, driven in stages))
    placed = lay_out([train], lathe.family, lathe.quadrant)[0].placement
    texts = [obstacle(o, train, placement=placed, names=LATHE_SHAFTS, units=Units.MM) for o in placed.obstacles]
    assert any(says in t for t in texts), texts


@pytest.mark.parametrize("units", Units)
@pytest.mark.parametrize(("text", "machine"), [("M14x2", "plover"), ("M3 left", "curlew"), ("50 mm", "plover")])
def test_a_sheet_names_every_wheel_and_every_shaft_once(text: str, machine: str, units: Units) -> None:
    result = plan_for(text, machine)
    for candidate in result.candidates:
        page = sheet(candidate, result.ask, result.lathe, units)
        (table,) = page.shafts
        assert len(table.rows) == candidate.train.shafts
        in_table = re.findall(r"\*\*(\d+)\*\*", " ".join(f"{row.inner} {row.outer}" for row in table.rows))
        assert sorted(map(int, in_table)) == sorted(candidate.train.teeth)
        studs = [step for step in page.steps if step.text.startswith("Stud")]
        assert len(studs) == candidate.train.shafts - 2
        assert page.steps[0].caution
        assert page.steps[-1].caution
        other = " in" if units is Units.MM else " mm"
        assert not re.search(rf"\d{other}\b", " ".join(page.check.lines))
