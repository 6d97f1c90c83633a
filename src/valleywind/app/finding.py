"""Whatever the shop has, found by a few words of what is said of it."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from sqlalchemy.orm import Session

from valleywind.app.job_choices import title
from valleywind.core import interrupt
from valleywind.shop import jobs, log, machines, rack, stores
from valleywind.shop.log import LogFilter
from valleywind.wording.log import sentence
from valleywind.wording.numbers import Units
from valleywind.wording.rack import finding as words
from valleywind.wording.rack.stores import piece_name
from valleywind.wording.sheet import NUMBER

MOST_OF_A_SORT = 6
"""How many things of one sort are shown at most."""


class Findable(StrEnum):
    """What was found."""

    MACHINE = "machine"
    JOB = "job"
    WHEEL = "wheel"
    CUTTER = "cutter"
    BAR = "bar"
    ENTRY = "entry"


@dataclass(frozen=True)
class SearchResult:
    """One thing of the shop. key: the slug of a machine, else the number of the record; kind: of a machine; name, text:
    what it is called, and what else is said of it."""

    sort: Findable
    key: str
    name: str
    text: str
    kind: str = ""


@dataclass(frozen=True)
class Finding:
    """The first of each sort; more: how many else there are."""

    things: tuple[SearchResult, ...]
    more: int


def find(session: Session, text: str) -> Finding:
    """What answers to every word of `text`, sort by sort; of each sort first what begins as the text does. Figures are
    whole ones: 4 is no 48. Nothing answers to no word."""
    sought = text.casefold().split()
    if not sought:
        return Finding((), 0)
    results: list[SearchResult] = []
    more = 0
    for every in _EVERY:
        some = [one for one in every(session) if _answers(one, sought)]
        some.sort(key=lambda one: not one.name.casefold().startswith(sought[0]))
        results += some[:MOST_OF_A_SORT]
        more += len(some[MOST_OF_A_SORT:])
    entries = _entries(session, text)[:MOST_OF_A_SORT]
    more += max(0, log.how_many(session, LogFilter(words=text)) - len(entries))
    results += entries
    return Finding(tuple(results), more)


_APART = str.maketrans(",:;–/", " " * 5)


def _answers(one: SearchResult, sought: list[str]) -> bool:
    text = f"{one.name} {one.text} {one.kind} {one.sort}".casefold()
    words = text.translate(_APART).split()
    return all(word in words if word.isdecimal() else word in text for word in sought)


def _machines(session: Session) -> Iterator[SearchResult]:
    for row in machines.every(session):
        yield SearchResult(
            Findable.MACHINE, row.slug, row.name, words.machine_text(row.kind, row.note, row.archived), row.kind
        )


def _jobs(session: Session) -> Iterator[SearchResult]:
    for row in jobs.jobs(session):
        yield SearchResult(Findable.JOB, str(row.id), title(row, session), words.job_text(bool(row.done)))


def _wheels(session: Session) -> Iterator[SearchResult]:
    families = {row.id: row.name for row in rack.families(session)}
    owners = {row.id: row.name for row in machines.every(session)}
    for wheel in rack.briefly(session):
        interrupt.checkpoint()
        family, owner = families.get(wheel.family_id or 0, ""), owners.get(wheel.machine_id or 0, "")
        text = words.wheel_text(family, owner, wheel.count, wheel.condition, wheel.material, wheel.place, wheel.note)
        yield SearchResult(Findable.WHEEL, str(wheel.id), str(wheel.teeth), text)


def _cutters(session: Session) -> Iterator[SearchResult]:
    for row in stores.cutters(session):
        yield SearchResult(
            Findable.CUTTER, str(row.id), words.cutter_name(stores.cutter(row)), words.joined(row.place, row.note)
        )


def _bars(session: Session) -> Iterator[SearchResult]:
    for row in stores.bars(session):
        name = piece_name(row.material, row.diameter_mm, row.length_mm, "")
        yield SearchResult(Findable.BAR, str(row.id), name, words.joined(row.place, row.note))


def _entries(session: Session, text: str) -> list[SearchResult]:
    """Entries of the log, the newest first: the one whose number is typed, or those in which the words stand. They are
    looked up in the log's own index."""
    number = re.fullmatch(r"(?:no\.?|#)?\s*(\d{1,9})", text.strip(), re.IGNORECASE)
    wanted = [LogFilter(entry=int(number[1]))] if number else []
    entries = [one for each in (*wanted, LogFilter(words=text)) for one in log.entries(session, each, MOST_OF_A_SORT)]
    once = {one.row.id: one.row for one in entries}
    return [
        SearchResult(
            Findable.ENTRY, str(row.id), NUMBER.format(number=row.id), f"{row.at[:10]}: {sentence(row, Units.MM)}"
        )
        for row in once.values()
    ]


_EVERY = (_machines, _jobs, _wheels, _cutters, _bars)
