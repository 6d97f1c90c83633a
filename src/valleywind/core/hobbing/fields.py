"""An ask for a hobbed wheel from plain fields, each as typed."""

from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT
from valleywind.core.hobbing.ask import FASTEST, MOST_BLANKS, MOST_STARTS, HobAsk, allowed
from valleywind.core.hobbing.machine import FeedWay
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import read_pitch
from valleywind.core.teeth.pitch import allowed_angle
from valleywind.core.trains.direction import Hand
from valleywind.core.units import degrees_or_none, mm_or_none, parse_whole


@dataclass(frozen=True)
class Fields:
    """Every field as typed, empty where nothing is said; see `HobAsk`."""

    teeth: str
    pitch: str = ""
    angle: str = ""
    helix: str = ""
    hand: str = ""
    face: str = ""
    starts: str = ""
    hob_hand: str = ""
    hob_diameter: str = ""
    turns: str = ""
    mate: str = ""
    feed: str = ""
    way: str = ""
    blanks: str = ""
    depth: str = ""


def ask_from(fields: Fields, machine: str = "") -> HobAsk:
    """The ask that fields make. Raises Refusal at the field."""
    helix = degrees_or_none(fields.helix, "helix")
    if helix is not None and not 0 < helix < 90:
        raise Refusal("helix_out_of_range", "helix", fields.helix)
    angle = degrees_or_none(fields.angle, "angle")
    return allowed(
        HobAsk(
            parse_whole(fields.teeth, "teeth", FEWEST_CUT, MOST_CUT, "teeth"),
            pitch=read_pitch(fields.pitch) if fields.pitch.strip() else None,
            angle=allowed_angle(angle) if angle is not None else None,
            helix=helix or Fraction(0),
            hand=Hand(fields.hand) if fields.hand and helix else None,
            face=mm_or_none(fields.face, "face"),
            mate=parse_whole(fields.mate, "mate", FEWEST_CUT, MOST_CUT, "teeth") if fields.mate.strip() else None,
            depth=mm_or_none(fields.depth, "depth"),
            starts=_whole(fields.starts, "starts", MOST_STARTS, "starts?") or 1,
            hob_hand=Hand(fields.hob_hand) if fields.hob_hand else Hand.RIGHT,
            hob_diameter=mm_or_none(fields.hob_diameter, "hob_diameter"),
            turns=_whole(fields.turns, "turns", FASTEST, "rpm"),
            feed=mm_or_none(fields.feed, "feed"),
            way=FeedWay(fields.way) if fields.way else None,
            blanks=_whole(fields.blanks, "blanks", MOST_BLANKS, "blanks?") or 1,
            machine=machine,
        )
    )


def _whole(text: str, field: str, most: int, words: str) -> int | None:
    return parse_whole(text, field, 1, most, words) if text.strip() else None
