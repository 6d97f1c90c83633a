"""Numbers and lengths as people type them, read exactly.

Everything becomes a `Fraction`, lengths in mm; an inch is 25.4 mm exactly.
"""

import re
import unicodedata
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal

MM_PER_INCH = Fraction(254, 10)
PI = Fraction("3.1415926535897932384626433832795028841972")
"""π to forty places, as the exact fraction that ratios with it start from."""

_DIGITS = 10**40


def sine(degrees: Fraction) -> Fraction:
    """sin of an angle in degrees, to some forty places; exact where it is simple (0°, 30°, 90°)."""
    turned = degrees % 360
    if turned >= 180:
        return -sine(turned - 180)
    if turned > 90:
        return sine(180 - turned)
    if turned in (0, 30, 90):
        return Fraction(turned, 60) if turned < 90 else Fraction(1)
    x = turned * PI / 180
    term, total, n = x, x, 1
    while abs(term) * _DIGITS > 1:
        term = _short(-term * x * x / ((n + 1) * (n + 2)))
        total, n = total + term, n + 2
    return _short(total)


def _short(value: Fraction) -> Fraction:
    """Rounded, so that no denominator grows without end."""
    return Fraction(round(value * _DIGITS * 1000), _DIGITS * 1000)


# More digits than any measurement has; a longer number is a slip of the keyboard, not a size.
_MOST_DIGITS = 24


class Unit(StrEnum):
    """A unit of length somebody may type."""

    MM = "mm"
    CM = "cm"
    MICROMETRE = "µm"
    INCH = "inch"
    THOU = "thou"


MM_PER: dict[Unit, Fraction] = {
    Unit.MM: Fraction(1),
    Unit.CM: Fraction(10),
    Unit.MICROMETRE: Fraction(1, 1000),
    Unit.INCH: MM_PER_INCH,
    Unit.THOU: MM_PER_INCH / 1000,
}

UNIT_WORDS: dict[str, Unit] = {
    "mm": Unit.MM,
    "millimetre": Unit.MM,
    "millimetres": Unit.MM,
    "millimeter": Unit.MM,
    "millimeters": Unit.MM,
    "cm": Unit.CM,
    "µm": Unit.MICROMETRE,
    "um": Unit.MICROMETRE,
    "micron": Unit.MICROMETRE,
    "microns": Unit.MICROMETRE,
    '"': Unit.INCH,
    "''": Unit.INCH,
    "in": Unit.INCH,
    "in.": Unit.INCH,
    "inch": Unit.INCH,
    "inches": Unit.INCH,
    "thou": Unit.THOU,
}

# A number: 1 1/2, 1-1/2, 3/8, 0.75, .75, 1,5. The comma is a decimal comma.
NUMBER = r"(?:\d+[ -]\d+/\d+|\d+/\d+|\d+(?:[.,]\d+)?|[.,]\d+)"

# An angle with its mark: 23.1°, 23° 6', 23°6'30", 23 deg 6 min.
_SIXTIETHS = r"\d{1,2}(?:[.,]\d+)?"
_MARK = r"(?:°|deg(?:rees?|\.)?)"
_MINUTE, _SECOND = r"(?:['’′]|min(?:utes?)?)", r"(?:\"|sec(?:onds?)?)"
ANGLE = rf"{NUMBER}\s*{_MARK}(?:\s*{_SIXTIETHS}\s*{_MINUTE})?(?:\s*{_SIXTIETHS}\s*{_SECOND})?"

_VULGAR = {c: f"{n.numerator}/{n.denominator}" for c in "¼½¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞"
           for n in [Fraction(unicodedata.numeric(c)).limit_denominator(10)]}  # fmt: skip


@dataclass(frozen=True)
class Length:
    """A length in mm, and the unit it was typed in so that it can be said back the same way."""

    mm: Fraction
    unit: Unit


def plain(text: str) -> str:
    """The same text with ×, ″, − and vulgar fractions in plain characters, spaces single, ends trimmed."""
    for vulgar, spelt in _VULGAR.items():
        text = re.sub(rf"(?<=\d)\s*{vulgar}", f" {spelt}", text).replace(vulgar, spelt)
    for typed, ours in (("×", "x"), ("″", '"'), ("”", '"'), ("“", '"'), ("''", '"'), ("−", "-"), ("–", "-"),
                        ("⁄", "/"), ("μ", "µ")):  # fmt: skip
        text = text.replace(typed, ours)
    return " ".join(text.split())


def parse_number(text: str, field: str = "number") -> Fraction:
    """An unsigned number as typed, exactly: `1 1/2`, `3/8`, `0.75`, `1,5`.

    Raises Refusal with code `empty`, `not_a_number`, `divided_by_zero` or `too_long`.
    """
    typed = plain(text)
    if not typed:
        raise Refusal("empty", field, text)
    if sum(c.isdecimal() for c in typed) > _MOST_DIGITS:
        raise Refusal("too_long", field, text, most=_MOST_DIGITS)
    if not re.fullmatch(NUMBER, typed, re.ASCII):
        raise Refusal("not_a_number", field, text)
    whole, _, part = re.sub(r"(?<=\d)-(?=\d)", " ", typed).rpartition(" ")
    try:
        return Fraction(whole or "0") + Fraction(part.replace(",", "."))
    except ZeroDivisionError:
        raise Refusal("divided_by_zero", field, text) from None


def parse_whole(text: str, field: str, least: int, most: int, words: str = "") -> int:
    """A whole number as typed, from `least` to `most`: `57`, `57.0`, or with one of these `words` behind it (a pattern,
    such as `turns?`): `20 turns`. Nothing is rounded or left out.

    Raises Refusal `empty`, `not_a_whole_number`, `whole_out_of_range`.
    """
    typed = plain(text)
    if not typed:
        raise Refusal("empty", field, text)
    match = re.fullmatch(rf"(-?{NUMBER})(?:\s*(?:{words}))?" if words else rf"(-?{NUMBER})", typed, re.ASCII | re.I)
    if not match or len(typed) > _MOST_DIGITS:
        raise Refusal("not_a_whole_number", field, text, least=least, most=most)
    number = -parse_number(match[1][1:], field) if match[1].startswith("-") else parse_number(match[1], field)
    if number.denominator != 1:
        raise Refusal("not_a_whole_number", field, text, least=least, most=most)
    if not least <= number <= most:
        raise Refusal("whole_out_of_range", field, text, least=least, most=most)
    return int(number)


def parse_length(text: str, bare: Unit | None = Unit.MM, field: str = "length") -> Length:
    """A length greater than zero as typed: `1 1/2"`, `0.75`, `3/8 in`, `30 thou`, `1,5 mm`.

    A number without unit is taken in `bare`; with `bare=None` it is refused (code `needs_unit`).
    Other codes: those of `parse_number`, `unknown_unit`, `not_positive`.
    """
    length = parse_offset(text, bare, field)
    if length.mm <= 0:
        raise Refusal("not_positive", field, text)
    return length


def parse_offset(text: str, bare: Unit | None = Unit.MM, field: str = "offset") -> Length:
    """A length that may be zero, or below it with a minus before it: `0`, `-0.02`, `+0.3 mm`.

    Raises Refusal as `parse_length` does, but for `not_positive`.
    """
    typed = plain(text)
    below = typed.startswith("-")
    typed = re.sub(r"^[+-]\s*", "", typed)
    match = re.match(rf"({NUMBER})(?![.,/\d])\s*(.*)$", typed, re.ASCII)
    if not match:
        raise Refusal("not_a_number" if typed else "empty", field, text)
    number, word = parse_number(match[1], field), match[2].lower()
    if word and word not in UNIT_WORDS:
        raise Refusal("unknown_unit", field, text, unit=match[2])
    unit = UNIT_WORDS[word] if word else bare
    if unit is None:
        raise Refusal("needs_unit", field, text)
    return Length(number * MM_PER[unit] * (-1 if below else 1), unit)


def spell(value: Fraction) -> str:
    """A number as `parse_number` takes it back: decimal where that ends, else a fraction (`11.5`, `2 1/3`)."""
    rest = value.denominator
    for prime in (2, 5):
        while rest % prime == 0:
            rest //= prime
    if rest != 1 or value.denominator > 10**6:
        return _as_fraction(value)
    digits = next(n for n in range(7 * 4) if (value * 10**n).denominator == 1)
    whole = f"{(value * 10**digits).numerator:0{digits + 1}d}"
    return f"{whole[:-digits]}.{whole[-digits:]}" if digits else whole


def spell_inch(value: Fraction) -> str:
    """A number of inches as it stands on a drawing: `1 1/2` where the denominator is a power of two up to 64."""
    return _as_fraction(value) if value.denominator in (2, 4, 8, 16, 32, 64) else spell(value)


def _as_fraction(value: Fraction) -> str:
    whole, part = divmod(value.numerator, value.denominator)
    if not part:
        return str(whole)
    return f"{whole} {part}/{value.denominator}" if whole else f"{part}/{value.denominator}"


def parse_ratio(text: str, field: str) -> Fraction:
    """A ratio as typed: `1:1`, `2 : 1`, `40:60`, `1/2`, `0.5`. Raises Refusal, those of `parse_number`."""
    one, colon, other = text.partition(":")
    ratio = parse_number(one, field)
    if not colon:
        return ratio
    below = parse_number(other, field)
    if not below:
        raise Refusal("divided_by_zero", field, text)
    return ratio / below


def mm_or_none(text: str, field: str) -> Fraction | None:
    """A length as typed, mm; None where nothing is. Raises Refusal, those of `parse_length`."""
    return parse_length(text, field=field).mm if text.strip() else None


def degrees_or_none(text: str, field: str) -> Fraction | None:
    """Degrees as typed; None where nothing is. Raises Refusal, those of `parse_degrees`."""
    return parse_degrees(text, field) if text.strip() else None


def parse_degrees(text: str, field: str) -> Fraction:
    """Degrees as typed, exactly: `23.1`, `23.1°`, `23 deg`, `23° 6'`, `23°6'30"`.

    Raises Refusal `not_an_angle` where minutes or seconds are sixty or more, or stand behind what is not whole; those
    of `parse_number`.
    """
    match = re.fullmatch(
        rf"(.*?)\s*(?:{_MARK}(?:\s*({_SIXTIETHS})\s*{_MINUTE})?(?:\s*({_SIXTIETHS})\s*{_SECOND})?)?",
        plain(text), re.ASCII | re.IGNORECASE,
    )  # fmt: skip
    assert match is not None
    parts = [parse_number(part, field) for part in match.groups() if part is not None]
    if any(part.denominator != 1 for part in parts[:-1]) or any(part >= 60 for part in parts[1:]):
        raise Refusal("not_an_angle", field, text)
    whole, minutes, seconds = (parse_number(part, field) if part else Fraction(0) for part in match.groups())
    return whole + minutes / 60 + seconds / 3600


def spell_degrees(degrees: Fraction) -> str:
    """An angle as `parse_degrees` takes it back: decimal where that ends, else with minutes: `23.1°`, `23°7'`."""
    if "/" not in spell(degrees) or 3600 % degrees.denominator:
        return f"{spell(degrees)}°"
    minutes, seconds = divmod(int(degrees * 3600), 60)
    behind = f'{seconds}"' if seconds else ""
    return f"{minutes // 60}°{minutes % 60}'{behind}"
