"""A photograph counted and measured by a length that a person knows."""

from collections.abc import Mapping
from dataclasses import dataclass

from valleywind.core.teeth.photo.counting import Count, ToothCount, WheelPoints, count
from valleywind.core.teeth.photo.fit import Point
from valleywind.core.teeth.photo.measuring import (
    Diameters,
    InPixels,
    KnownLength,
    between,
    diameters,
    has_keyway,
    in_pixels,
    openings,
)
from valleywind.core.teeth.photo.smooth import Picture
from valleywind.core.units import Unit, parse_length


@dataclass(frozen=True)
class Lengths:
    """mm; None for what is not known. line: between two points of the picture, px."""

    bore: float | None = None
    tip: float | None = None
    line: tuple[float, Point, Point] | None = None

    @property
    def any_given(self) -> bool:
        return self.bore is not None or self.tip is not None or self.line is not None

    def of(self, wheel: ToothCount, seen: InPixels) -> KnownLength | None:
        """What is known of the plane of a wheel."""
        if self.bore is not None:
            return KnownLength(self.bore, seen.bore)
        if self.tip is not None:
            return KnownLength(self.tip, seen.tip)
        if self.line is not None:
            mm, one, other = self.line
            return between(wheel, one, other, mm)
        return None


@dataclass(frozen=True)
class WheelInPhoto:
    """A wheel that was counted. sizes: None where no length is known or seen; openings: in its web, 0 for none seen;
    keyway: whether one is seen in its bore."""

    wheel: ToothCount
    sizes: Diameters | None
    openings: int
    keyway: bool


def lengths_mm(typed: Mapping[str, str], bare: Unit) -> dict[str, float]:
    """Lengths as typed, in mm, by their fields; what is empty is left out. Raises Refusal at the field, as lengths
    do."""
    return {field: float(parse_length(text, bare, field).mm) for field, text in typed.items() if text.strip()}


def count_photo(
    picture: Picture, lengths: Lengths, shown: WheelPoints | None = None
) -> tuple[Count, list[WheelInPhoto]]:
    """Count and measure the wheels of a picture. shown: of one, by a person."""
    result = count(picture, shown)
    measured = []
    for wheel in result.wheels:
        seen = in_pixels(picture, wheel)
        known = lengths.of(wheel, seen)
        sizes = diameters(seen, known) if known is not None else None
        measured.append(WheelInPhoto(wheel, sizes, openings(picture, wheel, seen), has_keyway(picture, wheel, seen)))
    return result, measured
