"""Keys by which devices are let in, where the shop asks who comes in. A key is shown once; the file keeps its hash."""

import secrets
import time
from dataclasses import dataclass
from hashlib import sha256

from valleywind.core.names import check_name
from valleywind.core.refusal import Refusal
from valleywind.shop import entry as kept
from valleywind.shop.models import DeviceKeyRow
from valleywind.shop.store import Store

MOST_KEYS = 50
LONGEST_KEY_NAME = 40


@dataclass(frozen=True)
class DeviceKey:
    """A key that is known. made: seconds since 1970."""

    number: int
    name: str
    made: float


class DeviceKeys:
    """The keys of one shop's devices. They are held in memory: one program at a time serves a file."""

    def __init__(self, store: Store) -> None:
        self.store = store
        with store.reading() as session:
            self._known = {row.hash: _key(row) for row in kept.device_keys(session)}
        # One for each stand-in that a page plays: such a page is signed in itself.
        self._passes: set[str] = set()

    @property
    def keys(self) -> list[DeviceKey]:
        """In the order that they were made."""
        return sorted(self._known.values(), key=lambda key: key.number)

    def add(self, name: str) -> tuple[DeviceKey, str]:
        """A new key, and what the device has to say. Raises Refusal `no_key_name`, `too_many_keys`, and as
        `check_name` does."""
        name = " ".join(name.split())
        if not name or len(name) > LONGEST_KEY_NAME:
            raise Refusal("no_key_name", "name", name, most=LONGEST_KEY_NAME)
        check_name(name, "name")
        if len(self._known) >= MOST_KEYS:
            raise Refusal("too_many_keys", "name", len(self._known), most=MOST_KEYS)
        secret = secrets.token_urlsafe(18)
        row = DeviceKeyRow(name=name, hash=_hashed(secret), made_s=int(time.time()))
        with self.store.adding() as session:
            kept.add_device_key(session, row)
            key = _key(row)
        self._known[_hashed(secret)] = key
        return key, secret

    def remove(self, number: int) -> None:
        """Take a key back. One that is not there is left alone."""
        with self.store.adding() as session:
            kept.end_device_key(session, number)
        self._known = {hashed: key for hashed, key in self._known.items() if key.number != number}

    def find(self, secret: object) -> DeviceKey | None:
        """Which key a device says; None for none that is known."""
        return self._known.get(_hashed(secret)) if isinstance(secret, str) else None

    def lend(self) -> str:
        """A pass for one stand-in: it serves once."""
        lent = secrets.token_urlsafe(18)
        self._passes.add(lent)
        return lent

    def take_back(self, lent: object) -> bool:
        """Whether this pass was lent; it is used then."""
        if not isinstance(lent, str) or lent not in self._passes:
            return False
        self._passes.remove(lent)
        return True


def _key(row: DeviceKeyRow) -> DeviceKey:
    return DeviceKey(row.id, row.name, float(row.made_s))


def _hashed(secret: str) -> str:
    return sha256(secret.encode(errors="replace")).hexdigest()
