"""Sizes of a wheel."""

from valleywind.api.wheels import wheels

ROUTERS = (wheels.router,)
