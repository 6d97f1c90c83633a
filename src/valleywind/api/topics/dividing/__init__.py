"""Dividing."""

from valleywind.api.topics.dividing import discs_and_plates, ways

ROUTERS = (
    ways.router,
    discs_and_plates.router,
)
