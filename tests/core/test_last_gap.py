"""What a last gap tells: single slips planted in every way of dividing, and the figures worked out apart."""

import math
import random
from collections.abc import Iterator
from fractions import Fraction
from typing import Any

import pytest

from tests.reference import cases
from valleywind.core.dividing.heads import TypedHead, read_head
from valleywind.core.dividing.plan import Setting, ways
from valleywind.core.dividing.ways import Compound, Degrees, Differential, Nearest, Simple, rounded
from valleywind.core.making.last_gap import DivisionDone, Slip, Spaces, Unit, divided, explained, slips
from valleywind.core.making.places import on_a_disc, on_a_wheel, places
from valleywind.wording.making import session as session_words
from valleywind.wording.numbers import Units

GAPS = [c for c in cases("making") if "last_gap_um" in c]


def by_worm(
    ratio: Fraction, circle: int, spaces: int, divisions: int, across: float, others: tuple[int, ...] = ()
) -> DivisionDone:
    turn = 1 / (ratio * circle)
    return DivisionDone(divisions, across, (Spaces(Unit.SPACE, turn, circle, spaces, ratio),), others)


@pytest.mark.parametrize("case", GAPS)
def test_the_last_gap_is_met_and_explained(case: dict[str, Any]) -> None:
    of = by_worm(Fraction(case["head"]), case["circle"], case["spaces"], case["divisions"], case["pitch_diameter"])
    gaps = {s.slip.value: s.gap for s in slips(of)}
    for name, gap in case["last_gap_um"].items():
        assert gaps[name] == pytest.approx(gap, abs=5e-4)
        assert explained(gap + 3, 20, of)[0].slip.value == name
    assert explained(4, 20, of) == ()


def test_the_wrong_circle_is_told() -> None:
    of = by_worm(Fraction(40), 20, 16, 50, 50.0, (15, 17, 19, 20, 21))
    wrong = next(s for s in slips(of) if s.circle == 21)
    # 16 holes of 21 in place of 16 of 20, 49 times.
    turned = 49 * (Fraction(16, 20) - Fraction(16, 21)) / 40
    assert wrong.gap == pytest.approx(float(turned) * math.pi * 50 * 1000)
    assert explained(wrong.gap, 5, of)[0].slip is Slip.OTHER_CIRCLE


@pytest.mark.parametrize("case", cases("last_gap"), ids=lambda c: f"{c['teeth']} as {c['indexed_as']}")
def test_a_space_counts_for_more_where_gears_turn_the_plate(case: dict[str, Any]) -> None:
    ratio, circle, teeth = Fraction(case["ratio"]), case["circle"], case["teeth"]
    per_move = ratio * circle / case["indexed_as"]
    assert per_move.denominator == 1
    turns, holes = divmod(int(per_move), circle)
    gear = ratio * (case["indexed_as"] - teeth) / case["indexed_as"]
    setting = Differential(case["indexed_as"], gear, (Simple(circle, turns, holes),), ())
    of = divided(places(setting, ratio, teeth), (circle,), teeth * case["module"])
    once = next(s for s in slips(of) if s.slip is Slip.SHORT_ONCE)
    assert once.gap == pytest.approx(case["one_space_um_on_pitch_circle"], abs=1e-6)
    assert float(gear) == pytest.approx(case["gear_ratio"])


# Heads of the kinds there are: a worm with its plates, geared, a plate on the spindle, a scale.
_WORM = read_head(TypedHead(
    ratio="40", plates="15 16 17 18 19 20 / 21 23 27 29 31 33 / 37 39 41 43 47 49", geared=True,
    gears="24x2 28 32 40 44 48 56 64 72 86 100",
))  # fmt: skip
_SCALE = read_head(TypedHead(reads="1°"))


def _settings(divisions: int) -> Iterator[tuple[Setting, Fraction | None]]:
    for head in (_WORM, _SCALE):
        for way in ways(head, divisions):
            yield way.settings[0], head.ratio


def _turned(setting: Setting, ratio: Fraction | None, divisions: int) -> list[dict[str, Fraction]]:
    """Turns of the work for each move from tooth to tooth and back to the first, and what one space of each kind is,
    from the motion of the head alone."""
    every = range(1, divisions + 1)
    if isinstance(setting, Differential):
        simple = setting.simple[-1]
        assert ratio is not None
        # One turn of the work: the crank as against the plate makes R turns less those that the plate makes.
        through = ratio - setting.gear_ratio
        return [{"move": simple.crank / through, "space": 1 / (through * simple.circle)} for _ in every]
    if isinstance(setting, Simple):
        assert ratio is not None
        return [{"move": setting.crank / ratio, "space": 1 / (ratio * setting.circle)} for _ in every]
    if isinstance(setting, Compound):
        assert ratio is not None
        return [{"move": setting.crank / ratio, "space": 1 / (ratio * setting.circle_1)} for _ in every]
    if isinstance(setting, Nearest):
        assert ratio is not None
        step = ratio * setting.circle / divisions
        at = [rounded(step, n) for n in range(divisions + 1)]
        space = 1 / (ratio * setting.circle)
        return [{"move": (at[n] - at[n - 1]) * space, "space": space} for n in every]
    if isinstance(setting, Degrees):
        step = Fraction(360, divisions) / setting.reads
        at = [rounded(step, n) for n in range(divisions + 1)]
        return [{"move": (at[n] - at[n - 1]) * setting.reads / 360, "space": setting.reads / 360} for n in every]
    return [{"move": Fraction(1, divisions), "space": Fraction(1, setting.holes)} for _ in every]


def _last(moves: list[Fraction]) -> Fraction:
    """The last space of the rim against the two beside it, where the work was turned so from tooth to tooth."""
    closing = 1 - sum(moves)
    return closing - (moves[0] + moves[-1]) / 2


_PLANTED = {
    Slip.SHORT_ONCE: -1, Slip.FAR_ONCE: 1, Slip.TWO_SHORT_ONCE: -2, Slip.TWO_FAR_ONCE: 2, Slip.SHORT_ALWAYS: -1,
    Slip.FAR_ALWAYS: 1,
}  # fmt: skip


def test_planted_slips_are_named_first_in_every_way_of_dividing() -> None:
    draw = random.Random(3)
    tried, first, kinds = 0, 0, set()
    for divisions in (24, 25, 37, 51, 57, 61, 63, 83, 96, 107, 113, 127):
        for setting, ratio in _settings(divisions):
            kinds.add(type(setting))
            moves = _turned(setting, ratio, divisions)[:-1]
            across = 2.0 * divisions
            of = divided(places(setting, ratio, divisions), _WORM.circles, across)
            for slip, spaces in _PLANTED.items():
                always = slip in (Slip.SHORT_ALWAYS, Slip.FAR_ALWAYS)
                where = range(len(moves)) if always else (draw.randrange(1, len(moves) - 1),)
                slipped = [m["move"] + (spaces * m["space"] if n in where else 0) for n, m in enumerate(moves)]
                read = float(_last(slipped)) * of.around + draw.gauss(0, 8)
                if sum(slipped) >= 1:
                    continue  # the rim is full before the last tooth: nothing is left to compare
                named = explained(read, 30, of)
                tried += 1
                first += bool(named) and named[0].slip is slip
    assert kinds == {Simple, Differential, Compound, Nearest, Degrees}
    assert tried > 150
    assert first >= 0.95 * tried


def test_a_last_gap_that_is_planned_to_differ_is_right() -> None:
    setting = next(s for s, _ in _settings(113) if isinstance(s, Nearest))
    of = divided(places(setting, Fraction(40), 113), _WORM.circles, 226.0)
    moves = [m["move"] for m in _turned(setting, Fraction(40), 113)[:-1]]
    assert of.planned_gap == pytest.approx(float(_last(moves)) * of.around)
    differ = DivisionDone(113, 226.0, of.spaces, (), Fraction(1, 4000))
    assert explained(differ.planned_gap + 5, 20, differ) == ()
    text = session_words.last_gap(differ.planned_gap + 5, 20, differ, [], Units.MM)
    assert text.startswith("By this way of dividing the last tooth is planned 177 µm thicker. Right")


def test_wheels_and_discs_count_gaps_and_marks() -> None:
    wheel = divided(on_a_wheel(114, 57), (), 114.0)
    assert [s.circle for s in wheel.spaces] == [114]
    disc = divided(on_a_disc(57), (), 114.0)
    pitch = math.pi * 114 * 1000 / 57
    assert [s.slip for s in explained(pitch - 10, 30, disc)] == [Slip.LEFT_OUT]
