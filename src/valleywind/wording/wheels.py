"""A wheel to be made, in words: its figures, why this depth, what the cutter leaves, how deep now."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.teeth.correction import Plunge, Running, Runout
from valleywind.core.teeth.cutters import FEWEST_CUT, Cutter, Range, numbering, range_of_eight, range_of_fifteen
from valleywind.core.teeth.depth import Depth, DepthSchool
from valleywind.core.teeth.form import FormError
from valleywind.core.teeth.pitch import Pitch, WheelFamily
from valleywind.core.teeth.sizes import Meeting, Sizes, Target, helping_shift, weight
from valleywind.core.units import MM_PER_INCH
from valleywind.wording.numbers import Units, a, fixed, length, small, trimmed
from valleywind.wording.rack.stores import number_text, range_text, set_name

_MADE_FOR_IT = f"they begin at {FEWEST_CUT} teeth: hob it, or make a cutter for it"
NO_USUAL_CUTTER = f"No cutter of the usual sets cuts it: {_MADE_FOR_IT}."

DENSITIES = {"steel": 7.85, "cast iron": 7.2, "brass": 8.5, "aluminium": 2.7, "acetal": 1.41}
"""Materials of wheels, g/cm³."""

_SCHOOLS = {
    DepthSchool.OLD_INCH: ("2.157/P", "older full depth, as 14.5° wheels are cut"),
    DepthSchool.ISO: ("2.25 m", "ISO 53, and coarse 20° wheels"),
    DepthSchool.OLD_METRIC: ("2 1/6 m", "older metric practice"),
    DepthSchool.FINE_INCH: ("2.2/P + 0.002 in", "fine pitches from 20 DP on"),
    DepthSchool.STUB: ("1.8 m", "stub teeth"),
    DepthSchool.ENGRAVED: ("engraved", "as your cutter has it engraved, which goes before every rule"),
}


def fine(mm: float, units: Units) -> str:
    """A length as it is measured: to a micrometre, or a tenth of a thou."""
    return f"{fixed(mm, 3)} mm" if units is Units.MM else f"{fixed(mm / float(MM_PER_INCH), 4)} in"


@dataclass(frozen=True)
class NamedFigure:
    """A figure with its name, and what there is to say of it."""

    label: str
    text: str
    note: str = ""


def held_text(cutter: Cutter) -> str:
    """`A cutter for 55–134 is held.`"""
    return f"A cutter for {range_text((cutter.lowest, cutter.highest))} is held."


def title(teeth: int, family: WheelFamily, machine: str) -> str:
    """`A 57 for Plover`, else `A 57 of 12 DP, 14.5°`."""
    whole = f"{a(teeth)[0].upper()}{a(teeth)[1:]}"
    return f"{whole} for {machine}" if machine else f"{whole} of {set_name(family.pitch, family.pressure_angle)}"


def depth_name(schools: Sequence[Depth], depth: float) -> str:
    """What a depth goes by: its school where it is one's, else that it was typed."""
    school = next((d.school for d in schools if abs(d.depth - depth) < 1e-9), None)
    if school is None:
        return "Depth, as typed"
    return "Depth, as engraved" if school is DepthSchool.ENGRAVED else f"Depth, {_SCHOOLS[school][0]}"


def depth_line(depth: Depth, chosen: bool, units: Units) -> NamedFigure:
    """A whole depth by its school, and whose practice that is."""
    name, why = _SCHOOLS[depth.school]
    note = f"{why}{'; usual for these wheels' if depth.usual and depth.school is not DepthSchool.ENGRAVED else ''}"
    return NamedFigure(name, fine(depth.depth, units), f"taken: {note}" if chosen else note)


def blank_lines(sizes: Sizes, hub: Fraction, material: str, units: Units) -> list[NamedFigure]:
    """What is turned."""
    family = sizes.family
    lines = [
        NamedFigure("Turn the blank to", length(sizes.tip_diameter, units, 2), "over the tips"),
        NamedFigure("Pitch diameter", fine(sizes.pitch_diameter, units)),
        NamedFigure("Root diameter", length(sizes.root_diameter, units, 2), "where the gaps end"),
    ]
    if family.bore:
        key = f", keyway {length(family.key, units, 2)} wide" if family.key else ", no key"
        lines.append(NamedFigure("Bore", f"{length(family.bore, units, 2)}{key}"))
    if family.face:
        beyond = f", hub {length(hub, units, 1)} beyond it" if hub else ""
        lines.append(NamedFigure("Face", f"{length(family.face, units, 2)}{beyond}"))
        grams = weight(sizes, DENSITIES[material])
        heavy = f"{fixed(grams / 1000, 2)} kg" if grams >= 1000 else f"{fixed(grams, 0)} g"
        lines.append(NamedFigure("Weight", heavy, f"a plain disc of {material}"))
    return lines


def target_text(target: Target, units: Units, to: str = " to ") -> str:
    """`29.575 to 29.595 mm`."""
    low, high = fine(target.low, units), fine(target.high, units)
    return f"{low.split(' ')[0]}{to}{high}"


def measure_lines(sizes: Sizes, units: Units) -> list[NamedFigure]:
    """What to measure when the teeth are cut, and what it should come to."""
    return [
        NamedFigure(f"Span over {sizes.over} teeth", target_text(sizes.span, units),
             f"{fine(sizes.span.nominal, units)} without any backlash"),
        NamedFigure(f"Over pins of {fine(sizes.pin, units)}", target_text(sizes.pins, units),
             f"{fine(sizes.pins.nominal, units)} without"),
        NamedFigure("Tooth across its chord", target_text(sizes.chordal, units),
             f"with the vernier set {fine(sizes.chordal_addendum, units)} deep"),
    ]  # fmt: skip


def cutter_lines(sizes: Sizes, serving: Sequence[Cutter], form: FormError | None, units: Units) -> list[NamedFigure]:
    """The cutter by its range, its number in either school, the one held, and what form it leaves."""
    teeth, family = sizes.teeth, sizes.family
    eight, fifteen = range_of_eight(teeth), range_of_fifteen(teeth)
    lines = [NamedFigure("Cutter", "none in the usual sets", _MADE_FOR_IT)]
    if eight is not None:
        lines = _of_the_sets(eight, fifteen, family)
    if serving:
        best = serving[0]
        state = "" if best.condition.value == "good" else f", {best.condition.value}"
        engraved = f"engraved {best.engraved}{state}" if best.engraved else state.removeprefix(", ")
        lines.append(NamedFigure("Yours", range_text((best.lowest, best.highest)), engraved))
    elif eight is not None:
        lines.append(NamedFigure("Yours", "none held", "no cutter held cuts this count"))
    if form is not None:
        lines.append(NamedFigure("Form it leaves", form_text(form, units)))
    return lines


def _of_the_sets(eight: Range, fifteen: Range | None, family: WheelFamily) -> list[NamedFigure]:
    """The cutter's place in the usual sets, by its number in either school."""
    numbers = numbering(eight[0])
    assert numbers is not None
    name = f"{range_text(eight)} of {set_name(family.pitch, family.pressure_angle)}"
    both = (
        f"No. {number_text(numbers.inch)} where a set runs 8 to 1, {number_text(numbers.metric)} where it runs 1 to 8"
    )
    lines = [NamedFigure("Cutter", name, both)]
    if fifteen is not None and fifteen != eight:
        finer = numbering(fifteen[0])
        if finer is not None:
            lines.append(NamedFigure("In a set of fifteen", range_text(fifteen),
                              f"No. {number_text(finer.inch)} or {number_text(finer.metric)}"))  # fmt: skip
    return lines


def signed_small(micrometres: float, units: Units) -> str:
    """`+3.1 µm`, `−0.12 thou`, `0 µm`."""
    sign = "+" if micrometres > 0 else "−" if micrometres < 0 else ""
    return f"{sign}{small(abs(micrometres), units)}"


def form_text(form: FormError, units: Units) -> str:
    """How far the tip is from true, and what that does."""
    if form.teeth == form.true_for:
        return "true: the cutter is made for this very count"
    off = small(abs(form.at_tip) * 1000, units)
    if form.relieves:
        return f"tips {off} thin on each flank: harmless, it runs a little noisier"
    return f"tips {off} thick on each flank: they foul; take the cutter for fewer teeth"


def meeting_line(meeting: Meeting, undercut: bool, units: Units) -> NamedFigure:
    """How it runs with a mate. undercut: whether a hob would cut into the foot of its flanks."""
    digs = "; a tip reaches below the other’s base circle: ease the tips, or shift it" if meeting.digs else ""
    shortened = "; where it is hobbed its undercut shortens that" if undercut else ""
    enough = "" if meeting.contact >= 1.2 else ", too little: it runs in jerks"
    return NamedFigure(
        f"With {a(meeting.mate)}",
        f"{length(meeting.centres, units, 2)} apart",
        f"{fixed(meeting.contact, 2)} teeth in contact{enough}{digs}{shortened}",
    )  # fmt: skip


def remarks(sizes: Sizes, pitch_is_standard: bool, units: Units) -> list[str]:
    """What should be known before metal is cut."""
    remarks_made = []
    if not pitch_is_standard:
        name = set_name(sizes.family.pitch, sizes.family.pressure_angle)
        remarks_made.append(
            f"{name} is not a standard pitch. It is worked out as it stands; cutters for it are hard to find."
        )
    if sizes.wall is not None and sizes.wall < sizes.usual_wall:
        to = "keyway" if sizes.family.key else "bore"
        left = "No metal is left" if sizes.wall <= 0 else f"Only {length(sizes.wall, units, 2)} of metal is left"
        remarks_made.append(
            f"{left} between {to} and root; two modules, {length(sizes.usual_wall, units, 2)}, are usual."
        )
    if sizes.undercut:
        need = helping_shift(sizes.teeth, sizes.family)
        remarks_made.append(
            f"Hobbed or shaped, fewer than {round(sizes.undercut_from)} teeth are undercut at the foot; a form cutter "
            f"does not undercut. A profile shift of {fixed(need, 2)} avoids it."
        )
    if sizes.thin_tip:
        remarks_made.append(f"The tips are only {fixed(sizes.tip_thickness, 2)} mm thick: they bruise. Shift less.")
    if sizes.shift:
        remarks_made.append(
            f"With a profile shift of {trimmed(sizes.shift, 3)} its centre distances are not those of the plain wheels."
        )
    return remarks_made


def plunge_texts(plunge: Plunge, dial: float | None, units: Units) -> list[str]:
    """How deep from touching, and after a measured tooth how much more."""

    def on_dial(mm: float) -> str:
        return f", {trimmed(mm / dial, 1)} divisions of {trimmed_length(dial, units)}" if dial else ""

    texts = [f"From touching the tip go **{fine(plunge.depth, units)}** deep{on_dial(plunge.depth)}."]
    if plunge.more is None:
        return texts
    if plunge.too_thin > 0:
        texts.append(
            f"The tooth is {fine(plunge.too_thin, units)} below what was wanted. Nothing more to cut: it runs with "
            "more backlash than usual. Try it with its mate before making another."
        )
    elif plunge.more <= 0.003:
        texts.append("That is right. No more to cut.")
    else:
        texts.append(f"**{fine(plunge.more, units)}** more{on_dial(plunge.more)}, on all teeth alike.")
    return texts


def trimmed_length(mm: float, units: Units) -> str:
    return f"{trimmed(mm, 4)} mm" if units is Units.MM else f"{trimmed(mm / float(MM_PER_INCH), 5)} in"


_RUNNING = {
    Running.GOOD: "Good: it runs without a tight place.",
    Running.TIGHT_AND_SLACK: "It runs, with a tight and a slack side.",
    Running.RESEAT: "Re-seat it: on the tight side no backlash is left.",
}


def runout_text(runout: Runout, units: Units) -> str:
    """What a runout means, and what to try."""
    tight, meant = small(runout.swing * 1000, units), small(runout.backlash * 1000, units)
    text = f"{_RUNNING[runout.running]} The backlash swings by {tight} either side of the {meant} intended."
    if runout.running is Running.GOOD:
        return text
    return (
        f"{text} Clean the faces, stone the burr, turn the mandrel in its place and do not disturb it. "
        "Machine stopped while a hand is near the cutter."
    )


def table(groups: Sequence[tuple[str, Sequence[NamedFigure]]]) -> list[tuple[str, str]]:
    """Every figure as rows for paper."""
    return [(line.label, ", ".join(filter(None, (line.text, line.note)))) for _, lines in groups for line in lines]


def ask_text(teeth: int, pitch: Pitch | None, machine: str) -> str:
    """What was understood of an ask: `a wheel of 57 teeth for Plover`."""
    parts = [f"a wheel of {teeth} teeth"]
    if pitch is not None:
        parts.append(f"of {set_name(pitch, Fraction(20)).split(',')[0]}")
    return " ".join([*parts, *([f"for {machine}"] if machine else [])])
