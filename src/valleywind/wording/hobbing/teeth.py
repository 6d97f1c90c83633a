"""Sizes of a hobbed wheel, how its teeth are made, and how they run with a mate's, in words."""

from valleywind.core.cutting.wheel import CutWheel, PairOfWheels
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.generating import GeneratedTooth
from valleywind.wording.numbers import Units, length, trimmed


def wheel_facts(wheel: CutWheel, units: Units) -> list[tuple[str, str]]:
    """Sizes of the wheel, and what to measure after the cut."""
    facts = [
        ("Blank over the tips", length(wheel.tip_diameter, units, 2)),
        ("Pitch diameter", length(wheel.pitch_diameter, units, 3)),
        ("Whole depth", length(wheel.depth, units, 2)),
    ]
    if wheel.lead is not None:
        facts.append(("Lead of the helix", length(wheel.lead, units, 2)))
        facts.append(("Cut like a spur wheel of", f"{trimmed(wheel.formative, 1)} teeth"))
    facts += measured_facts(wheel, units)
    if wheel.undercut:
        least = int(wheel.undercut_from)
        facts.append(("Undercut", f"yes: the hob cuts into the foot below {least} teeth of this form"))
    return facts


def measured_facts(wheel: CutWheel, units: Units) -> list[tuple[str, str]]:
    """What the finished wheel measures."""
    facts = []
    if wheel.span is not None:
        span = f"{length(wheel.span.low, units, 3)} to {length(wheel.span.high, units, 3)}"
        facts.append((f"Span over {wheel.over} teeth", span))
    else:
        facts.append(("Span", no_span_text(wheel, units)))
    pin = length(wheel.pin, units, 3)
    if wheel.balls == wheel.rollers:
        return [*facts, (f"Over two pins of {pin}", f"{length(wheel.rollers.nominal, units, 3)} without backlash")]
    return [
        *facts,
        (f"Over two rollers of {pin}", f"{length(wheel.rollers.nominal, units, 3)} without backlash"),
        (f"Over two balls of {pin}", f"{length(wheel.balls.nominal, units, 3)} without backlash"),
    ]


def no_span_text(wheel: CutWheel, units: Units) -> str:
    """Why no span can be measured."""
    if wheel.span_face is None:
        return "none touches between root and tip: measure over pins"
    return f"face too narrow: {length(wheel.span_face, units)} are needed"


def rolling(cut: GeneratedTooth, ask: HobAsk) -> str:
    """What is seen where the hob's rack rolls through the gap."""
    text = "The hob’s teeth stand in a row like a rack, and roll through the gap as the wheel turns."
    if cut.in_proportion:
        text += " No pitch is said: the form is in proportion."
    if cut.wheel.undercut:
        return f"{text} Its corner digs into the foot of the flank: {ask.teeth} teeth are undercut."
    return f"{text} Each place of its flanks leaves a little of the tooth."


def backlash_good(backlash: float, pair: PairOfWheels) -> bool:
    low, high = pair.backlash
    return low * 0.75 <= backlash <= high * 1.5


def backlash_text(backlash: float, pair: PairOfWheels, units: Units) -> str:
    """`Backlash 0.08 mm along the pitch circle: as usual (0.08 to 0.12 mm).`"""
    low, high = pair.backlash
    usual = f"{length(low, units, 2)} to {length(high, units, 2)}"
    if backlash <= 0:
        return f"There is no backlash: {length(-backlash, units, 2)} are missing. The pair jams at this distance."
    text = f"Backlash {length(backlash, units, 2)} along the pitch circle"
    if backlash_good(backlash, pair):
        return f"{text}: as usual ({usual})."
    return f"{text}: {'tight' if backlash < low else 'slack'}; usual is {usual}."
