"""What is asked of a wheel to be made: `wheel 57`, `wheel 57 for Plover`, `wheel 41 m1.25`, `wheel 30 16 DP 20°`."""

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import DEGREES, TEETH, Line, take_teeth
from valleywind.core.teeth.pitch import MOST_TEETH, Pitch, allowed_angle
from valleywind.core.teeth.sizes import FEWEST_SIZED
from valleywind.core.units import parse_degrees


@dataclass(frozen=True)
class WheelAsk:
    """teeth; pitch and angle in degrees where they are said; machine: the name said after `for`, empty where none;
    addendum: in modules, less than 1 for stub teeth."""

    teeth: int
    pitch: Pitch | None = None
    angle: Fraction | None = None
    machine: str = ""
    addendum: Fraction = Fraction(1)


def is_wheel_ask(text: str) -> bool:
    return re.match(r"\s*(?:wheel|gear)\b", text, re.IGNORECASE) is not None


def is_make_ask(text: str) -> bool:
    """Whether a wheel is to be made, not only sized: `make 57 for Plover`."""
    return re.match(r"\s*(?:make|cut)\b", text, re.IGNORECASE) is not None


def read_wheel(text: str) -> WheelAsk:
    """Read an ask for a wheel.

    Raises Refusal `not_a_wheel_ask`, `words_left` with the words that could not be read, `teeth_out_of_range`,
    `angle_out_of_range`, and those of `take_teeth`.
    """
    line: Line[StrEnum] = Line(text)
    line.take(r"(?:make|cut)", None)
    line.take(r"(?:wheel|gear)", None)
    machine = line.take(r"(?:for|on)\s+(\S.*)", None)
    pitch = take_teeth(line, None)
    match = line.once(DEGREES, None)
    angle = allowed_angle(parse_degrees(match[1], "angle")) if match else None
    teeth = line.take(rf"z\s*=?\s*(\d{{1,6}})|{TEETH}", None)
    while line.take(r"(?:an?|of|the|spur|wheel|gear|teeth|tooth)", None):
        pass
    left = line.rest.strip(" =,;")
    if teeth is None or left:
        raise Refusal("words_left" if teeth and left else "not_a_wheel_ask", "ask", left or text.strip())
    count = int(teeth[1] or teeth[2])
    if not FEWEST_SIZED <= count <= MOST_TEETH:
        raise Refusal("teeth_out_of_range", "ask", teeth[0].strip(), fewest=FEWEST_SIZED, most=MOST_TEETH)
    name = machine[1].strip() if machine else ""
    return WheelAsk(count, pitch.pitch if pitch else None, angle, name, pitch.addendum if pitch else Fraction(1))
