"""A machine from its plate: what the lines give, which way they are read, which of them are wrong."""

import random
from collections.abc import Callable
from contextlib import suppress
from fractions import Fraction

import pytest

from valleywind.core.helix import plate as mill_plate
from valleywind.core.hobbing import plate as hobber_plate
from valleywind.core.lathe.plate import lathes_of, read_plate
from valleywind.core.plate.misreadings import MisreadPart
from valleywind.core.plate.plate import Agreement, OpenQuestion, Plate
from valleywind.core.plate.text import MOST_LINES, Trouble
from valleywind.core.refusal import Refusal

MM_PER_INCH = Fraction(254, 10)
TEN_TPI = """
20 tpi 30 60
10 tpi 60 60
16 tpi 30 48
8 tpi 60 48
24 tpi 20/60 60/48
"""


def wrong(plate: Plate) -> list[int]:
    return [line.line.number for line in plate.standing(Agreement.WRONG)]


def test_lines_give_the_constant_exactly_and_the_lathes_it_may_be() -> None:
    plate = read_plate(TEN_TPI)
    assert plate.constant == MM_PER_INCH / 10
    assert [(one.screw, one.first_ratio) for one in lathes_of(plate.constant)][:2] == [
        ("10 tpi", Fraction(1)), ("5 tpi", Fraction(1, 2)),
    ]  # fmt: skip
    assert all(line.standing is Agreement.AGREES for line in plate.lines)
    assert plate.wheels == {20: 1, 30: 1, 48: 1, 60: 2}
    assert plate.open == (OpenQuestion.DIVISIBLE,)


@pytest.mark.parametrize(
    ("text", "first_train"),
    [
        ("20 tpi 30 60\n10 tpi 60 60\n8 tpi 60 48", "30/60"),
        # From the screw upward.
        ("20 tpi 60 30\n10 tpi 60 60\n8 tpi 48 60", "30/60"),
        # Screw, stud, spindle; the heading says so.
        ("tpi screw stud spindle\n20 60 45 30\n10 60 45 60\n8 48 45 60", "30/45/60"),
        ("pitch spindle stud screw\n1 mm 20 80/40 60\n1.5 30 80/40 60\n2 40 80/40 60", "20/80*40/60"),
        # Drivers first, then the driven wheels.
        ("20 tpi 20 40 50 80\n10 tpi 40 60 75 80\n5 tpi 60 80 60 100", "20/50*40/80"),
        ("driver driven tpi\n30 60 20\n60 60 10\n60 48 8", "30/60"),
        ("20 tpi A30 B60\n10 tpi A60 B60\n8 tpi A=60 B=48", "30/60"),
        ("20 tpi;30;60\n10 tpi;60;60\n8 tpi;60;48", "30/60"),
        ("tpi,A,B,C,D\n20,30,,,60\n10,60,-,-,60\n8,60,,,48", "30/60"),
        ("20 threads per inch 30 free 60\n10 t.p.i. 60 free 60\n8 tpi 60 idler 50 48", "30/60"),
    ],
)
def test_columns_are_read_the_way_under_which_the_lines_agree(text: str, first_train: str) -> None:
    plate = read_plate(text)
    assert [line.standing for line in plate.lines] == [Agreement.AGREES] * len(plate.lines)
    assert plate.lines[0].train.notation == first_train


def test_four_wheels_drivers_first() -> None:
    # 20 × 40 drive 50 × 80; checked against a lathe of 4 tpi worked out by hand: 6.35 mm × 1/5 = 20 tpi.
    plate = read_plate("20 tpi 20 40 50 80\n10 tpi 40 40 50 80\n5 tpi 60 80 60 100\n8 tpi 60 40 60 80")
    assert plate.constant == MM_PER_INCH / 4
    assert wrong(plate) == []


def test_a_number_without_unit_is_read_as_pitches_go() -> None:
    assert read_plate("20 30 60\n10 60 60\n16 30 48").constant == MM_PER_INCH / 10
    plate = read_plate("1 20/80-40/60\n2 40/80-40/60\n1.25 25/80-40/60\n1,5 30/80-40/60")
    assert plate.constant == 6
    assert plate.reading.bare == "mm"
    assert read_plate("mm\n1 20/80 40/60\n2 40/80 40/60\ntpi\n12 40/80 80/120").lines[2].target.per == MM_PER_INCH / 12


def test_positions_of_levers_multiply() -> None:
    lines = [
        f"{tpi * times:g} tpi 32 64 {n} {name}"
        for name, times in (("A", 1), ("B", 2), ("C", 4))
        for n, tpi in zip(("I", "II", "III", "IV"), (8, 9, 11.5, 14), strict=True)
    ]
    plate = read_plate("\n".join(lines))
    assert plate.constant == MM_PER_INCH / 4
    assert plate.steps["II", "B"] == Fraction(8, 9) / 2
    # One line each: what a position gives alone would explain any figure; that they multiply finds the slip.
    lines[6] = lines[6].replace("32 64", "36 64")
    plate = read_plate("\n".join(lines))
    assert wrong(plate) == [7]
    change = plate.lines[6].changes[0]
    assert (change.changed, change.was, change.now) == (MisreadPart.WHEEL, "36", "32")


def test_a_position_of_its_own_line_alone_is_not_checked() -> None:
    plate = read_plate("8 tpi 40 40 A\n16 tpi 20 40 A\n10 tpi 32 40 A\n4 tpi 40 40 B")
    assert plate.lines[3].standing is Agreement.ALONE
    assert OpenQuestion.LONE_STEPS in plate.open
    assert plate.steps[("B",)] == 2


def test_metric_lines_of_an_inch_lathe_are_approximations() -> None:
    text = "8 tpi 40/40\n16 tpi 20/40\n20 tpi 20/50\n" + "\n".join(
        f"{mm} mm 63/80 {driver}/100" for mm, driver in (("1", 40), ("1.25", 50), ("1.5", 60), ("2", 80), ("1.75", 70))
    )
    plate = read_plate(text)
    # More lines agree on the rounded constant; the usual screw is believed all the same.
    assert plate.constant == MM_PER_INCH / 8
    rounded = plate.standing(Agreement.APPROXIMATE)
    assert [line.line.number for line in rounded] == [4, 5, 6, 7, 8]
    assert {float(line.error or 0) for line in rounded} == {0.000125}


def test_a_plate_of_approximations_alone_still_gives_a_usual_screw() -> None:
    text = "\n".join(
        f"{mm} mm {train}"
        for mm, train in (("0.5", "24/76 36/96"), ("1", "24/76 72/96"), ("1.25", "36/66 52/96"), ("2", "36/66 52/60"))
    )
    assert read_plate(text).constant == MM_PER_INCH / 6


_WHEELS = (20, 24, 30, 32, 36, 40, 45, 48, 50, 55, 56, 60, 65, 70, 75, 80, 90, 96, 100, 127)
_TPI = (8, 9, 10, 11, 12, 13, 14, 16, 18, 19, 20, 22, 24, 26, 28, 32, 36, 40)
_MM = ("0.5", "0.7", "0.75", "0.8", "1", "1.25", "1.5", "1.75", "2", "2.5", "3")


def _lines(draw: random.Random, constant: Fraction) -> list[tuple[str, list[int]]]:
    """Ten lines that are exact, found by trying wheels: no search of the program has a part in it."""
    result: dict[str, list[int]] = {}
    wanted = {MM_PER_INCH / t: f"{t} tpi" for t in _TPI} | {Fraction(m): f"{m} mm" for m in _MM}
    while len(result) < 10:
        four = draw.sample(_WHEELS, 4)
        for wheels in (four, four[:2]):
            lead = constant * Fraction(wheels[0], wheels[1]) * (Fraction(wheels[2], wheels[3]) if wheels[2:] else 1)
            if lead in wanted:
                result.setdefault(wanted[lead], wheels)
    return sorted(result.items())


def _typed(lines: list[tuple[str, list[int]]]) -> str:
    return "\n".join(
        f"{name} " + " ".join(f"{a}/{b}" for a, b in zip(wheels[::2], wheels[1::2], strict=True))
        for name, wheels in lines
    )


@pytest.mark.long
@pytest.mark.parametrize("seed", range(4))
def test_planted_misreadings_are_named(seed: int) -> None:
    draw = random.Random(seed)
    named = first = 0
    for _ in range(20):
        constant = draw.choice([MM_PER_INCH / 8, MM_PER_INCH / 4, Fraction(3), Fraction(3, 4)])
        lines = _lines(draw, constant)
        whole = read_plate(_typed(lines))
        assert whole.constant == constant
        assert not wrong(whole)
        n = draw.randrange(10)
        name, wheels = lines[n]
        if draw.random() < 0.5:
            figure, unit = name.split()
            series = [str(t) for t in (_TPI if unit == "tpi" else _MM) if str(t) != figure]
            lines[n] = (f"{draw.choice(series)} {unit}", wheels)
            right = name
        else:
            at = draw.randrange(len(wheels))
            right = str(wheels[at])
            other = draw.choice([t for t in range(18, 128) if t != wheels[at]])
            lines[n] = (name, [*wheels[:at], other, *wheels[at + 1 :]])
        plate = read_plate(_typed(lines))
        named += wrong(plate) == [n + 1] and plate.constant == constant
        changes = plate.lines[n].changes
        first += bool(changes) and changes[0].now == right
    assert named >= 19
    # What should stand there is a guess where two changes explain it; it is right far oftener than not.
    assert first >= 13


def test_exchanged_wheels_and_positions_are_named() -> None:
    plate = read_plate(TEN_TPI.replace("16 tpi 30 48", "16 tpi 48 30"))
    assert wrong(plate) == [4]
    assert (MisreadPart.EXCHANGED, "48", "30") in {(c.changed, c.was, c.now) for c in plate.lines[2].changes}
    text = "8 tpi 40 40 A\n16 tpi 20 40 A\n10 tpi 32 40 A\n4 tpi 40 40 B\n8 tpi 20 40 B\n5 tpi 32 40 A\n6 tpi 40 60 B"
    plate = read_plate(text)
    assert wrong(plate) == [6]
    assert (MisreadPart.STEP, "A", "B") in {(c.changed, c.was, c.now) for c in plate.lines[5].changes}


def test_what_a_wrong_line_should_have_is_among_the_wheels_supplied_only_where_it_is_clear() -> None:
    clear = read_plate(TEN_TPI + "12 tpi 50 61\n5 tpi 60 30\n40 tpi 30 48 20 50")
    assert 61 not in clear.wheels


def test_feeds_have_a_constant_of_their_own() -> None:
    plate = read_plate(
        "20 tpi 30 60\n10 tpi 60 60\n8 tpi 60 48\n0.1 mm feed 20/80 20/80\nfeed 0.2 20/80 40/80\n0.8 mm/rev 40/80"
    )
    assert plate.constants["along"] == Fraction(8, 5)
    assert wrong(plate) == []


def test_two_lines_begin_and_what_they_leave_open_is_said() -> None:
    plate = read_plate("20 tpi 30 60\n10 tpi 60 60")
    assert plate.constant == MM_PER_INCH / 10
    assert OpenQuestion.TWO_LINES in plate.open
    plate = read_plate("20 tpi 30 60\n10 tpi 60 65")
    assert plate.constant is None
    assert plate.open == (OpenQuestion.DISAGREE,)
    assert plate.lines[1].changes[0].now == "60"
    assert read_plate("20 tpi 30 60").constant is None
    # A bare number may be either; which way the wheels run then too.
    plate = read_plate("12 36 60\n10 60 60\n")
    assert OpenQuestion.OTHER_READING in plate.open or plate.constant is None


def test_lines_that_cannot_be_read_are_named_and_no_other_is_lost() -> None:
    plate = read_plate(
        "thread cutting\n# from the gear cover\n20 tpi 30 60\n10 tpi 60\n8 tpi 60 48\n12 tpi 4 60\n16 tpi 30 48"
    )
    assert [(u.number, u.trouble) for u in plate.unread] == [
        (1, Trouble.NO_TARGET), (4, Trouble.NO_WHEELS), (6, Trouble.NOT_A_WHEEL),
    ]  # fmt: skip
    assert [line.line.number for line in plate.lines] == [3, 5, 7]


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "empty"), ("hello", "no_plate_lines"), ("20 tpi 30 60\n" * (MOST_LINES + 1), "plate_too_long"),
        ("x" * 30_000, "plate_too_long"), ("tpi A B", "no_plate_lines"), ("9" * 5000, "no_plate_lines"),
    ],
)  # fmt: skip
def test_bad_plates_are_refused(text: str, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_plate(text)
    assert (refused.value.code, refused.value.field) == (code, "lines")


@pytest.mark.parametrize("read", [read_plate, hobber_plate.read_plate, mill_plate.read_plate])
def test_any_text_is_read_or_refused(read: Callable[[str], Plate]) -> None:
    draw = random.Random(5)
    pieces = ["20", "tpi", "30/60", "A", "1:2", "½", ",", ";", "\t", "mm", "feed", "x2", "diff", "0", "15°", "lead",
              "-", "\n", "idler", "free", "1/0", "127", "9999999", "#", "|", '"', "box",
              "driver", "z", "module"]  # fmt: skip
    for _ in range(300):
        text = " ".join(draw.choices(pieces, k=draw.randrange(1, 40)))
        with suppress(Refusal):
            read(text)


def test_a_hobbers_table_with_the_reversing_pair_changed() -> None:
    counts = (24, 30, 31, 37, 45, 50, 60, 65)
    lines = [f"{z}: 24/{z}" for z in counts] + ["97: 48/97", "100 48/100", "feed 0.5 mm 40/60", "feed 0.75 30/30"]
    lines += ["diff 2 15° 35/34", "differential module 2 30° 55/40 55/38"]
    plate = hobber_plate.read_plate("\n".join(lines))
    result = hobber_plate.constants_of(plate)
    assert result.index == ((Fraction(24), 0), (Fraction(48), 97))
    assert result.feed == Fraction(3, 4)
    assert result.differential is not None
    assert result.pi
    assert round(float(result.differential), 6) == 7.957747
    assert wrong(plate) == []
    lines[3] = "37: 24/39"
    assert wrong(hobber_plate.read_plate("\n".join(lines))) == [4]
    lines[3] = "37: 37/24"
    plate = hobber_plate.read_plate("\n".join(lines))
    assert wrong(plate) == [4]
    assert plate.lines[3].changes[0].changed is MisreadPart.EXCHANGED


def test_a_mills_table_with_worm_pairs() -> None:
    plate = mill_plate.read_plate(
        "lead 360 mm 48/48\n180 mm 48/24\n240 36/24\n90 1:2 48/24\n45 1:2 48/24 48/24\n180 1:2 24/24"
    )
    assert plate.constant == Fraction(1, 360)
    assert plate.steps[("1:2",)] == 2
    mill = mill_plate.mills_of(1 / plate.constant)[0]
    assert (mill.screw, mill.head) == ("6 mm", Fraction(60))
    # Leads of a table are rounded: 10.29 in for 40/28 × 72/10 and the like.
    inch = mill_plate.read_plate('10.29" 72/28 40/100\n20 in 40/20\n10 in 40/40\n15 in 60/40')
    assert 1 / (inch.constant or 1) == 10 * MM_PER_INCH


@pytest.mark.parametrize(
    ("line", "now"),
    [
        ("16 tpi 30 49", "16 tpi 30 48"),
        ("16 tpi 48/30", "16 tpi 30/48"),
        ("30 tpi 30 60", "30 tpi 20 60"),
        ("20 tpi 100/50", "20 tpi 50/100"),
    ],
)
def test_a_change_is_told_as_it_would_be_typed(line: str, now: str) -> None:
    changes = read_plate(TEN_TPI + line).lines[-1].changes
    assert now in {change.typed for change in changes}
    for change in changes[:3]:
        assert read_plate(TEN_TPI + change.typed).lines[-1].standing is Agreement.AGREES


def test_where_nothing_makes_a_line_exact_what_makes_it_an_approximation_is_told() -> None:
    metric = "8 tpi 40/40\n16 tpi 30/60\n20 tpi 30/75\n24 tpi 25/75\n1 mm 63/80 40/100\n1.25 mm 63/80 50/100\n"
    judged = read_plate(metric + "1.5 mm 63/80 65/100").lines[-1]
    assert judged.standing is Agreement.WRONG
    assert "1.5 mm 63/80 60/100" in {change.typed for change in judged.changes}
