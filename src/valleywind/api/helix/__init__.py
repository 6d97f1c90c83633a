"""The mill."""

from valleywind.api.helix import chart, station

ROUTERS = (
    station.router,
    chart.router,
)
