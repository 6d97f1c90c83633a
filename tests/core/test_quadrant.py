"""The quadrant worked out again the slow way: swing it by small steps and look where the wheels mesh."""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from fractions import Fraction
from itertools import product

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


def studs_slowly(first: float, *spans: float) -> list[float]:
    """Swings at which the studs reach the first shaft: `spans` from stud to stud and to the last shaft.

    The stud next to the last shaft sits at its own distance from it; each other one where its slot is as far from the
    stud before as they mesh, on the outer side or the inner.
    """
    result: list[float] = []
    for slots in product(QUADRANT.slots, repeat=len(spans)):
        for outer in product((True, False), repeat=len(spans) - 1):
            if any(one is other and not side for one, other, side in zip(slots, slots[1:], outer, strict=False)):
                continue

            def miss(swing: float, slots: Sequence[Slot] = slots, outer: Sequence[bool] = outer) -> float | None:
                stud, radius = on_slot(slots[-1], swing, spans[-1]), spans[-1]
                radii = [radius]
                for n in range(len(spans) - 2, -1, -1):
                    turned = slots[n].offset - slots[n + 1].offset
                    along, across = math.cos(turned) * radius, spans[n] ** 2 - (math.sin(turned) * radius) ** 2
                    if across < 0:
                        return None
                    radius = along + (1 if outer[n] else -1) * math.sqrt(across)
                    if radius <= 0:
                        return None
                    before, stud = stud, on_slot(slots[n], swing, radius)
                    assert math.dist(stud, before) == pytest.approx(spans[n])
                    radii.insert(0, radius)
                if not all(slot.nearest <= r <= slot.farthest for slot, r in zip(slots, radii, strict=True)):
                    return None
                return math.dist(stud, QUADRANT.first_shaft) - first

            result += roots(miss)
    return sorted(result)


# Even sums, so that no distance falls exactly on a limit of a slot.
wheel = st.integers(19, 90)


@pytest.mark.long
@settings(max_examples=25, deadline=None)
@given(wheel, wheel, wheel, wheel)
def test_one_stud_is_where_swinging_finds_it(a: int, b: int, c: int, d: int) -> None:
    result = [s.swing for s in solutions(Train((Stage(a, b), Stage(c, d))), FAMILY, QUADRANT)]
    assert result == pytest.approx(studs_slowly(a + b, c + d), abs=1e-6)


@pytest.mark.long
@settings(max_examples=12, deadline=None)
@given(wheel, wheel, wheel, wheel, wheel)
def test_two_studs_are_where_swinging_finds_them(a: int, b: int, i: int, c: int, d: int) -> None:
    result = [s.swing for s in solutions(Train((Stage(a, b, (i,)), Stage(c, d))), FAMILY, QUADRANT)]
    assert result == pytest.approx(studs_slowly(a + i, i + b, c + d), abs=1e-6)


@pytest.mark.long
@settings(max_examples=5, deadline=None)
@given(wheel, wheel, wheel, wheel, wheel, wheel)
def test_three_studs_are_where_swinging_finds_them(a: int, b: int, i: int, c: int, j: int, d: int) -> None:
    train = Train((Stage(a, b, (i,)), Stage(c, d, (j,))))
    result = [s.swing for s in solutions(train, FAMILY, replace(QUADRANT, studs=3))]
    assert result == pytest.approx(studs_slowly(a + i, i + b, c + j, j + d), abs=1e-6)
    assert solutions(train, FAMILY, QUADRANT) == []
