"""A machine known from its plate: its constant, what its levers do, its wheels, and which lines are wrong.

Every way to read the columns is tried; that one holds under which most lines agree, counted less the figures that it
needs for it. A line that differs is an approximation where it misses by little, and a misreading where one change makes
it agree and the wheels could do better.
"""

from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise

from valleywind.core import interrupt
from valleywind.core.plate.consensus import (
    APPROXIMATE,
    Levers,
    Model,
    Near,
    Point,
    Step,
    Target,
    effort,
    models,
)
from valleywind.core.plate.misreadings import Misreading, Surroundings, misreadings
from valleywind.core.plate.reading import Reading, readings
from valleywind.core.plate.restating import restated
from valleywind.core.plate.text import PlateLine, PlateText, TargetGrammar, Trouble, UnreadLine, read_plate_text
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Stock, Train
from valleywind.core.trains.search import search

BELIEVED = 3
"""How many lines must agree to be believed; two only propose a constant."""
_EXACT = Fraction(0)
# From this error on it is asked whether the wheels could do better: below, no plate's maker would have minded.
_WORTH_ASKING = Fraction(1, 1000)
_SAME = Fraction(1, 10**9)
# A change that is likelier than this has something that speaks for it.
_SPEAKS = 3
# The fewest lines that show whether a plate runs in order.
_IN_ORDER = 3
_NO_UNIT = ""
# How many changes of a line are told as they would be typed.
_RESTATED = 3


def _no_others(_kind: str, _constant: Fraction) -> Iterable[Fraction]:
    return ()


def _always(_target: Target) -> bool:
    return True


def _as_typed(_points: Sequence[Point]) -> list[list[Step]]:
    return []


@dataclass(frozen=True)
class PlateCraft:
    """What a kind of machine knows of its plates.

    main: the kind of line that its levers are told from. bares: the units that a number without one may have. target:
    what a line wants, a number without unit in the given one; raises Refusal. unusual: how unusual a machine with this
    constant of a kind is, 0 for the most usual, None where none is known. near: constants of usual machines that a
    plate of approximations may mean. is_usual: whether a target stands in a series; others: that series. steppings:
    other ways to say where the levers are than the plate's own columns, line by line. divisible: whether the constant
    is a product of two figures of the machine that no plate can tell apart.
    """

    grammar: TargetGrammar
    main: str
    bares: tuple[str, ...]
    target: Callable[[PlateLine, str], Target]
    unusual: Callable[[str, Fraction], int | None]
    others: Callable[[Target], Iterable[Target]]
    near: Near = _no_others
    is_usual: Callable[[Target], bool] = _always
    steppings: Callable[[Sequence[Point]], list[list[Step]]] = _as_typed
    divisible: bool = False


class Agreement(StrEnum):
    """How a line agrees with the others."""

    AGREES = "agrees"
    APPROXIMATE = "approximate"
    WRONG = "wrong"
    ALONE = "alone"
    """Nothing else tells of its position, or too few lines agree."""


@dataclass(frozen=True)
class JudgedLine:
    """A line with what it is found to be. error: what its train gives to what it says, relative, less 1; None where no
    constant is known for it. changes: what would make it agree, the likeliest first."""

    line: PlateLine
    target: Target
    train: Train
    step: Step
    standing: Agreement
    error: Fraction | None
    changes: tuple[Misreading, ...] = ()

    @property
    def clear(self) -> bool:
        """Whether it is clear what should stand there: one change is the likeliest, and something speaks for it."""
        likely = [change.likely for change in self.changes[:2]]
        return bool(likely) and likely[0] >= _SPEAKS and (len(likely) == 1 or likely[0] > likely[1])

    @property
    def right(self) -> Point:
        """The line as it should stand: with the likeliest change where it is wrong."""
        return self.changes[0].right if self.changes else Point(0, self.target, self.train, self.step)


class OpenQuestion(StrEnum):
    """What the plate leaves open."""

    TWO_LINES = "two_lines"
    DISAGREE = "disagree"
    ONE_RATIO = "one_ratio"
    OTHER_READING = "other_reading"
    DIVISIBLE = "divisible"
    LONE_STEPS = "lone_steps"


@dataclass(frozen=True)
class Plate:
    """What a plate tells. constant: of its main kind, mm or none where no two lines agree; constants: of every kind.
    steps: what each position multiplies it by, as labels. columns: the same, each column of labels by itself, where
    they multiply. wheels: those the maker supplied: of the lines as they should stand. open: what is left open; other:
    a reading of the columns that explains the lines as well, and its constant."""

    reading: Reading
    lines: tuple[JudgedLine, ...]
    unread: tuple[UnreadLine, ...]
    constant: Fraction | None
    constants: Mapping[str, Fraction]
    levers: Levers
    steps: Mapping[Step, Fraction]
    columns: tuple[Mapping[str, Fraction], ...]
    wheels: Stock
    open: tuple[OpenQuestion, ...]
    other: tuple[Reading, Fraction] | None = None

    def standing(self, standing: Agreement) -> tuple[JudgedLine, ...]:
        return tuple(line for line in self.lines if line.standing is standing)

    @property
    def trains(self) -> tuple[Train, ...]:
        """Trains known to go on, each once: those of the lines that agree."""
        return tuple(dict.fromkeys(j.train for j in self.lines if j.standing is not Agreement.WRONG))


@dataclass(frozen=True)
class _Fit:
    """One reading with one model. made: with positions that the plate does not name. order: the reading's place among
    them; usual: how many of its targets stand in a series; worst: the largest error of an approximation."""

    reading: Reading
    model: Model
    points: tuple[Point, ...]
    agreeing: int
    explained: int
    made: bool
    order: int
    usual: int
    worst: Fraction

    def rank(self, craft: PlateCraft) -> tuple[int, ...]:
        base = self.model.bases[craft.main] if craft.main in self.model.bases else next(iter(self.model.bases.values()))
        unusual = craft.unusual(craft.main, base)
        # A usual machine that approximates explains as much as an unusual one that is exact.
        parameters = self.model.parameters
        return (
            -(self.explained - parameters), -self.usual, unusual is None, self.made, self.model.odd, -self.agreeing,
            parameters, self.order, int(self.worst * 10**9), unusual or 0, effort(base),
        )  # fmt: skip


def find_plate(text: str, craft: PlateCraft, held: Iterable[int] = ()) -> Plate:
    """Read a plate and judge its lines. held: counts of wheels in the rack, which make a change likelier.

    Raises Refusal `empty`, `plate_too_long`, `no_plate_lines`.
    """
    plate = read_plate_text(text, craft.grammar)
    if not plate.lines:
        raise Refusal("no_plate_lines", "lines", text)
    fits = _fits(plate, craft)
    if not fits:
        raise Refusal("no_plate_lines", "lines", text)
    best = min(fits, key=lambda fit: fit.rank(craft))
    best = replace(best, model=_simplest(_in_order(best.model, best.points), craft))
    return _restated(_judge(plate, best, fits, craft, frozenset(held)), plate, text.splitlines(), craft)


def _fits(plate: PlateText, craft: PlateCraft) -> list[_Fit]:
    bares = craft.bares if any(_is_bare(line, craft) for line in plate.lines) else (_NO_UNIT,)
    fits: list[_Fit] = []
    for order, reading in enumerate(readings(plate.lines, plate.order, bares)):
        interrupt.checkpoint()
        points = _points(plate.lines, reading, craft)
        if not points:
            continue
        usual = sum(craft.is_usual(p.target) for p in points)
        kinds = Counter(p.target.kind for p in points)
        main = craft.main if craft.main in kinds else kinds.most_common(1)[0][0]
        typed = [p.step for p in points]
        for steps in [typed, *craft.steppings(points)]:
            stepped = [replace(p, step=step) for p, step in zip(points, steps, strict=True)]
            for model in models(stepped, main, craft.near):
                errors = [model.error(p) for p in stepped]
                agreeing = sum(e == 0 for e in errors)
                small = [abs(e) for e in errors if e is not None and abs(e) <= APPROXIMATE]
                explained, worst = len(small), max(small, default=_EXACT)
                fits.append(
                    _Fit(reading, model, tuple(stepped), agreeing, explained, steps is not typed, order, usual, worst)
                )
    return fits


def _is_bare(line: PlateLine, craft: PlateCraft) -> bool:
    """Whether the line's number means another thing in another unit."""
    try:
        return len({craft.target(line, bare).per for bare in craft.bares}) > 1
    except Refusal:
        return False


def _points(lines: Sequence[PlateLine], reading: Reading, craft: PlateCraft) -> list[Point]:
    points = []
    for place, line in enumerate(lines):
        train = reading.train(line)
        if train is None:
            continue
        try:
            target = craft.target(line, reading.bare)
        except Refusal:
            continue
        if target.per > 0:
            points.append(Point(place, target, train, line.step))
    return points


def _in_order(model: Model, points: Sequence[Point]) -> Model:
    """The same model with its positions in the order of the plate."""
    steps = {p.step: model.steps[p.step] for p in points if p.step in model.steps}
    columns = tuple(
        {p.step[n]: column[p.step[n]] for p in points if p.step[n] in column} for n, column in enumerate(model.columns)
    )
    return replace(model, columns=columns, steps=steps)


def _simplest(model: Model, craft: PlateCraft) -> Model:
    """The same model told from the first of its positions that makes a usual machine."""
    if model.levers is Levers.NONE or craft.main not in model.bases:
        return model
    base = model.bases[craft.main]
    if model.levers is Levers.SINGLE:
        by = _from_here(base, list(model.steps.values()), craft)
        return _rebased(model, by, (), {step: f / by for step, f in model.steps.items()})
    columns, whole = [], Fraction(1)
    for column in model.columns:
        by = _from_here(base * whole, list(column.values()), craft)
        whole *= by
        columns.append({label: f / by for label, f in column.items()})
    return _rebased(model, whole, tuple(columns), {})


def _from_here(base: Fraction, factors: Sequence[Fraction], craft: PlateCraft) -> Fraction:
    """The factor to begin from: of the first position that makes a usual machine, else of the first one."""
    return next((by for by in factors if craft.unusual(craft.main, base * by) is not None), factors[0])


def _rebased(
    model: Model, by: Fraction, columns: tuple[Mapping[str, Fraction], ...], steps: Mapping[Step, Fraction]
) -> Model:
    return replace(model, bases={k: b * by for k, b in model.bases.items()}, columns=columns, steps=steps)


def _judge(plate: PlateText, fit: _Fit, fits: Sequence[_Fit], craft: PlateCraft, held: frozenset[int]) -> Plate:
    model, points = fit.model, fit.points
    known = craft.main in model.bases and craft.unusual(craft.main, model.bases[craft.main]) is not None
    # A plate all of whose lines are approximations is believed where a usual machine explains them.
    believed = fit.agreeing >= 2 or (known and fit.explained >= BELIEVED)
    approximations = _approximations(points, model)
    support: Counter[Step] = Counter()
    for point in points:
        error = model.error(point)
        if error is not None and abs(error) <= APPROXIMATE:
            support[point.step] += 1
    judged: list[JudgedLine] = []
    wheels_of_others = _wheels_of_others(points)
    best_error = _BestErrors(points, model)
    for n, point in enumerate(points):
        interrupt.checkpoint()
        error = model.error(point)
        around = _around(n, points, wheels_of_others, held)
        usual = approximations.get(point.target.system, _EXACT)
        near = APPROXIMATE if usual else _EXACT
        standing, changes = Agreement.ALONE, []
        if not believed or (fit.explained < BELIEVED and error != 0):
            if error is not None and error != 0:
                changes = _changes(point, model, near, usual, around, craft)
            standing = Agreement.AGREES if believed and error == 0 else Agreement.ALONE
        elif error is None:
            standing = Agreement.ALONE
        elif error == 0:
            alone = model.levers is Levers.SINGLE and support[point.step] < 2
            standing = Agreement.ALONE if alone else Agreement.AGREES
        elif abs(error) > APPROXIMATE:
            standing, changes = Agreement.WRONG, _changes(point, model, near, usual, around, craft)
        else:
            standing = Agreement.APPROXIMATE
            if abs(error) >= _WORTH_ASKING:
                exact = misreadings(point, model, _EXACT, usual, around, craft.others)
                if exact and best_error.of(point) < abs(error) / 4:
                    standing, changes = Agreement.WRONG, exact
        judged.append(
            JudgedLine(plate.lines[point.place], point.target, point.train, point.step, standing, error, tuple(changes))
        )
    read = {p.place for p in points}
    unread = plate.unread + tuple(
        UnreadLine(line.number, line.text, Trouble.NO_TARGET if _unclear(line, craft) else Trouble.NO_WHEELS)
        for place, line in enumerate(plate.lines)
        if place not in read
    )
    constant = model.bases.get(craft.main) if believed else None
    other = _other_reading(fit, fits, craft)
    return Plate(
        fit.reading, tuple(judged), tuple(sorted(unread, key=lambda u: u.number)), constant,
        model.bases if believed else {}, model.levers, _steps(model, points), model.columns, _supplied(judged),
        _open(fit, believed, other, judged, craft), other if believed else None,
    )  # fmt: skip


def _changes(
    point: Point, model: Model, near: Fraction, usual: Fraction, around: Surroundings, craft: PlateCraft
) -> list[Misreading]:
    """What makes a line agree; where nothing makes it exact, what makes an approximation of it."""
    readings = misreadings(point, model, near, usual, around, craft.others)
    return readings or misreadings(point, model, APPROXIMATE, usual, around, craft.others)


def _restated(judged: Plate, plate: PlateText, rows: Sequence[str], craft: PlateCraft) -> Plate:
    """With each wrong line's likeliest changes as they would be typed."""
    stepped = craft.steppings is not _as_typed

    def read(number: int, row: str) -> Point | None:
        above = [rows[n - 1] for n in plate.headings if n < number]
        lines = read_plate_text("\n".join([*above, row]), craft.grammar).lines
        points = _points(lines, judged.reading, craft)
        return points[0] if points else None

    def typed(line: JudgedLine, change: Misreading) -> Misreading:
        def again(row: str) -> Point | None:
            point = read(line.line.number, row)
            return replace(point, step=change.right.step) if point and stepped else point

        row = rows[line.line.number - 1]
        return replace(change, typed=restated(row, line.line.target, change, again))

    lines = tuple(
        replace(one, changes=(*(typed(one, c) for c in one.changes[:_RESTATED]), *one.changes[_RESTATED:]))
        if one.standing is not Agreement.AGREES
        else one
        for one in judged.lines
    )
    return replace(judged, lines=lines)


def _unclear(line: PlateLine, craft: PlateCraft) -> bool:
    try:
        craft.target(line, craft.bares[0])
    except Refusal:
        return True
    return False


def _approximations(points: Sequence[Point], model: Model) -> dict[str, Fraction]:
    """How far the lines of each system may miss that are not exact: as far as the worst of its approximations."""
    errors: dict[str, list[Fraction]] = defaultdict(list)
    for point in points:
        error = model.error(point)
        if error is not None and abs(error) <= APPROXIMATE:
            errors[point.target.system].append(abs(error))
    return {system: max(e) for system, e in errors.items()}


class _BestErrors:
    """How near the plate's own wheels come to a line, looked for once."""

    def __init__(self, points: Sequence[Point], model: Model) -> None:
        self.model = model
        self.stock = _most_at_once(p.train for p in points)
        self.known: dict[Fraction, Fraction] = {}

    def of(self, point: Point) -> Fraction:
        constant = self.model.constant(point.target.kind, point.step)
        if constant is None:
            return Fraction(1)
        wanted = point.target.per / constant
        if wanted not in self.known:
            nearest = search(wanted, self.stock, (1, 2), 1)
            self.known[wanted] = abs(nearest[0].combination.ratio / wanted - 1) if nearest else Fraction(1)
        return self.known[wanted]


def _most_at_once(trains: Iterable[Train]) -> dict[int, int]:
    """Wheels that the trains want, doubles where one uses a count twice."""
    most: Counter[int] = Counter()
    for train in trains:
        once = Counter(t for stage in train.stages for t in stage.chain)
        most |= once
    return dict(sorted(most.items()))


def _supplied(judged: Sequence[JudgedLine]) -> dict[int, int]:
    """The maker's wheels: of every line as it should stand; of a wrong one only where it is clear how."""
    return _most_at_once(j.right.train for j in judged if j.standing is not Agreement.WRONG or j.clear)


def _wheels_of_others(points: Sequence[Point]) -> Counter[int]:
    """In how many lines each wheel stands."""
    return Counter(t for p in points for t in {t for stage in p.train.stages for t in stage.chain})


def _around(n: int, points: Sequence[Point], wheels: Counter[int], held: frozenset[int]) -> Surroundings:
    point = points[n]
    own = {t for stage in point.train.stages for t in stage.chain}
    on_plate = frozenset(t for t, lines in wheels.items() if lines > (t in own))
    alike = [p for p in points if p.target.kind == point.target.kind and p.step == point.step]
    wanted = frozenset(p.target.per for p in alike if p is not point)
    return Surroundings(on_plate, held, wanted, _between(n, points), tuple(dict.fromkeys(p.step for p in points)))


def _between(n: int, points: Sequence[Point]) -> tuple[Fraction, Fraction] | None:
    """The wants before and after a line, lower first, where the plate runs in order there."""
    point = points[n]
    alike = [
        p for p in points
        if p.target.system == point.target.system and p.target.kind == point.target.kind and p.step == point.step
    ]  # fmt: skip
    place = alike.index(point)
    others = [p.target.per for p in alike if p is not point]
    in_order = all(a <= b for a, b in pairwise(others)) or all(a >= b for a, b in pairwise(others))
    if len(others) < _IN_ORDER or not in_order:
        return None
    before, after = others[place - 1] if place else None, others[place] if place < len(others) else None
    rising = others[0] < others[-1]
    ends = (before, after) if rising else (after, before)
    return ends[0] if ends[0] is not None else Fraction(0), ends[1] if ends[1] is not None else others[-1] * 10**3


def _steps(model: Model, points: Sequence[Point]) -> dict[Step, Fraction]:
    """Every position that a line names, with its factor."""
    if model.levers is Levers.NONE:
        return {}
    steps = {}
    for step in dict.fromkeys(p.step for p in points):
        factor = model.factor(step)
        if factor is not None:
            steps[step] = factor
    return steps


def _other_reading(fit: _Fit, fits: Sequence[_Fit], craft: PlateCraft) -> tuple[Reading, Fraction] | None:
    """A reading of the columns that explains the lines as well and makes a usual machine too."""
    score = fit.explained - fit.model.parameters
    base = fit.model.bases.get(craft.main)
    rivals = [
        (other.reading, rival) for other in fits
        if other.reading != fit.reading and other.explained - other.model.parameters >= score
        and other.agreeing >= fit.agreeing and other.usual >= fit.usual
        and (rival := other.model.bases.get(craft.main)) is not None
        and craft.unusual(craft.main, rival) is not None and (base is None or abs(rival / base - 1) > _SAME)
    ]  # fmt: skip
    rivals.sort(key=lambda r: craft.unusual(craft.main, r[1]) or 0)
    return rivals[0] if rivals else None


def _open(
    fit: _Fit, believed: bool, other: tuple[Reading, Fraction] | None, judged: Sequence[JudgedLine], craft: PlateCraft
) -> tuple[OpenQuestion, ...]:
    if not believed:
        return (OpenQuestion.DISAGREE,) if len(fit.points) > 1 else (OpenQuestion.TWO_LINES,)
    questions = []
    if fit.agreeing < BELIEVED:
        questions.append(OpenQuestion.TWO_LINES)
    if len({j.train.ratio for j in judged if j.standing is not Agreement.WRONG}) == 1:
        questions.append(OpenQuestion.ONE_RATIO)
    if other is not None:
        questions.append(OpenQuestion.OTHER_READING)
    if craft.divisible and craft.main in fit.model.bases:
        questions.append(OpenQuestion.DIVISIBLE)
    if fit.model.levers is Levers.SINGLE and any(j.standing is Agreement.ALONE for j in judged):
        questions.append(OpenQuestion.LONE_STEPS)
    return tuple(questions)
