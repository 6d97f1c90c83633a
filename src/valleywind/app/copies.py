"""Copies of the shop: one of each day on which something changed, some by hand; the older ones are thinned out."""

import re
from collections.abc import Callable, Collection
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from filecmp import cmp
from pathlib import Path
from threading import Lock

from valleywind.core.refusal import Refusal
from valleywind.shop import copies as files
from valleywind.shop.copies import Holds
from valleywind.shop.file_trouble import ShopFileError, Trouble
from valleywind.shop.store import Store

FOLDER = "copies"
"""Beside the shop's file, where no other is named."""

# The newest copy is kept of this many days, weeks and months that have one.
_DAYS, _WEEKS, _MONTHS = 7, 4, 12
_NAME = re.compile(r"(?P<stem>.+)-(?P<day>\d{4}-\d\d-\d\d)(?:-(?P<time>\d{6})(?P<why>-before-restore)?)?\.sqlite")


def _now() -> datetime:
    return datetime.now(UTC).astimezone()


@dataclass(frozen=True)
class Copy:
    """A copy in the folder. made: local time; daily: it was made by itself; before_restore: it was kept when another
    was put back."""

    path: Path
    made: datetime
    bytes: int
    daily: bool
    before_restore: bool

    @property
    def name(self) -> str:
        return self.path.name


def days_to_keep(days: Collection[date]) -> set[date]:
    """Which daily copies stay: of the last 7 days that have one, 4 weeks and 12 months the newest each."""
    newest = sorted(days, reverse=True)
    stay = set(newest[:_DAYS])
    for most, part in ((_WEEKS, lambda d: d.isocalendar()[:2]), (_MONTHS, lambda d: (d.year, d.month))):
        firsts: dict[tuple[int, ...], date] = {}
        for day in newest:
            firsts.setdefault(part(day), day)
        stay |= set(list(firsts.values())[:most])
    return stay


def copies_in(shop: Path, folder: Path) -> list[Copy]:
    """The copies of this shop that lie there, the newest first."""
    copies = []
    for path in folder.glob("*.sqlite") if folder.is_dir() else ():
        match = _NAME.fullmatch(path.name)
        if match is None or match["stem"] != shop.stem:
            continue
        try:
            stands = path.stat()
            datetime.strptime(match["day"] + (match["time"] or "000000"), "%Y-%m-%d%H%M%S")  # noqa: DTZ007  local time
        except (OSError, ValueError):
            continue
        made = datetime.fromtimestamp(stands.st_mtime, UTC).astimezone()
        copies.append(Copy(path, made, stands.st_size, match["time"] is None, match["why"] is not None))
    return sorted(copies, key=lambda copy: (copy.made, copy.name), reverse=True)


def latest_good(shop: Path, folder: Path) -> Copy | None:
    """The newest copy that can be put back."""
    return next((copy for copy in copies_in(shop, folder) if files.is_good(copy.path)), None)


def aside(shop: Path, folder: Path, now: datetime) -> Path:
    """Where what was there is kept when a copy is put back."""
    return folder / f"{shop.stem}-{now:%Y-%m-%d-%H%M%S}-before-restore.sqlite"


@dataclass
class Copies:
    """The copies of an open shop. clock: local time, told for tests."""

    store: Store
    folder: Path
    clock: Callable[[], datetime] = _now
    _making: Lock = field(default_factory=Lock)
    # The last change that a copy is known to hold, s since 1970: what comes while a copy is made is not missed.
    _seen: float = 0.0

    @property
    def every(self) -> list[Copy]:
        return copies_in(self.store.path, self.folder)

    def copy(self, name: str) -> Copy:
        """Raises Refusal `no_such_copy`."""
        for copy in self.every:
            if copy.name == name:
                return copy
        raise Refusal("no_such_copy", "name", name)

    def make(self) -> Copy:
        """A copy by hand. Raises ShopFileError; then the older ones are as they were."""
        with self._making:
            path = self.folder / f"{self.store.path.stem}-{self.clock():%Y-%m-%d-%H%M%S}.sqlite"
            files.copy_to(self.store.path, path)
        return self.copy(path.name)

    def make_daily(self) -> Copy | None:
        """The copy of today, made or made anew where something changed since the newest one; None where nothing did.
        Those that are not wanted any more go. Raises ShopFileError; then the older ones are as they were."""
        with self._making:
            newest = next(iter(self.every), None)
            changed = self._changed()
            if newest is not None and changed <= (self._seen or newest.made.timestamp()):
                return None
            path = self.folder / f"{self.store.path.stem}-{self.clock():%Y-%m-%d}.sqlite"
            trying = path.with_name(f"{path.name}.trying")
            files.copy_to(self.store.path, trying)
            if newest is not None and cmp(trying, newest.path, shallow=False):
                trying.unlink()
                self._seen = changed
                return None
            trying.replace(path)
            self._seen = changed
            self._thin_out()
        return self.copy(path.name)

    def holds(self, name: str) -> Holds:
        """What a copy holds. Raises Refusal `no_such_copy`; ShopFileError where it cannot be used."""
        return files.holds(self.copy(name).path)

    def put_back(self, name: str) -> Copy:
        """Put a copy in the place of the shop; the copy of what was there. Raises as `holds` does."""
        copy, kept_at = self.copy(name), aside(self.store.path, self.folder, self.clock())
        files.take_over(self.store, copy.path, kept_at)
        return self.copy(kept_at.name)

    def _changed(self) -> float:
        """When the file was last written, seconds since 1970."""
        path = self.store.path
        parts = (path, path.with_name(f"{path.name}-wal"))
        try:
            return max(part.stat().st_mtime for part in parts if part.exists())
        except (OSError, ValueError) as error:
            raise ShopFileError(Trouble.GONE, path) from error

    def _thin_out(self) -> None:
        daily = {date.fromisoformat(copy.name[-17:-7]): copy for copy in self.every if copy.daily}
        for day in set(daily) - days_to_keep(daily):
            daily[day].path.unlink(missing_ok=True)
