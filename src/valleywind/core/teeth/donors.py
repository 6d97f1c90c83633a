"""How to get a missing wheel: re-cut a larger one, adapt a bought one, turn one from bar. Lengths in mm."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.geometry import root_radius, tip_radius
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import WheelFamily

CLEANING_UP = 2.0
"""On the diameter of a bar, to turn it clean and true."""
FACING = 1.0
"""Along the bar, to face both sides of a blank."""
PARTING = 3.0
"""Width of the parting tool."""
HOLDING = 15.0
"""Along the bar, what the chuck keeps."""

# How far a face width may be off for a wheel to run well enough with another.
_CLOSE_FACE = 0.5


@dataclass(frozen=True)
class WheelToCutDown:
    """A wheel that could be cut down. record: its number in the rack; used: how many trains of the charts have it;
    spare: there is another whole one, or this one cannot run any more."""

    record: int
    teeth: int
    condition: Condition
    spare: bool
    used: int


@dataclass(frozen=True)
class Donor:
    """A held wheel that can be turned down and cut anew. turned_off: on the diameter; under_teeth: metal that its
    gaps leave inside the new tip circle, on the radius."""

    held: WheelToCutDown
    turned_off: float
    under_teeth: float


def donors(teeth: int, family: WheelFamily, held: Sequence[WheelToCutDown]) -> list[Donor]:
    """Wheels of the same family from which one of this count can be cut, those that are missed least first.

    One serves when the bottom of its gaps lies outside the new tip circle: (z + 2 ha) m ≤ d_f.
    """
    new_tip = tip_radius(teeth, family)
    serving = []
    for wheel in held:
        under = root_radius(wheel.teeth, family) - new_tip
        if under >= 0:
            serving.append(Donor(wheel, 2 * (tip_radius(wheel.teeth, family) - new_tip), under))
    return sorted(serving, key=lambda d: (not d.held.spare, d.held.used, d.held.teeth))


class Work(StrEnum):
    """What a bought wheel needs."""

    OPEN_BORE = "open_bore"
    SLEEVE_BORE = "sleeve_bore"
    CUT_KEY = "cut_key"
    WIDEN_KEY = "widen_key"
    NEW_KEY = "new_key"
    NARROW_FACE = "narrow_face"
    THIN_FACE = "thin_face"
    FACE_OFF_HUB = "face_off_hub"
    WASHER = "washer"


@dataclass(frozen=True)
class Alteration:
    """One piece of work, from what size to what size in mm; 0 where there is none yet."""

    work: Work
    size: float
    to: float


def adapting(
    family: WheelFamily, hub: Fraction, bore: Fraction, key: Fraction, face: Fraction, bought_hub: Fraction
) -> list[Alteration]:
    """What a wheel of the right pitch, angle and count needs so that it goes where the family's wheels go.

    hub: how far the family's hubs stand out beyond the face; bore, key, face, bought_hub: of the bought wheel, key and
    hub 0 for none. Raises Refusal `not_positive` (bore, face).
    """
    if bore <= 0 or face <= 0:
        raise Refusal("not_positive", "bore" if bore <= 0 else "face", bore if bore <= 0 else face)
    steps: list[tuple[Work, Fraction, Fraction]] = []
    if bore < family.bore:
        steps.append((Work.OPEN_BORE, bore, family.bore))
    elif bore > family.bore > 0:
        steps.append((Work.SLEEVE_BORE, bore, family.bore))
    if key != family.key and family.key:
        steps.append((Work.CUT_KEY if not key else Work.WIDEN_KEY if key < family.key else Work.NEW_KEY,
                      key, family.key))  # fmt: skip
    if face > family.face + Fraction(_CLOSE_FACE) and family.face:
        steps.append((Work.NARROW_FACE, face, family.face))
    elif face < family.face - Fraction(_CLOSE_FACE):
        steps.append((Work.THIN_FACE, face, family.face))
    if bought_hub > hub:
        steps.append((Work.FACE_OFF_HUB, bought_hub, hub))
    if (stack := family.face + hub - (min(face, family.face) + min(bought_hub, hub))) > 0:
        steps.append((Work.WASHER, Fraction(0), stack))
    return [Alteration(work, float(size), float(to)) for work, size, to in steps]


@dataclass(frozen=True)
class Bar:
    """A piece of bar in stock."""

    record: int
    material: str
    diameter: float
    length: float


@dataclass(frozen=True)
class FromBar:
    """A bar piece that serves. used: length that goes; left: what is left over, the chuck's end included."""

    bar: Bar
    used: float
    left: float


def least_bar(
    teeth: int, family: WheelFamily, hub: Fraction, blanks: int, tip: float | None = None, beyond: float = 0.0
) -> tuple[float, float]:
    """Least diameter of bar, and length for this many blanks: each its face and hub, facing and a parting cut. tip:
    over the tips, where that is not of straight teeth; beyond: what stands out of the chuck behind the last blank,
    where the cutter runs out."""
    each = float(family.face + hub) + FACING + PARTING
    return (tip or 2 * tip_radius(teeth, family)) + CLEANING_UP, blanks * each + beyond


def from_bar(
    teeth: int, family: WheelFamily, hub: Fraction, stock: Sequence[Bar], blanks: int = 1, tip: float | None = None,
    beyond: float = 0.0,
) -> list[FromBar]:  # fmt: skip
    """The pieces that give this many blanks, least waste first: the one with the least metal in the length that goes.
    What the cutter runs out over stays on the bar."""
    diameter, length = least_bar(teeth, family, hub, blanks, tip, beyond)
    pieces = [FromBar(b, length - beyond, b.length - length + beyond) for b in stock
             if b.diameter >= diameter and b.length >= length + HOLDING]  # fmt: skip
    return sorted(pieces, key=lambda f: (f.bar.diameter, f.left))
