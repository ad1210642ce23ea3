"""Who may do what from another machine: paired devices by their role, links by themselves.

The machine Nudge runs on may do everything. Another one reaches the screens (they hold no data),
what a link shows, and the way to pair; all else wants the cookie of a device that was let in.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from http.cookies import CookieError, SimpleCookie
from ipaddress import ip_address

from starlette.concurrency import run_in_threadpool
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from nudge.services.devices import Devices, Paired
from nudge.services.sending import writes_as

COOKIE = "nudge_device"
_SEEN = "nudge_paired"
READS = frozenset({"GET", "HEAD", "OPTIONS"})
GUEST = "a guest"
"""What is written through a link is written by."""


@dataclass(frozen=True, slots=True)
class PathRule:
    """A path from its start, the methods, and who may (besides the machine itself)."""

    path: str
    methods: frozenset[str]
    roles: frozenset[str]
    reason: str

    def fits(self, method: str, path: str) -> bool:
        return method in self.methods and re.match(self.path, path) is not None


_ANY = frozenset({"GET", "HEAD", "OPTIONS", "POST", "PUT", "PATCH", "DELETE"})
_POST = frozenset({"POST"})
EVERYBODY, NOBODY = frozenset({""}), frozenset[str]()
TECHNICIAN, BOTH = frozenset({"technician"}), frozenset({"technician", "office"})
RULES: tuple[PathRule, ...] = (
    PathRule(r"/(?!api/|openapi)", READS, EVERYBODY, "Screens hold no data."),
    PathRule(r"/api/guest/", _ANY, EVERYBODY, "A link is its own key."),
    PathRule(r"/api/vocabulary$", READS, EVERYBODY, "Words; a guest's page needs them."),
    PathRule(r"/api/pairing/claims$", _POST, EVERYBODY, "The way in."),
    PathRule(r"/api/pairing/", _ANY, NOBODY, "Only the machine itself makes codes."),
    PathRule(r"/api/devices", _ANY, NOBODY, "Only the machine itself lets devices in and out."),
    PathRule(
        r"/api/workshop/all$", frozenset({"PUT"}), NOBODY, "Everything is replaced there alone."
    ),
    PathRule(r"/api/workshop/all$", READS, TECHNICIAN, "Everything in one file is not for a desk."),
    PathRule(r"/", READS, BOTH, "Both read."),
    PathRule(r"/api/visits/[^/]+/notes$", _POST, BOTH, "The office leaves notes."),
    PathRule(
        r"/api/(assess|callout|pocket|charge/advise)",
        _POST,
        BOTH,
        "It computes, and writes nothing.",
    ),
    PathRule(r"/", _ANY, TECHNICIAN, "A technician writes."),
)
"""The first that fits decides."""


class NetworkGate:
    """ASGI middleware: 401 to a device that is not paired, 403 to one whose role may not."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or _is_home(scope):
            await self._app(scope, receive, send)
            return
        rule = next(one for one in RULES if one.fits(scope["method"], scope["path"]))
        device = None
        if rule.roles != EVERYBODY:
            device = await self._device(scope)
            refused = _refused(rule, device)
            if refused is not None:
                status, message = refused
                answer = {"errors": [{"what": "device", "message": message, "nearest": []}]}
                await JSONResponse(answer, status_code=status)(scope, receive, send)
                return
        scope[_SEEN] = device
        is_stream = device is not None and scope["path"].endswith("/stream")
        with writes_as(device.name if device else GUEST):
            await self._app(scope, receive, self._while_let_in(scope, send) if is_stream else send)

    def _while_let_in(self, scope: Scope, send: Send) -> Send:
        """What a stream says reaches a device only while it is let in; then the stream ends."""
        has_ended = False

        async def said(message: Message) -> None:
            nonlocal has_ended
            if has_ended:
                raise OSError("The device was let go.")
            if message["type"] == "http.response.body" and await self._device(scope) is None:
                has_ended = True
                message = {"type": "http.response.body", "body": b"", "more_body": False}
            await send(message)

        return said

    async def _device(self, scope: Scope) -> Paired | None:
        token = _cookie(scope)
        if not token:
            return None
        devices: Devices = scope["app"].state.workshop.devices
        return await run_in_threadpool(devices.known, token)


def paired_of(scope: Mapping[str, object]) -> Paired | None:
    """The device a request came from; None is the machine itself."""
    found = scope.get(_SEEN)
    return found if isinstance(found, Paired) else None


def _refused(rule: PathRule, device: Paired | None) -> tuple[int, str] | None:
    if device is None:
        return 401, (
            "This device is not let in, or not any more. On the machine Nudge runs on, open "
            "Workshop and pair it; or ask there for a link to the visit."
        )
    if device.role in rule.roles:
        return None
    if not rule.roles:
        return 403, f"Only on the machine Nudge runs on. {rule.reason}"
    return 403, (
        f"“{device.name}” is paired for the office: it reads and leaves notes. Pair it as a "
        "technician's to write."
    )


def _cookie(scope: Scope) -> str:
    text = b"; ".join(value for name, value in scope["headers"] if name == b"cookie")
    try:
        found = SimpleCookie(text.decode("latin-1"))
    except CookieError:
        return ""
    return found[COOKIE].value if COOKIE in found else ""


def _is_home(scope: Scope) -> bool:
    client = scope.get("client")
    if client is None:
        return True
    try:
        found = ip_address(client[0])
    except ValueError:
        return True  # a test's own client has a name for an address
    mapped = getattr(found, "ipv4_mapped", None)
    return bool((mapped or found).is_loopback)
