"""The blank, what holds it and the cutter from the side: does anything foul while the cutter runs through? mm.

The blank's far face lies at 0, toward the head; the cutter runs toward it from above the near face. Along the axis x is
below 0 beyond the far face, where jaws and spacers are; radii are from the work's axis.
"""

import math
from dataclasses import dataclass

from valleywind.core.refusal import Refusal

MARGIN = 1.0
"""What is kept clear of the cutter."""


def past(depth: float, cutter: float) -> float:
    """How far past a face the cutter's axis is when a tooth of this depth is done to the end: √(h (D − h))."""
    if not 0 < depth < cutter:
        raise Refusal("deeper_than_cutter", "depth", depth, most=cutter)
    return math.sqrt(depth * (cutter - depth))


@dataclass(frozen=True)
class SideView:
    """radius: of the blank; face: its width. cutter, collar: diameters, of the cutter and of what clamps it on its
    arbor. jaw_face: how far beyond the far face whatever holds the work begins (chuck jaws, block, head's nose), below
    0 or 0; jaw_radius: how far from the axis it reaches. nut_radius, nut: of the nut or screw before the near face, and
    how far it stands out; 0 for none. centre: of the work over the table, None where nobody says. mandrel: radius of
    what the blank sits on, 0 where it is held by itself or its bore is not known."""

    radius: float
    face: float
    depth: float
    cutter: float
    collar: float
    jaw_face: float
    jaw_radius: float
    nut_radius: float = 0.0
    nut: float = 0.0
    centre: float | None = None
    mandrel: float = 0.0

    @property
    def axis(self) -> float:
        """How high the cutter's axis is over the work's."""
        return self.radius - self.depth + self.cutter / 2

    @property
    def past(self) -> float:
        return past(self.depth, self.cutter)

    @property
    def to_jaws(self) -> float:
        """Between cutter and jaws at the end of the cut; below 0 it fouls."""
        across = -self.past - self.jaw_face
        if across <= 0:
            return self._over(self.jaw_radius)
        return math.hypot(across, max(0.0, self.axis - self.jaw_radius)) - self.cutter / 2

    @property
    def to_nut(self) -> float | None:
        """Between cutter and nut where the cut begins; None without one."""
        if not self.nut_radius:
            return None
        # However far it stands out, the cutter is lowest over its inner end on the way in.
        return self._over(self.nut_radius)

    @property
    def to_collar(self) -> float:
        """Between the arbor's collar and the rim of the blank."""
        return self.axis - self.collar / 2 - self.radius

    @property
    def to_table(self) -> float | None:
        """Between the table and what reaches lowest, blank or jaws; None where its height is not known."""
        return None if self.centre is None else self.centre - max(self.radius, self.jaw_radius)

    @property
    def travel(self) -> float:
        """Of the table, from where the cutter touches the near face at full depth to the end of the cut."""
        return self.face + 2 * self.past

    @property
    def clearances(self) -> dict[str, float]:
        """What is known of jaws, collar, nut and table; below 0 it fouls."""
        known = {"jaws": self.to_jaws, "collar": self.to_collar, "nut": self.to_nut, "table": self.to_table}
        return {what: clear for what, clear in known.items() if clear is not None}

    @property
    def spacer(self) -> float:
        """What is put between jaws and blank until nothing fouls; 0 where nothing is needed."""
        up = max(0.0, self.axis - self.jaw_radius)
        reach = self.cutter / 2 + MARGIN
        if up >= reach:
            return 0.0
        return max(0.0, self.jaw_face + self.past + math.sqrt(reach**2 - up**2))

    def _over(self, radius: float) -> float:
        """From the underside of the cutter to what reaches so far from the work's axis below it."""
        return self.axis - self.cutter / 2 - radius
