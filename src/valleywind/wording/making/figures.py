"""What steps and screens tell of a job: material and hazards, schools, speeds, passes, figures to hit and found."""

from collections.abc import Mapping

from valleywind.core.making.job import BLANK_LOW, OUTSIDE, Asks, Job, School, Step, in_tolerance
from valleywind.core.making.materials import MATERIALS, Strength, Stuff, Wet
from valleywind.core.making.screw_wheel import ScrewWheel
from valleywind.core.making.side_view import MARGIN, SideView
from valleywind.core.teeth.correction import Running
from valleywind.core.teeth.cutters import range_of_eight
from valleywind.core.teeth.sizes import Sizes, Target
from valleywind.core.trains.direction import Hand
from valleywind.core.units import spell_degrees
from valleywind.wording.hobbing.answers import pitch_text
from valleywind.wording.numbers import Units, fixed, length, short_length, trimmed
from valleywind.wording.wheels import NO_USUAL_CUTTER, fine
from valleywind.wording.wheels import remarks as wheel_remarks

SCHOOLS = {
    School.MANDREL: ("On a mandrel", "bored first, then finished and cut on a mandrel that it does not leave"),
    School.ONE_SETTING: ("At one setting", "turned and cut on the bar, in one chuck, then parted off"),
    School.CHUCK_MOVED: ("Chuck carried over", "the chuck goes to the head with mandrel and blank in it"),
    School.DONOR: ("From a larger wheel", "turned down and cut anew on its own bore"),
    School.TEMPLATE: ("From an old wheel", "the old wheel on the same shaft tells the gaps, on shaper or planer"),
    School.LATHE_ONLY: ("On the lathe alone", "a printed disc divides, the cutter runs in a vertical slide’s spindle"),
    School.BOLTED: ("Bolted through the web", "on blocks on a rotary table"),
    School.LEAD: ("On the mill, geared to its table", "on a mandrel between the head and the tailstock"),
}
WHY = {
    School.MANDREL: "bore and teeth are true to each other",
    School.ONE_SETTING: "so small a blank is held best by its own bar",
    School.CHUCK_MOVED: "nothing is taken out of the chuck between turning and cutting",
    School.DONOR: "a larger wheel with the right bore is there to be cut down",
    School.TEMPLATE: "no head or table is on record, and a wheel of the same count is there",
    School.LATHE_ONLY: "no head or table is on record",
    School.BOLTED: "so large a blank shakes on a mandrel",
    School.LEAD: "the teeth run round the wheel, so the table turns it while it cuts",
}
_STUFFS = {
    Stuff.STEEL: "Lasts. Free-cutting steel is easily cut; on steel it is loud.",
    Stuff.ALLOY_STEEL: "Strong and slow to cut; hard on the cutter.",
    Stuff.CAST_IRON: "What change wheels are usually of: wears well, runs quiet. Dusty.",
    Stuff.BRASS: "Easy to cut, runs well on steel. Expensive.",
    Stuff.BRONZE: "Wears well on steel. Expensive, and tough to cut.",
    Stuff.ALUMINIUM: "Quick to cut; wears soon and picks up grit. For seldom use.",
    Stuff.ACETAL: "Quiet and quick to cut; its teeth go first when something jams, which may be wanted.",
    Stuff.LAMINATE: "Quiet on metal. Its dust is bad for lungs and slides.",
}
_HAZARDS = {
    Stuff.CAST_IRON: "Dust: extraction on, mask, slides wiped.",
    Stuff.LAMINATE: "Dust: extraction on and a mask; never blow it off.",
    Stuff.BRASS: "Fine chips fly: goggles.",
    Stuff.ALUMINIUM: "Long chips: stop before you clear them.",
}
_WETS = {
    Wet.OIL: "with oil", Wet.DRY: "dry", Wet.DRY_EXTRACTED: "dry, extraction on",
    Wet.PARAFFIN: "with a little paraffin",
}  # fmt: skip
_STRENGTHS = {
    Strength.WEAK: "weak for threading: light cuts, or another material",
    Strength.FAIR: "fair: enough for usual cuts",
    Strength.STRONG: "strong enough",
}


def material(stuff: Stuff) -> str:
    """What there is to say of it."""
    return _STUFFS[stuff]


def hazard(stuff: Stuff) -> str | None:
    return _HAZARDS.get(stuff)


def strength_text(job: Job) -> str:
    """Three words, for guidance."""
    if job.screw_lead is None:
        return "Strength is worked out only for a wheel of a lathe."
    strength = job.strength
    if strength is None:
        return f"Strength of {job.stuff}: no figure here."
    return f"For guidance, while a coarse thread is cut: {_STRENGTHS[strength]}."


def speed_text(job: Job, units: Units) -> str:
    """`82 to 102 turns a minute with a cutter of 60 mm, dry`"""
    low, high = (round(n) for n in job.turns)
    usual = "" if job.cutter else ", if it is of that size"
    wet = _WETS[MATERIALS[job.stuff].wet]
    return f"{low} to {high} turns a minute with a cutter of {short_length(job.across, units)}{usual}, {wet}"


def passes_text(job: Job, units: Units) -> str:
    """Depths from touching: `2.74, 4.11, then 4.57 mm`."""
    depths = [length(d, units, 2) for d in job.passes]
    text = depths[0] if len(depths) == 1 else f"{', '.join(depths[:-1])}, then {depths[-1]}"
    if off := job.passes_off:
        far = "deeper" if off > 0 else "less deep"
        text += f", as typed: the last is {length(abs(off), units, 2)} {far} than what was found asks for"
    return text


def figure(step: Step, units: Units) -> str:
    """What is to be hit."""
    if step.asks is Asks.RUNOUT and step.high is not None:
        return f"at most {length(step.high, units, 2)} in all"
    if step.low is not None and step.high is not None:
        low, high = fine(step.low, units), fine(step.high, units)
        return f"{low} to {high}"
    return ""


def result_text(step: Step, job: Job, units: Units) -> str | None:
    """What a figure that was found means, and what it changes."""
    value = job.figures.get(step.code)
    if value is None:
        return None
    if step.asks is Asks.RUNOUT:
        verdict = job.runout
        assert verdict is not None
        swing = f"the backlash swings by {length(verdict.swing, units, 2)} either side"
        return {
            Running.GOOD: f"Good: {swing}.",
            Running.TIGHT_AND_SLACK: f"Runs, with a tight and a slack side: {swing}.",
            Running.RESEAT: f"Re-seat it: {swing}. Clean the faces, stone the burrs, turn the mandrel in place.",
        }[verdict.running]
    if step.asks is Asks.SPAN:
        more, thin = job.plunge.more, job.plunge.too_thin
        assert more is not None
        if thin:
            return (
                f"Too thin by {fine(thin, units)}: the gaps cut so far are too deep by {fine(-more, units)}. Cut the "
                "others less deep. A mate with less backlash may still run."
            )
        if in_tolerance(step, value):
            return "Right. Cut the rest at this depth."
        now = length(job.depth, units, 2)
        return f"Go **{fine(more, units)}** deeper: the whole depth is now {now}. Then measure again."
    if step.low is None or step.high is None:
        return None
    if in_tolerance(step, value):
        return "Right."
    off = fine(step.low - value if value < step.low else value - step.high, units)
    if step.code in OUTSIDE and value < step.low:
        return f"Small by {off}: the depth is now {length(job.depth, units, 2)}."
    return (
        _OUT[step.code, value > step.high].format(off=off)
        if (step.code, value > step.high) in _OUT
        else (f"Large by {off}: take it off." if value > step.high else f"Small by {off}.")
    )


# What is off and cannot be turned away: the step, and whether it is too large.
_OUT = {
    ("bore", True): "Large by {off}. Cutting cannot put that right: sleeve the bore, or begin another blank.",
    ("bore", False): "Small by {off}: bore it out.",
    ("part_off", False): "Small by {off}. Cutting cannot put that right: a washer makes it up, or begin another blank.",
}


def rack_note(job: Job, figures: Mapping[str, str], day: str) -> str:
    """What the rack says of a wheel made here: `Made here 2026-03-03 of brass. Outside 124.85 mm, span 29.58 mm.`"""
    helix = f", helix {spell_degrees(job.helix.angle)} {job.helix.hand}" if job.helix else ""
    sizes = ", ".join(f"{FIGURE_NAMES.get(code, code)} {_with_unit(figure)}" for code, figure in figures.items())
    note = f"Made here {day} of {job.stuff}{helix}."
    return f"{note} {sizes[0].upper()}{sizes[1:]}."[:_LONGEST_NOTE] if sizes else note


def _with_unit(figure: str) -> str:
    """A bare figure was meant in mm."""
    return f"{figure} mm" if figure[-1:].isdigit() else figure


_LONGEST_NOTE = 200
FIGURE_NAMES = {
    "bore": "bore", "part_off": "width", "outside": "outside", "turn_down": "outside", "runout": "runout",
    "runout_chuck": "runout", "measure": "span",
}  # fmt: skip
"""What the figure that is found at a step is called."""


def remarks(job: Job, pitch_is_standard: bool, units: Units) -> list[str]:
    """What should be known before metal is cut; as the Wheel station says it."""
    sentences = wheel_remarks(job.sizes, pitch_is_standard, units) if job.helix is None else []
    if job.helix is None and range_of_eight(job.teeth) is None:
        sentences.append(NO_USUAL_CUTTER)
    return sentences


def clear_text(job: Job, units: Units) -> str:
    """What is clear at the end of the cut, or what fouls and how thick a spacer makes it clear."""
    view = job.side
    if view is None:
        return "How far jaws and collar are is not said, so nothing is checked here: look."
    sentences = [f"It runs {length(view.past, units)} past the face; the table travels {length(view.travel, units)}."]
    for code, clear in view.clearances.items():
        what = held_by(job) if code == "jaws" else _BESIDE[code]
        if clear < 0 and code == "table":
            sentences.append(
                f"Blank or {held_by(job)} would foul the table by {length(-clear, units)}: set the head on blocks."
            )
        elif clear < 0:
            sentences.append(f"It would foul the {what} by {length(-clear, units)}.")
        else:
            sentences.append(f"{what.capitalize()}: {length(clear, units)} clear.")
    if view.spacer > 0:
        thick = length(view.spacer + 0.05, units)
        sentences.append(f"Put a spacer of **{thick}** between: then {short_length(MARGIN, units)} is clear.")
    return " ".join(sentences)


def by_a_wheel(teeth: int) -> str:
    return f"the {teeth} as its own plate"


def by_a_disc(divisions: int) -> str:
    return f"printed disc of {divisions} marks"


NO_CUTTER = "No cutter in the stores cuts this wheel."
IN_RACK, ALL_CUT = "in the rack", "every gap is cut"


def steps_done(n: int) -> str:
    return f"{n} steps done"


def at_tooth(tooth: int, divisions: int) -> str:
    """Where a job stands that is being cut; tooth from 0."""
    return f"at tooth {tooth + 1} of {divisions}"


def held_by(job: Job) -> str:
    """What is beside the blank on the head's side."""
    return "blocks" if job.school is School.BOLTED else "jaws"


_BESIDE = {"collar": "collar and rim", "nut": "nut", "table": "table"}


def screw_wheel_lines(screw_wheel: ScrewWheel, units: Units) -> list[tuple[str, str]]:
    """What such a wheel takes."""
    return [
        ("Teeth", f"{screw_wheel.teeth}, straight"),
        ("Pitch", f"{pitch_text(screw_wheel.pitch)}; just right would be module {trimmed(screw_wheel.module, 3)}"),
        ("Out over the teeth in contact", fine(screw_wheel.off, units)),
        ("Blank", f"{length(screw_wheel.blank, units, 2)} over the tips"),
        ("Tilt of the head", tilt_text(screw_wheel.tilt, screw_wheel.hand)),
        ("Cutter", "its middle at the centre of the tilted blank: one face is cut above it, the other below, by "
         f"{length(screw_wheel.raised, units, 2)}"),
        ("Pitch diameter", length(screw_wheel.across, units, 2)),
    ]  # fmt: skip


def tilt_text(degrees: float, hand: Hand) -> str:
    """`4.12°, the screw’s lead angle, so that the gaps lean to the right …`"""
    return (
        f"{fixed(degrees, 2)}°, the screw’s lead angle, so that the gaps lean to the {hand} going up, seen on the rim "
        f"with the wheel’s axis upright: as the thread of a {hand}-hand screw does"
    )


def clearances(view: SideView, units: Units) -> dict[str, str]:
    """Each clearance, for its place in the drawing."""
    return {
        "past": length(view.past, units),
        **{what: length(clear, units) for what, clear in view.clearances.items()},
        "travel": length(view.travel, units),
        "spacer": length(view.spacer, units),
        "axis": length(view.axis, units, 2),
    }


def pins_lines(wanted: Sizes, units: Units) -> list[tuple[str, str]]:
    """Over pins; over rollers and over balls where those differ."""
    pin = fine(wanted.pin, units)
    if wanted.balls is None:
        return [(f"Over pins of {pin}", _from_to(wanted.pins, units))]
    return [
        (f"Over rollers of {pin}", _from_to(wanted.pins, units)),
        (f"Over balls of {pin}", _from_to(wanted.balls, units)),
    ]


def _from_to(target: Target, units: Units) -> str:
    return f"{fine(target.low, units)} to {fine(target.high, units)}"


def blank_lines(job: Job, units: Units) -> list[tuple[str, str]]:
    """The figures of the job that are wanted first."""
    wanted = job.sizes
    return [
        ("Blank", f"{length(wanted.tip_diameter, units, 2)}, at most {length(BLANK_LOW, units, 2)} less"),
        ("Depth", length(job.depth, units, 2)),
        ("Passes", passes_text(job, units)),
        *([(f"Span over {wanted.over}", f"{fine(wanted.span.low, units)} to {fine(wanted.span.high, units)}")]
          if job.spans else []),
        *pins_lines(wanted, units),
        ("Chord of the tooth", f"{fine(wanted.chordal.low, units)} to {fine(wanted.chordal.high, units)}, at "
         f"{length(wanted.chordal_addendum, units, 2)} below the tip"),
        ("Speed", speed_text(job, units)),
        ("Strength", strength_text(job)),
    ]  # fmt: skip
