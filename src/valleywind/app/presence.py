"""Which pages show a cutting session now: whoever comes second sees who is at it."""

import time
from collections.abc import Callable
from dataclasses import dataclass, field

from valleywind.app.events import Events

# A page says every 15 s that it is still there; one that was silent this long, s, is gone.
_GONE = 40.0
_MOST_PAGES = 200


@dataclass(frozen=True)
class Present:
    """A page that shows a session. who: names the device, and is never shown; since, heard: seconds since 1970."""

    session: int
    name: str
    who: str
    since: float
    heard: float


@dataclass
class Presence:
    """The pages that show sessions. clock: seconds since 1970, told for tests."""

    events: Events
    clock: Callable[[], float] = time.time
    _pages: dict[str, Present] = field(default_factory=dict)
    _left: dict[str, int] = field(default_factory=dict)

    def here(self, page: str, session: int, name: str, who: str, number: int = 0) -> list[Present]:
        """This page shows the session; the others that do, who came first first. number: the place of this among what
        the page says: what its leaving overtook is not heard."""
        if number < self._left.get(page, 0):
            return self._others(page, session)
        now = self.clock()
        self._pages = {key: one for key, one in self._pages.items() if now - one.heard < _GONE}
        before = self._pages.get(page)
        stays = before is not None and (before.session, before.who) == (session, who)
        if before is None and len(self._pages) >= _MOST_PAGES:
            return self._others(page, session)
        self._pages[page] = Present(session, name, who, before.since if before and stays else now, now)
        if not stays:
            self.events.tell(present=session)
        return self._others(page, session)

    def gone(self, page: str, who: str, number: int = 0) -> None:
        """This page of that device shows no session any more."""
        one = self._pages.get(page)
        if one is not None and one.who != who:
            return
        self._left[page] = max(number, self._left.pop(page, 0))
        while len(self._left) > _MOST_PAGES:
            self._left.pop(next(iter(self._left)))
        if one is not None:
            del self._pages[page]
            self.events.tell(present=one.session)

    def _others(self, page: str, session: int) -> list[Present]:
        others = [one for key, one in self._pages.items() if key != page and one.session == session]
        return sorted(others, key=lambda one: one.since)
