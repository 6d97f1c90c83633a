"""A machine's record in words: what turns what, said as it was stated."""

from valleywind.core.lathe.machine import Lathe, Step
from valleywind.core.lathe.thread import Way
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
