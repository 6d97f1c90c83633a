"""Slips planted on trains of the demo lathes and measured with a caliper's scatter, for the tests and the bench."""

import random
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from tests.lathes import curlew, dunlin, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.check import CheckResult, check, to_check
from valleywind.core.lathe.length_reading import UNCERTAINTY, LengthReading, Method
from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.lathe.plan import plan
from valleywind.core.lathe.thread import Ask
from valleywind.core.trains.model import Stage, Stock, Train, lacking

_ASKS = {
    plover: ("M14x2", "M10", "20 tpi", "8 tpi", "26 tpi", "M8", "1.75 mm", "module 1 worm"),
    curlew: ("M6", "0.5 mm", "M8", "4 BA", "0.7 mm", "40 tpi", "1.5 mm"),
    dunlin: ("10 tpi", "16 tpi", "2 mm", "1.5 mm", "11.5 tpi"),
}
# A caliper's ± is two of these, mm; it shows hundredths.
_SPREAD = float(UNCERTAINTY[Method.CALIPER]) / 2


@dataclass(frozen=True)
class Trial:
    """One slip: what was planned, what stands there instead, or by what the turns are out."""

    ask: Ask
    lathe: Lathe
    stock: Stock
    planned: SetUp
    stands: SetUp
    turns: int
    counted: int

    @property
    def length(self) -> Fraction:
        return self.lathe.lead_of(self.stands.train.ratio, self.stands.setting, self.ask.way) * self.counted

    def answered(self, chance: random.Random) -> CheckResult | None:
        """What is said of a reading of it; None where the reading agrees with the plan all the same."""
        read_off = Fraction(round(float(self.length) + chance.gauss(0, _SPREAD), 2)).limit_denominator(1000)
        measured = LengthReading(read_off, self.turns, UNCERTAINTY[Method.CALIPER])
        result = check(measured, self.ask, self.planned, self.lathe, self.stock)
        return None if result.agrees else result

    def place(self, result: CheckResult) -> int:
        """Its place among the slips named; a thousand where it is not among them."""
        for n, slip in enumerate(result.slips):
            code = slip.factor.code if slip.factor else ""
            if self.counted != self.turns:
                if code == "miscounted" and slip.factor and slip.factor.name == str(self.counted):
                    return n
            elif self.stands.setting != self.planned.setting:
                box, first = self.stands.setting.box, self.stands.setting.first
                if slip.factor and slip.factor.name in (box.name if box else "", first.name):
                    return n
            elif not slip.factor and slip.train == self.stands.train:
                return n
        return 1000


def trials(chance: random.Random, most: int) -> Iterator[Trial]:
    """This many slips, each kind as often as the next, on the trains that the lathes would be set up with."""
    bases = []
    for machine, asks in _ASKS.items():
        lathe, stock = machine()
        for text in asks:
            ask = read(text).ask
            assert ask is not None
            for candidate in plan(ask, lathe, stock, best=3).candidates[:2]:
                bases.append((ask, lathe, stock, SetUp.of(candidate)))
    made = 0
    while made < most:
        ask, lathe, stock, planned = chance.choice(bases)
        turns = to_check(lathe.lead_of(planned.train.ratio, planned.setting, ask.way), ask.lead).turns
        stands, counted = _slipped(chance, planned, lathe, stock, turns)
        if (stands, counted) != (planned, turns) and counted > 0:
            made += 1
            yield Trial(ask, lathe, stock, planned, stands, turns, counted)


def _slipped(chance: random.Random, planned: SetUp, lathe: Lathe, stock: Stock, turns: int) -> tuple[SetUp, int]:
    train = planned.train
    kind = chance.choice(("exchanged", "exchanged", "replaced", "idler", "joined", "turns", "lever"))
    places = range(len(train.teeth))
    if kind == "exchanged" and len(places) > 1:
        return SetUp(train.swapped(*chance.sample(places, 2)), planned.setting), turns
    if kind == "replaced":
        place, sizes = chance.choice(places), sorted(stock)
        near = [t for t in sizes if 0 < abs(t - train.teeth[place]) <= 6]
        if near and not lacking((put := train.with_wheel(place, chance.choice(near))).teeth, stock):
            return SetUp(put, planned.setting), turns
    if kind == "idler" and train.idlers:
        idlers = [n for n, wheel in enumerate(train.wheels) if wheel.role == "idler"]
        others = [n for n in places if n not in idlers]
        return SetUp(train.swapped(chance.choice(idlers), chance.choice(others)), planned.setting), turns
    if kind == "joined" and len(train.stages) == 2:
        one, two = train.stages
        joined = Stage(one.driver, two.driven, (*one.idlers, max(one.driven, two.driver), *two.idlers))
        return SetUp(Train((joined,)), planned.setting), turns
    if kind == "turns":
        return planned, turns + chance.choice((-1, 1))
    if kind == "lever" and planned.setting.box is not None:
        at = lathe.box.index(planned.setting.box) + chance.choice((-1, 1))
        if 0 <= at < len(lathe.box):
            return SetUp(train, type(planned.setting)(planned.setting.first, lathe.box[at])), turns
    return planned, turns


def named(count: int, seed: int) -> tuple[int, int, int]:
    """Of the planted slips that were told from the plan: how many there were, how many were named first, and how
    many among the first three."""
    chance = random.Random(seed)
    right = first = three = 0
    for trial in trials(chance, count):
        result = trial.answered(chance)
        if result is None:
            continue
        right += 1
        place = trial.place(result)
        first += place == 0
        three += place < 3
    return right, first, three
