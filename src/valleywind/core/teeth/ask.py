"""What is asked of a wheel to be made: `wheel 57`, `wheel 57 for Plover`, `wheel 41 m1.25`, `wheel 30 16 DP 20°`."""

import re
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import MOST_TEETH, Pitch, PitchSystem, allowed_angle
from valleywind.core.teeth.sizes import FEWEST_SIZED
from valleywind.core.units import parse_number

_NUMBER = r"\d+(?:[./]\d+)?"
_PITCHES = (
    (PitchSystem.DIAMETRAL, rf"({_NUMBER})\s*dp\b"),
    (PitchSystem.DIAMETRAL, rf"\bdp\s*({_NUMBER})"),
    (PitchSystem.MODULE, rf"\b(?:module|mod|m)\s*({_NUMBER})"),
    (PitchSystem.CIRCULAR, rf"({_NUMBER})\s*cp\b"),
)


@dataclass(frozen=True)
class WheelAsk:
    """teeth; pitch and angle in degrees where they are said; machine: the name said after `for`, empty where none."""

    teeth: int
    pitch: Pitch | None = None
    angle: Fraction | None = None
    machine: str = ""


def is_wheel_ask(text: str) -> bool:
    return re.match(r"\s*(?:wheel|gear)\b", text, re.IGNORECASE) is not None


def is_make_ask(text: str) -> bool:
    """Whether a wheel is to be made, not only sized: `make 57 for Plover`."""
    return re.match(r"\s*(?:make|cut)\b", text, re.IGNORECASE) is not None


def read_wheel(text: str) -> WheelAsk:
    """Read an ask for a wheel. Raises Refused `not_a_wheel_ask`, `teeth_out_of_range`, `angle_out_of_range`."""
    rest = re.sub(r"^\s*(?:(?:make|cut)\b\s*)?(?:an?\b\s*)?(?:(?:wheel|gear)\b)?", "", text, flags=re.IGNORECASE)
    rest, _, machine = re.sub(r"\b(?:for|on)\b", "\n", rest, count=1, flags=re.IGNORECASE).partition("\n")
    pitch = None
    for system, pattern in _PITCHES:
        if pitch is None and (match := re.search(pattern, rest, re.IGNORECASE)):
            pitch = Pitch(system, parse_number(match[1], "pitch"))
            rest = rest[: match.start()] + " " + rest[match.end() :]
    angle = None
    if match := re.search(rf"({_NUMBER})\s*(?:°|deg(?:rees)?\b)", rest, re.IGNORECASE):
        angle = allowed_angle(parse_number(match[1], "angle"))
        rest = rest[: match.start()] + " " + rest[match.end() :]
    words = re.sub(r"(?:\b|(?<=\d))(?:teeth|tooth|t|z)\b|[=,;]", " ", rest, flags=re.IGNORECASE).split()
    if len(words) != 1 or not words[0].isascii() or not words[0].isdigit():
        raise Refused("not_a_wheel_ask", "ask", text.strip())
    teeth = int(words[0][:6])
    if not FEWEST_SIZED <= teeth <= MOST_TEETH:
        raise Refused("teeth_out_of_range", "ask", words[0], fewest=FEWEST_SIZED, most=MOST_TEETH)
    return WheelAsk(teeth, pitch, angle, machine.strip())
