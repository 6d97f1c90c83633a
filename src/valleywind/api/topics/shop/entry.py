"""Who may come in from the network: the passphrase, invitations of other devices, whoever is signed in."""

from datetime import UTC, datetime
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Query, Request
from pydantic import BaseModel, Field

from valleywind.api.doors import SIGN_IN, address_of, guest_of
from valleywind.api.pages import address_for_others
from valleywind.api.problems import RESPONSES
from valleywind.app.entry import INVITED_S, LONGEST, Entry
from valleywind.core.refusal import Refusal
from valleywind.formats.qr import modules

router = APIRouter(prefix="/entry", tags=["entry"], responses=RESPONSES)


class GuestOut(BaseModel):
    """A browser that is signed in."""

    key: str = Field(description="Names it here, and lets nobody in")
    name: str
    looks_only: bool = Field(description="It may look, not change")
    begun: str = Field(description="When it signed in")
    here: bool = Field(description="It is the one that asks")


class EntryOut(BaseModel):
    asks: bool = Field(description="One has to sign in")
    has_passphrase: bool = Field(description="A passphrase is set")
    address: str = Field(description="Where other devices reach this server; empty where they do not")
    guests: list[GuestOut] = Field(description="Whoever is signed in, the newest first")


class PassphraseIn(BaseModel):
    current: str = Field("", max_length=LONGEST, description="The passphrase as it is; empty where none is set")
    passphrase: str = Field(max_length=4 * LONGEST, description="The new one; empty to take it back")


class InvitationIn(BaseModel):
    looks_only: bool = Field(description="Whoever comes in by it may look, not change")
    onward: str = Field("/", max_length=500, description="The page to go on to, as a path")


class CodeOut(BaseModel):
    """An address as a QR code."""

    address: str = Field(description="What the code says")
    modules: list[str] = Field(description="Line by line, 1 for a dark square; leave four squares free all round")


class InvitationOut(CodeOut):
    """An address that signs one browser in, once."""

    minutes: int = Field(description="For so long it can be used")


class GuestKeys(BaseModel):
    keys: list[str] = Field(max_length=500, description="Whom to sign out")


def _entry_out(request: Request) -> EntryOut:
    entry, here = _entry(request), guest_of(request)
    guests = [
        GuestOut(
            key=guest.key,
            name=guest.name,
            looks_only=guest.looks_only,
            begun=datetime.fromtimestamp(guest.begun, UTC).isoformat(timespec="seconds"),
            here=here is not None and here.key == guest.key,
        )
        for guest in entry.guests
    ]
    return EntryOut(
        asks=request.app.state.closed,
        has_passphrase=entry.has_passphrase,
        address=address_for_others(request),
        guests=guests,
    )


def _entry(request: Request) -> Entry:
    entry: Entry = request.app.state.entry
    return entry


@router.get("")
def get_entry(request: Request) -> EntryOut:
    """Whether one has to sign in, who is, and where other devices reach this server."""
    return _entry_out(request)


@router.put("/passphrase")
def put_passphrase(typed: PassphraseIn, request: Request) -> EntryOut:
    """Set, change or take back the passphrase. Everybody has to sign in again."""
    entry = _entry(request)
    if entry.has_passphrase and not entry.is_right(typed.current, address_of(request)):
        raise Refusal("wrong_passphrase", "current", None)
    if typed.passphrase:
        entry.set_passphrase(typed.passphrase)
    elif request.app.state.closed:
        raise Refusal("passphrase_needed", "passphrase", None)
    else:
        entry.remove_passphrase()
    return _entry_out(request)


@router.post("/invitations")
def invite(wanted: InvitationIn, request: Request) -> InvitationOut:
    """A code that signs one other device in, once, within ten minutes."""
    if not request.app.state.closed:
        raise Refusal("no_invitation_needed", "looks_only", None)
    code = _entry(request).invite(wanted.looks_only)
    address = f"{address_for_others(request)}{SIGN_IN}?code={code}&next={quote(wanted.onward, safe='')}"
    return InvitationOut(address=address, modules=modules(address), minutes=INVITED_S // 60)


@router.get("/code")
def get_code(
    request: Request,
    path: Annotated[str, Query(max_length=1500, pattern=r"^/([^/]|$)", description="The page, as a path")],
) -> CodeOut:
    """A page of this server as a QR code, for another device."""
    if not (base := address_for_others(request)):
        raise Refusal("not_on_the_network", "path", None)
    return CodeOut(address=base + path, modules=modules(base + path))


@router.post("/end")
def end_guests(gone: GuestKeys, request: Request) -> EntryOut:
    """Sign out other devices, or this one."""
    _end(request, gone.keys)
    return _entry_out(request)


@router.post("/sign-out")
def sign_out(request: Request) -> None:
    """Sign this device out."""
    if (guest := guest_of(request)) is not None:
        _end(request, [guest.key])


def _end(request: Request, keys: list[str]) -> None:
    _entry(request).end(keys)
    request.app.state.recording.events.tell(changed=None)  # streams look up, and those of the signed out end
