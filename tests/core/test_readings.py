"""Readings taken over a time, together, against sums made another way."""

import random

import numpy as np
import pytest

from valleywind.core.trains.readings import Reading, together


def test_a_worn_screw_shows_though_every_reading_agrees() -> None:
    """Fourteen readings that may each be off by 200 ppm, of a screw 210 ppm short."""
    chance = random.Random(5)
    readings = [Reading(-210e-6 + chance.gauss(0, 100e-6), 200e-6) for _ in range(14)]
    lead = together(readings)
    assert lead is not None
    assert lead.says
    assert lead.relative == pytest.approx(-210e-6, abs=lead.off)
    # Two standard deviations of the mean of fourteen.
    assert lead.off == pytest.approx(200e-6 / np.sqrt(14), rel=0.5)


def test_how_often_a_true_screw_is_called_worn() -> None:
    """Of a thousand true screws about one in twenty, as two standard deviations have it; and the mean is the mean."""
    chance = random.Random(7)
    called = 0
    for _ in range(1000):
        offs = [chance.choice([100e-6, 200e-6, 400e-6]) for _ in range(12)]
        readings = [Reading(chance.gauss(0, off / 2), off) for off in offs]
        lead = together(readings)
        assert lead is not None
        called += lead.says
        if not lead.gone_wrong:
            weights = 1 / np.array(offs) ** 2
            assert lead.relative == pytest.approx(np.average([r.relative for r in readings], weights=weights))
    assert called < 80


def test_what_lies_apart_is_named_and_left_out() -> None:
    readings = [Reading(200e-6 + n * 5e-6, 100e-6) for n in range(8)]
    readings.insert(3, Reading(-2e-2, 100e-6))
    lead = together(readings)
    assert lead is not None
    assert lead.gone_wrong == (3,)
    assert lead.used == 8
    assert lead.relative == pytest.approx(217.5e-6)


def test_readings_that_scatter_more_than_they_may_are_trusted_less() -> None:
    quiet = together([Reading(100e-6, 50e-6)] * 6)
    wild = together([Reading(100e-6 + s * 120e-6, 50e-6) for s in (-1, 1, -1, 1, -1, 1)])
    assert quiet is not None
    assert wild is not None
    assert wild.off > 4 * quiet.off
    assert quiet.says
    assert not wild.says


def test_two_say_nothing_together() -> None:
    assert together([Reading(1e-4, 1e-5)] * 2) is None
    # Nor do three of which one lies apart.
    assert together([Reading(1e-4, 1e-5), Reading(1.1e-4, 1e-5), Reading(5e-2, 1e-5)]) is None
