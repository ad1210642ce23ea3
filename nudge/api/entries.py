"""A write's id and a digest of what it says, for the store to compare: the same is taken once.

Live readings are left out: they come many a second, and each batch is taken once by its own id.
"""

import json
from hashlib import sha256

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from nudge.services.sending import Sent, carries_out

LIVE = "/readings"
LONGEST_ID = 200
PICTURES = "/photos/"


class Entries:
    """ASGI middleware: reads the body of a write, notes its id and digest, and hands it on."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not _has_entry(scope):
            await self._app(scope, receive, send)
            return
        parts: list[bytes] = []
        more = True
        while more:
            message = await receive()
            if message["type"] != "http.request":
                return  # it went away while it was still sending
            parts.append(message.get("body", b""))
            more = message.get("more_body", False)
        body = b"".join(parts)
        handed_on = False

        async def again() -> Message:
            nonlocal handed_on
            if handed_on:
                return await receive()
            handed_on = True
            return {"type": "http.request", "body": body, "more_body": False}

        with carries_out(_entry(scope, body)):
            await self._app(scope, again, send)


def _has_entry(scope: Scope) -> bool:
    path, method = scope["path"], scope["method"]
    if not path.startswith("/api/") or path.endswith(LIVE):
        return False
    return (method == "POST" and _is_json(scope)) or (method == "PUT" and PICTURES in path)


def _is_json(scope: Scope) -> bool:
    kind = dict(scope["headers"]).get(b"content-type", b"")
    return bool(kind.split(b";")[0].strip().lower() == b"application/json")


def _entry(scope: Scope, body: bytes) -> Sent | None:
    """None for what has no id, or cannot be read: the route says so."""
    about = f"{scope['method']} {scope['path']}?{scope['query_string'].decode('latin-1')}".encode()
    if scope["method"] == "PUT":
        entry_id = scope["path"].rsplit("/", 1)[-1]
        return Sent(scope["path"], entry_id, sha256(about + b"\n" + body).hexdigest())
    try:
        said = json.loads(body)
    except ValueError:
        return None
    entry_id = said.get("id") if isinstance(said, dict) else None
    if not isinstance(entry_id, str) or not 0 < len(entry_id) <= LONGEST_ID:
        return None
    plain = json.dumps(said, sort_keys=True, ensure_ascii=False).encode("utf-8", "surrogatepass")
    return Sent(scope["path"], entry_id, sha256(about + b"\n" + plain).hexdigest())
