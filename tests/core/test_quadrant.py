"""The quadrant worked out again the slow way: swing it by small steps and look where the wheels mesh."""

import math
from collections.abc import Callable, Iterator
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.layout import solutions
from valleywind.core.trains.model import Stage, Train
from valleywind.core.trains.quadrant import Quadrant, Slot

FAMILY = WheelFamily("m2", Pitch(PitchSystem.MODULE, Fraction(2)), *map(Fraction, (20, 20, 4, 10)))
QUADRANT = Quadrant(
    (70, 140),
    (Slot(0, 50, 190), Slot(math.radians(35), 60, 200)),
    (math.radians(10), math.radians(130)),
    (16, 14, 16),
    1.0,
    2,
)
STEP = math.radians(0.02)

Point = tuple[float, float]


def on_slot(slot: Slot, swing: float, radius: float) -> Point:
    return radius * math.cos(swing + slot.offset), radius * math.sin(swing + slot.offset)


def roots(miss: Callable[[float], float | None]) -> Iterator[float]:
    """Where a function of the swing passes through zero, by steps and halving."""
    low, high = QUADRANT.swing
    swing, before = low, miss(low)
    while swing < high:
        after_swing = min(swing + STEP, high)
        after = miss(after_swing)
        if before is not None and after is not None and before * after < 0:
            a, b = swing, after_swing
            for _ in range(50):
                middle = miss((a + b) / 2)
                first = miss(a)
                if middle is None or first is None:
                    break
                a, b = (a, (a + b) / 2) if first * middle <= 0 else ((a + b) / 2, b)
            yield (a + b) / 2
        swing, before = after_swing, after


def one_stud_slowly(first: float, last: float) -> list[float]:
    """Swings at which a stud at its own distance from the last shaft also meshes with the first."""
    found: list[float] = []
    for slot in QUADRANT.slots:
        if slot.nearest <= last <= slot.farthest:

            def miss(swing: float, slot: Slot = slot) -> float:
                return math.dist(on_slot(slot, swing, last), QUADRANT.first_shaft) - first

            found += roots(miss)
    return sorted(found)


def two_studs_slowly(first: float, between: float, last: float) -> list[float]:
    """The same with a second stud: the one next to the first shaft lies where its slot is `between` from the other."""
    found: list[float] = []
    for near in QUADRANT.slots:
        for far in QUADRANT.slots:
            for outer in (True, False):
                if near is far and not outer:
                    continue

                def miss(swing: float, near: Slot = near, far: Slot = far, outer: bool = outer) -> float | None:
                    other = on_slot(far, swing, last)
                    along = math.cos(near.offset - far.offset) * last
                    across = between**2 - (last**2 - along**2)
                    if across < 0:
                        return None
                    radius = along + (1 if outer else -1) * math.sqrt(across)
                    if not near.nearest <= radius <= near.farthest:
                        return None
                    stud = on_slot(near, swing, radius)
                    assert math.dist(stud, other) == pytest.approx(between)
                    return math.dist(stud, QUADRANT.first_shaft) - first

                if far.nearest <= last <= far.farthest:
                    found += roots(miss)
    return sorted(found)


# Even sums, so that no distance falls exactly on a limit of a slot.
wheel = st.integers(19, 90)


@settings(max_examples=25, deadline=None)
@given(wheel, wheel, wheel, wheel)
def test_one_stud_is_where_swinging_finds_it(a: int, b: int, c: int, d: int) -> None:
    found = [s.swing for s in solutions(Train((Stage(a, b), Stage(c, d))), FAMILY, QUADRANT)]
    assert found == pytest.approx(one_stud_slowly(a + b, c + d), abs=1e-6)


@settings(max_examples=12, deadline=None)
@given(wheel, wheel, wheel, wheel, wheel)
def test_two_studs_are_where_swinging_finds_them(a: int, b: int, i: int, c: int, d: int) -> None:
    found = [s.swing for s in solutions(Train((Stage(a, b, (i,)), Stage(c, d))), FAMILY, QUADRANT)]
    assert found == pytest.approx(two_studs_slowly(a + i, i + b, c + d), abs=1e-6)
