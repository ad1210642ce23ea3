"""Devices of a shop over the wire: who is in, the code to let one in, who one is oneself."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from nudge.contract.request import Name
from nudge.contract.strict import Strict
from nudge.presenters.links import QrOut, own_address, qr_of
from nudge.services.devices import ROLES, PairingCode
from nudge.services.rows import PairedDevice

Short = Annotated[str, Field(strict=True, max_length=100)]


class RoleOut(BaseModel):
    key: str
    label: str
    reason: str


class MeOut(BaseModel):
    """Who asks: the machine itself, or a device by its name and role."""

    kind: Literal["machine", "device"]
    name: str
    role: str
    """"" for the machine itself, which may do everything."""


class DeviceOut(BaseModel):
    id: str
    name: str
    role: str
    paired_at: datetime
    seen_at: datetime


class DevicesOut(BaseModel):
    """Every device that may come in, and what one may be let in as."""

    devices: list[DeviceOut]
    roles: list[RoleOut]
    is_reachable: bool
    """Whether other machines reach this Nudge at all."""


class NewCodeIn(Strict):
    role: Name = "technician"


class CodeOut(BaseModel):
    """A code to pair one device with. `address` is where it is typed; "" where none reaches."""

    code: str
    role: str
    ends_at: datetime
    address: str
    qr: QrOut | None


class ClaimIn(Strict):
    """A device asks to be let in."""

    code: Short
    name: Short


def devices_out(rows: list[PairedDevice], is_reachable: bool) -> DevicesOut:
    return DevicesOut(
        devices=[
            DeviceOut(
                id=row.id,
                name=row.name,
                role=row.role,
                paired_at=row.paired_at,
                seen_at=row.seen_at,
            )
            for row in rows
        ],
        roles=[RoleOut(key=r.key, label=r.label, reason=r.reason) for r in ROLES.values()],
        is_reachable=is_reachable,
    )


def code_out(made: PairingCode, port: int, scheme: str, is_reachable: bool) -> CodeOut:
    """A code, and where a device types it: the QR opens that page with the code in it."""
    name = own_address() if is_reachable else ""
    shown = f"[{name}]" if ":" in name else name
    address = f"{scheme}://{shown}:{port}/pair" if name else ""
    return CodeOut(
        code=f"{made.text[:4]} {made.text[4:]}",
        role=made.role,
        ends_at=made.ends_at,
        address=address,
        qr=qr_of(f"{address}#{made.text}") if address else None,
    )
