"""Cutters, bar stock, sets and ways to get a wheel, in words."""

from collections.abc import Mapping, Sequence
from fractions import Fraction

from valleywind.core.lathe.thread import pitch_name
from valleywind.core.teeth.cutters import FEWEST_CUT, Cutter, Range, School, numbering, school
from valleywind.core.teeth.donors import Alteration, Donor, FromBar, Work
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import Pitch, WheelFamily
from valleywind.core.teeth.sets import SetComparison
from valleywind.core.units import MM_PER_INCH, spell, spell_degrees, spell_inch
from valleywind.wording.numbers import Units, a, length, listed, short_length


def set_name(pitch: Pitch, angle: Fraction) -> str:
    """`12 DP, 14.5°`."""
    return f"{pitch_name(pitch)}, {spell_degrees(angle)}"


def range_text(cuts: Range) -> str:
    """`26–34`, `135 to a rack`, `12`."""
    low, high = cuts
    return f"{low} to a rack" if high is None else str(low) if low == high else f"{low}–{high}"


def counts_text(runs: Sequence[Range]) -> str:
    """The tooth numbers that a set cuts: `12–54 and 135 to a rack`."""
    return listed([range_text(r) for r in runs]) if runs else "none"


def number_text(value: Fraction) -> str:
    """`3`, `7½`."""
    whole, rest = divmod(value, 1)
    return f"{whole}½" if rest else str(whole)


def numbers_text(cutter: Cutter) -> str:
    """`No. 2 from pinion down, 7 the other way; numbered 8 to 1`."""
    numbers = numbering(cutter.lowest)
    if numbers is None:
        return f"engraved {cutter.engraved}" if cutter.engraved else "of no usual set"
    both = f"No. {number_text(numbers.inch)} of a set from 8 to 1, {number_text(numbers.metric)} of one from 1 to 8"
    if not cutter.engraved:
        return both
    convention = school(cutter.engraved, cutter.lowest)
    by_convention = {
        School.INCH: "the set runs 8 to 1",
        School.METRIC: "the set runs 1 to 8",
        None: "alike in both" if numbers.inch == numbers.metric else "which is neither: trust the range",
    }[convention]
    return f"{both}; engraved {cutter.engraved}, {by_convention}"


def cutter_text(cutter: Cutter, place: str, note: str) -> str:
    """Bore, engraved depth, place and note."""
    parts = [f"bore {size_text(cutter.bore)}"] if cutter.bore else []
    parts += [f"depth {size_text(cutter.depth)} engraved"] if cutter.depth else []
    return ", ".join([*parts, *(p for p in (place, note) if p)])


def typed_size(mm: Fraction) -> str:
    """A size so that its field takes it back, in the unit in which it comes out short: `7/8 in`, `8 mm`, empty."""
    return size_text(mm) if mm else ""


def size_text(mm: Fraction) -> str:
    inch = Fraction(mm) / MM_PER_INCH
    return f"{spell_inch(inch)} in" if len(spell_inch(inch)) < len(spell(Fraction(mm))) else f"{spell(Fraction(mm))} mm"


def bar_text(diameter: Fraction, long: Fraction) -> str:
    """`∅ 130 mm × 80 mm`."""
    return f"∅ {size_text(diameter)} × {size_text(long)}"


def piece_name(material: str, diameter: Fraction, long: Fraction, place: str) -> str:
    """`cast iron, ∅ 130 mm × 80 mm, shelf`"""
    return ", ".join(filter(None, [material, bar_text(diameter, long), place]))


def wheel_name(teeth: int, condition: str, place: str) -> str:
    """`80, chipped, peg board`"""
    return ", ".join(filter(None, [str(teeth), "" if condition == Condition.GOOD else condition, place]))


def wheels_text(counts: Mapping[int, int]) -> str:
    """`24 28 2 × 40`."""
    return "  ".join(f"{n} × {teeth}" if n > 1 else str(teeth) for teeth, n in counts.items())


def donor_text(donor: Donor, units: Units) -> str:
    """`turn 12.7 mm off its diameter; 2.1 mm of metal left under its gaps`, and what is lost with it."""
    held = donor.held
    why = (
        "it is chipped and runs no more" if held.condition is Condition.CHIPPED
        else "there is another" if held.spare
        else "no chart needs it" if not held.used
        else f"{held.used} pitch{'es' if held.used > 1 else ''} of the charts would lose a train"
    )  # fmt: skip
    return (
        f"turn {length(donor.turned_off, units, 2)} off its diameter; its gaps end "
        f"{length(donor.under_teeth, units, 2)} outside the new tips. Bore and key are kept; {why}."
    )


def from_bar_text(from_bar: FromBar, units: Units) -> str:
    """`58 mm of it go, 62 mm are left`."""
    return f"{short_length(from_bar.used, units)} of it go, {short_length(from_bar.left, units)} are left"


def step_text(step: Alteration, units: Units) -> str:
    """One piece of work on a bought wheel."""
    size, to = short_length(step.size, units), short_length(step.to, units)
    return {
        Work.OPEN_BORE: f"Bore it out from {size} to {to}.",
        Work.SLEEVE_BORE: f"Sleeve its bore from {size} down to {to}.",
        Work.CUT_KEY: f"Cut a keyway of {to}.",
        Work.WIDEN_KEY: f"Widen the keyway from {size} to {to}.",
        Work.NEW_KEY: f"Its keyway of {size} is too wide: cut another of {to} on the other side.",
        Work.NARROW_FACE: f"Face it from {size} to {to} wide, both sides alike.",
        Work.THIN_FACE: f"It is {size} wide where {to} is usual: it carries less.",
        Work.FACE_OFF_HUB: f"Face its hub off from {size} to {to}." if step.to else f"Face its hub of {size} off.",
        Work.WASHER: f"Make a washer of {to}.",
    }[step.work]


def no_donor(teeth: int) -> str:
    return f"No wheel of the family is large enough to cut {a(teeth)} from."


def sources_head(teeth: int, family: WheelFamily) -> str:
    """`A 60 of 12 DP: ∅ 131.2 mm over the tips`."""
    return f"{a(teeth)[0].upper()}{a(teeth)[1:]} of {set_name(family.pitch, family.pressure_angle)}"


def bar_needed(diameter: float, long: float, blanks: int, units: Units, enough: bool) -> str:
    """What bar the blanks need, and that there is none where there is none."""
    what = f"{blanks} blanks need" if blanks > 1 else "The blank needs"
    text = f"{what} bar of {length(diameter, units)}, {length(long, units)} of its length beside what the chuck holds."
    return text if enough else f"{text} No piece in stock gives that."


def cutter_for(serving: Sequence[Cutter], family: WheelFamily, teeth: int, usual: Range | None) -> str:
    """Which held cutter cuts this wheel, or which one is wanted."""
    if not serving and usual is None:
        return (
            f"No cutter of the usual sets cuts {a(teeth)}: they begin at {FEWEST_CUT} teeth. Hob it, or make a cutter."
        )
    if not serving:
        assert usual is not None
        wanted = set_name(family.pitch, family.pressure_angle)
        return f"No cutter held cuts it: wanted is {wanted}, {range_text(usual)}."
    best = serving[0]
    worn = f" ({best.condition.value})" if best.condition is not Condition.GOOD else ""
    true = "true for this very count" if best.lowest == teeth else f"true for {best.lowest}"
    return f"Your cutter {range_text((best.lowest, best.highest))} cuts it{worn}; it is {true}."


def bought_head(family: WheelFamily, steps: int) -> str:
    """What is taken for granted of a bought wheel, and how much it needs."""
    right = f"Of {set_name(family.pitch, family.pressure_angle)} and the right count"
    return f"{right} it fits as it is." if not steps else f"{right} it needs:"


def set_texts(compared: SetComparison, machine: str) -> list[str]:
    """What a machine's set lacks and has beside its maker's list."""
    listed_count = sum(compared.held.values()) + sum(compared.missing.values())
    sentences = [f"{sum(compared.held.values())} of the {listed_count} wheels on {machine}’s list are there."]
    for counts, says in (
        (compared.missing, "Missing"), (compared.double, "More than listed"), (compared.foreign, "Not on the list"),
    ):  # fmt: skip
        if counts:
            sentences.append(f"{says}: {wheels_text(counts)}.")
    return sentences
