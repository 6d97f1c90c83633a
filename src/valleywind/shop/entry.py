"""Who may come in, as it is kept in the file: the passphrase, the browsers that are signed in, the keys of devices."""

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from valleywind.shop.models import DeviceKeyRow, GuestRow, PassphraseRow


def passphrase(session: Session) -> PassphraseRow | None:
    """The passphrase with its secret; None where none is set."""
    return session.get(PassphraseRow, 1)


def set_passphrase(session: Session, kept: str, secret: bytes) -> None:
    """Set or replace the passphrase; kept: as argon2 keeps it. Whoever was signed in is so no more."""
    remove_passphrase(session)
    session.add(PassphraseRow(hash=kept, secret=secret))


def remove_passphrase(session: Session) -> None:
    """Take the passphrase back, and with it whoever is signed in."""
    session.execute(delete(PassphraseRow))
    session.execute(delete(GuestRow))


def guests(session: Session) -> list[GuestRow]:
    """Whoever is signed in, the newest first."""
    return list(session.scalars(select(GuestRow).order_by(GuestRow.begun_s.desc(), GuestRow.key)))


def add_guest(session: Session, guest: GuestRow) -> None:
    session.add(guest)


def end_guests(session: Session, keys: list[str]) -> None:
    """Sign these out."""
    session.execute(delete(GuestRow).where(GuestRow.key.in_(keys)))


def device_keys(session: Session) -> list[DeviceKeyRow]:
    """The keys of devices, in the order that they were made."""
    return list(session.scalars(select(DeviceKeyRow).order_by(DeviceKeyRow.id)))


def add_device_key(session: Session, key: DeviceKeyRow) -> None:
    """Add it; it has its number then."""
    session.add(key)
    session.flush()


def end_device_key(session: Session, number: int) -> None:
    session.execute(delete(DeviceKeyRow).where(DeviceKeyRow.id == number))
