"""Finding out what a wheel is: which pitch, angle and addendum explain all that was counted and measured.

Every standard pitch is weighed by how well it explains the readings at once, with the measuring spread of each method,
wear and thinning that only make wheels smaller, and how common it is. A wheel may be shifted: its spans tell so, since
their difference, the base pitch, knows no shift. Lengths in mm, shifts in modules.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise

import numpy as np

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.geometry import over_pins, pin_angle, span, span_teeth, tip_radius
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.tools import Tool, over_a_span, over_the_tips, over_two_pins

# ISO 54, first and second choice, and 1.6, which is neither and common on small machines; diametral pitches as wheels
# are listed; circular pitches in simple fractions, inch.
_FIRST_MODULES = "0.3 0.4 0.5 0.6 0.8 1 1.25 1.5 2 2.5 3 4 5 6 8 10"
_SECOND_MODULES = "0.35 0.45 0.55 0.7 0.75 0.9 1.125 1.375 1.6 1.75 2.25 2.75 3.5 4.5 5.5 7 9"
_COMMON_DIAMETRAL = "8 10 12 14 16 18 20 24 32 48 64"
_OTHER_DIAMETRAL = "4 5 6 7 9 11 22 26 28 30 36 40"
_CIRCULAR = "1/8 3/16 1/4 5/16 3/8 1/2 5/8 3/4"
# How common each is among change wheels, against a module of the first choice.
_WEIGHT = {"first": 1.0, "second": 0.15, "common": 1.0, "other": 0.2, "circular": 0.02, "stub": 0.04}
_ANGLES = {PitchSystem.MODULE: {20: 0.9, 14.5: 0.1}, PitchSystem.DIAMETRAL: {14.5: 0.55, 20: 0.45},
           PitchSystem.CIRCULAR: {14.5: 0.8, 20: 0.2}}  # fmt: skip


class TipMethod(StrEnum):
    """How a tip diameter was taken: flat caliper jaws, a micrometer from tip to the nearest opposite tip, or true."""

    CALIPER = "caliper"
    MICROMETER = "micrometer"
    TRUE = "true"


# Spread of a careful reading, mm.
_TIP_SPREAD = {TipMethod.CALIPER: 0.03, TipMethod.MICROMETER: 0.02, TipMethod.TRUE: 0.02}
_SPAN_SPREAD, _PINS_SPREAD, _CENTRES_SPREAD, _BORE_SPREAD = 0.01, 0.02, 0.08, 0.03
# Tips are turned and worn below size by this much on the average, mm; a wheel said to be worn, by this much.
_TIP_WEAR, _TIP_WORN = 0.05, 0.25
# By how much teeth are cut thinner than they fill, in modules, and how far that scatters; how far flanks wear on the
# average, mm.
_THINNING, _THINNING_SPREAD, _FLANK_WEAR, _FLANK_WORN = 0.04, 0.02, 0.02, 0.15
# What share of the wheels found among change wheels is shifted, and how far at most either way, in modules; in what
# steps shifts are looked for, whole tenths and half tenths first: those are what wheels are designed with.
_SHIFTED, _FURTHEST, _SHIFT_STEP = 0.1, 0.8, 0.0025
# A reading this many spreads off, with wear and thinning allowed for, is not explained.
_FAR_OFF = 4.0
# What share of readings is a blunder, and how far off one is, about, mm.
_BLUNDERS, _BLUNDER_SPREAD = 0.02, 1.0
# From this probability on it is sure, where there are readings enough.
_SURE = 0.99


@dataclass(frozen=True)
class WheelMeasures:
    """One wheel: teeth counted and what was measured of it, lengths in mm; worn where it can be seen to be.

    spans: over this many teeth. pins: diameter of the two pins and the measure over them. centres: teeth of a mate of
    the same pitch, and the centre distance at which the two mesh closely. bore and face tell families of one pitch
    apart. tip_off: by how much the diameter over the tips may be off, where that is more than what it is measured with
    says. Raises Refusal `teeth_out_of_range`, `not_positive`, `span_of_too_many`.
    """

    teeth: int
    tip_diameter: float | None = None
    tip_method: TipMethod = TipMethod.CALIPER
    spans: tuple[tuple[int, float], ...] = ()
    pins: tuple[float, float] | None = None
    centres: tuple[int, float] | None = None
    bore: float | None = None
    face: float | None = None
    worn: bool = False
    tip_off: float = 0.0

    @property
    def tip_spread(self) -> float:
        """By how much its diameter over the tips may be off, mm."""
        return max(_TIP_SPREAD[self.tip_method], self.tip_off)

    def __post_init__(self) -> None:
        if not FEWEST_TEETH <= self.teeth <= MOST_TEETH:
            raise Refusal("teeth_out_of_range", "teeth", self.teeth, fewest=FEWEST_TEETH, most=MOST_TEETH)
        if self.centres and not FEWEST_TEETH <= self.centres[0] <= MOST_TEETH:
            raise Refusal("teeth_out_of_range", "mate", self.centres[0], fewest=FEWEST_TEETH, most=MOST_TEETH)
        readings = [("tip_diameter", self.tip_diameter), ("bore", self.bore), ("face", self.face)]
        readings += [("span", w) for _, w in self.spans] + [("pins", p) for p in self.pins or ()]
        readings += [("centres", self.centres[1])] if self.centres else []
        for name, value in readings:
            if value is not None and not value > 0:
                raise Refusal("not_positive", name, value)
        for over, _ in self.spans:
            if not 1 < over < self.teeth:
                raise Refusal("span_of_too_many", "span_teeth", over, most=self.teeth - 1)

    @property
    def tells_the_angle(self) -> bool:
        """Whether anything was measured on the flanks."""
        return bool(self.spans or self.pins)

    @property
    def readings(self) -> int:
        """How many readings speak of the pitch."""
        return len(self.spans) + sum(r is not None for r in (self.tip_diameter, self.pins, self.centres))

    @property
    def measured(self) -> bool:
        """Whether anything was measured that speaks of the pitch."""
        return self.readings > 0

    @property
    def tells_the_shift(self) -> bool:
        """Whether a shift could be told from another pitch: the flanks and one reading more."""
        return self.tells_the_angle and self.readings > 1


@dataclass(frozen=True)
class Residual:
    """What a reading should have been, and by how much it is off, mm; `of` names it."""

    of: str
    expected: float
    off: float


@dataclass(frozen=True)
class Identity:
    """A pitch that may be it. `family` has the bare pitch, angle and addendum; angle None where nothing tells it.

    shift: of the first wheel, in modules; 0 where it is likelier that it has none. fits: whether every reading is
    explained by it within measuring, wear and thinning. enough: whether there are readings enough to be sure of it.
    """

    pitch: Pitch
    pressure_angle: float | None
    addendum: Fraction
    probability: float
    residuals: tuple[Residual, ...] = field(default=())
    shift: float = 0.0
    fits: bool = True
    enough: bool = True

    @property
    def sure(self) -> bool:
        """Whether nothing more needs to be measured."""
        return self.fits and self.enough and self.probability > _SURE

    @property
    def family(self) -> WheelFamily:
        angle = Fraction(str(self.pressure_angle if self.pressure_angle is not None else 20))
        return _family(self.pitch, angle, self.addendum)


def _family(pitch: Pitch, angle: Fraction, addendum: Fraction) -> WheelFamily:
    return WheelFamily("", pitch, angle, Fraction(0), Fraction(0), Fraction(0), addendum)


@dataclass(frozen=True)
class _Candidate:
    family: WheelFamily
    weight: float


def _candidates() -> list[_Candidate]:
    candidates: list[_Candidate] = []
    for system, values, kind in (
        (PitchSystem.MODULE, _FIRST_MODULES, "first"), (PitchSystem.MODULE, _SECOND_MODULES, "second"),
        (PitchSystem.DIAMETRAL, _COMMON_DIAMETRAL, "common"), (PitchSystem.DIAMETRAL, _OTHER_DIAMETRAL, "other"),
        (PitchSystem.CIRCULAR, _CIRCULAR, "circular"),
    ):  # fmt: skip
        for value in values.split():
            for angle, share in _ANGLES[system].items():
                for addendum, kept in ((Fraction(1), 1.0), (Fraction(4, 5), _WEIGHT["stub"])):
                    family = _family(Pitch(system, Fraction(value)), Fraction(str(angle)), addendum)
                    candidates.append(_Candidate(family, _WEIGHT[kind] * share * kept))
    return candidates


_ALL = _candidates()


def standard_pitches() -> tuple[Pitch, ...]:
    """The modules and diametral pitches that wheels and cutters are made to."""
    every = dict.fromkeys(c.family.pitch for c in _ALL)
    return tuple(p for p in every if p.system is not PitchSystem.CIRCULAR)


def is_standard(pitch: Pitch) -> bool:
    """Whether this is one of the pitches that wheels are made to."""
    return any(c.family.pitch == pitch for c in _ALL)


def identify(wheels: Sequence[WheelMeasures], most: int = 8) -> list[Identity]:
    """The likeliest identities of wheels that are one set, their probabilities summing to one over all candidates.

    Where nothing was measured on the flanks the angles are taken together and the angle is None. Where even the
    likeliest does not fit, none of the standard wheels is it. Raises Refusal `nothing_measured`.
    """
    if not any(w.measured for w in wheels):
        raise Refusal("nothing_measured", "measurements")
    logs = np.array([math.log(c.weight) + sum(_log_likelihood(w, c.family) for w in wheels) for c in _ALL])
    shares = np.exp(logs - logs.max())
    shares /= shares.sum()
    tells = any(w.tells_the_angle for w in wheels)
    enough = sum(w.readings for w in wheels) > 1
    joined: dict[tuple[Pitch, Fraction | None, Fraction], list[tuple[float, WheelFamily]]] = {}
    for candidate, share in zip(_ALL, shares.tolist(), strict=True):
        f = candidate.family
        joined.setdefault((f.pitch, f.pressure_angle if tells else None, f.addendum), []).append((share, f))
    identities = [
        _identity(wheels, max(parts, key=lambda p: p[0])[1], angle, sum(s for s, _ in parts), enough)
        for (_, angle, _), parts in joined.items()
    ]
    return sorted(identities, key=lambda i: -i.probability)[:most]


def _identity(
    wheels: Sequence[WheelMeasures], family: WheelFamily, angle: Fraction | None, probability: float, enough: bool
) -> Identity:
    shifts = [_likeliest_shift(wheel, family) for wheel in wheels]
    residuals = [r for wheel, x in zip(wheels, shifts, strict=True) for r in _residuals(wheel, family, x)]
    fits = all(_explained(wheel, family, x) for wheel, x in zip(wheels, shifts, strict=True))
    shown = float(angle) if angle is not None else None
    return Identity(family.pitch, shown, family.addendum, probability, tuple(residuals), shifts[0], fits, enough)


_Array = np.ndarray[tuple[int, ...], np.dtype[np.float64]]
_NO_SHIFT: _Array = np.zeros(1)
_SHIFTS: _Array = np.arange(-_FURTHEST, _FURTHEST + _SHIFT_STEP / 2, _SHIFT_STEP)
_STEPS = np.rint(_SHIFTS / _SHIFT_STEP).astype(int)
_HOW_COMMON = np.where(_STEPS % 40 == 0, 32.0, np.where(_STEPS % 20 == 0, 16.0, 1.0))
_LOG_SHIFTED: _Array = np.log(_SHIFTED * _HOW_COMMON / _HOW_COMMON.sum())


def _log_likelihood(wheel: WheelMeasures, family: WheelFamily) -> float:
    """Of one wheel's readings; where they can tell a shift, of the wheel shifted by whatever it may be too."""
    total = float(_likelihoods(wheel, family, _NO_SHIFT)[0])
    if wheel.tells_the_shift:
        each = _each_shift(wheel, family)[1]
        shifted = float(np.logaddexp.reduce(each)) if len(each) else -math.inf
        total = float(np.logaddexp(total + math.log(1 - _SHIFTED), shifted))
    if wheel.bore is not None:
        total += math.log(_bore_speaks(wheel.bore, family.pitch.system))
    return total


def _likeliest_shift(wheel: WheelMeasures, family: WheelFamily) -> float:
    """In modules, to a hundredth; 0 where the wheel is as likely to have none."""
    if not wheel.tells_the_shift:
        return 0.0
    shifts, each = _each_shift(wheel, family)
    plain = float(_likelihoods(wheel, family, _NO_SHIFT)[0]) + math.log(1 - _SHIFTED)
    if not len(each) or plain >= (shifted := np.logaddexp.reduce(each)):
        return 0.0
    return round(float(np.sum(np.exp(each - shifted) * shifts)), 2)


def _each_shift(wheel: WheelMeasures, family: WheelFamily) -> tuple[_Array, _Array]:
    """Every shift that the flanks leave open, and how likely each is with how common it is, as logs; `(shifts,)`."""
    lowest, highest = _open_shifts(wheel, family)
    first, last = np.searchsorted(_SHIFTS, [lowest, highest])
    shifts = _SHIFTS[first:last]
    return shifts, _likelihoods(wheel, family, shifts) + _LOG_SHIFTED[first:last] if len(shifts) else shifts


def _open_shifts(wheel: WheelMeasures, family: WheelFamily) -> tuple[float, float]:
    """Between which shifts the first flank reading lies for teeth as thin as they may be."""
    module, pressure = float(family.module), math.radians(family.pressure_angle)
    if wheel.spans:
        over, reading = wheel.spans[0]
        at = (reading - span(wheel.teeth, over, family)) / (2 * module * math.sin(pressure))
    else:
        assert wheel.pins is not None
        pin, reading = wheel.pins
        ends = np.array([over_pins(wheel.teeth, pin, family, x) for x in (-_FURTHEST, 0.0, _FURTHEST)])
        at = float(np.interp(reading, ends, [-_FURTHEST, 0.0, _FURTHEST]))
    thinnest, thickest = _thinner(wheel, module)[[-1, 0]] / (2 * module * math.tan(pressure))
    return at + thickest - 0.1, at + thinnest + 0.1


def _thinner(wheel: WheelMeasures, module: float) -> _Array:
    """How much thinner than nominal teeth may be, mm, from least to most."""
    worn = _FLANK_WORN if wheel.worn else _FLANK_WEAR
    return np.linspace(-0.02 * module, 0.12 * module + 6 * worn, 81)


def _likelihoods(wheel: WheelMeasures, family: WheelFamily, shifts: _Array) -> _Array:
    """Log likelihood of tip, flanks and centres for each of these shifts, `(shifts,)`."""
    total: _Array = np.zeros(len(shifts))
    if wheel.tip_diameter is not None:
        worn = _TIP_WORN if wheel.worn else _TIP_WEAR
        below = np.linspace(0, 8 * worn, 81)
        plain, one = (tip_reading(wheel.teeth, family, wheel.tip_method, x) for x in (0.0, 1.0))
        nominal = plain + (one - plain) * shifts
        off = wheel.tip_diameter - nominal[:, None] + below
        total = total + _mixed(off, wheel.tip_spread, np.exp(-below / worn))
    if wheel.tells_the_angle:
        total = total + _flanks(wheel, family, shifts)
    if wheel.centres is not None:
        mate, apart = wheel.centres
        # How a shifted wheel stands to a mate depends on the mate's shift: nearly its own shift farther out.
        nominal = float(family.module) * ((wheel.teeth + mate) / 2 + shifts)
        total = total + _mixed((apart - nominal)[:, None], _CENTRES_SPREAD, np.ones(1))
    return total


def _flanks(wheel: WheelMeasures, family: WheelFamily, shifts: _Array) -> _Array:
    """Spans and pins of one wheel share how much thinner than nominal its teeth are. `(shifts,)`"""
    module, pressure = float(family.module), math.radians(family.pressure_angle)
    worn = _FLANK_WORN if wheel.worn else _FLANK_WEAR
    thinner = _thinner(wheel, module)
    spread = _THINNING_SPREAD * module
    # Thinning as cut, a normal spread, and wear on top of it, falling off exponentially.
    prior = np.exp(-np.maximum(thinner - _THINNING * module, 0) / (spread / 2 + worn)) * np.exp(
        -(np.minimum(thinner - _THINNING * module, 0) ** 2) / (2 * spread**2)
    )
    log = np.log(prior / prior.sum())[None, :]
    for over, reading in wheel.spans:
        nominal = span(wheel.teeth, over, family) + 2 * shifts * module * math.sin(pressure)
        log = log + _log_normal(reading - nominal[:, None] + thinner * math.cos(pressure), _SPAN_SPREAD)
    if wheel.pins is not None:
        pin, reading = wheel.pins
        # Between so few shifts it is as good as straight.
        at = np.linspace(shifts[0], shifts[-1], min(len(shifts), 7))
        nominal = np.interp(shifts, at, [over_pins(wheel.teeth, pin, family, x) for x in at])
        angle = np.interp(shifts, at, [pin_angle(wheel.teeth, pin, family, x) for x in at])
        sensitive = math.cos(pressure) / np.maximum(np.sin(angle), 0.05)
        log = log + _log_normal(reading - nominal[:, None] + thinner * sensitive[:, None], _PINS_SPREAD)
    summed: _Array = np.logaddexp.reduce(log, axis=1)
    return summed


def _mixed(off: _Array, spread: float, prior: _Array) -> _Array:
    """Log likelihood of a reading that is this far off for each value of what is unknown, `(shifts, unknown)`, and
    rarely a blunder. `(shifts,)`"""
    weights = prior / np.sum(prior)
    with np.errstate(divide="ignore"):
        log = np.log(weights) + _log_normal(off, spread)
    honest = np.logaddexp.reduce(log, axis=1) + math.log(1 - _BLUNDERS)
    blunder = _log_normal(off[:, 0], _BLUNDER_SPREAD) + math.log(_BLUNDERS)
    mixed: _Array = np.logaddexp(honest, blunder)
    return mixed


def _log_normal(off: _Array, spread: float) -> _Array:
    log: _Array = -(off**2) / (2 * spread**2) - math.log(spread)
    return log


def _explained(wheel: WheelMeasures, family: WheelFamily, shift: float) -> bool:
    """Whether each reading is what measuring, wear and thinning can make of this wheel."""
    module, pressure = float(family.module), math.radians(family.pressure_angle)
    worn = _FLANK_WORN if wheel.worn else _FLANK_WEAR
    thinned = (_THINNING + 3 * _THINNING_SPREAD) * module + 6 * worn
    limits = {"tip": (wheel.tip_spread, 6 * (_TIP_WORN if wheel.worn else _TIP_WEAR)),
              "pins": (_PINS_SPREAD, thinned / math.sin(pressure)),
              "centres": (_CENTRES_SPREAD, 0.1 * module)}  # fmt: skip
    for residual in _residuals(wheel, family, shift):
        spread, low = limits.get(residual.of, (_SPAN_SPREAD, thinned * math.cos(pressure)))
        if not -low - _FAR_OFF * spread <= residual.off <= _FAR_OFF * spread:
            return False
    taken = sorted(wheel.spans)
    # The difference of two spans is free of wear and thinning.
    return all(
        abs((wb - wa) - (b - a) * math.pi * module * math.cos(pressure)) <= _FAR_OFF * 1.4 * _SPAN_SPREAD
        for (a, wa), (b, wb) in pairwise(taken)
    )


def _bore_speaks(bore: float, system: PitchSystem) -> float:
    """A bore of sixteenths of an inch goes with inch wheels three times as often; half millimetres with metric."""

    def near(step: float) -> bool:
        return abs(bore / step - round(bore / step)) * step <= _BORE_SPREAD

    inch, metric = near(25.4 / 16), near(0.5)
    if inch == metric:
        return 1.0
    return 3.0 if inch == (system is not PitchSystem.MODULE) else 1.0


def tip_reading(teeth: int, family: WheelFamily, method: TipMethod, shift: float = 0.0) -> float:
    """What a tip diameter reads: across an odd wheel flat jaws lie on one tip and two, a micrometer on two tips that
    are not opposite."""
    radius = tip_radius(teeth, family, shift)
    if teeth % 2 == 0 or method is TipMethod.TRUE:
        return 2 * radius
    if method is TipMethod.CALIPER:
        return radius * (1 + math.cos(math.pi / teeth))
    return 2 * radius * math.cos(math.pi / (2 * teeth))


def _residuals(wheel: WheelMeasures, family: WheelFamily, shift: float) -> list[Residual]:
    readings = []
    if wheel.tip_diameter is not None:
        readings.append(("tip", tip_reading(wheel.teeth, family, wheel.tip_method, shift), wheel.tip_diameter))
    readings += [(f"span {k}", span(wheel.teeth, k, family, shift), w) for k, w in wheel.spans]
    if wheel.pins is not None:
        readings.append(("pins", over_pins(wheel.teeth, wheel.pins[0], family, shift), wheel.pins[1]))
    if wheel.centres is not None:
        mate, apart = wheel.centres
        readings.append(("centres", float(family.module) * ((wheel.teeth + mate) / 2 + shift), apart))
    return [Residual(of, expected, reading - expected) for of, expected, reading in readings]


class Next(StrEnum):
    """What to measure next."""

    TIP = "tip"
    SPAN = "span"
    NEXT_SPAN = "next_span"
    PINS = "pins"


@dataclass(frozen=True)
class ToMeasure:
    """The reading that tells the two likeliest apart best: what, over how many teeth or over which pins (mm), and what
    it would read for either; `tells`: how far apart those are, in measuring spreads."""

    what: Next
    teeth: int
    over: int
    pin: float
    one: float
    other: float
    tells: float

    def tool(self, family: WheelFamily) -> Tool:
        """How jaws and pins sit for it on such a wheel of this family."""
        match self.what:
            case Next.TIP:
                return over_the_tips(self.teeth, family)
            case Next.PINS:
                return over_two_pins(self.teeth, self.pin, family)
            case _:
                return over_a_span(self.teeth, self.over, family)


def measure_next(wheel: WheelMeasures, identities: Sequence[Identity]) -> ToMeasure | None:
    """What to measure of this wheel to tell the two likeliest identities apart; None where the first is sure, or where
    nothing is left to measure.

    Where no standard wheel fits, or one reading is all there is, it is a span: two of them tell the pitch whatever the
    shift.
    """
    if len(identities) < 2 or identities[0].sure:
        return None
    first, rival = identities[0], _rival(identities)
    one, other = first.family, rival.family
    z = wheel.teeth
    taken = {k for k, _ in wheel.spans}
    over = min(taken, default=min(span_teeth(z, one), z - 1))
    pin = 1.728 * float(one.module)
    ways = []
    for k, what in ((over, Next.SPAN), (over + 1, Next.NEXT_SPAN)):
        if k not in taken and 1 < k < z:
            spans = [span(z, k, i.family, i.shift) for i in (first, rival)]
            if taken:  # with one span known the difference counts, which is free of thinning and wear
                known = [span(z, max(taken), i.family, i.shift) for i in (first, rival)]
                tells = abs(spans[0] - known[0] - spans[1] + known[1]) / (1.4 * _SPAN_SPREAD)
                ways.append(ToMeasure(what, z, k, 0.0, spans[0], spans[1], tells))
            else:
                ways.append(_way(what, z, spans, _SPAN_SPREAD + _THINNING_SPREAD * float(one.module), over=k))
    if ways and not (first.fits and first.enough):
        return ways[0]
    if wheel.tip_diameter is None:
        tip = [tip_reading(z, i.family, wheel.tip_method, i.shift) for i in (first, rival)]
        ways.append(_way(Next.TIP, z, tip, wheel.tip_spread + _TIP_WEAR))
    if wheel.pins is None:
        pins = [over_pins(z, pin, f) for f in (one, other)]
        ways.append(_way(Next.PINS, z, pins, _PINS_SPREAD + 0.1 * float(one.module), pin=pin))
    return max(ways, key=lambda w: w.tells, default=None)


def _way(
    what: Next, teeth: int, readings: Sequence[float], spread: float, over: int = 0, pin: float = 0.0
) -> ToMeasure:
    one, other = readings
    return ToMeasure(what, teeth, over, pin, one, other, abs(one - other) / spread)


def _rival(identities: Sequence[Identity]) -> Identity:
    """The second likeliest that differs in pitch, or where the pitch is sure the one that differs in angle."""
    return next((i for i in identities[1:] if i.pitch.module != identities[0].pitch.module), identities[1])


# A bore is bushed or opened rather than wrong by this much; a face may be turned narrower, hardly wider. mm.
_BORE_APART, _FACE_WIDER = 0.2, 0.6


def could_be_of(identity: Identity, seen: WheelMeasures, family: WheelFamily) -> bool:
    """Whether a wheel of this identity, bored and as wide as measured, could be one of this family. One reading alone
    does not say so, nor readings that do not fit."""
    if not identity.fits or not (identity.enough or seen.bore is not None):
        return False
    if identity.pitch.module != family.module or identity.addendum != family.addendum:
        return False
    if identity.pressure_angle is not None and identity.pressure_angle != float(family.pressure_angle):
        return False
    if seen.bore is not None and family.bore and abs(seen.bore - float(family.bore)) > _BORE_APART:
        return False
    return seen.face is None or not family.face or seen.face <= float(family.face) + _FACE_WIDER
