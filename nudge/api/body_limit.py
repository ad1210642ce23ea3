"""Requests over a size are refused before they are read into memory."""

import asyncio

from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

MOST_BYTES = 1_000_000
PART_S = 20.0
"""How long the next part of a body may take."""
SLOW = (
    f"The rest of it did not come within {PART_S:.0f} seconds. Nothing was written. Send it again."
)
PICTURE_BYTES, BUNDLE_BYTES = 25_000_000, 25_000_000


class BodyLimit:
    """ASGI middleware: answers 413 to a body over `MOST_BYTES`, declared or counted."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] in ("GET", "HEAD") or _streamed(scope):
            await self._app(scope, receive, send)
            return
        most = _most(scope["path"])
        declared = dict(scope["headers"]).get(b"content-length", b"0")
        if declared.isdigit() and int(declared) > most:
            await _refuse(scope, receive, send, most)
            return
        seen, is_whole = 0, False

        async def counted() -> Message:
            nonlocal seen, is_whole
            try:
                message = await asyncio.wait_for(receive(), None if is_whole else PART_S)
            except TimeoutError as slow:
                raise _TooSlow from slow
            is_whole = not message.get("more_body", False)
            seen += len(message.get("body", b""))
            if seen > most:
                raise _TooLarge
            return message

        try:
            await self._app(scope, counted, send)
        except _TooLarge:
            await _refuse(scope, receive, send, most)
        except _TooSlow:
            answer = {"errors": [{"what": "request", "message": SLOW, "nearest": []}]}
            await JSONResponse(answer, status_code=408)(scope, receive, send)


def _streamed(scope: Scope) -> bool:
    """A file on its way in is written to disk as it comes; its route has its own limit."""
    path = scope["path"]
    is_file = "/imports/" in path or "/zones/logs/" in path or path == "/api/workshop/all"
    return scope["method"] == "PUT" and is_file


class _TooLarge(Exception):
    pass


class _TooSlow(Exception):
    pass


def _most(path: str) -> int:
    """What one request may bring: a picture and a bundle are larger than anything typed."""
    if "/photos/" in path:
        return PICTURE_BYTES
    return BUNDLE_BYTES if path.endswith(("/bundles", "/bundles/looks")) else MOST_BYTES


async def _refuse(scope: Scope, receive: Receive, send: Send, most: int) -> None:
    message = f"That is over {most:,} bytes, the most Nudge takes at once. Send it in parts."
    answer = {"errors": [{"what": "request", "message": message, "nearest": []}]}
    await JSONResponse(answer, status_code=413)(scope, receive, send)
