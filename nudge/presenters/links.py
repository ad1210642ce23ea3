"""A link into a visit, as somebody else can open it: an address that reaches, and its QR code."""

import socket
from collections.abc import Sequence

import segno
from pydantic import BaseModel

from nudge.presenters.notes import LinkOut
from nudge.services.guests import NewLink

LOOPBACK = frozenset({"localhost", "127.0.0.1", "::1", ""})
ELSEWHERE = ("192.0.2.1", 9)
"""An address nobody has (RFC 5737): asking the way to it sends nothing."""
QUIET = 2
"""The light border a QR code needs [modules]."""


class QrOut(BaseModel):
    """A QR code as squares: an SVG path in modules, on a field `size` wide and high."""

    size: int
    path: str


class NewLinkOut(LinkOut):
    """`path` is where the link leads on this Nudge: the only time it is told.

    `address` is the whole link as another device reaches it; "" where none can, and `warning`
    says why and what to do.
    """

    path: str
    address: str
    qr: QrOut | None
    warning: str


def new_link_out(
    made: NewLink, host: str, port: int, scheme: str, is_reachable: bool
) -> NewLinkOut:
    """A fresh link. `host` and `port` as the page was reached; `is_reachable` from elsewhere."""
    path = f"/look/{made.token}"
    name = host.casefold() if host.casefold() not in LOOPBACK else own_address()
    address, warning = "", ""
    if not is_reachable:
        warning = (
            "Nudge listens on this machine alone, so nobody else can open the link yet. Start it "
            "with HOST=0.0.0.0 to let devices on this network in."
        )
    elif not name:
        warning = "This machine is on no network now. Join one, then make a new link."
    else:
        shown = f"[{name}]" if ":" in name else name
        address = f"{scheme}://{shown}:{port}{path}"
    qr = qr_of(address) if address else None
    return NewLinkOut(
        id=made.id,
        expires_at=made.expires_at,
        path=path,
        address=address,
        qr=qr,
        warning=warning,
    )


def own_address() -> str:
    """This machine's address on its network; "" where it is on none. Nothing is sent."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(ELSEWHERE)
            found = str(probe.getsockname()[0])
        except OSError:
            return ""
    return "" if found in LOOPBACK or found.startswith(("127.", "0.")) else found


def qr_of(text: str) -> QrOut:
    """A text as a QR code, of the level that survives a thumb (M)."""
    rows: Sequence[Sequence[int]] = [list(row) for row in segno.make(text, error="m").matrix]
    squares = [
        f"M{x + QUIET} {y + QUIET}h1v1h-1z"
        for y, row in enumerate(rows)
        for x, dark in enumerate(row)
        if dark
    ]
    return QrOut(size=len(rows) + 2 * QUIET, path="".join(squares))
