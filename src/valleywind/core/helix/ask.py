"""What is asked of a mill: `helix 24 m2 30° left face 20`, `lead 300 mm`, `flute 6 lead 12 in on 20 mm`,
`spiral 15° on 20 mm`.

`read` reads a line, `say` spells an ask so that `read` takes it back.
"""

import math
import re
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from valleywind.core.cutting.wheel import FEWEST_CUT, LONGEST_FACE, MOST_CUT, WheelToCut, lead_of_wheel
from valleywind.core.helix.lead import lead_of_spiral
from valleywind.core.refusal import Refusal
from valleywind.core.teeth import ask_line
from valleywind.core.teeth.ask_line import DEGREES, HAND, SIZE, TEETH, Line, size_of, spell_pitch, take_pitch
from valleywind.core.teeth.pitch import Pitch, PitchSystem, allowed_angle
from valleywind.core.trains.direction import Hand, hand_of
from valleywind.core.units import NUMBER, parse_degrees, parse_number, spell, spell_degrees

SHORTEST_LEAD, LONGEST_LEAD = Fraction(1), Fraction(100_000)
USUAL_LENGTH = Fraction(100)
"""The length of a groove that a run-off is told over where nobody says it, mm."""
MOST_FLUTES = 200
LARGEST_WORK, LARGEST_CUTTER = Fraction(1000), Fraction(500)
MOST_WITHIN = Fraction(10)
"""Percent."""
EXAMPLES = (
    "helix 24 m2 30° left", "helix 24 dp12 45° right face 1 in", "lead 300 mm", "flute 6 lead 12 in on 20 mm",
    "spiral 15° on 20 mm",
)  # fmt: skip


@dataclass(frozen=True)
class HelixAsk:
    """A wheel with helical teeth, or grooves of a lead. Lengths in mm, angles in degrees; None where nobody said.

    teeth: of the wheel, or how many grooves. pitch: of a wheel; then helix is at its pitch circle, else at `diameter`,
    which is the outside of the work. lead: where it is said itself. face: how long the teeth or grooves are; mate:
    teeth of the wheel it runs with; cutter: its diameter; within: how far off a lead may be, as a part of it; machine:
    the name said after `on`.
    """

    teeth: int | None = None
    pitch: Pitch | None = None
    angle: Fraction | None = None
    helix: Fraction | None = None
    lead: Fraction | None = None
    hand: Hand | None = None
    diameter: Fraction | None = None
    face: Fraction | None = None
    mate: int | None = None
    cutter: Fraction | None = None
    within: Fraction | None = None
    machine: str = ""

    @property
    def wheel(self) -> bool:
        return self.pitch is not None

    @property
    def to_cut(self) -> WheelToCut | None:
        """The wheel, whose sizes are the same whoever cuts it; None where it is none."""
        if self.pitch is None:
            return None
        assert self.teeth is not None
        assert self.helix is not None
        return WheelToCut(self.teeth, self.pitch, self.angle, self.helix, self.hand, self.face, self.mate)

    @property
    def shown_length(self) -> Fraction:
        """The length that a run-off is told over, mm: the one that is asked, else a usual one."""
        wheel = self.to_cut
        return wheel.shown_face if wheel else self.face or USUAL_LENGTH

    @property
    def wanted_hand(self) -> Hand:
        """Grooves are right-hand unless somebody says otherwise."""
        return self.hand or Hand.RIGHT

    @property
    def wanted_lead(self) -> Fraction:
        """mm, of the count, pitch and angle that are said, or of angle and diameter, or as said."""
        if self.pitch is not None:
            assert self.teeth is not None
            assert self.helix is not None
            return lead_of_wheel(self.pitch.module, self.teeth, self.helix)
        if self.lead is not None:
            return self.lead
        assert self.diameter is not None
        assert self.helix is not None
        return lead_of_spiral(self.diameter, self.helix)

    @property
    def across(self) -> float | None:
        """The diameter at which the angle is told: the pitch circle of a wheel, else the outside; None where that is
        not said."""
        if self.pitch is not None:
            assert self.teeth is not None
            assert self.helix is not None
            return float(self.pitch.module) * self.teeth / math.cos(math.radians(self.helix))
        return float(self.diameter) if self.diameter is not None else None

    @property
    def degrees(self) -> float | None:
        """The helix angle there: tan β = π d/L; None where it takes a diameter that is not said."""
        if self.helix is not None:
            return float(self.helix)
        if self.diameter is None:
            return None
        return math.degrees(math.atan(math.pi * float(self.diameter / self.wanted_lead)))


class HelixMeaning(StrEnum):
    """What a piece of the line was taken for."""

    TEETH = "teeth"
    FLUTES = "flutes"
    PITCH = "pitch"
    PRESSURE_ANGLE = "pressure_angle"
    HELIX = "helix"
    HAND = "hand"
    LEAD = "lead"
    DIAMETER = "work_diameter"
    FACE = "face"
    MATE = "mate"
    CUTTER = "cutter_diameter"
    WITHIN = "within"
    MACHINE = "machine"


Reading = ask_line.Reading[HelixAsk, HelixMeaning]


def is_helix_ask(text: str) -> bool:
    """Whether a line is an ask of the mill wherever it is typed; a bare `lead 300 mm` is the lathe's as well."""
    return re.match(r"[\s/]*(?:helix|spiral|flutes?)\b", text, re.IGNORECASE) is not None


def is_lead_ask(text: str) -> bool:
    return re.match(r"[\s/]*lead\b", text, re.IGNORECASE) is not None


_MAKE = re.compile(r"^[\s/]*(?:make|cut)\b", re.IGNORECASE)
_HELICAL = re.compile(r"\b(?:left|right|lh|rh|helix|helical)\b", re.IGNORECASE)


def is_make_helix(text: str) -> bool:
    """Whether a wheel with helical teeth is to be made: `make 24 m2 30° left`."""
    return _MAKE.match(text) is not None and _HELICAL.search(text) is not None


def read(text: str) -> Reading:
    """Read a line. Never raises: a line that is no ask comes back with a refusal and asks near to it."""
    if is_make_helix(text):
        text = _MAKE.sub("helix", re.sub(r"\b(?:helix|helical)\b", " ", text, flags=re.IGNORECASE))
    return ask_line.read_with(text, EXAMPLES, _read, _nearest)


def _nearest(line: Line[HelixMeaning]) -> tuple[str, ...]:
    teeth = next((re.sub(r"\D", "", text) for text, meant in line.understood if meant is HelixMeaning.TEETH), None)
    if teeth and FEWEST_CUT <= int(teeth) <= MOST_CUT:
        return f"helix {teeth} m2 30° left", f"helix {teeth} m2 30° right face 20"
    return EXAMPLES[:4]


def complete(text: str) -> list[str]:
    """How a line could go on: asks that would be read."""
    ask = read(text).ask
    if ask is None:
        bare = re.match(r"[\s/]*helix\s+(\d{1,4})\b", text, re.IGNORECASE | re.ASCII)
        if bare and FEWEST_CUT <= int(bare[1]) <= MOST_CUT:
            m2 = Pitch(PitchSystem.MODULE, Fraction(2))
            return [say(HelixAsk(int(bare[1]), m2, helix=Fraction(30), hand=hand)) for hand in Hand]
        return list(EXAMPLES[:4])
    ways: list[HelixAsk] = []
    if ask.face is None:
        ways.append(replace(ask, face=Fraction(20)))
    if ask.wheel and ask.mate is None:
        ways.append(replace(ask, mate=ask.teeth))
    if not ask.wheel and ask.diameter is None:
        ways.append(replace(ask, diameter=Fraction(20)))
    if not ask.wheel and ask.hand is None:
        ways += [replace(ask, hand=hand) for hand in Hand]
    return [say(way) for way in ways[:4]]


def _read(line: Line[HelixMeaning], text: str) -> HelixAsk:
    flutes = line.take(r"flutes?\s+(\d{1,6})(?:\s*(?:flutes?|grooves?))?(?!\s*(?:°|deg|mm|in\b|\"))", None)
    first = None
    if flutes:
        line.understood.append((flutes[1], HelixMeaning.FLUTES))
    else:
        first = line.take(rf"helix\s+{TEETH}(?!\s*(?:(?:dp|cp)(?!\s*\d)|°|deg|mm|in\b|\"|m\b))", None)
        if first:
            line.understood.append((first[1], HelixMeaning.TEETH))
        elif not line.take(r"helix(?=\s+lead\b)|helix|spiral|flutes?", None) and not re.match(
            rf"lead\s+{SIZE}", line.rest, re.IGNORECASE
        ):
            raise Refusal("not_a_helix_ask", "ask", text.strip())
    diameter = line.once(
        rf"(?:on|diameter|dia|ø)\s*(?:a\s+)?{SIZE}(?:\s+(?:bar|work|diameter))?", HelixMeaning.DIAMETER
    )
    machine = line.take(r"on\s+(\S.*)", HelixMeaning.MACHINE)
    cutter = line.once(rf"cutter\s+{SIZE}", HelixMeaning.CUTTER)
    lead = line.once(rf"lead\s+{SIZE}", HelixMeaning.LEAD)
    pitch = take_pitch(line, HelixMeaning.PITCH)
    mate = line.once(r"(?:with|mate|pair)\s+(\d{1,4})(?:\s*(?:teeth|t))?", HelixMeaning.MATE)
    face = line.once(rf"(?:face|width|length|long)\s+{SIZE}|{SIZE}\s+(?:wide|face|long)", HelixMeaning.FACE)
    within = line.once(rf"within\s+({NUMBER})\s*%", HelixMeaning.WITHIN)
    angle, helix, hand = _angles(line, pitch is not None)
    teeth = first or flutes
    if teeth is None:
        counted = TEETH if pitch else r"(\d{1,6})\s*(?:flutes?|grooves?)"
        teeth = line.take(counted, HelixMeaning.TEETH if pitch else HelixMeaning.FLUTES)
    line.take(
        r"(?:helical|wheel|gear|a|the|of|groove|grooves)(?:\s+(?:helical|wheel|gear|a|the|of|groove|grooves))*", None
    )
    if line.rest:
        raise Refusal("words_left", "ask", line.rest)
    return within_bounds(
        HelixAsk(
            int(teeth[1]) if teeth else None, pitch, angle, helix, size_of(lead), hand, size_of(diameter),
            size_of(face), int(mate[1]) if mate else None, size_of(cutter),
            parse_number(within[1], "ask") / 100 if within else None, machine[1].strip() if machine else "",
        )
    )  # fmt: skip


def _angles(line: Line[HelixMeaning], wheel: bool) -> tuple[Fraction | None, Fraction | None, Hand | None]:
    """Pressure angle, helix, hand. An angle is the helix unless it is said to be the pressure angle, or another one is
    the helix. Raises Refusal `angle_out_of_range`, `helix_not_cut`, `said_twice`."""
    angle = line.once(rf"(?:pressure|pa)\s+(?:angle\s+)?{DEGREES}|{DEGREES}\s*(?:pressure|pa)(?:\s+angle)?",
                      HelixMeaning.PRESSURE_ANGLE)  # fmt: skip
    helix = line.take(rf"{DEGREES}(?=\s*(?:helix\s*)?{HAND})", HelixMeaning.HELIX) or line.take(
        rf"(?:helix\s+)?{DEGREES}(?:\s*helix)?", HelixMeaning.HELIX
    )
    if helix is None:
        # An angle beside its hand is one without its sign too.
        helix = line.take(rf"({NUMBER})(?=\s+{HAND})", HelixMeaning.HELIX)
    hand = line.once(HAND, HelixMeaning.HAND)
    other = line.once(DEGREES, HelixMeaning.PRESSURE_ANGLE) if wheel and angle is None else None
    if again := line.take(DEGREES, HelixMeaning.HELIX):
        raise Refusal("said_twice", "ask", again[0].strip(), first=helix[0].strip() if helix else "")
    pressure = angle or other
    turned = None
    if helix is not None:
        turned = parse_degrees(next(g for g in helix.groups() if g), "ask")
        if not 0 < turned < 90:
            raise Refusal("helix_not_cut", "ask", spell(turned))
    return (
        allowed_angle(parse_degrees(next(g for g in pressure.groups() if g), "ask")) if pressure else None,
        turned,
        hand_of(hand[1]) if hand else None,
    )


def within_bounds(ask: HelixAsk) -> HelixAsk:
    """The ask where every figure has its bounds and nothing lacks or is said in two ways.

    Raises Refusal, at the field: `needs_helix`, `needs_hand`, `needs_pitch_or_lead`, `lead_or_wheel`, `lead_or_angle`,
    `needs_diameter`, `helix_not_cut`, `whole_out_of_range`, `length_out_of_range`, `only_of_a_wheel`.
    """
    if ask.helix is not None and not 0 < ask.helix < 90:
        raise Refusal("helix_not_cut", "helix", spell(ask.helix))
    if ask.pitch is not None:
        if ask.lead is not None or ask.diameter is not None:
            raise Refusal("lead_or_wheel", "lead" if ask.lead is not None else "diameter", "")
        if ask.teeth is None:
            raise Refusal("needs_teeth", "teeth", "")
        if ask.helix is None:
            raise Refusal("needs_helix", "helix", "")
        if ask.hand is None:
            raise Refusal("needs_hand", "hand", spell_degrees(ask.helix))
    else:
        _allowed_groove(ask)
    fewest, most = (FEWEST_CUT, MOST_CUT) if ask.wheel else (1, MOST_FLUTES)
    for name, count, least in (("teeth", ask.teeth, fewest), ("mate", ask.mate, FEWEST_CUT)):
        if count is not None and not least <= count <= most:
            raise Refusal("whole_out_of_range", name, count, least=least, most=most)
    sizes = (
        ("lead", ask.lead, SHORTEST_LEAD, LONGEST_LEAD),
        ("diameter", ask.diameter, Fraction(1), LARGEST_WORK),
        ("face", ask.face, Fraction(0), LONGEST_FACE),
        ("cutter", ask.cutter, Fraction(5), LARGEST_CUTTER),
    )
    for name, size, smallest, largest in sizes:
        if size is not None and not (smallest <= size <= largest and size):
            raise Refusal("length_out_of_range", name, spell(size), least=spell(smallest), most=spell(largest))
    if ask.within is not None and not 0 < ask.within * 100 <= MOST_WITHIN:
        raise Refusal("tolerance_out_of_range", "within", spell(ask.within * 100), most=MOST_WITHIN)
    if not SHORTEST_LEAD <= ask.wanted_lead <= LONGEST_LEAD:
        lead = spell(round(ask.wanted_lead, 2))
        raise Refusal("length_out_of_range", "lead", lead, least=spell(SHORTEST_LEAD), most=spell(LONGEST_LEAD))
    return ask


def _allowed_groove(ask: HelixAsk) -> None:
    if ask.lead is None and ask.helix is None:
        raise Refusal("needs_pitch_or_lead", "pitch", "")
    if ask.lead is not None and ask.helix is not None:
        raise Refusal("lead_or_angle", "helix", spell_degrees(ask.helix))
    if ask.lead is None and ask.diameter is None:
        raise Refusal("needs_diameter", "diameter", "" if ask.helix is None else spell_degrees(ask.helix))
    if ask.mate is not None or ask.angle is not None:
        raise Refusal("only_of_a_wheel", "mate" if ask.mate is not None else "angle", "")


def say(ask: HelixAsk) -> str:
    """The ask in one line; `read` gives the same."""
    hand = ask.hand.value if ask.hand else ""
    angle = "" if ask.helix is None else spell_degrees(ask.helix)
    if ask.pitch is not None:
        parts = [f"helix {ask.teeth}", spell_pitch(ask.pitch), f"{angle} {hand}"]
    else:
        of = f"lead {spell(ask.lead)} mm" if ask.lead is not None else angle
        start = f"flute {ask.teeth}" if ask.teeth is not None else "helix" if ask.lead is not None else "spiral"
        parts = [start, of, hand]
    parts_known = [
        f"{spell_degrees(ask.angle)} pressure" if ask.angle is not None else "",
        f"on {spell(ask.diameter)} mm" if ask.diameter is not None else "",
        f"face {spell(ask.face)} mm" if ask.face is not None else "",
        f"with {ask.mate}" if ask.mate is not None else "",
        f"cutter {spell(ask.cutter)} mm" if ask.cutter is not None else "",
        f"within {spell(ask.within * 100)} %" if ask.within is not None else "",
        f"on {ask.machine}" if ask.machine else "",
    ]
    return " ".join(part for part in (*parts, *parts_known) if part)
