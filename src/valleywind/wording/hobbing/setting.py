"""Hob head, depth, travel, speed and time in words."""

from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.cutting.wheel import CutWheel, cut_wheel, family_of, pair_of
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import Hobber
from valleywind.core.hobbing.setting import (
    SPEEDS,
    BlankMaterial,
    climbs,
    hob_pitch_diameter,
    hob_turns,
    minutes,
    swivel,
    travel,
)
from valleywind.core.teeth.depth import depths
from valleywind.core.trains.direction import Sense
from valleywind.core.units import spell_degrees
from valleywind.wording.numbers import Units, count, fixed, length, listed, short_length

MATERIALS = {
    BlankMaterial.MILD_STEEL: "mild steel",
    BlankMaterial.STEEL: "steel",
    BlankMaterial.CAST_IRON: "cast iron",
    BlankMaterial.BRASS: "brass",
    BlankMaterial.BRONZE: "bronze",
    BlankMaterial.ALUMINIUM: "aluminium",
    BlankMaterial.ACETAL: "acetal",
}
SEEN = "seen with the hob between you and the work"


@dataclass(frozen=True)
class SettingFact:
    """One figure of setting up; `wrong` where the machine cannot do it."""

    label: str
    text: str
    wrong: bool = False


def head_text(ask: HobAsk, machine: Hobber) -> SettingFact:
    """`30° + 1.98° = 31.98° anticlockwise, seen with the hob between you and the work`"""
    diameter = hob_pitch_diameter(ask)
    if diameter is None:
        return SettingFact("Hob head", _by_the_engraved_angle(ask))
    swivelled = swivel(ask, diameter, machine)
    assert swivelled is not None
    if swivelled.sense is None:
        return SettingFact("Hob head", "stands straight")
    way = "clockwise" if swivelled.sense is Sense.CLOCKWISE else "anticlockwise"
    text = f"{fixed(swivelled.degrees, 2)}° {way}, {SEEN}"
    angle = fixed(swivelled.lead_angle, 2)
    if ask.helical:
        sign = "−" if ask.hand is ask.hob_hand else "+"
        text += f" (helix {spell_degrees(ask.helix)} {sign} lead angle {angle}°)"
    else:
        text += " (the lead angle of the hob)"
    if swivelled.within is False:
        return SettingFact(
            "Hob head", f"{text}. The head turns only {spell_degrees(machine.swivel or Fraction(0))}.", True
        )
    return SettingFact("Hob head", text)


def _by_the_engraved_angle(ask: HobAsk) -> str:
    if not ask.helical:
        way = "anticlockwise" if ask.hob_hand == "right" else "clockwise"
        return f"by the lead angle engraved on the hob, {way}, {SEEN}"
    way = "clockwise" if ask.hand == "right" else "anticlockwise"
    sign = "less" if ask.hand is ask.hob_hand else "and"
    return f"{spell_degrees(ask.helix)} {sign} the lead angle engraved on the hob, {way}, {SEEN}"


def setting_facts(
    ask: HobAsk, machine: Hobber, feed: Fraction | None, material: BlankMaterial, units: Units
) -> list[SettingFact]:
    """Everything that is set beside the wheels."""
    facts = [head_text(ask, machine)]
    wheel = cut_wheel(ask)
    if wheel is not None:
        facts.append(SettingFact("Depth", depth_text(ask, wheel, units)))
        if machine.largest is not None and wheel.tip_diameter > float(machine.largest):
            largest = short_length(machine.largest, units)
            facts.append(SettingFact("Size", f"the machine takes wheels up to {largest}", True))
    way = ask.way or machine.feeds[0]
    if way not in machine.feeds:
        facts.append(SettingFact("Feed way", f"the machine does not feed {way}", True))
    climb = climbs(way, machine)
    if climb is not None:
        sentence = "climb: only with a feed screw without slack" if climb else "conventional"
        facts.append(SettingFact("Cut", f"hob feeds {way}, {sentence}"))
    if wheel is None or ask.hob_diameter is None:
        missing = "diameter of the hob" if wheel is not None else "pitch and the diameter of the hob"
        facts.append(SettingFact("Travel, speed, time", f"say the {missing}"))
        return facts
    diameter = float(ask.hob_diameter)
    low, high = hob_turns(material, diameter)
    speeds = "{} to {} m/min".format(*SPEEDS[material])
    sentence = f"{low} to {high} turns a minute for {MATERIALS[material]} ({speeds}); the maker’s figures first"
    facts.append(SettingFact("Hob speed", sentence))
    going = travel(ask, machine)
    if going is None:
        facts.append(SettingFact("Travel and time", "say the face"))
        return facts
    text = (
        f"{length(going.whole, units)}: approach at least {length(going.approach, units)}, "
        f"face {length(going.face, units)}, overrun {length(going.overrun, units)}"
    )
    if going.fits is False:
        travels = short_length(machine.travel or Fraction(0), units)
        facts.append(SettingFact("Travel", f"{text}. The machine travels {travels}.", True))
    else:
        facts.append(SettingFact("Travel", text))
    if going.stack is not None:
        enough = going.stack >= ask.blanks
        facts.append(SettingFact("Stack", f"{count(going.stack, 'blank')} of this face go on the arbor", not enough))
    turns = ask.turns or (low + high) // 2
    if feed is not None:
        whole = minutes(ask.teeth, going.whole, ask.starts, turns, float(feed))
        text = f"{_time(whole)} at {turns} turns a minute and {length(feed, units, 2)} feed"
        if ask.blanks > 1:
            text += f"; {_time(whole / ask.blanks)} for each of {ask.blanks}"
        facts.append(SettingFact("Time in one cut", text))
    return facts


def depth_text(ask: HobAsk, wheel: CutWheel, units: Units) -> str:
    """`4.50 mm from touching: 4.00 mm working depth and 0.50 mm clearance. By other schools …`"""
    family = family_of(ask)
    assert family is not None
    working = 2 * float(family.module * family.addendum)
    deep = length(wheel.depth, units, 2)
    text = f"{deep} from touching: {length(working, units, 2)} working depth and "
    text += f"{length(wheel.depth - working, units, 2)} clearance"
    if ask.depth is not None:
        return f"{text}, as engraved"
    others = sorted({length(d.depth, units, 2) for d in depths(family)} - {deep})
    schools = f"; by other schools {listed(others, 'or')}" if others else ""
    return f"{text}{schools}. What is engraved on the hob goes before"


def _time(minutes: float) -> str:
    if minutes < 1:
        return f"{fixed(minutes * 60, 0)} s"
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest} min" if hours else f"{fixed(minutes, 0 if minutes >= 10 else 1)} min"


def pair_facts(ask: HobAsk, units: Units) -> list[SettingFact]:
    """What the two wheels are to each other."""
    pair = pair_of(ask)
    if pair is None:
        return []
    facts = [
        SettingFact("Centre distance without backlash", length(pair.centres, units, 3)),
        SettingFact("Teeth in contact", fixed(pair.contact, 2), pair.contact < 1),
    ]
    if ask.helical and pair.overlap is not None:
        facts.append(SettingFact("Overlap by the helix", fixed(pair.overlap, 2)))
    facts.append(SettingFact("Tip clearance", length(pair.tip_clearance, units, 2), pair.tip_clearance <= 0))
    low, high = pair.backlash
    facts.append(SettingFact("Usual backlash", f"{length(low, units, 2)} to {length(high, units, 2)}"))
    if pair.mate_hand is not None:
        facts.append(SettingFact("The mate", f"{pair.mate.teeth} teeth, {pair.mate_hand}-hand, the same trains"))
    if pair.digs:
        facts.append(SettingFact("Mesh", "a tip digs into the foot of the other: choose more teeth", True))
    return facts
