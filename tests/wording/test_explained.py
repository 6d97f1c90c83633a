"""What is printed can be carried out: sheets are read back into trains, sentences about slips into what slipped."""

import re
from collections.abc import Callable
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.lathes import curlew, dunlin, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.chart import List, chart, pitches
from valleywind.core.lathe.check import check
from valleywind.core.lathe.length_reading import UNCERTAINTY, LengthReading, Method, read_measured
from valleywind.core.lathe.machine import Lathe, read_set_up
from valleywind.core.lathe.slower import slower
from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.refusal import Refusal
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Stage, Stock, Train, parse_stock
from valleywind.core.trains.slips import SlipKind
from valleywind.core.trains.standing import Standing
from valleywind.core.units import MM_PER_INCH, Unit
from valleywind.wording.lathe import chart as chart_words
from valleywind.wording.lathe import slips as words
from valleywind.wording.numbers import Units
from valleywind.wording.trains import HEAD_SHAFTS, LATHE_SHAFTS, ShaftNames, steps, train_text, trial_text

WHEELS = st.sampled_from(sorted(parse_stock("24 28 32 36 40 44 48 52 56 64 66 68 72 76 78 80 96")))
STAGES = st.builds(Stage, WHEELS, WHEELS, st.lists(WHEELS, max_size=1).map(tuple))
TRAINS = st.lists(STAGES, min_size=1, max_size=3).map(lambda stages: Train(tuple(stages)))


def places(lines: list[str], names: ShaftNames, last: int) -> dict[tuple[int, int], int]:
    """Tooth numbers by shaft and plane, read from the steps of a sheet."""
    results = {}
    for step in lines:
        head, _, what = step.partition(": ")
        name = head.split(",")[0].lower()
        shaft = {names.first: 0, names.last: -1, "stud": 1}.get(name, int(name[-1]) if name[-1:].isdigit() else None)
        if shaft is None or step.startswith("Paper"):
            continue
        assert 0 <= shaft < last or shaft == -1
        for wheel, plane in re.findall(r"\*\*(\d+)\*\*(?: in the)? (inner|outer)", what):
            results[shaft, ("inner", "outer").index(plane)] = int(wheel)
    return results


@settings(max_examples=200)
@given(TRAINS, st.sampled_from([LATHE_SHAFTS, HEAD_SHAFTS]))
def test_a_sheet_read_back_is_the_train(train: Train, names: ShaftNames) -> None:
    lathe, _ = plover()
    placement = lay_out([train], lathe.family, lathe.quadrant)[0].placement
    lines = steps(train, placement, names, "spacer", Units.MM)
    assert places(lines, names, train.shafts - 1) == train.places
    meshes = [tuple(map(int, pair)) for pair in re.findall(r"(\d+) with (\d+)", lines[-1])]
    if train.shafts > 2:
        assert meshes == [(train.wheels[a].teeth, train.wheels[b].teeth) for a, b in reversed(train.meshing)]
    text = trial_text(train, placement, lathe.quadrant, names, Units.MM)
    assert text.startswith(train_text(train))
    assert ("does not fit" in text) == (not placement.fits)


SLIPPED = {
    SlipKind.STAGE_EXCHANGED: "The {} and the {} are exchanged: the driver runs as the driven wheel.",
    SlipKind.STUD_EXCHANGED: "The {} and the {} are exchanged on their stud.",
    SlipKind.WHEELS_EXCHANGED: "The {} and the {} stand in each other’s place.",
    SlipKind.IDLER_EXCHANGED: "The idler {} and the {} stand in each other’s place.",
    SlipKind.RUN_AS_IDLER: "The stud’s {} and {} run as one idler: one of them meshes on both sides.",
}


@settings(max_examples=60)
@given(
    st.sampled_from([
        (plover, "M14x2", "76/66*32/78"), (plover, "26 tpi", "36/64*32/78"), (curlew, "0.5 mm", "40/50*30/45"),
        (dunlin, "16 tpi", "32/80/64@8 ×2"),
    ]),
    st.integers(1, 60).map(lambda n: Fraction(n, 20)),
)  # fmt: skip
def test_every_slip_has_a_sentence_that_names_its_wheels(
    case: tuple[Callable[[], tuple[Lathe, Stock]], str, str], times: Fraction
) -> None:
    machine, text, name = case
    lathe, stock = machine()
    ask, set_up = read(text).ask, read_set_up(name, lathe)
    assert ask is not None
    length = lathe.lead_of(set_up.train.ratio, set_up.setting) * 10 * times
    result = check(LengthReading(length, 10, UNCERTAINTY[Method.CALIPER]), ask, set_up, lathe, stock)
    for slip in result.slips:
        sentence = words.slip(slip, lathe)
        assert sentence.startswith("Less sure: ") is not slip.sure
        sentence = sentence.removeprefix("Less sure: ")
        assert sentence.endswith(".")
        assert sentence[0].isupper()
        numbers = [int(n) for n in re.findall(r"\d+", sentence)]
        if slip.kind is SlipKind.REPLACED:
            assert numbers == [slip.wheels[1], slip.wheels[0]]
            assert sentence.startswith(("An ", "A "))
        elif slip.kind is not SlipKind.FACTOR:
            assert sentence == SLIPPED[slip.kind].format(*slip.wheels)
    reply = words.answer(result, LengthReading(length, 10, Fraction(1, 20)), Units.MM, 8)
    assert reply.startswith("Yes" if result.agrees else "No")
    if len(result.slips) > 8 and any(slip.sure for slip in result.slips):
        assert f"{len(result.slips)} single slips explain it, the likeliest 8" in reply


@pytest.mark.parametrize(
    ("machine", "ask", "train", "measured", "wording"),
    [
        (dunlin, "10 tpi", "32/80/64@10", "28.22", "The box stands at 9."),
        (plover, "M14x2", "76/66*32/78", "18", "The turns were miscounted: these are 9 turns."),
        (plover, "M14x2", "76/66*32/78", "0.787", "The reading is in inches, not in mm."),
        (plover, "8 tpi", "48/64", "80", "Set up for 8 mm, not 8 threads to the inch."),
        (curlew, "M14x2", "80/45/30", "127", "Set up for 2 threads to the inch, not 2 mm."),
        (curlew, "0.5 mm", "40/50/60", "10", "The first shaft turns 1 to the spindle’s 1, not 1/2."),
    ],
)
def test_slips_that_are_not_of_wheels_are_said(
    machine: Callable[[], tuple[Lathe, Stock]], ask: str, train: str, measured: str, wording: str
) -> None:
    lathe, stock = machine()
    wanted = read(ask).ask
    assert wanted is not None
    reading = LengthReading(Fraction(measured), 10, Fraction(1, 100) if Fraction(measured) > 1 else Fraction(1, 1000))
    assert wording in [
        words.slip(s, lathe) for s in check(reading, wanted, read_set_up(train, lathe), lathe, stock).slips
    ]


@pytest.mark.parametrize(
    ("text", "turns", "off", "bare", "length", "uncertainty"),
    [
        ("20.03", 10, "", Unit.MM, "20.03", "0.05"),
        ("0.789", 10, "0.001", Unit.INCH, "20.0406", "0.0254"),
        ("26 tpi", 13, "", Unit.MM, "12.7", "0.05"),
        ("11 1/2 TPI", 23, "0.1 mm", Unit.INCH, "50.8", "0.1"),
        ("20 mm", 10, "", Unit.INCH, "20", "0.05"),
    ],
)
def test_readings_as_people_type_them(
    text: str, turns: int, off: str, bare: Unit, length: str, uncertainty: str
) -> None:
    result = read_measured(text, turns, Method.CALIPER, off, bare)
    assert (result.length, result.uncertainty) == (Fraction(length), Fraction(uncertainty))


@pytest.mark.parametrize(
    ("text", "off", "field"), [("0 tpi", "", "measured"), ("", "", "measured"), ("20", "x", "off")]
)
def test_readings_that_cannot_be(text: str, off: str, field: str) -> None:
    with pytest.raises(Refusal) as caught:
        read_measured(text, 10, Method.CALIPER, off, Unit.MM)
    assert caught.value.field == field


@pytest.mark.parametrize("machine", [plover, curlew, dunlin])
@pytest.mark.parametrize("of", list(List))
def test_every_line_of_a_chart_says_how_it_stands(machine: Callable[[], tuple[Lathe, Stock]], of: List) -> None:
    lathe, stock = machine()
    if of is List.FEEDS_ACROSS and CarriageMove.ACROSS not in lathe.feeds:
        with pytest.raises(Refusal, match="no_cross_feed"):
            list(chart(pitches(of), lathe, stock))
        return
    for row in list(chart(pitches(of)[::3], lathe, stock)):
        note = chart_words.note(row, lathe)
        assert chart_words.pitch(row.pitched.ask, Units.MM)
        match row.standing:
            case Standing.NEEDS_WHEEL:
                assert re.fullmatch(rf"needs an? {row.new}: .*", note)
                assert str(row.new) in note.partition(":")[2]
            case Standing.NO_ROOM:
                assert "do not fit" in note
            case _:
                assert note


@pytest.mark.parametrize("machine", [plover, curlew])
def test_slower_says_what_one_wheel_brings(machine: Callable[[], tuple[Lathe, Stock]]) -> None:
    lathe, stock = machine()
    ask = read("feed 0.01").ask
    assert ask is not None
    result = slower(ask, lathe, stock)
    text = " ".join(chart_words.slower_text(result, ask, lathe, Units.MM))
    for new in (*result.smaller[:1], *result.bigger[:1]):
        assert re.search(rf"an? {new.new} (in place of the \d+|as driven wheel|as driver)", text)
        assert result.now is not None
        assert new.candidate.value < result.now.value
    nothing = slower(ask, lathe, parse_stock("96x4"))
    assert chart_words.slower_text(nothing, ask, lathe, Units.INCH)[0].startswith(("Nothing fits", "The slowest"))


def test_an_inch_stays_an_inch() -> None:
    assert Units.INCH.bare is Unit.INCH
    assert read_measured("1", 6, Method.RULE, "", Units.INCH.bare).length == MM_PER_INCH
