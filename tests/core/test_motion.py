import math
from fractions import Fraction

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.lathes import plover
from valleywind.core.teeth.geometry import half_angle, pitch_radius, tip_radius, tooth_outline
from valleywind.core.trains.direction import Drive, Hand, Sense, advise
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.merit import handling
from valleywind.core.trains.model import Train, parse_train
from valleywind.core.trains.motion import motions
from valleywind.wording.labels import place


@pytest.mark.long
@pytest.mark.parametrize("notation", ["76/66*32/78", "48/72/64", "36/64*32/78", "72/32*80/28*44/24"])
@given(turned=st.floats(0, 40))
def test_teeth_meet_gaps_however_far_the_train_has_turned(notation: str, turned: float) -> None:
    lathe, _ = plover()
    train = parse_train(notation)
    centres = lay_out([train], lathe.family, lathe.quadrant)[0].placement.centres
    moving = motions(train, centres)
    for a, b in train.meshing:
        one, other = train.wheels[a], train.wheels[b]
        (xa, ya), (xb, yb) = centres[one.shaft], centres[other.shaft]
        line = math.atan2(yb - ya, xb - xa)
        teeth_a = (line - moving[a].phase - turned * float(moving[a].turns)) * one.teeth / (2 * math.pi)
        teeth_b = (line + math.pi - moving[b].phase - turned * float(moving[b].turns)) * other.teeth / (2 * math.pi)
        # A tooth of one stands where the other has a gap: half a pitch apart, counted against each other.
        assert (teeth_a + teeth_b) % 1 == pytest.approx(0.5, abs=1e-6)


@pytest.mark.parametrize("notation", ["76/66*32/78", "48/72/64", "40/45/35/60"])
def test_turns_of_the_last_shaft_are_the_ratio(notation: str) -> None:
    train = parse_train(notation)
    last = motions(train, [(0.0, 0.0)] * train.shafts)[-1].turns
    assert abs(last) == train.ratio
    assert (last > 0) == (train.meshes % 2 == 0)


@given(st.integers(17, 120))
def test_the_drawn_tooth_has_the_true_thickness(teeth: int) -> None:
    family = plover()[0].family
    radius = pitch_radius(teeth, family)
    assert 2 * radius * half_angle(teeth, family, radius) == pytest.approx(math.pi * float(family.module) / 2)
    outline = tooth_outline(teeth, family)
    assert outline[0][1] == -outline[-1][1] == pytest.approx(-math.pi / teeth)
    assert max(r for r, _ in outline) == pytest.approx(tip_radius(teeth, family))
    angles = [a for _, a in outline]
    assert angles == sorted(angles)


@pytest.mark.parametrize(
    ("meshes", "hand", "lever", "right"),
    [
        (2, Hand.RIGHT, True, True),
        (3, Hand.RIGHT, False, True),
        (2, Hand.LEFT, False, True),
        (3, Hand.LEFT, True, True),
    ],
)
def test_a_lever_makes_either_hand(meshes: int, hand: Hand, lever: bool, right: bool) -> None:
    drive = Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, reverse_lever=True)
    advice = advise(meshes, hand, drive)
    assert (advice.lever, advice.right) == (lever, right)


def test_without_a_lever_the_meshes_decide() -> None:
    drive = Drive(Sense.CLOCKWISE, Sense.CLOCKWISE, reverse_lever=False)
    assert [advise(n, Hand.RIGHT, drive).right for n in (1, 2, 3)] == [False, True, False]
    assert [advise(n, Hand.LEFT, drive).right for n in (1, 2, 3)] == [True, False, True]


def test_handling_compares_place_by_place() -> None:
    mounted = parse_train("36/64*32/78")
    assert handling(parse_train("76/66*32/78"), mounted) == handling(parse_train("36/66*32/76"), mounted)
    kept = handling(parse_train("76/66*32/78"), mounted)
    assert (kept.kept, kept.put_on, kept.taken_off) == (2, 2, 2)
    # The same wheels in other places have to be handled all the same.
    assert handling(parse_train("32/64*36/78"), mounted).put_on == 2
    assert handling(mounted, None).put_on == 4


def test_notation_is_read_back() -> None:
    for notation in ("76/66*32/78", "40/50/80", "40/45/35/60", "20/30*40/50/60"):
        assert parse_train(notation).notation == notation
    assert parse_train("40/50/80").ratio == Fraction(1, 2)


@given(st.sampled_from(["76/66*32/78", "36/64*32/78", "48/72/64", "48/28*52/80"]))
def test_tooth_numbers_stand_on_their_wheel_off_shafts_and_each_other(notation: str) -> None:
    lathe, _ = plover()
    train: Train = parse_train(notation)
    placed = lay_out([train], lathe.family, lathe.quadrant)[0].placement
    assume(placed.fits)
    tips = [tip_radius(t, lathe.family) for t in train.teeth]
    bosses = [16.0, *[14.0] * (train.shafts - 2), 16.0]
    labels = place(train, placed.centres, tips, bosses)
    for n, (wheel, label) in enumerate(zip(train.wheels, labels, strict=True)):
        assert math.dist(label.at, placed.centres[wheel.shaft]) < tips[n]
        assert all(math.dist(label.at, c) > b for c, b in zip(placed.centres, bosses, strict=True))
        assert all(math.dist(label.at, other.at) > 0.8 * label.size for other in labels if other is not label)
