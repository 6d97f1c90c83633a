"""What is said at the machine while teeth are cut: moves, where things stand, which tooth it is, the last gap."""

from dataclasses import replace
from fractions import Fraction
from itertools import pairwise

import pytest

from valleywind.core.dividing.heads import TypedHead, read_head
from valleywind.core.dividing.plan import WayKind, ways
from valleywind.core.making.devices import Came, Hello, On, Reading, RunOutReading, Sort
from valleywind.core.making.last_gap import DivisionDone, GapExplanation, Slip, Spaces, Unit
from valleywind.core.making.lost import WhichTooth
from valleywind.core.making.places import By, Places, on_a_disc, on_a_wheel, places
from valleywind.core.making.session import Cut, EventKind, State, Work
from valleywind.wording.making import devices, session
from valleywind.wording.numbers import Units

HEAD = read_head(
    TypedHead(ratio="40:1", plates="15 16 17 18 19 20 / 21 23 27 29 31 33 / 37 39 41 43 47 49", direct="24", reads="1'")
)
FIRST = Cut(0, 0)


def of(kind: WayKind, divisions: int) -> Places:
    """Places by the first such way there is on a head of 40 : 1."""
    way = next(w for w in ways(HEAD, divisions) if w.kind is kind)
    return places(way.settings[0], HEAD.ratio, divisions)


def moves(result: Places, *teeth: int) -> list[tuple[str, str]]:
    """What is said from each of these teeth to the next."""
    return [session.move(result, a, Cut(b, 0)) for a, b in pairwise(teeth)]


def test_a_crank_is_turned_by_turns_and_spaces() -> None:
    """38 on 40 : 1 is 1 1/19 turns, 6 teeth are 6 2/3 turns, 40 one whole turn."""
    result = of(WayKind.SIMPLE, 38)
    assert session.move(result, None, FIRST) == ("start", "circle 19, hole 0")
    assert moves(result, 0, 1, 2) == [("1 turn 1 space", "circle 19, hole 1"), ("1 turn 1 space", "circle 19, hole 2")]
    # The last gap leads to the first hole again, by the same move.
    assert moves(result, 37, 0) == [("1 turn 1 space", "circle 19, hole 0")]
    six = of(WayKind.SIMPLE, 6)
    turned, at = moves(six, 0, 1)[0]
    assert turned == f"6 turns {six.circle * 2 // 3} spaces"
    assert at == f"circle {six.circle}, hole {six.circle * 2 // 3}"
    assert moves(of(WayKind.SIMPLE, 40), 0, 1)[0][0] == "1 turn"


def test_the_same_gap_and_a_jump_are_no_move() -> None:
    result = of(WayKind.SIMPLE, 38)
    assert moves(result, 3, 3) == [("same gap", "circle 19, hole 3")]
    assert moves(result, 3, 22) == [("go to", "circle 19, hole 3")]


def test_crank_and_plate_are_turned_one_after_the_other() -> None:
    result = of(WayKind.COMPOUND, 77)
    assert result.by is By.CRANK_AND_PLATE
    first = result.each[1]
    move, at = moves(result, 0, 1)[0]
    way = "back" if first.plate < 0 else "on"
    assert move.endswith(f"then plate {abs(first.plate)} spaces {way}")
    assert at == f"circle {result.circle}, hole {first.hole}; lock pin in the {result.lock}"
    # Together they are 40/77 of a turn.
    crank = first.turns + Fraction(first.spaces, result.circle) + Fraction(first.plate, result.lock)
    assert crank == Fraction(40, 77)


def test_holes_flats_degrees_gaps_and_marks() -> None:
    spindle = of(WayKind.DIRECT, 8)
    assert moves(spindle, 0, 1, 2) == [("3 holes on", "hole 3 of 24 on the spindle"),
                                       ("3 holes on", "hole 6 of 24 on the spindle")]  # fmt: skip
    assert moves(spindle, 7, 0) == [("3 holes on", "hole 0 of 24 on the spindle")]
    one = of(WayKind.DIRECT, 24)
    assert moves(one, 0, 1)[0][0] == "1 hole on"
    block = replace(read_head(TypedHead(direct="4 6")), flats=True)
    assert moves(places(ways(block, 6)[0].settings[0], None, 6), 0, 1) == [("1 flat on", "flat 2 of 6 up")]
    read = of(WayKind.DEGREES, 7)
    # 360/7 = 51° 25.7′, read to the minute.
    assert moves(read, 0, 1) == [("on to", "51° 26′ on the scale")]
    assert moves(on_a_wheel(40, 20), 0, 1) == [("on to", "gap 3 of the 40")]
    assert moves(on_a_disc(57), 0, 1) == [("on to", "mark 2")]


def test_degrees_have_seconds_only_where_they_are_needed() -> None:
    assert session.degrees(Fraction(63) + Fraction(9, 60)) == "63° 09′"
    assert session.degrees(Fraction(360, 57)) == "6° 18′ 56.8″"
    assert session.degrees(Fraction(0)) == "0° 00′"


@pytest.mark.parametrize(
    ("teeth", "recorded", "says"),
    [
        ((), 3, "No tooth stands in that hole: look at the circle, and at the hole again."),
        ((22,), 22, "This is tooth 23."),
        ((22,), 24, "This is tooth 23. The record says tooth 25."),
        ((22,), None, "This is tooth 23."),
        ((22, 23), 23, "It is tooth 23 or 24. By the record it is 24. Is the gap under the cutter cut already? "
                       "Then it is the lower one, done; else the next."),
        ((3, 22, 41), 5, "It is tooth 4, 23 or 42. Count the gaps that are cut."),
        (tuple(range(0, 57, 8)), 8, "It may be any of 8 teeth. By the record it is 9. Count the gaps that are cut."),
    ],
)  # fmt: skip
def test_which_tooth_it_is(teeth: tuple[int, ...], recorded: int | None, says: str) -> None:
    assert session.lost(WhichTooth(teeth, len(teeth) == 1), recorded) == says


def test_gaps_that_contradict_the_hole_are_told() -> None:
    text = session.lost(WhichTooth((3, 22), False, True), 22)
    assert text.startswith("By the hole it is tooth 4 or 23, but the gaps say another: one of the two is wrong.")


def test_the_last_gap() -> None:
    of = DivisionDone(57, 120.0)
    assert session.last_gap(-12, 20, of, [], Units.MM) == "Right: within the 20 µm that the reading may be off."
    assert session.last_gap(180, 20, of, [], Units.MM) == (
        "The last tooth is 180 µm too thick. No single slip explains it: measure again, or look for two."
    )
    spaces = Spaces(Unit.SPACE, Fraction(1, 1140), 19, 20)
    thin = [GapExplanation(Slip.OTHER_CIRCLE, -90, spaces, 18), GapExplanation(Slip.LEFT_OUT, -60)]
    assert session.last_gap(-85, 20, of, thin, Units.MM) == "The last tooth is 85 µm too thin. It comes of:"
    text = session.slip(thin[0], Units.MM)
    assert text.startswith("The pin in the 18 in place of the 19 (thin by 90 µm).")
    for slip in Slip:
        sentence = session.slip(GapExplanation(slip, 40, spaces, 17), Units.INCH)
        assert "(thick by 1.6 thou)" in sentence
        assert sentence[0].isupper()
        assert sentence.endswith(".")


def test_everything_that_is_recorded_has_its_sentence() -> None:
    about = {"reason": "tea", "count": 57}
    by_kind = {kind: session.happened(kind, about, Cut(22, 1), 3) for kind in EventKind}
    assert by_kind[EventKind.DONE] == "Cut: tooth 23, pass 2 of 3."
    assert by_kind[EventKind.JUMP] == "Jumped to tooth 23, pass 2 of 3: tea."
    assert by_kind[EventKind.COUNTED] == "Marks counted: 57."
    assert by_kind[EventKind.PAUSE] == "Paused: tea."
    assert len(set(by_kind.values())) == len(EventKind)
    assert session.happened(EventKind.BACK, {}, Cut(0, -1), 3) == "Back to tooth 1, marks."


def test_how_a_session_stands() -> None:
    work = Work(57, 2, marks=True)
    assert session.status(State(0), work) == ""
    assert session.status(State(57), work) == "Count the marks: there must be 57. Nothing is cut deep yet."
    assert session.status(replace(State(10), paused="lunch"), work) == "Paused: lunch."
    assert session.status(State(3 * 57, counted=True), work) == (
        "Every gap is cut. Compare the last gap with its neighbours."
    )


@pytest.mark.parametrize(
    ("seconds", "says"),
    [(40, "40 s"), (89, "89 s"), (90, "2 min"), (14 * 60, "14 min"), (99 * 60, "99 min"), (130 * 60, "2 h 10 min")],
)
def test_times(seconds: float, says: str) -> None:
    assert session.time_text(seconds) == says


def test_depths_of_passes() -> None:
    assert session.pass_text(Cut(3, -1), [2.0, 4.11], 0.0, Units.MM) == "marks only, just touch"
    assert session.pass_text(Cut(3, 1), [2.0, 4.11], 0.0, Units.MM) == "pass 2 of 2, 4.11 mm deep"
    deeper = session.pass_text(Cut(3, 1), [2.0, 4.11], 0.2, Units.MM)
    assert deeper == "pass 2 of 2, 4.31 mm deep, 0.20 mm more than planned"
    assert session.pass_text(Cut(3, 0), [2.0, 4.11], 0.2, Units.MM) == "pass 1 of 2, 2.00 mm deep"
    assert "in deep" in session.pass_text(Cut(3, 0), [2.0, 4.11], 0.0, Units.INCH)


def test_what_a_device_means() -> None:
    crank, table, camera = (
        Hello(Sort.ENCODER, "crank"),
        Hello(Sort.ENCODER, "table", On.WORK),
        Hello(Sort.CAMERA, "eye"),
    )
    assert devices.came(crank, Came.ARRIVED) == "Arrived."
    assert devices.came(crank, Came.PAST).startswith("Past the hole: back a full turn")
    assert devices.came(table, Came.PAST).startswith("Past the place:")
    assert devices.came(camera, Came.PAST).startswith("Past the mark:")
    assert "nothing goes on by it" in devices.came(crank, Came.LOST)
    examples: dict[Sort, tuple[Reading, str]] = {
        Sort.ENCODER: (4.2114, "4.211 turns"), Sort.CAMERA: (3, "mark 3.0"), Sort.INDICATOR: (-0.021, "−0.021 mm"),
        Sort.PEDAL: (True, "down"), Sort.CALIPER: ("20.6", "20.6"),
    }  # fmt: skip
    for sort, (reading, says) in examples.items():
        assert devices.reading(Hello(sort, "it"), reading, Units.MM) == says
        assert devices.reading(Hello(sort, "it"), None, Units.MM) == ""
    assert devices.reading(Hello(Sort.PEDAL, "it"), False, Units.MM) == "up"


def test_an_indicator_once_round() -> None:
    off = devices.once_round(RunOutReading(total=0.08, offset=0.03, high=112.4, rest=0.01), Units.MM)
    assert off.endswith("Tap it at 112°, by 0.030 mm.")
    # What is out of round more than off the middle is not put right by tapping.
    assert "Tap" not in devices.once_round(RunOutReading(total=0.08, offset=0.01, high=112.4, rest=0.03), Units.MM)


def test_how_a_device_is_connected() -> None:
    assert devices.connect_hint(None).endswith("valleywind serve --devices 8341")
    assert "port 8350" in devices.connect_hint(8350)
