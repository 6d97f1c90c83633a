"""Slips of wheels in a sentence, for whatever machine."""

from collections.abc import Sequence

from valleywind.core.trains.slips import SlipKind
from valleywind.wording.numbers import a


def wheels_slip(kind: SlipKind, wheels: Sequence[int]) -> str:
    """`The 66 and the 32 are exchanged on their stud.`; not for a slip that is not one of wheels."""
    match kind:
        case SlipKind.STAGE_EXCHANGED:
            return f"The {wheels[0]} and the {wheels[1]} are exchanged: the driver runs as the driven wheel."
        case SlipKind.STUD_EXCHANGED:
            return f"The {wheels[0]} and the {wheels[1]} are exchanged on their stud."
        case SlipKind.WHEELS_EXCHANGED:
            return f"The {wheels[0]} and the {wheels[1]} stand in each other’s place."
        case SlipKind.REPLACED:
            return f"{a(wheels[1]).capitalize()} stands where the {wheels[0]} belongs."
        case SlipKind.RUN_AS_IDLER:
            return f"The stud’s {wheels[0]} and {wheels[1]} run as one idler: one of them meshes on both sides."
        case SlipKind.IDLER_EXCHANGED:
            return f"The idler {wheels[0]} and the {wheels[1]} stand in each other’s place."
        case SlipKind.FACTOR:
            raise ValueError(kind)
