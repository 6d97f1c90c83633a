"""The rack in words: what stands out, what a wheel may be, what to measure next."""

from collections.abc import Sequence

from valleywind.core.lathe.thread import pitch_name
from valleywind.core.teeth.identify import Identity, Next, Residual, ToMeasure
from valleywind.core.teeth.pitch import PitchSystem, WheelFamily
from valleywind.core.teeth.strays import Stray, Why
from valleywind.core.units import MM_PER_INCH, spell, spell_degrees, spell_inch
from valleywind.wording.numbers import Units, a, length, listed, percent, short_length, trimmed


def family_text(family: WheelFamily) -> str:
    """`12 DP, 14.5°, bore 7/8 in, key 3/16 in, face 5/8 in`; lengths as the pitch is stated."""
    inch = family.pitch.system is not PitchSystem.MODULE
    sizes = [("bore", family.bore), ("key", family.key), ("face", family.face)]
    parts = [pitch_name(family.pitch), spell_degrees(family.pressure_angle)]
    parts += ["stub"] if family.addendum < 1 else []
    return ", ".join(parts + [f"{name} {_size(mm, inch)}" for name, mm in sizes if mm])


def _size(mm: object, inch: bool) -> str:
    return f"{spell_inch(mm / MM_PER_INCH)} in" if inch else f"{spell(mm)} mm"  # type: ignore[operator, arg-type]


def left_out(strays: Sequence[tuple[int, WheelFamily | None]], own: WheelFamily | None) -> str | None:
    """Why some wheels of a machine's box are in no plan: `Left out: a 36 of module 1.25, which …`. own: what goes on
    the machine, None where its pitch is not known."""
    return f"Left out: {listed([_why_left_out(*stray, own) for stray in strays])}." if strays else None


def _why_left_out(teeth: int, family: WheelFamily | None, own: WheelFamily | None) -> str:
    if family is None:
        return f"{a(teeth)} not identified" if own else f"{a(teeth)} that is chipped"
    if own is None:
        return f"{a(teeth)} of {pitch_name(family.pitch)}, for the pitch of this lathe’s wheels is not known"
    if (family.module, family.pressure_angle) != (own.module, own.pressure_angle):
        return f"{a(teeth)} of {pitch_name(family.pitch)}, which does not mesh with {pitch_name(own.pitch)}"
    return f"{a(teeth)} that is chipped or of another bore"


def stray_text(stray: Stray, machine: str, family: WheelFamily | None) -> str:
    """Why a wheel goes with nothing: `in Plover’s box, but module 1.25 meshes with none of its wheels`."""
    if stray.why is Why.NOT_RECOGNISED or family is None:
        return "not identified"
    if stray.why is Why.ON_NO_MACHINE:
        return "fits no machine of this shop"
    text = f"in {machine}’s box, but {pitch_name(family.pitch)} meshes with none of its wheels"
    return text + ("; same bore: may stand on a stud beside one of them" if stray.same_bore else "")


def identity(identity: Identity) -> str:
    """`20 DP, 14.5°`, `module 1.25, stub`, `module 2, 20°, shifted +0.5`."""
    angle = f", {identity.pressure_angle:g}°" if identity.pressure_angle is not None else ""
    stub = ", stub" if identity.addendum < 1 else ""
    return f"{pitch_name(identity.pitch)}{angle}{stub}{shift_text(identity.shift)}"


def shift_text(shift: float) -> str:
    """`, shifted +0.5`; empty for none."""
    return f", shifted {'+' if shift > 0 else '−'}{abs(shift):g}" if shift else ""


def shifted_wheel(shift: float, family: WheelFamily | None) -> str:
    """What a wheel's shift does; empty for none."""
    if not shift or family is None:
        return ""
    way = "farther from" if shift > 0 else "nearer to"
    apart = trimmed(abs(shift) * family.module_mm, 2)
    return f"{shift_text(shift).removeprefix(', ')}: it stands about {apart} mm {way} its mates"


def likelihood(identity: Identity) -> str:
    """`96 %`, `less than 1 %`; `does not fit` where a reading misses by more than measuring can."""
    if not identity.fits:
        return "does not fit"
    if identity.probability < 0.01:
        return "less than 1 %"
    if identity.probability > 0.9 and not identity.enough:
        return "likely"
    return "sure" if identity.sure and identity.probability > 0.995 else percent(identity.probability)


def residual(residual: Residual, units: Units) -> str:
    """`tip 0.06 mm small`."""
    name = {"tip": "tip diameter", "pins": "over pins", "centres": "centre distance"}.get(
        residual.of, f"{residual.of} teeth"
    )
    size = length(abs(residual.off), units, 2)
    return (
        f"{name} {size} {'small' if residual.off < 0 else 'large'} ({length(residual.expected, units, 2)} is nominal)"
    )


_NONE = "None of the standard wheels has these readings; perhaps it is shifted or stub."


def next_text(to_measure: ToMeasure | None, first: Identity, rival: Identity, units: Units) -> str:
    """What to measure next and what it would read for either; where no standard wheel fits, that first."""
    if to_measure is None:
        if first.fits:
            return f"The readings say {identity(first)}: nothing more to measure."
        return f"{_NONE} Count the teeth again and measure again."
    what = {
        Next.TIP: "the tip diameter",
        Next.SPAN: f"the span over {to_measure.over} teeth",
        Next.NEXT_SPAN: f"the span over {to_measure.over} teeth",
        Next.PINS: f"over two pins of {short_length(to_measure.pin, units)}",
    }[to_measure.what]
    spanned = to_measure.what in (Next.SPAN, Next.NEXT_SPAN)
    if not first.fits:
        why = " Two spans that differ by one tooth tell the pitch, whatever the shift." if spanned else ""
        return f"{_NONE} Measure {what} next.{why}"
    one, other = identity(first), identity(rival)
    doubt = "" if first.enough else "One reading is not enough to be sure. "
    readings = [_reading(value, units) for value in (to_measure.one, to_measure.other)]
    if to_measure.tells < 1.5:
        return f"{doubt}No reading tells {one} from {other} well; {what} comes nearest: {readings[0]} or {readings[1]}."
    return f"{doubt}Measure {what} next: {readings[0]} speaks for {one}, {readings[1]} for {other}."


def _reading(mm: float, units: Units) -> str:
    return length(mm, units, 2)
