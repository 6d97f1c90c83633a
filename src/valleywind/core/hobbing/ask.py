"""What is asked of a hobber: `hob 37`, `hob 24 m2 30° left face 20 two-start with 24 on Avocet`.

`read` reads a line, `say` spells an ask so that `read` takes it back.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from valleywind.core.cutting.wheel import FEWEST_CUT, LONGEST_FACE, MOST_CUT, WheelToCut
from valleywind.core.hobbing.machine import FeedWay
from valleywind.core.refusal import Refusal
from valleywind.core.teeth import ask_line
from valleywind.core.teeth.ask_line import (
    DEGREES,
    HAND,
    SIZE,
    SIZED,
    TEETH,
    Line,
    size_of,
    spell_pitch,
    take_pitch,
    take_starts,
)
from valleywind.core.teeth.pitch import Pitch, PitchSystem, allowed_angle
from valleywind.core.trains.direction import Hand, hand_of
from valleywind.core.units import NUMBER, parse_degrees, spell, spell_degrees

MOST_STARTS, MOST_BLANKS = 12, 200
USUAL_FEED = Fraction(1)
"""mm per turn of the table, where nobody says."""
LARGEST_HOB = Fraction(500)
FINEST_FEED, COARSEST_FEED = Fraction(1, 100), Fraction(20)
DEEPEST = 4
"""Modules that a whole depth has at most."""
FASTEST = 10_000
"""Turns of the hob in a minute."""
EXAMPLES = ("hob 37", "hob 24 m2", "hob 31 dp12 14.5°", "hob 24 m2 30° left face 20", "hob 60 with 24")
# Angles that hobs are made with; any other angle needs to be told whose it is.
_PRESSURE_ANGLES = tuple(map(Fraction, ("14.5", "15", "17.5", "20", "22.5", "25")))


@dataclass(frozen=True)
class HobAsk(WheelToCut):
    """A wheel to be hobbed. Lengths in mm, angles in degrees; None where nobody said.

    starts, hob_hand, hob_diameter (over the tips), turns (in a minute): of the hob, as the wheel's depth is; its mate
    is cut with the same hob; feed: wished, per table turn; way: of the feed; blanks: on the arbor at once; machine: the
    name said after `on`.
    """

    starts: int = 1
    hob_hand: Hand = Hand.RIGHT
    hob_diameter: Fraction | None = None
    turns: int | None = None
    feed: Fraction | None = None
    way: FeedWay | None = None
    blanks: int = 1
    machine: str = ""

    @property
    def wished_feed(self) -> Fraction:
        return self.feed or USUAL_FEED

    @property
    def stack(self) -> Fraction | None:
        """What is cut at once: all blanks side by side."""
        return None if self.face is None else self.face * self.blanks


class HobMeaning(StrEnum):
    """What a piece of the line was taken for."""

    TEETH = "teeth"
    PITCH = "hob_pitch"
    PRESSURE_ANGLE = "pressure_angle"
    HELIX = "helix"
    FACE = "face"
    STARTS = "hob_starts"
    HOB_HAND = "hob_hand"
    HOB_DIAMETER = "hob_diameter"
    SPEED = "speed"
    MATE = "mate"
    FEED = "hob_feed"
    FEED_WAY = "feed_way"
    BLANKS = "blanks"
    DEPTH = "depth"
    MACHINE = "machine"


Reading = ask_line.Reading[HobAsk, HobMeaning]


def is_hob_ask(text: str) -> bool:
    return re.match(r"[\s/]*hob\b", text, re.IGNORECASE) is not None


def read(text: str) -> Reading:
    """Read a line. Never raises: a line that is no ask comes back with a refusal and asks near to it."""
    return ask_line.read_with(text, EXAMPLES, _read, _nearest)


def _nearest(line: Line[HobMeaning]) -> tuple[str, ...]:
    teeth = next((re.sub(r"\D", "", text) for text, meant in line.understood if meant is HobMeaning.TEETH), None)
    if teeth and FEWEST_CUT <= int(teeth) <= MOST_CUT:
        return f"hob {teeth}", f"hob {teeth} m2 20° right face 20"
    return EXAMPLES[:4]


def complete(text: str) -> list[str]:
    """How a line could go on: asks that would be read."""
    ask = read(text).ask
    if ask is None:
        bare = re.match(r"[\s/]*hob\s+(\d{1,4})\b", text, re.IGNORECASE | re.ASCII)
        ask = HobAsk(int(bare[1])) if bare and FEWEST_CUT <= int(bare[1]) <= MOST_CUT else None
    if ask is None:
        return list(EXAMPLES[:4])
    ways: list[HobAsk] = []
    if ask.pitch is None:
        ways.append(replace(ask, pitch=Pitch(PitchSystem.MODULE, Fraction(2))))
    elif ask.face is None:
        ways.append(replace(ask, face=Fraction(20)))
    if not ask.helical and ask.pitch is not None:
        helix = replace(ask, helix=Fraction(30), face=ask.face or Fraction(20))
        ways += [replace(helix, hand=hand) for hand in (Hand.RIGHT, Hand.LEFT)]
    if ask.starts == 1:
        ways.append(replace(ask, starts=2))
    if ask.mate is None:
        ways.append(replace(ask, mate=24 if ask.teeth != 24 else 60))
    return [say(way) for way in ways[:4]]


def _read(line: Line[HobMeaning], text: str) -> HobAsk:
    first = line.take(rf"hob\s+{TEETH}(?!\s*(?:dp|cp|°|deg|-?\s*starts?\b|blanks?\b|rpm|mm|in\b))", None)
    if first:
        line.understood.append((first[1], HobMeaning.TEETH))
    elif not line.take(r"hob", None):
        raise Refusal("not_a_hob_ask", "ask", text.strip())
    machine = line.take(r"on\s+(\S.*)", HobMeaning.MACHINE)
    diameter = line.once(rf"hob\s*(?:dia(?:meter)?|ø)\.?\s*{SIZE}|hob\s+{SIZED}", HobMeaning.HOB_DIAMETER)
    hob_hand = line.once(rf"{HAND}\s+hob|hob\s+{HAND}", HobMeaning.HOB_HAND)
    pitch = take_pitch(line, HobMeaning.PITCH)
    starts = take_starts(line, HobMeaning.STARTS, MOST_STARTS)
    mate = line.once(r"(?:with|mate|pair)\s+(\d{1,4})(?:\s*(?:teeth|t))?", HobMeaning.MATE)
    feed = line.once(rf"feed\s+{SIZE}(?:/rev|\s+per\s+turn)?", HobMeaning.FEED)
    face = line.once(rf"(?:face|width)\s+{SIZE}|{SIZE}\s+(?:wide|face)", HobMeaning.FACE)
    depth = line.once(rf"depth\s+{SIZE}", HobMeaning.DEPTH)
    blanks = line.once(r"(\d{1,4})\s+blanks?|(?:blanks|stack(?:\s+of)?)\s+(\d{1,4})", HobMeaning.BLANKS)
    turns = line.once(r"(\d{1,6})\s*(?:rpm|1/min)", HobMeaning.SPEED)
    way = line.once(r"feed\s+(up|down)|(up|down)ward", HobMeaning.FEED_WAY)
    angle, helix, hand = _angles(line)
    teeth = first or line.take(TEETH, HobMeaning.TEETH)
    line.take(r"(?:spur|helical|wheel|gear|a|the|of)(?:\s+(?:spur|helical|wheel|gear|a|the|of))*", None)
    if teeth is None or line.rest:
        raise Refusal("words_left" if teeth else "not_a_hob_ask", "ask", line.rest or text.strip())
    ask = HobAsk(
        int(teeth[1]),
        pitch,
        angle,
        helix,
        hand,
        size_of(face),
        int(mate[1]) if mate else None,
        size_of(depth),
        starts=starts or 1,
        hob_hand=_hand(hob_hand) if hob_hand else Hand.RIGHT,
        hob_diameter=size_of(diameter),
        turns=int(turns[1]) if turns else None,
        feed=size_of(feed),
        way=FeedWay(next(g for g in way.groups() if g).lower()) if way else None,
        blanks=int(next(g for g in blanks.groups() if g)) if blanks else 1,
        machine=machine[1].strip() if machine else "",
    )
    return allowed(ask)


def allowed(ask: HobAsk) -> HobAsk:
    """The ask where every figure has its bounds. Raises Refusal, at the field: `whole_out_of_range`,
    `helix_out_of_range`, `needs_hand`, `hand_without_helix`, `length_out_of_range`."""
    counts: tuple[tuple[str, int | None, int, int], ...] = (
        ("teeth", ask.teeth, FEWEST_CUT, MOST_CUT),
        ("mate", ask.mate, FEWEST_CUT, MOST_CUT),
        ("starts", ask.starts, 1, MOST_STARTS),
        ("blanks", ask.blanks, 1, MOST_BLANKS),
        ("turns", ask.turns, 1, FASTEST),
    )
    for name, count, least, most in counts:
        if count is not None and not least <= count <= most:
            raise Refusal("whole_out_of_range", name, count, least=least, most=most)
    if ask.helix and not 0 < ask.helix < 90:
        raise Refusal("helix_out_of_range", "helix", spell(ask.helix))
    if ask.helical and ask.hand is None:
        raise Refusal("needs_hand", "hand", spell_degrees(ask.helix))
    if not ask.helical and ask.hand is not None:
        raise Refusal("hand_without_helix", "hand", ask.hand.value)
    sizes = (
        ("face", ask.face, Fraction(0), LONGEST_FACE),
        ("hob_diameter", ask.hob_diameter, Fraction(1), LARGEST_HOB),
        ("feed", ask.feed, FINEST_FEED, COARSEST_FEED),
        ("depth", ask.depth, Fraction(0), DEEPEST * ask.pitch.module if ask.pitch else LARGEST_HOB),
    )
    for name, size, smallest, largest in sizes:
        if size is not None and not smallest < size <= largest and size != smallest:
            raise Refusal("length_out_of_range", name, spell(size), least=spell(smallest), most=spell(largest))
    return ask


def _angles(line: Line[HobMeaning]) -> tuple[Fraction | None, Fraction, Hand | None]:
    """Pressure angle, helix, hand. An angle beside a hand is the helix; one that hobs are made with is theirs; any
    other needs to be told. Raises Refusal `whose_angle`, `angle_out_of_range`, `helix_out_of_range`."""
    helix: str | None = None
    hand: Hand | None = None
    if match := line.take(rf"(?:helix\s+)?{DEGREES}\s*(?:helix\s*)?{HAND}(?:\s+helix)?", HobMeaning.HELIX):
        helix, hand = match[1], hand_of(match[2])
    elif match := line.take(rf"{HAND}\s+(?:helix\s+)?{DEGREES}(?:\s*helix)?", HobMeaning.HELIX):
        helix, hand = match[2], hand_of(match[1])
    elif match := line.take(rf"helix\s+{DEGREES}|helix\s+({NUMBER})|{DEGREES}\s*helix", HobMeaning.HELIX):
        helix = match[1] or match[2] or match[3]
    if hand is None and (match := line.take(HAND, HobMeaning.HELIX)):
        hand = hand_of(match[1])
    pressure = line.once(
        rf"(?:(pressure|pa)\s+(?:angle\s+)?)?{DEGREES}(?:\s*(pressure|pa))?", HobMeaning.PRESSURE_ANGLE
    )
    angle = parse_degrees(pressure[2], "ask") if pressure else None
    if pressure and angle not in _PRESSURE_ANGLES and not (pressure[1] or pressure[3]):
        if hand is None or helix is not None:
            raise Refusal("whose_angle", "ask", pressure[2])
        helix, angle = pressure[2], None
        line.understood[-1] = (line.understood[-1][0], HobMeaning.HELIX)
    turned = Fraction(0)
    if helix is not None:
        turned = parse_degrees(helix, "ask")
        if not 0 < turned < 90:
            raise Refusal("helix_out_of_range", "ask", helix)
    elif hand is not None and angle is not None and not (pressure and (pressure[1] or pressure[3])):
        # A hand asks for a helix, and there is one angle only.
        turned, angle = angle, None
        line.understood[-1] = (line.understood[-1][0], HobMeaning.HELIX)
    return (allowed_angle(angle) if angle is not None else None), turned, hand


def _hand(match: re.Match[str]) -> Hand:
    return hand_of(next(g for g in match.groups() if g))


def say(ask: HobAsk) -> str:
    """The ask in one line; `read` gives the same."""
    parts: list[tuple[object, Callable[[], str]]] = [
        (ask.pitch, lambda: spell_pitch(ask.pitch) if ask.pitch else ""),
        (ask.angle, lambda: f"{spell_degrees(ask.angle or Fraction(0))} pressure"),
        (ask.helical, lambda: f"{spell_degrees(ask.helix)} {ask.hand.value if ask.hand else ''}"),
        (ask.face, lambda: f"face {spell(ask.face or Fraction(0))} mm"),
        (ask.starts > 1, lambda: f"{ask.starts}-start"),
        (ask.hob_hand is Hand.LEFT, lambda: "left hob"),
        (ask.hob_diameter, lambda: f"hob dia {spell(ask.hob_diameter or Fraction(0))} mm"),
        (ask.depth, lambda: f"depth {spell(ask.depth or Fraction(0))} mm"),
        (ask.turns, lambda: f"{ask.turns} rpm"),
        (ask.mate, lambda: f"with {ask.mate}"),
        (ask.feed, lambda: f"feed {spell(ask.feed or Fraction(0))} mm"),
        (ask.way, lambda: f"feed {ask.way.value if ask.way else ''}"),
        (ask.blanks > 1, lambda: f"{ask.blanks} blanks"),
        (ask.machine, lambda: f"on {ask.machine}"),
    ]
    return " ".join([f"hob {ask.teeth}", *(text() for known, text in parts if known)])
