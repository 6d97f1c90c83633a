"""Sizes of a wheel."""

from valleywind.api.topics.wheels import wheels

ROUTERS = (wheels.router,)
