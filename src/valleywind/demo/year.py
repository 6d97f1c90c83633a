"""The demo shop's log of the year before: sluice pins, gauge stems, the tide clock's pair, and a screw that is worn."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from fractions import Fraction
from typing import Any

from sqlalchemy.orm import Session

from valleywind.shop import log
from valleywind.shop.log import LoggedCheck
from valleywind.shop.models import LogKind, LogRow, MachineRow, Outcome


@dataclass(frozen=True)
class _Work:
    """What is cut: the machine by its slug, the ask, the set-up, and what a check of it should measure: in mm over
    turns, or in degrees over turns of the hob, or over the travel of the table."""

    machine: str
    ask: str
    train: str
    what: str = "length"
    over: int = 10
    expected: str = "0"
    off: str = "1/20"


# Over 50 turns a caliper reads the lead to 0.03 % of a millimetre in three.
_PINS = _Work("plover", "M14x2", "76/66*32/78", over=50, expected="99.9949", off="3/100")
_UNION = _Work("plover", "26 tpi", "36/64*32/78", over=50, expected="48.8462", off="3/100")
_STUD = _Work("plover", "M10x1.5", "68/64*32/96", over=50, expected="74.9653", off="3/100")
_STEM = _Work("curlew", "4 BA", "60/50*55/75", over=20, expected="13.2")
_BORING = _Work("curlew", "feed 0.05 mm/rev", "20/75*20/80", over=200, expected="10", off="1/4")
_PIPE = _Work("dunlin", "10 tpi", "32/80/64@10", over=10, expected="25.4")
_BOLT = _Work("dunlin", "8 tpi", "32/80/64@8", over=10, expected="31.75")
_WORM = _Work("plover", "worm module 1.5", "76/28*32/78", over=10, expected="47.1404", off="3/100")
_WHEEL_37 = _Work("avocet", "hob 37", "48/37*40/80@24+52/38/39+", "marks", 1, "37", "1/4")
_WHEEL_71 = _Work("avocet", "hob 71", "48/71*40/80@24+52/38/39+", "marks", 1, "71", "1/4")
_WHEEL_107 = _Work("avocet", "hob 107", "30/38*25/41/44@48+52/36/39+45/90*40/100", "marks", 1, "107", "1/4")
_CLOCK = _Work("heron", "helix 24 m2 30° left", "72/28*52/56@1/2", "degrees", 100, "119.387", "1/2")
_MATE = _Work("heron", "helix 36 m2 30° right", "72/42*52/56@1/2", "degrees", 100, "79.592", "1/2")


class _Writer:
    """Writes the log, each entry this many days before today and at an hour."""

    def __init__(self, session: Session, machines: Sequence[MachineRow]) -> None:
        self._session = session
        self._machines = {row.slug: row for row in machines}
        self._today = datetime.now(UTC).replace(minute=0, second=0, microsecond=0)

    def _add(self, days: int, hour: float, kind: LogKind, work: _Work | None, **more: Any) -> LogRow:
        at = (self._today.replace(hour=0) - timedelta(days=days) + timedelta(hours=hour)).isoformat(timespec="seconds")
        if work is not None:
            row = self._machines[work.machine]
            more = {"machine": row.name, "machine_id": row.id, "ask": work.ask, "train": work.train} | more
        return log.add(self._session, LogRow(at=at, kind=kind, **more))

    def put_on(self, days: int, hour: float, work: _Work) -> None:
        """A set-up put on."""
        about: dict[str, Any] = {"name": self._machines[work.machine].name, "train": work.train, "ask": work.ask}
        code = "mounted"
        if work.machine == "avocet":
            boxes = zip(("index", "feed", "differential"), work.train.split("+"), strict=True)
            about["trains"] = {box: part.partition("@")[0] for box, part in boxes if part.partition("@")[0]}
            code = "boxes_mounted"
        self._add(days, hour, LogKind.CHANGE, work, code=code, about=about)

    def bared(self, days: int, hour: float, machine: str) -> None:
        """The train taken off."""
        row = self._machines[machine]
        self._add(
            days, hour, LogKind.CHANGE, None, code="dismounted", machine=row.name, machine_id=row.id,
            about={"name": row.name},
        )  # fmt: skip

    def checked(self, days: int, hour: float, work: _Work, measured: str, by: str) -> None:
        """A check; a slip is looked for by hand."""
        wanted, read, off = Fraction(work.expected), Fraction(measured), Fraction(work.off)
        lathe = self._machines[work.machine].lathe
        kept = LoggedCheck(
            work.what, read, wanted, off, Fraction(work.over), abs(read - wanted) <= off,
            screw=lathe.screw_lead_mm if lathe else None,
        )  # fmt: skip
        self._add(days, hour, LogKind.CHECK, work, by=by, about=kept.plain)

    def done(
        self, days: int, hour: float, work: _Work, outcome: Outcome, by: str, note: str, about: Mapping[str, Any]
    ) -> LogRow:
        """Work done. about: how many pieces, where not one; what they were tried with."""
        about = {"pieces": 1, **about}
        return self._add(days, hour, LogKind.DONE, work, outcome=outcome, by=by, note=note, about=about)

    def note(self, days: int, hour: float, by: str, note: str) -> None:
        """A note."""
        self._add(days, hour, LogKind.NOTE, None, by=by, note=note)

    def corrected(self, days: int, hour: float, wrong: LogRow, by: str, reason: str) -> None:
        """An entry struck through."""
        self._add(
            days, hour, LogKind.CORRECTION, None, by=by, note=reason, corrects=wrong.id,
            machine=wrong.machine, machine_id=wrong.machine_id, ask=wrong.ask, train=wrong.train,
        )  # fmt: skip


def write_year(session: Session, machines: Sequence[MachineRow]) -> None:
    """The log of a year, up to some days ago."""
    year = _Writer(session, machines)
    nut, gauge, mate = ({"tried": what} for what in ("nut", "gauge", "mate"))
    free, tight, scrapped = Outcome.RAN_FREE, Outcome.TIGHT, Outcome.SCRAPPED
    year.note(362, 9, "R", "Change wheels of Plover sorted and counted. The 60 is nowhere to be found.")
    year.put_on(347, 8.5, _PINS)
    year.checked(347, 9, _PINS, "100.012", "R")
    year.done(347, 15, _PINS, free, "R", "Sluice pins for the spring flood.", nut | {"pieces": 6})
    year.put_on(331, 10, _UNION)
    year.checked(331, 10.5, _UNION, "48.857", "T")
    year.done(331, 13, _UNION, free, "T", "", gauge)
    year.put_on(318, 9, _STEM)
    year.checked(318, 9.5, _STEM, "13.19", "W")
    year.done(318, 11, _STEM, free, "W", "Gauge stem for the upper weir.", nut)
    year.put_on(296, 9, _WHEEL_37)
    year.checked(296, 9.5, _WHEEL_37, "37", "R")
    year.done(296, 16, _WHEEL_37, free, "R", "Winch. Feed slowed for the last pass.", mate | {"pieces": 2})
    year.put_on(276, 8.5, _PINS)
    year.checked(276, 9, _PINS, "100.021", "T")
    year.done(276, 12, _PINS, tight, "T", "Tool a little blunt.", nut | {"pieces": 2})
    year.put_on(254, 13, _STUD)
    year.checked(254, 13.5, _STUD, "74.981", "W")
    year.done(254, 15, _STUD, free, "W", "", nut | {"pieces": 4})
    year.put_on(240, 9, _MATE)
    year.checked(240, 9.5, _MATE, "79.5", "R")
    year.done(240, 16, _MATE, free, "R", "Tide clock, the wheel.", {})
    year.put_on(238, 9, _CLOCK)
    year.checked(238, 9.5, _CLOCK, "119.5", "R")
    year.done(238, 17, _CLOCK, free, "R", "Tide clock, the pinion. Pair runs quietly.", mate)
    year.put_on(221, 10, _PIPE)
    year.checked(221, 10.5, _PIPE, "25.42", "T")
    year.done(221, 12, _PIPE, free, "T", "Pipe for the eel ladder.", gauge | {"pieces": 3})
    year.put_on(219, 9, _BOLT)
    year.checked(219, 9.5, _BOLT, "31.72", "W")
    year.done(219, 12, _BOLT, free, "W", "", nut | {"pieces": 4})
    year.put_on(203, 9, _PINS)
    year.checked(203, 9.5, _PINS, "100.017", "W")
    year.done(203, 15, _PINS, free, "W", "", nut | {"pieces": 4})
    # The wheels of the day before were still on.
    year.checked(188, 9, replace(_STUD, train=_PINS.train), "100.02", "T")
    year.note(188, 9.25, "T", "M10x1.5: the wheels of the pins were still on. Found by the scratch, put right.")
    year.put_on(188, 9.5, _STUD)
    year.checked(188, 10, _STUD, "74.979", "T")
    year.done(188, 12, _STUD, free, "T", "", nut | {"pieces": 2})
    year.put_on(171, 9, _WHEEL_71)
    year.checked(171, 9.5, _WHEEL_71, "71", "R")
    year.done(171, 15, _WHEEL_71, free, "R", "Made for Avocet itself.", {})
    year.put_on(160, 14, _BORING)
    year.checked(160, 14.5, _BORING, "10", "W")
    year.done(160, 16, _BORING, free, "W", "Bearing of the tide clock, boring tool 3 mm.", {})
    year.put_on(149, 9, _PINS)
    year.checked(149, 9.5, _PINS, "100.014", "R")
    wrong = year.done(149, 12, _PINS, scrapped, "R", "", nut | {"pieces": 3})
    year.corrected(149, 12.5, wrong, "R", "It was one of the three; the other two ran free.")
    year.done(149, 12.75, _PINS, free, "R", "A third was scrapped: tool caught.", nut | {"pieces": 2})
    year.put_on(126, 9, _UNION)
    year.checked(126, 9.5, _UNION, "48.855", "T")
    year.done(126, 11, _UNION, free, "T", "", gauge | {"pieces": 2})
    year.put_on(104, 9, _STEM)
    year.checked(104, 9.25, _STEM, "13.22", "W")
    year.done(104, 10, _STEM, tight, "W", "Die run over it afterwards.", nut)
    year.bared(103, 16, "curlew")
    year.put_on(96, 9, _WORM)
    year.checked(96, 9.5, _WORM, "47.15", "R")
    year.done(96, 16, _WORM, free, "R", "Worm of the winch remade.", mate)
    year.put_on(88, 9, _WHEEL_107)
    year.checked(88, 10, _WHEEL_107, "107", "R")
    year.done(88, 17, _WHEEL_107, free, "R", "Differential checked twice.", {})
    year.put_on(73, 8.5, _PINS)
    year.checked(73, 9, _PINS, "100.019", "T")
    year.checked(73, 11, _PINS, "100.016", "T")
    year.done(73, 14, _PINS, free, "T", "Before the autumn flood.", nut | {"pieces": 8})
    year.put_on(52, 9, _STUD)
    year.checked(52, 9.5, _STUD, "74.983", "W")
    year.done(52, 10.5, _STUD, free, "W", "", nut)
    year.note(41, 16, "W", "Belt of Heron slips when it is cold. Tightened.")
    year.put_on(26, 9, _PINS)
    year.checked(26, 9.5, _PINS, "100.013", "R")
    year.done(26, 12, _PINS, free, "R", "Spacer on the stud, or the 32 rubs the cover.", nut | {"pieces": 2})
    year.put_on(12, 9, _WHEEL_37)
    year.checked(12, 9.5, _WHEEL_37, "37", "R")
    year.done(12, 15, _WHEEL_37, free, "R", "", mate)
    year.put_on(6, 10, _UNION)
    year.checked(6, 10.5, _UNION, "48.855", "T")
    year.done(6, 12, _UNION, free, "T", "", gauge)
