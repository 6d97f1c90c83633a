"""What the Mill station says: of the ask, of what comes of pair and wheels, of loads, of the mate, of the check."""

from dataclasses import replace
from fractions import Fraction

import pytest

from tests.mills import QUADRANT, STOCK, ask_of, drive, heron
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.chart import Cell, chart
from valleywind.core.helix.check import ReadAs, WayTurned, check, given_lead, read_measured
from valleywind.core.helix.lead import PairWay
from valleywind.core.helix.machine import PairsAt
from valleywind.core.helix.plan import (
    LeadCandidate,
    LeadDrive,
    LeadSetUp,
    candidate_for,
    drive_of,
    look,
    mate_ask,
    mate_plan,
    plan,
)
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.model import parse_stock, parse_train
from valleywind.core.trains.planner import Shortfall, ShortfallCause
from valleywind.core.trains.slips import SlipKind
from valleywind.core.trains.standing import Standing
from valleywind.wording.helix import answers
from valleywind.wording.helix import chart as chart_words
from valleywind.wording.helix import check as check_words
from valleywind.wording.numbers import Units

CLOCK = "helix 24 m2 30° left face 20"
TRAIN = parse_train("52/28*72/56")
SET = LeadSetUp(TRAIN, PairWay(Fraction(1, 2)))


def best(line: str, on: LeadDrive = drive()) -> tuple[HelixAsk, LeadCandidate]:
    ask = ask_of(line)
    return ask, plan(ask, on, STOCK).candidates[0]


def with_box(**facts: object) -> LeadDrive:
    """The drive of a mill whose lead quadrant is another one."""
    box = heron().box
    assert box is not None
    return drive_of(heron(box=replace(box, **facts)), Fraction(60))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (CLOCK, "24 teeth, module 2, helix 30° left-hand, lead 301.59 mm, face 20 mm"),
        ("helix lead 30 mm", "right-hand, lead 30 mm"),
        ("helix 6 lead 12 in dia 20", "6 grooves, right-hand, 11.65° on 20 mm, lead 304.8 mm"),
        (
            "helix 40 m1 20° right with 60",
            "40 teeth, module 1, helix 20° right-hand, lead 367.42 mm, runs with 60 teeth",
        ),
    ],
)
def test_an_ask_is_said_back_whole(line: str, says: str) -> None:
    assert answers.description(ask_of(line), Units.MM) == says


def test_what_nobody_said_is_told() -> None:
    assert answers.assumptions(ask_of("helix lead 300 mm"), Units.MM) == [
        "Right-hand.",
        "Run-off is told over 100 mm of length.",
        "The angle to swing depends on the diameter, which is not said.",
    ]
    assert answers.assumptions(ask_of("helix 24 m2 20° 30° left face 20"), Units.MM) == []


def test_an_exact_lead_is_said_to_be_so_and_another_by_how_much() -> None:
    ask, exact = best("helix lead 300 mm")
    assert answers.head(exact.verdict) == "Exact"
    assert answers.verdict_text(exact, ask, drive(), Units.MM) == "The lead is 300 mm, just as wanted."
    ask, off = best("helix 6 lead 12 in dia 20")
    assert answers.verdict_text(off, ask, drive(), Units.MM) == (
        "The lead is 304.62 mm, 0.0606 % short. Error of a groove over 100 mm: 12 µm."
    )
    # The train is that much too fast: what is short as a lead is long as a ratio.
    assert float(given_lead(LeadSetUp(off.train, off.setting), drive())) == pytest.approx(
        304.8 * (1 - 606e-6), abs=0.01
    )


@pytest.mark.parametrize(
    ("cause", "says"),
    [
        (ShortfallCause.LESS_THAN_LEAST, "The longest lead of Heron’s wheels and pairs is 3600 mm."),
        (ShortfallCause.MORE_THAN_MOST, "The shortest lead of Heron’s wheels and pairs is 36 mm."),
        (ShortfallCause.NEAR_ONES_DO_NOT_FIT,
         "Closer trains exist among the wheels, but they do not fit on the quadrant."),
        (ShortfallCause.NOTHING_NEAR, "Heron’s wheels and pairs give nothing closer."),
        (ShortfallCause.NEVER_CLOSES,
         "No train of Heron’s wheels reaches from shaft to shaft. Check the lead quadrant’s record."),
    ],
)  # fmt: skip
def test_why_nothing_meets_it(cause: ShortfallCause, says: str) -> None:
    """A ratio of 1/10 is the longest lead, 10 the shortest: 60 times a screw of 6 mm is 360."""
    short = Shortfall(cause, Fraction(1, 50), Fraction(1, 10), Fraction(10))
    assert answers.shortfall_text(short, drive(), "Heron", Units.MM) == f"The best that fits is 1.96 % short. {says}"
    none = replace(short, best_error=None)
    assert answers.shortfall_text(none, drive(), "Heron", Units.MM) == f"Nothing fits. {says}"


def test_too_few_wheels_are_too_few() -> None:
    outcome = plan(ask_of("helix lead 300 mm"), drive(), parse_stock("24"))
    assert (
        answers.shortfall_text(outcome.shortfall, drive(), "Heron", Units.MM) == "Heron has too few wheels for a train."
    )
    assert answers.shortfall_text(None, drive(), "Heron", Units.MM) is None


def test_an_idler_puts_a_wrong_way_right_and_that_is_true() -> None:
    one_way, ask = drive(lever=False), ask_of(CLOCK)
    for train in ("56/60*46/72", "56/40/60*46/72"):
        one = candidate_for(LeadSetUp(parse_train(train), PairWay(Fraction(2))), ask, one_way, STOCK, None)
        after = look(one, ask, one_way, STOCK, None).righted
        text = answers.one_idler_text(one, after)
        assert (text is None) == one.hand.right
        if not one.hand.right:
            assert after is not None
            assert after.hand.right
            assert text == "With a 48 as idler between 56 and 60 it turns the right way."
            assert "turns the work the wrong way for this hand" in answers.reasons(one, Units.MM)
            # For the other hand it is the idler that is one too many.
            right = replace(ask, hand=Hand.RIGHT)
            other = candidate_for(LeadSetUp(after.train, after.setting), right, one_way, STOCK, None)
            without = look(other, right, one_way, STOCK, None).righted
            assert answers.one_idler_text(other, without) == "Without an idler it turns the right way."


def test_which_way_the_work_turns_is_said_from_one_end() -> None:
    ask, one = best(CLOCK)
    text = answers.direction(one, ask)
    assert text.startswith("Reversing lever ")
    assert "seen from the right-hand end of the table" in text
    bare = with_box(drive=None)
    ask, unknown = best(CLOCK, bare)
    assert "not on record" in answers.direction(unknown, ask)


def test_short_leads_load_the_gearing_and_that_is_told() -> None:
    ask = ask_of("helix lead 30 mm")
    outcome = plan(ask, drive(), STOCK)
    text = answers.load_text(outcome.candidates[0], drive(), list(outcome.candidates))
    assert text is not None
    assert text.startswith("Heavy load: the head’s worm turns 12 times for one turn of the table’s screw.")
    assert text.endswith("and take light cuts.")
    # A lead of 300 mm loads nothing.
    ask, easy = best("helix lead 300 mm")
    assert answers.load_text(easy, drive(), [easy]) is None


@pytest.mark.parametrize(
    ("at", "parts"),
    [
        (PairsAt.BEFORE, ["1 : 2 turned, 1 turn in, 2 out", "52/28 × 72/56"]),
        (PairsAt.AFTER, ["52/28 × 72/56", "1 : 2 turned, 1 turn in, 2 out"]),
        (None, ["52/28 × 72/56 and 1 : 2 turned, 1 turn in, 2 out, in an order that is not on record"]),
    ],
)
def test_what_drives_what(at: PairsAt | None, parts: list[str]) -> None:
    text = answers.chain(LeadSetUp(TRAIN, PairWay(Fraction(2))), heron(pairs_at=at), drive(), Units.MM)
    assert text[0] == "table screw 6 mm"
    assert [part.removeprefix("pair ").replace("and pair", "and") for part in text[1:-1]] == parts
    assert text[-1] == "head 60 : 1"


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("helix 24 m2 30° left with 60", "The mate, 60 teeth, right-hand"),
        ("helix 40 m1 20° right with 60", "The mate, 60 teeth, left-hand"),
    ],
)
def test_the_mate_and_whether_the_pair_tracks(line: str, says: str) -> None:
    ask, one = best(line)
    mate = mate_ask(ask)
    assert mate is not None
    result = mate_plan(one, ask, mate, drive(), STOCK)
    assert result is not None
    text = answers.mate_text(result, ask, drive(), Units.MM)
    assert text.startswith(says)
    wheel = given_lead(LeadSetUp(one.train, one.setting), drive()) / ask.wanted_lead
    other = given_lead(LeadSetUp(result.candidate.train, result.candidate.setting), drive()) / mate.wanted_lead
    assert ("the pair tracks" in text) == (wheel == other)
    if wheel != other:
        assert "run off differently by" in text


def said_of(reading: str, over: str = "100 mm", off: str = "", read: ReadAs = ReadAs.DEGREES,
            turned: WayTurned = WayTurned.NOT_LOOKED) -> tuple[str, str | None]:  # fmt: skip
    """The answer to a reading on the clock wheel's train, and what to read next."""
    measured = read_measured(read, reading, over, off, turned)
    result = check(measured, SET, drive(), STOCK)
    return check_words.answer(result, measured, 3), check_words.tell_apart(result, measured, Units.MM)


def test_a_reading_is_answered() -> None:
    """52/28 × 72/56 behind 1 : 2: 119.39° for 100 mm."""
    assert said_of("119.4")[0].startswith("Yes: ")
    wrong_way = said_of("119.4", turned=WayTurned.OTHER_WAY)[0]
    assert wrong_way.startswith("No: 119.4° is as much as it must be, but the work ")
    fast = said_of("477.55")[0]
    assert fast.startswith("No: 477.55° is not 119.39°: the work turns too fast.")
    assert "too slowly" in said_of("29.85")[0]
    assert "And it " in said_of("477.55", turned=WayTurned.OTHER_WAY)[0]
    assert said_of("3.17", off="0.001")[0].endswith(
        "No single slip explains it. Move the table farther and read again."
    )


def test_two_slips_are_told_apart_by_reading_on_or_counting() -> None:
    """Wherever two slips explain a reading, what is to be counted next differs between them."""
    sentences = []
    for value in range(20, 480, 7):
        measured = read_measured(ReadAs.DEGREES, str(value), "20 mm")
        result = check(measured, SET, drive(), STOCK)
        if result.doubt is None:
            continue
        text = check_words.tell_apart(result, measured, Units.MM)
        assert text is not None
        sentences.append(text)
        if result.doubt.count is not None:
            place, first, second = result.doubt.count
            assert first != second
            assert f": {first} by the first, {second} by the second" in text
            kinds = [slip.kind for slip in result.slips[:2]]
            if kinds[0] is not SlipKind.FACTOR:
                assert result.slips[0].train.wheels[place].teeth == first
        if result.doubt.times is not None:
            assert f"move the table {20 * result.doubt.times} mm" in text
    assert sentences


def test_what_is_not_known_of_a_mill_is_said() -> None:
    assert answers.not_known(heron(), drive()) == []
    bare = heron(swing=None, table=None, travel=None, saddle=None, arbors=())
    assert answers.not_known(bare, drive()) == [
        "How far the table swings is not on record.",
        "Not on record, so not checked, are the table’s size, its travel, the way of the saddle and the arbors.",
    ]


def cells(on: LeadDrive, stock: str) -> list[Cell]:
    every = [ask_of(f"helix {teeth} m2 {angle}° left") for teeth in (23, 24, 37) for angle in (15, 30)]
    return chart(every, on, parse_stock(stock))


def test_a_cell_of_the_chart_says_what_else_there_is() -> None:
    result = cells(drive(), "24 26 28 30 32 34 36 38 40 42 44 46 48 52 56 60 64 72")
    for cell in result:
        note = chart_words.note(cell, Units.MM)
        assert ("which is not held" in note) == (cell.new is not None)
        row = chart_words.csv_row(cell, drive(), Units.MM)
        assert len(row) == len(chart_words.csv_head(Units.MM))
    far = with_box(quadrant=replace(QUADRANT, first_shaft=(300.0, 400.0)))
    none = [cell for cell in cells(far, "24 30 36 48 60 72") if cell.candidate is None]
    notes = {chart_words.note(cell, Units.MM) for cell in none}
    assert notes <= {"a close train is held, but none fits", "no train comes near"}
    empty = none[0]
    assert empty.standing in (Standing.NO_ROOM, Standing.OUT_OF_REACH)
    assert chart_words.csv_row(empty, far, Units.INCH)[-3:] == ["", "", ""]
    assert chart_words.cell_text(empty, far) == ""


def test_advice_names_so_many_leads_and_no_more() -> None:
    every = [ask_of(f"helix {teeth} m2 30° left") for teeth in range(20, 32)]
    assert chart_words.brings(34, every[:2]) == "A 34 brings 20 at 30° and 21 at 30°."
    assert chart_words.brings(34, every).endswith("29 at 30° and 2 more.")
    assert chart_words.advice_head(0, 12) == "Every one of them has a good train."
    assert chart_words.advice_head(1, 12) == "1 lead of 12 without a good train."


def test_a_crank_reading_names_the_nearest_hole() -> None:
    assert check_words.crank_text(Fraction(199, 10), [19, 49]) == "19.9 turns: 19 turns and 44 holes on the 49"
    assert check_words.crank_text(Fraction(5, 2), []) == "2.5 turns"
