"""How deep the gap between two teeth is cut, by the schools there are. Lengths in mm."""

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.teeth.pitch import PitchSystem, WheelFamily
from valleywind.core.units import MM_PER_INCH, parse_length, parse_number


class DepthSchool(StrEnum):
    """How deep a gap is cut."""

    OLD_INCH = "old_inch"
    FINE_INCH = "fine_inch"
    ISO = "iso"
    OLD_METRIC = "old_metric"
    STUB = "stub"
    ENGRAVED = "engraved"


@dataclass(frozen=True)
class Depth:
    """A whole depth by one school. usual: the one for this family."""

    school: DepthSchool
    depth: float
    usual: bool


def depths(family: WheelFamily, engraved: Fraction = Fraction(0)) -> list[Depth]:
    """The whole depth by every school that could hold for this family; exactly one of them is the usual one.

    2.157/P older full depth at 14.5°; 2.25 m ISO 53 A and coarse 20°; 2.2/P + 0.002 in fine pitches from 20 DP on;
    2 1/6 m older metric; 2.25 ha m stub, 1.8 m with the usual addendum; what is engraved on the cutter goes before all.
    """
    module = float(family.module)
    per_inch = family.pitch.system is not PitchSystem.MODULE
    by_school = {
        DepthSchool.OLD_INCH: 2.157 * module,
        DepthSchool.ISO: 2.25 * module,
        DepthSchool.OLD_METRIC: 13 / 6 * module,
        DepthSchool.FINE_INCH: 2.2 * module + 0.002 * float(MM_PER_INCH),
        DepthSchool.STUB: 2.25 * float(family.addendum) * module,
    }
    steep = family.pressure_angle >= 18
    if engraved:
        by_school[DepthSchool.ENGRAVED] = float(engraved)
        usual = DepthSchool.ENGRAVED
    elif family.addendum < 1:
        usual = DepthSchool.STUB
    elif not steep:
        usual = DepthSchool.OLD_INCH if per_inch else DepthSchool.OLD_METRIC
    elif per_inch and module <= float(MM_PER_INCH) / 20:
        usual = DepthSchool.FINE_INCH
    else:
        usual = DepthSchool.ISO
    if family.addendum < 1:
        by_school = {s: d for s, d in by_school.items() if s in (DepthSchool.STUB, DepthSchool.ENGRAVED)}
    else:
        by_school.pop(DepthSchool.STUB)
    return [Depth(school, depth, school is usual) for school, depth in by_school.items()]


def usual_depth(family: WheelFamily, engraved: Fraction = Fraction(0)) -> float:
    """The whole depth that wheels of this family are cut to: as the cutter has it engraved, else by their school."""
    return next(d.depth for d in depths(family, engraved) if d.usual)


def read_depth(text: str, family: WheelFamily, field: str = "depth") -> float:
    """A whole depth as typed: `2.157/P`, `2.25 m`, or a length with its unit. Raises Refusal, those of lengths."""
    typed = text.strip().lower().replace(" ", "")
    if match := re.fullmatch(r"([\d./]+?)(?:/p|\*?m)", typed):
        return float(parse_number(match[1], field) * family.module)
    return float(parse_length(text, field=field).mm)
