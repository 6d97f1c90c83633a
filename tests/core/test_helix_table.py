"""What is set over and how far, what it needs, and everything seen from above."""

import math
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.mills import heron
from valleywind.core.dividing.heads import Head
from valleywind.core.helix.ask import read
from valleywind.core.helix.machine import Mill, PairsAt, Side, TypedMill, WormPair, read_mill
from valleywind.core.helix.table import CLEAR, CUTTER_WIDTH, How, Point, approach, needs, swing, view
from valleywind.core.making.mill_setting import setting_of
from valleywind.core.refusal import Refusal
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.quadrant_record import TypedQuadrant


@pytest.mark.parametrize(
    ("degrees", "table", "head", "how"),
    [
        (30, 45, None, How.TABLE), (45, 45, 90, How.TABLE), (50, 45, None, How.NEITHER), (50, 45, 60, How.HEAD),
        (30, 0, 45, How.HEAD), (30, 0, None, How.NEITHER), (30, None, None, How.UNKNOWN), (30, None, 45, How.HEAD),
        (70, 45, 60, How.NEITHER), (30, 0, 0, How.NEITHER),
    ],
)  # fmt: skip
def test_what_can_be_set_over(degrees: int, table: int | None, head: int | None, how: How) -> None:
    most = [None if one is None else Fraction(one) for one in (table, head)]
    result = swing(degrees, Hand.RIGHT, heron(swing=most[0], swivel=most[1]))
    assert result.how is how
    if how is How.NEITHER:
        assert result.most == max(table or 0, head or 0)


def slope(points: tuple[Point, ...]) -> float:
    """Of the middle of a line, degrees."""
    middle = len(points) // 2
    (x1, y1), (x2, y2) = points[middle - 1], points[middle + 1]
    return math.degrees(math.atan2(y2 - y1, x2 - x1)) % 180


@pytest.mark.parametrize("hand", list(Hand))
@pytest.mark.parametrize(("degrees", "mill"), [(30, heron()), (60, heron(swivel=Fraction(90)))])
def test_the_cutter_lies_along_the_teeth(hand: Hand, degrees: int, mill: Mill) -> None:
    """Tooth lines are helices of the work's lead; where they pass under the cutter they lie in its plane."""
    result = swing(degrees, hand, mill)
    seen = view(result, hand, mill, needs(result, mill, 40), 40, (55.0, 60.0), 60)
    (x1, y1), (x2, y2) = seen.cutter[0], seen.cutter[1]
    plane = math.degrees(math.atan2(y2 - y1, x2 - x1)) % 180
    through = min(seen.teeth, key=lambda line: min(math.hypot(*p) for p in line))
    off = abs(slope(through) - plane)
    assert min(off, 180 - off) < 1.5
    # With the other hand's swing it would stand across the teeth.
    wrong = view(swing(degrees, hand.other, mill), hand, mill, needs(result, mill, 40), 40, (55.0, 60.0), 60)
    crossed = abs(slope(min(wrong.teeth, key=lambda line: min(math.hypot(*p) for p in line)))
                  - math.degrees(math.atan2(wrong.cutter[1][1] - wrong.cutter[0][1],
                                            wrong.cutter[1][0] - wrong.cutter[0][0])) % 180)  # fmt: skip
    assert min(crossed, 180 - crossed) == pytest.approx(min(2 * degrees, 180 - 2 * degrees), abs=2)


def test_left_is_left() -> None:
    """Left-hand: the left-hand end of the table goes away from the operator; the head stands at its right-hand end."""
    result = swing(30, Hand.LEFT, heron())
    assert result.sense is Sense.CLOCKWISE
    seen = view(result, Hand.LEFT, heron(), needs(result, heron(), 40), 40, (55.0, 20.0), 60)
    left, right = min(seen.table), max(seen.table)
    assert left[1] > right[1]
    assert min(x for x, _ in seen.head) > 0
    other = view(result, Hand.LEFT, heron(head_at=Side.LEFT), needs(result, heron(), 40), 40, (55.0, 20.0), 60)
    assert max(x for x, _ in other.head) < 0


@given(st.integers(1, 45), st.integers(0, 200), st.sampled_from(Hand))
def test_no_corner_comes_near_the_column(degrees: int, move: int, hand: Hand) -> None:
    mill = heron()
    result = swing(degrees, hand, mill)
    need = needs(result, mill, move)
    assert need.away is not None
    assert need.arbor == need.away + CUTTER_WIDTH
    assert need.square is not None
    assert need.away >= need.square
    seen = view(result, hand, mill, need, move, (55.0, 20.0), 60)
    hindmost = max(y for corners in (seen.table, seen.begins, seen.ends) for _, y in corners)
    if need.column_clear:
        assert seen.column - hindmost >= CLEAR - 1e-9
        # No farther out than it must.
        assert seen.column == pytest.approx(max(140, hindmost + CLEAR))
    else:
        assert seen.fouls
        assert need.away > 420


@given(st.integers(1, 45), st.sampled_from(Hand), st.sampled_from(Side), st.floats(1, 80))
def test_head_and_tailstock_stand_clear_of_the_arbor(degrees: int, hand: Hand, side: Side, length: float) -> None:
    mill = heron(head_at=side)
    result = swing(degrees, hand, mill)
    seen = view(result, hand, mill, needs(result, mill, 40), 40, (55.0, length), 60)
    edges = [x for x, _ in seen.arbor]
    for block in (seen.head, seen.tail):
        xs = [x for x, _ in block]
        assert min(xs) > max(edges) or max(xs) < min(edges)


@pytest.mark.parametrize(("teeth", "lines"), [(24, 24), (6, 6), (1, 1)])
def test_as_many_tooth_lines_as_teeth(teeth: int, lines: int) -> None:
    """Along the axis they are a lead over the teeth apart; those seen from above are on the upper half."""
    result = swing(30, Hand.RIGHT, heron())
    seen = view(result, Hand.RIGHT, heron(), needs(result, heron(), 40), 40, (55.0, 60.0), 60, teeth)
    crossing = [line for line in seen.teeth if any(abs(a[1]) < 30 for a in line)]
    lead = math.pi * 55 / math.tan(math.radians(30))
    upper = (lead / 2 + 60) / (lead / lines)
    assert len(seen.teeth) == pytest.approx(upper, abs=1.01)
    assert crossing


def test_the_shortest_arbor_that_reaches() -> None:
    straight, swung = (needs(swing(angle, Hand.RIGHT, heron()), heron(), 40) for angle in (2, 30))
    assert (straight.chosen, swung.chosen) == (Fraction(250), Fraction(450))
    assert not swung.arbor_lacks
    short = heron(arbors=(Fraction(200),))
    assert needs(swing(30, Hand.RIGHT, short), short, 40).arbor_lacks
    unknown = heron(arbors=(), table=None, travel=None)
    result = needs(swing(30, Hand.RIGHT, unknown), unknown, 40)
    assert (result.arbor, result.arbor_lacks, result.column_clear, result.travels) == (None, False, None, None)


def test_the_travel_is_looked_at() -> None:
    assert needs(swing(30, Hand.RIGHT, heron()), heron(), 500).travels is True
    assert needs(swing(30, Hand.RIGHT, heron()), heron(), 501).travels is False


def test_the_approach_is_where_the_cutter_first_touches() -> None:
    """A cutter of 60 mm, 4.5 mm deep: a chord of half √(4.5 × 55.5)."""
    assert approach(60, 4.5, 0) == pytest.approx(math.sqrt(30**2 - 25.5**2))
    assert approach(60, 4.5, 60) == pytest.approx(approach(60, 4.5, 0) / 2)


class TestRecord:
    def test_read_as_typed(self) -> None:
        result = read_mill(
            TypedMill("4 tpi", "45°", "1:2, 10, 1:40 one way", "90", "before", "1000 x 250 mm", "500 mm",
                      "150 to 350 mm", "400, 200 mm", "left",
                      {"lead": TypedBox(TypedQuadrant(first_x="40", first_y="130"), "even", True)})
        )  # fmt: skip
        assert result.screw == Fraction("6.35")
        assert result.pairs == (WormPair(1, 2), WormPair(1, 10), WormPair(1, 40, one_way=True))
        assert [result.swing, result.swivel] == [45, 90]
        assert result.pairs_at is PairsAt.BEFORE
        assert [*(result.table or ()), result.travel, *(result.saddle or ())] == [1000, 250, 500, 150, 350]
        assert list(result.arbors) == [200, 400]
        assert result.head_at is Side.LEFT
        assert result.box is not None
        assert result.box.drive is not None

    def test_what_is_not_typed_is_not_known(self) -> None:
        assert read_mill(TypedMill(head_at=" ")).head_at is Side.RIGHT
        result = read_mill(TypedMill())
        assert (result.screw, result.swing, result.swivel, result.table, result.saddle, result.travel) == (None,) * 6
        assert (result.pairs, result.arbors, result.pairs_at) == ((), (), None)

    @pytest.mark.parametrize("inches", ["10 x 40 in", '10" x 40"', "10 in x 40 in"])
    def test_a_unit_behind_the_second_holds_for_both(self, inches: str) -> None:
        assert list(read_mill(TypedMill(table=inches)).table or ()) == [254, 1016]

    @pytest.mark.parametrize(
        ("typed", "field"),
        [
            (TypedMill(screw="0 mm"), "screw"), (TypedMill(swing="91"), "swing"), (TypedMill(swivel="-1"), "swivel"),
            (TypedMill(pairs="0:3"), "pairs"), (TypedMill(pairs="1:2 both"), "pairs"),
            (TypedMill(table="wide"), "table"),
            (TypedMill(saddle="350 to 150"), "saddle"), (TypedMill(saddle="350"), "saddle"),
            (TypedMill(travel="0"), "travel"), (TypedMill(arbors="long"), "arbors"),
            (TypedMill(pairs_at="under"), "pairs_at"), (TypedMill(head_at="top"), "head_at"),
            (TypedMill(boxes={"lead": TypedBox(turns="maybe")}), "lead.turns"),
            (TypedMill(boxes={"lead": TypedBox(TypedQuadrant(swing_low="x"))}), "lead.swing_low"),
        ],
    )  # fmt: skip
    def test_a_fault_is_told_at_its_field(self, typed: TypedMill, field: str) -> None:
        with pytest.raises(Refusal) as refused:
            read_mill(typed)
        assert refused.value.field == field


def test_a_swung_table_travels_less_for_the_run_out() -> None:
    """60 mm of cutter, 4.5 deep: √(4.5 · 55.5) = 15.8 mm in its own plane, along the work times cos 30°."""
    ask = read("helix 24 m2 30° left face 20 cutter 60").ask
    assert ask is not None
    result = setting_of(ask, Mill(Fraction(6), swing=Fraction(45)), Head(Fraction(60)), [])
    assert result.move == pytest.approx(20 + 2 * math.sqrt(4.5 * 55.5) * math.cos(math.radians(30)))
