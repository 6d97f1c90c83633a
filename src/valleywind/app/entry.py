"""Who may come in: a passphrase for the network, guests that are signed in with it or by an invitation, and what slows
down whoever guesses.

What is asked often is held in memory; the file is told of what changes. One program at a time serves a file.
"""

import ipaddress
import secrets
import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from hashlib import sha256
from threading import Lock

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from itsdangerous import BadSignature, Signer

from valleywind.core.refusal import Refusal
from valleywind.shop import entry as kept
from valleywind.shop.models import GuestRow
from valleywind.shop.store import Store

SHORTEST, LONGEST = 8, 200
"""Characters of a passphrase."""
STAYS_S = 30 * 24 * 3600
"""A guest stays signed in for so long, s."""
INVITED_S = 600
"""An invitation serves once, and for so long, s."""
MOST_GUESTS = 200
_MOST_INVITED = 20
# Wrong tries that cost nothing; each one more doubles the wait, from the first to the longest, s.
_FREE_TRIES, _FIRST_WAIT, _LONGEST_WAIT = 5, 2.0, 900.0
_MOST_ADDRESSES = 2000
# Bits of an IPv6 address that are the same for a whole household.
_HOUSEHOLD = 64
_LONGEST_NAME = 60


@dataclass(frozen=True)
class Guest:
    """A browser that is signed in. key: names it, and lets nobody in; begun: seconds since 1970."""

    key: str
    name: str
    looks_only: bool
    begun: float


@dataclass
class _Tries:
    """Wrong tries of one address, and until when it waits (clock's seconds)."""

    wrong: int = 0
    until: float = 0.0


@dataclass
class Entry:
    """The door of one shop. clock: seconds since 1970, told for tests."""

    store: Store
    clock: Callable[[], float] = time.time
    _hasher: PasswordHasher = field(default_factory=PasswordHasher)
    _guests: dict[str, Guest] = field(default_factory=dict)
    _hash: str | None = None
    _signer: Signer | None = None
    _invited: dict[str, tuple[float, bool]] = field(default_factory=dict)
    _tries: OrderedDict[str, _Tries] = field(default_factory=OrderedDict)
    # One guess at a time is worked out: each takes tens of megabytes.
    _guessing: Lock = field(default_factory=Lock)

    def __post_init__(self) -> None:
        with self.store.reading() as session:
            row = kept.passphrase(session)
            self._take_in(row.hash if row else None, row.secret if row else b"")
            self._guests = {g.key: Guest(g.key, g.name, g.looks_only, float(g.begun_s)) for g in kept.guests(session)}

    def _take_in(self, hashed: str | None, secret: bytes) -> None:
        self._hash = hashed
        self._signer = Signer(secret, salt="valleywind guest", digest_method=sha256) if hashed else None

    @property
    def has_passphrase(self) -> bool:
        return self._hash is not None

    @property
    def cookie(self) -> str:
        """What the cookie of this shop is called: a browser may know several at one address."""
        return f"valleywind-{sha256((self._hash or '').encode()).hexdigest()[:8]}"

    @property
    def guests(self) -> list[Guest]:
        """Whoever is signed in, the newest first."""
        return sorted((g for g in self._guests.values() if self._stays(g)), key=lambda g: -g.begun)

    def set_passphrase(self, passphrase: str) -> None:
        """Set or replace the passphrase. Whoever was signed in has to sign in again.

        Raises Refusal `passphrase_too_short`, `passphrase_too_long`."""
        check_passphrase(passphrase)
        hashed, secret = self._hasher.hash(passphrase), secrets.token_bytes(32)
        with self.store.adding() as session:
            kept.set_passphrase(session, hashed, secret)
        self._take_in(hashed, secret)
        self._guests.clear()
        self._invited.clear()

    def remove_passphrase(self) -> None:
        """Take the passphrase back, and with it whoever is signed in."""
        with self.store.adding() as session:
            kept.remove_passphrase(session)
        self._take_in(None, b"")
        self._guests.clear()
        self._invited.clear()

    def is_right(self, passphrase: str, address: str) -> bool:
        """Whether this is the passphrase; a wrong one counts against the address.

        Raises Refusal `wait_before_next_try` for an address that guessed wrong too often."""
        with self._guessing:
            self._refuse_one_who_waits(address)
            right = self._hash is not None and self._verified(passphrase)
            self._count(address, right)
        return right

    def sign_in(self, passphrase: str, address: str, name: str) -> str | None:
        """The cookie of a new guest; None where the passphrase is wrong. Raises Refusal `wait_before_next_try`."""
        return self._add(name, looks_only=False) if self.is_right(passphrase, address) else None

    def invite(self, looks_only: bool) -> str:
        """The code of an invitation, which signs one browser in, once, within ten minutes."""
        now = self.clock()
        self._invited = {code: known for code, known in self._invited.items() if known[0] > now}
        while len(self._invited) >= _MOST_INVITED:
            self._invited.pop(next(iter(self._invited)))
        code = secrets.token_urlsafe(16)
        self._invited[code] = now + INVITED_S, looks_only
        return code

    def take_up(self, code: str, address: str, name: str) -> str | None:
        """The cookie of a new guest; None for an invitation that is used, out of date or none.

        Raises Refusal `wait_before_next_try`."""
        with self._guessing:
            self._refuse_one_who_waits(address)
            until, looks_only = self._invited.pop(code, (0.0, True))
            good = until > self.clock()
            self._count(address, good)
        return self._add(name, looks_only) if good else None

    def guest(self, cookie: str) -> Guest | None:
        """Whose cookie this is; None for one that is forged, ended or out of date."""
        if self._signer is None or not cookie.isascii():
            return None
        try:
            held = self._signer.unsign(cookie)
        except BadSignature:
            return None
        guest = self._guests.get(_key(held.decode()))
        return guest if guest is not None and self._stays(guest) else None

    def end(self, keys: list[str]) -> None:
        """Sign these out. Keys of nobody are left alone."""
        with self.store.adding() as session:
            kept.end_guests(session, keys)
        for key in keys:
            self._guests.pop(key, None)

    def _add(self, name: str, looks_only: bool) -> str:
        assert self._signer is not None
        self._end_old_ones()
        held = secrets.token_urlsafe(24)
        shown = " ".join("".join(c if c.isprintable() else " " for c in name).split())[:_LONGEST_NAME]
        guest = Guest(_key(held), shown or "a browser", looks_only, self.clock())
        with self.store.adding() as session:
            row = GuestRow(key=guest.key, name=guest.name, looks_only=looks_only, begun_s=int(guest.begun))
            kept.add_guest(session, row)
        self._guests[guest.key] = guest
        return self._signer.sign(held).decode()

    def _end_old_ones(self) -> None:
        old = [key for key, guest in self._guests.items() if not self._stays(guest)]
        staying = [guest.key for guest in self.guests]
        if gone := old + staying[MOST_GUESTS - 1 :]:
            self.end(gone)

    def _stays(self, guest: Guest) -> bool:
        return self.clock() - guest.begun < STAYS_S

    def _verified(self, passphrase: str) -> bool:
        assert self._hash is not None
        try:
            return self._hasher.verify(self._hash, passphrase[:LONGEST])
        except VerificationError:
            return False

    def _refuse_one_who_waits(self, address: str) -> None:
        tries = self._tries.get(_household(address))
        if tries is not None and (left := tries.until - self.clock()) > 0:
            raise Refusal("wait_before_next_try", "passphrase", None, seconds=int(left) + 1)

    def _count(self, address: str, right: bool) -> None:
        household = _household(address)
        if right:
            self._tries.pop(household, None)
            return
        tries = self._tries.setdefault(household, _Tries())
        self._tries.move_to_end(household)
        while len(self._tries) > _MOST_ADDRESSES:
            self._tries.popitem(last=False)
        tries.wrong += 1
        if (over := tries.wrong - _FREE_TRIES) >= 0:
            tries.until = self.clock() + min(_LONGEST_WAIT, _FIRST_WAIT * 2.0 ** min(over, 20))


def check_passphrase(passphrase: str) -> None:
    """Raises Refusal `passphrase_too_short`, `passphrase_too_long`."""
    if len(passphrase.strip()) < SHORTEST:
        raise Refusal("passphrase_too_short", "passphrase", None, least=SHORTEST)
    if len(passphrase) > LONGEST:
        raise Refusal("passphrase_too_long", "passphrase", None, most=LONGEST)


def _key(held: str) -> str:
    """What names a guest in the file: of the cookie it tells nothing."""
    return sha256(held.encode()).hexdigest()


def _household(address: str) -> str:
    """Addresses that one person has at hand count as one."""
    try:
        ip = ipaddress.ip_address(address)
    except ValueError:
        return address[:64]
    if ip.version == 4:
        return str(ip)
    if ip.ipv4_mapped:
        return str(ip.ipv4_mapped)
    return str(ipaddress.ip_network((ip, _HOUSEHOLD), strict=False))
