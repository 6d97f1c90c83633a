"""A machine's record in words: what turns what, said as it was stated."""

import math
from fractions import Fraction

from valleywind.core.lathe.machine import Lathe, LeverPosition
from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.trains.box_record import Post
from valleywind.core.trains.quadrant import Part
from valleywind.core.trains.quadrant_record import QuadrantFacts, Source
from valleywind.core.units import MM_PER_INCH, spell_degrees
from valleywind.wording.numbers import Units, fixed, length, listed, short_length, trimmed
from valleywind.wording.trains import PARTS


def lathe_facts(lathe: Lathe, screw: str, left_hand_screw: bool, units: Units) -> list[tuple[str, str]]:
    """Label and text of everything that is on record for a lathe; `screw` is the lead screw as it was stated."""
    facts = [("Lead screw", f"{screw}, left-hand" if left_hand_screw else screw), ("First shaft", _first(lathe.first))]
    if lathe.drive is None:
        facts.append(("Turning senses", "not known"))
    else:
        facts.append(("Reverse", "tumbler" if lathe.drive.reverse_lever else "none: an idler decides the hand"))
    if lathe.box:
        facts.append(("Gearbox", f"{len(lathe.box)} steps, {lathe.box[0].name} to {lathe.box[-1].name}"))
    if lathe.first_drivers:
        facts.append(("First driver", f"one of {listed([str(t) for t in lathe.first_drivers], 'or')}"))
    if lathe.last_driven:
        facts.append(("Last wheel", listed([str(t) for t in lathe.last_driven], "or")))
    facts += [("Locked pair", f"{pair.one} and {pair.other}") for pair in lathe.pairs]
    facts += [("Thread dial", f"{dial.teeth} teeth, {dial.marks} marks") for dial in lathe.dials]
    for way, label in ((CarriageMove.ALONG, "Feed along"), (CarriageMove.ACROSS, "Feed across")):
        if way in lathe.feeds:
            mm = lathe.feeds[way]
            value = f"{trimmed(mm, 4)} mm" if units is Units.MM else f"{trimmed(mm / MM_PER_INCH, 5)} in"
            facts.append((label, f"{value} per screw turn"))
    return facts


_SOURCES = {Source.MEASURED: "measured", Source.GUESSED: "a guess"}


def quadrant_known(facts: QuadrantFacts, units: Units, carrier: str = "Quadrant") -> list[tuple[str, str]]:
    """Label and text of what is on record of a quadrant, each part with where it comes from, and what is not known."""

    def part(of: Part, text: str) -> str:
        source = facts.sources.get(of)
        return f"{text} ({_SOURCES[source]})" if source in _SOURCES else text

    lines = []
    if facts.distance is not None:
        lines.append(part(Part.SHAFTS, f"shafts {length(facts.distance, units)} apart"))
    if facts.slots:
        slots = [f"{length(s.nearest, units)} to {length(s.farthest, units)}" for s in facts.slots]
        lines.append(part(Part.SLOTS, f"{'slot' if len(slots) == 1 else 'slots'} {listed(slots)}"))
    if facts.swing:
        low, high = (fixed(math.degrees(angle), 0) for angle in facts.swing)
        lines.append(part(Part.SWING, f"swing {low}° to {high}°"))
    if Part.COLLARS not in facts.unknown:
        lines.append(part(Part.COLLARS, "collars"))
    if facts.cover is not None:
        lines.append(part(Part.COVER, "cover" if facts.cover else "no cover"))
    if facts.goes_on:
        lines.append(f"{listed([t.notation for t in facts.goes_on])} known to fit")
    missing = [PARTS[p] for p in PARTS if p in facts.unknown and p not in (Part.DIRECTION, Part.STUDS)]
    rows = [(carrier, ", ".join(lines))] if lines else []
    if missing:
        rows.append((f"{carrier}, not known" if lines else carrier, listed(missing) if lines else "not known"))
    return [*rows, ("Studs", "not known" if facts.studs is None else str(facts.studs))]


def quadrant_state(facts: QuadrantFacts) -> str:
    """What is known of a quadrant in a few words: `not known`, `all but cover`, `complete`."""
    missing = [PARTS[p] for p in PARTS if p in facts.unknown]
    if not set(PARTS) - {Part.STUDS} - facts.unknown:
        return "trains known to fit" if facts.goes_on else "not known"
    if {Part.SHAFTS, Part.SLOTS} & facts.unknown:
        return f"needs {listed([PARTS[p] for p in (Part.SHAFTS, Part.SLOTS) if p in facts.unknown])}"
    return f"all but {listed(missing)}" if missing else "complete"


EXAMPLES = {"metric": "A small metric bench lathe", "inch_box": "An inch lathe with a gearbox"}
"""Ready lathes to start from, and what they are called until they get a name of their own."""


def _first(steps: tuple[LeverPosition, ...]) -> str:
    if len(steps) == 1 and steps[0].ratio == 1:
        return "turns with the spindle"
    return f"{listed([str(step.ratio) for step in steps], 'or')} turn per spindle turn"


def post_text(post: Post, units: Units) -> str:
    """`22 × 66 mm (thread worn)`"""
    size = f"{short_length(post.diameter, units).split()[0]} × {short_length(post.length, units)}"
    return f"{size} (thread worn)" if post.worn else size


def angle(degrees: Fraction) -> str:
    """A graduation as it is spoken of: `1°`, `5′`, `10″`."""
    for times, sign in ((1, "°"), (60, "′"), (3600, "″")):
        if (degrees * times).denominator == 1:
            return f"{degrees * times}{sign}"
    return spell_degrees(degrees)
