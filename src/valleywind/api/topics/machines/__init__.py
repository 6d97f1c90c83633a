"""Machines and their records."""

from valleywind.api.topics.machines import effort, lathe_record, machine_kinds, machine_plate, machine_record, machines

ROUTERS = (
    machines.router,
    machine_kinds.router,
    machine_record.router,
    machine_plate.router,
    lathe_record.router,
    effort.router,
)
