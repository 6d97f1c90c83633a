"""Sizes of a spur wheel and the true form of its teeth (ISO 21771). Lengths in mm, angles in radians.

shift: profile shift in modules, how far the tooth form stands outward on the same pitch circle.
"""

import math

from valleywind.core.teeth.depth import usual_depth
from valleywind.core.teeth.pitch import WheelFamily


def pitch_radius(teeth: int, family: WheelFamily) -> float:
    """Radius of the pitch circle: m z / 2."""
    return family.module_mm * teeth / 2


def tip_radius(teeth: int, family: WheelFamily, shift: float = 0.0) -> float:
    """Radius over the tips: m (z + 2 ha + 2 x) / 2."""
    return family.module_mm * (teeth / 2 + float(family.addendum) + shift)


def root_radius(teeth: int, family: WheelFamily, shift: float = 0.0) -> float:
    """Radius of the bottom of the gaps, cut to the family's usual whole depth."""
    return tip_radius(teeth, family, shift) - usual_depth(family)


def involute(angle: float) -> float:
    """inv φ = tan φ − φ."""
    return math.tan(angle) - angle


def half_angle(teeth: int, family: WheelFamily, radius: float, shift: float = 0.0) -> float:
    """Half the angle one tooth spans at `radius`, seen from the wheel's centre.

    Below the base circle the flank is drawn radial, so the angle stays as it is there.
    """
    pressure = math.radians(family.pressure_angle)
    base = pitch_radius(teeth, family) * math.cos(pressure)
    at_radius = math.acos(min(1.0, base / max(radius, base)))
    wider = 2 * shift * math.tan(pressure) / teeth
    return math.pi / (2 * teeth) + wider + involute(pressure) - involute(at_radius)


def thickness(teeth: int, family: WheelFamily, radius: float, shift: float = 0.0) -> float:
    """Of a tooth along the circle of this radius: 2 r (π/2z + 2 x tan α/z + inv α − inv φ)."""
    return 2 * radius * half_angle(teeth, family, radius, shift)


def tooth_outline(
    teeth: int, family: WheelFamily, steps: int = 5, shift: float = 0.0, depth: float | None = None, arcs: int = 1
) -> list[tuple[float, float]]:
    """One tooth and half the gap on either side as (radius, angle), the tooth centred on angle 0.

    From the middle of one gap to the middle of the next: repeated z times it is the whole wheel. depth: whole depth,
    else the usual one. steps: straight pieces of a flank; arcs: of half the tip and half the bottom.
    """
    tip = tip_radius(teeth, family, shift)
    root = tip - (usual_depth(family) if depth is None else depth)
    radii = [root + (tip - root) * i / steps for i in range(steps + 1)]
    flank = [(r, half_angle(teeth, family, r, shift)) for r in radii]
    half_step, foot, crest = math.pi / teeth, flank[0][1], flank[-1][1]
    bottom = [(root, -half_step + (half_step - foot) * i / arcs) for i in range(arcs)]
    top = [(tip, -crest + crest * i / arcs) for i in range(1, arcs)]
    left = bottom + [(r, -a) for r, a in flank] + top
    middle = [(tip, 0.0)] if arcs > 1 else []
    return left + middle + [(r, -a) for r, a in reversed(left)]


def span_teeth(teeth: int, family: WheelFamily) -> int:
    """Over how many teeth a span is measured best: z α/π + ½, at least 2."""
    return max(2, round(teeth * math.radians(family.pressure_angle) / math.pi + 0.5))


def span(teeth: int, over: int, family: WheelFamily, shift: float = 0.0) -> float:
    """Distance of parallel jaws over this many teeth without thinning: m cos α (π (k − ½) + z inv α) + 2 x m sin α."""
    pressure = math.radians(family.pressure_angle)
    plain = math.cos(pressure) * (math.pi * (over - 0.5) + teeth * involute(pressure))
    return float(family.module) * (plain + 2 * shift * math.sin(pressure))


def pin_angle(teeth: int, pin: float, family: WheelFamily, shift: float = 0.0, thinner: float = 0.0) -> float:
    """Pressure angle φ at the centre of a pin between two teeth that are this much thinner along the pitch circle, mm:
    inv φ = inv α + D/(m z cos α) − (π/2 + j/m)/z + 2 x tan α/z."""
    pressure = math.radians(family.pressure_angle)
    module = float(family.module)
    wanted = involute(pressure) + pin / (module * teeth * math.cos(pressure)) - math.pi / (2 * teeth)
    wanted -= thinner / (module * teeth)
    return inverse_involute(wanted + 2 * shift * math.tan(pressure) / teeth)


def over_pins(teeth: int, pin: float, family: WheelFamily, shift: float = 0.0, thinner: float = 0.0) -> float:
    """Over two pins of this diameter, the teeth this much thinner along the pitch circle, mm: d_b/cos φ, times
    cos(90°/z) where z is odd, plus D."""
    base = 2 * pitch_radius(teeth, family) * math.cos(math.radians(family.pressure_angle))
    across = base / math.cos(pin_angle(teeth, pin, family, shift, thinner))
    return across * (math.cos(math.pi / (2 * teeth)) if teeth % 2 else 1) + pin


def inverse_involute(value: float) -> float:
    """φ with inv φ = value, by Newton from the series for small angles; value above zero, else 0."""
    if value <= 0:
        return 0.0
    angle: float = min(1.4, (3 * value) ** (1 / 3))
    for _ in range(50):
        step = (involute(angle) - value) / math.tan(angle) ** 2
        angle -= step
        if abs(step) < 1e-15:
            break
    return angle
