"""Pages of this server by their addresses, for other devices and for paper."""

from urllib.parse import urlencode, urlsplit

from fastapi import Request

from valleywind.api.guard import LOOPBACK
from valleywind.formats import qr
from valleywind.formats.qr import Mark


def address_for_others(request: Request) -> str:
    """The address of this server for other devices: the one that was asked under, where others reach that; else its own
    on the network; empty where it listens on this machine alone."""
    if not request.app.state.address:
        return ""
    host = urlsplit(f"//{request.headers.get('host', '')}").hostname
    return request.app.state.address if host in LOOPBACK else f"{request.url.scheme}://{request.headers['host']}"


def mark_of(request: Request, path: str, number: int | None = None) -> Mark:
    """What leads from a sheet back to its page: a code, where others reach this server, and the number in the log."""
    base = address_for_others(request)
    return Mark(qr.modules(base + path) if base else [], number)


def station_path(station: str, machine: str, ask: str, train: str) -> str:
    """The page of a set-up."""
    return f"/{station}/{machine}?{urlencode({'ask': ask, 'train': train})}"
