"""Devices at the machine in words: how one is connected, what an indicator saw once round."""

from valleywind.core.making.devices import Came, Hello, On, Reading, RunOutReading, Sort
from valleywind.wording.numbers import Units, fixed, length


def connect_hint(port: int | None) -> str:
    """How a device comes to be in the list."""
    if port is None:
        return "There is no port for devices. Start the server with one: valleywind serve --devices 8341"
    return (
        f"Devices connect at port {port}. To try one without any: valleywind device encoder --port {port}. "
        f"One at a serial port: valleywind device serial /dev/ttyUSB0 --port {port}."
    )


RECORDED = "Recorded."
OVERTAKEN = "The session went on without it, so it records nothing. Set it anew at the tooth."


def came(hello: Hello, what: Came) -> str:
    """What a reading means for the move."""
    match what:
        case Came.ARRIVED:
            return "Arrived."
        case Came.PAST if hello.sort is Sort.CAMERA:
            return "Past the mark: back, and come again from the same side."
        case Came.PAST if hello.on is On.WORK:
            return "Past the place: back, and come again from the same side."
        case Came.PAST:
            return "Past the hole: back a full turn, and come again from the same side."
        case Came.BACKWARDS:
            return "Turned the wrong way: back to where it was, then on the right way."
        case Came.LOST:
            return "It was not heard in between, so nothing goes on by it. Set it anew at the tooth."


def reading(hello: Hello, latest: Reading, units: Units) -> str:
    """What a device told last: `4.211 turns`, `mark 3.0`, `−0.021 mm`; empty for nothing, or where it saw nothing."""
    if latest is None:
        return ""
    match hello.sort:
        case Sort.ENCODER:
            return f"{fixed(float(latest), 3)} turns"
        case Sort.CAMERA:
            return f"mark {fixed(float(latest), 1)}"
        case Sort.INDICATOR:
            return length(float(latest), units, 3)
        case Sort.PEDAL:
            return "down" if latest else "up"
        case Sort.CALIPER:
            return str(latest)


def once_round(turned: RunOutReading, units: Units) -> str:
    """The whole reading, and what to tap."""
    sentences = (
        f"Whole reading {length(turned.total, units, 3)}; the middle is off by {length(turned.offset, units, 3)}, "
        f"out of round by {length(turned.rest, units, 3)}."
    )
    if turned.offset <= turned.rest:
        return sentences
    return f"{sentences} Tap it at {fixed(turned.high, 0)}°, by {length(turned.offset, units, 3)}."
