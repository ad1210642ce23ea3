"""Other machines on the network reach what a link shows, and nothing else.

Unless Nudge was told to be open (`NUDGE_OPEN=1`): then every machine may do everything.
"""

from ipaddress import ip_address

from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

OPEN_TO_GUESTS = ("/api/guest/", "/look/", "/assets/", "/mark.svg", "/api/vocabulary")


class GuestGate:
    """ASGI middleware: 403 to another machine's request for anything but a link's own pages."""

    def __init__(self, app: ASGIApp, is_open: bool) -> None:
        self._app, self._is_open = app, is_open

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or self._is_open or _is_home(scope):
            await self._app(scope, receive, send)
            return
        if scope["path"].startswith(OPEN_TO_GUESTS):
            await self._app(scope, receive, send)
            return
        message = (
            "From another machine only a link to a visit opens. Ask for one, or start Nudge "
            "with NUDGE_OPEN=1."
        )
        answer = {"errors": [{"what": "request", "message": message, "nearest": []}]}
        await JSONResponse(answer, status_code=403)(scope, receive, send)


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
