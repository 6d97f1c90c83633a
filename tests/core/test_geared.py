"""Differential gears on a head's own arm."""

import math
from fractions import Fraction

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.lathes import arrangements
from valleywind.core.dividing.day import choices
from valleywind.core.dividing.geared import on_the_arm
from valleywind.core.dividing.heads import TypedHead, read_head
from valleywind.core.dividing.plan import WayKind, best, best_each, ways
from valleywind.core.dividing.ways import Differential, differential
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.arrange import with_idlers
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import lacking, parse_stock
from valleywind.core.trains.placement import Reason
from valleywind.core.trains.quadrant import Quadrant, Slot

GEARS = parse_stock("24x2 28 32 40 44 48 56 64 72 86 100")
HEAD = read_head(TypedHead("40", "15 18 21 29 37 43 / 16 19 23 31 39 47 / 17 20 27 33 41 49", geared=True))
FAMILY = WheelFamily(
    "", Pitch(PitchSystem.MODULE, Fraction(3, 2)), Fraction(20), Fraction(22), Fraction(6), Fraction(12)
)


def arm(farthest: float = 150, studs: int = 2) -> Gearbox:
    swing = (math.radians(10), math.radians(150))
    return Gearbox(FAMILY, Quadrant((20, 120), (Slot(0, 45, farthest),), swing, (18, 13, 16), 0.5, studs))


def settings(divisions: int) -> list[Differential]:
    return differential(Fraction(40), divisions, HEAD.circles, GEARS)


@pytest.mark.long
@given(st.integers(51, 250), st.sampled_from([90, 120, 150]), st.integers(0, 3))
def test_what_is_put_on_the_arm_turns_the_plate_as_it_must(divisions: int, farthest: float, studs: int) -> None:
    every = settings(divisions)
    result = on_the_arm(every, arm(farthest, studs), GEARS)
    assert every or result is None
    # Counted as tried only where there is something to look at.
    assume(every)
    assert result is not None
    setting, laid = result
    train = laid.train
    assert setting.indexed_as in {s.indexed_as for s in every}
    assert train.ratio == abs(setting.gear_ratio)
    assert train.combination == setting.trains[0]
    assert (len(train.idlers) - setting.idlers(train.combination)) % 2 == 0
    assert not lacking(train.teeth, GEARS)
    assert laid.fits == laid.placement.fits
    if any(o.reason is Reason.TOO_FEW_STUDS for o in laid.placement.obstacles):
        assert all(t.stages - 1 + s.idlers(t) > studs for s in every[:10] for t in s.trains[:24])


def test_gears_that_do_not_go_on_come_behind_all_else() -> None:
    known = {w.kind: w for w in ways(HEAD, 127, GEARS, arm=arm())}
    assert known[WayKind.DIFFERENTIAL].goes_on
    assert next(iter(known)) is WayKind.DIFFERENTIAL
    short = [w.kind for w in ways(HEAD, 127, GEARS, arm=arm(farthest=50))]
    assert short[-1] is WayKind.DIFFERENTIAL
    way = best(HEAD, 127, GEARS, arm(farthest=50))
    assert way is not None
    assert way.kind is not WayKind.DIFFERENTIAL


def test_without_an_arm_nothing_is_known_against_them() -> None:
    (way,) = [w for w in ways(HEAD, 127, GEARS) if w.kind is WayKind.DIFFERENTIAL]
    assert (way.laid, way.goes_on) == (None, True)


@pytest.mark.parametrize("divisions", [51, 53, 127, 201])
def test_the_first_setting_that_goes_on_is_the_handiest_that_does(divisions: int) -> None:
    result = on_the_arm(settings(divisions), arm(), GEARS)
    assert result is not None
    before = [s for s in settings(divisions) if s.indexed_as != result[0].indexed_as]
    earlier = before[: [s.indexed_as for s in settings(divisions)].index(result[0].indexed_as)]
    for setting in earlier:
        alone = on_the_arm([setting], arm(), GEARS)
        assert alone is None or not alone[1].fits


@pytest.mark.parametrize("divisions", [51, 67, 119, 53])
def test_of_the_handiest_trains_with_so_few_idlers_the_roomiest_is_taken(divisions: int) -> None:
    on = arm()
    result = on_the_arm(settings(divisions), on, GEARS)
    assert result is not None
    setting, laid = result
    handiest = next(s for s in settings(divisions) if s.indexed_as == setting.indexed_as).trains[:4]
    idlers = len(laid.train.idlers)
    alike = [t for t in handiest if idlers in (setting.idlers(t), setting.idlers(t) + 2)]
    every = [t for one in alike for plain in arrangements(one) for t in with_idlers(plain, idlers, GEARS)]
    going = [one for one in lay_out(every, on.family, on.quadrant) if one.fits]
    assert laid.room == max(one.room for one in going)


@pytest.mark.parametrize(("gears_stand", "first"), [(True, 51), (True, 118), (False, 51), (None, 118)])
def test_many_counts_together_come_out_as_they_do_alone(gears_stand: bool | None, first: int) -> None:
    on = None if gears_stand is None else arm(studs=2 if gears_stand else 0)
    counts = range(first, first + 25)
    together = best_each(HEAD, counts, GEARS, on)
    for divisions, way in zip(counts, together, strict=True):
        alone = best(HEAD, divisions, GEARS, on)
        assert way is not None
        assert alone is not None
        assert (way.kind, way.settings, way.error) == (alone.kind, alone.settings, alone.error)
        assert (way.laid is None) == (alone.laid is None)
        if way.laid and alone.laid:
            assert (way.laid.train, way.laid.placement) == (alone.laid.train, alone.laid.placement)


def test_a_count_that_no_head_divides_is_refused_among_others() -> None:
    with pytest.raises(Refusal) as refused:
        best_each(HEAD, [60, 1], GEARS)
    assert (refused.value.code, refused.value.field) == ("divisions_out_of_range", "divisions")


def test_a_day_may_choose_among_many_trains_of_a_setting() -> None:
    """Without an arm on record nothing is known against any of them."""
    nearest = settings(119)[0]
    each = [way.candidate for way in choices(HEAD, 119, GEARS, None).ways]
    there = {
        one.train.combination
        for one in each
        if isinstance(one.setting, Differential) and one.setting.indexed_as == nearest.indexed_as and one.train
    }
    assert there == set(nearest.trains[:40])
    assert len(there) > 1


def test_a_head_without_circles_has_no_way_that_needs_one() -> None:
    bare = read_head(TypedHead("40", "", geared=True))
    assert ways(bare, 127, GEARS) == []
    assert best_each(bare, [60, 127], GEARS, arm()) == [None, None]
