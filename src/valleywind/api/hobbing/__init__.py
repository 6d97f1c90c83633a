"""The hobber."""

from valleywind.api.hobbing import chart, station, teeth

ROUTERS = (
    station.router,
    teeth.router,
    chart.router,
)
