"""Devices at the machine."""

from valleywind.api.topics.devices import device_keys, devices, stand_ins

ROUTERS = (
    device_keys.router,
    stand_ins.router,
    devices.router,
)
