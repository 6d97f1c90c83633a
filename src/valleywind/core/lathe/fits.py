"""Fits of threads: the clearance a nut has on the pitch diameter, by class, from the tables of the standards.

Metric ISO 965-1:2013, unified ASME B1.1-2003, Acme general purpose ASME B1.5-1997. Other series (Whitworth, BSF, BSP,
BA, trapezoidal of ISO 2903) have classes of their own which are not here: they are judged like a metric thread.

Classes name the screw's tolerance; the nut is the usual one. Lengths in mm, clearances in µm.
"""

import math
from dataclasses import dataclass, replace
from enum import StrEnum

from valleywind.core.lathe.series import Series
from valleywind.core.refusal import Refusal


@dataclass(frozen=True)
class Fit:
    """Guaranteed clearance on the pitch diameter and the tolerances of screw and nut there, µm. own: whether the class
    is one of the thread's own standard; else it is what a metric thread of its size has."""

    allowance: float
    screw_tolerance: float
    nut_tolerance: float
    own: bool = True

    @property
    def mid_tolerance(self) -> float:
        """Clearance of a screw cut to the middle of its tolerance, µm."""
        return self.allowance + self.screw_tolerance / 2


class FitSystem(StrEnum):
    """A standard that gives classes of fit."""

    METRIC = "metric"
    UNIFIED = "unified"
    ACME = "acme"


CLASSES: dict[FitSystem, tuple[str, ...]] = {
    FitSystem.METRIC: (
        "6g",
        "6h",
        "6f",
        "6e",
        "4h",
        "4g",
        "4f",
        "4e",
        "5h",
        "5g",
        "5f",
        "5e",
        "7h",
        "7g",
        "7f",
        "7e",
        "8h",
        "8g",
        "8f",
        "8e",
    ),
    FitSystem.UNIFIED: ("2A", "1A", "3A"),
    FitSystem.ACME: ("2G", "3G", "4G"),
}
"""Classes of each system, the usual one first."""

_SYSTEM_OF = {
    Series.METRIC: FitSystem.METRIC,
    Series.UNC: FitSystem.UNIFIED,
    Series.UNF: FitSystem.UNIFIED,
    Series.UNEF: FitSystem.UNIFIED,
    Series.ACME: FitSystem.ACME,
}


def has_own_classes(series: Series | None) -> bool:
    """Whether the classes of a series are known here; the others are judged like a metric thread of their size."""
    return series in _SYSTEM_OF


def fit_system(series: Series | None) -> FitSystem:
    """The system a thread of this series is judged by; metric where the series has no classes known here."""
    return _SYSTEM_OF.get(series, FitSystem.METRIC) if series else FitSystem.METRIC


def fit(series: Series | None, name: str | None, pitch: float, diameter: float) -> Fit:
    """The fit of a class, the usual one where `name` is None; pitch and diameter in mm.

    Raises Refusal `class_not_of_series` with the classes that there are.
    """
    system = fit_system(series)
    chosen = name or CLASSES[system][0]
    if chosen not in CLASSES[system]:
        raise Refusal("class_not_of_series", "class", chosen, classes=list(CLASSES[system]))
    if system is FitSystem.UNIFIED:
        engaged = 9 * pitch if series is Series.UNEF else diameter
        return _unified_fit(chosen, pitch, diameter, engaged)
    limits = acme_fit(chosen, pitch, diameter) if system is FitSystem.ACME else metric_fit(chosen, pitch, diameter)
    return replace(limits, own=has_own_classes(series))


# Fundamental deviation of the screw: constant and µm per mm of pitch.
_POSITION = {"e": (50.0, 11.0), "f": (30.0, 11.0), "g": (15.0, 11.0), "h": (0.0, 0.0)}


# ISO 965-1, tolerances of grade 6 on the pitch diameter, µm: by the upper end of the diameter step (mm, from the first,
# 0.99, on) and the pitch, those of screw and nut.
_GRADE_SIX: dict[float, dict[float, tuple[int, int]]] = {
    1.4: {0.2: (48, 63), 0.25: (53, 71), 0.3: (56, 75)},
    2.8: {0.2: (50, 67), 0.25: (56, 75), 0.35: (63, 85), 0.4: (67, 90), 0.45: (71, 95)},
    5.6: {0.25: (60, 80), 0.35: (67, 90), 0.5: (75, 100), 0.6: (85, 112), 0.7: (90, 118), 0.75: (90, 118),
          0.8: (95, 125)},
    11.2: {0.5: (85, 112), 0.75: (100, 132), 1: (112, 150), 1.25: (118, 160), 1.5: (132, 180)},
    22.4: {0.5: (90, 118), 0.75: (106, 140), 1: (118, 160), 1.25: (132, 180), 1.5: (140, 190), 1.75: (150, 200),
           2: (160, 212), 2.5: (170, 224)},
    45: {0.75: (112, 150), 1: (125, 170), 1.5: (150, 200), 2: (170, 224), 3: (200, 265), 3.5: (212, 280),
         4: (224, 300), 4.5: (236, 315)},
    90: {1.5: (160, 212), 2: (180, 236), 3: (212, 280), 4: (236, 315), 5: (250, 335), 5.5: (265, 355), 6: (280, 375)},
    180: {2: (190, 250), 3: (224, 300), 4: (250, 335), 6: (300, 400)},
    355: {3: (250, 335), 4: (280, 375), 6: (315, 425)},
}  # fmt: skip
_FIRST_STEP = 0.99
# Preferred numbers of the series R 40, one decade: a tolerance of the next grade stands four of them higher.
_PREFERRED = (
    100, 106, 112, 118, 125, 132, 140, 150, 160, 170, 180, 190, 200, 212, 224, 236, 250, 265, 280, 300, 315, 335, 355,
    375, 400, 425, 450, 475, 500, 530, 560, 600, 630, 670, 710, 750, 800, 850, 900, 950,
)  # fmt: skip
_STEPS_A_GRADE = 4


def metric_fit(name: str, pitch: float, diameter: float) -> Fit:
    """ISO 965-1, nut of grade 6 at position H, all µm: es_g = 15 + 11 P; tolerances from the table of the standard by
    diameter step and pitch. Where the table has no such pitch they follow its rule: T_d2(6) = 90 P^0.4 d^0.1 with the
    geometric mean of the step for d, T_D2(6) = 1.32 T_d2(6), in preferred numbers."""
    constant, per_pitch = _POSITION[name[1]]
    screw, nut = _grade_six(pitch, diameter)
    return Fit(constant + per_pitch * pitch, _of_grade(screw, int(name[0])), nut)


def _grade_six(pitch: float, diameter: float) -> tuple[float, float]:
    """Tolerances of grade 6 of screw and nut, µm."""
    lower = _FIRST_STEP
    for upper, by_pitch in _GRADE_SIX.items():
        if diameter <= upper:
            known = next((row for listed, row in by_pitch.items() if abs(listed - pitch) < 1e-6), None)
            if known is not None:
                return known
            break
        lower = upper
    else:
        upper = 2 * lower
    six = 90 * pitch**0.4 * math.sqrt(lower * upper) ** 0.1
    return _preferred(six), _preferred(1.32 * six)


def _preferred(value: float, further: int = 0) -> float:
    """The preferred number nearest to a value, or one this many places further on."""
    decade: float = 10.0 ** (math.floor(math.log10(value)) - 2)
    place = min(range(len(_PREFERRED) + 1), key=lambda n: abs(_placed(n) * decade - value))
    return _placed(place + further) * decade


def _placed(place: int) -> float:
    decades, within = divmod(place, len(_PREFERRED))
    return _PREFERRED[within] * 10.0**decades


def _of_grade(six: float, grade: int) -> float:
    """A tolerance of grade 6 as that of another grade."""
    return six if grade == _SIX else _preferred(six, _STEPS_A_GRADE * (grade - _SIX))


_SIX = 6
_UNIFIED_FACTOR = {"1A": 1.5, "2A": 1.0, "3A": 0.75}
_UNIFIED_NUT = {"1A": 1.95, "2A": 1.3, "3A": 0.975}


def _unified_fit(name: str, pitch: float, diameter: float, engaged: float) -> Fit:
    """ASME B1.1, inch: T_d2(2A) = 0.0015 (D^⅓ + √LE + 10 P^⅔), LE the length of engagement: D for UNC and UNF, 9 P for
    UNEF; allowance 0.3 of it, none for 3A; nut 2B 1.3 of it."""
    d, p, le = diameter / 25.4, pitch / 25.4, engaged / 25.4
    two = 0.0015 * (d ** (1 / 3) + math.sqrt(le) + 10 * p ** (2 / 3))
    to_um = 25_400 * two
    return Fit(0.0 if name == "3A" else 0.3 * to_um, _UNIFIED_FACTOR[name] * to_um, _UNIFIED_NUT[name] * to_um)


_ACME_ALLOWANCE = {"2G": 0.008, "3G": 0.006, "4G": 0.004}
_ACME_TOLERANCE = {"2G": (0.030, 0.006), "3G": (0.014, 0.0028), "4G": (0.010, 0.002)}


def acme_fit(name: str, pitch: float, diameter: float) -> Fit:
    """ASME B1.5-1997, general purpose, inch: allowance 0.008 √D and tolerance 0.030 √P + 0.006 √D for 2G."""
    root_d, root_p = math.sqrt(diameter / 25.4), math.sqrt(pitch / 25.4)
    per_p, per_d = _ACME_TOLERANCE[name]
    tolerance = 25_400 * (per_p * root_p + per_d * root_d)
    return Fit(25_400 * _ACME_ALLOWANCE[name] * root_d, tolerance, tolerance)
