"""The mill."""

from valleywind.api.topics.helix import chart, station

ROUTERS = (
    station.router,
    chart.router,
)
