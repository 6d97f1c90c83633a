"""Fits of threads: the clearance a nut has on the pitch diameter, by class, from the formulas of the standards.

Classes name the screw's tolerance; the nut is the usual one. Lengths in mm, clearances in µm.
"""

import math
from dataclasses import dataclass
from enum import StrEnum

from valleywind.core.lathe.series import Series
from valleywind.core.refusal import Refused


@dataclass(frozen=True)
class Fit:
    """Guaranteed clearance on the pitch diameter and the tolerances of screw and nut there, µm."""

    allowance: float
    screw_tolerance: float
    nut_tolerance: float

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
    FitSystem.METRIC: ("6g", "4h", "6h", "6f", "6e", "8g"),
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

    Raises Refused `class_not_of_series` with the classes that there are.
    """
    system = fit_system(series)
    chosen = name or CLASSES[system][0]
    if chosen not in CLASSES[system]:
        raise Refused("class_not_of_series", "class", chosen, classes=list(CLASSES[system]))
    return _FITS[system](chosen, pitch, diameter)


_GRADE_FACTOR = {4: 0.63, 5: 0.8, 6: 1.0, 7: 1.25, 8: 1.6}
# Fundamental deviation of the screw: constant and µm per mm of pitch.
_POSITION = {"e": (50.0, 11.0), "f": (30.0, 11.0), "g": (15.0, 11.0), "h": (0.0, 0.0)}


def metric_fit(name: str, pitch: float, diameter: float) -> Fit:
    """ISO 965-1, nut of grade 6 at position H: es_g = 15 + 11 P, T_d2(6) = 90 P^0.4 d^0.1, T_D2(6) = 1.32 T_d2(6),
    all µm; other grades 0.63, 0.8, 1.25, 1.6 of grade 6."""
    constant, per_pitch = _POSITION[name[1]]
    six = 90 * pitch**0.4 * diameter**0.1
    return Fit(constant + per_pitch * pitch, six * _GRADE_FACTOR[int(name[0])], 1.32 * six)


_UNIFIED_FACTOR = {"1A": 1.5, "2A": 1.0, "3A": 0.75}
_UNIFIED_NUT = {"1A": 1.95, "2A": 1.3, "3A": 0.975}


def _unified_fit(name: str, pitch: float, diameter: float) -> Fit:
    """ASME B1.1, inch: T_d2(2A) = 0.0015 D^⅓ + 0.0015 √Le + 0.015 P^⅔ with Le = D; allowance 0.3 of it, none for 3A."""
    d, p = diameter / 25.4, pitch / 25.4
    two = 0.0015 * d ** (1 / 3) + 0.0015 * math.sqrt(d) + 0.015 * p ** (2 / 3)
    to_um = 25_400 * two
    return Fit(0.0 if name == "3A" else 0.3 * to_um, _UNIFIED_FACTOR[name] * to_um, _UNIFIED_NUT[name] * to_um)


_ACME_ALLOWANCE = {"2G": 0.008, "3G": 0.006, "4G": 0.004}
_ACME_TOLERANCE = {"2G": (0.030, 0.006), "3G": (0.014, 0.0028), "4G": (0.010, 0.002)}


def _acme_fit(name: str, pitch: float, diameter: float) -> Fit:
    """ASME B1.5, general purpose, inch: allowance 0.008 √D and tolerance 0.030 √P + 0.006 √D for 2G."""
    root_d, root_p = math.sqrt(diameter / 25.4), math.sqrt(pitch / 25.4)
    per_p, per_d = _ACME_TOLERANCE[name]
    tolerance = 25_400 * (per_p * root_p + per_d * root_d)
    return Fit(25_400 * _ACME_ALLOWANCE[name] * root_d, tolerance, tolerance)


_FITS = {FitSystem.METRIC: metric_fit, FitSystem.UNIFIED: _unified_fit, FitSystem.ACME: _acme_fit}
