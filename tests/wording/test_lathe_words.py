"""What the Lathe station says: of the ask, of what the error does to nut, worm, slide or feed, of hand and room."""

from dataclasses import replace
from fractions import Fraction

import pytest

from tests.lathes import curlew, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.plan import Candidate, plan
from valleywind.core.lathe.thread import Ask, FeedAsk
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY
from valleywind.core.trains.direction import Hand, HandAdvice, Sense
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import parse_stock, parse_train
from valleywind.core.trains.quadrant import CentreDistances, UnmeasuredQuadrant
from valleywind.wording.lathe import answers
from valleywind.wording.numbers import Units
from valleywind.wording.trains import LATHE_SHAFTS, obstacle, thumb_rule

PLOVER, STOCK = plover()


def ask_of(line: str) -> Ask:
    ask = read(line).ask
    assert ask is not None
    return ask


def best(line: str) -> Candidate:
    return plan(ask_of(line), PLOVER, STOCK).candidates[0]


@pytest.mark.parametrize(
    ("line", "metric", "inch"),
    [
        ("M14x2", "2 mm lead, right-hand, 60°", "0.07874 in lead, right-hand, 60°"),
        ("26 tpi left", "26 tpi, left-hand, 60°", "26 tpi, left-hand, 60°"),
        ("0.05 in", "0.05 in lead, right-hand, 60°", "0.05 in lead, right-hand, 60°"),
        ("M16xPh3P1.5", "2 starts, pitch 1.5 mm, lead 3 mm, right-hand, 60°",
         "2 starts, pitch 0.05906 in, lead 0.11811 in, right-hand, 60°"),
        ("module 1.5 worm", "module 1.5 worm, 4.7124 mm lead, right-hand, 20° pressure angle",
         "module 1.5 worm, 0.18553 in lead, right-hand, 20° pressure angle"),
        ("feed 0.004 in across", "0.004 in per turn, across the bed", "0.004 in per turn, across the bed"),
        ("feed 0.1 left", "0.1 mm per turn, along the bed, away from the headstock",
         "0.00394 in per turn, along the bed, away from the headstock"),
        ("2 mm slide over 300 mm", "2 mm lead, right-hand, 60°, for a slide",
         "0.07874 in lead, right-hand, 60°, for a slide"),
    ],
)  # fmt: skip
def test_an_ask_is_said_back_whole(line: str, metric: str, inch: str) -> None:
    ask = ask_of(line)
    assert (answers.description(ask, Units.MM), answers.description(ask, Units.INCH)) == (metric, inch)


def test_a_completion_calls_nothing_a_lead_that_is_a_pitch() -> None:
    assert answers.completion(ask_of("M14x1.5"), Units.MM) == "1.5 mm pitch, 14 mm across, 60°"
    assert answers.completion(ask_of("2 mm"), Units.MM) == "2 mm lead, 60°"
    assert answers.completion(ask_of("1/2-20 UNF"), Units.MM) == "20 tpi, 12.7 mm across, 60°"
    assert answers.completion(ask_of("1/8 in lead 2 starts"), Units.INCH) == (
        "2 starts, pitch 1/16 in, lead 0.125 in, 60°"
    )
    assert answers.completion(ask_of("M16xPh3P1.5"), Units.MM) == "2 starts, pitch 1.5 mm, lead 3 mm, 16 mm across, 60°"


@pytest.mark.parametrize(
    ("line", "sentences"),
    [
        ("M14x2", ["Nut taken as 0.8 diameters long: 11.2 mm.", "Fit taken as class 6g."]),
        ("M14x2 over 40 mm", ["Fit taken as class 6g."]),
        ("M14x2 6h over 40 mm", []),
        ("2 mm within 0.1 %", []),
        ("feed 0.1", ["For a feed, 3 % off counts as asked and 10 % as about."]),
        ("feed 0.1 within 5 %", []),
        ("module 1.5 worm", ["Length in contact taken as with a wheel of 40 teeth: 19.21 mm."]),
    ],
)
def test_what_nobody_said_is_told_and_what_was_said_is_not(line: str, sentences: list[str]) -> None:
    assert answers.assumptions(ask_of(line), Units.MM) == sentences


@pytest.mark.parametrize(
    ("line", "head", "bar", "longest"),
    [
        ("26 tpi", "Nut runs free", "Takes up **0 µm** of the clearance. A metric thread of this size has at least "
         "26 µm (dashed), and 82 µm when cut to the middle of tolerance.", "Goes over any length."),
        ("module 1.5 worm", "Worm runs free", "Takes up **1.1 µm**: the teeth share the load up to 22 µm (dashed), the "
         "backlash is 82 µm.", "Longest contact: 377 mm with the load shared, 1447 mm before it binds."),
        ("2 mm slide over 300 mm", "Not for a slide", "**16 µm** in all over 300 mm; a slide allows 10 µm.",
         "Good for a slide that moves up to 193 mm."),
        ("2 mm within 0.1 %", "Within what is allowed", "**0.0052 %** off; 0.1 % is allowed.", None),
        ("feed 0.1 in", "As asked", "**0 %** off: up to 3 % counts as asked (dashed), up to 10 % as about.", None),
        ("feed 0.1 in within 5 %", "As asked", "**0 %** off; 5 % is allowed.", None),
    ],
)  # fmt: skip
def test_what_becomes_of_the_error(line: str, head: str, bar: str, longest: str | None) -> None:
    verdict = best(line).verdict
    assert answers.verdict_head(verdict) == head
    assert answers.bar_text(verdict, Units.MM) == bar
    assert answers.longest_text(verdict, Units.MM) == longest


@pytest.mark.parametrize(
    ("advice", "says"),
    [
        (HandAdvice(False, None, None), "Turns the screw the wrong way for a left-hand thread: one idler more or less "
                                        "is needed."),
        (HandAdvice(True, None, None), "No lever to set: these meshes give the left hand."),
        (HandAdvice(True, True, Sense.CLOCKWISE), "Tumbler forward for a left-hand thread."),
        (HandAdvice(True, False, Sense.CLOCKWISE), "Tumbler reversed for a left-hand thread."),
        (HandAdvice(True, None, None, known=False), "Which hand it cuts is not on record. Turn by hand: for a "
                                                    "left-hand thread the carriage moves away from the headstock."),
    ],
)  # fmt: skip
def test_what_gives_the_hand(advice: HandAdvice, says: str) -> None:
    assert answers.hand_text(advice, Hand.LEFT) == says


def test_which_way_a_feed_goes() -> None:
    along = replace(ask_of("feed 0.1"), hand=Hand.LEFT)
    assert isinstance(along, FeedAsk)
    wrong = answers.direction_text(HandAdvice(False, None, None), along)
    assert wrong == "The carriage goes the wrong way, not away from the headstock: one idler more or less is needed."
    lever = answers.direction_text(HandAdvice(True, False, Sense.CLOCKWISE), along)
    assert lever == "Tumbler reversed: the carriage goes away from the headstock."
    across = ask_of("feed 0.004 in across")
    text = answers.direction_text(HandAdvice(True, None, None, known=False), across)
    assert text.startswith("Which way the apron feeds is not on record")


def test_an_idler_puts_a_wrong_hand_right_and_the_room_is_told() -> None:
    lathe, stock = curlew()
    for line in ("M6", "M6 left"):
        for one in plan(ask_of(line), lathe, stock).candidates:
            assert one.hand.right
            assert answers.one_idler_text(one, None, lathe.quadrant, Units.MM) is None
    with_one, without = parse_train("30/45/60*40/80"), parse_train("30/60*40/80")
    laid = {t: lay_out([t], lathe.family, lathe.quadrant)[0] for t in (with_one, without)}
    some = plan(ask_of("M6"), lathe, stock).candidates[0]
    wrong_hand = HandAdvice(False, None, None)
    wrong = replace(some, laid=laid[with_one], hand=wrong_hand)
    right = replace(some, laid=laid[without], hand=HandAdvice(True, None, None))
    text = answers.one_idler_text(wrong, right, lathe.quadrant, Units.MM)
    assert text is not None
    assert text.startswith("Without an idler the hand is right: ")
    back = replace(right, hand=wrong_hand), replace(wrong, hand=HandAdvice(True, None, None))
    text = answers.one_idler_text(*back, lathe.quadrant, Units.MM)
    assert text is not None
    assert text.startswith("With a 45 as idler between 30 and 60 the hand is right: ")


@pytest.mark.parametrize(
    ("train", "quadrant", "says"),
    [
        ("40/50", UnmeasuredQuadrant(),
         "needs an idler: it is not known whether the two wheels reach from spindle stud to screw"),
        ("20/90*40/50", UnmeasuredQuadrant(),
         "90T would run into the screw: the wheels between the two shafts have 90 teeth together, and more than 92 are "
         "needed"),
        ("20/65*40/50*30/60", UnmeasuredQuadrant(1), "needs 2 studs; the quadrant has 1"),
        ("50/50*70/110", UnmeasuredQuadrant(
            2, 70.0, (CentreDistances(42.5, 45.0), CentreDistances(45.0, 60.0)), (CentreDistances(30.0, 80.0),)
        ),
         "does not reach, by the trains on record that fit and that do not"),
    ],
)  # fmt: skip
def test_what_keeps_a_train_off_a_quadrant_that_is_not_measured(
    train: str, quadrant: UnmeasuredQuadrant, says: str
) -> None:
    one = parse_train(train)
    placed = lay_out([one], UNKNOWN_FAMILY, quadrant)[0].placement
    texts = [obstacle(o, one, placed, LATHE_SHAFTS, Units.MM) for o in placed.obstacles]
    assert says in texts


@pytest.mark.parametrize(
    ("train", "says"),
    [
        # 56 and 44 are 100 teeth together; a wheel of 48 has 2 more at its tips, so 50 are left.
        ("56/44*48/72", "By rule of thumb there is room: the 48 clears the spindle stud by 50 teeth; 13 are enough."),
        ("20/84*40/50", "Look first at the 84: it clears the screw by 4 teeth; by rule of thumb 13 are wanted. "
                        "It may run into what holds the wheel there."),
        ("20/87*40/50", "Look first at the 87: it clears the screw by 1 tooth; by rule of thumb 13 are wanted. "
                        "It may run into what holds the wheel there."),
    ],
)  # fmt: skip
def test_the_rule_of_thumb(train: str, says: str) -> None:
    one = parse_train(train)
    placed = lay_out([one], UNKNOWN_FAMILY, UnmeasuredQuadrant())[0].placement
    assert thumb_rule(one, placed, LATHE_SHAFTS) == says


def test_what_one_more_wheel_would_bring_is_what_it_brings() -> None:
    outcome = plan(ask_of("M14x2 within 12 ppm"), PLOVER, STOCK)
    text = answers.one_more_text(outcome, Units.MM)
    assert outcome.one_more is not None
    (new,) = outcome.one_more.lacking
    assert text is not None
    assert text.startswith(f"With a {new}: ")
    held = plan(ask_of("M14x2 within 12 ppm"), PLOVER, parse_stock(" ".join(map(str, (*STOCK, new)))))
    assert min(abs(c.error) for c in held.candidates) == abs(outcome.one_more.error)
    assert Fraction(outcome.one_more.error) != 0


def test_a_taper_is_said_with_its_thread() -> None:
    ask = read("1/2 NPT").ask
    assert ask is not None
    assert answers.assumptions(ask, Units.MM)[0] == (
        "Tapered 1 in 16 on the diameter: use the taper attachment, or set the tailstock over. The pitch is along the "
        "axis. The error is judged as on a parallel thread."
    )
    straight = read("1/2 BSP").ask
    assert straight is not None
    assert not any("Tapered" in sentence for sentence in answers.assumptions(straight, Units.MM))
