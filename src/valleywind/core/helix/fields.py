"""An ask for a helix from plain fields, each as typed."""

from dataclasses import dataclass

from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT
from valleywind.core.helix.ask import MOST_FLUTES, HelixAsk, within_bounds
from valleywind.core.teeth.ask_line import read_pitch
from valleywind.core.teeth.pitch import allowed_angle
from valleywind.core.trains.direction import Hand
from valleywind.core.units import degrees_or_none, mm_or_none, parse_number, parse_whole


@dataclass(frozen=True)
class Fields:
    """Every field as typed, empty where nothing is said; see `HelixAsk`. within: percent."""

    teeth: str = ""
    pitch: str = ""
    angle: str = ""
    helix: str = ""
    lead: str = ""
    hand: str = ""
    diameter: str = ""
    face: str = ""
    mate: str = ""
    cutter: str = ""
    within: str = ""


def ask_from(fields: Fields, machine: str = "") -> HelixAsk:
    """The ask that fields make. Raises Refusal at the field."""
    pitch = read_pitch(fields.pitch) if fields.pitch.strip() else None
    fewest, most = (FEWEST_CUT, MOST_CUT) if pitch else (1, MOST_FLUTES)
    percent = fields.within.strip().removesuffix("%")
    within = parse_number(percent, "within") if percent.strip() else None
    angle = degrees_or_none(fields.angle, "angle")
    return within_bounds(
        HelixAsk(
            parse_whole(fields.teeth, "teeth", fewest, most, "teeth|flutes?") if fields.teeth.strip() else None,
            pitch,
            allowed_angle(angle) if angle is not None else None,
            degrees_or_none(fields.helix, "helix"),
            mm_or_none(fields.lead, "lead"),
            Hand(fields.hand) if fields.hand else None,
            mm_or_none(fields.diameter, "diameter"),
            mm_or_none(fields.face, "face"),
            parse_whole(fields.mate, "mate", FEWEST_CUT, MOST_CUT, "teeth") if fields.mate.strip() else None,
            mm_or_none(fields.cutter, "cutter"),
            within / 100 if within is not None else None,
            machine,
        )
    )
