"""Which wheels the everyday charts of a lathe need."""

from collections import Counter

from valleywind.core.lathe.chart import List, chart, pitches
from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.model import Stock
from valleywind.core.trains.standing import Standing

EVERYDAY = (List.METRIC, List.METRIC_FINE, List.PER_INCH)
"""The lists that a lathe is set up from day by day."""


def uses(lathe: Lathe, stock: Stock) -> Counter[int]:
    """For each tooth number in how many pitches of the everyday lists it stands in the train that comes closest.

    Pitches that are exact or good now; another train may do where this one goes.
    """
    counted: Counter[int] = Counter()
    for row in chart([p for of in EVERYDAY for p in pitches(of)], lathe, stock):
        if row.candidate is not None and row.standing in (Standing.EXACT, Standing.GOOD):
            counted.update(set(row.candidate.train.teeth))
    return counted
