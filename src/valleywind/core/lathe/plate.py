"""A lathe's plate: what its first column may say, and which lathes a constant belongs to.

Each line gives K = lead / ratio, which for a plain lathe is screw lead × first shaft, with a box that times the step.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from functools import cache

from valleywind.core.lathe.ask import read
from valleywind.core.lathe.constants import usual_lathes
from valleywind.core.lathe.series import Series, sizes
from valleywind.core.lathe.thread import CarriageMove, FeedAsk, PitchUnit, ThreadAsk
from valleywind.core.plate.consensus import APPROXIMATE, Target
from valleywind.core.plate.plate import Plate, PlateCraft, find_plate
from valleywind.core.plate.text import TargetGrammar
from valleywind.core.refusal import Refusal
from valleywind.core.units import MM_PER_INCH, PI, parse_number, spell

_BARE = r"(?:\d+(?:[.,]\d+)?[½¼¾⅛⅜⅝⅞⅓⅔]?|[½¼¾⅛⅜⅝⅞⅓⅔]|[.,]\d+)"
_NUMBER = rf"(?:\d+[ -]\d{{1,2}}/(?:2|4|8|16|32|64)|\d+/\d+|{_BARE})"
_UNIT = r"(?:tpi|t\.p\.i\.?|threads?\s+(?:per|to\s+the)\s+inch|thou|mm|inch(?:es)?|in\b\.?|\"|mod(?:ule)?\b|d\.?p\b\.?)"
_PER_TURN = r"(?:\s*/\s*(?:rev|turn|r)\b\.?|\s*per\s+(?:rev(?:olution)?|turn)\b\.?)?"
_WITH_UNIT = (
    rf"(?:{_NUMBER}\s*{_UNIT}{_PER_TURN}(?:\s+(?:cross\s+|across\s+)?feed)?|(?:module|mod\.?|d\.?p\.?)\s*{_BARE})"
)
_WORD = r"(?:(?:(?:cross|across|along|long\w*)\s+)?feeds?(?:\s+(?:along|across))?|pitch|lead|thread)"
_NAMED = r"(?:M\s?\d+(?:[.,]\d+)?(?:\s?x\s?\d+(?:[.,]\d+)?)?\b|\d+\s?BA\b)"
_GRAMMAR = TargetGrammar(
    # A number that a stroke or another sign of a train follows is a wheel.
    re.compile(rf"(?:{_WORD}\s+)?(?:{_NAMED}|{_WITH_UNIT}|{_BARE}(?![\d.,]*\s*(?:[/+]|:\d)|\d))", re.IGNORECASE),
    re.compile(rf"(?<![\w.,/])(?:{_WORD}\s+)?{_WITH_UNIT}", re.IGNORECASE),
    {
        "tpi": "tpi", "mm": "mm", "inch": "tpi", "inches": "tpi", "english": "tpi", "imperial": "tpi", "metric": "mm",
        "pitch": "", "thread": "", "threads": "", "lead": "", "module": "module", "modules": "module", "mod": "module",
        "dp": "dp", "feed": "feed", "feeds": "feed",
    },
)  # fmt: skip
_TPI = """
80 72 64 60 56 52 48 46 44 42 40 38 36 34 32 30 28 27 26 25 24 23 22 21 20 19 18 17 16 15 14 13 12 11.5 11 10 9.5 9 8.5
8 7.5 7 6.5 6 5.5 5 4.75 4.5 4.25 4 3.75 3.5 3.25 3 2.875 2.75 2.5 2.25 2
"""
_MM = """
0.2 0.225 0.25 0.3 0.35 0.4 0.45 0.5 0.55 0.6 0.65 0.7 0.75 0.8 0.85 0.9 0.95 1 1.1 1.2 1.25 1.3 1.4 1.5 1.6 1.75 1.8 2
2.2 2.25 2.4 2.5 2.75 2.8 3 3.2 3.25 3.5 3.75 4 4.5 5 5.5 6 6.5 7 7.5 8 9 10 12 14
"""
_MODULES = """
0.2 0.25 0.3 0.4 0.5 0.6 0.7 0.75 0.8 0.9 1 1.125 1.25 1.375 1.5 1.75 2 2.25 2.5 2.75 3 3.5 4 4.5 5 6
"""
_DPS = "4 5 6 7 8 9 10 11 12 14 16 18 20 22 24 26 28 30 32 36 40 44 48 56 64"
THREAD = CarriageMove.THREAD.value


def read_plate(text: str, held: Iterable[int] = ()) -> Plate:
    """A lathe's plate. Raises Refusal: those of `find_plate`."""
    return find_plate(text, _CRAFT, held)


@dataclass(frozen=True)
class PlateLathe:
    """A lathe that a constant belongs to."""

    screw_lead: Fraction
    stated: PitchUnit
    first_ratio: Fraction

    @property
    def screw(self) -> str:
        return spell_screw(self.screw_lead, self.stated)


def spell_screw(lead: Fraction, stated: PitchUnit) -> str:
    """A screw as a record takes it: `8 tpi`, `1.5 mm`."""
    return f"{spell(MM_PER_INCH / lead)} tpi" if stated is PitchUnit.TPI else f"{spell(lead)} mm"


def lathes_of(constant: Fraction) -> tuple[PlateLathe, ...]:
    """The usual lathes whose screw × first shaft is exactly this, the most usual first; where there is none, the one
    with the first shaft at the spindle's turns."""
    every = sorted(
        ((rank, n, PlateLathe(lead, stated, ratio)) for n, (rank, ratio, lead, stated) in enumerate(usual_lathes())
         if ratio * lead == constant),
        key=lambda f: f[:2],
    )  # fmt: skip
    lathes = [lathe for _, _, lathe in every]
    if lathes:
        return tuple(lathes)
    per_inch = MM_PER_INCH / constant
    stated = PitchUnit.TPI if per_inch.denominator < constant.denominator else PitchUnit.MM
    return (PlateLathe(constant, stated, Fraction(1)),)


def ask_of(target: Target) -> ThreadAsk | FeedAsk:
    """What a line wants, as an ask."""
    ask = read(target.text).ask
    if isinstance(ask, ThreadAsk) and ask.lead == target.per:
        return ask
    if target.kind != THREAD:
        return FeedAsk(target.per, way=CarriageMove(target.kind))
    return ThreadAsk(target.per)


@cache
def _ranks() -> dict[Fraction, int]:
    ranks: dict[Fraction, int] = {}
    for rank, ratio, lead, _ in usual_lathes():
        constant = ratio * lead
        ranks[constant] = min(rank, ranks.get(constant, rank))
    return ranks


@cache
def _target(typed: str, unit: str) -> Target:
    text = typed.strip()
    if re.fullmatch(rf"(?:{_WORD}\s+)?{_BARE}", text, re.IGNORECASE):
        if unit == "feed" or re.match(r".*feed", text, re.IGNORECASE):
            text = text if "feed" in text.lower() else f"feed {text}"
        else:
            word, number = re.fullmatch(rf"((?:{_WORD}\s+)?)({_BARE})", text, re.IGNORECASE).groups()  # type: ignore[union-attr]
            text = (
                f"module {number}" if unit == "module" else f"dp {number}" if unit == "dp" else f"{word}{number} {unit}"
            )
    text = re.sub(r"^(.*\S)\s+((?:cross\s+|across\s+)?feed)$", r"\2 \1", text, flags=re.IGNORECASE)
    text = re.sub(r"^(cross|across|along|long\w*)\s+feeds?", r"feed", text, flags=re.IGNORECASE)
    text = re.sub(r"^feeds?\s+(?:along|across)", "feed", text, flags=re.IGNORECASE)
    text = re.sub(r"^thread\s+", "", text, flags=re.IGNORECASE)
    if match := re.fullmatch(rf"({_NUMBER})\s*(?:in\b\.?|inch|\")", text, re.IGNORECASE):
        # On a plate a fraction of an inch is a pitch, never a size.
        return Target(typed, THREAD, parse_number(match[1]) * MM_PER_INCH, "inch")
    reading = read(text)
    if reading.ask is None:
        raise reading.refusal or Refusal("not_a_number", "lines", typed)
    if isinstance(reading.ask, FeedAsk):
        across = re.search(r"cross", typed, re.IGNORECASE)
        kind = CarriageMove.ACROSS if across else CarriageMove.ALONG
        return Target(typed, kind.value, reading.ask.travel, _system(reading.ask.stated))
    assert isinstance(reading.ask, ThreadAsk)
    if reading.ask.worm is not None:
        return Target(typed, THREAD, reading.ask.lead, reading.ask.worm.system.value)
    return Target(
        text if typed.strip() != text else typed,
        CarriageMove.THREAD.value,
        reading.ask.lead,
        _system(reading.ask.stated),
    )


def _system(stated: PitchUnit) -> str:
    return "metric" if stated is PitchUnit.MM else "inch"


@cache
def _series(system: str) -> tuple[Target, ...]:
    if system == "inch":
        return tuple(Target(f"{n} tpi", THREAD, MM_PER_INCH / Fraction(n), system) for n in _TPI.split())
    if system == "module":
        return tuple(Target(f"module {n}", THREAD, PI * Fraction(n), system) for n in _MODULES.split())
    if system == "dp":
        return tuple(Target(f"dp {n}", THREAD, PI * MM_PER_INCH / Fraction(n), system) for n in _DPS.split())
    ba = {s.pitch for s in sizes(Series.BA)}
    values = sorted({*map(Fraction, _MM.split()), *ba})
    return tuple(Target(f"{spell(v)} mm", THREAD, v, system) for v in values)


def _unusual(kind: str, constant: Fraction) -> int | None:
    return _ranks().get(constant) if kind == THREAD else None


def _near(kind: str, constant: Fraction) -> Iterable[Fraction]:
    return [k for k in _ranks() if abs(k / constant - 1) <= APPROXIMATE] if kind == THREAD else []


def _is_usual(target: Target) -> bool:
    return target.kind != THREAD or any(t.per == target.per for t in _series(target.system))


def _others(target: Target) -> Iterable[Target]:
    """The usual pitches of the same system."""
    return _series(target.system) if target.kind == THREAD else ()


_CRAFT = PlateCraft(
    _GRAMMAR, THREAD, ("tpi", "mm"), lambda line, bare: _target(line.target, line.unit or bare), _unusual, _others,
    _near, _is_usual, divisible=True,
)  # fmt: skip
