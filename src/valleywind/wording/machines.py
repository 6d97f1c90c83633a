"""A machine's record in words: what turns what, said as it was stated."""

from fractions import Fraction

from valleywind.core.dividing.heads import Head
from valleywind.core.helix.machine import TypedMill
from valleywind.core.hobbing.machine import TypedHobber
from valleywind.core.lathe.machine import Lathe, Step
from valleywind.core.lathe.thread import Way
from valleywind.core.trains.model import spell_stock
from valleywind.core.units import spell
from valleywind.wording.numbers import Units, listed, short_length


def lathe_facts(lathe: Lathe, screw: str, left_hand_screw: bool, units: Units) -> list[tuple[str, str]]:
    """Label and text of everything that is on record for a lathe; `screw` is the lead screw as it was stated."""
    facts = [("Lead screw", f"{screw}, left-hand" if left_hand_screw else screw), ("First shaft", _first(lathe.first))]
    facts.append(("Reverse", "tumbler" if lathe.drive.reverse_lever else "none: an idler decides the hand"))
    if lathe.box:
        facts.append(("Gearbox", f"{len(lathe.box)} steps, {lathe.box[0].name} to {lathe.box[-1].name}"))
    if lathe.first_drivers:
        facts.append(("First driver", f"one of {listed([str(t) for t in lathe.first_drivers], 'or')}"))
    if lathe.last_driven:
        facts.append(("Last wheel", listed([str(t) for t in lathe.last_driven], "or")))
    facts += [("Locked pair", f"{pair.one} and {pair.other}") for pair in lathe.pairs]
    facts += [("Thread dial", f"{dial.teeth} teeth, {dial.marks} marks") for dial in lathe.dials]
    for way, label in ((Way.ALONG, "Feed along"), (Way.ACROSS, "Feed across")):
        if way in lathe.feeds:
            facts.append((label, f"{short_length(lathe.feeds[way], units)} per screw turn"))
    return [*facts, ("Studs", str(lathe.quadrant.studs))]


def _first(steps: tuple[Step, ...]) -> str:
    if len(steps) == 1 and steps[0].ratio == 1:
        return "turns with the spindle"
    return f"{listed([str(step.ratio) for step in steps], 'or')} turn per spindle turn"


def hobber_facts(typed: TypedHobber) -> list[tuple[str, str]]:
    """A hobber's record: label and text, as it was typed."""
    told = [("Index constant", typed.index), ("Feed constant", typed.feed)]
    told += [("Differential constant", typed.differential)]
    return [(label, text) for label, text in told if text] + (
        [("Hob head swivels", _degrees(typed.swivel))] if typed.swivel else []
    )


def mill_facts(typed: TypedMill) -> list[tuple[str, str]]:
    """A mill's record: label and text, as it was typed."""
    swings = Fraction(typed.swing.strip("° ") or 0) > 0
    told = [("Table screw", typed.screw), ("Table swings", _degrees(typed.swing) if swings else "not at all")]
    return told + ([("Lead attachment, worm pairs", typed.pairs)] if typed.pairs else [])


def head_facts(head: Head) -> list[tuple[str, str]]:
    """What a head divides with: label and text."""
    told = [("Worm", f"{spell(head.ratio)} : 1")] if head.ratio else []
    told += [(f"Plate side {n}" if len(head.sides) > 1 else "Plate", " ".join(str(c.holes) for c in side))
             for n, side in enumerate(head.sides, start=1)]  # fmt: skip
    told += [("Direct", " ".join(map(str, head.direct)) + " holes")] if head.direct else []
    told += [("Reads to", angle(head.reads))] if head.reads else []
    if head.geared:
        told.append(("Differential", f"gears {spell_stock(head.gears)}" if head.gears else "gears from the rack"))
    return told


def angle(degrees: Fraction) -> str:
    """A graduation as it is spoken of: `1°`, `5′`, `10″`."""
    for times, sign in ((1, "°"), (60, "′"), (3600, "″")):
        if (degrees * times).denominator == 1:
            return f"{degrees * times}{sign}"
    return f"{spell(degrees)}°"


def _degrees(text: str) -> str:
    return f"{text.strip('° ')}°"
