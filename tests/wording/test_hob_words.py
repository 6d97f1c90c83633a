"""What the Hobber station says: of the ask, of what comes of the trains, of ways out, and of what is not known."""

from dataclasses import replace
from fractions import Fraction

import pytest

from tests.core.test_hob_plan import ask, hob
from tests.hobbers import CONSTANTS, FAMILY, REFERENCE_STOCK, avocet, quadrant, unmeasured
from valleywind.core.cutting.run_off import Mark, RunOff
from valleywind.core.hobbing.chart import CountStanding, Row, chart
from valleywind.core.hobbing.check import MeasuredBy, TableReading, check
from valleywind.core.hobbing.machine import Box, FeedWay, Hobber, IndexConstant
from valleywind.core.hobbing.plan import judged
from valleywind.core.hobbing.set_up import OnNow, SetUp, SetUpKind, read_trains
from valleywind.core.trains.direction import HandAdvice, Sense
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import parse_stock, parse_train
from valleywind.wording.hobbing import answers
from valleywind.wording.hobbing import chart as chart_words
from valleywind.wording.hobbing import check as check_words
from valleywind.wording.numbers import Units

FEW = "24 28 32 36 40 44 48 52 56 60 64 72 80"
OUT_OF_REACH = avocet(quadrant(300, 400))


def on_index(train: str, line: str, machine: Hobber = avocet()) -> SetUp:
    """A train on the index box judged for a wheel."""
    index = {Box.INDEX: parse_train(train)}
    return judged(ask(line), machine, REFERENCE_STOCK, OnNow(), index, CONSTANTS[0])


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("hob 37", "37 teeth, spur"),
        ("hob 24 m2 30° left face 20", "24 teeth, module 2, helix 30° left-hand, face 20 mm"),
        ("hob 60 12dp 2-start left hob mate 20 feed 0.5 mm",
         "60 teeth, 12 DP, spur, two-start left-hand hob, runs with 20 teeth, feed 0.5 mm per table turn"),
        ("hob 24 1/4cp 20° right", "24 teeth, 1/4 in circular pitch, helix 20° right-hand"),
    ],
)  # fmt: skip
def test_an_ask_is_said_back_whole(line: str, says: str) -> None:
    assert answers.description(ask(line), Units.MM) == says


def test_what_nobody_said_is_told_and_what_was_said_is_not() -> None:
    bare = answers.assumptions(ask("hob 37"), avocet(), Units.MM)
    assert bare == [
        "Feed: about 1 mm for one turn of the table.",
        "Hob: one start, right-hand.",
        "Run-off is told over 20 mm of face.",
    ]
    both_ways = replace(avocet(), feeds=(FeedWay.UP, FeedWay.DOWN))
    assert answers.assumptions(ask("hob 37"), both_ways, Units.MM)[-1] == "The hob feeds up."
    line = ask("hob 24 m2 20° 30° left face 20 2-start feed 1 mm")
    assert not any("Hob" in t or "Feed" in t or "Run-off" in t for t in answers.assumptions(line, avocet(), Units.MM))


def test_an_exact_spur_comes_out_and_one_that_does_not_close_says_what_it_divides_into() -> None:
    exact = hob("hob 37").set_ups[0]
    assert answers.head(exact) == "Exact"
    text = answers.verdict(exact, ask("hob 37"), Units.MM)
    assert text == "37 turns of the hob turn the table once, exactly: it comes out as 37."
    two = hob("hob 37 2-start")
    assert answers.verdict(two.set_ups[0], two.ask, Units.MM).startswith("18.5 turns of the hob")
    # 48/37 × 40/80 is for 37; asked for 38 it still divides into 37.
    wrong = on_index("48/37*40/80", "hob 38")
    assert answers.head(wrong) == "Does not close"
    assert answers.verdict(wrong, ask("hob 38"), Units.MM) == (
        "It divides into 37, not 38: the last tooth does not meet the first."
    )


def test_what_the_differential_does_for_a_count_without_train() -> None:
    result = hob("hob 107 m2 face 20")
    made_up = next(s for s in result.set_ups if s.kind is SetUpKind.MADE_UP)
    assert made_up.indexed is not None
    # More teeth than the wheels divide into: the work must turn less for each turn of the hob, and the other way round.
    does = "takes away" if made_up.indexed < 107 else "adds"
    text = answers.verdict(made_up, result.ask, Units.MM)
    alone = answers.indexed_text(made_up, result.ask)
    assert text.startswith(f"The wheels alone divide into {alone}; the differential {does}")
    assert text.endswith("without any run-off, whatever the feed comes to.")
    helical = hob("hob 107 m2 30° left face 20")
    made_up = next(s for s in helical.set_ups if s.kind is SetUpKind.MADE_UP)
    assert "the rest and the helix" in answers.verdict(made_up, helical.ask, Units.MM)


def test_without_a_differential_the_feed_wheels_must_stay() -> None:
    result = hob("hob 24 m2 30° left face 20", avocet(differential=None))
    text = answers.verdict(result.set_ups[0], result.ask, Units.MM)
    assert text.endswith("The index train counts on this feed: change none of the feed wheels.")
    pair = replace(result.ask, mate=30)
    assert "the pair tracks" in answers.run_off_text(RunOff(0.3, 4, True), pair, Units.MM)


@pytest.mark.parametrize(
    ("mark", "grade", "um", "says"),
    [
        (Mark.NONE, 0, 0.0, "No run-off"),
        (Mark.GOOD, 5, 6.0, "Good: grade 5"),
        (Mark.RUNS, 9, 16.0, "Runs: grade 9"),
        (Mark.COARSE, 10, 40.0, "Coarse: grade 10"),
        (Mark.NOT, None, 400.0, "Not good enough"),
    ],
)
def test_a_run_off_in_a_word(mark: Mark, grade: int | None, um: float, says: str) -> None:
    run_off = RunOff(um, grade, False)
    assert (run_off.mark, answers.run_off_head(run_off)) == (mark, says)


@pytest.mark.parametrize(
    ("line", "machine", "stock", "short", "ways"),
    [
        ("hob 107", avocet(), FEW[:29], "No index train of these wheels is exact for 107 (constant 48, reversing pair "
         "48/24). With these wheels the differential cannot make it up either.",
         ["With a 107, made or borrowed: 48/107 with 52 between is exact."]),
        ("hob 107", avocet(differential=None), FEW[:29], "No index train of these wheels is exact for 107 (constant "
         "48, reversing pair 48/24). Without a differential nothing else can make it up.",
         ["With a 107, made or borrowed: 48/107 with 52 between is exact."]),
        ("hob 37", OUT_OF_REACH, None, "An exact index train for 37 is held, but none fits. With these wheels the "
         "differential cannot make it up either.", []),
        ("hob 48", avocet(), "40x2 50 60", "No index train of these wheels is exact for 48 (constant 24, reversing "
         "pair 40/40). With these wheels the differential cannot make it up either.",
         ["With a 24, made or borrowed: 50/40 × 24/60 with 40 between is exact.",
          "With a three-start hob: 60/40 with 50 between is exact; each start cuts the same teeth each turn, so an "
          "error of the hob shows."]),
        ("hob 49", avocet(), "40x2 49 50 60", "No index train of these wheels is exact for 49 (constant 24, reversing "
         "pair 40/40). With these wheels the differential cannot make it up either.",
         ["With a 20, made or borrowed: 60/49 with 40 between × 20/50 is exact.",
          "With constant 48, reversing pair 48/24: 60/49 × 40/50 is exact.",
          "With a two-start hob: 60/49 × 40/50 is exact; all starts cut every tooth in turn."]),
    ],
)  # fmt: skip
def test_why_there_is_none_and_what_would_bring_one(
    line: str, machine: Hobber, stock: str | None, short: str, ways: list[str]
) -> None:
    result = hob(line, machine, stock)
    assert answers.shortfall(result) == short
    assert [text for text, _ in answers.ways_out(result)] == ways
    # What is promised is true: the set-up beside it is exact.
    for _, set_up in answers.ways_out(result):
        assert answers.head(set_up) == "Exact"


def test_where_the_differential_makes_it_up_that_is_said() -> None:
    result = hob("hob 43", avocet(), FEW)
    assert (answers.shortfall(result) or "").endswith("The differential makes it up.")
    assert answers.shortfall(hob("hob 37")) is None


def test_why_a_set_up_cannot_be() -> None:
    unfit = hob("hob 37", OUT_OF_REACH).unfit
    assert unfit is not None
    assert answers.reasons(unfit, Units.MM)[0].startswith("index box: the wheels are ")
    trains, constant = read_trains("48/37*40/80@24", avocet())
    lacking = judged(ask("hob 37"), avocet(), parse_stock("48 40 80"), OnNow(), trains, constant)
    assert answers.reasons(lacking, Units.MM) == ["needs a 37, which is not held"]
    no_lever = Gearbox(FAMILY, quadrant(70, 175), drive=avocet().boxes[Box.INDEX].drive, most_stages=2)
    assert no_lever.drive is not None
    one_way = replace(no_lever, drive=replace(no_lever.drive, reverse_lever=False))
    machine = avocet(boxes=dict(avocet().boxes) | {Box.INDEX: one_way})
    both = on_index("24/50/37", "hob 37", machine), on_index("24/50/38/37", "hob 37", machine)
    turns = "index box: turns the wrong way, one idler more or less is needed"
    assert [turns in answers.reasons(one, Units.MM) for one in both] == [False, True]


@pytest.mark.parametrize(
    ("advice", "says"),
    [
        (HandAdvice(True, None, None, False),
         "which way it turns is not on record. Turn it by hand and see that"),
        (HandAdvice(False, None, None, True),
         "turns the wrong way. One idler more or less is needed, so that"),
        (HandAdvice(True, None, None, True), "with these meshes"),
        (HandAdvice(True, True, None, True), "reversing lever as usual:"),
        (HandAdvice(True, False, None, True), "reversing lever reversed:"),
    ],
)  # fmt: skip
def test_what_makes_a_box_turn_the_right_way(advice: HandAdvice, says: str) -> None:
    by_box = {b: answers.direction(b, advice, ask("hob 24 m2 30° left"), avocet(), FeedWay.UP) for b in Box}
    assert all(says in text for text in by_box.values())
    assert by_box[Box.INDEX].endswith("the table turns anticlockwise from above, as a right-hand hob needs it.")
    assert by_box[Box.FEED].endswith("the hob feeds up.")
    assert by_box[Box.DIFFERENTIAL].endswith("the differential turns the work as a left-hand wheel needs it.")
    # A left-hand hob wants the table the other way; what is not on record is not said.
    left = answers.direction(Box.INDEX, advice, ask("hob 37 left hob"), avocet(), FeedWay.DOWN)
    assert left.endswith("the table turns clockwise from above, as a left-hand hob needs it.")
    unknown = answers.direction(Box.INDEX, advice, ask("hob 37"), avocet(table=None), FeedWay.DOWN)
    assert unknown.endswith("the table turns, as a right-hand hob needs it.")


def test_what_is_not_known_is_said() -> None:
    assert answers.not_known(avocet(), list(Box)) == []
    assert answers.not_known(unmeasured(), [Box.INDEX, Box.FEED]) == [
        "Room is not checked in the index and feed boxes.",
        "Which way the index and feed boxes turn is not on record.",
    ]
    bare = Hobber((IndexConstant(Fraction(24)),), None, boxes=unmeasured().boxes)
    assert answers.not_known(bare, [Box.INDEX]) == [
        "Room is not checked in the index box.",
        "Which way the index box turns is not on record.",
        "Which way the table turns is not on record.",
        "The feed constant is not on record, so no feed train is planned.",
    ]


def rows(machine: Hobber, counts: range) -> dict[int, Row]:
    return {row.teeth: row for row in chart(machine, parse_stock(FEW), counts, 1)}


def test_a_line_of_the_chart_says_what_else_there_is() -> None:
    with_it = rows(avocet(), range(40, 60))
    assert chart_words.note(with_it[40], Units.MM) == ""
    assert with_it[43].way is not None
    indexed = f"indexed as {float(with_it[43].way.indexed):.4f}; differential "
    assert chart_words.note(with_it[43], Units.MM).startswith(indexed)
    made_up = [chart_words.note(r, Units.MM) for r in with_it.values() if r.standing is CountStanding.MADE_UP]
    assert {note.rsplit("; ", 1)[-1] for note in made_up} == {"no run-off", "with run-off"}
    without = rows(avocet(differential=None), range(40, 60))
    assert chart_words.note(without[43], Units.MM) == "with a 43, which is not held"
    no_room = rows(OUT_OF_REACH, range(48, 49))[48]
    assert chart_words.note(no_room, Units.MM) == "an exact train is held, but none fits"


def test_advice_names_so_many_counts_and_no_more() -> None:
    assert chart_words.brings(43, [43, 86, 129]) == "A 43 brings 43, 86 and 129."
    assert chart_words.brings(43, list(range(1, 20))).endswith("15, 16 and 3 more.")
    assert chart_words.advice_head(0) == "Every count has an exact index train."
    assert chart_words.advice_head(1) == "1 count without an exact index train."


def test_the_check_in_words() -> None:
    train = parse_train("48/37*40/80")

    def said(value: Fraction | int, by: MeasuredBy = MeasuredBy.ANGLE, off: Fraction = Fraction(1, 2)) -> str:
        read = TableReading(by, Fraction(value), off, 9)
        result = check(read, train, CONSTANTS[0], ask("hob 37"), avocet(), REFERENCE_STOCK)
        return check_words.answer(result, read, 3)

    assert said(Fraction(876, 10)) == "Yes: 87.6° agrees with 87.57° within the 0.5° that the reading may be off."
    assert said(37, MeasuredBy.MARKS) == "Yes: 37 marks agrees with 37."
    assert said(Fraction(111)).startswith("No: 111° is not 87.57°. ")
    # Nothing near makes this of it.
    assert said(Fraction(8757, 100) * Fraction(177, 1000), off=Fraction(1, 1000)) in {
        "No: 15.5° is not 87.57°, and no single slip explains it. Turn further and read again.",
    }


def test_the_senses_of_a_table_are_both_named() -> None:
    machine = avocet(table=Sense.CLOCKWISE)
    text = answers.direction(Box.INDEX, HandAdvice(True, None, None), ask("hob 37"), machine, FeedWay.DOWN)
    assert "clockwise from above" in text
    assert "anticlockwise" not in text
