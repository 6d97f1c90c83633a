"""Which single slip explains a ratio that is not the planned one.

Any planner uses it: it knows wheels and their places, not what the last shaft turns. A planner adds slips of its own
(a lever, a miscount) as factors on the ratio.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Role, Stage, Stock, Train, lacking


class SlipKind(StrEnum):
    STAGE_EXCHANGED = "stage_exchanged"
    STUD_EXCHANGED = "stud_exchanged"
    WHEELS_EXCHANGED = "wheels_exchanged"
    IDLER_EXCHANGED = "idler_exchanged"
    REPLACED = "replaced"
    RUN_AS_IDLER = "run_as_idler"
    FACTOR = "factor"


# How readily each slip is made, against the others.
_LIKELIHOOD = {
    SlipKind.STAGE_EXCHANGED: 1.0,
    SlipKind.STUD_EXCHANGED: 1.0,
    SlipKind.WHEELS_EXCHANGED: 0.5,
    SlipKind.IDLER_EXCHANGED: 0.5,
    SlipKind.REPLACED: 0.4,
    SlipKind.RUN_AS_IDLER: 0.5,
    SlipKind.FACTOR: 0.5,
}
# A wheel is taken for its neighbour readily, for one far off hardly: e-folding distance in teeth.
_NEIGHBOURHOOD = 6.0
# How many uncertainties away slips are looked for: a reading may be off by a little more than is said of it.
_NEARLY = 3
# How many uncertainties two slips lie apart that a reading can tell from each other.
_APART = 4


@dataclass(frozen=True)
class Factor:
    """A slip that is not one of wheels: its code, what it multiplies the ratio by, how likely it is, and a name or
    number for its words."""

    code: str
    times: Fraction
    likelihood: float = 0.5
    name: str = ""


@dataclass(frozen=True)
class Slip:
    """A slip that explains the reading. `wheels`: the tooth numbers concerned, the planned one first. `train`: the
    wheels as they would stand. `off`: how far the reading lies from it, in measuring uncertainties; above 1 it is
    explained only nearly."""

    kind: SlipKind
    wheels: tuple[int, ...]
    train: Train
    ratio: Fraction
    off: float
    likelihood: float
    factor: Factor | None = None

    @property
    def sure(self) -> bool:
        """The reading lies within its uncertainty of this slip."""
        return self.off <= 1


def within(ratio: Fraction, observed: Fraction, uncertainty: Fraction) -> bool:
    """Whether a ratio agrees with the observed one; `uncertainty` is absolute, in the ratio's own measure."""
    return abs(ratio - observed) <= uncertainty


def explain(
    train: Train, observed: Fraction, uncertainty: Fraction, stock: Stock, factors: Iterable[Factor] = ()
) -> list[Slip]:
    """Single slips whose ratio agrees with `observed` ± `uncertainty`, or nearly, the most likely first.

    `stock` is what could have been taken instead, the train's own wheels included.
    Raises Refusal `not_positive` for an observed ratio or an uncertainty that is not above zero.
    """
    for field, value in (("measured", observed), ("uncertainty", uncertainty)):
        if value <= 0:
            raise Refusal("not_positive", field, value)
    slips: dict[tuple[SlipKind, str, str], Slip] = {}
    nearly = _NEARLY * uncertainty
    for kind, wheels, slipped, likelihood in _slips(train, stock):
        if slipped.ratio != train.ratio and within(slipped.ratio, observed, nearly):
            off = float(abs(slipped.ratio - observed) / uncertainty)
            slip = Slip(kind, wheels, slipped, slipped.ratio, off, likelihood)
            slips.setdefault((kind, slipped.notation, ""), slip)
    for factor in factors:
        ratio = train.ratio * factor.times
        if within(ratio, observed, nearly):
            off = float(abs(ratio - observed) / uncertainty)
            key = (SlipKind.FACTOR, train.notation, f"{factor.code} {factor.name}")
            slips[key] = Slip(SlipKind.FACTOR, (), train, ratio, off, factor.likelihood, factor)
    return sorted(slips.values(), key=_merit)


@dataclass(frozen=True)
class Apart:
    """How to tell two slips apart. times: over how many times the turns the two readings differ clearly, None where no
    number of turns tells; count: places in the train (of its wheels) and what the first and the second slip have there,
    for counting teeth."""

    times: int | None
    count: tuple[int, int, int] | None


def apart(one: Slip, other: Slip, uncertainty: Fraction, most_times: int) -> Apart:
    """What would tell two slips apart: more turns, at most `most_times` as many; or which wheel to count.

    `uncertainty` is that of the ratio as it was observed.
    """
    between = abs(one.ratio - other.ratio)
    times = -(-_APART * uncertainty // between) if between else None
    differing = [
        (n, a.teeth, b.teeth)
        for n, (a, b) in enumerate(zip(one.train.wheels, other.train.wheels, strict=False))
        if a.teeth != b.teeth
    ]
    useful = times is not None and 1 < times <= most_times
    return Apart(int(times) if useful and times is not None else None, differing[0] if differing else None)


def _merit(slip: Slip) -> tuple[float, int, str]:
    """Likelihood of the slip times that of the reading; two uncertainties count as a normal spread of 2σ."""
    return -math.log(slip.likelihood) + (2 * slip.off) ** 2 / 2, len(slip.wheels), slip.train.notation


def _slips(train: Train, stock: Stock) -> Iterable[tuple[SlipKind, tuple[int, ...], Train, float]]:
    yield from _exchanges(train)
    yield from _idler_exchanges(train)
    yield from _replacements(train, stock)
    yield from _idled(train)


def _exchanges(train: Train) -> Iterable[tuple[SlipKind, tuple[int, ...], Train, float]]:
    """A driver and a driven wheel in each other's place."""
    for i, driving in enumerate(train.stages):
        for j, driven in enumerate(train.stages):
            if driving.driver == driven.driven:
                continue
            stages = [[s.driver, s.driven] for s in train.stages]
            stages[i][0], stages[j][1] = driven.driven, driving.driver
            slipped = Train(tuple(Stage(a, b, s.idlers) for (a, b), s in zip(stages, train.stages, strict=True)))
            kind = (
                SlipKind.STAGE_EXCHANGED
                if i == j
                else SlipKind.STUD_EXCHANGED
                if j == i - 1 and not driving.idlers
                else SlipKind.WHEELS_EXCHANGED
            )
            yield kind, (driving.driver, driven.driven), slipped, _LIKELIHOOD[kind]


def _idler_exchanges(train: Train) -> Iterable[tuple[SlipKind, tuple[int, ...], Train, float]]:
    """An idler in the place of a driver or driven wheel, and that in the idler's."""
    kind = SlipKind.IDLER_EXCHANGED
    for n, idler in enumerate(train.wheels):
        for m, other in enumerate(train.wheels):
            if idler.role is Role.IDLER and other.role is not Role.IDLER and idler.teeth != other.teeth:
                # Side by side they are exchanged more readily than across the train.
                near = 1.0 if abs(idler.shaft - other.shaft) == 1 else 0.4
                yield kind, (idler.teeth, other.teeth), train.swapped(n, m), _LIKELIHOOD[kind] * near


def _replacements(train: Train, stock: Stock) -> Iterable[tuple[SlipKind, tuple[int, ...], Train, float]]:
    """Any one driver or driven wheel taken for another that is on the rack."""
    for n, stage in enumerate(train.stages):
        for other in stock:
            for instead, planned in ((Stage(other, stage.driven, stage.idlers), stage.driver),
                                     (Stage(stage.driver, other, stage.idlers), stage.driven)):  # fmt: skip
                slipped = Train((*train.stages[:n], instead, *train.stages[n + 1 :]))
                if other == planned or lacking(slipped.teeth, stock):
                    continue
                near = math.exp(-abs(other - planned) / _NEIGHBOURHOOD)
                yield SlipKind.REPLACED, (planned, other), slipped, _LIKELIHOOD[SlipKind.REPLACED] * max(near, 1e-3)


def _idled(train: Train) -> Iterable[tuple[SlipKind, tuple[int, ...], Train, float]]:
    """The two wheels of a stud run as one idler: one of them meshes on both sides, whichever; the larger is drawn."""
    for n, (before, after) in enumerate(zip(train.stages, train.stages[1:], strict=False)):
        idler = max(before.driven, after.driver)
        joined = Stage(before.driver, after.driven, (*before.idlers, idler, *after.idlers))
        slipped = Train((*train.stages[:n], joined, *train.stages[n + 2 :]))
        kind = SlipKind.RUN_AS_IDLER
        yield kind, (before.driven, after.driver), slipped, _LIKELIHOOD[kind]
