"""The constant that most lines of a plate agree on, and what each position of its levers multiplies it by.

Each line gives its constant exactly: what it wants by the ratio of its train. Where levers or a box are named, lines of
one position share a constant; positions in several columns multiply (`II B`: what II does times what B does).
"""

import math
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from valleywind.core import interrupt
from valleywind.core.trains.model import Train
from valleywind.core.units import MM_PER_INCH

APPROXIMATE = Fraction(1, 200)
"""A line that misses by more than this is no approximation: no plate rounds so far."""

Step = tuple[str, ...]
# Teeth and steps of a gearbox make no larger numbers than this.
_SIMPLE = 200
# How many lines, spread over the plate, give the factors of the columns that are tried.
_MOST_SEEDS = 12
_ROUNDS = 5
# Logarithms that differ by less are of one constant.
_DIGITS, _ALIKE = 9, 1e-7


@dataclass(frozen=True)
class Target:
    """What a line wants, read. per: what the train's ratio is proportional to (a lead in mm, a part of a turn). kind:
    what shares a constant (`thread`, `feed`). system: in which units it is said; a machine makes those of one system
    exactly."""

    text: str
    kind: str
    per: Fraction
    system: str = ""


@dataclass(frozen=True)
class Point:
    """A line under one reading: place is its index among the lines."""

    place: int
    target: Target
    train: Train
    step: Step

    @property
    def constant(self) -> Fraction:
        return self.target.per / self.train.ratio


class Levers(StrEnum):
    """How the positions of a plate work together."""

    NONE = "none"
    SINGLE = "single"
    MULTIPLY = "multiply"


@dataclass(frozen=True)
class Model:
    """What a plate says of its machine. bases: the constant of each kind; steps: what each position multiplies it by,
    by its labels; of several columns each by itself, in `columns`."""

    bases: Mapping[str, Fraction]
    levers: Levers = Levers.NONE
    columns: tuple[Mapping[str, Fraction], ...] = ()
    steps: Mapping[Step, Fraction] = field(default_factory=dict)

    def factor(self, step: Step) -> Fraction | None:
        """What a position multiplies the constant by; None where no other line tells."""
        if self.levers is Levers.NONE:
            return Fraction(1)
        if self.levers is Levers.SINGLE:
            return self.steps.get(step)
        factor = Fraction(1)
        for column, label in zip(self.columns, step, strict=True):
            if label not in column:
                return None
            factor *= column[label]
        return factor

    def constant(self, kind: str, step: Step) -> Fraction | None:
        base, factor = self.bases.get(kind), self.factor(step)
        return None if base is None or factor is None else base * factor

    def error(self, point: Point) -> Fraction | None:
        """How far what the line's train gives lies from what the line says, relative; None where it is not known."""
        constant = self.constant(point.target.kind, point.step)
        return None if constant is None else constant / point.constant - 1

    @property
    def odd(self) -> int:
        """How many positions multiply by no simple fraction: gearboxes have none such."""
        factors = [*self.steps.values(), *(f for column in self.columns for f in column.values())]
        return sum(max(f.numerator, f.denominator) > _SIMPLE for f in factors)

    @property
    def parameters(self) -> int:
        """How many figures of it are taken from the lines."""
        by_levers = {Levers.NONE: 0, Levers.SINGLE: len(self.steps) - 1}
        return len(self.bases) + by_levers.get(self.levers, sum(len(c) - 1 for c in self.columns))


def effort(value: Fraction) -> int:
    """How many bits a constant takes, in mm or in inches, whichever is simpler."""
    return min(
        v.numerator.bit_length() + v.denominator.bit_length()
        for v in (value, value / MM_PER_INCH, value / MM_PER_INCH * 10)
    )


def mode(values: Iterable[Fraction]) -> Fraction | None:
    """The value that comes most often, the simplest of several; None of none."""
    counted = Counter(values)
    return min(counted, key=lambda v: (-counted[v], effort(v), v)) if counted else None


Near = Callable[[str, Fraction], Iterable[Fraction]]
"""Constants of usual machines close to one, of a kind of line."""


def models(points: Sequence[Point], main: str, near: Near) -> list[Model]:
    """The ways the lines may hang together: by one constant, by one for each position, by positions that multiply.

    main: the kind whose constant the positions are told from. Each is fitted to all lines and to those of each system
    by itself: the lines of one system may all be rounded alike.
    """
    own = [p for p in points if p.target.kind == main]
    systems = sorted({p.target.system for p in own})
    groups = [own] + ([[p for p in own if p.target.system == s] for s in systems] if len(systems) > 1 else [])
    widths = {len(p.step) for p in points}
    bare: list[Model] = []
    for group in groups:
        base = mode(p.constant for p in group)
        if base is None:
            continue
        bare += [Model({main: one}) for one in dict.fromkeys((base, *near(main, base)))]
        if len({p.step for p in points}) > 1:
            bare.append(_single(group, main))
            if len(widths) == 1 and (width := widths.pop()) > 1:
                bare += _multiplying(group, main, width)
                widths = {width}
    return [_with_other_kinds(model, points, main, near) for model in bare]


def _single(points: Sequence[Point], main: str) -> Model:
    by_step: dict[Step, list[Fraction]] = defaultdict(list)
    for point in points:
        by_step[point.step].append(point.constant)
    constants = {step: constant for step, values in by_step.items() if (constant := mode(values)) is not None}
    base = simplest_base(list(constants.values()))
    return Model({main: base}, Levers.SINGLE, steps={step: c / base for step, c in constants.items()})


def simplest_base(constants: Sequence[Fraction]) -> Fraction:
    """The constant from which all are told by the simplest ratios."""

    def bits(base: Fraction) -> int:
        return sum((c / base).numerator.bit_length() + (c / base).denominator.bit_length() for c in constants)

    return min(constants, key=lambda base: (bits(base), effort(base)))


def _multiplying(points: Sequence[Point], main: str, width: int) -> list[Model]:
    """Positions in several columns that multiply, begun from the line from which the most come to agree."""
    best = max(points[:: max(1, len(points) // _MOST_SEEDS)][:_MOST_SEEDS], key=lambda seed: _agreement(points, seed))
    columns = [{label: Fraction(1)} for label in best.step]
    _settle(points, best, columns, width)
    return [Model({main: best.constant}, Levers.MULTIPLY, tuple(columns))]


def _settle(points: Sequence[Point], seed: Point, columns: list[dict[str, Fraction]], width: int) -> None:
    for _ in range(_ROUNDS):
        before = [dict(c) for c in columns]
        for c in range(width):
            _vote(points, seed.constant, columns, c)
        if columns == before:
            return


def _agreement(points: Sequence[Point], seed: Point) -> int:
    """How many lines come to agree with one: the same votes in logarithms, which are quick."""
    interrupt.checkpoint()
    logs = [(p.step, math.log(p.constant / seed.constant)) for p in points]
    columns: list[dict[str, float]] = [{label: 0.0} for label in seed.step]
    for _ in range(_ROUNDS):
        for c, column in enumerate(columns):
            votes: dict[str, Counter[float]] = defaultdict(Counter)
            for step, log in logs:
                others = [columns[n].get(label) for n, label in enumerate(step) if n != c]
                if None not in others:
                    votes[step[c]][round(log - sum(o for o in others if o is not None), _DIGITS)] += 1
            column |= {label: counted.most_common(1)[0][0] for label, counted in votes.items()}
    sums = [(log, [columns[n].get(label) for n, label in enumerate(step)]) for step, log in logs]
    return sum(None not in f and abs(log - sum(x or 0.0 for x in f)) < _ALIKE for log, f in sums)


def _vote(points: Sequence[Point], base: Fraction, columns: list[dict[str, Fraction]], c: int) -> None:
    """What each label of one column does, as most lines have it whose other labels are known."""
    votes: dict[str, list[Fraction]] = defaultdict(list)
    for point in points:
        others = base
        for n, label in enumerate(point.step):
            if n != c:
                if label not in columns[n]:
                    break
                others *= columns[n][label]
        else:
            votes[point.step[c]].append(point.constant / others)
    for label, values in votes.items():
        if (settled := mode(values)) is not None:
            columns[c][label] = settled


def _with_other_kinds(model: Model, points: Sequence[Point], main: str, near: Near) -> Model:
    """The constants of feeds beside those of threads: the same positions, with a base of their own."""
    bases = dict(model.bases)
    for kind in {p.target.kind for p in points} - {main}:
        constants = [
            p.constant / factor
            for p in points
            if p.target.kind == kind and (factor := model.factor(p.step)) is not None
        ]
        base = mode(constants)
        if base is not None:
            # The most lines within reach, then the least they miss by.
            bases[kind] = min((base, *near(kind, base)), key=lambda b: _misses(b, constants))
    return Model(bases, model.levers, model.columns, model.steps)


def _misses(base: Fraction, constants: Sequence[Fraction]) -> tuple[int, float]:
    """How many lines a base leaves out of reach, and by how much it misses the others."""
    errors = [abs(float(base / constant - 1)) for constant in constants]
    near = [e for e in errors if e <= APPROXIMATE]
    return len(errors) - len(near), max(near, default=0.0)
