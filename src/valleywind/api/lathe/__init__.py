"""The lathe."""

from valleywind.api.lathe import chart, check, station

ROUTERS = (
    station.router,
    check.router,
    chart.router,
)
