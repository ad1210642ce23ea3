"""Who may come in: pairing, the list, letting go; and who one is."""

from fastapi import APIRouter, Request, Response

from nudge.api.access import WorkshopIn
from nudge.api.gate import COOKIE, paired_of
from nudge.presenters.devices import (
    ClaimIn,
    CodeOut,
    DevicesOut,
    MeOut,
    NewCodeIn,
    code_out,
    devices_out,
)

router = APIRouter(prefix="/api")
YEAR_S = 365 * 86_400


@router.get("/me")
def me(request: Request) -> MeOut:
    """Who asks."""
    device = paired_of(request.scope)
    if device is None:
        return MeOut(kind="machine", name="", role="")
    return MeOut(kind="device", name=device.name, role=device.role)


@router.post("/pairing/claims", status_code=201)
def claim(workshop: WorkshopIn, request: Request, response: Response, body: ClaimIn) -> MeOut:
    """Pair this device: the code that is shown on the machine, and a name for it."""
    address = request.client.host if request.client else ""
    token = workshop.devices.pair(body.code, body.name, address)
    response.set_cookie(
        COOKIE,
        token,
        max_age=YEAR_S,
        httponly=True,
        samesite="strict",
        secure=request.url.scheme == "https",
    )
    found = workshop.devices.known(token)
    assert found is not None  # it was let in just now
    return MeOut(kind="device", name=found.name, role=found.role)


@router.get("/devices")
def devices(workshop: WorkshopIn, request: Request) -> DevicesOut:
    """Every device that may come in. The machine itself asks this, no device."""
    return devices_out(workshop.devices.all(), _is_reachable(request))


@router.post("/pairing/codes", status_code=201)
def new_code(workshop: WorkshopIn, request: Request, body: NewCodeIn) -> CodeOut:
    """A code that lets one device in, within ten minutes."""
    made = workshop.devices.new_code(body.role)
    url = request.url
    port = url.port or (443 if url.scheme == "https" else 80)
    return code_out(made, port, url.scheme, _is_reachable(request))


@router.delete("/devices/{device_id}")
def let_go(workshop: WorkshopIn, request: Request, device_id: str) -> DevicesOut:
    """A device is out at once. What it wrote keeps its name."""
    workshop.devices.let_go(device_id)
    return devices(workshop, request)


def _is_reachable(request: Request) -> bool:
    return bool(getattr(request.app.state, "listens_beyond", False))
