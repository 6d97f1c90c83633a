"""What one change of a line would make it agree with the others: a wheel, the pitch, two wheels, a position."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from valleywind.core.plate.consensus import Levers, Model, Point, Step, Target
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.trains.model import Stage, Train


class MisreadPart(StrEnum):
    """What of a line would be another."""

    WHEEL = "wheel"
    TARGET = "target"
    EXCHANGED = "exchanged"
    STEP = "step"


@dataclass(frozen=True)
class Misreading:
    """One change that makes a line agree. was, now: teeth, the pitch as said, or the position, both ways as text.
    likely: the higher the likelier; a change with nothing that speaks for it has 0. right: the line with it; typed: the
    same as it would be typed, empty where that cannot be told."""

    changed: MisreadPart
    was: str
    now: str
    likely: int
    right: Point
    typed: str = ""


# Digits that are taken for one another on a worn or greasy plate.
_ALIKE = ({"3", "8"}, {"6", "9", "0"}, {"1", "7"}, {"5", "6"}, {"0", "8"})
_USUAL_COUNTS = (21, 37, 47, 63, 66, 78, 86, 127)


@dataclass(frozen=True)
class Surroundings:
    """What speaks for one change or another: wheels of the plate's other lines, those of the rack, what other lines
    want. near: wants that would stand in order between the line's neighbours."""

    on_plate: frozenset[int]
    held: frozenset[int]
    wanted: frozenset[Fraction]
    near: tuple[Fraction, Fraction] | None
    steps: tuple[Step, ...]


def digits_alike(was: str, now: str) -> bool:
    """Whether two numbers are easily taken for one another: digits exchanged, or one digit for another like it."""
    if len(was) != len(now):
        return False
    if was[::-1] == now and len(was) == 2:
        return True
    differing = [{a, b} for a, b in zip(was, now, strict=True) if a != b]
    return len(differing) == 1 and any(differing[0] <= alike for alike in _ALIKE)


def _one_digit(was: str, now: str) -> bool:
    return len(was) == len(now) and sum(a != b for a, b in zip(was, now, strict=True)) == 1


def misreadings(
    point: Point, model: Model, near_enough: Fraction, usual_error: Fraction, around: Surroundings,
    others: Callable[[Target], Iterable[Target]],
) -> list[Misreading]:  # fmt: skip
    """Every single change that brings the line within `near_enough` (relative) of the others, the likeliest first.

    usual_error: how far the approximations of such lines miss; a change that comes nearer is likelier, one that makes
    it exact likelier still. others: what may stand in the place of a target, out of its series.
    """
    error = model.error(point)
    readings: list[Misreading] = []
    if error is not None:
        readings += _wheels(point, error, near_enough, around)
        readings += _targets(point, error, near_enough, around, others)
        readings += _exchanged(point, model, near_enough)
    readings += _steps(point, model, near_enough, around)
    once: dict[tuple[MisreadPart, str, str], Misreading] = {}
    for one in readings:
        once.setdefault((one.changed, one.was, one.now), one)

    def likelihood(one: Misreading) -> tuple[int, Fraction]:
        off = abs(model.error(one.right) or Fraction(0))
        return -one.likely - 3 * (off == 0) - 2 * (off <= usual_error), off

    return sorted(once.values(), key=likelihood)


def _wheels(point: Point, error: Fraction, near: Fraction, around: Surroundings) -> list[Misreading]:
    readings = []
    for n, stage in enumerate(point.train.stages):
        for driver in (True, False):
            was = stage.driver if driver else stage.driven
            # What the train gives is too much by 1 + error: a driver must be that much smaller, a driven wheel larger.
            exact = was / (1 + error) if driver else was * (1 + error)
            now = round(exact)
            if now == was or not FEWEST_TEETH <= now <= MOST_TEETH or abs(exact / now - 1) > near:
                continue
            changed = stage._replace(driver=now) if driver else stage._replace(driven=now)
            stages = (*point.train.stages[:n], changed, *point.train.stages[n + 1 :])
            right = replace(point, train=Train(stages))
            readings.append(Misreading(MisreadPart.WHEEL, str(was), str(now), _wheel_likely(was, now, around), right))
    return readings


def _wheel_likely(was: int, now: int, around: Surroundings) -> int:
    likely = 4 * (now in around.on_plate) + 2 * (now in around.held)
    likely += 1 if now % 5 == 0 or now % 4 == 0 or now in _USUAL_COUNTS else 0
    # A wheel that no other line has is the likelier to be the slip.
    likely += 2 * (was not in around.on_plate)
    return likely + _look_alike(str(was), str(now)) + (1 if abs(was - now) == 1 else 0)


def _look_alike(was: str, now: str) -> int:
    return 3 if digits_alike(was, now) else 1 if _one_digit(was, now) else 0


def _targets(
    point: Point, error: Fraction, near: Fraction, around: Surroundings, others: Callable[[Target], Iterable[Target]]
) -> list[Misreading]:
    exact = point.target.per * (1 + error)
    readings = []
    for target in others(point.target):
        if target.per != point.target.per and abs(exact / target.per - 1) <= near:
            likely = 4 * (target.per not in around.wanted) - 2 * (target.per in around.wanted)
            if around.near is not None:
                low, high = around.near
                inside, was_inside = low < target.per < high, low < point.target.per < high
                # A pitch out of its order among its neighbours gives itself away; one in its order speaks for itself.
                likely += 5 if inside and not was_inside else -3 if was_inside and not inside else 0
            likely += _look_alike(_figure(point.target.text), _figure(target.text))
            readings.append(
                Misreading(MisreadPart.TARGET, point.target.text, target.text, likely, replace(point, target=target))
            )
    return readings


def _figure(text: str) -> str:
    return "".join(c for c in text if c.isdigit() or c == ".")


def _exchanged(point: Point, model: Model, near: Fraction) -> list[Misreading]:
    stages, readings = point.train.stages, []
    for i, one in enumerate(stages):
        for j, other in enumerate(stages):
            if one.driver == other.driven:
                continue
            swapped: list[Stage] = list(stages)
            swapped[i] = swapped[i]._replace(driver=other.driven)
            swapped[j] = swapped[j]._replace(driven=one.driver)
            right = replace(point, train=Train(tuple(swapped)))
            off = model.error(right)
            if off is not None and abs(off) <= near:
                readings.append(Misreading(MisreadPart.EXCHANGED, str(one.driver), str(other.driven), 4, right))
    return readings


def _steps(point: Point, model: Model, near: Fraction, around: Surroundings) -> list[Misreading]:
    if model.levers is Levers.NONE:
        return []
    readings = []
    for step in around.steps:
        if step != point.step:
            right = replace(point, step=step)
            off = model.error(right)
            if off is not None and abs(off) <= near:
                moved = sum(a != b for a, b in zip(step, point.step, strict=False))
                likely = 3 - moved if len(step) == len(point.step) else 0
                was, now = " ".join(filter(None, point.step)), " ".join(filter(None, step))
                readings.append(Misreading(MisreadPart.STEP, was, now, likely, right))
    return readings
