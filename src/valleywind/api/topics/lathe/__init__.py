"""The lathe."""

from valleywind.api.topics.lathe import chart, check, station

ROUTERS = (
    station.router,
    check.router,
    chart.router,
)
