"""Who may knock: known host names only, and writes only from Nudge's own pages or a device.

A page of somebody else's site can make a browser send here. It cannot choose the Host of its own
name away, nor send JSON without asking, nor hide where it is from: each of these is refused.
"""

import socket
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from urllib.parse import urlsplit

from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
LOOPBACK = frozenset({"localhost", "127.0.0.1", "::1"})
OWN_SITES = frozenset({"same-origin", "none"})
"""What a browser says of a request from Nudge's own page, or typed by a person."""


@dataclass(frozen=True, slots=True)
class Upload:
    """A path that takes something else than JSON, and which types it takes."""

    part: str
    types: tuple[str, ...]


UPLOADS: tuple[Upload, ...] = (
    Upload("/photos", ("application/octet-stream", "image/")),
    Upload("/imports/", ("application/octet-stream", "text/csv")),
    Upload("/zones/logs/", ("application/octet-stream", "text/csv", "text/plain")),
    Upload("/workshop/all", ("application/octet-stream", "application/vnd.sqlite3")),
    Upload("/bundles", ("application/octet-stream", "application/zip")),
)


class Doors:
    """ASGI middleware: 421 for a host that is not this machine, 403 and 415 for foreign writes."""

    def __init__(self, app: ASGIApp, hosts: Sequence[str] = ()) -> None:
        self._app = app
        self._hosts = LOOPBACK | {name.casefold() for name in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        refused = self._refused(scope) if scope["type"] == "http" else None
        if refused is None:
            await self._app(scope, receive, send)
            return
        status, message = refused
        answer = {"errors": [{"what": "request", "message": message, "nearest": []}]}
        await JSONResponse(answer, status_code=status)(scope, receive, send)

    def _refused(self, scope: Scope) -> tuple[int, str] | None:
        headers = {k.decode("latin-1"): v.decode("latin-1") for k, v in scope["headers"]}
        host = headers.get("host", "")
        if not self._is_known(_name_of(host), scope):
            return 421, (
                f"Nudge does not answer to “{host[:80]}”. Open it by this machine's own name or "
                "address, or add the name to NUDGE_HOSTS."
            )
        if scope["method"] in SAFE:
            return None
        if not _is_own_page(headers, host):
            return 403, "Another site's page may not write into Nudge. Open Nudge itself."
        if not _may_carry(scope["path"], headers):
            kind = headers.get("content-type", "nothing")[:60]
            return 415, (
                f"Send JSON with Content-Type: application/json here, not {kind}. Pictures, logs "
                "and bundles may come as application/octet-stream."
            )
        return None

    def _is_known(self, name: str, scope: Scope) -> bool:
        server = scope.get("server")
        reached = server[0].casefold() if server else ""
        return name in self._hosts or name == reached or name in _own_names()


@cache
def _own_names() -> frozenset[str]:
    """What this machine calls itself."""
    name = socket.gethostname().casefold()
    return frozenset({name, name.split(".")[0], f"{name.split('.')[0]}.local"})


def _name_of(host: str) -> str:
    """The name in a Host header, without port and brackets."""
    try:
        return (urlsplit(f"//{host}").hostname or "").casefold()
    except ValueError:
        return ""


def _is_own_page(headers: Mapping[str, str], host: str) -> bool:
    """A device says neither; a browser says both, and they must be Nudge's own."""
    site, origin = headers.get("sec-fetch-site"), headers.get("origin")
    if site is not None and site not in OWN_SITES:
        return False
    return origin is None or urlsplit(origin).netloc.casefold() == host.casefold()


def _may_carry(path: str, headers: Mapping[str, str]) -> bool:
    """Whether a body of this type may come here: one that no form and no image tag can send."""
    kind = headers.get("content-type", "").split(";")[0].strip().casefold()
    is_empty = headers.get("content-length", "0") == "0" and "transfer-encoding" not in headers
    if (not kind and is_empty) or kind == "application/json":
        return True
    return any(upload.part in path and kind.startswith(upload.types) for upload in UPLOADS)
