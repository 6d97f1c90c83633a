"""The hobber."""

from valleywind.api.topics.hobbing import chart, station, teeth

ROUTERS = (
    station.router,
    teeth.router,
    chart.router,
)
